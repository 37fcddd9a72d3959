package cutplan

import (
	"clearjar/core/plant"
)

// Limits are what the grower asks of a plan.
type Limits struct {
	// LeastNodes and MostNodes bound a stem piece; the tip piece may have up to TipMost.
	LeastNodes int `json:"least_nodes" minimum:"1" maximum:"10"`
	MostNodes  int `json:"most_nodes" minimum:"1" maximum:"10"`
	TipMost    int `json:"tip_most" minimum:"1" maximum:"12"`
	// TipBare is how many bare nodes a tip piece needs below its lowest leaf.
	TipBare int `json:"tip_bare,omitempty" minimum:"0" maximum:"4"`
	// NoStrip forbids to strip leaves: only nodes that are bare already are set beside the lowest.
	NoStrip bool `json:"no_strip,omitempty"`
	// KeepLeaves stay on the mother, on the stems that are planned together; KeepNodes on each of them.
	KeepLeaves int `json:"keep_leaves" minimum:"0" maximum:"20"`
	KeepNodes  int `json:"keep_nodes" minimum:"0" maximum:"60"`
	// MostPieces bounds the number of pieces, for the places in the vessels; 0 for no bound.
	MostPieces int `json:"most_pieces" minimum:"0" maximum:"60"`
	// MostLengthMM is the longest piece a vessel takes; 0 for no bound.
	MostLengthMM float64 `json:"most_length_mm,omitempty" minimum:"0" maximum:"5000"`
}

// DefaultLimits: pieces of two nodes, a tip with a bare node below, one leaf and one node stay.
func DefaultLimits() Limits {
	return Limits{LeastNodes: 2, MostNodes: 3, TipMost: 4, TipBare: 1, KeepLeaves: 1, KeepNodes: 1}
}

// LimitsFor are the limits to start from for an organ: what is divided rather than cut up is
// divided into single growing points.
func LimitsFor(o plant.Organ) Limits {
	l := DefaultLimits()
	switch r, _ := o.Rule(); {
	case r.Divided || r.MostPieceMM > 0:
		l.LeastNodes, l.MostNodes, l.TipMost, l.TipBare, l.KeepLeaves = 1, 2, 2, 0, 0
	case r.Single:
		l.LeastNodes, l.TipBare = 1, 0
	}
	return l
}

// Check refuses limits that contradict each other, naming both.
func (l Limits) Check() error {
	switch {
	case l.LeastNodes < 1:
		return plant.Refuse("limits.least_nodes", "a piece without a node never grows: at least 1")
	case l.MostNodes < l.LeastNodes:
		return plant.Refuse("limits.most_nodes", "pieces of at most %d nodes contradict pieces of at least %d", l.MostNodes, l.LeastNodes)
	case l.TipMost < l.LeastNodes:
		return plant.Refuse("limits.tip_most", "a tip of at most %d nodes contradicts pieces of at least %d", l.TipMost, l.LeastNodes)
	case l.TipBare > l.TipMost:
		return plant.Refuse("limits.tip_bare", "%d bare nodes below the tip contradict a tip of at most %d nodes", l.TipBare, l.TipMost)
	case l.KeepLeaves < 0 || l.KeepNodes < 0 || l.MostPieces < 0 || l.MostLengthMM < 0 || l.TipBare < 0:
		return plant.Refuse("limits", "no limit is negative")
	}
	return nil
}

// allows tells whether the limits take a piece with nodes first to last.
func (l Limits) allows(b Bench, first, last int, from, to float64) bool {
	count := last - first + 1
	tip := last == len(b.Stem.Nodes) && b.tipStands()
	most := l.MostNodes
	if tip {
		most = l.TipMost
	}
	if count < l.LeastNodes || count > most {
		return false
	}
	if l.MostLengthMM > 0 && to-from > l.MostLengthMM {
		return false
	}
	if r := b.rule(); r.MostPieceMM > 0 && to-from > r.MostPieceMM+sameCutMM {
		return false
	}
	// Where nodes stand too close for a blade, no knife goes.
	if b.nodeAt(from) > 0 || (to < b.End()-sameCutMM && b.nodeAt(to) > 0) {
		return false
	}
	for n := first; n <= last; n++ {
		if b.Skip[n] {
			return false
		}
	}
	return !tip || b.Organ() != plant.StemOrgan || l.bareBelow(b, first, last)
}

// bareBelow tells whether a tip piece has its bare nodes below the lowest leaf that stays.
func (l Limits) bareBelow(b Bench, first, last int) bool {
	topLeaf := last
	for topLeaf >= first && !b.Stem.Nodes[topLeaf-1].Leaf {
		topLeaf--
	}
	for n := first; n < first+l.TipBare; n++ {
		// The top leaf feeds the piece and is never stripped.
		if n > last || b.Stem.Nodes[n-1].Leaf && (l.NoStrip || n == topLeaf) {
			return false
		}
	}
	return true
}

// keeps is how many nodes must stay of this organ.
func (l Limits) keeps(b Bench) int {
	if !b.rule().KeepOne {
		return 0
	}
	return max(1, l.KeepNodes)
}

// AimKind is what a plan is best for.
type AimKind string

// The aims.
const (
	MostPlants AimKind = "expected"
	AtLeastK   AimKind = "at_least"
	MostWorth  AimKind = "value"
	Reshape    AimKind = "reshape"
)

// Aim is what a plan should be best for.
type Aim struct {
	Kind AimKind `json:"kind,omitempty" enum:"expected,at_least,value,reshape"`
	// AtLeast is the number of plants whose chance is made as large as can be.
	AtLeast int `json:"at_least,omitempty" minimum:"0" maximum:"30"`
	// CutBackTo is the node above which the mother is cut back when she is reshaped; 0 to propose one.
	CutBackTo int `json:"cut_back_to,omitempty" minimum:"0" maximum:"60"`
}

// AimChoice is an aim with what it means.
type AimChoice struct {
	Kind  AimKind `json:"kind"`
	Label string  `json:"label"`
	Means string  `json:"means"`
}

// Aims lists the aims a grower can choose from.
func Aims() []AimChoice {
	return []AimChoice{
		{MostPlants, "most plants I can expect", "the sum of the chances is as large as can be"},
		{AtLeastK, "at least so many plants", "the chance of at least that many is as large as can be"},
		{MostWorth, "most pattern", "plants count by the pattern of the bud that wakes"},
		{Reshape, "reshape the mother", "she is cut back to one node; what comes off is made the most of"},
	}
}

// Check refuses an aim that the limits cannot serve, naming both.
func (a Aim) Check(l Limits) error {
	switch a.Kind {
	case "", MostPlants, MostWorth:
		return nil
	case AtLeastK:
		if a.AtLeast < 1 || a.AtLeast > 30 {
			return plant.Refuse("aim.at_least", "say how many plants you want: 1 to 30")
		}
		if l.MostPieces > 0 && a.AtLeast > l.MostPieces {
			return plant.Refuse("aim.at_least", "at least %d plants contradict at most %d pieces", a.AtLeast, l.MostPieces)
		}
		return nil
	case Reshape:
		if a.CutBackTo > 0 && a.CutBackTo < l.KeepNodes {
			return plant.Refuse("aim.cut_back_to", "cutting back to node %d contradicts the %d nodes the mother keeps", a.CutBackTo, l.KeepNodes)
		}
		return nil
	}
	return plant.Refuse("aim.kind", "%q is not an aim", a.Kind)
}
