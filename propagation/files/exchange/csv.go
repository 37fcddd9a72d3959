package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"time"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
)

var stemColumns = []string{
	"mother", "mother_name", "group", "pattern", "provenance", "raised_from", "by_name_only", "stem", "map_version", "mapped_on", "organ", "form", "wood", "thickness_mm", "beyond_mm", "tip_intact",
	"sprang_stem", "sprang_node", "node", "below_mm", "leaf", "aerial_root", "bud", "stripe", "rooted",
}

var planColumns = []string{
	"plan", "mother", "made_at", "stem", "map_version", "medium", "first_node", "last_node", "kind", "from_mm", "to_mm", "cut_above", "set", "chance", "skip",
	"aim", "at_least", "cut_back_to", "least_nodes", "most_nodes", "tip_most", "tip_bare", "no_strip", "keep_leaves", "keep_nodes", "most_pieces", "most_length_mm",
	"season", "cover", "knife", "leaves", "hormone", "set_wet", "roots_lost",
}

// read reads a CSV file with a header and gives each row to take. Columns that are not known, and needed
// ones that are not there, are refused; rows that are no CSV are bad rows.
func read(data []byte, known, needed []string, wrong *Bad, take func(c *cell)) error {
	columns := map[string]int{}
	r := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))))
	r.FieldsPerRecord, r.TrimLeadingSpace, r.ReuseRecord = -1, true, true
	header, err := r.Read()
	if err != nil {
		return plant.Refuse("file", "the first line is no CSV header: %s", csvReason(err))
	}
	width := len(header)
	for i, name := range header {
		name = strings.TrimSpace(name)
		if !has(known, name) {
			return plant.Refuse("file", "column %q is not known; known are %s", name, strings.Join(known, ", "))
		}
		columns[name] = i
	}
	for _, name := range needed {
		if _, ok := columns[name]; !ok {
			return plant.Refuse("file", "column %q is missing", name)
		}
	}
	for rows := 0; ; rows++ {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if rows >= MostRows {
			return plant.Refuse("file", "more than %d rows: split the file", MostRows)
		}
		var p *csv.ParseError
		if errors.As(err, &p) {
			wrong.add(p.StartLine, "row", "is no CSV: %s", csvReason(err))
			continue
		}
		if err != nil {
			return plant.Refuse("file", "%s", csvReason(err))
		}
		line, _ := r.FieldPos(0)
		if len(row) != width {
			wrong.add(line, "row", "has %d cells, the header %d", len(row), width)
			continue
		}
		take(&cell{columns, row, line, wrong, true})
	}
}

// csvReason says what is wrong with CSV in words.
func csvReason(err error) string {
	switch {
	case errors.Is(err, csv.ErrQuote), errors.Is(err, csv.ErrBareQuote):
		return "a quotation mark stands where none may"
	case errors.Is(err, io.EOF):
		return "the file is empty"
	}
	return "it cannot be read"
}

func has(list []string, s string) bool {
	for _, v := range list {
		if v == s {
			return true
		}
	}
	return false
}

// cell reads the cells of one row and notes what is wrong with them.
type cell struct {
	columns map[string]int
	row     []string
	line    int
	wrong   *Bad
	ok      bool
}

func (c *cell) text(name string) string {
	i, there := c.columns[name]
	if !there {
		return ""
	}
	return strings.Clone(plain(strings.TrimSpace(c.row[i])))
}

func (c *cell) refuse(name, format string, args ...any) {
	c.wrong.add(c.line, name, format, args...)
	c.ok = false
}

// number reads a whole number that may be left out.
func (c *cell) number(name string, missing int) int {
	if c.text(name) == "" {
		return missing
	}
	return c.count(name)
}

// instant reads a time that may be left out.
func (c *cell) instant(name string) *time.Time {
	t := c.text(name)
	if t == "" {
		return nil
	}
	at, err := time.Parse(time.RFC3339Nano, t)
	if err != nil {
		c.refuse(name, "%q is not a time such as 2026-05-01T10:00:00Z", t)
		return nil
	}
	return &at
}

