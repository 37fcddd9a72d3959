package readiness

import (
	"math"
	"slices"

	"clearjar/core/life"
	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/scenario"
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
	YoungAfter     = define("young_after", "Young plants on a leaf are parted, after the first was seen", 28, "days", plant.Assumed("once they can be handled; sooner where a leaf is open on them"))
	SignalDays     = define("signal_days", "A note of foul water, dry or soaked medium asks for an answer for", 14, "days", plant.Assumed("after that the next look tells"))
)

// Numbers of how facts meet the model.
var (
	notFirstChoice = define("chance.second_medium", "Roots come later in a medium that is not the group's first choice by", 1.15, "times", plant.Assumed("the model's; your records will replace it"))
	leaflessWakes  = define("chance.leafless_wakes", "Odds to root without a leaf, against with one", 0.25, "times", plant.Assumed("as the planner's: growers call leafless nodes the worst bet"))
	aerialSooner   = define("chance.aerial", "Roots come sooner from a node with an aerial root, by", 0.7, "times", plant.Assumed("the model's; growers say it roots at once"))
	ReadyFrom      = define("chance.ready", "Ready from a chance of", 0.80, "of 1", plant.Assumed("the model's"))
	ReadyStays     = define("chance.ready_stays", "Once ready, it stays so down to a chance of", 0.65, "of 1", plant.Assumed("so that a verdict does not flicker"))
	SeenEven       = define("chance.seen_even", "When all that is wanted was seen, ready from a chance of", 0.50, "of 1", plant.Assumed("what can be seen counts for more than the model"))
	SeenNow        = define("chance.seen_now", "What was seen missing is not taken for grown for", 1, "days", plant.Assumed("what was seen yesterday counts for more than the model"))
	SeenFresh      = define("chance.seen_fresh", "What was seen is fresh for", 7, "days", plant.Assumed("one look interval"))
	OvergrownFrom  = define("chance.overgrown", "Overdue when roots too long cost in the chance to grow on", 0.07, "of 1", plant.Assumed("the model's"))
	OvergrownStays = define("chance.overgrown_stays", "Once overdue, it stays so down to", 0.05, "of 1", plant.Assumed("so that a verdict does not flicker"))
	AskFrom        = define("chance.ask", "A look is worth its trouble from a net worth of", 0.001, "of a plant", plant.Assumed("a thousandth of a plant is half a minute"))
	AskStays       = define("chance.ask_stays", "Once asked, and not answered, it is asked until its net worth is below nothing by", 0.004, "of a plant", plant.Assumed("127 simulated cuttings tell a net worth to about that; without it a question comes and goes"))
	AskAgain       = define("chance.ask_again", "What was noted is not asked again for", 3, "days", plant.Assumed("it changes little in that time"))
	LookFrom       = define("chance.look", "When a look is due, it is asked for from a chance to be ready of", 0.35, "of 1", plant.Assumed("the model's"))
	NoPromise      = define("chance.not_promising", "Not promising when the chance that no root ever comes is", 0.65, "of 1", plant.Assumed("the model's"))
	GapCost        = define("chance.gap_cost", "A look costs beside its time, a day between looks", 0.028, "of a plant times days", plant.Assumed("so that looks pay and do not crowd"))
	startStays     = define("chance.stays", "Chance to grow on after potting, of a piece the model does not speak of", 0.7, "of 1", plant.Assumed("the model's"))
	probably       = define("chance.probably", "Probably established from a chance of", 0.95, "of 1", plant.Assumed("established it is only by a new leaf"))
	driesFromWater = define("chance.dries_water", "Dries out in two weeks after potting, with water roots", 0.12, "of 1", plant.Assumed("water roots dry out in a day"))
	driesFromOther = define("chance.dries_other", "Dries out in two weeks after potting, with other roots", 0.06, "of 1", plant.Assumed("half of it"))
	dryingCheck    = define("chance.dry_check", "The mix is felt whenever it may have dried out by", 0.03, "of 1", plant.Assumed("the model's"))
	rotWaits       = define("chance.rot_waits", "Chance of a rotting piece that is left alone", 0.25, "of 1", plant.Assumed("the model's"))
	WellPotted     = define("chance.well_potted", "Once likely ready, it is as well potted for", 14, "days", plant.Assumed("about as wide as the days that are as good are"))
	RescueLoss     = define("chance.rescue_loss", "A day of leaving rot costs", 0.03, "of a plant", plant.Assumed("a rescue of 0.45 falls to 0.25 in a week"))
	SignLoss       = define("chance.sign_loss", "A day of leaving foul water or a dry medium costs", 0.01, "of a plant", plant.Assumed("a third of rot"))
	OverdueLoss    = define("chance.overdue_loss", "A day of leaving what is overdue costs at least", 0.005, "of a plant", plant.Assumed("crowded roots the model does not see"))
)

