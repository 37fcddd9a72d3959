package practice

import (
	"math"
	"math/rand/v2"
	"sort"

	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// Setting is what kind of cuttings are drawn.
type Setting struct {
	// Group and Medium; nodes are 1 or 2.
	Group  plant.Group
	Medium plant.Medium
	// Other draws from a truth of another structure: log-logistic times, noise half as large again, a winter twice as slow.
	Other bool
	// Later is by how much this grower's pieces root later, a logarithm; drawn where Drawn.
	Later float64
	Drawn bool
	// KnownC tells that the temperature is known: always, never, or else every second time.
	Warmth Warmth
}

// Warmth is whether the temperature is known.
type Warmth int

// Whether it is.
const (
	HalfKnown Warmth = iota
	Known
)

// Numbers of the simulated world that are not the model's: assumed.
const (
	rootRates    = 0.20 // spread of the rate from root to root
	growthWaves  = 0.20 // spread of growth from day to day
	waveDays     = 5.0
	grossErrors  = 0.02
	rotShows     = 0.8
	budWrong     = 0.03
	tugWrong     = 0.05
	wavesTo      = 700 // effective days
	noiseOther   = 1.5
	winterOther  = 2.0
	coolest      = 20.0 // around the 24 degrees that an unmeasured place is taken for
	warmest      = 28.0
	secondLater  = 0.45
	sideMM       = 35.0
	anchorMM     = 15.0
	lengthSpread = 0.30
	longest      = 250.0
	countedMM    = 5.0
	seenMM       = 2.0
	mostRoots    = 12
)

type root struct{ start, rate float64 }

// Case is one simulated cutting. Times are effective days since setting.
type Case struct {
	Params scenario.Params
	// Clock is the one the grower knows of; the true one is hidden.
	Clock     scenario.Clock
	Nodes     int
	DayOfYear int
	truth     scenario.Clock
	first     float64
	roots     []root
	second    float64
	leaf      float64
	side      float64
	anchor    float64
	rot       float64
	waves     []float64 // growth up to each effective day, as days of even growth
	noise     float64
	r         *rand.Rand
}

// Draw draws a cutting.
func Draw(seed uint64, s Setting) *Case {
	r := rand.New(rand.NewPCG(seed, 0xc1ea7))
	nodes := 1 + r.IntN(2)
	c := &Case{Nodes: nodes, DayOfYear: r.IntN(365), noise: 1, r: r}
	g := s.Group
	c.Params = scenario.Params{
		First: scenario.Span(g.FirstRootsDays), Pot: scenario.Span(g.PotUpDays), Rot: s.Medium.Row().Rots.Value, Slower: 1,
		GrowerSigma: scenario.Usual.Growers(), Water: s.Medium.Row().Liquid,
	}
	for range nodes {
		c.Params.Wake = append(c.Params.Wake, g.WakeIn(s.Medium))
	}
	celsius := coolest + (warmest-coolest)*r.Float64()
	c.truth = scenario.Usual.Clock(c.DayOfYear, celsius, false)
	c.Clock = c.truth
	if r.IntN(2) == 0 && s.Warmth == HalfKnown {
		c.Clock = scenario.Usual.Clock(c.DayOfYear, 0, false)
	}
	if s.Other {
		c.noise = noiseOther
		c.truth = scenario.Usual.ClockOf(c.DayOfYear, celsius, winterOther)
	}
	later := s.Later
	if s.Drawn {
		later = scenario.Usual.Growers() * r.NormFloat64()
	}
	c.times(later, s.Other)
	return c
}

// times draws when all comes.
func (c *Case) times(later float64, logistic bool) {
	r, p, inf := c.r, c.Params, math.Inf(1)
	mu, sigma := p.Piece()
	z := r.NormFloat64()
	if logistic {
		u := r.Float64()
		z = math.Log(u/(1-u)) * math.Sqrt(3) / math.Pi
	}
	c.first = math.Exp(mu + later + sigma*z)
	awake := 0
	for _, w := range p.Wake {
		if r.Float64() < w {
			awake++
		}
	}
	c.second = inf
	if awake == 2 {
		c.second = c.first * math.Exp(math.Abs(secondLater*r.NormFloat64()))
	}
	rate, rateSigma := p.Rate()
	rate *= math.Exp(rateSigma * r.NormFloat64())
	// The spread of the group's times is over growers: what is the grower's own is split off, and what is left of the leaf goes
	// with the first root so far that all in all they correlate as the model says.
	leafMu, leafSigma, with := p.Leaf()
	own := math.Sqrt(math.Max(0.02, leafSigma*leafSigma-scenario.Usual.Growers()*scenario.Usual.Growers()))
	of := math.Max(-0.9, math.Min(0.9, (with*leafSigma*math.Hypot(sigma, scenario.Usual.Growers())-scenario.Usual.Growers()*scenario.Usual.Growers())/(own*sigma)))
	c.leaf = math.Exp(leafMu + later + own*(of*z+math.Sqrt(1-of*of)*r.NormFloat64()))
	c.side = sideMM * math.Exp(lengthSpread*r.NormFloat64())
	c.anchor = anchorMM * math.Exp(lengthSpread*r.NormFloat64())
	further := p.Further() * gamma(r, 2.5) / 2.5
	factor := 1.0
	if awake == 0 {
		c.first, factor = inf, 2
	} else {
		at := c.first
		for range mostRoots {
			c.roots = append(c.roots, root{at, rate * math.Exp(rootRates*r.NormFloat64())})
			at += r.ExpFloat64() / further
		}
	}
	c.rots(factor)
	c.wave()
}

// rots draws when it rots.
func (c *Case) rots(factor float64) {
	p := c.Params
	h := -math.Log(1-p.Rot) / p.First.Mid
	left := c.r.ExpFloat64()
	t := 0.0
	for step := 0.25; left > 0 && t < wavesTo; t += step {
		rate := h * factor
		if t > c.first {
			rate *= 0.25
		}
		if p.Water && t > 91 {
			rate += 0.003
		}
		left -= rate * step
	}
	c.rot = t
	if left > 0 {
		c.rot = math.Inf(1)
	}
}

// wave draws how growth goes up and down from day to day.
func (c *Case) wave() {
	c.waves = make([]float64, wavesTo+1)
	keeps := math.Exp(-1 / waveDays)
	a := growthWaves * c.noise * c.r.NormFloat64()
	for i := 1; i <= wavesTo; i++ {
		a = keeps*a + math.Sqrt(1-keeps*keeps)*growthWaves*c.noise*c.r.NormFloat64()
		c.waves[i] = c.waves[i-1] + math.Exp(a)
	}
}

// grown is how much it has grown up to an effective time, as days of even growth.
func (c *Case) grown(t float64) float64 {
	t = math.Max(0, math.Min(t, wavesTo-1))
	i := int(t)
	return c.waves[i] + (t-float64(i))*(c.waves[i+1]-c.waves[i])
}

// gamma draws from a Gamma distribution of a shape above 1 and scale 1. published: Marsaglia & Tsang 2000.
func gamma(r *rand.Rand, shape float64) float64 {
	d := shape - 1.0/3
	k := 1 / math.Sqrt(9*d)
	for {
		x := r.NormFloat64()
		v := 1 + k*x
		if v <= 0 {
			continue
		}
		v = v * v * v
		if math.Log(r.Float64()) < x*x/2+d-d*v+d*math.Log(v) {
			return d * v
		}
	}
}

// lengths are those of all roots at an effective time, mm.
func (c *Case) lengths(t float64) []float64 {
	out := make([]float64, 0, len(c.roots))
	for _, x := range c.roots {
		if x.start >= t {
			break
		}
		y := x.rate * (c.grown(t) - c.grown(x.start))
		out = append(out, y/(1+y/longest))
	}
	return out
}

// state is how it truly is at an effective time.
type state struct {
	longest float64
	roots   int
	nodes   int
	side    bool
	anchor  bool
	leaf    bool
	bud     scenario.Bud
}

func (c *Case) at(t float64) state {
	s := state{}
	for _, l := range c.lengths(t) {
		s.longest = math.Max(s.longest, l)
		if l >= countedMM {
			s.roots++
		}
	}
	if s.roots > 0 {
		s.nodes = 1
		if y := c.roots[0].rate * (c.grown(t) - c.grown(c.second)); c.second < t && y >= countedMM {
			s.nodes = 2
		}
	}
	s.side, s.anchor, s.leaf = s.longest >= c.side, s.longest >= c.anchor, t >= c.leaf
	switch {
	case t >= c.leaf:
		s.bud = scenario.LeafOpen
	case t >= 0.7*c.leaf:
		s.bud = scenario.Shooting
	case t >= 0.5*c.leaf:
		s.bud = scenario.Swelling
	default:
		s.bud = scenario.Asleep
	}
	return s
}

// ready tells whether a state has what is wanted.
func (s state) ready(w scenario.Wants) bool {
	return s.longest >= w.LongestMM && s.roots >= w.Roots && (s.side || !w.Side) && (s.nodes > 1 || !w.Nodes) && (s.anchor || !w.Anchor) && (s.leaf || !w.Leaf)
}

// ReadyOn is the day since setting on which it truly has what is wanted; infinite where it never has within 400 days.
func (c *Case) ReadyOn(w scenario.Wants) float64 {
	const days, steps = 400, 400 * 50
	i := sort.Search(steps, func(i int) bool { return c.at(c.truth.Effective(float64(i) * days / steps)).ready(w) })
	if i == steps {
		return math.Inf(1)
	}
	return float64(i) * days / steps
}

// Rotten tells whether it has rotted by a day since setting.
func (c *Case) Rotten(day float64) bool { return c.truth.Effective(day) >= c.rot }

// Result is what potting on a day since setting comes to.
type Result struct {
	// Worth is the chance to grow on, less a thousandth for each day; of a rotten piece what is left of it.
	Worth  float64
	Rotten bool
}

// What a piece that rots is worth: found in time and rescued, or potted. Assumed.
const (
	rescued   = 0.40
	rotPotted = 0.30
	dayCosts  = 0.001
)

// Reveal says what potting on a day since setting comes to.
func (c *Case) Reveal(k *scenario.School, day float64) Result {
	if c.Rotten(day) {
		return Result{rotPotted - dayCosts*day, true}
	}
	s := c.at(c.truth.Effective(day))
	return Result{k.Worth(scenario.Usual, s.longest, s.roots, s.leaf, float64(c.DayOfYear)+day) - dayCosts*day, false}
}

// Best is what the best day within so many days comes to, known by one who knows all.
func (c *Case) Best(k *scenario.School, within int) float64 {
	best := math.Inf(-1)
	for d := range within {
		best = math.Max(best, c.Reveal(k, float64(d)).Worth)
	}
	return best
}
