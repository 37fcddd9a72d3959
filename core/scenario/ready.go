package scenario

import (
	"math"
	"sort"
)

// Wants is what a school wants of a piece before it is potted; what is 0 or false it does not ask.
type Wants struct {
	LongestMM float64
	Roots     int
	// Side wants side roots, Nodes roots on both of two set nodes, Anchor that a tug holds, Leaf an open leaf.
	Side, Nodes, Anchor, Leaf bool
}

// ready is the effective time at which a scenario has all that is wanted; 0 when it has it already, infinite for never.
func (s *Scenarios) ready(x Scenario, w Wants) float64 {
	t := 0.0
	later := func(v float64) { t = math.Max(t, v) }
	if w.LongestMM > 0 {
		later(x.Reaches(w.LongestMM))
	}
	if w.Roots > 0 {
		later(x.Roots[min(w.Roots, len(x.Roots))-1])
	}
	if w.Side && !x.sideSeen {
		later(x.Reaches(x.SideMM))
	}
	if w.Nodes {
		later(x.Second)
	}
	if w.Anchor {
		later(x.Reaches(x.AnchorMM))
	}
	if w.Leaf {
		later(x.Leaf)
	}
	return t
}

// farthest is how many days from setting on are looked at: what comes later counts as never.
const farthest = 400.0

// Forecast is when a piece will be ready.
type Forecast struct {
	// Now is the chance that it is ready today; Never that no root ever comes, Lacks that a root comes and yet something the
	// school wants does not.
	Now, Never, Lacks float64
	// Days are when it is ready in days since setting, given it comes: in 1, 5 and 9 of 10 cases later than that. 0 for already.
	Days [3]float64
	// days of each scenario and their order
	list [M]float64
}

// At is the chance that it is ready by a day since setting.
func (f Forecast) At(s *Scenarios, day float64) float64 {
	sum := 0.0
	for m, d := range f.list {
		if d <= day {
			sum += s.List[m].Weight
		}
	}
	return sum * (1 - f.Never)
}

// Ready is when it is ready for what a school wants.
func (s *Scenarios) Ready(w Wants) Forecast {
	f := Forecast{Never: s.Never}
	type entry struct{ day, weight float64 }
	list := []entry{}
	come := 0.0
	for m, x := range s.List {
		d := s.Clock.Day(s.ready(x, w))
		f.list[m] = d
		if d > farthest {
			f.Lacks += x.Weight
			continue
		}
		come += x.Weight
		list = append(list, entry{d, x.Weight})
	}
	f.Now = f.At(s, s.Today)
	sort.SliceStable(list, func(i, j int) bool { return list[i].day < list[j].day })
	for i, q := range []float64{0.1, 0.5, 0.9} {
		sum := 0.0
		f.Days[i] = math.Inf(1)
		for _, e := range list {
			if sum += e.weight; sum >= q*come {
				f.Days[i] = e.day
				break
			}
		}
	}
	return f
}

// rotted is the cumulative hazard to rot of a scenario up to an effective time, from setting on. A piece that never roots is
// x with First at infinity.
func (s *Scenarios) hazard(first, factor, t float64) float64 {
	h := -math.Log(1-s.params.Rot) / s.params.First.Mid * factor
	sum := h * math.Min(t, first)
	if t > first {
		sum += h * rootedRot * (t - first)
	}
	if s.params.Water {
		if t > waterMost {
			sum += waterRot * (t - waterMost)
		}
	}
	return sum
}

// weekBefore is how much of the week before the newest firm look counts: what rotted then may not have shown.
const weekBefore = 0.2

// rotBetween is the hazard of a scenario from the newest firm look to a day since setting.
func (s *Scenarios) rotBetween(first, factor, day float64) float64 {
	t := s.Clock.Effective(day)
	h := s.hazard(first, factor, t) - s.hazard(first, factor, s.firm)
	if s.firm > 0 {
		week := s.Clock.Effective(math.Max(0, s.Clock.Day(s.firm)-7))
		h += weekBefore * (s.hazard(first, factor, s.firm) - s.hazard(first, factor, week))
	}
	return math.Max(0, h)
}

// Rot is the chance that it has rotted by a day since setting, since it was last seen firm.
func (s *Scenarios) Rot(day float64) float64 {
	sum := s.Never * (1 - math.Exp(-s.rotBetween(math.Inf(1), neverRot, day)))
	for _, x := range s.List {
		sum += (1 - s.Never) * x.Weight * (1 - math.Exp(-s.rotBetween(x.First, 1, day)))
	}
	return sum
}
