package scenario

import (
	"math"
	"slices"
	"strings"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// way is how a look sees: the spread of a length as a share of it, and in mm; how likely each root is seen, and a side root.
type way struct{ share, constant, seesRoot, seesSide float64 }

// price is what a question costs: seconds where roots are seen from outside, and where the vessel is opened; and what opening harms.
type price struct{ openS, closedS, disturbs float64 }

// Model are the numbers of the model. They are the same for all pieces of a household.
type Model struct {
	potLength, leastRate, mostRate, leastRateSigma, mostRateSigma, furtherIn, leastFurther, mostFurther, furtherShape, secondNode, growers, leastPiece float64
	longestMM, wander, visibleMM, countedMM, secondLater, sideMM, anchorMM, lengthSigma, leafLater, leafWithRoot, swellsAt, shootsAt                   float64
	rootedRot, neverRot, waterMost, waterRot, weekBefore, tugRight, budWrong, modelError                                                               float64
	coldest, perDegrees, slowest, fastest, usualC, darkFactor                                                                                          float64
	leastLong, lowSeason, rottenWorth, dayCosts, asGood                                                                                                float64
	perMinute, rotPotted, rotWaiting, rotRescued, needlessRescue, squeezeRight, squeezeFalse                                                           float64
	ways                                                                                                                                               [3]way
	byRoots                                                                                                                                            [4]float64
	prices                                                                                                                                             [6]price

	// What follows of them for each point: the length from which it holds a tug, that from which an unseen root has side roots, and how
	// fast further roots come.
	anchor, side, further [M]float64
	unseenYet             float64
}

// Prefix is what the keys of the model's numbers begin with.
const Prefix = "expect."

// entry is one number of the model and its place.
type entry struct {
	n  plant.Number
	at func(*Model) *float64
}

var entries []entry

// define puts a number of the model on the table: all are assumptions of ours, which records may replace.
func define(key, label string, value float64, unit string, low, high float64, at func(*Model) *float64) {
	n := number.Define(plant.Number{Key: Prefix + key, Label: label, Value: value, Unit: unit, Low: low, High: high, Basis: plant.Assumed("the model's; tried on simulated cuttings")})
	entries = append(entries, entry{n, at})
}

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	out := make([]plant.Number, len(entries))
	for i, e := range entries {
		out[i] = e.n
	}
	return out
}

// Usual is the model with its starting values.
var Usual = func() *Model {
	roots()
	looks()
	hazards()
	worths()
	prices()
	return modelOf(number.Table{})
}()

// ModelOf is the model with the numbers of a household.
func ModelOf(t number.Table) *Model {
	if !slices.ContainsFunc(t.Changed(), func(key string) bool { return strings.HasPrefix(key, Prefix) }) {
		return Usual
	}
	return modelOf(t)
}

func modelOf(t number.Table) *Model {
	m := &Model{}
	for _, e := range entries {
		*e.at(m) = t.Of(e.n)
	}
	for i := range points {
		p := &points[i]
		m.anchor[i], m.side[i] = m.anchorMM*math.Exp(m.lengthSigma*p.z(8)), m.sideMM*math.Exp(m.lengthSigma*p.z(8))
		m.further[i] = gammaQuantile(m.furtherShape, p.z(5))
	}
	m.unseenYet = math.Log(normal.CDF(m.visibleMM) + 1e-6)
	return m
}

