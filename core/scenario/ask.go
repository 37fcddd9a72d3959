package scenario

import (
	"cmp"
	"math"
	"slices"
	"sort"
)

// Question is one look that could be taken.
type Question string

// The questions, from the cheapest.
const (
	AskBud     Question = "bud"
	AskSqueeze Question = "squeeze"
	AskTug     Question = "tug"
	AskCount   Question = "count"
	AskMeasure Question = "measure"
	AskPhoto   Question = "photo"
)

// Asking is what a question costs: seconds of the grower where roots are seen from outside, and where the vessel must be
// opened or the piece taken out; and what opening harms. All assumed.
type Asking struct {
	Question       Question
	OpenS, ClosedS float64
	Disturbs       float64
	// outcome is the answer, 0 to outcomes, a scenario would give today; bins is in how many lengths it falls, the bins of equal
	// weight. right is how surely the answer is the true one, where that is not for sure; falseAnswer that a squeeze calls a
	// sound stem rotten.
	outcomes, bins     int
	outcome            func(s *Scenarios, x Scenario, bins []float64) int
	right, falseAnswer float64
}

// perMinute is what a minute of the grower is worth.
const perMinute = 0.002

// askings are all questions.
var askings = []Asking{
	{Question: AskBud, OpenS: 5, ClosedS: 5, outcomes: 4, outcome: func(s *Scenarios, x Scenario, _ []float64) int { return s.budNow(x) }},
	{Question: AskSqueeze, OpenS: 10, ClosedS: 30, Disturbs: 0.003, right: 0.9, falseAnswer: 0.02},
	{Question: AskTug, ClosedS: 20, Disturbs: 0.002, outcomes: 2, right: tugRight, outcome: func(s *Scenarios, x Scenario, _ []float64) int {
		if s.lengthNow(x) >= x.AnchorMM {
			return 1
		}
		return 0
	}},
	{Question: AskCount, OpenS: 15, ClosedS: 120, Disturbs: 0.010, outcomes: 4, outcome: func(s *Scenarios, x Scenario, _ []float64) int { return s.rootsNow(x) }},
	{Question: AskMeasure, OpenS: 40, ClosedS: 150, Disturbs: 0.012, bins: 6, outcomes: 6, outcome: func(s *Scenarios, x Scenario, bins []float64) int { return binOf(s.lengthNow(x), bins) }},
	{Question: AskPhoto, OpenS: 60, ClosedS: 180, Disturbs: 0.012, bins: 5, outcomes: 5 * 2 * 2 * 2, outcome: func(s *Scenarios, x Scenario, bins []float64) int {
		o := binOf(s.lengthNow(x), bins)
		for _, yes := range []bool{s.rootsNow(x) >= 3, x.Leaf <= s.now(), x.sideSeen || s.lengthNow(x) >= x.SideMM} {
			o *= 2
			if yes {
				o++
			}
		}
		return o
	}},
}

func (s *Scenarios) now() float64 { return s.Clock.Effective(s.Today) }

func (s *Scenarios) lengthNow(x Scenario) float64 {
	if t := s.now(); t >= x.First {
		return x.LengthAt(math.Max(t, x.From))
	}
	return 0
}

func (s *Scenarios) rootsNow(x Scenario) int {
	n, t := 0, s.now()
	for _, at := range x.Roots {
		if at <= t {
			n++
		}
	}
	return n
}

func (s *Scenarios) budNow(x Scenario) int {
	switch t := s.now(); {
	case t >= x.Leaf:
		return 3
	case t >= shootsAt*x.Leaf:
		return 2
	case t >= swellsAt*x.Leaf:
		return 1
	}
	return 0
}

func binOf(v float64, bins []float64) int { return sort.SearchFloat64s(bins, v) }

// waits are the days after which it may be potted, as far as questions look ahead.
var waits = []float64{0, 3, 7, 14, 21, 30, 45, 60}

