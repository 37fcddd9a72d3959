package cutplan

import (
	"fmt"
	"math"

	"clearjar/core/plant"
)

// Effect is one step from a starting value to a chance.
type Effect struct {
	Key   string      `json:"key,omitempty"`
	Label string      `json:"label"`
	Odds  float64     `json:"odds"`
	Basis plant.Basis `json:"basis"`
	// Node is the node it holds for; 0 for every set node of the piece.
	Node int `json:"node,omitempty"`
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
	// Baseline is the starting chance of one set node, Effects what changed it, NodeChances
	// what came out for each set node from the base up.
	Baseline    float64       `json:"baseline"`
	Start       *plant.Number `json:"start,omitempty"`
	Effects     []Effect      `json:"effects"`
	NodeChances []float64     `json:"node_chances,omitempty"`
	// Rot is the chance to rot first; RotStart and RotEffects say how it came about.
	Rot        float64       `json:"rot"`
	RotStart   *plant.Number `json:"rot_start,omitempty"`
	RotEffects []Effect      `json:"rot_effects,omitempty"`
	// Worth is what the piece is expected to be worth by the pattern of the bud that wakes.
	Worth float64 `json:"worth,omitempty"`
	// Strip lists nodes whose leaf comes off; Halve those whose blade is cut by a third to a half.
	Strip []int `json:"strip"`
	Halve []int `json:"halve,omitempty"`
	// Up says how it stands or lies; Slant that its lower face is cut at 45 degrees.
	Up      string `json:"up,omitempty"`
	Slant   bool   `json:"slant,omitempty"`
	Refused string `json:"refused,omitempty"`
	Warning string `json:"warning,omitempty"`
}

// Brief drops how the chance came about.
func (p Piece) Brief() Piece {
	p.Effects, p.RotEffects, p.NodeChances, p.Start, p.RotStart = []Effect{}, nil, nil, nil, nil
	return p
}

// Offcut is a part of the stem that no piece is made of.
type Offcut struct {
	FromMM float64 `json:"from_mm"`
	ToMM   float64 `json:"to_mm"`
	Why    string  `json:"why"`
}

// piece works out the piece with nodes first to last between two places on the stem.
func (b Bench) piece(first, last int, from, to float64, l Limits) Piece {
	p := Piece{First: first, Last: last, FromMM: from, ToMM: to, Effects: []Effect{}, Strip: []int{}}
	if first > last {
		p.Refused = "No node on this piece: it can never grow."
		return p
	}
	p.BelowMM, p.AboveMM = b.Stem.At(first)-from, to-b.Stem.At(last)
	topLeaf := 0
	for n := first; n <= last; n++ {
		if b.Stem.Nodes[n-1].Leaf {
			p.Leaves++
			topLeaf = n
		}
	}
	hasTip := last == len(b.Stem.Nodes) && b.tipStands() && to >= b.Stem.LengthMM()-sameCutMM
	b.name(&p, hasTip)
	b.setNodes(&p, topLeaf, hasTip, l)
	b.weigh(&p, hasTip)
	b.warn(&p, hasTip)
	return p
}

// name finds the kind of the piece and how it stands.
func (b Bench) name(p *Piece, hasTip bool) {
	rule := b.rule()
	p.Up, p.Slant = rule.Up, b.school() == BelowNode
	switch b.Organ() {
	case plant.LeafOrgan:
		p.Kind = plant.LeafPiece
		if form, ok := b.Stem.Form.Rule(); ok {
			p.Up = form.Up
		}
	case plant.StemOrgan:
		switch {
		case hasTip && b.Group.Heads:
			p.Kind = plant.Head
		case hasTip && !b.Group.Strands:
			p.Kind = plant.Tip
		case b.Group.Strands && p.Last-p.First+1 >= b.Group.StrandFrom:
			p.Kind = plant.Strand
		case b.Group.Strands && p.First == p.Last && p.Leaves > 0:
			p.Kind = plant.Pair
		case p.Last > p.First:
			p.Kind = plant.StemCutting
		case p.Leaves > 0 && b.Leaves != StripNodes:
			p.Kind = plant.LeafBud
		default:
			p.Kind = plant.WetStick
		}
	default:
		p.Kind = rule.Kind
	}
}

