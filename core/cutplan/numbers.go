package cutplan

import "clearjar/core/plant"

func ratio(key, label string, v float64, b plant.Basis) plant.Number {
	return plant.Number{Key: "cutplan." + key, Label: label, Value: v, Unit: "odds ratio", Basis: b}
}

// Numbers of this package.
var (
	LeaflessOdds = ratio("leafless", "No leaf on the piece", 0.25, plant.Assumed("growers call leafless nodes the worst bet; the size is ours"))
	AerialOdds   = ratio("aerial", "Aerial root at the node", 2, plant.Assumed("a node with one roots sooner is common practice; the size is ours"))
	AwakeOdds    = ratio("awake", "Bud already swelling or further", 1.5, plant.Assumed("some nodes never wake is common practice; the size is ours"))
	ShortOdds    = ratio("short", "Sound stem beside the end node shorter than die-back", 0.5, plant.Assumed("ends dry or rot back 5 to 15 mm; the size is ours"))
	UnsuitedOdds = ratio("unsuited", "A medium the group is not usually rooted in", 0.5, plant.Assumed("off the handbook's list for the group"))
	DarkOdds     = ratio("dark", "Dark half of the year", 0.7, plant.Assumed("expect it to take far longer; the size is ours"))
	TipOdds      = ratio("tip", "Growing tip on the piece", 1.5, plant.Assumed("young green growth roots more readily; the size is ours"))
	RotChance    = plant.Number{Key: "cutplan.rot", Label: "Chance that a piece rots before it roots", Value: 0.05, Unit: "fraction", Basis: plant.Assumed("one in twenty")}
	RotPerFace   = plant.Number{Key: "cutplan.rot_second_face", Label: "More chance to rot for a second cut face", Value: 0.03, Unit: "fraction", Basis: plant.Assumed("every wound is a way in")}
	DieBack      = plant.Number{Key: "cutplan.die_back", Label: "Ends dry or rot back", Value: 10, Unit: "mm", Basis: plant.Basis{Kind: plant.CommonPractice, Source: "5 to 15 mm each; the middle"}}
	SetAtMost    = plant.Number{Key: "cutplan.set_at_most", Label: "Nodes set, at most", Value: 2, Unit: "nodes", Basis: plant.Practice}
	KnifeOffNode = plant.Number{Key: "cutplan.knife_off_node", Label: "Knife at least this far from a node", Value: 2, Unit: "mm", Basis: plant.Assumed("nearer, the blade bruises the bud")}
)

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	return []plant.Number{LeaflessOdds, AerialOdds, AwakeOdds, ShortOdds, UnsuitedOdds, DarkOdds, TipOdds, RotChance, RotPerFace, DieBack, SetAtMost, KnifeOffNode}
}

// Limits are what the grower asks of a plan.
type Limits struct {
	// LeastNodes and MostNodes bound a stem piece; the tip piece may have up to TipMost.
	LeastNodes int `json:"least_nodes" minimum:"1" maximum:"10"`
	MostNodes  int `json:"most_nodes" minimum:"1" maximum:"10"`
	TipMost    int `json:"tip_most" minimum:"1" maximum:"12"`
	// KeepLeaves and KeepNodes stay on the mother.
	KeepLeaves int `json:"keep_leaves" minimum:"0" maximum:"20"`
	KeepNodes  int `json:"keep_nodes" minimum:"0" maximum:"60"`
	// MostPieces bounds the number of pieces; 0 for no bound.
	MostPieces int `json:"most_pieces" minimum:"0" maximum:"60"`
}

// DefaultLimits: pieces of two nodes, a tip with one or two bare nodes below, one leaf and one node stay.
func DefaultLimits() Limits {
	return Limits{LeastNodes: 2, MostNodes: 3, TipMost: 4, KeepLeaves: 1, KeepNodes: 1}
}

// Check refuses limits that contradict each other, naming both.
func (l Limits) Check() error {
	switch {
	case l.LeastNodes < 1:
		return plant.Refuse("limits.least_nodes", "a piece without a node never grows: at least 1")
	case l.MostNodes < l.LeastNodes:
		return plant.Refuse("limits.most_nodes", "at most %d nodes contradicts at least %d", l.MostNodes, l.LeastNodes)
	case l.TipMost < l.LeastNodes:
		return plant.Refuse("limits.tip_most", "a tip of at most %d nodes contradicts at least %d in a piece", l.TipMost, l.LeastNodes)
	case l.KeepLeaves < 0 || l.KeepNodes < 0 || l.MostPieces < 0:
		return plant.Refuse("limits", "no limit is negative")
	}
	return nil
}
