// Package rsml writes and reads traced roots in the Root System Markup Language, an open format for root systems.
//
// In and out: roots as polylines in pixels of a photo, side roots within the root they spring from. Published: Lobet et al.,
// Root System Markup Language: toward a unified root architecture description language, Plant Physiology 167, 2015 (from
// memory).
package rsml

import (
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"time"

	"clearjar/core/plant"
)

// File is what is said of the photo and the piece.
type File struct {
	// Software is what wrote it, Key names the look, Image the photo, Label the cutting.
	Software, Key, Image, SHA256, Label string
	// MMPerPixel is the scale at the nodes; 0 when there is none.
	MMPerPixel float64
	At         time.Time
	Roots      []plant.Root
}

type document struct {
	XMLName  xml.Name `xml:"rsml"`
	Metadata metadata `xml:"metadata"`
	Scene    scene    `xml:"scene"`
}

type metadata struct {
	Version      string       `xml:"version"`
	Unit         string       `xml:"unit"`
	Resolution   float64      `xml:"resolution"`
	LastModified string       `xml:"last-modified"`
	Software     string       `xml:"software"`
	User         string       `xml:"user"`
	FileKey      string       `xml:"file-key"`
	Image        picture      `xml:"image"`
	Definitions  []definition `xml:"property-definitions>property-definition"`
}

type picture struct {
	Label  string `xml:"label"`
	SHA256 string `xml:"sha256,omitempty"`
}

type definition struct {
	Label string `xml:"label"`
	Type  string `xml:"type"`
	Unit  string `xml:"unit"`
}

type scene struct {
	Plants []system `xml:"plant"`
}

type system struct {
	ID    string `xml:"ID,attr"`
	Label string `xml:"label,attr,omitempty"`
	Roots []root `xml:"root"`
}

type root struct {
	ID         string      `xml:"ID,attr"`
	Label      string      `xml:"label,attr,omitempty"`
	Properties *properties `xml:"properties"`
	Geometry   geometry    `xml:"geometry"`
	Side       []root      `xml:"root"`
}

type properties struct {
	Length *value `xml:"length"`
	Low    *value `xml:"length-low"`
	High   *value `xml:"length-high"`
	Node   *value `xml:"node"`
	Colour *value `xml:"colour"`
}

// value is the value of a property, as an attribute.
type value struct {
	Value string `xml:"value,attr"`
}

type geometry struct {
	Points []point `xml:"polyline>point"`
}

type point struct {
	X float64 `xml:"x,attr"`
	Y float64 `xml:"y,attr"`
	Z float64 `xml:"z,attr,omitempty"`
}

// Write writes a file. Side roots are put into the nearest root of the same node; roots without a line are left out, and
// how many is told.
func Write(w io.Writer, f File) (left int, err error) {
	d := document{Metadata: metadata{
		Version: "1", Unit: "pixel", Resolution: 1, LastModified: f.At.UTC().Format(time.RFC3339), Software: f.Software, FileKey: f.Key,
		Image: picture{f.Image, f.SHA256},
		Definitions: []definition{
			{"length", "real", "mm"}, {"length-low", "real", "mm"}, {"length-high", "real", "mm"}, {"node", "integer", ""}, {"colour", "string", ""},
		},
	}}
	if f.MMPerPixel > 0 {
		d.Metadata.Unit, d.Metadata.Resolution = "mm", 1/f.MMPerPixel
	}
	s := system{ID: "1", Label: f.Label}
	main := []plant.Root{}
	for i, r := range f.Roots {
		if len(r.Path) < 2 {
			left++
			continue
		}
		if r.Order == 1 {
			s.Roots = append(s.Roots, rootOf(r, i+1))
			main = append(main, r)
		}
	}
	for i, r := range f.Roots {
		if len(r.Path) < 2 || r.Order == 1 {
			continue
		}
		if at := parent(main, r); at >= 0 {
			s.Roots[at].Side = append(s.Roots[at].Side, rootOf(r, i+1))
		} else {
			s.Roots = append(s.Roots, rootOf(r, i+1))
		}
	}
	d.Scene.Plants = []system{s}
	if _, err := io.WriteString(w, xml.Header); err != nil {
		return left, err
	}
	e := xml.NewEncoder(w)
	e.Indent("", "  ")
	return left, e.Encode(d)
}