// SetUsually is how many growing points of a piece go into the medium when nobody said.
func SetUsually(s Sheet, kind plant.PieceKind, points int) int {
	if kind.Row().Whole {
		return points
	}
	return min(int(s.value(SetAtMost)), points)
}

// setNodes decides which nodes go into the medium and which leaves come off. Leaves that would
// sit in the medium rot; the top leaf stays to feed the piece.
func (b Bench) setNodes(p *Piece, topLeaf int, hasTip bool, l Limits) {
	count := p.Last - p.First + 1
	if !b.along() || b.rule().MostPieceMM > 0 || p.Kind.Row().Whole {
		p.Set = count
		return
	}
	p.Set = min(max(1, int(b.Sheet.value(SetAtMost))), count)
	// Petiole and blade of the leaf that stays are kept above water: its node is not set, unless it is the only one.
	if topLeaf > 0 && !b.medium().Row().Hidden {
		p.Set = max(1, min(p.Set, topLeaf-p.First))
	}
	if l.NoStrip {
		bare := 0
		for bare < p.Set && !b.Stem.Nodes[p.First-1+bare].Leaf {
			bare++
		}
		p.Set = max(1, bare)
	}
	stripAll := b.Leaves == StripNodes && count == 1 && !hasTip && !l.NoStrip
	for n := p.First; n <= p.Last; n++ {
		leaf := b.Stem.Nodes[n-1].Leaf
		switch {
		case !leaf:
		case stripAll, n < p.First+p.Set && n != topLeaf && !l.NoStrip:
			p.Strip = append(p.Strip, n)
		case b.Leaves == HalveLeaf:
			p.Halve = append(p.Halve, n)
		}
	}
}

// leavesKept is how many leaves are left to feed the piece.
func (p Piece) leavesKept() int { return p.Leaves - len(p.Strip) }

// warn says what speaks against the piece, the worst first.
func (b Bench) warn(p *Piece, hasTip bool) {
	rule := b.rule()
	dieBack := b.Sheet.value(DieBack)
	length := p.ToMM - p.FromMM
	switch {
	case p.Refused != "":
	case rule.MostPieceMM > 0 && (length > rule.MostPieceMM+sameCutMM || length < rule.LeastPieceMM-sameCutMM):
		p.Warning = fmt.Sprintf("%.0f mm: %s pieces are cut to %.0f to %.0f mm.", length, rule.Label, rule.LeastPieceMM, rule.MostPieceMM)
	case b.endsMatter() && (p.BelowMM < b.soundBelow() || (p.AboveMM < dieBack && !hasTip)):
		p.Warning = fmt.Sprintf("Less than %.0f mm of bare stem beside an end node: it may die back into the node.", dieBack)
	case b.Organ() == plant.LeafOrgan && b.patterned():
		p.Warning = rule.Warn
	case b.rule().Crowned && !b.rooted(p):
		p.Warning = withoutRoots[b.Organ()].warn
	case b.rule().Bare:
		p.Warning = rule.Warn
	case b.Organ() == plant.StemOrgan && p.Set == 1:
		p.Warning = "One node is one chance."
	}
}

// soundBelow is how much bare stem the lowest node of a piece needs: what dries back, or what the school
// of the knife itself leaves below a node when that is less.
func (b Bench) soundBelow() float64 {
	if b.school() == BelowNode {
		return math.Min(b.Sheet.value(DieBack), b.belowMM())
	}
	return b.Sheet.value(DieBack)
}

// endsMatter tells whether a cut end can die back into the end node.
func (b Bench) endsMatter() bool {
	return b.rule().Ends
}

// patterned tells whether any node shows a pattern.
func (b Bench) patterned() bool {
	for _, n := range b.Stem.Nodes {
		if n.Stripe == plant.StripeSome || n.Stripe == plant.StripeStrong {
			return true
		}
	}
	return false
}

// rooted tells whether a division has roots of its own.
func (b Bench) rooted(p *Piece) bool {
	for n := p.First; n <= p.Last; n++ {
		if b.Stem.Nodes[n-1].Rooted {
			return true
		}
	}
	return false
}
