package scenario

import (
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
	Question           Question
	OpenS, ClosedS     float64
	Disturbs           float64
	outcomes           int
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
	{Question: AskMeasure, OpenS: 40, ClosedS: 150, Disturbs: 0.012, outcomes: 6, outcome: func(s *Scenarios, x Scenario, bins []float64) int { return binOf(s.lengthNow(x), bins) }},
	{Question: AskPhoto, OpenS: 60, ClosedS: 180, Disturbs: 0.012, outcomes: 5 * 2 * 2 * 2, outcome: func(s *Scenarios, x Scenario, bins []float64) int {
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

// bins are in how many lengths a look of a kind falls.
var lengthBins = map[Question]int{AskMeasure: 6, AskPhoto: 5}

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

// Priced is a question with what it is worth beyond its cost.
type Priced struct {
	Question Question
	Net      float64
	Seconds  float64
	Disturbs float64
}

// Ask prices all questions: closed tells that roots cannot be seen without opening or digging. Value is what the best action
// is worth without any.
func (s *Scenarios) Ask(k School, closed bool) (all []Priced, value float64) {
	// Each scenario, and a piece that never roots, is one more line.
	lines := make([]Scenario, 0, M+1)
	for _, x := range s.List {
		x.Weight *= 1 - s.Never
		lines = append(lines, x)
	}
	never := Scenario{Weight: s.Never, First: math.Inf(1), From: math.Inf(1), Rate: 1, Roots: [3]float64{math.Inf(1), math.Inf(1), math.Inf(1)}, Leaf: math.Inf(1), SideMM: math.Inf(1), AnchorMM: math.Inf(1)}
	lines = append(lines, never)
	a := s.actions(k, lines)
	value = a.best(nil, 1, 1)
	for _, q := range askings {
		seconds := q.OpenS
		if closed {
			seconds = q.ClosedS
		}
		if q.Question == AskTug && s.params.Water {
			continue
		}
		p := Priced{Question: q.Question, Seconds: seconds}
		if closed {
			p.Disturbs = q.Disturbs
		}
		p.Net = s.gain(q, lines, a) - value - perMinute*seconds/60 - p.Disturbs
		all = append(all, p)
	}
	return all, value
}

// actions are what each action comes to: grows is the chance of each line to grow on then; rot that the piece is rotten
// now, alive that one that is sound now stays so until then, over all lines. Rot is not told apart by line: a look at roots
// says nothing of it, and what it would seem to say is an artefact.
type actions struct {
	weight []float64
	grows  [][]float64
	rot    float64
	alive  []float64
}

func (s *Scenarios) actions(k School, lines []Scenario) *actions {
	a := &actions{alive: make([]float64, len(waits)), rot: s.Rot(s.Today)}
	for _, x := range lines {
		factor := 1.0
		if math.IsInf(x.First, 1) {
			factor = neverRot
		}
		now := s.rotBetween(x.First, factor, s.Today)
		grows := make([]float64, len(waits))
		for j, d := range waits {
			day := s.Today + d
			a.alive[j] += x.Weight * math.Exp(-s.rotBetween(x.First, factor, day)+now)
			grows[j] = s.established(x, k, s.Clock.Effective(day), day)
		}
		a.weight, a.grows = append(a.weight, x.Weight), append(a.grows, grows)
	}
	return a
}

// best is what the best action is worth where each line counts by a likelihood, and a sound and a rotten stem by one; not yet
// divided by how likely all of it is.
func (a *actions) best(likely func(line int) float64, sound, rotten float64) float64 {
	var all float64
	grows := make([]float64, len(waits))
	for i, w := range a.weight {
		if likely != nil {
			w *= likely(i)
		}
		all += w
		for j := range waits {
			grows[j] += w * a.grows[i][j]
		}
	}
	sick, well := a.rot*rotten, (1-a.rot)*sound
	most, asSound := math.Inf(-1), math.Inf(-1)
	for j, d := range waits {
		lost := rotWaiting
		if d == 0 {
			lost = rotPotted
		}
		v := a.alive[j]*grows[j] + (1-a.alive[j])*rotWaiting*all - dayCosts*d*all
		asSound = math.Max(asSound, v)
		most = math.Max(most, well*v+sick*lost*all)
	}
	return math.Max(most, sick*rotRescued*all+well*(asSound-needlessRescue*all))
}

// gain is what the best action after each answer is worth, over all answers.
func (s *Scenarios) gain(q Asking, lines []Scenario, a *actions) float64 {
	if q.outcome == nil {
		return a.best(nil, q.falseAnswer, q.right) + a.best(nil, 1-q.falseAnswer, 1-q.right)
	}
	bins := []float64{}
	if n := lengthBins[q.Question]; n > 0 {
		bins = s.quantiles(lines, n)
	}
	of := make([]int, len(lines))
	seen := []int{}
	for i, x := range lines {
		of[i] = q.outcome(s, x, bins)
		if !slices.Contains(seen, of[i]) {
			seen = append(seen, of[i])
		}
	}
	sum := 0.0
	for _, o := range seen {
		sum += a.best(func(i int) float64 {
			l := 0.0
			if of[i] == o {
				l = 1
			}
			if q.right > 0 && q.outcomes == 2 {
				l = l*q.right + (1-l)*(1-q.right)
			}
			return l
		}, 1, 1)
	}
	if q.right > 0 && q.outcomes == 2 && len(seen) == 1 {
		sum += a.best(func(int) float64 { return 1 - q.right }, 1, 1)
	}
	return sum
}

// quantiles part the lengths of today into n parts of equal weight.
func (s *Scenarios) quantiles(lines []Scenario, n int) []float64 {
	type entry struct{ mm, weight float64 }
	all := []entry{}
	total := 0.0
	for _, x := range lines {
		all = append(all, entry{s.lengthNow(x), x.Weight})
		total += x.Weight
	}
	sort.SliceStable(all, func(i, j int) bool { return all[i].mm < all[j].mm })
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
