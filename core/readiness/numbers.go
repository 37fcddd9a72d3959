package readiness

import (
	"slices"

	"clearjar/core/life"
	"clearjar/core/number"
	"clearjar/core/plant"
)

func define(key, label string, value float64, unit string, basis plant.Basis) plant.Number {
	return number.Define(plant.Number{Key: "readiness." + key, Label: label, Value: value, Unit: unit, Basis: basis})
}

// Numbers of this package, each with its basis.
var (
	EarlyRootCount = define("early.roots", "Early roots: roots wanted", 2, "roots", plant.Practice)
	EarlyLongest   = define("early.longest", "Early roots: longest root wanted", 10, "mm", plant.Practice)
	EarlyUsual     = define("early.usual", "Early roots: potted at the longest by", 20, "mm", plant.Practice)
	EarlyMost      = define("early.most", "Early roots: more than ready from", 50, "mm", plant.Assumed("two and a half times the 20 mm at which this school pots"))
	LeafLongest    = define("leaf.longest", "First leaf: longest root that stands in for a tug", 10, "mm", plant.Assumed("in water there is nothing to tug against"))
	FullRootCount  = define("full.roots", "Full roots: several roots means", 3, "roots", plant.Assumed("several, read as three"))
	FullLongest    = define("full.longest", "Full roots: longest root wanted", 50, "mm", plant.Practice)
	FullNodes      = define("full.nodes", "Full roots: nodes rooted where two are set", 2, "nodes", plant.Practice)
	FullSideRoots  = define("full.side_roots", "Full roots: side roots showing", 1, "roots", plant.Practice)
	WaterMost      = define("water_most", "Longest stay in water", 91, "days", plant.Practice)
	ReadySince     = define("ready_since", "Ready for this long is overdue", 28, "days", plant.Assumed("roots that stand ready a month start to coil"))
	ReadyTrust     = define("ready_trust", "A look is trusted for potting for", 56, "days", plant.Assumed("in two months a piece may have rotted"))
	SideFrom       = define("side_from", "A side root counts from", 1, "mm", plant.Assumed("shorter, it is a bump"))
	DarkFactor     = define("dark_factor", "Times are longer in the dark half of the year by", 1.5, "times", plant.Assumed("1.5 to 2; the lower end. It comes and goes over two months around the equinoxes"))
	LeaflessSlower = define("leafless_slower", "Times are longer without a leaf by", 1.5, "times", plant.Assumed("leafless nodes are slow"))
	StaleFactor    = define("stale_factor", "A look settles nothing once older than this many look intervals", 2, "intervals", plant.Assumed("one look may be missed"))
	SoundMargin    = define("sound_margin", "Sound tissue between rot and a node that is kept", 5, "mm", plant.Assumed("ends dry or rot back 5 to 15 mm; the least of it"))
	ShockDays      = define("shock_days", "Yellowing and droop after potting count as shock for", 14, "days", plant.Practice)
	PottedLooks    = define("potted_looks", "Looks after potting, while it counts as shock, come every", 3, "days", plant.Practice)
	SettledLooks   = define("settled_looks", "Looks after potting come every, later on", 14, "days", plant.Assumed("as rarely as at hidden roots"))
	LeafAfter      = define("leaf_after", "A new leaf is looked for after potting by", 60, "days", plant.Assumed("twice the month in which most grow on"))
	SignalDays     = define("signal_days", "A note of foul water, dry or soaked medium asks for an answer for", 14, "days", plant.Assumed("after that the next look tells"))
)

// looks is how often one looks in each medium.
func looks() []plant.Number {
	out := []plant.Number{}
	for _, m := range plant.Media() {
		out = append(out, m.LookEvery)
	}
	return out
}

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	return slices.Concat([]plant.Number{
		life.RootedFrom, EarlyRootCount, EarlyLongest, EarlyUsual, EarlyMost, LeafLongest, FullRootCount, FullLongest, FullNodes, FullSideRoots, SideFrom,
		WaterMost, ReadySince, ReadyTrust, DarkFactor, LeaflessSlower, StaleFactor, SoundMargin, ShockDays, PottedLooks, SettledLooks, LeafAfter, life.GrownOnAfter, SignalDays, notFirstChoice, leaflessWakes, growerUncertain,
	}, looks())
}
