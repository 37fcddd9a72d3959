package scenario

import (
	"cmp"
	"math"
	"slices"
	"sync"
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

// asking is one question: what a scenario would answer, 0 to outcomes, by what is seen of it; bins is in how many lengths it falls,
// each of equal weight. noisy tells that one answer of two is wrong at times.
type asking struct {
	Question       Question
	outcomes, bins int
	outcome        func(x seenNow, bins []float64) int
	noisy          bool
}

// askings are all questions, from the cheapest.
var askings = []asking{
	{Question: AskBud, outcomes: 4, outcome: func(x seenNow, _ []float64) int { return x.bud }},
	{Question: AskSqueeze},
	{Question: AskTug, outcomes: 2, noisy: true, outcome: func(x seenNow, _ []float64) int { return bit(x.holds) }},
	{Question: AskCount, outcomes: 4, outcome: func(x seenNow, _ []float64) int { return x.roots }},
	{Question: AskMeasure, bins: 6, outcomes: 6, outcome: func(x seenNow, bins []float64) int { return binOf(x.mm, bins) }},
	{Question: AskPhoto, bins: 5, outcomes: 5 * 2 * 2 * 2, outcome: func(x seenNow, bins []float64) int {
		return binOf(x.mm, bins)*8 + bit(x.roots >= 3)*4 + bit(x.bud == 3)*2 + bit(x.side)
	}},
}

// Questions are all questions.
func Questions() []Question {
	out := make([]Question, len(askings))
	for i, a := range askings {
		out[i] = a.Question
	}
	return out
}

func bit(yes bool) int {
	if yes {
		return 1
	}
	return 0
}

// seenNow is what a look at a scenario would see today: the longest root in mm, how many roots up to 3, the bud from 0 asleep to 3
// leaf open, whether it has side roots and holds against a tug.
type seenNow struct {
	mm          float64
	roots, bud  int
	side, holds bool
}

func (s *Scenarios) now() float64 { return s.Clock.Effective(s.Today) }

// sees is what a look at a scenario would see at an effective time.
func (m *Model) sees(x *Scenario, t float64) (o seenNow) {
	if t >= x.First {
		o.mm = m.lengthAt(x, math.Max(t, x.From))
	}
	for _, at := range x.Roots {
		o.roots += bit(at <= t)
	}
	o.bud = bit(t >= m.swellsAt*x.Leaf) + bit(t >= m.shootsAt*x.Leaf) + bit(t >= x.Leaf)
	o.side, o.holds = x.sideSeen || o.mm >= x.SideMM, o.mm >= x.AnchorMM
	return o
}

// binOf is in which of the bins, each up to its end, a value lies.
func binOf(v float64, bins []float64) int {
	for i, end := range bins {
		if v <= end {
			return i
		}
	}
	return len(bins)
}

// waits are the days after which it may be potted, as far as questions look ahead.
var waits = []float64{0, 3, 7, 14, 21, 30, 45, 60}

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
	m := s.m
	a := s.actions(k)
	defer spare.Put(a)
	value, _ = a.best(a.sums(), 1, 1)
	for i, q := range askings {
		if q.Question == AskTug && s.params.Water || wanted != nil && !wanted(q.Question) {
			continue
		}
		cost := m.prices[i]
		p := Priced{Question: q.Question, Seconds: cost.openS}
		if closed {
			p.Seconds, p.Disturbs = cost.closedS, cost.disturbs
		}
		gain := 0.0
		p.Outcomes, gain = s.answers(q, a)
		p.Net = gain - value - m.perMinute*p.Seconds/60 - p.Disturbs
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
	m     *Model
	lines [M + 1]Scenario
	worth [M + 1]onGrid
	seen  [M + 1]seenNow
	// byLength are the lines from the shortest longest root to the longest, once it is sorted.
	byLength [M + 1]int
	sorted   bool
	rot      float64
	alive    [8]float64
}

// spare are such tables that are no longer used: they are large, and made anew for each piece.
var spare = sync.Pool{New: func() any { return &actions{} }}

func (s *Scenarios) actions(k School) *actions {
	m := s.m
	a := spare.Get().(*actions)
	a.m, a.rot, a.sorted, a.alive = s.m, s.Rot(s.Today), false, [8]float64{}
	for i, x := range s.List {
		x.Weight *= 1 - s.Never
		a.lines[i] = x
	}
	inf := math.Inf(1)
	a.lines[M] = Scenario{Weight: s.Never, First: inf, From: inf, Rate: 1, Roots: [3]float64{inf, inf, inf}, Second: inf, Leaf: inf, SideMM: inf, AnchorMM: inf}
	now := s.now()
	for i := range a.lines {
		a.seen[i] = s.m.sees(&a.lines[i], now)
	}
	var t, seasons [8]float64
	var lives [8]living
	for j, d := range waits {
		t[j], seasons[j] = s.Clock.Effective(s.Today+d), s.season(s.Today+d)
		lives[j] = s.lives(t[j])
	}
	for i := range a.lines {
		x := &a.lines[i]
		y := s.m.straight(x.Length)
		a.worth[i].all = x.Weight
		for j := range waits {
			lasts := lives[j].never
			if i < M {
				lasts = lives[j].of(s, x)
			}
			a.alive[j] += x.Weight * lasts
			mm, roots := 0.0, 0
			if t[j] >= x.First {
				mm = y + x.Rate*max(0, t[j]-x.From)
				mm /= 1 + mm/m.longestMM
			}
			for roots < len(x.Roots) && x.Roots[roots] <= t[j] {
				roots++
			}
			a.worth[i].grows[j] = x.Weight * k.worth(m, mm, roots, x.Leaf <= t[j]) * seasons[j]
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
	m := a.m
	sick, well := a.rot*rotten, (1-a.rot)*sound
	asSound := math.Inf(-1)
	most = math.Inf(-1)
	for j, d := range waits {
		lost := m.rotWaiting
		if d == 0 {
			lost = m.rotPotted
		}
		v := a.alive[j]*g.grows[j] + (1-a.alive[j])*m.rotWaiting*g.all - m.dayCosts*d*g.all
		asSound = math.Max(asSound, v)
		if u := well*v + sick*lost*g.all; u > most {
			most, then = u, j
		}
	}
	if u := sick*m.rotRescued*g.all + well*(asSound-m.needlessRescue*g.all); u > most {
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
func (s *Scenarios) answers(q asking, a *actions) (out []Outcome, gain float64) {
	m := s.m
	say := func(answer int, g onGrid, sound, rotten float64) *Outcome {
		o, v := a.outcome(answer, g, sound, rotten)
		gain += v
		out = append(out, o)
		return &out[len(out)-1]
	}
	if q.outcome == nil {
		all := a.sums()
		say(0, all, 1-m.squeezeFalse, 1-m.squeezeRight)
		say(1, all, m.squeezeFalse, m.squeezeRight)
		return out, gain
	}
	bins := a.quantiles(q.bins)
	by, seen := make([]onGrid, q.outcomes), make([]bool, q.outcomes)
	for i := range a.lines {
		o := q.outcome(a.seen[i], bins)
		by[o].add(a.worth[i], 1)
		seen[o] = true
	}
	if q.noisy { // two answers, each wrong at times
		for o := range by {
			g := onGrid{}
			g.add(by[o], m.tugRight)
			g.add(by[1-o], 1-m.tugRight)
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
			x.HighMM = m.longestMM
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
func (a *actions) quantiles(n int) []float64 {
	if n == 0 {
		return nil
	}
	if !a.sorted {
		a.sorted = true
		for i := range a.byLength {
			a.byLength[i] = i
		}
		slices.SortFunc(a.byLength[:], func(x, y int) int {
			return cmp.Or(cmp.Compare(a.seen[x].mm, a.seen[y].mm), cmp.Compare(x, y))
		})
	}
	total := 0.0
	for i := range a.lines {
		total += a.lines[i].Weight
	}
	out := make([]float64, 0, n-1)
	sum := 0.0
	for _, i := range a.byLength {
		sum += a.lines[i].Weight
		for len(out) < n-1 && sum >= total*float64(len(out)+1)/float64(n) {
			out = append(out, a.seen[i].mm)
		}
	}
	return out
}
