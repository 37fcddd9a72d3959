package scenario

import (
	"cmp"
	"math"
	"slices"
)

// Wants is what a school wants of a piece before it is potted; what is 0 or false it does not ask.
type Wants struct {
	LongestMM float64
	Roots     int
	// Side wants side roots, Nodes roots on both of two set nodes, Anchor that a tug holds, Leaf an open leaf.
	Side, Nodes, Anchor, Leaf bool
	// Shoot wants a shoot, with a leaf or without.
	Shoot bool
}

// ready is the effective time at which a scenario has all that is wanted; 0 when it has it already, infinite for never.
func (s *Scenarios) ready(x *Scenario, w Wants) float64 {
	m := s.m
	t := 0.0
	later := func(v float64) { t = math.Max(t, v) }
	if w.LongestMM > 0 {
		later(m.reaches(x, w.LongestMM))
	}
	if w.Roots > 0 {
		later(x.Roots[min(w.Roots, len(x.Roots))-1])
	}
	if w.Side && !x.sideSeen {
		later(m.reaches(x, x.SideMM))
	}
	if w.Nodes {
		later(x.Second)
	}
	if w.Anchor {
		later(m.reaches(x, x.AnchorMM))
	}
	if w.Leaf {
		later(x.Leaf)
	}
	if w.Shoot {
		later(m.shootsAt * x.Leaf)
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
	return math.Min(1, sum*(1-f.Never))
}

// List are the days since setting on which scenarios are ready, in their order, 0 for already, and the chance to be ready by each.
func (f Forecast) List(s *Scenarios) (days, sums []float64) {
	order := make([]int, M)
	for m := range order {
		order[m] = m
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(f.list[a], f.list[b]) })
	sum := 0.0
	for _, m := range order {
		if f.list[m] > farthest {
			break
		}
		sum += s.List[m].Weight * (1 - f.Never)
		days, sums = append(days, f.list[m]), append(sums, math.Min(1, sum))
	}
	return days, sums
}

// Share is the part of what comes that has come by a day since setting, 0 to 1; with strict, before it.
func (f Forecast) Share(s *Scenarios, day float64, strict bool) float64 {
	by, all := 0.0, 0.0
	for m, d := range f.list {
		if d > farthest {
			continue
		}
		all += s.List[m].Weight
		if d < day || !strict && d == day {
			by += s.List[m].Weight
		}
	}
	if all == 0 {
		return 0
	}
	return by / all
}

// Ready is when it is ready for what a school wants.
func (s *Scenarios) Ready(w Wants) Forecast {
	f := Forecast{Never: s.Never}
	type entry struct{ day, weight float64 }
	list := make([]entry, 0, M)
	come := 0.0
	for i := range s.List {
		x := &s.List[i]
		d := s.Clock.Day(s.ready(x, w))
		f.list[i] = d
		if d > farthest {
			f.Lacks += x.Weight
			continue
		}
		come += x.Weight
		list = append(list, entry{d, x.Weight})
	}
	f.Now = f.At(s, s.Today)
	slices.SortFunc(list, func(x, y entry) int { return cmp.Or(cmp.Compare(x.day, y.day), cmp.Compare(x.weight, y.weight)) })
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

// hazard is the cumulative hazard to rot of a scenario up to an effective time, from setting on. A piece that never roots is
// one with first at infinity.
func (s *Scenarios) hazard(first, factor, t float64) float64 {
	m := s.m
	h := s.rot * factor
	sum := h * math.Min(t, first)
	if t > first {
		sum += h * m.rootedRot * (t - first)
	}
	if s.params.Water {
		if at := t - s.params.WaterFrom; at > m.waterMost {
			sum += m.waterRot * (at - m.waterMost)
		}
	}
	return sum
}

// living is the chance to stay sound from today to an effective time: of a piece that never roots, of one that roots later, and
// of one that has rooted.
type living struct{ now, t, never, bare, rooted float64 }

func (s *Scenarios) lives(t float64) living {
	m := s.m
	now := s.now()
	stays := func(first, factor float64) float64 {
		return math.Exp(s.hazard(first, factor, now) - s.hazard(first, factor, t))
	}
	inf := math.Inf(1)
	return living{now, t, stays(inf, m.neverRot), stays(inf, 1), stays(0, 1)}
}

// of is that of a scenario.
func (l living) of(s *Scenarios, x *Scenario) float64 {
	switch {
	case x.First >= l.t:
		return l.bare
	case x.First <= l.now:
		return l.rooted
	}
	return math.Exp(s.hazard(x.First, 1, l.now) - s.hazard(x.First, 1, l.t))
}

// rotBetween is the hazard of a scenario from the newest firm look to an effective time.
func (s *Scenarios) rotBetween(first, factor, t float64) float64 {
	m := s.m
	atFirm := s.hazard(first, factor, s.firm)
	h := s.hazard(first, factor, t) - atFirm
	if s.firm > 0 {
		h += m.weekBefore * (atFirm - s.hazard(first, factor, s.week))
	}
	return math.Max(0, h)
}

// Rot is the chance that it has rotted by a day since setting, since it was last seen firm.
func (s *Scenarios) Rot(day float64) float64 {
	m := s.m
	t := s.Clock.Effective(day)
	rots := func(first, factor float64) float64 { return 1 - math.Exp(-s.rotBetween(first, factor, t)) }
	// Most have rooted before the week that counts, or root later than that day: of each of these it is the same.
	rooted, bare := rots(0, 1), rots(t, 1)
	sum := s.Never * rots(math.Inf(1), m.neverRot)
	for i := range s.List {
		x := &s.List[i]
		p := bare
		if x.First <= s.week {
			p = rooted
		} else if x.First < t {
			p = rots(x.First, 1)
		}
		sum += (1 - s.Never) * x.Weight * p
	}
	return sum
}

// FirstRoot is the logarithm of when the first root came or will come: its mean and its variance by what was seen, and before.
func (s *Scenarios) FirstRoot() (mean, variance, before, spread float64) {
	square := 0.0
	for i := range s.List {
		x := &s.List[i]
		l := math.Log(math.Max(x.First, soonest))
		mean, square = mean+x.Weight*l, square+x.Weight*l*l
	}
	mu, sigma := s.params.firstRoot()
	return mean, math.Max(0, square-mean*mean), mu, sigma * sigma
}
