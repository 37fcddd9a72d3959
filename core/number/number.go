// Package number holds the numbers of the job: each under a key, with its unit, the range it may lie in
// and where it comes from. A [Table] lays a household's own changes over the starting values; every
// function of the core that rests on a number takes the table.
package number

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"math"
	"sort"
)

// BasisKind says how far a number can be trusted.
type BasisKind string

// The kinds of basis, from the firmest to the loosest.
const (
	YourRecords    BasisKind = "your records"
	Published      BasisKind = "published"
	CommonPractice BasisKind = "common practice"
	Assumption     BasisKind = "assumption"
	YourChoice     BasisKind = "your choice"
)

// Basis is where a number comes from.
type Basis struct {
	Kind BasisKind `json:"kind" enum:"your records,published,common practice,assumption,your choice"`
	// Source is the author, title and year of a published number, or a remark.
	Source string `json:"source,omitempty"`
}

// Practice is the basis of most numbers of the trade: many growers do so, nobody published it.
var Practice = Basis{Kind: CommonPractice, Source: "no source"}

// Assumed marks a starting value of ours, to be replaced by the grower's records.
func Assumed(why string) Basis { return Basis{Kind: Assumption, Source: why} }

// FromPrint marks a published number that was quoted from memory.
func FromPrint(source string) Basis {
	return Basis{Kind: Published, Source: source + " (from memory)"}
}

// Number is one number of the job with its unit and its basis.
type Number struct {
	Key   string  `json:"key"`
	Label string  `json:"label"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
	// Low and High are the ends of the range it may be changed in.
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
	Basis Basis   `json:"basis"`
}

// ranges are the ends a number of a unit may lie between; fraction for any other.
var ranges = map[string][2]float64{
	"fraction":   {0, 1},
	"odds ratio": {0.01, 100},
	"mm":         {0, 200},
	"worth":      {0, 1000},
	"nodes":      {1, 60},
	"roots":      {0, 200},
	"days":       {0, 730},
	"hours":      {0, 730},
	"records":    {0, 1000},
	"times":      {0.1, 20},
	"intervals":  {1, 20},
	"pixels":     {0, 1000},
}

// defined is every starting value by its key, in the order they were defined.
var (
	defined = map[string]Number{}
	keys    []string
)

// Define puts a starting value on the table. A key defined twice, or a value outside its own range, is a
// slip of the program and stops it at once. A range left out is that of its unit.
func Define(n Number) Number {
	if n.Low == 0 && n.High == 0 {
		r, ok := ranges[n.Unit]
		if !ok {
			r = ranges["fraction"]
		}
		n.Low, n.High = r[0], r[1]
	}
	if _, twice := defined[n.Key]; twice || n.Value < n.Low || n.Value > n.High {
		panic(fmt.Sprintf("number %s: defined twice, or %g outside %g to %g", n.Key, n.Value, n.Low, n.High))
	}
	defined[n.Key] = n
	keys = append(keys, n.Key)
	return n
}

// Start is the starting value under a key.
func Start(key string) (Number, bool) {
	n, ok := defined[key]
	return n, ok
}

// All lists every starting value, in the order they were defined.
func All() []Number {
	out := make([]Number, len(keys))
	for i, k := range keys {
		out[i] = defined[k]
	}
	return out
}

// Change puts a value in place of a starting value.
type Change struct {
	Key   string  `json:"key"`
	Value float64 `json:"value"`
	// Won and Tried are the records the value rests on; Tried 0 when the grower chose it.
	Won   int `json:"won,omitempty"`
	Tried int `json:"tried,omitempty"`
}

// ChangeError says which change cannot be, and why.
type ChangeError struct {
	// Change counts the changes from 0; Field is key or value.
	Change int
	Field  string
	Reason string
}

func (e ChangeError) Error() string { return e.Reason }

// Table is the numbers in use: the starting values, with what a household put in their place. The zero
// Table holds the starting values.
type Table struct{ changed map[string]Number }

// With gives the table with changes laid over it. A key that is not on it, or a value outside its range,
// is refused as a [ChangeError]; the table itself is not touched.
func (t Table) With(changes ...Change) (Table, error) {
	out := Table{changed: map[string]Number{}}
	for k, n := range t.changed {
		out.changed[k] = n
	}
	for i, c := range changes {
		start, ok := defined[c.Key]
		if !ok {
			return Table{}, ChangeError{i, "key", fmt.Sprintf("%q is not a number of the job", c.Key)}
		}
		if math.IsNaN(c.Value) || c.Value < start.Low || c.Value > start.High {
			return Table{}, ChangeError{i, "value", fmt.Sprintf("%s lies between %g and %g", start.Label, start.Low, start.High)}
		}
		n := start
		n.Value = c.Value
		n.Basis = Basis{Kind: YourChoice, Source: fmt.Sprintf("in place of %.3g", start.Value)}
		if c.Tried > 0 {
			n.Basis = Basis{Kind: YourRecords, Source: fmt.Sprintf("n = %d, %d grew on; in place of %.3g", c.Tried, c.Won, start.Value)}
		}
		out.changed[c.Key] = n
	}
	return out, nil
}

// Known tells whether a key is a number of the job.
func Known(key string) bool { _, ok := defined[key]; return ok }

// At is the number in use under a key.
func (t Table) At(key string) Number {
	if n, ok := t.changed[key]; ok {
		return n
	}
	return defined[key]
}

// Now is a number as it is in use.
func (t Table) Now(n Number) Number { return t.At(n.Key) }

// Of is the value in use of a number.
func (t Table) Of(n Number) float64 {
	if len(t.changed) == 0 {
		return n.Value // most households change nothing
	}
	return t.At(n.Key).Value
}

// Int is the value in use of a number that counts.
func (t Table) Int(n Number) int { return int(t.Of(n)) }

// Changed lists the keys whose value is not the starting one, sorted.
func (t Table) Changed() []string {
	out := make([]string, 0, len(t.changed))
	for k := range t.changed {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}

// Version names the changes: two tables of one version give the same values. Empty for the starting values.
func (t Table) Version() string {
	if len(t.changed) == 0 {
		return ""
	}
	sum := sha256.New()
	for _, k := range t.Changed() {
		fmt.Fprintf(sum, "%s=%b\n", k, t.changed[k].Value)
	}
	return hex.EncodeToString(sum.Sum(nil))[:12]
}
