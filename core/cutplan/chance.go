package cutplan

import (
	"fmt"

	"clearjar/core/plant"
)

// Bench is what a plan is made for: the stem on the bench and where its pieces go.
type Bench struct {
	Stem  plant.Stem
	Group plant.Group
	// Taken marks node numbers that are no longer on the mother.
	Taken map[int]bool
	// Medium the pieces are set in; empty for the group's first choice.
	Medium plant.Medium
	// Dark half of the year.
	Dark bool
}

// Effect is one step from the starting value to a chance.
type Effect struct {
	Label string      `json:"label"`
	Odds  float64     `json:"odds"`
	Basis plant.Basis `json:"basis"`
}

// Piece is one part of the stem between two knives.
type Piece struct {
	First int             `json:"first"`
	Last  int             `json:"last"`
	Kind  plant.PieceKind `json:"kind"`
	// FromMM and ToMM are its ends on the stem; BelowMM and AboveMM its bare stem outside the end nodes.
	FromMM  float64 `json:"from_mm"`
	ToMM    float64 `json:"to_mm"`
	BelowMM float64 `json:"below_mm"`
	AboveMM float64 `json:"above_mm"`
	// Set is how many nodes, from its base up, go into the medium.
	Set    int     `json:"set"`
	Leaves int     `json:"leaves"`
	Chance float64 `json:"chance"`
	// Baseline is the growth group's starting value; Effects what changed it for the lowest set node.
	Baseline float64  `json:"baseline"`
	Effects  []Effect `json:"effects"`
	Rot      float64  `json:"rot"`
	// Strip lists nodes whose leaf would sit in the medium.
	Strip   []int  `json:"strip"`
	Refused string `json:"refused,omitempty"`
	Warning string `json:"warning,omitempty"`
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

// piece works out the piece with nodes first to last between two places on the stem.
func (b Bench) piece(first, last int, from, to float64) Piece {
	p := Piece{First: first, Last: last, FromMM: from, ToMM: to, Effects: []Effect{}, Strip: []int{}}
	if first > last {
		p.Refused = "No node on this piece: it can never grow."
		return p
	}
	s := b.Stem
	p.BelowMM, p.AboveMM = s.At(first)-from, to-s.At(last)
	topLeaf := 0
	for n := first; n <= last; n++ {
		if s.Nodes[n-1].Leaf {
			p.Leaves++
			topLeaf = n
		}
	}
	hasTip := last == len(s.Nodes) && s.TipIntact && to >= s.LengthMM()-0.01
	switch {
	case hasTip:
		p.Kind = plant.Tip
	case last > first:
		p.Kind = plant.StemCutting
	case p.Leaves > 0:
		p.Kind = plant.LeafBud
	default:
		p.Kind = plant.WetStick
	}
	// One or two nodes are set. Leaves that would sit in the medium rot, but the top leaf stays to feed the piece.
	p.Set = min(int(SetAtMost.Value), last-first+1)
	for n := first; n < first+p.Set; n++ {
		if s.Nodes[n-1].Leaf && n != topLeaf {
			p.Strip = append(p.Strip, n)
		}
	}
	b.weigh(&p, hasTip)
	return p
}

func (b Bench) weigh(p *Piece, hasTip bool) {
	p.Baseline = b.Group.Wake
	common := []Effect{}
	add := func(list *[]Effect, n plant.Number, label string) {
		*list = append(*list, Effect{label, n.Value, n.Basis})
	}
	if p.Leaves == 0 {
		add(&common, LeaflessOdds, LeaflessOdds.Label)
	}
	if hasTip {
		add(&common, TipOdds, TipOdds.Label)
	}
	if !b.Group.Suits(b.medium()) {
		add(&common, UnsuitedOdds, fmt.Sprintf("%s, where %s are not usually rooted", b.medium(), b.Group.Name))
	}
	if b.Dark {
		add(&common, DarkOdds, DarkOdds.Label)
	}
	asleep := 1.0
	for n := p.First; n < p.First+p.Set; n++ {
		effects := append([]Effect{}, common...)
		node := b.Stem.Nodes[n-1]
		if node.Aerial {
			add(&effects, AerialOdds, fmt.Sprintf("Aerial root on node %d", n))
		}
		if node.Bud != plant.BudDormant {
			add(&effects, AwakeOdds, fmt.Sprintf("Bud awake on node %d", n))
		}
		if n == p.First && p.BelowMM < DieBack.Value {
			add(&effects, ShortOdds, fmt.Sprintf("Sound stem below node %d: %.0f mm, dies back 5-15", n, p.BelowMM))
		}
		if n == p.Last && p.AboveMM < DieBack.Value && !hasTip {
			add(&effects, ShortOdds, fmt.Sprintf("Sound stem above node %d: %.0f mm, dies back 5-15", n, p.AboveMM))
		}
		odds := p.Baseline / (1 - p.Baseline)
		for _, e := range effects {
			odds *= e.Odds
		}
		asleep *= 1 - odds/(1+odds)
		p.Effects = append(p.Effects, effects[len(common):]...)
	}
	p.Effects = append(common, p.Effects...)
	p.Rot = RotChance.Value
	if !hasTip {
		p.Rot += RotPerFace.Value
	}
	p.Chance = (1 - asleep) * (1 - p.Rot)
	if p.BelowMM < DieBack.Value || (p.AboveMM < DieBack.Value && !hasTip) {
		p.Warning = fmt.Sprintf("Less than %.0f mm of bare stem beside an end node: it may die back into the node.", DieBack.Value)
	}
	if p.Set == 1 && p.Warning == "" {
		p.Warning = "One node is one chance."
	}
}
