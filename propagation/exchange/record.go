package exchange

import (
	"fmt"
	"sort"

	"clearjar/core/plant"
	"clearjar/store/wish"
)

// What can be read and written.
const (
	StemMaps = "stems"
	CutPlans = "plans"
	JSON     = "json"
	CSV      = "csv"
)

// Version of both formats.
const Version = 1

// Most of one file.
const (
	MostBytes   = 8 << 20
	MostRecords = 5000
)

// StemRecord is one stem map of one mother. Mother is her code; name, group and pattern are
// used when she is not known here yet.
type StemRecord struct {
	Line       int        `json:"-"`
	Mother     string     `json:"mother"`
	MotherName string     `json:"mother_name,omitempty"`
	Group      string     `json:"group,omitempty"`
	Pattern    string     `json:"pattern,omitempty"`
	Stem       string     `json:"stem"`
	Map        plant.Stem `json:"map"`
}

// PlanRecord is one cut plan.
type PlanRecord struct {
	Line   int    `json:"-"`
	Mother string `json:"mother"`
	wish.Wish
	Stems []PlanStem `json:"stems"`
}

// PlanStem is the knives on one stem.
type PlanStem struct {
	Stem    string `json:"stem"`
	Version int    `json:"map_version"`
	// KnivesMM are mm from the base. Pieces are written for the reader, and not read back.
	KnivesMM []float64   `json:"knives_mm"`
	Skip     []int       `json:"skip,omitempty"`
	Pieces   []PlanPiece `json:"pieces,omitempty"`
}

// PlanPiece is what a plan makes between two knives.
type PlanPiece struct {
	First  int             `json:"first"`
	Last   int             `json:"last"`
	Kind   plant.PieceKind `json:"kind"`
	FromMM float64         `json:"from_mm"`
	ToMM   float64         `json:"to_mm"`
	Set    int             `json:"set"`
	Chance float64         `json:"chance"`
}

// BadRow is a row or record that could not be taken.
type BadRow struct {
	// Line of the file; in JSON the number of the record, from 1.
	Line   int    `json:"line"`
	Field  string `json:"field"`
	Reason string `json:"reason"`
}

func (b BadRow) String() string { return fmt.Sprintf("line %d, %s: %s", b.Line, b.Field, b.Reason) }

// bad collects bad rows.
type bad []BadRow

func (b *bad) add(line int, field, format string, args ...any) {
	*b = append(*b, BadRow{line, field, fmt.Sprintf(format, args...)})
}

// refusals adds what the core refuses about a record.
func (b *bad) refusals(line int, err error) {
	for _, f := range plant.Refusals(err) {
		b.add(line, f.Field, "%s", f.Reason)
	}
}

func (b *bad) sorted() []BadRow {
	sort.SliceStable(*b, func(i, j int) bool { return (*b)[i].Line < (*b)[j].Line })
	if *b == nil {
		return []BadRow{}
	}
	return *b
}

// check looks at one stem record as a whole.
func (b *bad) check(r StemRecord) bool {
	before := len(*b)
	if r.Mother == "" {
		b.add(r.Line, "mother", "the mother's code is missing")
	}
	if r.Stem == "" {
		b.add(r.Line, "stem", "the stem's letter is missing")
	}
	if len(r.Map.Nodes) == 0 {
		b.add(r.Line, "nodes", "a stem needs at least one node")
	}
	b.refusals(r.Line, r.Map.Check())
	return len(*b) == before
}