// roots are the numbers of roots and shoots.
func roots() {
	define("pot_length", "Longest root at the usual potting of a group", 40, "mm", 10, 150, func(m *Model) *float64 { return &m.potLength })
	define("least_rate", "Longest root grows at least", 0.4, "mm a day", 0.05, 5, func(m *Model) *float64 { return &m.leastRate })
	define("most_rate", "Longest root grows at most", 3.5, "mm a day", 0.1, 20, func(m *Model) *float64 { return &m.mostRate })
	define("least_rate_sigma", "Pace differs from piece to piece at least by", 0.3, "of the logarithm", 0.05, 1.5, func(m *Model) *float64 { return &m.leastRateSigma })
	define("most_rate_sigma", "Pace differs from piece to piece at most by", 0.6, "of the logarithm", 0.05, 2, func(m *Model) *float64 { return &m.mostRateSigma })
	define("further_in", "Further roots between first roots and potting", 3, "roots", 0.1, 30, func(m *Model) *float64 { return &m.furtherIn })
	define("least_further", "Further roots come at least", 0.03, "a day", 0.001, 2, func(m *Model) *float64 { return &m.leastFurther })
	define("most_further", "Further roots come at most", 0.5, "a day", 0.01, 5, func(m *Model) *float64 { return &m.mostFurther })
	define("further_shape", "How evenly pieces make further roots", 2.5, "shape", 0.5, 20, func(m *Model) *float64 { return &m.furtherShape })
	define("second_node", "More roots with a second node, times its chance", 0.5, "times", 0, 3, func(m *Model) *float64 { return &m.secondNode })
	define("growers", "How much of the spread of times is between growers", 0.25, "of the logarithm", 0.01, 1, func(m *Model) *float64 { return &m.growers })
	define("least_piece", "Least spread of times from piece to piece, squared", 0.02, "of the logarithm", 0.001, 1, func(m *Model) *float64 { return &m.leastPiece })
	define("longest", "Roots grow slower as they near", 250, "mm", 60, 2000, func(m *Model) *float64 { return &m.longestMM })
	define("wander", "Growth wanders, rate squared a day", 0.45, "variance", 0.01, 5, func(m *Model) *float64 { return &m.wander })
	define("visible", "A root is seen from", 2, "mm", 0.2, 10, func(m *Model) *float64 { return &m.visibleMM })
	define("counted", "A root counts from", 5, "mm", 0.5, 20, func(m *Model) *float64 { return &m.countedMM })
	define("second_later", "The other of two nodes roots later by", 0.45, "of the logarithm", 0.05, 2, func(m *Model) *float64 { return &m.secondLater })
	define("side", "Side roots show on roots of", 35, "mm", 5, 200, func(m *Model) *float64 { return &m.sideMM })
	define("anchor", "A tug holds from roots of", 15, "mm", 2, 100, func(m *Model) *float64 { return &m.anchorMM })
	define("length_sigma", "These lengths differ by", 0.30, "of the logarithm", 0.02, 1, func(m *Model) *float64 { return &m.lengthSigma })
	define("leaf_later", "A leaf is open at the usual potting times", 1.1, "times", 0.2, 5, func(m *Model) *float64 { return &m.leafLater })
	define("leaf_with_root", "Early roots go with an early leaf", 0.4, "correlation", 0, 0.95, func(m *Model) *float64 { return &m.leafWithRoot })
	define("swells", "A bud swells from this part of the time to its leaf", 0.5, "of 1", 0.05, 0.95, func(m *Model) *float64 { return &m.swellsAt })
	define("shoots", "A shoot shows from this part of it", 0.7, "of 1", 0.1, 0.99, func(m *Model) *float64 { return &m.shootsAt })
	define("warm", "Warmth in an unmeasured place", 24, "degrees C", 5, 40, func(m *Model) *float64 { return &m.usualC })
	define("coldest", "Growth begins above", 10, "degrees C", 0, 20, func(m *Model) *float64 { return &m.coldest })
	define("per_degrees", "A full day needs so many degrees more", 14, "degrees C", 2, 30, func(m *Model) *float64 { return &m.perDegrees })
	define("slowest", "A cold day counts at least", 0.3, "days", 0.02, 1, func(m *Model) *float64 { return &m.slowest })
	define("fastest", "A hot day counts at most", 1.3, "days", 1, 3, func(m *Model) *float64 { return &m.fastest })
	define("dark", "Days of the dark half count less by", 1.5, "times", 1, 5, func(m *Model) *float64 { return &m.darkFactor })
}

// looks are how exact looks are.
func looks() {
	for i, w := range []struct {
		key, says                            string
		share, constant, seesRoot, seesSides float64
	}{ByPhoto: {"photo", "a photo", 0.06, 0.7, 0.90, 0.90}, ByRuler: {"ruler", "a ruler", 0.03, 1.0, 0.95, 0.90}, ByEye: {"eye", "the eye", 0.20, 2.0, 0.75, 0.70}} {
		define(w.key+".share", "Lengths by "+w.says+" are off by", w.share, "of the length", 0.001, 1, func(m *Model) *float64 { return &m.ways[i].share })
		define(w.key+".constant", "Lengths by "+w.says+" are off beside by", w.constant, "mm", 0.05, 20, func(m *Model) *float64 { return &m.ways[i].constant })
		define(w.key+".sees", "A root is seen by "+w.says+" with a chance of", w.seesRoot, "of 1", 0.05, 0.999, func(m *Model) *float64 { return &m.ways[i].seesRoot })
		define(w.key+".side", "Side roots are seen by "+w.says+" with a chance of", w.seesSides, "of 1", 0.05, 0.999, func(m *Model) *float64 { return &m.ways[i].seesSide })
	}
	define("model_error", "The model itself is off by", 0.05, "of the length", 0, 1, func(m *Model) *float64 { return &m.modelError })
	define("tug_right", "A tug is right with a chance of", 0.95, "of 1", 0.51, 0.999, func(m *Model) *float64 { return &m.tugRight })
	define("bud_wrong", "A bud is noted wrong with a chance of", 0.03, "of 1", 0.001, 0.5, func(m *Model) *float64 { return &m.budWrong })
	define("squeeze_right", "A squeeze finds rot with a chance of", 0.9, "of 1", 0.51, 0.999, func(m *Model) *float64 { return &m.squeezeRight })
	define("squeeze_false", "A squeeze calls a sound stem rotten with a chance of", 0.02, "of 1", 0.0001, 0.4, func(m *Model) *float64 { return &m.squeezeFalse })
}