func (c *cell) decimal(name string, missing float64) float64 {
	t := c.text(name)
	if t == "" {
		if math.IsNaN(missing) {
			c.refuse(name, "is missing")
		}
		return missing
	}
	v, err := strconv.ParseFloat(t, 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		c.refuse(name, "%q is not a number", t)
	}
	return v
}

func (c *cell) count(name string) int {
	v, err := strconv.Atoi(c.text(name))
	if err != nil {
		c.refuse(name, "%q is not a whole number", c.text(name))
	}
	return v
}

func (c *cell) yes(name string) bool {
	switch strings.ToLower(c.text(name)) {
	case "", "false", "no", "0":
		return false
	case "true", "yes", "1":
		return true
	}
	c.refuse(name, "%q is not true or false", c.text(name))
	return false
}

var missing = math.NaN()

// group is what the rows of one record say, and whether any of them is bad.
type group[T any] struct {
	order  []string
	by     map[string]*T
	broken map[string]bool
}

func newGroup[T any]() *group[T] { return &group[T]{by: map[string]*T{}, broken: map[string]bool{}} }

// at gives the record of a name; begin makes it when it is new.
func (g *group[T]) at(name string, begin func() *T) *T {
	r := g.by[name]
	if r == nil {
		r = begin()
		g.by[name] = r
		g.order = append(g.order, name)
	}
	return r
}

// whole lists the records without a bad row.
func (g *group[T]) whole() []T {
	out := []T{}
	for _, name := range g.order {
		if !g.broken[name] {
			out = append(out, *g.by[name])
		}
	}
	return out
}

func stemsFromCSV(data []byte) ([]StemRecord, Bad, error) {
	var wrong Bad
	all := newGroup[StemRecord]()
	err := read(data, stemColumns, []string{"mother", "stem", "node", "below_mm"}, &wrong, func(c *cell) {
		name := c.text("mother") + "-" + c.text("stem")
		r := all.at(name, func() *StemRecord { return stemOfRow(c) })
		if len(r.Map.Nodes) > plant.MostNodes {
			c.refuse("node", "a map holds at most %d nodes", plant.MostNodes)
			all.broken[name] = true
			return
		}
		node := plant.Node{
			BelowMM: c.decimal("below_mm", missing), Leaf: c.yes("leaf"), Aerial: c.yes("aerial_root"), Bud: plant.Bud(c.text("bud")),
			Stripe: plant.Stripe(c.text("stripe")), Rooted: c.yes("rooted"),
		}
		if node.Bud == "" {
			node.Bud = plant.BudDormant
		}
		if n := c.count("node"); c.ok && n != len(r.Map.Nodes)+1 {
			c.refuse("node", "node %d stands where node %d of %s should be: one row a node, from the base up", n, len(r.Map.Nodes)+1, name)
		}
		r.Map.Nodes = append(r.Map.Nodes, node)
		all.broken[name] = all.broken[name] || !c.ok
	})
	return all.whole(), wrong, err
}

// stemOfRow reads what every row of a stem says of the whole of it.
func stemOfRow(c *cell) *StemRecord {
	r := &StemRecord{
		Line: c.line, Mother: c.text("mother"), MotherName: c.text("mother_name"), Group: c.text("group"), Pattern: c.text("pattern"),
		Provenance: c.text("provenance"), RaisedFrom: c.text("raised_from"), ByNameOnly: c.yes("by_name_only"),
		Stem: c.text("stem"), Version: c.number("map_version", 0), MappedOn: c.instant("mapped_on"),
		Map: plant.Stem{
			Organ: plant.Organ(c.text("organ")), Form: plant.LeafForm(c.text("form")), Wood: plant.Wood(c.text("wood")),
			ThicknessMM: c.decimal("thickness_mm", 8), BeyondMM: c.decimal("beyond_mm", 0), TipIntact: c.yes("tip_intact"),
		},
	}
	if from := c.text("sprang_stem"); from != "" {
		r.Map.Sprang = &plant.Sprang{Letter: from, Node: c.count("sprang_node")}
	}
	return r
}

