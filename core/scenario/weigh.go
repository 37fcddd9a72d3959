package scenario

import (
	"math"
	"slices"
)

// How a length was taken.
type How int

// The ways.
const (
	ByPhoto How = iota
	ByRuler
	ByEye
)

// Seeing is how far a look may be off: the spread of a length as a share of it, and in mm.
type Seeing struct{ Share, ConstantMM float64 }

// Sees is how far a length taken so may be off.
func (m *Model) Sees(h How) Seeing { return Seeing{m.ways[h].share, m.ways[h].constant} }

// Bud is how far a bud was seen; 0 when nobody looked.
type Bud int

// The states of a bud.
const (
	BudNotSeen Bud = iota
	Asleep
	Swelling
	Shooting
	LeafOpen
)

// Tug is what a tug said; 0 when nobody tugged.
type Tug int

// What a tug says.
const (
	NoTug Tug = iota
	Gives
	Holds
)

// Look is what was seen on a day since setting.
type Look struct {
	Day float64
	How How
	// Counted tells that roots were looked for: the longest in mm (0 for none), how many of 5 mm or more, on how many nodes.
	Counted   bool
	LongestMM float64
	// OffMM is how far that length may be off, a standard deviation, where it was measured with an interval of its own that is wider
	// than lengths taken so usually are; 0 for the usual.
	OffMM float64
	Roots int
	Nodes int
	Side  bool
	Bud   Bud
	Tug   Tug
	// Firm tells that the stem was firm.
	Firm bool
}

// Scenario is one simulated cutting. Times are effective days since setting; 0 for what is there already.
type Scenario struct {
	Weight float64
	// First is when its first root came; Length is how long the longest is at From, from when on it grows by Rate mm a day.
	First, Length, From, Rate float64
	// Roots[k] is when it has k+1 roots of 5 mm.
	Roots [3]float64
	// Second is when a second set node has rooted; infinite for never.
	Second float64
	// Leaf is when a leaf is open; SideMM and AnchorMM are the lengths of the longest root from which it has side roots and
	// holds against a tug.
	Leaf, SideMM, AnchorMM float64
	sideSeen               bool
}

// reaches is when its longest root is so many mm long.
func (m *Model) reaches(s *Scenario, mm float64) float64 {
	if s.Length >= mm {
		return 0
	}
	return s.From + (m.straight(mm)-m.straight(s.Length))/s.Rate
}

// lengthAt is how long its longest root is at an effective time from the last length on.
func (m *Model) lengthAt(s *Scenario, t float64) float64 {
	if t <= s.From {
		return s.Length
	}
	y := m.straight(s.Length) + s.Rate*(t-s.From)
	return y / (1 + y/m.longestMM)
}

// Scenarios are all of them, and the chance that no root ever comes.
type Scenarios struct {
	List  [M]Scenario
	Never float64
	Clock Clock
	// Today is the day since setting.
	Today  float64
	params Params
	m      *Model
	// firm is the effective time of the last look at which the stem was firm, week that of a week before it; rot the hazard of a
	// piece without roots, an effective day.
	firm, week, rot float64
	looks           []Look
	times           []float64 // effective, of the looks
	// evergreen: it is potted as well in the dark half of the year.
	evergreen bool
}

// Weigh weighs facts into scenarios. Looks may come in any order.
func Weigh(p Params, c Clock, looks []Look, today float64) *Scenarios {
	s := &Scenarios{Clock: c, Today: today, params: p, m: p.m(), looks: slices.Clone(looks), rot: -math.Log(1-p.Rot) / p.First.Mid}
	slices.SortStableFunc(s.looks, func(a, b Look) int {
		switch {
		case a.Day < b.Day:
			return -1
		case a.Day > b.Day:
			return 1
		}
		return 0
	})
	for _, l := range s.looks {
		s.times = append(s.times, c.Effective(l.Day))
		if l.Firm {
			s.firm, s.week = c.Effective(l.Day), c.Effective(math.Max(0, l.Day-7))
		}
	}
	if slices.ContainsFunc(s.looks, func(l Look) bool { return l.LongestMM > 0 }) {
		s.grown()
	} else {
		s.unseen()
	}
	s.rest()
	s.hear()
	total := 0.0
	for _, x := range s.List {
		total += x.Weight
	}
	for i := range s.List {
		s.List[i].Weight /= total
	}
	return s
}

