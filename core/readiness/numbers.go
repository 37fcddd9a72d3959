package readiness

import "clearjar/core/plant"

func number(key, label string, value float64, unit string, basis plant.Basis) plant.Number {
	return plant.Number{Key: "readiness." + key, Label: label, Value: value, Unit: unit, Basis: basis}
}

// Numbers of this package, each with its basis.
var (
	CountedFrom    = number("counted_from", "A root counts from", 5, "mm", plant.Practice)
	EarlyRootCount = number("early.roots", "Early roots: roots wanted", 2, "roots", plant.Practice)
	EarlyLongest   = number("early.longest", "Early roots: longest root wanted", 10, "mm", plant.Practice)
	LeafLongest    = number("leaf.longest", "First leaf: longest root that stands in for a tug", 10, "mm", plant.Assumed("in water there is nothing to tug against"))
	FullRootCount  = number("full.roots", "Full roots: several roots means", 3, "roots", plant.Assumed("several, read as three"))
	FullLongest    = number("full.longest", "Full roots: longest root wanted", 50, "mm", plant.Practice)
	FullNodes      = number("full.nodes", "Full roots: nodes rooted where two are set", 2, "nodes", plant.Practice)
	FullSideRoots  = number("full.side_roots", "Full roots: side roots showing", 1, "roots", plant.Practice)
	WaterMost      = number("water_most", "Longest stay in water", 91, "days", plant.Practice)
	ReadySince     = number("ready_since", "Ready for this long is overdue", 28, "days", plant.Assumed("roots that stand ready a month start to coil"))
	SideFrom       = number("side_from", "A side root counts from", 1, "mm", plant.Assumed("shorter, it is a bump"))
	DarkFactor     = number("dark_factor", "Times are longer in the dark half of the year by", 1.5, "times", plant.Assumed("1.5 to 2; the lower end"))
	StaleFactor    = number("stale_factor", "A look settles nothing once older than this many look intervals", 2, "intervals", plant.Assumed("one look may be missed"))
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
		CountedFrom, EarlyRootCount, EarlyLongest, LeafLongest, FullRootCount, FullLongest, FullNodes, FullSideRoots, SideFrom,
		WaterMost, ReadySince, DarkFactor, StaleFactor,
		lookEvery[plant.Water], lookEvery[plant.Moss], lookEvery[plant.Perlite], lookEvery[plant.Mix],
	}
}

// ThresholdMM is the longest root a school wants.
func ThresholdMM(school plant.SchoolKey) plant.Number {
	switch school {
	case plant.FullRoots:
		return FullLongest
	case plant.FirstLeaf:
		return LeafLongest
	}
	return EarlyLongest
}
