package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"strconv"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"

	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/measure"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/place"
	"clearjar/core/rootphoto/tag"
	"clearjar/propagation/photo/intake"
)

// folds is into how many parts photos are put when what is learned is judged by photos it was not learned from.
const folds = 5

type measureFlags struct {
	vessel, nodes, colour, tips, ruler, edges, tagOf, focal string
	rotated, rotatedNodes, rotatedTips                      string
	water, waterLine, tagMM, least                          float64
	json                                                    bool
	truth, cross                                            string
	train                                                   []string
	into, tables                                            string
}

// learned are the tables that are measured by: those that come with the program, or others that were learned.
func (f measureFlags) learned() (*measure.Tables, error) {
	if f.tables == "" {
		return measure.Shipped()
	}
	return readTables(f.tables)
}

func measureCommand() *cobra.Command {
	var f measureFlags
	c := &cobra.Command{
		Use: "measure [PHOTO]", Short: "Measure the roots in a photo, and how well that is done", Args: cobra.MaximumNArgs(1),
		Long: `Reads the tags in a photo, proposes its roots with their lengths in mm, or follows them from taps on their tips.

  clearjar measure photo.jpg --vessel jar:83x120x2.5 --nodes '515,1097;480,870'
  clearjar measure photo.jpg --vessel board --nodes '570,790' --tips '700,1100;420,1250'
  clearjar measure --truth DIR [--json]             the figures of the measurement on photos with truth files
  clearjar measure --truth DIR --cross DIR,DIR,...  the same, each photo by tables learned without it
  clearjar measure --train DIR,DIR,... --into DIR   learns the tables anew

Places are pixels of the upright photo, x,y from its top left corner. Nodes are given from the base of the piece up and
counted from 0. Vessels: jar:OUTERxHEIGHTxWALL, cup:TOPxBOTTOMxHEIGHTxWALL, box:WIDTHxDEPTHxHEIGHTxWALL, board; sizes in mm,
diameters for jars and cups.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			switch {
			case len(f.train) > 0:
				return trainMeasuring(cmd, f)
			case f.truth != "":
				return judgeMeasuring(cmd, f)
			case len(args) == 1:
				return measurePhoto(cmd, args[0], f)
			}
			return errors.New("a photo, --truth DIR or --train DIR is needed (clearjar help measure)")
		},
	}
	fl := c.Flags()
	fl.StringVar(&f.vessel, "vessel", "", "what the cutting stands in: jar:83x120x2.5, cup:86x66x100x0.9, box:120x70x105x1.2, board")
	fl.Float64Var(&f.water, "water", 0, "height of the water, mm; alone it says nothing of where its surface is in the photo, see --water-line")
	fl.Float64Var(&f.waterLine, "water-line", 0, "how far down the photo the water's surface meets the left edge of a jar, pixels: above it is air")
	fl.StringVar(&f.nodes, "nodes", "", "where the nodes are: x,y;x,y from the base up")
	fl.StringVar(&f.colour, "colour", string(plant.White), "the colours healthy roots of the plant have, with commas between; the first is the one looked for")
	fl.StringVar(&f.tips, "tips", "", "taps on the tips of roots: x,y;x,y")
	fl.StringVar(&f.rotated, "rotated", "", "a second photo, the jar turned a quarter to the right: true lengths in space where a root is seen in both")
	fl.StringVar(&f.rotatedNodes, "rotated-nodes", "", "where the same nodes are in the second photo: x,y;x,y")
	fl.StringVar(&f.rotatedTips, "rotated-tips", "", "taps on tips in the second photo; without, its proposals are taken")
	fl.StringVar(&f.ruler, "ruler", "", "two points a distance in mm apart: x,y;x,y;MM")
	fl.StringVar(&f.edges, "edges", "", "the edges of the vessel, two points each: x,y;x,y;x,y;x,y, the left one first")
	fl.StringVar(&f.tagOf, "of", "", "the tag the scale is taken from, where there are several")
	fl.StringVar(&f.focal, "focal", "", "focal length as on 35 mm film, when the file does not tell")
	fl.Float64Var(&f.tagMM, "tag-mm", symbolMM, "width of the symbol of the tag, without its quiet zone, mm")
	fl.Float64Var(&f.least, "least", measure.ProposeFrom, "the least confidence of a proposal, 0 to 1")
	fl.BoolVar(&f.json, "json", false, "print JSON")
	fl.StringVar(&f.truth, "truth", "", "a folder of photos with truth files")
	fl.StringVar(&f.cross, "cross", "", "folders to learn from without the photo that is judged, with commas between")
	fl.StringSliceVar(&f.train, "train", nil, "folders of photos with truth files to learn from")
	fl.StringVar(&f.tables, "tables", "", "a folder of tables that were learned, in place of those that come with the program")
	fl.StringVar(&f.into, "into", "core/rootphoto", "where learned tables are written")
	return c
}

// symbolMM is the width of the symbol on a printed tag of 30 mm: 21 of 29 modules.
const symbolMM = 30.0 * 21 / 29

// mostPlaces bounds how many places are taken from a flag.
const mostPlaces = 200

func placesOf(flag, text string) ([]plant.Point, error) {
	out := []plant.Point{}
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ';' }) {
		x, y, ok := strings.Cut(part, ",")
		px, errX := strconv.ParseFloat(strings.TrimSpace(x), 64)
		py, errY := strconv.ParseFloat(strings.TrimSpace(y), 64)
		if !ok || errX != nil || errY != nil || len(out) == mostPlaces {
			return nil, fmt.Errorf("--%s: places are x,y;x,y with at most %d of them, not %q", flag, mostPlaces, part)
		}
		out = append(out, plant.Point{X: px, Y: py})
	}
	return out, nil
}

// vesselNamed reads a vessel as it is typed.
func vesselNamed(text string) (place.Vessel, likely.Background, error) {
	kind, rest, _ := strings.Cut(text, ":")
	sizes := []float64{}
	for _, part := range strings.FieldsFunc(rest, func(r rune) bool { return r == 'x' }) {
		v, err := strconv.ParseFloat(part, 64)
		if err != nil || !(v > 0 && v < 2000) {
			return place.Vessel{}, likely.Background{}, fmt.Errorf("--vessel: sizes are mm with an x between, more than 0 and less than 2000, not %q", part)
		}
		sizes = append(sizes, v)
	}
	need := func(n int, form string) error {
		if len(sizes) != n {
			return fmt.Errorf("--vessel: a %s is %s", kind, form)
		}
		return nil
	}
	switch kind {
	case "jar":
		if err := need(3, "jar:OUTERxHEIGHTxWALL"); err != nil {
			return place.Vessel{}, likely.Background{}, err
		}
		return place.Vessel{Shape: place.RoundJar, OuterMM: sizes[0], WallMM: sizes[2]}, likely.Background{Water: true}, nil
	case "cup":
		if err := need(4, "cup:TOPxBOTTOMxHEIGHTxWALL"); err != nil {
			return place.Vessel{}, likely.Background{}, err
		}
		return place.Vessel{Shape: place.RoundCup, OuterMM: (sizes[0] + sizes[1]) / 2, WallMM: sizes[3], Taper: (sizes[0] - sizes[1]) / 2 / sizes[2]}, likely.Background{Grains: true}, nil
	case "box":
		if err := need(4, "box:WIDTHxDEPTHxHEIGHTxWALL"); err != nil {
			return place.Vessel{}, likely.Background{}, err
		}
		return place.Vessel{Shape: place.FlatWall, WallMM: sizes[3]}, likely.Background{Moss: true}, nil
	case "board", "":
		return place.Vessel{Shape: place.Board}, likely.Background{}, nil
	}
	return place.Vessel{}, likely.Background{}, fmt.Errorf("--vessel: %q is none of jar, cup, box, board", kind)
}

func (f measureFlags) asked(p intake.Picture) (a measure.Asked, err error) {
	if a.Vessel, a.Behind, err = vesselNamed(f.vessel); err != nil {
		return a, err
	}
	a.Focal35, a.TagMM, a.Of = p.Focal35, f.tagMM, f.tagOf
	for _, c := range strings.Split(f.colour, ",") {
		a.Healthy = append(a.Healthy, plant.RootColour(strings.TrimSpace(c)))
	}
	if f.focal != "" {
		if a.Focal35, err = strconv.ParseFloat(f.focal, 64); err != nil {
			return a, fmt.Errorf("--focal: %q is no number of mm", f.focal)
		}
	}
	if f.ruler != "" {
		at := strings.LastIndex(f.ruler, ";")
		ends, err := placesOf("ruler", f.ruler[:max(0, at)])
		if err != nil {
			return a, err
		}
		mm, err := strconv.ParseFloat(f.ruler[at+1:], 64)
		if err != nil || len(ends) != 2 {
			return a, errors.New("--ruler: two points and the mm between them: x,y;x,y;MM")
		}
		a.Ruler = &plant.Scale{A: ends[0], B: ends[1], DistanceMM: mm}
	}
	if f.edges != "" {
		e, err := placesOf("edges", f.edges)
		if err != nil || len(e) != 4 {
			return a, errors.New("--edges: two points of the left edge and two of the right: x,y;x,y;x,y;x,y")
		}
		a.Left, a.Right = &optics.Edge{A: e[0], B: e[1]}, &optics.Edge{A: e[2], B: e[3]}
	}
	if f.waterLine > 0 {
		a.Water = &f.waterLine
	}
	a.Colour = a.Healthy[0]
	return a, nil
}

// printedTag is a tag as the command prints it.
type printedTag struct {
	Payload string        `json:"payload"`
	Corners [4][2]float64 `json:"corners_px"`
	MMPerPX float64       `json:"mm_per_px"`
	Modules int           `json:"modules"`
}

// printedRoot is a root as the command prints it.
type printedRoot struct {
	measure.Root
	Path [][2]float64 `json:"path_px"`
}

type printed struct {
	Tags  []printedTag   `json:"tags"`
	Scale *measure.Scale `json:"scale"`
	Roots []printedRoot  `json:"roots"`
	Count float64        `json:"roots_of_the_stem"`
	// Total is about how long all roots together are that are seen, mm; null without a scale.
	Total    *rootphoto.Measured `json:"seen_in_all"`
	Water    string              `json:"water"`
	Quality  measure.Quality     `json:"quality"`
	Warnings []string            `json:"warnings"`
}

func pairOf(p plant.Point) [2]float64 { return [2]float64{p.X, p.Y} }

func printedTags(tags []tag.Found, mm float64) []printedTag {
	out := []printedTag{}
	for _, t := range tags {
		p := printedTag{Payload: t.Payload, MMPerPX: t.MMPerPixel(mm), Modules: t.Modules}
		for i, c := range t.Corners {
			p.Corners[i] = pairOf(c)
		}
		out = append(out, p)
	}
	return out
}

// measured is a photo that was looked at, with its roots.
type measured struct {
	seen     *measure.Seen
	roots    []measure.Root
	warnings []string
}

// look measures one photo: its proposals, or the roots at taps.
func (f measureFlags) look(cmd *cobra.Command, name, nodes, tips string) (m measured, err error) {
	data, err := readBounded(name)
	if err != nil {
		return m, err
	}
	p, img, done, err := intake.Open(cmd.Context(), data)
	defer done()
	if err != nil {
		return m, err
	}
	tables, err := f.learned()
	if err != nil {
		return m, err
	}
	asked, err := f.asked(p)
	if err != nil {
		return m, err
	}
	if asked.Nodes, err = placesOf("nodes", nodes); err != nil {
		return m, err
	}
	m.seen = tables.Look(img, measure.Tags(img), asked)
	for _, problem := range m.seen.Problems {
		m.warnings = append(m.warnings, problem.Error())
	}
	if tips == "" {
		m.roots = m.seen.Proposals(f.least)
		return m, nil
	}
	taps, err := placesOf("tips", tips)
	if err != nil {
		return m, err
	}
	for i, t := range taps {
		r, err := m.seen.Follow(measure.Tip{At: t, Node: -1})
		if err != nil {
			m.warnings = append(m.warnings, fmt.Sprintf("tip %d: %s", i+1, err))
			continue
		}
		m.roots = append(m.roots, r)
	}
	return m, nil
}

func measurePhoto(cmd *cobra.Command, name string, f measureFlags) error {
	m, err := f.look(cmd, name, f.nodes, f.tips)
	if err != nil {
		return err
	}
	seen, roots, warnings := m.seen, m.roots, m.warnings
	if f.rotated != "" {
		second, err := f.look(cmd, f.rotated, f.rotatedNodes, f.rotatedTips)
		if err != nil {
			return fmt.Errorf("%s: %w", f.rotated, err)
		}
		for _, w := range second.warnings {
			warnings = append(warnings, "second photo: "+w)
		}
		if roots, err = seen.Beside(second.seen, roots, second.roots); err != nil {
			warnings = append(warnings, err.Error())
		}
	}
	if f.water > 0 && f.waterLine == 0 {
		warnings = append(warnings, "Where the water's surface is in the photo cannot be told from its height: all roots are taken to hang in water. --water-line Y says where it meets the left edge.")
	}
	out := printed{Tags: printedTags(seen.Tags, f.tagMM), Scale: seen.Scale, Roots: []printedRoot{}, Water: seen.Water(), Quality: seen.Quality, Warnings: append(warnings, seen.Warnings()...), Count: seen.Count()}
	if total, ok := seen.Total(); ok {
		out.Total = &total
	}
	for _, r := range roots {
		line := make([][2]float64, len(r.Path))
		for i, q := range r.Path {
			line[i] = pairOf(q)
		}
		out.Roots = append(out.Roots, printedRoot{r, line})
	}
	if f.json {
		e := json.NewEncoder(cmd.OutOrStdout())
		return e.Encode(out)
	}
	return sayMeasured(cmd.OutOrStdout(), out)
}

func sayMeasured(w io.Writer, out printed) error {
	for _, t := range out.Tags {
		fmt.Fprintf(w, "tag %s, %.4f mm a pixel\n", t.Payload, t.MMPerPX)
	}
	if out.Scale != nil {
		fmt.Fprintf(w, "scale from %s, %.4f mm a pixel at the nodes\n", out.Scale.Source, out.Scale.MMPerPX)
	}
	tw := tabwriter.NewWriter(w, 0, 4, 2, ' ', 0)
	fmt.Fprintln(tw, "node\torder\tmm\tfrom\tto\tcolour\tconfidence\tmode\tremarks")
	for _, r := range out.Roots {
		mm := []string{"-", "-", "-"}
		if r.LengthMM != nil {
			mm = []string{fmt.Sprintf("%.1f", *r.LengthMM), fmt.Sprintf("%.1f", *r.LowMM), fmt.Sprintf("%.1f", *r.HighMM)}
		}
		fmt.Fprintf(tw, "%d\t%d\t%s\t%s\t%.2f\t%s\t%v\n", r.Node, r.Order, strings.Join(mm, "\t"), r.Colour, r.Confidence, r.Mode, r.Remarks)
	}
	if err := tw.Flush(); err != nil {
		return err
	}
	for _, text := range out.Warnings {
		fmt.Fprintln(w, "!", text)
	}
	return nil
}

// readBounded reads a file of at most the size of a photo that is taken in.
func readBounded(name string) ([]byte, error) {
	file, err := os.Open(name) //nolint:gosec // the file its user names
	if err != nil {
		return nil, err
	}
	defer func() { _ = file.Close() }()
	data, err := io.ReadAll(io.LimitReader(file, intake.MostBytes+1))
	return data, err
}
