package cutplan

import (
	"errors"
	"math"
	"slices"
	"strings"

	"clearjar/core/plant"
)

// KnifeSchool is a school of thought about how much internode to leave.
type KnifeSchool string

// The schools of the knife.
const (
	MidInternode KnifeSchool = "mid"
	BelowNode    KnifeSchool = "below_node"
	TrimShort    KnifeSchool = "trim"
	LeaveLong    KnifeSchool = "long"
)

// LeafSchool is a school of thought about the leaves of a piece.
type LeafSchool string

// The schools of the leaf. All strip leaves that would sit in the medium.
const (
	KeepLeaf   LeafSchool = "keep"
	HalveLeaf  LeafSchool = "halve"
	StripNodes LeafSchool = "strip"
)

// Cover is what stands over the vessel.
type Cover string

// Covers; empty for what is usual with the medium.
const (
	Open    Cover = "open"
	Covered Cover = "covered"
)

// Conditions are what the grower decides besides where to cut.
type Conditions struct {
	// Medium the pieces are set in; empty for the group's first choice.
	Medium plant.Medium `json:"medium,omitempty"`
	// Season is bright or dark; empty to go by the date.
	Season  string      `json:"season,omitempty" enum:"bright,dark"`
	Cover   Cover       `json:"cover,omitempty" enum:"open,covered"`
	Knife   KnifeSchool `json:"knife,omitempty" enum:"mid,below_node,trim,long"`
	Leaves  LeafSchool  `json:"leaves,omitempty" enum:"keep,halve,strip"`
	Hormone bool        `json:"hormone,omitempty"`
	// SetWet sets every piece at once, also where its face should dry first.
	SetWet bool `json:"set_wet,omitempty"`
	// RootsLost is the share of a clump's roots that is cut off to get it apart, 0 to 1.
	RootsLost float64 `json:"roots_lost,omitempty" minimum:"0" maximum:"1"`
}

func mediaKeys() []string {
	out := []string{}
	for _, m := range plant.Media() {
		out = append(out, string(m.Medium))
	}
	return out
}

// Check refuses conditions that are no choice; a plan from a file may say anything.
func (c Conditions) Check() error {
	within := func(field, v string, known ...string) error {
		if v == "" || slices.Contains(known, v) {
			return nil
		}
		return plant.Refuse("conditions."+field, "%q is not one of %s", v, strings.Join(known, ", "))
	}
	err := errors.Join(
		within("medium", string(c.Medium), mediaKeys()...),
		within("season", c.Season, "bright", "dark"),
		within("cover", string(c.Cover), string(Open), string(Covered)),
		within("knife", string(c.Knife), string(MidInternode), string(BelowNode), string(TrimShort), string(LeaveLong)),
		within("leaves", string(c.Leaves), string(KeepLeaf), string(HalveLeaf), string(StripNodes)),
	)
	if !(c.RootsLost >= 0 && c.RootsLost <= 1) {
		err = errors.Join(err, plant.Refuse("conditions.roots_lost", "a share lies between 0 and 1"))
	}
	return err
}

// CutSchool is one choice of a school, with what speaks for it.
type CutSchool struct {
	Key   string      `json:"key"`
	Label string      `json:"label"`
	Why   string      `json:"why"`
	Basis plant.Basis `json:"basis"`
}

// KnifeSchools lists the schools of the knife.
func KnifeSchools() []CutSchool {
	return []CutSchool{
		{string(MidInternode), "mid-internode", "both neighbours get half; the safe choice for single nodes", plant.Practice},
		{string(BelowNode), "just below a node", "a 45 degree face; 13 to 25 mm below the lowest set node of thick stems, 5 to 10 mm of thin", plant.Practice},
		{string(TrimShort), "trim to about 25 mm", "about 25 mm of bare stem in all, because long bare stubs rot", plant.Practice},
		{string(LeaveLong), "leave internodes long", "longer ones gave better growth: the whole internode goes to the base of the piece", plant.Practice},
	}
}

// LeafSchools lists the schools of the leaf.
func LeafSchools() []CutSchool {
	return []CutSchool{
		{string(KeepLeaf), "keep the top leaf", "it feeds the roots", plant.Practice},
		{string(HalveLeaf), "cut blades by a third to a half", "less water lost before there are roots", plant.Practice},
		{string(StripNodes), "strip single nodes bare", "less to rot, and the bud pushes freely", plant.Practice},
	}
}

// Bench is what a plan is made for: one stem on the bench and where its pieces go.
type Bench struct {
	Stem  plant.Stem
	Group plant.Group
	// Taken marks node numbers that are no longer on the mother.
	Taken map[int]bool
	// Skip marks nodes the grower does not want used: damaged, or spoken for.
	Skip map[int]bool
	// EndMM is where the standing stem ends, in mm above its base, when it was cut before; 0 for a whole one.
	EndMM float64
	// Dark half of the year.
	Dark bool
	Conditions
	// Sheet is the numbers in use.
	Sheet Sheet
}

// NewBench lays a whole stem of a group on the bench.
func NewBench(stem plant.Stem, group plant.Group) Bench {
	return Bench{Stem: stem, Group: group, Taken: map[int]bool{}, Skip: map[int]bool{}}
}

