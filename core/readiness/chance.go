package readiness

import (
	"math"
	"time"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// Chance is what is to be expected of a piece that roots, in a simulated world: 127 simulated cuttings that fit its facts,
// each with its weight. It replaces nothing that can be seen.
type Chance struct {
	// Ready is the chance that it has today what its school wants; Never that no root ever comes; Lacks that roots come and
	// something the school wants never does; Rot that it has rotted since it was last seen firm. 0 to 1.
	Ready float64 `json:"p_ready"`
	Never float64 `json:"never"`
	Lacks float64 `json:"lacks"`
	Rot   float64 `json:"p_rot"`
	// Days are when it is ready, given it comes: in days since setting, 0 for already, null for beyond 400 days.
	Days ReadyDays `json:"ready_days"`
	// Best is the best day to pot it, nil for a school that leaves it in its mix; Questions what each look would be worth, the most
	// first.
	Best      *BestDay         `json:"best_day,omitempty"`
	Questions []PricedQuestion `json:"questions"`
	// NextPays is the day on which the next photo is worth most; nil where the school or the medium says when.
	NextPays *time.Time `json:"next_pays,omitempty"`
}

// ReadyDays are the days by which it is ready in 1, 5 and 9 of 10 cases.
type ReadyDays struct {
	P10 *float64 `json:"p10"`
	P50 *float64 `json:"p50"`
	P90 *float64 `json:"p90"`
}

// BestDay is what potting is worth on each of the coming days: 0 to 1, today first.
type BestDay struct {
	Curve []float64 `json:"curve"`
	// Day is how many days from today it is worth most; from From to To it is as good.
	Day  int `json:"day"`
	From int `json:"from"`
	To   int `json:"to"`
	// Why is what pulls the best day before the day it is likely ready: the dark season, rot, or roots that overgrow.
	Why []string `json:"why"`
}

// PricedQuestion is one look that could be taken.
type PricedQuestion struct {
	Question string `json:"question" enum:"bud,squeeze,tug,count,measure,photo"`
	// Net is what it is worth beyond its cost, of a piece that grows on; below zero it is not worth its trouble.
	Net float64 `json:"net"`
	// Seconds it takes; Disturbs is what opening or digging costs.
	Seconds  float64 `json:"seconds"`
	Disturbs float64 `json:"disturbance"`
	// NotNow says why it is not asked today; empty where it may be.
	NotNow string `json:"not_now,omitempty"`
	// Answers are what it may say, and what would be done then.
	Answers []PricedAnswer `json:"answers"`
}

// PricedAnswer is one answer, how likely it is, 0 to 1, and what is best done then.
type PricedAnswer struct {
	Answer string       `json:"answer"`
	Chance float64      `json:"chance"`
	Act    scenario.Act `json:"act" enum:"pot_up,wait,rescue"`
	// After is in how many days it is best potted.
	After int `json:"after"`
}

// Transplant is how well a piece does by school once it is potted, by the numbers of a household; false for a school that is not known.
func Transplant(t number.Table, school plant.SchoolKey) (scenario.School, bool) {
	if len(t.Changed()) == 0 {
		s, ok := usual[school]
		return s, ok
	}
	r, ok := transplants[school]
	if !ok {
		return scenario.School{}, false
	}
	return r.of(t), true
}

// buds of a look, as the model knows them.
var buds = map[plant.Bud]scenario.Bud{
	plant.BudDormant: scenario.Asleep, plant.BudSwelling: scenario.Swelling, plant.BudShooting: scenario.Shooting, plant.BudLeafOpen: scenario.LeafOpen,
}

func days(from, to time.Time) float64 { return math.Max(0, to.Sub(from).Hours()/24) }

// wantsOf is what a school asks for, in the words of the model.
func wantsOf(s state, school plant.SchoolKey) scenario.Wants {
	t := s.Numbers
	return map[plant.SchoolKey]scenario.Wants{
		plant.EarlyRoots:    {LongestMM: t.Of(EarlyLongest), Roots: t.Int(EarlyRootCount)},
		plant.FirstLeaf:     {LongestMM: map[bool]float64{false: t.Of(LeafLongest)}[s.medium.Tugs], Anchor: s.medium.Tugs, Leaf: true},
		plant.StraightToMix: {LongestMM: map[bool]float64{false: t.Of(LeafLongest)}[s.medium.Tugs], Anchor: s.medium.Tugs, Shoot: true},
		plant.FullRoots:     {LongestMM: t.Of(FullLongest), Roots: t.Int(FullRootCount), Side: true, Nodes: min(t.Int(FullNodes), s.setNodes()) > 1},
	}[school]
}

// seenBy are the looks since setting, in the words of the model.
func seenBy(s state) []scenario.Look {
	out := []scenario.Look{}
	byNode := map[int]scenario.Bud{}
	for _, l := range s.Looks {
		if l.On.Before(s.from) || l.On.After(s.Today) {
			continue
		}
		look := scenario.Look{Day: days(s.from, l.On), Firm: l.Look.Stem == "firm"}
		if roots, ok := sumRoots(s.Numbers, l.Look); ok {
			look.Counted, look.LongestMM, look.Roots, look.Nodes, look.Side = true, roots.longest.LengthMM, roots.count, roots.nodes, roots.side > 0
			look.How, look.OffMM = howOf(roots.longest), spreadOf(roots.longest)
		}
		switch l.Look.Tug {
		case "holds":
			look.Tug = scenario.Holds
		case "gives":
			look.Tug = scenario.Gives
		}
		for _, b := range l.Look.Buds {
			byNode[b.Node] = buds[b.Bud]
		}
		if len(l.Look.Buds) > 0 { // the bud that has come furthest, each node as it was noted last
			for _, b := range byNode {
				look.Bud = max(look.Bud, b)
			}
		}
		out = append(out, look)
	}
	return out
}

// tenths is how many standard deviations an interval that holds nine times in ten reaches to each side.
const tenths = 1.645

// spreadOf is the standard deviation of a length by its own interval, mm.
func spreadOf(r plant.Root) float64 { return math.Max(0, r.HighMM-r.LowMM) / (2 * tenths) }

// howOf is how a length was taken.
func howOf(r plant.Root) scenario.How {
	switch {
	case r.How != plant.Typed:
		return scenario.ByPhoto
	case r.With == "eye":
		return scenario.ByEye
	}
	return scenario.ByRuler
}