// unseen is for a piece on which no root was seen.
func (s *Scenarios) unseen() {
	m := s.m
	p := s.params
	mu, sigma := p.firstRoot()
	rate, rateSigma := p.rate()
	cut := math.Inf(-1)
	for _, l := range s.looks {
		if l.Counted {
			cut = s.Clock.Effective(l.Day) - m.visibleMM/rate
		}
	}
	u := 0.0
	if cut > 0 {
		u = normal.CDF((math.Log(cut) - mu) / sigma)
	}
	w := p.roots()
	s.Never = (1 - w) / (1 - w + w*(1-u))
	for i := range s.List {
		at := &points[i]
		x := &s.List[i]
		x.Weight = 1
		x.First = math.Exp(mu + sigma*normal.Quantile(math.Min(1-1e-12, u+(1-u)*at.u(1))))
		x.From, x.Rate = x.First, m.forward(rate*math.Exp(rateSigma*at.z(2)), 0, at.z(4))
	}
}

// forward is the rate a root goes on at: it wanders.
func (m *Model) forward(rate, length, z float64) float64 {
	days := math.Max(1, (m.straight(50)-m.straight(math.Min(length, 49)))/rate)
	spread := math.Min(0.4, math.Sqrt(m.wander/days))
	return rate * math.Exp(0.05+spread*z-spread*spread/2)
}

// rest gives each scenario what its first root does not tell, given what was seen.
func (s *Scenarios) rest() {
	m := s.m
	p := s.params
	mu, sigma := p.firstRoot()
	further := p.further()
	var last Look // the newest look at which roots were counted
	side, second, most := false, false, 0
	for _, l := range s.looks {
		if l.Counted && (l.LongestMM > 0 || last.LongestMM == 0) { // a look that saw none of the roots that are there missed them
			last = l
			most = max(most, l.Roots)
		}
		side, second = side || l.Side, second || l.Nodes > 1
	}
	buds, sides, n := s.buds(), m.sideOf(last, side), max(1, most)
	not := s.unknown(n)
	leafSpread := s.params.Pot.sigma()
	usual := math.Log(m.leafLater*s.params.Pot.Mid) + s.params.Grower
	with := m.leafWithRoot * leafSpread / sigma
	leafSpread *= math.Sqrt(1 - m.leafWithRoot*m.leafWithRoot)
	seen := s.Clock.Effective(last.Day)
	for i := range s.List {
		x, at := &s.List[i], &points[i]
		fifth := m.countedMM / x.Rate
		if last.LongestMM > 0 {
			age := math.Max(0.5, seen-x.First-fifth)
			missed := not.missed(seen-age, seen)
			rate := gammaQuantile(m.furtherShape+float64(n-1), at.z(5)) / (m.furtherShape/further + age - missed)
			have := most + poissonQuantile(rate*missed, at.u(6))
			for k := range x.Roots {
				if missing := k + 1 - have; missing > 0 {
					x.Roots[k] = math.Max(seen, m.reaches(x, m.countedMM))
					if more := k + 1 - max(1, have); more > 0 {
						x.Roots[k] += at.after[more] / rate
					}
				}
			}
		} else {
			rate := m.further[i] * further / m.furtherShape
			for k := range x.Roots {
				x.Roots[k] = math.Max(seen, x.First+at.after[k]/rate+fifth)
			}
		}
		x.Second = s.second(*x, last, second, at)
		x.SideMM, x.sideSeen = sides.of(m, i)
		x.AnchorMM = m.anchor[i]
		s.leaf(x, usual+with*(math.Log(x.First)-mu), leafSpread, buds, at)
	}
}

