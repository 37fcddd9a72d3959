package cutplan

import (
	"slices"

	"clearjar/core/number"
	"clearjar/core/plant"
)

func define(key, label string, v float64, unit string, b plant.Basis) plant.Number {
	return number.Define(plant.Number{Key: "cutplan." + key, Label: label, Value: v, Unit: unit, Basis: b})
}

func ratio(key, label string, v float64, why string) plant.Number {
	return define(key, label, v, "odds ratio", plant.Assumed(why))
}

func practice(what string) plant.Basis {
	return plant.Basis{Kind: plant.CommonPractice, Source: what}
}

// Odds ratios on the chance that a set node wakes.
var (
	LeaflessOdds = ratio("leafless", "No leaf on the piece", 0.25, "growers call leafless nodes the worst bet; the size is ours")
	HalvedOdds   = ratio("halved", "Blades cut by a third to a half", 0.9, "less to feed it, less water lost; the size is ours")
	AerialOdds   = ratio("aerial", "Aerial root at the node", 2, "a node with one roots sooner is common practice; the size is ours")
	AwakeOdds    = ratio("awake", "Bud already swelling or further", 1.5, "some nodes never wake is common practice; the size is ours")
	ShortOdds    = ratio("short", "Sound stem beside the end node shorter than die-back", 0.5, "ends dry or rot back 5 to 15 mm; the size is ours")
	DarkOdds     = ratio("dark", "Dark half of the year", 0.7, "expect it to take far longer; the size is ours")
	TipOdds      = ratio("tip", "Growing tip on the piece", 1.5, "young green growth roots more readily; the size is ours")
	HalfRipeOdds = ratio("half_ripe", "Stem half hardened", 0.8, "younger green growth roots more readily; the size is ours")
	WoodyOdds    = ratio("woody", "Woody stem", 0.5, "thick old trunks root slowly; the size is ours")
	ThickOdds    = ratio("thick", "Very thick stem", 0.8, "thick old trunks root slowly; the size is ours")
	HormoneEasy  = ratio("hormone_easy", "Hormone on an easy rooter", 1.1, "optional for easy vines; the size is ours")
	HormoneSlow  = ratio("hormone_slow", "Hormone on a slow rooter", 1.4, "useful for slow ones; the size is ours")
	OpenOdds     = ratio("open", "No cover over moss, perlite or mix", 0.7, "unrooted pieces lose water and cannot drink; the size is ours")
	// DivideOnlyOdds: what has no growing point and roots of its own does not grow on.
	DivideOnlyOdds = ratio("divide_only", "A piece that is no division, of a group that only divides", 0.01, "these only divide is common practice; the size is ours")
	UnusualOdds    = ratio("unusual_kind", "A kind of piece the group is not usually multiplied from", 0.3, "off the list of kinds of the group")
)

// Odds ratios of the ways to divide a leaf.
var (
	HalfLeafOdds    = ratio("leaf_half", "Half leaf: every cut vein may shoot", 1.2, "blade halves beat petioles; the size is ours")
	WedgeOdds       = ratio("leaf_wedge", "Wedge of a leaf", 0.8, "less to live on than a whole leaf; the size is ours")
	SectionOdds     = ratio("leaf_section", "Section of a leaf", 0.9, "two wounds, less to live on; the size is ours")
	PulledOdds      = ratio("leaf_pulled", "Pulled with its base", 1.2, "the growing point is in the base; the size is ours")
	CutNotPulled    = ratio("leaf_not_pulled", "Cut, where the base must come with it", 0.2, "these regrow from the white base; the size is ours")
	HeelOdds        = ratio("leaf_heel", "Leaf with a bit of stem", 1.3, "growers say leaves come away best so; the size is ours")
	PupNoRoots      = define("pup_unrooted", "A pup without roots", 0.9, "fraction", practice("pups root almost always, no source; before rot"))
	BareShoots      = define("bare_rhizome", "Old bare rhizome shoots", 0.5, "fraction", plant.Assumed("growers say it does within a year; how often is ours"))
	DivisionRooted  = define("division_rooted", "A division with roots of its own", 0.98, "fraction", practice("near 100 %, no source"))
	DivisionNoRoots = define("division_unrooted", "A division without roots", 0.53, "fraction", practice("a half survive, no source; before rot"))
)

