package scenario

import "math"

// School is how well a piece does once it is potted: assumed. Base and Gain are what no roots and long roots are worth, Scale
// the length in mm over which they gain; from Over mm on each mm more costs Loss; NoLeaf is what a piece without an open leaf
// keeps.
type School struct {
	Wants
	Base, Gain, Scale, Over, Loss, NoLeaf float64
	table                                 []float64
}

// The season of potting, days of the year from 0 in the north: from falling on it is worth less and less, down to low, until
// spring.
const (
	falls, low0, rises, spring = 238, 265, 355, 79
)

// season is what potting on a day of the year is worth against the bright half.
func (m *Model) season(doy float64) float64 {
	doy = math.Mod(doy, 365)
	switch {
	case doy >= falls && doy < low0:
		return 1 - (1-m.lowSeason)*(doy-falls)/(low0-falls)
	case doy >= low0 && doy < rises:
		return m.lowSeason
	case doy >= rises:
		return m.lowSeason + (1-m.lowSeason)*(doy-rises)/(365-rises+spring)
	case doy < spring:
		return m.lowSeason + (1-m.lowSeason)*(doy+365-rises)/(365-rises+spring)
	}
	return 1
}

// established is the chance to grow on of a scenario that is potted at an effective time, in the bright season.
func (s *Scenarios) established(x *Scenario, k *School, t float64) float64 {
	length, roots := 0.0, 0
	if t >= x.First {
		length = s.m.lengthAt(x, math.Max(t, x.From))
	}
	for _, at := range x.Roots {
		if at <= t {
			roots++
		}
	}
	return k.worth(s.m, length, roots, x.Leaf <= t)
}

// Overgrown is how much of its chance to grow on a piece has lost to roots that are longer than the school wants, on a day
// since setting: 0 to 1, a mean over all scenarios.
func (s *Scenarios) Overgrown(k School, day float64) (sum float64) {
	m := s.m
	t := s.Clock.Effective(day)
	for i := range s.List {
		x := &s.List[i]
		if t < x.First {
			continue
		}
		length := s.m.lengthAt(x, math.Max(t, x.From))
		sum += x.Weight * math.Min(1-m.leastLong, k.Loss*math.Max(0, length-k.Over))
	}
	return sum * (1 - s.Never)
}

// season is what potting on a day since setting is worth against the bright half.
func (s *Scenarios) season(day float64) float64 {
	if s.evergreen {
		return 1
	}
	return s.m.season(float64(s.Clock.doy) + day)
}

func (k *School) worth(m *Model, length float64, roots int, leaf bool) float64 {
	v := k.byLength(m, length) * m.byRoots[roots]
	if !leaf {
		v *= k.NoLeaf
	}
	return v
}

// Tabled is the school with its table made.
func (k School) Tabled(m *Model) School {
	k.table = make([]float64, perTable*int(m.longestMM)+2)
	for i := range k.table {
		l := float64(i) / perTable
		k.table[i] = (k.Base + k.Gain*(1-math.Exp(-l/k.Scale))) * math.Max(m.leastLong, 1-k.Loss*math.Max(0, l-k.Over))
	}
	return k
}

// perTable is how many steps of the table of worth a mm is.
const perTable = 2

// byLength is what a longest root of a length is worth, read from a table that is made when it is first asked for: it is asked
// for a thousand times a piece.
func (k *School) byLength(m *Model, mm float64) float64 {
	if k.table == nil {
		*k = k.Tabled(m)
	}
	at := math.Min(mm, m.longestMM) * perTable
	i := int(at)
	return k.table[i] + (at-float64(i))*(k.table[i+1]-k.table[i])
}

// mostAhead is how many days are looked ahead.
const mostAhead = 60

// Curve is what potting is worth on each of the coming days, from today on.
type Curve struct {
	Worth [mostAhead + 1]float64
	// Best is the day from today on which it is worth most; from From to To it is as good.
	Best, From, To int
}

// BestDay is what potting is worth on the coming days.
func (s *Scenarios) BestDay(k School) Curve {
	m := s.m
	c := Curve{}
	for d := range c.Worth {
		c.Worth[d] = s.worth(&k, float64(d))
		if c.Worth[d] > c.Worth[c.Best] {
			c.Best = d
		}
	}
	c.From, c.To = c.Best, c.Best
	for c.From > 0 && c.Worth[c.From-1] >= c.Worth[c.Best]-m.asGood {
		c.From--
	}
	for c.To < mostAhead && c.Worth[c.To+1] >= c.Worth[c.Best]-m.asGood {
		c.To++
	}
	return c
}

// worth is what potting is worth so many days from today.
func (s *Scenarios) worth(k *School, ahead float64) float64 {
	m := s.m
	day := s.Today + ahead
	t := s.Clock.Effective(day)
	lives := s.lives(t)
	surv := s.Never * lives.never
	es := s.Never * k.worth(s.m, 0, 0, false)
	for i := range s.List {
		x := &s.List[i]
		w := (1 - s.Never) * x.Weight
		surv += w * lives.of(s, x)
		es += w * s.established(x, k, t)
	}
	es *= s.season(day)
	return surv*es + (1-surv)*m.rottenWorth - m.dayCosts*ahead
}

// Worth is the chance to grow on of a piece that is potted with a longest root, so many roots of 5 mm or more, and an open leaf or
// none, on a day of the year from 0.
func (k *School) Worth(m *Model, mm float64, roots int, leaf bool, dayOfYear float64) float64 {
	return k.worth(m, mm, min(roots, len(m.byRoots)-1), leaf) * m.season(dayOfYear)
}

// PottedNow is the chance to grow on of a piece that is potted today.
func (s *Scenarios) PottedNow(k School) float64 { return s.worth(&k, 0) }

// Loses is what leaving a piece unpotted for one more day costs.
func (s *Scenarios) Loses(k School) float64 { return s.worth(&k, 0) - s.worth(&k, 1) }

// Pull is what makes the best day come early.
type Pull string

// The pulls.
const (
	DarkSeason Pull = "dark_season"
	Rotting    Pull = "rot"
	Overgrows  Pull = "overgrowth"
)

// Pulls are what makes the best day come so many days from today and not later: without it, it would come at least three days
// later.
func (s *Scenarios) Pulls(k School, best int) (out []Pull) {
	const later = 3
	without := func(p Pull, with *Scenarios, k School) {
		if with.BestDay(k).Best >= best+later {
			out = append(out, p)
		}
	}
	bright := *s
	bright.evergreen = true
	without(DarkSeason, &bright, k)
	sound := *s
	sound.rot, sound.params.Water = 0, false
	without(Rotting, &sound, k)
	long := k
	long.Loss, long.table = 0, nil
	without(Overgrows, s, long)
	return out
}
