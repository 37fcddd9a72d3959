package potting

import (
	"fmt"
	"math"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Numbers of how deep, and of moving on.
var (
	StakeFrom  = number.Define(plant.Number{Key: "potting.stake_from", Label: "A stem wants a stake from so many times what is buried of it", Value: 3, Low: 0.5, High: 20, Unit: "times", Basis: plant.Assumed("a floppy piece is steadied; from when is ours")})
	RootRoom   = number.Define(plant.Number{Key: "potting.root_room", Label: "Deeper when moved on, where roots run down further than the pot by", Value: 15, Low: 0, High: 100, Unit: "mm", Basis: plant.Assumed("room below the roots")})
	Wider      = number.Define(plant.Number{Key: "potting.wider", Label: "Moved on into a pot wider by", Value: 25, Low: 5, High: 100, Unit: "mm", Basis: plant.Practice})
	NeverWider = number.Define(plant.Number{Key: "potting.never_wider", Label: "Never wider at once by", Value: 50, Low: 10, High: 300, Unit: "mm", Basis: plant.Practice})
)

// overNode is how much mix stands over the uppermost set node, underNode how far below the next one it ends, mm.
const (
	overNode  = 7.0
	underNode = 3.0
)

// leastBury is how deep its base stands so that its set nodes are covered; 0 for what is not set upright, or when nobody knows its nodes.
func (p Piece) leastBury() float64 {
	n := min(p.SetNodes, len(p.NodeMM))
	if p.pose() != plant.Upright || p.Kind == plant.LeafPiece || n < 1 {
		return 0
	}
	return p.NodeMM[n-1] + overNode
}

// bury is how deep its base is to stand where so much mix can cover it: bare stem to just below the next node.
func (p Piece) bury(room float64) float64 {
	least := p.leastBury()
	if least == 0 || len(p.NodeMM) <= p.SetNodes {
		return math.Min(least, math.Max(0, room))
	}
	return math.Min(math.Max(least, p.NodeMM[p.SetNodes]-underNode), math.Max(0, room))
}

// widest is the widest of the pots they stand in; nil when none stands in one.
func widest(all []Piece) *Pot {
	var out *Pot
	for i := range all {
		if now := all[i].Now; now != nil && (out == nil || now.TopMM > out.TopMM) {
			out = now
		}
	}
	return out
}

// movedOn is the pot after a pot: a little wider, and deeper where the roots run down.
func movedOn(t number.Table, now Pot, longestMM float64) (width, depth float64, why string) {
	width, depth = now.TopMM+t.Of(Wider), now.DepthMM
	why = fmt.Sprintf("%.0f mm wider than its pot of %.0f mm, never %.0f mm or more: what is far larger than the roots stays wet and rots them.", t.Of(Wider), now.TopMM, t.Of(NeverWider))
	if longestMM > depth {
		depth = math.Min(longestMM+t.Of(RootRoom), math.Max(depth, t.Of(DeepestPot)))
		why += " Deeper, because its roots run down."
	}
	return width, depth, why
}

// tooWide warns of a pot that is far wider than its plants want.
func (p Potful) tooWide(t number.Table, together []Piece, proposed Pot) []string {
	before := widest(together)
	switch {
	case before != nil && p.Pot.TopMM-before.TopMM >= t.Of(NeverWider):
		return []string{fmt.Sprintf("%.0f mm wider than before: %.0f mm or more at once stays wet and rots the roots.", p.Pot.TopMM-before.TopMM, t.Of(NeverWider))}
	case before == nil && p.Pot.TopMM-proposed.TopMM >= t.Of(NeverWider):
		return []string{fmt.Sprintf("%.0f mm wider than their roots want: it stays wet and rots them.", p.Pot.TopMM-proposed.TopMM)}
	}
	return nil
}