// Rot: the chance by medium, and odds ratios on it.
var (
	RotFace     = ratio("rot_second_face", "Second cut face", 1.5, "every wound is a way in; the size is ours")
	RotBare     = ratio("rot_leafless", "Stripped bare: less to rot", 0.8, "one school strips single nodes for this; the size is ours")
	RotFat      = ratio("rot_fat_wound", "Fat wound", 1.3, "fat wounds need longer to dry; the size is ours")
	RotStub     = ratio("rot_stub", "Long bare stub below the lowest node", 1.5, "long bare stubs rot, one school says; the size is ours")
	RotUncured  = ratio("rot_uncured", "Set wet where the face must dry first", 2.5, "succulent and milky-sapped pieces must callus; the size is ours")
	RotClosed   = ratio("rot_closed", "Closed over, where the group rots if wet and closed", 2, "begonias and succulents; the size is ours")
	PriorWeight = define("prior_weight", "A starting value weighs as much as", 10, "records", plant.Assumed("ten of your own nodes count as much as our guess"))
)

// Worth of a plant by the pattern of the node it grew from.
var (
	WorthStrong = define("worth_strong", "Worth of a plant from a strongly patterned node", 2, "worth", plant.Assumed("twice a plant of some pattern"))
	WorthSome   = define("worth_some", "Worth of a plant from a node with some pattern", 1, "worth", plant.Assumed("the unit"))
	WorthNone   = define("worth_none", "Worth of a plant from a node without pattern", 0.3, "worth", plant.Assumed("comes plain; a third"))
)

// Lengths and counts.
var (
	DieBack      = define("die_back", "Ends dry or rot back", 10, "mm", practice("5 to 15 mm each; the middle"))
	DieBackMost  = define("die_back_most", "Ends dry or rot back at most", 15, "mm", practice("5 to 15 mm each; the far end"))
	SlowFrom     = define("slow_from", "A slow rooter makes first roots after", 21, "days", plant.Assumed("three weeks; there hormone is called useful"))
	SetAtMost    = define("set_at_most", "Nodes set, at most", 2, "nodes", plant.Practice)
	KnifeOffNode = define("knife_off_node", "Knife at least this far from a node", 2, "mm", plant.Assumed("nearer, the blade bruises the bud"))
	BelowThick   = define("below_thick", "Knife below a node of a thick stem", 18, "mm", practice("13 to 25 mm; the middle"))
	BelowThin    = define("below_thin", "Knife below a node of a thin stem", 7, "mm", practice("5 to 10 mm; the middle"))
	ThickFrom    = define("thick_from", "A stem is thick from", 10, "mm", plant.Assumed("where growers take pruners rather than a razor"))
	FatFrom      = define("fat_from", "A stem is very thick, its wound fat, from", 20, "mm", plant.Assumed("thumb thick"))
	TrimTotal    = define("trim_total", "Trimmed pieces keep bare stem in all", 25, "mm", practice("about 25 mm in all, because long bare stubs rot"))
	LongTop      = define("long_top", "Stem left above the top node when internodes are left long", 15, "mm", practice("the far end of what dries back"))
	LongStub     = define("long_stub", "A bare stub is long from", 40, "mm", plant.Assumed("well beyond what dries back"))
	RootsLost    = define("roots_lost", "Roots lost when a clump is divided, at most", 0.2, "fraction", practice("never more than a fifth"))
)

// rots is the chance of rot in each medium.
func rots() []plant.Number {
	out := []plant.Number{}
	for _, m := range plant.Media() {
		out = append(out, m.Rots)
	}
	return out
}

// Numbers lists the starting value of every number of the package.
func Numbers() []plant.Number {
	return slices.Concat([]plant.Number{
		LeaflessOdds, HalvedOdds, AerialOdds, AwakeOdds, ShortOdds, DarkOdds, TipOdds, HalfRipeOdds, WoodyOdds, ThickOdds,
		HormoneEasy, HormoneSlow, OpenOdds, UnusualOdds, DivideOnlyOdds,
		HalfLeafOdds, WedgeOdds, SectionOdds, PulledOdds, CutNotPulled, HeelOdds, PupNoRoots, BareShoots, DivisionRooted, DivisionNoRoots,
		RotFace, RotBare, RotFat, RotStub, RotUncured, RotClosed, SoftOdds, PriorWeight,
		WorthStrong, WorthSome, WorthNone,
		DieBack, DieBackMost, SlowFrom, SetAtMost, KnifeOffNode, BelowThick, BelowThin, ThickFrom, FatFrom, TrimTotal, LongTop, LongStub, RootsLost,
		WateredWithin, RestDays, LongRestDays, LeggyShare,
		OfferGood, OfferEven, OfferLong, OfferOpen, SideWorst, SideUsual, SideBest,
	}, rots(), baselines)
}