// Take notes that a piece with nodes first to last was cut off fromMM above the base: the stem ends there, or
// where it ended before when that is lower.
func (b *Bench) Take(first, last int, fromMM float64) {
	for n := first; n <= last; n++ {
		b.Taken[n] = true
	}
	if b.EndMM == 0 || fromMM < b.EndMM {
		b.EndMM = fromMM
	}
}

// Organ is what lies on the bench: a creeping group's stem is a rhizome.
func (b Bench) Organ() plant.Organ {
	if b.Stem.Organ == "" && b.Group.Gives(plant.RhizomePiece) && !b.Group.Gives(plant.StemCutting) {
		return plant.Rhizome
	}
	return b.Stem.What()
}

func (b Bench) rule() plant.OrganRule {
	r, _ := b.Organ().Rule()
	return r
}

func (b Bench) medium() plant.Medium {
	if b.Medium != "" {
		return b.Medium
	}
	if len(b.Group.Media) > 0 {
		return b.Group.Media[0]
	}
	return plant.Water
}

// IsDark tells which half of the year is reckoned with: the grower's own, else that of the date.
func (b Bench) IsDark() bool {
	if b.Season != "" {
		return b.Season == "dark"
	}
	return b.Dark
}

// Standing is the highest node still on the mother: below the lowest node that was taken.
func (b Bench) Standing() int {
	top := len(b.Stem.Nodes)
	for n := range b.Taken {
		top = min(top, n-1)
	}
	return max(0, top)
}

// End is where the standing stem ends, in mm.
func (b Bench) End() float64 {
	top := b.Standing()
	if top == len(b.Stem.Nodes) {
		return b.Stem.LengthMM()
	}
	low, high := b.Stem.At(top), b.Stem.At(top+1)
	if b.EndMM > low && b.EndMM < high {
		return b.EndMM
	}
	return (low + high) / 2
}

// starts is where a piece whose lowest node is n begins, and stops where one whose highest
// node is n ends, both in mm from the base, under the school of the knife. Between neighbours
// the two differ only when the stem between them is trimmed away.
func (b Bench) starts(n int) float64 {
	at := b.Stem.At(n)
	if n == 1 {
		return b.firstStart(at)
	}
	below := b.Stem.At(n - 1)
	half := (at - below) / 2
	switch b.school() {
	case BelowNode:
		return at - math.Min(b.belowMM(), half)
	case TrimShort:
		return at - math.Min(b.trimSide(), half)
	case LeaveLong:
		return below + math.Min(b.Sheet.value(LongTop), half)
	}
	return at - half
}

// firstStart is the lower end of a piece that has the lowest node: all of it, or what the school leaves.
func (b Bench) firstStart(at float64) float64 {
	switch b.school() {
	case BelowNode:
		return math.Max(0, at-b.belowMM())
	case TrimShort:
		return math.Max(0, at-b.trimSide())
	}
	return 0
}

func (b Bench) stops(n int) float64 {
	top := b.Standing()
	if n >= top {
		return b.lastStop(n)
	}
	next := b.starts(n + 1)
	if b.school() == TrimShort {
		at := b.Stem.At(n)
		if to := at + math.Min(b.trimSide(), (b.Stem.At(n+1)-at)/2); next-to > sameCutMM {
			return to
		}
	}
	return next
}

// lastStop is the upper end of the piece with the highest standing node. A growing tip is never trimmed.
func (b Bench) lastStop(n int) float64 {
	end := b.End()
	if b.school() == TrimShort && !b.tipStands() {
		return math.Min(end, b.Stem.At(n)+b.trimSide())
	}
	return end
}

func (b Bench) tipStands() bool {
	return b.Stem.TipIntact && b.Standing() == len(b.Stem.Nodes) && b.endsMatter()
}

// along tells whether the organ is long, with nodes one after the other.
func (b Bench) along() bool {
	return b.rule().Along
}

// school is the school of the knife in use. Runners are trimmed to their length; what is
// divided rather than cut up is parted half way.
func (b Bench) school() KnifeSchool {
	switch r := b.rule(); {
	case r.MostPieceMM > 0:
		return TrimShort
	case r.Divided:
		return MidInternode
	}
	if b.Knife == "" {
		return MidInternode
	}
	return b.Knife
}

// belowMM is how far below the lowest set node the knife goes.
func (b Bench) belowMM() float64 {
	if b.Stem.ThicknessMM >= b.Sheet.value(ThickFrom) {
		return b.Sheet.value(BelowThick)
	}
	return b.Sheet.value(BelowThin)
}

// trimSide is the bare stem left beside an end node when pieces are trimmed.
func (b Bench) trimSide() float64 {
	if r := b.rule(); r.MostPieceMM > 0 {
		return (r.LeastPieceMM + r.MostPieceMM) / 4
	}
	return b.Sheet.value(TrimTotal) / 2
}

// Places are where the knife goes under the school, in mm from the base, ascending.
func (b Bench) Places() []float64 {
	out := []float64{}
	for n := 1; n <= b.Standing(); n++ {
		lower := b.starts(n)
		if n > 1 {
			if upper := b.stops(n - 1); lower-upper > sameCutMM {
				out = append(out, upper)
			}
		}
		if lower > 0 {
			out = append(out, lower)
		}
	}
	return out
}

// sameCutMM: two cuts nearer than this are one.
const sameCutMM = 1.0
