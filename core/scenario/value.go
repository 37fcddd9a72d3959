package scenario

import "math"

// School is how well a piece does once it is potted: assumed. Base and Gain are what no roots and long roots are worth, Scale
// the length in mm over which they gain; from Over mm on each mm more costs Loss; NoLeaf is what a piece without an open leaf
// keeps.
type School struct {
	Wants
	Base, Gain, Scale, Over, Loss, NoLeaf float64
}

// byRoots is what a piece with so many roots keeps.
var byRoots = [4]float64{0.60, 0.88, 0.96, 1}

// leastLong is what a piece with overgrown roots keeps at least.
const leastLong = 0.5

// The season of potting, days of the year from 0 in the north: from falling on it is worth less and less, down to low, until
// spring.
const (
	falls, low0, rises, spring = 238, 265, 355, 79
	lowSeason                  = 0.85
)

// season is what potting on a day of the year is worth against the bright half.
func season(doy float64) float64 {
	doy = math.Mod(doy, 365)
	switch {
	case doy >= falls && doy < low0:
		return 1 - (1-lowSeason)*(doy-falls)/(low0-falls)
	case doy >= low0 && doy < rises:
		return lowSeason
	case doy >= rises:
		return lowSeason + (1-lowSeason)*(doy-rises)/(365-rises+spring)
	case doy < spring:
		return lowSeason + (1-lowSeason)*(doy+365-rises)/(365-rises+spring)
	}
	return 1
}

// established is the chance to grow on of a scenario that is potted at an effective time and a day since setting.
func (s *Scenarios) established(x Scenario, k School, t, day float64) float64 {
	length, roots := 0.0, 0
	if t >= x.First {
		length = x.LengthAt(math.Max(t, x.From))
	}
	for _, at := range x.Roots {
		if at <= t {
			roots++
		}
	}
	return k.worth(length, roots, x.Leaf <= t) * season(float64(s.Clock.doy)+day)
}

func (k School) worth(length float64, roots int, leaf bool) float64 {
	v := (k.Base + k.Gain*(1-math.Exp(-length/k.Scale))) * math.Max(leastLong, 1-k.Loss*math.Max(0, length-k.Over)) * byRoots[roots]
	if !leaf {
		v *= k.NoLeaf
	}
	return v
}

// What a piece is worth that rots, and what a day costs: assumed.
const (
	rottenWorth = 0.35
	dayCosts    = 0.001
	asGood      = 0.01
	mostAhead   = 60
)

// Curve is what potting is worth on each of the coming days, from today on.
type Curve struct {
	Worth [mostAhead + 1]float64
	// Best is the day from today on which it is worth most; from From to To it is as good.
	Best, From, To int
}

// BestDay is what potting is worth on the coming days.
func (s *Scenarios) BestDay(k School) Curve {
	c := Curve{}
	for d := range c.Worth {
		c.Worth[d] = s.worth(k, float64(d))
		if c.Worth[d] > c.Worth[c.Best] {
			c.Best = d
		}
	}
	c.From, c.To = c.Best, c.Best
	for c.From > 0 && c.Worth[c.From-1] >= c.Worth[c.Best]-asGood {
		c.From--
	}
	for c.To < mostAhead && c.Worth[c.To+1] >= c.Worth[c.Best]-asGood {
		c.To++
	}
	return c
}

// worth is what potting is worth so many days from today.
func (s *Scenarios) worth(k School, ahead float64) float64 {
	day := s.Today + ahead
	t := s.Clock.Effective(day)
	surv, es := 0.0, 0.0
	add := func(weight, first, factor, e float64) {
		surv += weight * math.Exp(-s.rotBetween(first, factor, day)+s.rotBetween(first, factor, s.Today))
		es += weight * e
	}
	add(s.Never, math.Inf(1), neverRot, k.worth(0, 0, false)*season(float64(s.Clock.doy)+day))
	for _, x := range s.List {
		add((1-s.Never)*x.Weight, x.First, 1, s.established(x, k, t, day))
	}
	sum := surv*es + (1-surv)*rottenWorth
	return sum - dayCosts*ahead
}