// StemsCSV writes stem maps, one line a node.
func StemsCSV(records []StemRecord) ([]byte, error) {
	rows := [][]string{stemColumns}
	for _, r := range records {
		sprang, from := "", ""
		if r.Map.Sprang != nil {
			sprang, from = r.Map.Sprang.Letter, strconv.Itoa(r.Map.Sprang.Node)
		}
		for i, n := range r.Map.Nodes {
			rows = append(rows, []string{
				r.Mother, r.MotherName, r.Group, r.Pattern, r.Provenance, r.RaisedFrom, yes(r.ByNameOnly), r.Stem, strconv.Itoa(r.Version), instant(r.MappedOn), string(r.Map.What()), string(r.Map.Form), string(r.Map.Wood),
				number(r.Map.ThicknessMM), number(r.Map.BeyondMM), strconv.FormatBool(r.Map.TipIntact),
				sprang, from, strconv.Itoa(i + 1), number(n.BelowMM), strconv.FormatBool(n.Leaf), strconv.FormatBool(n.Aerial), string(n.Bud), string(n.Stripe), strconv.FormatBool(n.Rooted),
			})
		}
	}
	return write(rows)
}

func plansFromCSV(data []byte) ([]PlanRecord, Bad, error) {
	var wrong Bad
	all := newGroup[PlanRecord]()
	err := read(data, planColumns, []string{"plan", "mother", "stem", "map_version", "from_mm", "to_mm"}, &wrong, func(c *cell) {
		name := c.text("plan")
		r := all.at(name, func() *PlanRecord { return planOfRow(c) })
		if c.text("mother") == "" || c.text("mother") != r.Mother {
			c.refuse("mother", "a plan is for one mother, named on every row")
		}
		version, from, to := c.count("map_version"), c.decimal("from_mm", missing), c.decimal("to_mm", missing)
		if c.ok && to <= from {
			c.refuse("to_mm", "%g mm is not above from_mm, %g mm", to, from)
		}
		skip := c.counts("skip")
		if c.ok {
			r.knife(c.text("stem"), version, from)
			if c.yes("cut_above") {
				r.knife(c.text("stem"), version, to)
			}
			r.Stems[len(r.Stems)-1].Skip = skip
		}
		all.broken[name] = all.broken[name] || !c.ok
	})
	return all.whole(), wrong, err
}

// planOfRow reads what every row of a plan says of the whole of it.
func planOfRow(c *cell) *PlanRecord {
	usual := cutplan.DefaultLimits()
	r := &PlanRecord{Line: c.line, Mother: c.text("mother"), MadeAt: c.instant("made_at")}
	r.Aim = cutplan.Aim{Kind: cutplan.AimKind(c.text("aim")), AtLeast: c.number("at_least", 0), CutBackTo: c.number("cut_back_to", 0)}
	r.Limits = cutplan.Limits{
		LeastNodes: c.number("least_nodes", usual.LeastNodes), MostNodes: c.number("most_nodes", usual.MostNodes), TipMost: c.number("tip_most", usual.TipMost),
		TipBare: c.number("tip_bare", usual.TipBare), NoStrip: c.yes("no_strip"), KeepLeaves: c.number("keep_leaves", usual.KeepLeaves),
		KeepNodes: c.number("keep_nodes", usual.KeepNodes), MostPieces: c.number("most_pieces", 0), MostLengthMM: c.decimal("most_length_mm", 0),
	}
	r.Conditions = cutplan.Conditions{
		Medium: plant.Medium(c.text("medium")), Season: c.text("season"), Cover: cutplan.Cover(c.text("cover")), Knife: cutplan.KnifeSchool(c.text("knife")),
		Leaves: cutplan.LeafSchool(c.text("leaves")), Hormone: c.yes("hormone"), SetWet: c.yes("set_wet"), RootsLost: c.decimal("roots_lost", 0),
	}
	return r
}

