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

	"clearjar/core/cutplan"
	"clearjar/core/plant"
)

var stemColumns = []string{
	"mother", "mother_name", "group", "pattern", "stem", "organ", "form", "wood", "thickness_mm", "beyond_mm", "tip_intact",
	"sprang_stem", "sprang_node", "node", "below_mm", "leaf", "aerial_root", "bud", "stripe", "rooted",
}

var planColumns = []string{
	"plan", "mother", "stem", "map_version", "medium", "first_node", "last_node", "kind", "from_mm", "to_mm", "cut_above", "set", "chance",
}

// sheet is a CSV file read by column names.
type sheet struct {
	columns map[string]int
	rows    [][]string
	lines   []int
}

// read reads a CSV file with a header. Columns that are not known, and needed ones that are
// not there, are refused; rows that are no CSV are bad rows.
func read(data []byte, known, needed []string) (sheet, bad, error) {
	s := sheet{columns: map[string]int{}}
	r := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))))
	r.FieldsPerRecord, r.TrimLeadingSpace = -1, true
	header, err := r.Read()
	if err != nil {
		return s, nil, plant.Refuse("file", "the first line is no CSV header: %v", err)
	}
	for i, name := range header {
		name = strings.TrimSpace(name)
		if !has(known, name) {
			return s, nil, plant.Refuse("file", "column %q is not known; known are %s", name, strings.Join(known, ", "))
		}
		s.columns[name] = i
	}
	for _, name := range needed {
		if _, ok := s.columns[name]; !ok {
			return s, nil, plant.Refuse("file", "column %q is missing", name)
		}
	}
	var wrong bad
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			return s, wrong, nil
		}
		var p *csv.ParseError
		if errors.As(err, &p) {
			wrong.add(p.StartLine, "row", "is no CSV: %v", p.Err)
			continue
		}
		if err != nil {
			return s, nil, plant.Refuse("file", "%v", err)
		}
		line, _ := r.FieldPos(0)
		if len(row) != len(header) {
			wrong.add(line, "row", "has %d cells, the header %d", len(row), len(header))
			continue
		}
		if len(s.rows) >= MostRecords*4 {
			return s, nil, plant.Refuse("file", "more than %d rows", MostRecords*4)
		}
		s.rows, s.lines = append(s.rows, row), append(s.lines, line)
	}
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
	sheet sheet
	at    int
	wrong *bad
	ok    bool
}

func (c *cell) text(name string) string {
	i, there := c.sheet.columns[name]
	if !there {
		return ""
	}
	return plain(strings.TrimSpace(c.sheet.rows[c.at][i]))
}

func (c *cell) refuse(name, format string, args ...any) {
	c.wrong.add(c.sheet.lines[c.at], name, format, args...)
	c.ok = false
}

