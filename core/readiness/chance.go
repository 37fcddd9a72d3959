package readiness

import (
	"fmt"
	"math"
	"time"

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
	// Best is the best day to pot it; Questions what each look would be worth, the most first.
	Best      BestDay          `json:"best_day"`
	Questions []PricedQuestion `json:"questions"`
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
}

// PricedQuestion is one look that could be taken.
type PricedQuestion struct {
	Question string `json:"question" enum:"bud,squeeze,tug,count,measure,photo"`
	// Net is what it is worth beyond its cost, of a piece that grows on; below zero it is not worth its trouble.
	Net float64 `json:"net"`
	// Seconds it takes; Disturbs is what opening or digging costs.
	Seconds  float64 `json:"seconds"`
	Disturbs float64 `json:"disturbance"`
}

// transplant is how well a piece does once it is potted, by school: assumed.
var transplant = map[plant.SchoolKey]scenario.School{
	plant.EarlyRoots: {Base: 0.35, Gain: 0.60, Scale: 5, Over: 22, Loss: 0.003, NoLeaf: 1},
	plant.FirstLeaf:  {Base: 0.30, Gain: 0.65, Scale: 12, Over: 70, Loss: 0.0025, NoLeaf: 0.8},
	plant.FullRoots:  {Base: 0.25, Gain: 0.70, Scale: 15, Over: 70, Loss: 0.002, NoLeaf: 1},
}

// Numbers of how facts meet the model.
var (
	notFirstChoice  = define("chance.second_medium", "Roots come later in a medium that is not the group's first choice by", 1.15, "times", plant.Assumed("the model's; your records will replace it"))
	leaflessWakes   = define("chance.leafless_wakes", "Odds to root without a leaf, against with one", 0.25, "times", plant.Assumed("as the planner's: growers call leafless nodes the worst bet"))
	growerUncertain = define("chance.grower", "How much growers differ in their times", 0.25, "of the logarithm", plant.Assumed("the model's"))
)

// buds of a look, as the model knows them.
var buds = map[plant.Bud]scenario.Bud{
	plant.BudDormant: scenario.Asleep, plant.BudSwelling: scenario.Swelling, plant.BudShooting: scenario.Shooting, plant.BudLeafOpen: scenario.LeafOpen,
}

// Foresee weighs what is known of a piece that stands and roots. False for what the model does not speak of: what is not set,
// potted or closed, came with roots, or makes new plants of a leaf or a tuber.
func Foresee(e Evidence, school plant.SchoolKey) (Chance, bool) {
	s, wants, ok := weigh(e, school)
	if !ok {
		return Chance{}, false
	}
	f := s.Ready(wants)
	c := Chance{Ready: f.Now, Never: f.Never, Lacks: f.Lacks, Rot: s.Rot(s.Today)}
	for i, to := range []**float64{&c.Days.P10, &c.Days.P50, &c.Days.P90} {
		if d := f.Days[i]; !math.IsInf(d, 1) {
			*to = &d
		}
	}
	k := transplant[school]
	curve := s.BestDay(k)
	c.Best = BestDay{Curve: curve.Worth[:], Day: curve.Best, From: curve.From, To: curve.To}
	priced, _ := s.Ask(k, e.Medium.Row().Hidden)
	for _, p := range priced {
		c.Questions = append(c.Questions, PricedQuestion{string(p.Question), p.Net, p.Seconds, p.Disturbs})
	}
	return c, true
}