// counts reads whole numbers separated by spaces.
func (c *cell) counts(name string) []int {
	var out []int
	for _, t := range strings.Fields(c.text(name)) {
		n, err := strconv.Atoi(t)
		if err != nil {
			c.refuse(name, "%q is not a whole number", t)
			return nil
		}
		out = append(out, n)
	}
	return out
}

// knife lays a knife on a stem of the plan; neighbours share a cut.
func (r *PlanRecord) knife(stem string, version int, mm float64) {
	at := -1
	for i, s := range r.Stems {
		if s.Stem == stem {
			at = i
		}
	}
	if at < 0 {
		r.Stems = append(r.Stems, PlanStem{Stem: stem, Version: version})
		at = len(r.Stems) - 1
	}
	if !r.Stems[at].cutAt(mm) {
		r.Stems[at].KnivesMM = append(r.Stems[at].KnivesMM, mm)
	}
}

// cutAt tells whether a knife lies there.
func (s PlanStem) cutAt(mm float64) bool {
	for _, k := range s.KnivesMM {
		if math.Abs(k-mm) < 0.05 {
			return true
		}
	}
	return false
}

// PlansCSV writes plans, one line a piece.
func PlansCSV(records []PlanRecord) ([]byte, error) {
	rows := [][]string{planColumns}
	for i, r := range records {
		l, c := r.Limits, r.Conditions
		for _, s := range r.Stems {
			for _, p := range s.Pieces {
				rows = append(rows, []string{
					strconv.Itoa(i + 1), r.Mother, instant(r.MadeAt), s.Stem, strconv.Itoa(s.Version), string(r.Conditions.Medium), strconv.Itoa(p.First), strconv.Itoa(p.Last),
					string(p.Kind), number(p.FromMM), number(p.ToMM), strconv.FormatBool(s.cutAt(p.ToMM)), strconv.Itoa(p.Set), fmt.Sprintf("%.4f", p.Chance),
					strings.Trim(fmt.Sprint(s.Skip), "[]"), string(r.Aim.Kind), strconv.Itoa(r.Aim.AtLeast), strconv.Itoa(r.Aim.CutBackTo),
					strconv.Itoa(l.LeastNodes), strconv.Itoa(l.MostNodes), strconv.Itoa(l.TipMost), strconv.Itoa(l.TipBare), yes(l.NoStrip), strconv.Itoa(l.KeepLeaves),
					strconv.Itoa(l.KeepNodes), strconv.Itoa(l.MostPieces), number(l.MostLengthMM),
					c.Season, string(c.Cover), string(c.Knife), string(c.Leaves), yes(c.Hormone), yes(c.SetWet), number(c.RootsLost),
				})
			}
		}
	}
	return write(rows)
}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

func yes(v bool) string { return strconv.FormatBool(v) }

func instant(t *time.Time) string {
	if t == nil {
		return ""
	}
	return t.UTC().Format(time.RFC3339Nano)
}

// formula tells whether a spreadsheet would run a cell; apostrophes in front of one do not make it another.
func formula(cell string) bool {
	cell = strings.TrimLeft(cell, "'")
	return cell != "" && strings.ContainsRune("=@+-\t\r", rune(cell[0]))
}

// plain takes the apostrophe off again that keeps a spreadsheet from running a cell.
func plain(cell string) string {
	if strings.HasPrefix(cell, "'") && formula(cell[1:]) {
		return cell[1:]
	}
	return cell
}

// write writes rows; a cell that a spreadsheet would run as a formula is quoted with an apostrophe.
func write(rows [][]string) ([]byte, error) {
	var out bytes.Buffer
	w := csv.NewWriter(&out)
	for _, row := range rows {
		for i, cell := range row {
			if formula(cell) {
				row[i] = "'" + cell
			}
		}
		if err := w.Write(row); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return out.Bytes(), w.Error()
}