// What a rotten piece is worth: potted, left to wait, rescued; and what rescuing a sound one costs. Assumed.
const (
	rotPotted, rotWaiting, rotRescued = 0.30, 0.25, 0.45
	needlessRescue                    = 0.12
)

// Act is what is best done after an answer.
type Act string

// The acts a question chooses between.
const (
	PotNow   Act = "pot_up"
	WaitMore Act = "wait"
	CutAway  Act = "rescue"
)

// Outcome is one answer: how likely it is, 0 to 1, and what would be best then.
type Outcome struct {
	// Answer is its number: of a bud 0 asleep to 3 leaf open; 0 gives and 1 holds; 0 firm and 1 rotten; of a count 0 to 3 roots or
	// more. Of a length it is the bin, from LowMM to HighMM; of a photo the bin, and whether it shows three roots, a leaf and side
	// roots, each as one more binary digit.
	Answer        int
	LowMM, HighMM float64
	Chance        float64
	Then          Act
	// After is in how many days it is best potted.
	After int
}

// Priced is a question with what it is worth beyond its cost.
type Priced struct {
	Question Question
	Net      float64
	Seconds  float64
	Disturbs float64
	Outcomes []Outcome
}

// Ask prices all questions: closed tells that roots cannot be seen without opening or digging. Value is what the best action
// is worth without any.
func (s *Scenarios) Ask(k School, closed bool) (all []Priced, value float64) {
	return s.AskOf(k, closed, nil)
}

// AskOf prices the questions for which wanted says so, all where it is nil.
func (s *Scenarios) AskOf(k School, closed bool, wanted func(Question) bool) (all []Priced, value float64) {
	a := s.actions(k)
	value, _ = a.best(a.sums(), 1, 1)
	for _, q := range askings {
		if q.Question == AskTug && s.params.Water || wanted != nil && !wanted(q.Question) {
			continue
		}
		p := Priced{Question: q.Question, Seconds: q.OpenS}
		if closed {
			p.Seconds, p.Disturbs = q.ClosedS, q.Disturbs
		}
		gain := 0.0
		p.Outcomes, gain = s.answers(q, a)
		p.Net = gain - value - perMinute*p.Seconds/60 - p.Disturbs
		all = append(all, p)
	}
	return all, value
}

// onGrid are what potting after each of the waits is worth, over some lines, and how much weight they have.
type onGrid struct {
	all   float64
	grows [8]float64
}

func (g *onGrid) add(x onGrid, weight float64) {
	g.all += weight * x.all
	for j := range g.grows {
		g.grows[j] += weight * x.grows[j]
	}
}

// actions are what each action comes to. Each scenario, and a piece that never roots, is one line: its weight, and the chance
// to grow on after each wait times its weight. rot is that the piece is rotten now, alive that one that is sound now stays so
// until then, over all lines. Rot is not told apart by line: a look at roots says nothing of it, and what it would seem to say
// is an artefact.
type actions struct {
	lines [M + 1]Scenario
	worth [M + 1]onGrid
	rot   float64
	alive [8]float64
}

func (s *Scenarios) actions(k School) *actions {
	a := &actions{rot: s.Rot(s.Today)}
	for i, x := range s.List {
		x.Weight *= 1 - s.Never
		a.lines[i] = x
	}
	inf := math.Inf(1)
	a.lines[M] = Scenario{Weight: s.Never, First: inf, From: inf, Rate: 1, Roots: [3]float64{inf, inf, inf}, Second: inf, Leaf: inf, SideMM: inf, AnchorMM: inf}
	for j, d := range waits {
		day := s.Today + d
		t, season := s.Clock.Effective(day), s.season(day)
		lives := s.lives(t)
		for i := range a.lines {
			x := &a.lines[i]
			lasts := lives.never
			if i < M {
				lasts = lives.of(s, x)
			}
			a.alive[j] += x.Weight * lasts
			a.worth[i].grows[j] = x.Weight * s.established(x, &k, t) * season
			a.worth[i].all = x.Weight
		}
	}
	return a
}

