package cutplan

import (
	"fmt"
	"math"
	"sort"

	"clearjar/core/plant"
)

// Plan is a stem with knives laid on it.
type Plan struct {
	// KnivesMM are cut positions in mm from the base, ascending. What lies below the first stays on the mother.
	KnivesMM []float64 `json:"knives_mm"`
	Pieces   []Piece   `json:"pieces"`
	// Expected is the expected number of plants; LoseAll the chance that none comes.
	Expected     float64  `json:"expected"`
	LoseAll      float64  `json:"lose_all"`
	MotherNodes  int      `json:"mother_nodes"`
	MotherLeaves int      `json:"mother_leaves"`
	Refused      []string `json:"refused"`
	Warnings     []string `json:"warnings"`
}

// standing is the highest node still on the mother: below the lowest node that was taken.
func (b Bench) standing() int {
	top := len(b.Stem.Nodes)
	for n := range b.Taken {
		top = min(top, n-1)
	}
	return max(0, top)
}

// end is where the standing stem ends, in mm.
func (b Bench) end() float64 {
	top := b.standing()
	if top == len(b.Stem.Nodes) {
		return b.Stem.LengthMM()
	}
	return b.knifeAbove(top)
}

// knifeAbove is the place of a knife in the middle of the internode above node n.
func (b Bench) knifeAbove(n int) float64 {
	if n >= len(b.Stem.Nodes) {
		return b.Stem.LengthMM()
	}
	return (b.Stem.At(n) + b.Stem.At(n+1)) / 2
}

// Check works out what the given knives make of the stem. Knives off the standing stem or on a node are refused.
func Check(b Bench, knives []float64) (Plan, error) {
	if err := b.Stem.Check(); err != nil {
		return Plan{}, err
	}
	if len(knives) > plant.MostNodes+1 {
		return Plan{}, plant.Refuse("knives_mm", "at most %d knives", plant.MostNodes+1)
	}
	knives = append([]float64{}, knives...)
	sort.Float64s(knives)
	end := b.end()
	for i, k := range knives {
		field := fmt.Sprintf("knives_mm[%d]", i)
		if math.IsNaN(k) || k < 0 || k >= end {
			return Plan{}, plant.Refuse(field, "%.0f mm is not on the stem that stands: 0 to %.0f mm", k, end)
		}
	}
	p := Plan{KnivesMM: knives, Pieces: []Piece{}, Refused: []string{}, Warnings: []string{}, LoseAll: 1}
	node := 1
	top := b.standing()
	takeUpTo := func(mm float64) (first, last int) {
		first = node
		for node <= top && b.Stem.At(node) < mm {
			node++
		}
		return first, node - 1
	}
	first := end
	if len(knives) > 0 {
		first = knives[0]
	}
	_, p.MotherNodes = takeUpTo(first)
	for n := 1; n <= p.MotherNodes; n++ {
		if b.Stem.Nodes[n-1].Leaf {
			p.MotherLeaves++
		}
	}
	for i, from := range knives {
		to := end
		if i+1 < len(knives) {
			to = knives[i+1]
		}
		lo, hi := takeUpTo(to)
		piece := b.piece(lo, hi, from, to)
		if piece.Refused != "" {
			p.Refused = append(p.Refused, fmt.Sprintf("Between %.0f and %.0f mm: %s", from, to, piece.Refused))
		}
		p.Expected += piece.Chance
		p.LoseAll *= 1 - piece.Chance
		p.Pieces = append(p.Pieces, piece)
	}
	b.remark(&p)
	return p, nil
}

