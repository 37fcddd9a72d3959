package practice

import (
	"math"
	"time"

	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/core/scenario"
)

// sees is how likely each root and a side root is seen, by the way of looking.
var sees = map[scenario.How]struct{ root, side float64 }{scenario.ByPhoto: {0.90, 0.90}, scenario.ByRuler: {0.95, 0.90}, scenario.ByEye: {0.75, 0.70}}

// Look looks at the roots, the bud and the stem on a day since setting, as a grower does: now and then something is missed or
// wrong. rot tells that rot was found.
func (c *Case) Look(day float64, how scenario.How) (l scenario.Look, rot bool) {
	l, rot = c.Glance(day)
	r, t := c.r, c.truth.Effective(day)
	l.Counted, l.How = true, how
	way, off := sees[how], scenario.Usual.Sees(how)
	all := c.lengths(t)
	seen := 0.0
	for _, mm := range all {
		if mm < seenMM || r.Float64() > way.root {
			continue
		}
		seen = math.Max(seen, mm)
		if mm >= countedMM {
			l.Roots++
		}
	}
	if seen > 0 {
		mm := seen*(1+off.Share*c.noise*r.NormFloat64()) + off.ConstantMM*c.noise*r.NormFloat64()
		if r.Float64() < grossErrors {
			mm *= 0.4 + 1.4*r.Float64()
		}
		l.LongestMM = math.Max(0.5, mm)
	}
	s := c.at(t)
	if l.Roots > 0 {
		l.Nodes = 1
		if s.nodes > 1 && r.Float64() < way.root {
			l.Nodes = 2
		}
	}
	l.Side = s.side && seen > 0 && r.Float64() < way.side
	return l, rot
}

// Glance looks at the bud and the stem from outside.
func (c *Case) Glance(day float64) (l scenario.Look, rot bool) {
	r := c.r
	l = scenario.Look{Day: day, Bud: c.at(c.truth.Effective(day)).bud, Firm: true}
	if r.Float64() < budWrong {
		l.Bud = scenario.Bud(max(int(scenario.Asleep), min(int(scenario.LeafOpen), int(l.Bud)+1-2*r.IntN(2))))
	}
	if c.Rotten(day) && r.Float64() < rotShows {
		l.Firm, rot = false, true
	}
	return l, rot
}

// Tug tugs on a day since setting.
func (c *Case) Tug(day float64) scenario.Tug {
	holds := c.at(c.truth.Effective(day)).anchor
	if c.r.Float64() < tugWrong {
		holds = !holds
	}
	if holds {
		return scenario.Holds
	}
	return scenario.Gives
}

// Evidence is what a grower has noted of it who set it on a day and took a photo each week up to so many days later.
func (c *Case) Evidence(g plant.Group, m plant.Medium, set time.Time, today int) readiness.Evidence {
	e := readiness.Evidence{Today: set.AddDate(0, 0, today), Group: g, Medium: m, SetOn: set, SetNodes: c.Nodes, Looks: []readiness.LookOn{}}
	buds := map[scenario.Bud]plant.Bud{scenario.Asleep: plant.BudDormant, scenario.Swelling: plant.BudSwelling, scenario.Shooting: plant.BudShooting, scenario.LeafOpen: plant.BudLeafOpen}
	for day := 7; day <= today; day += 7 {
		l, _ := c.Look(float64(day), scenario.ByPhoto)
		look := plant.Look{RootsCounted: true, Stem: "firm", Buds: []plant.BudAt{{Node: 1, Bud: buds[l.Bud]}}}
		for k := range max(l.Roots, min(1, int(math.Ceil(l.LongestMM)))) {
			mm := math.Max(countedMM, l.LongestMM-3*float64(k))
			if k == 0 {
				mm = l.LongestMM
			}
			look.Roots = append(look.Roots, plant.Root{Node: 1 + k%max(1, l.Nodes), Order: 1, LengthMM: mm, LowMM: mm, HighMM: mm})
		}
		e.Looks = append(e.Looks, readiness.LookOn{On: set.AddDate(0, 0, day), Look: look})
	}
	return e
}