// sums are all lines.
func (a *actions) sums() (g onGrid) {
	for _, w := range a.worth {
		g.add(w, 1)
	}
	return g
}

// best is what the best action is worth over some lines, where a sound and a rotten stem count by a likelihood; not yet
// divided by how likely all of it is. then is the place of its wait, or that of none for a rescue.
func (a *actions) best(g onGrid, sound, rotten float64) (most float64, then int) {
	sick, well := a.rot*rotten, (1-a.rot)*sound
	asSound := math.Inf(-1)
	most = math.Inf(-1)
	for j, d := range waits {
		lost := rotWaiting
		if d == 0 {
			lost = rotPotted
		}
		v := a.alive[j]*g.grows[j] + (1-a.alive[j])*rotWaiting*g.all - dayCosts*d*g.all
		asSound = math.Max(asSound, v)
		if u := well*v + sick*lost*g.all; u > most {
			most, then = u, j
		}
	}
	if u := sick*rotRescued*g.all + well*(asSound-needlessRescue*g.all); u > most {
		most, then = u, len(waits)
	}
	return most, then
}

// outcome says what an answer comes to.
func (a *actions) outcome(answer int, g onGrid, sound, rotten float64) (Outcome, float64) {
	v, then := a.best(g, sound, rotten)
	o := Outcome{Answer: answer, Chance: g.all * (a.rot*rotten + (1-a.rot)*sound), Then: CutAway}
	if then < len(waits) {
		o.Then, o.After = WaitMore, int(waits[then])
		if o.After == 0 {
			o.Then = PotNow
		}
	}
	return o, v
}

// answers are all answers to a question, and what the best action after each is worth in all.
func (s *Scenarios) answers(q Asking, a *actions) (out []Outcome, gain float64) {
	say := func(answer int, g onGrid, sound, rotten float64) *Outcome {
		o, v := a.outcome(answer, g, sound, rotten)
		gain += v
		out = append(out, o)
		return &out[len(out)-1]
	}
	if q.outcome == nil {
		all := a.sums()
		say(0, all, 1-q.falseAnswer, 1-q.right)
		say(1, all, q.falseAnswer, q.right)
		return out, gain
	}
	bins := s.quantiles(a, q.bins)
	by, seen := make([]onGrid, q.outcomes), make([]bool, q.outcomes)
	for i := range a.lines {
		o := q.outcome(s, a.lines[i], bins)
		by[o].add(a.worth[i], 1)
		seen[o] = true
	}
	if q.right > 0 { // two answers, each wrong at times
		for o := range by {
			g := onGrid{}
			g.add(by[o], q.right)
			g.add(by[1-o], 1-q.right)
			say(o, g, 1, 1)
		}
		return out, gain
	}
	for o := range by {
		if !seen[o] {
			continue
		}
		x := say(o, by[o], 1, 1)
		if q.bins > 0 {
			bin := o * q.bins / q.outcomes
			x.HighMM = longestMM
			if bin > 0 {
				x.LowMM = bins[bin-1]
			}
			if bin < len(bins) {
				x.HighMM = bins[bin]
			}
		}
	}
	return out, gain
}

// quantiles part the lengths of today into n parts of equal weight.
func (s *Scenarios) quantiles(a *actions, n int) []float64 {
	if n == 0 {
		return nil
	}
	type entry struct{ mm, weight float64 }
	all := make([]entry, len(a.lines))
	total := 0.0
	for i, x := range a.lines {
		all[i] = entry{s.lengthNow(x), x.Weight}
		total += x.Weight
	}
	slices.SortStableFunc(all, func(x, y entry) int { return cmp.Compare(x.mm, y.mm) })
	out := []float64{}
	sum := 0.0
	for _, e := range all {
		sum += e.weight
		for len(out) < n-1 && sum >= total*float64(len(out)+1)/float64(n) {
			out = append(out, e.mm)
		}
	}
	return out
}