// unknown is, for each look from the newest back, how likely a root that was there at it is still not known of: the newest look
// missed it, and none of those before it saw it along with the n that are known. Looks that saw no root do not count.
type unknown struct {
	times, chance []float64
}

func (s *Scenarios) unknown(n int) (u unknown) {
	m := s.m
	chance := 1.0
	for i := len(s.looks) - 1; i >= 0; i-- {
		l := &s.looks[i]
		if !l.Counted || l.LongestMM == 0 {
			continue
		}
		sees := m.ways[l.How].seesRoot
		if len(u.times) > 0 {
			sees = math.Pow(sees, float64(n+1))
		}
		chance *= 1 - sees
		u.times, u.chance = append(u.times, s.times[i]), append(u.chance, chance)
	}
	return u
}

// missed is how much of the time between two effective times, the second that of the newest look at roots, a root that came in it is
// not known of.
func (u unknown) missed(from, to float64) (sum float64) {
	chance := 1.0
	for i, t := range u.times {
		if t <= from {
			break
		}
		sum += chance * (to - t)
		chance, to = u.chance[i], t
	}
	return sum + chance*math.Max(0, to-from)
}

// second is when the other of two set nodes has rooted.
func (s *Scenarios) second(x Scenario, last Look, rooted bool, at *point) float64 {
	m := s.m
	if rooted || len(s.params.Wake) < 2 {
		return 0
	}
	w := s.params.Wake[1]
	never := 2 * (1 - w) / (2 - w)
	fifth := m.countedMM / x.Rate
	from := 0.0
	if last.LongestMM > 0 {
		if r := (s.Clock.Effective(last.Day) - fifth) / x.First; r > 1 {
			from = math.Log(r) / m.secondLater
		}
	}
	tail := 2 * (1 - normal.CDF(from))
	never /= never + (1-never)*tail
	u := at.u(7)
	if u < never {
		return math.Inf(1)
	}
	u = (u - never) / (1 - never)
	z := normal.Quantile(1 - math.Max(1e-12, tail*(1-u))/2)
	return x.First*math.Exp(m.secondLater*z) + fifth
}

// sideSays is what looks say of side roots: seen, or that the longest root has none at a length, with how likely it has some all the
// same and they were missed.
type sideSays struct {
	seen, looked     bool
	has, missed, all float64
}

func (m *Model) sideOf(last Look, seen bool) sideSays {
	o := sideSays{seen: seen, looked: last.LongestMM > 0}
	if o.looked {
		o.has = normal.CDF(math.Log(last.LongestMM/m.sideMM) / m.lengthSigma)
		o.missed = o.has * (1 - m.ways[last.How].seesSide)
		o.all = 1 - o.has + o.missed
	}
	return o
}

// side is the length from which the longest root has side roots.
func (o sideSays) of(m *Model, i int) (mm float64, there bool) {
	if o.seen {
		return 0, true
	}
	if !o.looked {
		return m.side[i], false
	}
	u := points[i].u(8)
	if u < o.missed/o.all {
		return 0, true
	}
	u = o.has + (u*o.all - o.missed)
	return m.sideMM * math.Exp(m.lengthSigma*normal.Quantile(math.Min(1-1e-12, math.Max(1e-12, u)))), false
}

// within is between which effective times a leaf opens, by one look at the bud.
type within struct{ from, to float64 }

// budSays are the times between which a leaf opens, by each look at the bud and by all of them; where they contradict each other,
// of is the logarithm of each cut between two times, and like how well what lies after it goes with all looks.
type budSays struct {
	all, log within
	clash    bool
	of, like []float64
}