// remark adds what holds for the plan as a whole: knives on nodes, and a mother left bare.
func (b Bench) remark(p *Plan) {
	for _, k := range p.KnivesMM {
		for n := 1; n <= len(b.Stem.Nodes); n++ {
			if math.Abs(b.Stem.At(n)-k) < KnifeOffNode.Value {
				p.Refused = append(p.Refused, fmt.Sprintf("The knife at %.0f mm is on node %d: move it at least %.0f mm away.", k, n, KnifeOffNode.Value))
			}
		}
	}
	if len(p.Pieces) == 0 {
		return
	}
	switch {
	case p.MotherNodes == 0:
		p.Refused = append(p.Refused, "Nothing of this stem stays on the mother: leave at least one node.")
	case p.MotherLeaves == 0:
		p.Warnings = append(p.Warnings, "The mother is left without a leaf on this stem: leafless stumps rot more easily. Less water and patience until it shoots.")
	}
}

// Propose finds the knives that give the most expected plants under the limits. When
// the limits leave nothing to cut, the plan has no knives and a warning says why.
func Propose(b Bench, l Limits) (Plan, error) {
	if err := b.Stem.Check(); err != nil {
		return Plan{}, err
	}
	if err := l.Check(); err != nil {
		return Plan{}, err
	}
	top := b.standing()
	most := l.MostPieces
	if most == 0 {
		most = top
	}
	best := b.solve(l, top, most)
	stays, count := -1, 0
	for k, value := 1, 0.0; k <= most; k++ {
		if n := b.bestStart(l, top, k, best); n >= 0 && best[n][k].value > value {
			stays, count, value = n, k, best[n][k].value
		}
	}
	if stays < 0 {
		p, err := Check(b, nil)
		p.Warnings = append(p.Warnings, fmt.Sprintf("Nothing to cut: the mother keeps %d node(s) and %d leaf/leaves here, and a piece needs %d node(s).", l.KeepNodes, l.KeepLeaves, l.LeastNodes))
		return p, err
	}
	return Check(b, b.knives(best, stays, count, top))
}

// knives reads the cut positions of the best plan of count pieces above node stays.
func (b Bench) knives(best [][]cell, stays, count, top int) []float64 {
	knives := []float64{}
	for n := stays; n < top; {
		knives = append(knives, b.knifeAbove(n))
		n, count = best[n][count].next, count-1
	}
	return knives
}

// cell is the best that can be made of the stem above a node with at most some pieces.
type cell struct {
	value float64
	next  int
}

const impossible = -1.0

// solve fills best[n][k]: everything above node n cut into exactly k pieces.
func (b Bench) solve(l Limits, top, most int) [][]cell {
	best := make([][]cell, top+1)
	for n := top; n >= 0; n-- {
		best[n] = make([]cell, most+1)
		for k := range best[n] {
			best[n][k] = cell{value: impossible}
		}
		if n == top {
			best[n][0].value = 0
			continue
		}
		for last := n + l.LeastNodes; last <= top && last-n <= max(l.MostNodes, l.TipMost); last++ {
			if last-n > l.pieceMost(b, last) {
				continue
			}
			chance := b.piece(n+1, last, b.knifeAbove(n), b.knifeAbove(last)).Chance
			for k := 1; k <= most; k++ {
				if rest := best[last][k-1].value; rest != impossible && chance+rest > best[n][k].value {
					best[n][k] = cell{chance + rest, last}
				}
			}
		}
	}
	return best
}

// pieceMost is how many nodes the piece that ends with node last may have.
func (l Limits) pieceMost(b Bench, last int) int {
	if last == len(b.Stem.Nodes) && b.Stem.TipIntact {
		return l.TipMost
	}
	return l.MostNodes
}

// bestStart is how many nodes stay on the mother so that k pieces above give the most; -1 when the limits allow none.
func (b Bench) bestStart(l Limits, top, k int, best [][]cell) int {
	stays, leaves, value := -1, 0, 0.0
	for n := 0; n < top; n++ {
		if n > 0 && b.Stem.Nodes[n-1].Leaf {
			leaves++
		}
		if n >= l.KeepNodes && leaves >= l.KeepLeaves && best[n][k].value > value {
			stays, value = n, best[n][k].value
		}
	}
	return stays
}
