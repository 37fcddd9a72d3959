package readiness

import (
	"math"
	"slices"
	"sort"
	"time"

	"clearjar/core/learn"
	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// Outlook is what is known of one cutting, weighed once for every school.
type Outlook struct {
	e Evidence
	p scenario.Params
	// s are its scenarios; nil for what the model does not speak of.
	s *scenario.Scenarios
}

// Expect weighs what is known of a piece. The model speaks of what stands in its medium to root: not of what is not set, potted or
// closed, or came with roots.
func Expect(e Evidence) *Outlook {
	e = e.moved()
	e.Looks = sorted(e.Looks)
	o := &Outlook{e: e}
	p, clock, st, ok := e.params()
	if !ok {
		return o
	}
	o.p = p
	o.s = scenario.Weigh(p, clock, seenBy(st), days(st.from, e.Today))
	return o
}

// After is the same after a verdict under the school that is asked for; empty for none.
func (o *Outlook) After(previous plant.Verdict) *Outlook {
	then := *o
	then.e.Previous = previous
	return &then
}

// params are the numbers of a piece as the model needs them, and its clock; false for what the model does not speak of.
func (e Evidence) params() (p scenario.Params, clock scenario.Clock, st state, ok bool) {
	first, pot := e.Group.RootTimes(e.Kind)
	if e.SetOn.IsZero() || e.Potted != nil || e.Outcome != nil || e.OwnRoots || first.Mid <= 0 || pot.Mid <= first.Mid {
		return p, clock, st, false
	}
	st = assess(e, "")
	t := e.Numbers
	p = e.shifted(scenario.Params{
		First: scenario.Span{Mid: first.Mid, Low: first.Low, High: first.High}, Pot: scenario.Span{Mid: pot.Mid, Low: pot.Low, High: pot.High},
		Rot: t.Of(st.medium.Rots), Slower: 1, GrowerSigma: scenario.ModelOf(t).Growers(), Water: st.medium.Liquid, Model: scenario.ModelOf(t),
	})
	_, wake := e.wake()
	if e.LeafKept != nil && !*e.LeafKept && st.kind.Pose == plant.Upright {
		p.Slower *= t.Of(LeaflessSlower)
		odds := wake / (1 - wake) * t.Of(leaflessWakes)
		wake = odds / (1 + odds)
	}
	if len(e.Group.Media) > 0 && e.Group.Media[0] != e.Medium {
		p.Slower *= t.Of(notFirstChoice)
	}
	if e.AerialRoot {
		p.Slower *= t.Of(aerialSooner)
	}
	for range min(2, st.nodesThatRoot()) {
		p.Wake = append(p.Wake, wake)
	}
	// A piece that was cut back to nothing begins anew.
	clock = p.M().Clock(st.from.YearDay()-1, e.TemperatureC, e.Southern)
	if !e.MediumOn.IsZero() {
		p.WaterFrom = clock.Effective(days(st.from, e.MediumOn))
	}
	return p, clock, st, true
}

// moved takes the medium it stands in, and since when, from its moves.
func (e Evidence) moved() Evidence {
	last := -1
	for i, m := range e.Moves {
		if !m.On.After(e.Today) && (last < 0 || !m.On.Before(e.Moves[last].On)) {
			last = i
		}
	}
	if last >= 0 {
		e.Medium, e.MediumOn = e.Moves[last].Medium, e.Moves[last].On
	}
	return e
}

// nodesThatRoot are the set nodes that may root on their own; a leaf or a tuber is one.
func (s state) nodesThatRoot() int {
	if s.kind.Sisters {
		return 1
	}
	return s.setNodes()
}

// onSchool is what is expected under a school.
type onSchool struct {
	*Outlook
	st       state
	row      scenario.School
	wants    scenario.Wants
	forecast scenario.Forecast
	// ready and never are chances, 0 to 1. likely and overgrown are what they come to, given the verdict before.
	ready, never      float64
	likely, overgrown bool
	// asked is the look that is worth most.
	asked scenario.Priced
}

// on is what is expected under a school; nil where the model does not speak of it.
func (o *Outlook) on(school plant.SchoolKey) *onSchool { return o.with(assess(o.e, school), school) }

// with is the same of a piece that was assessed.
func (o *Outlook) with(st state, school plant.SchoolKey) *onSchool {
	row, known := Transplant(o.e.Numbers, school)
	if o.s == nil || !known {
		return nil
	}
	m := &onSchool{Outlook: o, st: st, row: row}
	m.wants = wantsOf(m.st, school)
	m.forecast = o.s.Ready(m.wants)
	m.ready, m.never = m.forecast.Now, m.forecast.Never
	from := func(n, stays plant.Number, before bool) float64 {
		if before {
			return m.st.of(stays)
		}
		return m.st.of(n)
	}
	m.likely = m.ready >= from(ReadyFrom, ReadyStays, ToPot(o.e.Previous))
	over := o.s.Overgrown(row, o.s.Today)
	m.overgrown = m.ready >= m.st.of(SeenEven) && over >= from(OvergrownFrom, OvergrownStays, o.e.Previous == plant.Overdue)
	return m
}

// Sister is what this piece shows of when pieces of its cut root; false where nothing was seen of its roots.
func (o *Outlook) Sister() (learn.Sister, bool) {
	if o.s == nil || len(o.e.Looks) == 0 {
		return learn.Sister{}, false
	}
	mean, variance, mu, prior := o.s.FirstRoot()
	told := 1/math.Max(variance, 1e-4) - 1/prior
	if told <= 0.5 {
		return learn.Sister{}, false
	}
	return learn.Sister{Later: (mean/math.Max(variance, 1e-4)-mu/prior)/told - mu, Precision: told}, true
}

// WithSisters is what is expected of it with what its sisters show. No verdict rests on it.
func (o *Outlook) WithSisters(of []learn.Sister) *Outlook {
	if o.s == nil || len(of) == 0 {
		return o
	}
	e := o.e
	e.sisters = learn.Sisters(o.p, of)
	return Expect(e)
}

// opening are the questions for which roots are seen or felt.
var opening = map[scenario.Question]bool{scenario.AskTug: true, scenario.AskCount: true, scenario.AskMeasure: true, scenario.AskPhoto: true}

// NotNow is why a question is not asked today.
type NotNow string

// The reasons.
const (
	TooSoon     NotNow = "too_soon"
	JustNoted   NotNow = "just_noted"
	DoNotDig    NotNow = "do_not_dig"
	RootsShow   NotNow = "roots_show"
	nothingBars NotNow = ""
)

// bars tells why a question is not asked on a day.
func (m *onSchool) bars(q scenario.Question, on time.Time) NotNow {
	s := m.st
	noted := map[scenario.Question]time.Time{
		scenario.AskBud: s.bud.on, scenario.AskSqueeze: s.stem.on, scenario.AskTug: s.tug.on, scenario.AskCount: s.roots.on, scenario.AskMeasure: s.roots.on, scenario.AskPhoto: s.roots.on,
	}[q]
	switch {
	case s.early() && !s.seenBefore() && plant.Days(s.firstLook(), on) < 0:
		return TooSoon
	case q == scenario.AskBud && !s.medium.Hidden && !m.wants.Leaf && !m.wants.Shoot: // a bud stands in for roots that are hidden
		return RootsShow
	case !noted.IsZero() && plant.Days(noted, on) <= int(s.of(AskAgain)):
		return JustNoted
	case opening[q] && !s.mayOpen() && plant.Days(s.rootsFrom(), on) < 0:
		return DoNotDig
	}
	return nothingBars
}

// best is the look that is worth most beyond its trouble, empty where none is worth any; when a look is due, the best there is.
func (m *onSchool) best(due bool) scenario.Question {
	from := m.st.of(AskFrom)
	if m.e.Previous == plant.LookAt && plant.Days(m.st.last, m.e.Today) > 0 {
		from = -m.st.of(AskStays)
	}
	m.asked = scenario.Priced{Net: math.Inf(-1)}
	open := func(q scenario.Question) bool { return m.bars(q, m.e.Today) == nothingBars }
	if !slices.ContainsFunc(scenario.Questions(), open) {
		return ""
	}
	priced, _ := m.s.AskOf(m.row, m.st.medium.Hidden, open)
	for _, p := range priced {
		if p.Net > m.asked.Net && (due || p.Net >= from) {
			m.asked = p
		}
	}
	return m.asked.Question
}

// on a day from today, as it is expected now.
func (o *Outlook) ahead(day float64) *scenario.Scenarios {
	then := *o.s
	then.Today = day
	return &then
}

// farthest is how many days ahead is looked for a day on which opening pays.
const farthest = 60

// again is after how many days it is said anew that opening does not pay.
const again = 28

// leap is how many days are passed over at first: between two of them it begins to pay once.
const leap = 7

// leaveUntil is the first day on which opening pays; nil where it does today, or where roots are seen from outside.
func (m *onSchool) leaveUntil() *time.Time {
	if !m.st.medium.Hidden {
		return nil
	}
	pays := func(d int) bool {
		on := m.e.Today.AddDate(0, 0, d)
		priced, _ := m.ahead(m.s.Today+float64(d)).AskOf(m.row, true, func(q scenario.Question) bool { return opening[q] && m.bars(q, on) == nothingBars })
		for _, p := range priced {
			if p.Net >= m.st.of(AskFrom) {
				return true
			}
		}
		return false
	}
	from := max(1, plant.Days(m.e.Today, m.st.rootsFrom()))
	for d, before := from, from; d <= from+farthest; d, before = d+leap, d+1 {
		if !pays(d) {
			continue
		}
		first := before + sort.Search(d-before, func(i int) bool { return pays(before + i) })
		t := m.e.Today.AddDate(0, 0, first)
		return &t
	}
	// It does not pay in sight: said anew every four weeks, so that the day does not move on with each day.
	since := m.st.rootsFrom()
	if m.st.last.After(since) {
		since = m.st.last
	}
	t := since.AddDate(0, 0, again*(max(0, plant.Days(since, m.e.Today))/again+1))
	return &t
}

// gaps are how many days may lie between looks.
var gaps = []int{3, 5, 7, 10, 14, 21, 28}

// nextPays is the day on which the next photo is worth most; nil where roots are hidden, nobody has looked, or the school must
// not miss its time.
func (m *onSchool) nextPays() *time.Time {
	s := m.st
	if s.potsEarly || len(s.Looks) == 0 || !s.seenBefore() || s.medium.Hidden && !s.mayOpen() {
		return nil
	}
	last := days(s.from, s.last)
	var best *time.Time
	worth := math.Inf(-1)
	for _, gap := range gaps {
		on := s.last.AddDate(0, 0, gap)
		if plant.Days(m.e.Today, on) < 1 {
			continue
		}
		priced, value := m.ahead(last+float64(gap)).AskOf(m.row, s.medium.Hidden, func(q scenario.Question) bool { return q == scenario.AskPhoto })
		v := value + priced[0].Net - m.p.M().DayCosts()*float64(gap) - s.of(GapCost)/float64(gap)
		if v > worth {
			best, worth = &on, v
		}
	}
	return best
}

// dayLoss is what is lost by leaving it a day, in the chance of one plant: a simulated world, for an order of the day.
func (d *Decision) dayLoss() float64 {
	switch s := d.s; {
	case d.Verdict == plant.Rescue:
		return s.of(RescueLoss)
	case d.Ground == SignSeen || d.Ground == TugGivesNow || d.Ground == Contradicted || d.Ground == NotSet:
		return s.of(SignLoss)
	case ToPot(d.Verdict):
		loss := 0.0
		if d.m != nil {
			loss = math.Max(d.m.p.M().DayCosts(), d.m.s.Loses(d.m.row))
		}
		if d.Verdict == plant.Overdue {
			loss = math.Max(loss, s.of(OverdueLoss))
		}
		return loss
	case d.Verdict == plant.LookAt:
		loss := s.of(AskFrom)
		if d.m != nil && d.By != "" {
			loss = math.Max(loss, d.m.asked.Net)
		}
		return loss / math.Max(1, s.of(SeenFresh))
	}
	return 0
}

// Comes are the days on which it is ready, given it comes: by then in 1, 5 and 9 of 10 cases, nil for beyond 400 days. Never is the
// chance that it never is, 0 to 1.
type Comes struct {
	First  *time.Time `json:"first,omitempty"`
	Middle *time.Time `json:"middle,omitempty"`
	Last   *time.Time `json:"last,omitempty"`
	Never  float64    `json:"never"`
}

// comes is when it is ready, as dates.
func (m *onSchool) comes() *Comes {
	c := &Comes{Never: math.Min(1, m.never+(1-m.never)*m.forecast.Lacks)}
	for i, to := range []**time.Time{&c.First, &c.Middle, &c.Last} {
		if d := m.forecast.Days[i]; !math.IsInf(d, 1) {
			on := m.st.from.Add(time.Duration(d * float64(24*time.Hour)))
			*to = &on
		}
	}
	return c
}

// Foresee says what is to be expected of a piece. False for what the model does not speak of.
func Foresee(e Evidence, school plant.SchoolKey) (Chance, bool) { return Expect(e).Foresee(school) }

// Foresee says what is to be expected under a school. False for what the model does not speak of.
func (o *Outlook) Foresee(school plant.SchoolKey) (Chance, bool) {
	m := o.on(school)
	if m == nil {
		return Chance{}, false
	}
	f := m.forecast
	c := Chance{Ready: f.Now, Never: f.Never, Lacks: f.Lacks, Rot: m.s.Rot(m.s.Today), Questions: []PricedQuestion{}, NextPays: m.nextPays()}
	for i, to := range []**float64{&c.Days.P10, &c.Days.P50, &c.Days.P90} {
		if d := f.Days[i]; !math.IsInf(d, 1) {
			if d > 0 {
				d += days(o.e.SetOn, m.st.from)
			}
			*to = &d
		}
	}
	if !schools[school].stays {
		c.Best = m.bestDay()
	}
	priced, _ := m.s.Ask(m.row, m.st.medium.Hidden)
	for _, p := range priced {
		q := PricedQuestion{Question: string(p.Question), Net: p.Net, Seconds: p.Seconds, Disturbs: p.Disturbs, NotNow: string(m.bars(p.Question, o.e.Today)), Answers: []PricedAnswer{}}
		for _, a := range p.Outcomes {
			q.Answers = append(q.Answers, PricedAnswer{answerWords(p.Question, a), a.Chance, a.Then, a.After})
		}
		c.Questions = append(c.Questions, q)
	}
	return c, true
}

// bestDay is the best day to pot, and what pulls it before the day on which it is likely ready.
func (m *onSchool) bestDay() *BestDay {
	curve := m.s.BestDay(m.row)
	b := &BestDay{Curve: curve.Worth[:], Day: curve.Best, From: curve.From, To: curve.To, Why: []string{}}
	if median := m.forecast.Days[1]; m.s.Today+float64(b.Day) >= median {
		return b
	}
	for _, p := range m.s.Pulls(m.row, curve.Best) {
		b.Why = append(b.Why, string(p))
	}
	return b
}

// Wants is what a school asks of a piece with so many set nodes in a medium, in the words of the model.
func Wants(t number.Table, school plant.SchoolKey, m plant.Medium, nodes int) scenario.Wants {
	return wantsOf(state{Evidence: Evidence{Numbers: t, SetNodes: nodes}, medium: m.Row()}, school)
}

// Kept is when a piece is ready under a school, as it is kept beside its facts: without a new fact a new day costs no new weighing.
type Kept struct {
	// From is the day the days are counted from; Sums are the chances to be ready by each day, 0 to 1, both rising.
	From time.Time `json:"from"`
	Days []float32 `json:"days"`
	Sums []float32 `json:"sums"`
	// Never is the chance that no root ever comes. Overgrown is the day by which roots too long have cost so much that it is overdue.
	Never     float32 `json:"never"`
	Overgrown float32 `json:"overgrown,omitempty"`
}

// Keep is what is kept of it under a school; false for what the model does not speak of.
func (o *Outlook) Keep(school plant.SchoolKey) (Kept, bool) {
	m := o.on(school)
	if m == nil {
		return Kept{}, false
	}
	days, sums := m.forecast.List(m.s)
	k := Kept{From: m.st.from, Never: float32(m.never), Days: make([]float32, len(days)), Sums: make([]float32, len(days))}
	for i := range days {
		k.Days[i], k.Sums[i] = float32(days[i]), float32(sums[i])
	}
	over := m.st.of(OvergrownFrom)
	const weeks = 30
	if at := sort.Search(weeks, func(w int) bool { return m.s.Overgrown(m.row, m.s.Today+7*float64(w)) >= over }); at < weeks {
		k.Overgrown = float32(m.s.Today + 7*float64(at))
	}
	return k, true
}

// Ready is the chance that it is ready on a day, 0 to 1.
func (k Kept) Ready(on time.Time) float64 {
	day := float32(days(k.From, on))
	i := sort.Search(len(k.Days), func(i int) bool { return k.Days[i] > day })
	if i == 0 {
		return 0
	}
	return float64(k.Sums[i-1])
}

// ToPot is the verdict that what is kept gives for a day: ready or overdue, or neither.
func (k Kept) ToPot(t number.Table, on time.Time, previous plant.Verdict) (plant.Verdict, bool) {
	ready := k.Ready(on)
	from := t.Of(ReadyFrom)
	if ToPot(previous) {
		from = t.Of(ReadyStays)
	}
	switch {
	case k.Overgrown > 0 && ready >= t.Of(SeenEven) && float32(days(k.From, on)) >= k.Overgrown:
		return plant.Overdue, true
	case ready >= from:
		return plant.Ready, true
	}
	return "", false
}