func rootOf(r plant.Root, number int) root {
	out := root{ID: fmt.Sprintf("1.%d", number), Label: fmt.Sprintf("node %d", r.Node), Properties: &properties{Node: &value{fmt.Sprint(r.Node)}}}
	if r.LengthMM > 0 {
		mm := func(v float64) *value { return &value{fmt.Sprintf("%.2f", v)} }
		out.Properties.Length, out.Properties.Low, out.Properties.High = mm(r.LengthMM), mm(r.LowMM), mm(r.HighMM)
	}
	if r.Colour != "" {
		out.Properties.Colour = &value{string(r.Colour)}
	}
	for _, p := range r.Path {
		out.Geometry.Points = append(out.Geometry.Points, point{X: p.X, Y: p.Y})
	}
	return out
}

// parent is the root that a side root begins nearest to, -1 when there is none.
func parent(main []plant.Root, side plant.Root) int {
	best, at := math.Inf(1), -1
	for i, m := range main {
		for _, p := range m.Path {
			if d := math.Hypot(p.X-side.Path[0].X, p.Y-side.Path[0].Y); d < best {
				best, at = d, i
			}
		}
	}
	return at
}

// mostBytes bounds a file that is read.
const mostBytes = 8 << 20

// Read reads the roots of a file: their lines, their node and colour where it tells them. Lengths are not taken: they are
// worked out from the lines and the scale. What cannot be read is refused.
func Read(r io.Reader) ([]plant.Root, error) {
	limited := &io.LimitedReader{R: r, N: mostBytes + 1}
	var d document
	if err := xml.NewDecoder(limited).Decode(&d); err != nil {
		if limited.N <= 0 {
			return nil, plant.Refuse("rsml", "at most %d MB. Nothing was taken in.", mostBytes>>20)
		}
		return nil, plant.Refuse("rsml", "this is no whole RSML file (%s). Nothing was taken in.", reason(err))
	}
	out := []plant.Root{}
	for _, p := range d.Scene.Plants {
		for _, r := range p.Roots {
			var err error
			if out, err = add(out, r, 1); err != nil {
				return nil, err
			}
		}
	}
	if len(out) == 0 {
		return nil, plant.Refuse("rsml", "this file holds no roots with a line. Nothing was taken in.")
	}
	return out, nil
}

func reason(err error) string {
	var syntax *xml.SyntaxError
	if errors.As(err, &syntax) {
		return fmt.Sprintf("line %d: %s", syntax.Line, syntax.Msg)
	}
	return "it breaks off, or is something else"
}

// deepest is how many roots deep side roots are read.
const deepest = 20

func add(out []plant.Root, r root, depth int) ([]plant.Root, error) {
	if depth > deepest || len(out) >= plant.MostRoots {
		return nil, plant.Refuse("rsml", "at most %d roots, %d deep. Nothing was taken in.", plant.MostRoots, deepest)
	}
	if n := len(r.Geometry.Points); n > plant.MostVertices {
		return nil, plant.Refuse("rsml", "root %s has %d points: at most %d. Nothing was taken in.", r.ID, n, plant.MostVertices)
	}
	root := plant.Root{Node: 1, Order: min(depth, 2), How: plant.Traced}
	for _, p := range r.Geometry.Points {
		if math.IsNaN(p.X) || math.IsInf(p.X, 0) || math.IsNaN(p.Y) || math.IsInf(p.Y, 0) {
			return nil, plant.Refuse("rsml", "root %s has a point that is nowhere. Nothing was taken in.", r.ID)
		}
		root.Path = append(root.Path, plant.Point{X: p.X, Y: p.Y})
	}
	if p := r.Properties; p != nil {
		if p.Node != nil {
			if _, err := fmt.Sscan(p.Node.Value, &root.Node); err != nil || root.Node < 1 || root.Node > 60 {
				return nil, plant.Refuse("rsml", "root %s names the node %q. Nothing was taken in.", r.ID, p.Node.Value)
			}
		}
		if p.Colour != nil {
			root.Colour = plant.RootColour(p.Colour.Value)
		}
	}
	if len(root.Path) > 1 {
		out = append(out, root)
	}
	for _, s := range r.Side {
		var err error
		if out, err = add(out, s, depth+1); err != nil {
			return nil, err
		}
	}
	return out, nil
}