// hazards are the dangers of rot.
func hazards() {
	define("rooted_rot", "A rooted piece rots, against one without roots", 0.25, "times", 0.01, 5, func(m *Model) *float64 { return &m.rootedRot })
	define("never_rot", "A piece that never roots rots, against one that will", 2, "times", 0.1, 20, func(m *Model) *float64 { return &m.neverRot })
	define("water_most", "In water, rot comes on top after", 91, "days", 7, 700, func(m *Model) *float64 { return &m.waterMost })
	define("water_rot", "From then on a day in water rots", 0.003, "of 1", 0, 0.2, func(m *Model) *float64 { return &m.waterRot })
	define("week_before", "Rot of the week before a firm look may not have shown, with a chance of", 0.2, "of 1", 0, 1, func(m *Model) *float64 { return &m.weekBefore })
}

// worths are what potting is worth.
func worths() {
	for i, v := range []float64{0.60, 0.88, 0.96, 1} {
		define("roots."+string(rune('0'+i)), "A potted piece with "+plant.Counted(i, "root", "roots")+map[bool]string{true: " or more", false: ""}[i == 3]+" keeps", v, "of its chance", 0.05, 1, func(m *Model) *float64 { return &m.byRoots[i] })
	}
	define("least_long", "With roots far too long it keeps at least", 0.5, "of its chance", 0.05, 1, func(m *Model) *float64 { return &m.leastLong })
	define("low_season", "Potted in the darkest weeks it keeps", 0.85, "of its chance", 0.1, 1, func(m *Model) *float64 { return &m.lowSeason })
	define("rotten", "A piece that has rotted by then is worth", 0.35, "of a plant", 0, 1, func(m *Model) *float64 { return &m.rottenWorth })
	define("day", "A day of waiting costs", 0.001, "of a plant", 0, 0.05, func(m *Model) *float64 { return &m.dayCosts })
	define("as_good", "A day is as good within", 0.01, "of a plant", 0.0005, 0.2, func(m *Model) *float64 { return &m.asGood })
}

// prices are what looks cost.
func prices() {
	define("minute", "A minute of yours costs", 0.002, "of a plant", 0, 0.1, func(m *Model) *float64 { return &m.perMinute })
	define("rot_potted", "A rotten piece that is potted is worth", 0.30, "of a plant", 0, 1, func(m *Model) *float64 { return &m.rotPotted })
	define("rot_waiting", "A rotten piece that waits is worth", 0.25, "of a plant", 0, 1, func(m *Model) *float64 { return &m.rotWaiting })
	define("rot_rescued", "A rotten piece that is rescued is worth", 0.45, "of a plant", 0, 1, func(m *Model) *float64 { return &m.rotRescued })
	define("needless", "Rescuing a sound piece costs", 0.12, "of a plant", 0, 1, func(m *Model) *float64 { return &m.needlessRescue })
	for i, q := range []struct {
		says                string
		open, closed, harms float64
	}{{"A look at a bud", 5, 5, 0}, {"A squeeze", 10, 30, 0.003}, {"A tug", 0, 20, 0.002}, {"A count of roots", 15, 120, 0.010}, {"A root measured", 40, 150, 0.012}, {"A photo", 60, 180, 0.012}} {
		key := string(askings[i].Question)
		define(key+".open", q.says+" takes", q.open, "seconds", 0, 1800, func(m *Model) *float64 { return &m.prices[i].openS })
		define(key+".closed", q.says+" takes in a closed vessel", q.closed, "seconds", 0, 3600, func(m *Model) *float64 { return &m.prices[i].closedS })
		define(key+".harms", q.says+" disturbs a closed vessel by", q.harms, "of a plant", 0, 0.5, func(m *Model) *float64 { return &m.prices[i].disturbs })
	}
}