func (s *Scenarios) buds() budSays {
	m := s.m
	b := budSays{all: within{0, math.Inf(1)}}
	each := []within{}
	for _, l := range s.looks {
		t := s.Clock.Effective(l.Day)
		w := within{0, math.Inf(1)}
		switch l.Bud {
		case BudNotSeen:
			continue
		case Asleep:
			w.from = t / m.swellsAt
		case Swelling:
			w = within{t / m.shootsAt, t / m.swellsAt}
		case Shooting:
			w = within{t, t / m.shootsAt}
		case LeafOpen:
			w.to = t
		}
		each = append(each, w)
		b.all.from, b.all.to = math.Max(b.all.from, w.from), math.Min(b.all.to, w.to)
		b.of = append(b.of, w.from, w.to)
	}
	b.log = within{math.Log(b.all.from), math.Log(b.all.to)}
	if b.clash = b.all.from >= b.all.to; !b.clash {
		return b
	}
	b.of = append(b.of, 0)
	slices.Sort(b.of)
	b.of = slices.Compact(b.of)
	for _, from := range b.of {
		like := 1.0
		for _, w := range each {
			if from >= w.from && from < w.to {
				like *= 1 - m.budWrong
			} else {
				like *= m.budWrong / 3
			}
		}
		b.like = append(b.like, like)
	}
	for i, t := range b.of {
		b.of[i] = math.Log(t)
	}
	return b
}

// leaf gives the time of a leaf, within what buds say; they weigh the scenario.
// mean and spread are of its logarithm.
func (s *Scenarios) leaf(x *Scenario, mean, spread float64, buds budSays, at *point) {
	cdf := func(log float64) float64 {
		switch {
		case math.IsInf(log, -1):
			return 0
		case math.IsInf(log, 1):
			return 1
		}
		return normal.CDF((log - mean) / spread)
	}
	_, u := math.Modf(at.u(9) + at.u(5)/2)
	a, b := cdf(buds.log.from), cdf(buds.log.to)
	weight := b - a
	if buds.clash {
		a, b, u, weight = buds.piece(cdf, u)
	}
	x.Weight *= math.Max(1e-9, weight)
	x.Leaf = math.Exp(mean + spread*normal.Quantile(math.Min(1-1e-12, math.Max(1e-12, a+(b-a)*u))))
	if !buds.clash && buds.all.to <= s.Clock.Effective(s.Today) && s.open() {
		x.Leaf = 0
	}
}

// piece picks one of the pieces between the cuts by u, and tells what is left of u within it and how likely all pieces are.
func (b budSays) piece(cdf func(float64) float64, u float64) (from, to, within, all float64) {
	cuts := make([]float64, len(b.of)+1)
	for i, t := range b.of {
		cuts[i] = cdf(t)
	}
	cuts[len(b.of)] = 1
	for i, like := range b.like {
		all += like * (cuts[i+1] - cuts[i])
	}
	left := u * all
	for i, like := range b.like {
		mass := like * (cuts[i+1] - cuts[i])
		if left <= mass && mass > 0 {
			return cuts[i], cuts[i+1], left / mass, all
		}
		left -= mass
	}
	return 0, 1, u, all
}

// open tells whether a leaf was seen open.
func (s *Scenarios) open() bool {
	return slices.ContainsFunc(s.looks, func(l Look) bool { return l.Bud == LeafOpen })
}

// hear weighs scenarios by what tugs said; on a piece without roots they also speak on whether roots ever come.
func (s *Scenarios) hear() {
	m := s.m
	for _, l := range s.looks {
		if l.Tug == NoTug {
			continue
		}
		t := s.Clock.Effective(l.Day)
		sum := 0.0
		for i := range s.List {
			x := &s.List[i]
			length := m.lengthAt(x, t)
			if t < x.From {
				length = 0
				if t > x.First { // before the newest length: as long as the same rate makes it
					length = x.Length * (t - x.First) / math.Max(1e-9, x.From-x.First)
				}
			}
			holds := length >= x.AnchorMM
			chance := 1 - m.tugRight
			if holds == (l.Tug == Holds) {
				chance = m.tugRight
			}
			x.Weight *= chance
			sum += chance
		}
		if s.Never > 0 {
			// A stem without roots gives.
			chance := m.tugRight
			if l.Tug == Holds {
				chance = 1 - m.tugRight
			}
			odds := s.Never / (1 - s.Never) * chance / (sum / M)
			s.Never = odds / (1 + odds)
		}
	}
}
