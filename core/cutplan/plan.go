package cutplan

import (
	"fmt"
	"math"
	"sort"

	"clearjar/core/plant"
	"clearjar/core/stats"
)

// Plan is a stem with knives laid on it.
type Plan struct {
	// KnivesMM are cut positions in mm from the base, ascending. What lies below the first stays on the mother.
	KnivesMM []float64 `json:"knives_mm"`
	// PlacesMM are where knives go under the school: what they snap to.
	PlacesMM []float64 `json:"places_mm"`
	// EndMM is where the standing stem ends.
	EndMM   float64  `json:"end_mm"`
	Pieces  []Piece  `json:"pieces"`
	Offcuts []Offcut `json:"offcuts"`
	Outlook
	MotherNodes  int `json:"mother_nodes"`
	MotherLeaves int `json:"mother_leaves"`
	// Detached says that it is off the mother already: nothing of it is left to keep.
	Detached bool     `json:"detached,omitempty"`
	Refused  []string `json:"refused"`
	Warnings []string `json:"warnings"`
}

// Outlook is what to expect of the pieces of one plan, or of several together.
type Outlook struct {
	// Expected is the expected number of plants; LoseAll the chance that none comes.
	Expected float64 `json:"expected"`
	LoseAll  float64 `json:"lose_all"`
	// Counts is the chance of each number of plants, 0 to the number of pieces.
	Counts []float64 `json:"counts"`
	// Worth is the expected worth by pattern.
	Worth float64 `json:"worth"`
}

// OutlookOf is the outlook of several plans together.
func OutlookOf(plans []Plan) Outlook {
	all := []Piece{}
	for _, p := range plans {
		all = append(all, p.Pieces...)
	}
	return outlook(all)
}

// Reached is what an outlook comes to under the aim.
func (a Aim) Reached(o Outlook) float64 {
	switch a.Kind {
	case AtLeastK:
		return stats.AtLeast(o.Counts, a.AtLeast)
	case MostWorth:
		return o.Worth
	}
	return o.Expected
}

// outlook sums up pieces.
func outlook(pieces []Piece) Outlook {
	chances := make([]float64, len(pieces))
	o := Outlook{}
	for i, p := range pieces {
		chances[i] = p.Chance
		o.Expected += p.Chance
		o.Worth += p.Worth
	}
	o.Counts = stats.PoissonBinomial(chances)
	o.LoseAll = o.Counts[0]
	return o
}

// Check works out what the given knives make of the stem. Knives off the standing stem are
// refused; a part without a node is an offcut and no piece.
func Check(b Bench, l Limits, knives []float64) (Plan, error) {
	if err := b.check(); err != nil {
		return Plan{}, err
	}
	if len(knives) > 2*plant.MostNodes+1 {
		return Plan{}, plant.Refuse("knives_mm", "at most %d knives", 2*plant.MostNodes+1)
	}
	knives = append([]float64{}, knives...)
	sort.Float64s(knives)
	end := b.End()
	for i, k := range knives {
		if math.IsNaN(k) || k < 0 || k >= end {
			return Plan{}, plant.Refuse(fmt.Sprintf("knives_mm[%d]", i), "%.0f mm is not on the stem that stands: 0 to %.0f mm", k, end)
		}
	}
	p := Plan{KnivesMM: knives, PlacesMM: b.Places(), EndMM: end, Pieces: []Piece{}, Offcuts: []Offcut{}, Refused: []string{}, Warnings: []string{}}
	node, top := 1, b.Standing()
	takeUpTo := func(mm float64) (first, last int) {
		first = node
		// A node at the very end belongs to the last part.
		for node <= top && (b.Stem.At(node) < mm || mm >= end-sameCutMM) {
			node++
		}
		return first, node - 1
	}
	first := end
	if len(knives) > 0 {
		first = knives[0]
	}
	_, p.MotherNodes = takeUpTo(first)
	p.MotherLeaves = b.leavesUpTo(p.MotherNodes)
	p.Detached = b.rule().Detached
	for i, from := range knives {
		to := end
		if i+1 < len(knives) {
			to = knives[i+1]
		}
		lo, hi := takeUpTo(to)
		b.addPart(&p, lo, hi, from, to, l)
	}
	p.Outlook = outlook(p.Pieces)
	b.remark(&p, l)
	return p, nil
}

func (b Bench) check() error {
	if err := b.Stem.Check(); err != nil {
		return err
	}
	if err := b.Conditions.Check(); err != nil {
		return err
	}
	if b.RootsLost > b.Sheet.value(RootsLost) {
		return plant.Refuse("roots_lost", "cutting off %.0f %% of the roots is too much: never more than %.0f %%", 100*b.RootsLost, 100*b.Sheet.value(RootsLost))
	}
	return nil
}