// Numbers of how far two lengths may differ.
var (
	clashSigmas = define("clash.sigmas", "A root has shrunk when it is shorter by so many times what a look may be off", 4, "times", plant.Assumed("one in ten thousand by chance; another root may have been measured"))
	longAnchors = define("clash.anchors", "Roots that long hold against a tug", 40, "mm", plant.Assumed("nine in a thousand of the model do not"))
)

// transplantRow is how well a piece does once it is potted, by school.
type transplantRow struct{ base, gain, scale, over, loss, noLeaf plant.Number }

func transplant(school plant.SchoolKey, says string, base, gain, scale, over, loss, noLeaf float64) transplantRow {
	of := func(key, label string, value float64, unit string, high float64) plant.Number {
		return number.Define(plant.Number{
			Key: "readiness.chance.potted." + string(school) + "." + key, Label: says + ": " + label, Value: value, Unit: unit, Low: 0, High: high,
			Basis: plant.Assumed("the model's; tried on simulated cuttings"),
		})
	}
	return transplantRow{
		of("base", "potted without roots, grow on", base, "of 1", 1), of("gain", "long roots add", gain, "of 1", 1), of("scale", "most of it by roots of", scale, "mm", 100),
		of("over", "roots are too long from", over, "mm", 250), of("loss", "each mm more costs", loss, "of 1", 0.1), of("no_leaf", "without an open leaf it keeps", noLeaf, "of its chance", 1),
	}
}

// transplants are assumed. One that stays in its mix is uncovered and not potted: no root is too long.
var transplants = map[plant.SchoolKey]transplantRow{
	plant.EarlyRoots:    transplant(plant.EarlyRoots, "Early roots", 0.35, 0.60, 5, 22, 0.003, 1),
	plant.FirstLeaf:     transplant(plant.FirstLeaf, "First leaf", 0.30, 0.65, 12, 70, 0.0025, 0.8),
	plant.FullRoots:     transplant(plant.FullRoots, "Full roots", 0.25, 0.70, 15, 70, 0.002, 1),
	plant.StraightToMix: transplant(plant.StraightToMix, "Straight to mix", 0.30, 0.65, 12, 250, 0, 0.8),
}

func (r transplantRow) of(t number.Table) scenario.School {
	return scenario.School{Base: t.Of(r.base), Gain: t.Of(r.gain), Scale: math.Max(0.1, t.Of(r.scale)), Over: t.Of(r.over), Loss: t.Of(r.loss), NoLeaf: t.Of(r.noLeaf)}.Tabled(scenario.ModelOf(t))
}

// usual are the schools with the starting values.
var usual = func() map[plant.SchoolKey]scenario.School {
	out := map[plant.SchoolKey]scenario.School{}
	for k, r := range transplants {
		out[k] = r.of(number.Table{})
	}
	return out
}()

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
		WaterMost, ReadySince, ReadyTrust, DarkFactor, LeaflessSlower, StaleFactor, SoundMargin, ShockDays, PottedLooks, SettledLooks, LeafAfter, life.GrownOnAfter, YoungAfter, SignalDays, notFirstChoice, leaflessWakes, aerialSooner,
		ReadyFrom, ReadyStays, SeenEven, SeenNow, SeenFresh, OvergrownFrom, OvergrownStays, AskFrom, AskStays, AskAgain, LookFrom, NoPromise, GapCost, WellPotted, startStays, probably, driesFromWater, driesFromOther, dryingCheck, rotWaits, RescueLoss, SignLoss, OverdueLoss, clashSigmas, longAnchors,
	}, transplantNumbers(), scenario.Numbers(), looks())
}

// transplantNumbers are those of the schools, in their order.
func transplantNumbers() []plant.Number {
	out := []plant.Number{}
	for _, s := range plant.Schools() {
		r := transplants[s.Key]
		out = append(out, r.base, r.gain, r.scale, r.over, r.loss, r.noLeaf)
	}
	return out
}