func (c *cell) mm(name string, missing float64) float64 {
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

func stemsFromCSV(data []byte) ([]StemRecord, bad, error) {
	s, wrong, err := read(data, stemColumns, []string{"mother", "stem", "node", "below_mm"})
	if err != nil {
		return nil, nil, err
	}
	order, by, broken := []string{}, map[string]*StemRecord{}, map[string]bool{}
	for i := range s.rows {
		c := &cell{s, i, &wrong, true}
		name := c.text("mother") + "-" + c.text("stem")
		r := by[name]
		if r == nil {
			r = &StemRecord{
				Line: s.lines[i], Mother: c.text("mother"), MotherName: c.text("mother_name"), Group: c.text("group"), Pattern: c.text("pattern"), Stem: c.text("stem"),
				Map: plant.Stem{
					Organ: plant.Organ(c.text("organ")), Form: plant.LeafForm(c.text("form")), Wood: plant.Wood(c.text("wood")),
					ThicknessMM: c.mm("thickness_mm", 8), BeyondMM: c.mm("beyond_mm", 0), TipIntact: c.yes("tip_intact"),
				},
			}
			if from := c.text("sprang_stem"); from != "" {
				r.Map.Sprang = &plant.Sprang{Letter: from, Node: c.count("sprang_node")}
			}
			by[name] = r
			order = append(order, name)
		}
		node := plant.Node{
			BelowMM: c.mm("below_mm", missing), Leaf: c.yes("leaf"), Aerial: c.yes("aerial_root"), Bud: plant.Bud(c.text("bud")),
			Stripe: plant.Stripe(c.text("stripe")), Rooted: c.yes("rooted"),
		}
		if node.Bud == "" {
			node.Bud = plant.BudDormant
		}
		if n := c.count("node"); c.ok && n != len(r.Map.Nodes)+1 {
			c.refuse("node", "node %d stands where node %d of %s should be: one row a node, from the base up", n, len(r.Map.Nodes)+1, name)
		}
		r.Map.Nodes = append(r.Map.Nodes, node)
		broken[name] = broken[name] || !c.ok
	}
	out := []StemRecord{}
	for _, name := range order {
		if !broken[name] {
			out = append(out, *by[name])
		}
	}
	return out, wrong, nil
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
				r.Mother, r.MotherName, r.Group, r.Pattern, r.Stem, string(r.Map.What()), string(r.Map.Form), string(r.Map.Wood),
				number(r.Map.ThicknessMM), number(r.Map.BeyondMM), strconv.FormatBool(r.Map.TipIntact),
				sprang, from, strconv.Itoa(i + 1), number(n.BelowMM), strconv.FormatBool(n.Leaf), strconv.FormatBool(n.Aerial), string(n.Bud), string(n.Stripe), strconv.FormatBool(n.Rooted),
			})
		}
	}
	return write(rows)
}

func plansFromCSV(data []byte) ([]PlanRecord, bad, error) {
	s, wrong, err := read(data, planColumns, []string{"plan", "mother", "stem", "map_version", "from_mm", "to_mm"})
	if err != nil {
		return nil, nil, err
	}
	order, by, broken := []string{}, map[string]*PlanRecord{}, map[string]bool{}
	for i := range s.rows {
		c := &cell{s, i, &wrong, true}
		name := c.text("plan")
		r := by[name]
		if r == nil {
			r = &PlanRecord{Line: s.lines[i], Mother: c.text("mother")}
			r.Limits = cutplan.DefaultLimits()
			r.Conditions.Medium = plant.Medium(c.text("medium"))
			by[name] = r
			order = append(order, name)
		}
		if c.text("mother") == "" || c.text("mother") != r.Mother {
			c.refuse("mother", "a plan is for one mother, named on every row")
		}
		version, from, to := c.count("map_version"), c.mm("from_mm", missing), c.mm("to_mm", missing)
		if c.ok && to <= from {
			c.refuse("to_mm", "%g mm is not above from_mm, %g mm", to, from)
		}
		if c.ok {
			r.knife(c.text("stem"), version, from)
			if c.yes("cut_above") {
				r.knife(c.text("stem"), version, to)
			}
		}
		broken[name] = broken[name] || !c.ok
	}
	out := []PlanRecord{}
	for _, name := range order {
		if !broken[name] {
			out = append(out, *by[name])
		}
	}
	return out, wrong, nil
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
		for _, s := range r.Stems {
			for _, p := range s.Pieces {
				rows = append(rows, []string{
					strconv.Itoa(i + 1), r.Mother, s.Stem, strconv.Itoa(s.Version), string(r.Conditions.Medium), strconv.Itoa(p.First), strconv.Itoa(p.Last),
					string(p.Kind), number(p.FromMM), number(p.ToMM), strconv.FormatBool(s.cutAt(p.ToMM)), strconv.Itoa(p.Set), fmt.Sprintf("%.4f", p.Chance),
				})
			}
		}
	}
	return write(rows)
}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// formula tells whether a spreadsheet would run a cell.
func formula(cell string) bool { return cell != "" && strings.ContainsRune("=@", rune(cell[0])) }

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