// addPart adds what lies between two knives: a piece, or an offcut when nothing in it is to be used.
func (b Bench) addPart(p *Plan, first, last int, from, to float64, l Limits) {
	used := false
	for n := first; n <= last; n++ {
		used = used || !b.Skip[n]
	}
	switch {
	case first > last:
		p.Offcuts = append(p.Offcuts, Offcut{from, to, "No node: it can never grow."})
	case !used:
		p.Offcuts = append(p.Offcuts, Offcut{from, to, fmt.Sprintf("Left out: node %s.", span(first, last))})
	default:
		piece := b.piece(first, last, from, to, l)
		if piece.Refused != "" {
			p.Refused = append(p.Refused, fmt.Sprintf("Between %.0f and %.0f mm: %s", from, to, piece.Refused))
		}
		p.Pieces = append(p.Pieces, piece)
	}
}

// nodeAt is the node that a knife at this place would bruise; 0 for none. At the very base there is nothing to cut.
func (b Bench) nodeAt(mm float64) int {
	if mm <= 0 {
		return 0
	}
	off := b.Sheet.value(KnifeOffNode)
	for n := 1; n <= len(b.Stem.Nodes); n++ {
		if math.Abs(b.Stem.At(n)-mm) < off {
			return n
		}
	}
	return 0
}

func span(first, last int) string { return plant.SpanText(first, last) }

func (b Bench) leavesUpTo(n int) int {
	leaves := 0
	for i := range n {
		if b.Stem.Nodes[i].Leaf {
			leaves++
		}
	}
	return leaves
}

// remark adds what holds for the plan as a whole: knives on nodes, and a mother left bare.
func (b Bench) remark(p *Plan, l Limits) {
	for _, k := range p.KnivesMM {
		if n := b.nodeAt(k); n > 0 {
			p.Refused = append(p.Refused, fmt.Sprintf("The knife at %.0f mm is on node %d: move it at least %.0f mm away.", k, n, b.Sheet.value(KnifeOffNode)))
		}
	}
	if len(p.KnivesMM) > 0 && len(p.Pieces) == 0 {
		p.Refused = append(p.Refused, "No piece has a node to grow from: it can never grow.")
	}
	if l.MostPieces > 0 && len(p.Pieces) > l.MostPieces {
		p.Warnings = append(p.Warnings, fmt.Sprintf("%s, and places for %d.", plant.Counted(len(p.Pieces), "piece", "pieces"), l.MostPieces))
	}
	for _, piece := range p.Pieces {
		if length := piece.ToMM - piece.FromMM; l.MostLengthMM > 0 && length > l.MostLengthMM+0.5 {
			p.Warnings = append(p.Warnings, fmt.Sprintf("The piece with node %s is %.0f mm long; the vessel takes %.0f mm.", span(piece.First, piece.Last), length, l.MostLengthMM))
		}
	}
	if len(p.KnivesMM) == 0 || !b.rule().KeepOne {
		return
	}
	switch {
	case p.MotherNodes == 0:
		p.Refused = append(p.Refused, "Nothing of this stem stays on the mother: leave at least one node.")
	case p.MotherLeaves == 0 && b.rule().Leafy:
		p.Warnings = append(p.Warnings, "The mother is left without a leaf on this stem: leafless stumps rot more easily. Less water and patience until it shoots.")
	}
}

// Propose finds the knives that serve the aim best under the limits. When the limits leave
// nothing to cut, the plan has no knives and a warning says why.
func Propose(b Bench, l Limits, aim Aim) (Plan, error) {
	together, err := ProposeTogether([]Bench{b}, l, aim)
	if err != nil {
		return Plan{}, err
	}
	return together.Plans[0], nil
}

// Together is a plan for several stems of one mother at once.
type Together struct {
	Plans []Plan `json:"plans"`
	Outlook
	// Reached is what the aim came to: plants, a chance, a worth.
	Reached float64 `json:"reached"`
	// Target is the node each stem is cut back to when the mother is reshaped, and why.
	Targets []Target `json:"targets,omitempty"`
}

// ProposeTogether finds the knives on all the stems that serve the aim best under limits they
// share: pieces at most and leaves kept count over all of them.
func ProposeTogether(benches []Bench, l Limits, aim Aim) (Together, error) {
	r, err := newSearch(benches, l, aim)
	if err != nil {
		return Together{}, err
	}
	best := r.best()
	out := Together{Targets: r.targets, Reached: best.reached}
	all := []Piece{}
	for i, b := range benches {
		plan, err := Check(b, l, best.knives(r, i))
		if err != nil {
			return Together{}, err
		}
		all = append(all, plan.Pieces...)
		out.Plans = append(out.Plans, plan)
	}
	out.Outlook = outlook(all)
	if len(all) == 0 {
		why := r.whyNothing()
		for i := range out.Plans {
			out.Plans[i].Warnings = append(out.Plans[i].Warnings, why...)
		}
	}
	return out, nil
}

// SameKnives tells whether two lists of knives are the same cuts, in any order.
func SameKnives(a, b []float64) bool {
	if len(a) != len(b) {
		return false
	}
	a, b = append([]float64{}, a...), append([]float64{}, b...)
	sort.Float64s(a)
	sort.Float64s(b)
	for i := range a {
		if math.Abs(a[i]-b[i]) > 0.05 {
			return false
		}
	}
	return true
}
