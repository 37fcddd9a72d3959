package readiness

import (
	"clearjar/core/life"
	"clearjar/core/plant"
)

func number(key, label string, value float64, unit string, basis plant.Basis) plant.Number {
	return plant.Number{Key: "readiness." + key, Label: label, Value: value, Unit: unit, Basis: basis}
}

// Numbers of this package, each with its basis.
var (
	EarlyRootCount = number("early.roots", "Early roots: roots wanted", 2, "roots", plant.Practice)
	EarlyLongest   = number("early.longest", "Early roots: longest root wanted", 10, "mm", plant.Practice)
	EarlyUsual     = number("early.usual", "Early roots: potted at the longest by", 20, "mm", plant.Practice)
	EarlyMost      = number("early.most", "Early roots: more than ready from", 50, "mm", plant.Assumed("two and a half times the 20 mm at which this school pots"))
	LeafLongest    = number("leaf.longest", "First leaf: longest root that stands in for a tug", 10, "mm", plant.Assumed("in water there is nothing to tug against"))
	FullRootCount  = number("full.roots", "Full roots: several roots means", 3, "roots", plant.Assumed("several, read as three"))
	FullLongest    = number("full.longest", "Full roots: longest root wanted", 50, "mm", plant.Practice)
	FullNodes      = number("full.nodes", "Full roots: nodes rooted where two are set", 2, "nodes", plant.Practice)
	FullSideRoots  = number("full.side_roots", "Full roots: side roots showing", 1, "roots", plant.Practice)
	WaterMost      = number("water_most", "Longest stay in water", 91, "days", plant.Practice)
	ReadySince     = number("ready_since", "Ready for this long is overdue", 28, "days", plant.Assumed("roots that stand ready a month start to coil"))
	ReadyTrust     = number("ready_trust", "A look is trusted for potting for", 56, "days", plant.Assumed("in two months a piece may have rotted"))
	SideFrom       = number("side_from", "A side root counts from", 1, "mm", plant.Assumed("shorter, it is a bump"))
	DarkFactor     = number("dark_factor", "Times are longer in the dark half of the year by", 1.5, "times", plant.Assumed("1.5 to 2; the lower end. It comes and goes over two months around the equinoxes"))
	LeaflessSlower = number("leafless_slower", "Times are longer without a leaf by", 1.5, "times", plant.Assumed("leafless nodes are slow"))
	StaleFactor    = number("stale_factor", "A look settles nothing once older than this many look intervals", 2, "intervals", plant.Assumed("one look may be missed"))
	SoundMargin    = number("sound_margin", "Sound tissue between rot and a node that is kept", 5, "mm", plant.Assumed("ends dry or rot back 5 to 15 mm; the least of it"))
	ShockDays      = number("shock_days", "Yellowing and droop after potting count as shock for", 14, "days", plant.Practice)
	LeafAfter      = number("leaf_after", "A new leaf is looked for after potting by", 60, "days", plant.Assumed("twice the month in which most grow on"))
	GrownFrom      = number("grown_from", "A leaf counts as grown since potting from", 7, "days", plant.Assumed("a leaf already unfolding when it was potted proves nothing"))
	SignalDays     = number("signal_days", "A note of foul water, dry or soaked medium asks for an answer for", 14, "days", plant.Assumed("after that the next look tells"))
)

// lookEvery is how many days pass between looks, by medium.
var lookEvery = map[plant.Medium]plant.Number{
	plant.Water:   number("look_every.water", "Days between looks in water", 7, "days", plant.Assumed("a weekly measurement; a glance is daily")),
	plant.Moss:    number("look_every.moss", "Days between looks in moss", 7, "days", plant.Practice),
	plant.Perlite: number("look_every.perlite", "Days between looks in perlite", 14, "days", plant.Assumed("roots are hidden; look by the shoot")),
	plant.Mix:     number("look_every.mix", "Days between looks in mix", 14, "days", plant.Assumed("roots are hidden; look by the shoot")),
}

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	return []plant.Number{
		life.RootedFrom, EarlyRootCount, EarlyLongest, EarlyUsual, EarlyMost, LeafLongest, FullRootCount, FullLongest, FullNodes, FullSideRoots, SideFrom,
		WaterMost, ReadySince, ReadyTrust, DarkFactor, LeaflessSlower, StaleFactor, SoundMargin, ShockDays, LeafAfter, GrownFrom, SignalDays,
		lookEvery[plant.Water], lookEvery[plant.Moss], lookEvery[plant.Perlite], lookEvery[plant.Mix],
	}
}

// schoolThreshold is the longest root each school wants.
var schoolThreshold = map[plant.SchoolKey]plant.Number{plant.EarlyRoots: EarlyLongest, plant.FirstLeaf: LeafLongest, plant.FullRoots: FullLongest}

// ThresholdMM is the longest root a school wants.
func ThresholdMM(school plant.SchoolKey) plant.Number { return schoolThreshold[school] }
