package exchange

import (
	"fmt"
	"regexp"
	"sort"
	"time"

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
	MostBytes   = 16 << 20
	MostRecords = 5000
	MostRows    = 300_000
	// MostBad is how many bad rows are listed; the others are counted.
	MostBad = 200
)

// StemRecord is one stem map of one mother. Mother is her code; name, group and pattern are
// used when she is not known here yet.
type StemRecord struct {
	Line       int    `json:"-"`
	Mother     string `json:"mother"`
	MotherName string `json:"mother_name,omitempty"`
	Group      string `json:"group,omitempty"`
	Pattern    string `json:"pattern,omitempty"`
	Provenance string `json:"provenance,omitempty"`
	// RaisedFrom is the code of the cutting she was raised from; ByNameOnly that nothing more is known of her.
	RaisedFrom string `json:"raised_from,omitempty"`
	ByNameOnly bool   `json:"by_name_only,omitempty"`
	Stem       string `json:"stem"`
	// Version of the map and the day it was made; 0 and zero for not said.
	Version  int        `json:"map_version,omitempty"`
	MappedOn *time.Time `json:"mapped_on,omitempty"`
	Map      plant.Stem `json:"map"`
}

// PlanRecord is one cut plan.
type PlanRecord struct {
	Line   int        `json:"-"`
	Mother string     `json:"mother"`
	MadeAt *time.Time `json:"made_at,omitempty"`
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

// Bad is what could not be read of a file: the first rows of it, and how many there are in all.
type Bad struct {
	Rows  []BadRow `json:"rows"`
	Count int      `json:"count"`
}

// Add notes a bad row.
func (b *Bad) Add(line int, field, reason string) {
	b.Count++
	if len(b.Rows) < MostBad {
		b.Rows = append(b.Rows, BadRow{line, field, reason})
	}
}

func (b *Bad) add(line int, field, format string, args ...any) {
	if b.Count >= MostBad { // no need to write what is not shown
		b.Count++
		return
	}
	b.Add(line, field, fmt.Sprintf(format, args...))
}

// refusals adds what the core refuses about a record.
func (b *Bad) refusals(line int, err error) {
	for _, f := range plant.Refusals(err) {
		b.add(line, f.Field, "%s", f.Reason)
	}
}

// sorted puts the rows in the order they stand in the file.
func (b *Bad) sorted() Bad {
	sort.SliceStable(b.Rows, func(i, j int) bool { return b.Rows[i].Line < b.Rows[j].Line })
	if b.Rows == nil {
		b.Rows = []BadRow{}
	}
	return *b
}

// letters of a stem; what is counted by itself, as leaves are, has a letter with a number.
var letters = regexp.MustCompile(`^([A-Z]{1,3}|[A-Z][0-9]{1,2})$`)

// check looks at one stem record as a whole.
func (b *Bad) check(r StemRecord) bool {
	before := b.Count
	if r.Mother == "" {
		b.add(r.Line, "mother", "the mother's code is missing")
	}
	if !letters.MatchString(r.Stem) {
		b.add(r.Line, "stem", "%q is not a stem's letter: A, B ... Z, AA, or L1, L2 for leaves", r.Stem)
	}
	b.refusals(r.Line, r.Map.Check())
	return b.Count == before
}