// weigh puts the facts into the words of the model.
func weigh(e Evidence, school plant.SchoolKey) (s *scenario.Scenarios, w scenario.Wants, ok bool) {
	kind := e.Kind.Row()
	first, pot := e.Group.RootTimes(e.Kind)
	if _, known := transplant[school]; !known || e.SetOn.IsZero() || e.Potted != nil || e.Outcome != nil || e.OwnRoots || kind.Sisters || first.Mid <= 0 || pot.Mid <= first.Mid {
		return nil, w, false
	}
	st := assess(e, school)
	t := e.Numbers
	leafless := e.LeafKept != nil && !*e.LeafKept
	p := scenario.Params{
		First: scenario.Span{Mid: first.Mid, Low: first.Low, High: first.High}, Pot: scenario.Span{Mid: pot.Mid, Low: pot.Low, High: pot.High},
		Rot: t.Of(st.medium.Rots), Slower: 1, GrowerSigma: t.Of(growerUncertain), Water: st.medium.Liquid,
	}
	wake := e.Group.WakeIn(e.Medium)
	if leafless {
		p.Slower *= t.Of(LeaflessSlower)
		odds := wake / (1 - wake) * t.Of(leaflessWakes)
		wake = odds / (1 + odds)
	}
	if len(e.Group.Media) > 0 && e.Group.Media[0] != e.Medium {
		p.Slower *= t.Of(notFirstChoice)
	}
	for range min(2, st.setNodes()) {
		p.Wake = append(p.Wake, wake)
	}
	w = wantsOf(st, school)
	doy := e.SetOn.YearDay() - 1
	return scenario.Weigh(p, scenario.NewClock(doy, e.TemperatureC, e.Southern), seenBy(st), days(e.SetOn, e.Today)), w, true
}

func days(from, to time.Time) float64 { return math.Max(0, to.Sub(from).Hours()/24) }

// wantsOf is what a school asks for, in the words of the model.
func wantsOf(s state, school plant.SchoolKey) scenario.Wants {
	t := s.Numbers
	return map[plant.SchoolKey]scenario.Wants{
		plant.EarlyRoots: {LongestMM: t.Of(EarlyLongest), Roots: t.Int(EarlyRootCount)},
		plant.FirstLeaf:  {LongestMM: map[bool]float64{false: t.Of(LeafLongest)}[s.medium.Tugs], Anchor: s.medium.Tugs, Leaf: true},
		plant.FullRoots:  {LongestMM: t.Of(FullLongest), Roots: t.Int(FullRootCount), Side: true, Nodes: min(t.Int(FullNodes), s.setNodes()) > 1},
	}[school]
}

// seenBy are the looks since setting, in the words of the model.
func seenBy(s state) []scenario.Look {
	out := []scenario.Look{}
	for _, l := range s.Looks {
		if l.On.Before(s.SetOn) {
			continue
		}
		look := scenario.Look{Day: days(s.SetOn, l.On), Firm: l.Look.Stem == "firm"}
		if roots, ok := sumRoots(s.Numbers, l.Look); ok {
			look.Counted, look.LongestMM, look.Roots, look.Nodes, look.Side = true, roots.longest.LengthMM, roots.count, roots.nodes, roots.side > 0
			look.How = scenario.ByPhoto
			if roots.longest.How == plant.Typed {
				look.How = scenario.ByRuler
				if roots.longest.With == "eye" {
					look.How = scenario.ByEye
				}
			}
		}
		switch l.Look.Tug {
		case "holds":
			look.Tug = scenario.Holds
		case "gives":
			look.Tug = scenario.Gives
		}
		for _, b := range l.Look.Buds {
			look.Bud = max(look.Bud, buds[b.Bud])
		}
		out = append(out, look)
	}
	return out
}

// chanceWords are words for chances, from the least chance each begins at.
var chanceWords = []struct {
	from float64
	word string
}{{0.95, "Almost surely ready"}, {0.8, "Likely ready"}, {0.6, "More likely ready than not"}, {0.4, "Perhaps ready"}, {0.2, "Rather not ready yet"}, {0.05, "Hardly ready yet"}, {0, "Not ready yet"}}

// Words says the chance that it is ready, in words and in tenths.
func (c Chance) Words() string {
	for _, w := range chanceWords {
		if c.Ready < w.from {
			continue
		}
		if tenths := int(c.Ready*10 + 0.5); tenths > 0 && tenths < 10 {
			return fmt.Sprintf("%s: %d in 10.", w.word, tenths)
		}
		return w.word + "."
	}
	return ""
}
