package readiness

import (
	"math"
	"time"

	"clearjar/core/plant"
	"clearjar/core/scenario"

	"gonum.org/v1/gonum/stat/distuv"
)

// Aftercare is what is to be expected of a potted piece: a simulated world.
type Aftercare struct {
	// Stays is the chance that it grows on, 0 to 1, by what was seen since; Probably that it is so high that one may say so. Established
	// it is only by a new leaf.
	Stays    float64 `json:"stays"`
	Probably bool    `json:"probably"`
	// Checks are the days on which its mix is felt: whenever it may have dried out as often as the time before. LeafBy is the day by
	// which nine in ten of those that grow on have a new leaf.
	Checks []time.Time `json:"checks"`
	LeafBy time.Time   `json:"leaf_by"`
}

// lognormal are the quantiles of a time: usual, and from low to high eight times in ten, in effective days.
func lognormal(s scenario.Span) distuv.LogNormal {
	return distuv.LogNormal{Mu: math.Log(s.Mid), Sigma: math.Log(s.High/s.Low) / (2 * 1.2816)}
}

// Times after potting, effective days: of a new leaf of a piece that grows on, and of the collapse of one that does not.
var (
	leafAgain = scenario.Span{Mid: 30, Low: 15, High: 60}
	collapses = scenario.Span{Mid: 12, Low: 5, High: 30}
)

// dryingFades is in how many days the danger of drying out falls to a third; checks end after two weeks.
const (
	dryingFades = 7.0
	dryingDays  = 14
)

// leastCheck keeps checks from coming more often than a hand can feel.
const leastCheck = 0.005

// stays is the chance that a piece with a chance p to grow on at potting does, when it was firm and without a new leaf so many
// effective days later.
func stays(p, t float64) float64 {
	leaf, falls := lognormal(leafAgain).Survival(t), lognormal(collapses).Survival(t)
	if t <= 0 {
		leaf, falls = 1, 1
	}
	return p * leaf / (p*leaf + (1-p)*falls)
}

// dryingChecks are the days after potting on which the mix is felt, of a piece that dries out in two weeks with a chance.
func dryingChecks(chance, each float64) []float64 {
	out := []float64{}
	if chance <= 0 || chance >= 1 || each <= 0 { // nothing to check for, or nothing that says when
		return out
	}
	each = math.Max(each, leastCheck)
	total := -math.Log(1 - chance)
	share := 1 - math.Exp(-dryingDays/dryingFades)
	for k := 1; ; k++ {
		left := 1 - float64(k)*each/total*share
		if day := -dryingFades * math.Log(left); left > 0 && day <= dryingDays {
			out = append(out, day)
			continue
		}
		return out
	}
}

// After is what is to be expected of a potted piece; false for one that is not potted, or ended.
func After(e Evidence, school plant.SchoolKey) (Aftercare, bool) {
	if e.Potted == nil || e.Outcome != nil {
		return Aftercare{}, false
	}
	on := e.Potted.On
	before := e
	before.Potted, before.Today = nil, on
	before.Looks = []LookOn{}
	firm := on
	for _, l := range sorted(e.Looks) {
		if !l.On.After(on) {
			before.Looks = append(before.Looks, l)
		} else if l.Look.Stem == "firm" || l.Look.Leaf == "fresh" {
			firm = l.On
		}
	}
	p := e.Numbers.Of(startStays)
	if m := Expect(before).on(school); m != nil {
		p = m.s.PottedNow(m.row)
	}
	clock := scenario.ModelOf(e.Numbers).Clock(on.YearDay()-1, e.TemperatureC, e.Southern)
	a := Aftercare{Stays: stays(p, clock.Effective(days(on, firm))), Checks: []time.Time{}}
	a.Probably = a.Stays >= e.Numbers.Of(probably)
	dries := e.Numbers.Of(driesFromOther)
	if e.Medium.Row().Liquid && !e.SetOn.IsZero() {
		dries = e.Numbers.Of(driesFromWater)
	}
	if e.Group.Keeping == plant.Damp {
		for _, d := range dryingChecks(dries, e.Numbers.Of(dryingCheck)) {
			a.Checks = append(a.Checks, on.Add(time.Duration(d*float64(24*time.Hour))))
		}
	}
	a.LeafBy = on.Add(time.Duration(clock.Day(leafAgain.High) * float64(24*time.Hour)))
	return a, true
}

// Way is one way on for a piece that rots, and its chance to grow on, 0 to 1.
type Way struct {
	Way    string  `json:"way" enum:"cut,wait,give_up"`
	Chance float64 `json:"chance"`
	Says   string  `json:"says"`
}

// rescueChance is the chance of a piece that is cut back to so many sound nodes: each wakes at half its odds, and a wound rots twice as
// often.
func rescueChance(wake, rot float64, nodes int) float64 {
	odds := wake / (1 - wake) / 2
	again := odds / (1 + odds)
	return (1 - math.Pow(1-again, float64(nodes))) * math.Max(0, 1-2*rot)
}

// ways are the ways on of a piece that rots.
func (d *Decision) ways() []Way {
	s := d.s
	_, wake := s.wake()
	nodes := len(d.SoundNodes)
	if len(s.NodeMM) == 0 || s.rotMM <= 0 { // nobody knows where they are: one is hoped for
		nodes = 1
	}
	return []Way{
		{Way: "cut", Chance: rescueChance(math.Min(0.99, wake), s.of(s.medium.Rots), nodes)},
		{Way: "wait", Chance: s.of(rotWaits)},
		{Way: "give_up"},
	}
}
