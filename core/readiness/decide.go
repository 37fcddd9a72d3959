package readiness

import (
	"math"
	"time"

	"clearjar/core/growth"
	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// Ground is the rule that decided a verdict.
type Ground string

// The grounds, in the order the rules are tried.
const (
	// Closed: it was noted as lost or established.
	Closed Ground = "closed"
	// NotSet: it was cut and stands in no medium.
	NotSet Ground = "not_set"
	// RotInPot, GrownOn, Shock and Settling are of a piece that is potted: it rots, a leaf opened since, the
	// first two weeks, and after them. LeafSince and NoLeafSince ask for a look: its leaf suffers, no leaf came.
	RotInPot    Ground = "rot_in_pot"
	GrownOn     Ground = "grown_on"
	Shock       Ground = "shock"
	Settling    Ground = "settling"
	LeafSince   Ground = "leaf_since"
	NoLeafSince Ground = "no_leaf_since"
	// Rot: contrary evidence, which overrules every school.
	Rot Ground = "rot"
	// OwnRoots: it came with roots and needs no rooting.
	OwnRoots Ground = "own_roots"
	// BeforePotting: it would be potted, and what is known of it is open or too old for that.
	BeforePotting Ground = "before_potting"
	// StayedTooLong: it crowds its vessel, or stood too long in water.
	StayedTooLong Ground = "stayed_too_long"
	// AllMet: the school asks for nothing more. ReadyLongSince: and has not for long.
	AllMet         Ground = "all_met"
	ReadyLongSince Ground = "ready_long_since"
	// SignSeen: something was seen that asks for an act and an answer.
	SignSeen Ground = "sign_seen"
	// TugGivesNow: a tug held once, and gives now. Contradicted: facts speak against each other.
	TugGivesNow  Ground = "tug_gives_now"
	Contradicted Ground = "contradicted"
	// Overgrown: by now its roots are likely longer than the school wants. Likely: by what is known it has all that is wanted,
	// though not all was seen.
	Overgrown Ground = "overgrown"
	Likely    Ground = "likely"
	// YoungReady: its young plants are big enough to be parted. YoungGrow: they are there, and too small yet.
	YoungReady Ground = "young_ready"
	YoungGrow  Ground = "young_grow"
	// Uncovered: it stays in its mix, and its cover is off.
	Uncovered Ground = "uncovered"
	// OneOpen: nothing speaks against it, and one look settles it. WorthIt: one look is worth its trouble.
	OneOpen Ground = "one_open"
	WorthIt Ground = "worth_it"
	// LookDue: the last look is too old.
	LookDue Ground = "look_due"
	// TooEarly, PastUsual and Missing let it wait: roots cannot be there yet, they should be, or are too few.
	TooEarly  Ground = "too_early"
	PastUsual Ground = "past_usual"
	Missing   Ground = "missing"
	// NotPromising: likely no root ever comes.
	NotPromising Ground = "not_promising"
)

// Act is what is to be done.
type Act string

// The acts.
const (
	PotUp      Act = "pot_up"
	Uncover    Act = "uncover"
	PartYoung  Act = "part"
	LookAgain  Act = "look"
	WaitOn     Act = "wait"
	CutRot     Act = "rescue"
	LeaveAlone Act = "leave_alone"
)

// acts are what each verdict asks for.
var acts = map[plant.Verdict]Act{
	plant.Rescue: CutRot, plant.Ready: PotUp, plant.Overdue: PotUp, plant.LookAt: LookAgain, plant.Wait: WaitOn, plant.GrowingOn: WaitOn, plant.Done: LeaveAlone, plant.Lost: LeaveAlone,
}

// Warning speaks against waiting calmly, though it decides nothing alone.
type Warning int

// The warnings.
const (
	WarnTugGives Warning = iota
	WarnDroops
	WarnYellows
	WarnWrinkled
	WarnNothingYet
	WarnCrowdUncounted
)

// Decision is the verdict on one cutting with what it rests on, in values. [Say] puts it into sentences.
type Decision struct {
	Verdict plant.Verdict   `json:"verdict"`
	School  plant.SchoolKey `json:"school"`
	// Ground is the rule that decided.
	Ground Ground `json:"ground" enum:"closed,not_set,rot_in_pot,grown_on,shock,settling,leaf_since,no_leaf_since,rot,own_roots,before_potting,stayed_too_long,all_met,ready_long_since,overgrown,likely,young_ready,young_grow,uncovered,sign_seen,tug_gives_now,contradicted,one_open,worth_it,look_due,too_early,past_usual,missing,not_promising"`
	// Asks for an act today; ToPot for potting it.
	Asks  bool `json:"asks"`
	ToPot bool `json:"to_pot"`
	// Act is what is to be done; leave_alone where opening would harm more than it tells, until LeaveUntil.
	Act      Act        `json:"act" enum:"pot_up,uncover,part,look,wait,rescue,leave_alone"`
	NextLook *time.Time `json:"next_look,omitempty"`
	// LeaveUntil is the day before which opening or digging harms more than it tells.
	LeaveUntil *time.Time `json:"do_not_open_until,omitempty"`
	// SoundNodes are those that stand clear of the rot, when it is known where they are; Rot asks to cut.
	SoundNodes []int `json:"sound_nodes,omitempty"`
	// After is what is to be expected of a potted piece; Ways are the ways on of one that rots.
	After *Aftercare `json:"after,omitempty"`
	Ways  []Way      `json:"ways,omitempty"`
	// Progress is how far it has come, 0 (just set) to 1 (ready).
	Progress float64 `json:"progress"`
	// Likely is the chance that it is ready, 0 to 1; nil where the model does not speak of it.
	Likely *float64 `json:"likely,omitempty"`
	// Comes is when it is expected to be ready; nil where the model does not speak of it.
	Comes *Comes `json:"comes,omitempty"`
	// DayLoss is what is lost by leaving it a day: in the chance of one plant, 0 to 1.
	DayLoss  float64          `json:"day_loss"`
	AgeDays  int              `json:"age_days"`
	Forecast *growth.Forecast `json:"forecast,omitempty"`
	// ReadyOn is the forecast day, with the days it may come first and last when known.
	ReadyOn    *time.Time `json:"ready_on,omitempty"`
	ReadyFirst *time.Time `json:"ready_first,omitempty"`
	ReadyLast  *time.Time `json:"ready_last,omitempty"`

	// Findings are the criteria of the school as they stand; Open those of them that the verdict turns on.
	Findings []Finding `json:"-"`
	Open     []Finding `json:"-"`
	// Ask is the one observation that would settle it; empty when nothing is asked. By is how it is best made, where that is known.
	Ask Criterion         `json:"-"`
	By  scenario.Question `json:"-"`
	// Against are facts that contradict each other.
	Against []Contradiction `json:"-"`
	// Sign is what was seen, when that decided.
	Sign *Sign `json:"-"`
	// Warnings are what speaks against waiting calmly.
	Warnings []Warning `json:"-"`
	// ReadySince is the day of the first look at which nothing was missing.
	ReadySince time.Time `json:"-"`

	s state
	// m is what is expected; nil where the model does not speak of it.
	m *onSchool
}

// Decide gives the verdict on one cutting under a school. An unknown school is refused. The same
// facts give the same verdict in whatever order they come; the caller's looks are not touched.
func Decide(e Evidence, school plant.SchoolKey) (Decision, error) {
	return Expect(e).Decide(school)
}

// Decide gives the verdict under a school.
func (o *Outlook) Decide(school plant.SchoolKey) (Decision, error) {
	if _, ok := schools[school]; !ok {
		return Decision{}, plant.Refuse("school", "%q is not a school", school)
	}
	e := o.e
	s := assess(e, school)
	d := Decision{School: school, AgeDays: s.age, s: s}
	switch {
	case e.Outcome != nil:
		d.is(plant.Lost, Closed)
		if e.Outcome.Kind != life.EndLost {
			d.Verdict, d.Progress = plant.Done, 1
		}
	case e.Potted != nil:
		d.afterPotting()
		if a, ok := After(e, school); ok && d.Verdict != plant.Rescue {
			d.After, d.Likely = &a, &a.Stays
			d.nextCheck()
		}
	case e.SetOn.IsZero():
		d.AgeDays = 0
		d.is(plant.LookAt, NotSet)
		if s.pottedAsItIs() {
			d.is(plant.Ready, OwnRoots)
			d.Progress = 1
		}
	default:
		d.m = o.with(s, school)
		d.standing()
	}
	d.Asks, d.ToPot, d.Act = Asks(d.Verdict), ToPot(d.Verdict), acts[d.Verdict]
	switch {
	case d.Ground == YoungReady:
		d.ToPot, d.Act = false, PartYoung
	case d.Verdict == plant.Ready && schools[school].stays:
		d.ToPot, d.Act = false, Uncover
	case d.LeaveUntil != nil:
		d.Act = LeaveAlone
	}
	d.DayLoss = d.dayLoss()
	return d, nil
}

// is decides.
func (d *Decision) is(v plant.Verdict, on Ground) { d.Verdict, d.Ground = v, on }

// ask decides that one look is needed.
func (d *Decision) ask(on Ground, what Criterion) {
	d.is(plant.LookAt, on)
	d.Ask = what
}

// standing judges a piece that stands in its medium.
func (d *Decision) standing() {
	s, m := d.s, d.m
	d.Findings = s.findings(d.School)
	d.forecast()
	d.Progress = progress(s)
	if m != nil {
		d.Likely, d.Comes = &m.ready, m.comes()
	}
	d.Warnings = s.warnings()
	d.Against = s.contradictions()
	contrary, unmet, unknown := split(d.Findings)
	health := pick(append(append([]Finding{}, unmet...), unknown...), RootHealth, Body)
	all := len(unmet) == 0 && len(unknown) == 0
	switch sign := s.sign(); {
	case len(contrary) > 0:
		d.is(plant.Rescue, Rot)
		d.Open, d.SoundNodes = contrary, s.sound()
		d.Ways = d.ways()
	case s.pottedAsItIs() && len(pick(unmet, Body)) == 0:
		d.is(plant.Ready, OwnRoots)
		d.Progress = 1
	case s.gives() && s.young.value > 0 && sign == nil:
		d.ofYoung()
	case s.mayHaveStayed(unmet) && len(health) > 0:
		d.ask(BeforePotting, health[0].Criterion)
	case (all || s.mayHaveStayed(unmet)) && s.oldLooks():
		d.ask(BeforePotting, s.first2(d.School))
	case s.stayedTooLong(unmet):
		d.is(plant.Overdue, StayedTooLong)
		d.Progress = 1
	case s.tooLong(), all && d.believed():
		d.ready()
	case m != nil && m.overgrown && !s.oldLooks():
		d.is(plant.Overdue, Overgrown)
	case sign != nil:
		d.ask(SignSeen, sign.Ask)
		d.Sign = sign
	case s.gave && !s.squeezedSince(s.tug.on):
		d.ask(TugGivesNow, RootHealth)
	case len(d.Against) > 0 && d.Against[0].Ask != "":
		d.ask(Contradicted, d.Against[0].Ask)
	case m != nil && (m.likely && !s.justMissing(unmet) || len(unmet) == 0 && len(unknown) == len(health)) && len(health) > 0:
		d.ask(BeforePotting, health[0].Criterion)
	case m != nil && m.likely && !s.justMissing(unmet) && len(fromOutside(unknown)) > 0:
		d.ask(OneOpen, fromOutside(unknown)[0].Criterion)
	case m != nil && m.likely && !s.justMissing(unmet) && !s.oldLooks():
		d.is(plant.Ready, Likely)
	case m != nil:
		d.lookOrWait(unmet, unknown)
	case len(unmet) == 0:
		d.askOrWait(OneOpen, s.question(unknown), unknown, s.nextLook(d.ReadyOn))
	case s.lookDue(s.nextLook(d.ReadyOn)):
		d.askOrWait(LookDue, s.lookKey(unmet, unknown), unmet, s.nextLook(d.ReadyOn))
	default:
		d.wait(unmet, s.nextAllowed(s.nextLook(d.ReadyOn)))
	}
	if d.s.schoolRow(d.School).stays && d.Verdict == plant.Ready && s.Cover == "none" {
		d.is(plant.GrowingOn, Uncovered)
	}
}

// gives: it is not potted itself, its young plants are.
func (s state) gives() bool { return s.kind.Gives && !s.Group.ShootsStay }

// ofYoung judges a leaf by the young plants on it.
func (d *Decision) ofYoung() {
	s := d.s
	d.Likely, d.Comes = nil, nil // the model speaks of what is potted itself
	from := s.youngSince.AddDate(0, 0, int(s.of(YoungAfter)))
	if s.bud.value == plant.BudLeafOpen || plant.Days(from, s.Today) >= 0 {
		d.is(plant.Ready, YoungReady)
		d.Progress = 1
		return
	}
	d.is(plant.Wait, YoungGrow)
	d.NextLook = &from
}

// pottedAsItIs: it came with roots and a growing point, and needs no rooting.
func (s state) pottedAsItIs() bool { return s.OwnRoots && s.kind.Pose == plant.Crown }

// believed: all criteria are met, and the model does not doubt it: what was seen a week ago at most is trusted at even odds.
func (d *Decision) believed() bool {
	return d.m == nil || d.m.likely || (d.m.ready >= d.s.of(SeenEven) && plant.Days(d.s.last, d.s.Today) <= int(d.s.of(SeenFresh)))
}

// fromOutside are what was never noted, of what can be seen without opening or digging: a glance settles them before anything is potted.
func fromOutside(unknown []Finding) []Finding { return pick(unknown, LeafOpen, Shoot) }

// justMissing: something the school wants was seen missing just now.
func (s state) justMissing(unmet []Finding) bool {
	for _, f := range unmet {
		if f.On != nil && plant.Days(*f.On, s.Today) <= int(s.of(SeenNow)) {
			return true
		}
	}
	return false
}

// lookOrWait asks the look that is worth its trouble, and waits where none is.
func (d *Decision) lookOrWait(unmet, unknown []Finding) {
	s, m := d.s, d.m
	open := append(append([]Finding{}, unmet...), unknown...)
	due := m.ready >= s.of(LookFrom) && plant.Days(s.last, s.Today) > int(s.every().Value)
	if q := m.best(due); q != "" {
		on := WorthIt
		if len(unmet) == 0 {
			on = OneOpen
		}
		d.ask(on, s.criterionOf(q))
		d.By = q
		d.Open = open
		return
	}
	if q := s.question(unknown); len(unmet) == 0 && len(unknown) < len(d.Findings) && q != "" && !opens[q] {
		d.ask(OneOpen, q)
		return
	}
	d.wait(open, s.nextAllowed(s.nextLook(nil)))
	if u := m.leaveUntil(); u != nil {
		d.LeaveUntil = u
	}
	if m.never >= s.of(NoPromise) && d.Ground != TooEarly {
		d.Ground = NotPromising
	}
}

// askOrWait asks for what may be asked today, and waits where nothing may.
func (d *Decision) askOrWait(on Ground, what Criterion, open []Finding, next time.Time) {
	if what == "" {
		d.wait(open, d.s.nextAllowed(next))
		return
	}
	d.ask(on, what)
}

func (d *Decision) ready() {
	d.is(plant.Ready, AllMet)
	d.Progress, d.ReadySince = 1, d.s.readySince(d.School)
	if plant.Days(d.ReadySince, d.s.Today) > int(d.s.of(ReadySince)) {
		d.is(plant.Overdue, ReadyLongSince)
	}
}

func (d *Decision) wait(open []Finding, next time.Time) {
	s := d.s
	d.is(plant.Wait, Missing)
	d.Open, d.NextLook = open, &next
	if s.medium.Hidden && !s.mayOpen() {
		until := s.rootsFrom()
		d.LeaveUntil = &until
	}
	switch {
	case s.early() && !s.seenBefore():
		first := s.firstLook()
		d.Ground, d.NextLook = TooEarly, &first
	case s.pastRange():
		d.Ground = PastUsual
	}
}

// afterPotting judges a potted piece by what was seen since.
func (d *Decision) afterPotting() {
	s := d.s
	days := plant.Days(s.Potted.On, s.Today)
	d.is(plant.GrowingOn, Settling)
	d.Progress, d.AgeDays = 1, days
	shock := days <= int(s.of(ShockDays))
	grown := s.bud.known && s.bud.value == plant.BudLeafOpen && plant.Days(s.Potted.On, s.bud.on) >= int(s.of(life.GrownOnAfter))
	late := float64(days) > s.of(LeafAfter)*s.factor && !grown && (!s.bud.known || s.stale(s.bud.on))
	switch sign := s.sign(); {
	case s.rotMM > 0 || s.stem.value == "soft" || s.feel.value == "mushy":
		d.is(plant.Rescue, RotInPot)
		return
	case sign != nil:
		d.ask(SignSeen, sign.Ask)
		d.Sign = sign
		return
	case !shock && s.leaf.known && (s.leaf.value == "drooping" || s.leaf.value == "dropped") && (!s.stem.known || s.stem.on.Before(s.leaf.on)):
		d.ask(LeafSince, Body)
		return
	case late:
		d.ask(NoLeafSince, LeafOpen)
		return
	case grown:
		d.Ground = GrownOn
	case shock:
		d.Ground = Shock
	}
	every := int(s.of(PottedLooks))
	if days >= int(s.of(ShockDays)) {
		every = int(s.of(SettledLooks))
	}
	every = max(1, every) // a household may set it to 0
	next := s.Potted.On.AddDate(0, 0, (days/every+1)*every)
	d.NextLook = &next
}

// nextCheck: in the first two weeks the next look is the day on which the mix is felt next.
func (d *Decision) nextCheck() {
	if d.Verdict != plant.GrowingOn {
		return
	}
	for _, on := range d.After.Checks {
		if plant.Days(d.s.Today, on) > 0 && (d.NextLook == nil || on.Before(*d.NextLook)) {
			d.NextLook = &on
			return
		}
	}
}

// sound are the nodes above the rot with sound tissue below them; nil when nobody knows.
func (s state) sound() []int {
	if s.rotMM <= 0 {
		return nil
	}
	var out []int
	for i, mm := range s.NodeMM {
		if i >= s.gone && mm >= s.rotMM+s.of(SoundMargin) {
			out = append(out, i+1)
		}
	}
	return out
}

// warnings are what speaks against calm waiting.
func (s state) warnings() []Warning {
	var out []Warning
	add := func(when bool, w Warning) {
		if when {
			out = append(out, w)
		}
	}
	add(s.gave, WarnTugGives)
	add(s.leaf.known && s.leaf.value == "drooping", WarnDroops)
	add(s.leaf.known && s.leaf.value == "yellowing", WarnYellows)
	add(s.stem.known && s.stem.value == "wrinkled", WarnWrinkled)
	add(s.pastRange(), WarnNothingYet)
	add(s.crowded() && s.roots.known && s.roots.value.count == 0, WarnCrowdUncounted)
	return out
}

func split(findings []Finding) (contrary, unmet, unknown []Finding) {
	for _, r := range findings {
		switch r.Standing {
		case Contrary:
			contrary = append(contrary, r)
		case Unmet:
			unmet = append(unmet, r)
		case Unknown:
			unknown = append(unknown, r)
		}
	}
	return contrary, unmet, unknown
}

func pick(findings []Finding, want ...Criterion) []Finding {
	var out []Finding
	for _, c := range want {
		for _, f := range findings {
			if f.Criterion == c {
				out = append(out, f)
			}
		}
	}
	return out
}

// mayHaveStayed: it stayed too long in its vessel, or its roots are far longer than the school wants.
func (s state) mayHaveStayed(unmet []Finding) bool { return s.tooLong() || s.stayedTooLong(unmet) }

// stayedTooLong: roots coil or fill the vessel, or stand three months in water. Without a root none of
// this is overdue.
func (s state) stayedTooLong(unmet []Finding) bool {
	if !s.roots.known || s.roots.value.count == 0 {
		return s.crowded() && len(pick(unmet, Longest, Roots)) == 0
	}
	return s.crowded() || (!s.medium.Hidden && s.inMedium > int(s.of(WaterMost)))
}

func (s state) crowded() bool { return s.crowding.known && s.crowding.value != "free" }

// tooLong: under the school of early roots, roots much longer than it pots at.
func (s state) tooLong() bool {
	return s.roots.known && s.roots.value.count > 0 && s.potsEarly && s.asksLength && s.roots.value.longest.LengthMM >= s.of(EarlyMost)
}

// oldLooks: the newest look is too old to pot by.
func (s state) oldLooks() bool { return plant.Days(s.last, s.Today) > int(s.of(ReadyTrust)) }

// squeezedSince tells whether the roots were squeezed, or the piece felt firm, on or after a day.
func (s state) squeezedSince(on time.Time) bool { return s.feel.known && !s.feel.on.Before(on) }

// first2 is what to look at anew before potting.
func (s state) first2(school plant.SchoolKey) Criterion {
	if schools[school].byTug && s.medium.Tugs {
		return Tug
	}
	return Longest
}

// readySince is the day of the first look at which the school's criteria already held.
func (s state) readySince(school plant.SchoolKey) time.Time {
	for i := range s.Looks {
		early := s.Evidence
		early.Looks, early.Today = s.Looks[:i+1:i+1], s.Looks[i].On
		then := assess(early, school)
		_, unmet, unknown := split(then.findings(school))
		if len(unmet)+len(unknown) == 0 {
			return s.Looks[i].On
		}
	}
	return s.Today
}

// CameReady is the day of the first look at which all that a school wants was seen of a piece; false while it has not come.
func CameReady(e Evidence, school plant.SchoolKey) (time.Time, bool) {
	if _, ok := schools[school]; !ok {
		return time.Time{}, false
	}
	e.Potted, e.Outcome = nil, nil
	e.Looks = sorted(e.Looks)
	s := assess(e, school)
	on := s.readySince(school)
	early := e
	early.Today = on
	early.Looks = nil
	for _, l := range e.Looks {
		if !l.On.After(on) {
			early.Looks = append(early.Looks, l)
		}
	}
	then := assess(early, school)
	_, unmet, unknown := split(then.findings(school))
	return on, len(e.Looks) > 0 && len(unmet)+len(unknown) == 0
}

// nextLook is the day of the next look: one look interval after the last, or the forecast day if that
// comes first; before the first look, the day on which roots can be there.
func (s state) nextLook(readyOn *time.Time) time.Time {
	next := s.firstLook()
	if len(s.Looks) > 0 {
		if after := s.last.AddDate(0, 0, int(s.every().Value)); after.After(next) || s.seenBefore() {
			next = after
		}
	}
	if readyOn != nil && readyOn.Before(next) && readyOn.After(s.Today) {
		next = *readyOn
	}
	return next
}

// nextAllowed never names a day that is past.
func (s state) nextAllowed(next time.Time) time.Time {
	if plant.Days(next, s.Today) > 0 {
		if s.early() {
			return s.firstLook()
		}
		return s.Today.AddDate(0, 0, 1)
	}
	return next
}

// lookDue: the next look is past by so much that what is known settles nothing.
func (s state) lookDue(next time.Time) bool {
	slack := s.every().Value * (s.of(StaleFactor) - 1)
	return plant.Days(next, s.Today) >= int(slack)
}

// lookKey is what to look at again when nothing new is known.
func (s state) lookKey(unmet, unknown []Finding) Criterion {
	if s.pastRange() {
		return Body
	}
	open := unmet
	if !s.roots.known && len(unknown) > 0 {
		open = append(append([]Finding{}, unknown...), unmet...)
	}
	return s.question(open)
}

// pastRange: roots usually show by now, and none was seen.
func (s state) pastRange() bool {
	nothing := !s.seenBefore() && (s.roots.known || s.tug.known || s.bud.known)
	return nothing && float64(plant.Days(s.from, s.Today)) > s.first.High
}

func (d *Decision) forecast() {
	s := d.s
	f, ok := growth.Ahead(s.Numbers, LongestOverTime(s.Evidence), s.threshold, s.Today.Sub(s.SetOn).Hours()/24)
	if !ok || !s.asksLength {
		return
	}
	d.Forecast = &f
	day := func(d float64) *time.Time {
		t := s.SetOn.AddDate(0, 0, int(math.Ceil(math.Min(math.Max(d, 0), 5000))))
		return &t
	}
	d.ReadyOn = day(f.ReachDay)
	if f.Bounded {
		d.ReadyFirst, d.ReadyLast = day(f.LowDay), day(f.HighDay)
	}
}

// progress is how far it has come, 0.03 to 0.97: its longest root over the one wanted, or before a root was seen half of
// its age over the usual age at potting.
func progress(s state) float64 {
	p := float64(s.age) / math.Max(1, s.pot.Mid) * 0.5
	if s.roots.known && s.roots.value.longest.LengthMM > 0 {
		p = s.roots.value.longest.LengthMM / s.threshold
	}
	return math.Max(0.03, math.Min(p, 0.97))
}

// DefaultSchool is the school a growth group starts with.
func DefaultSchool(g plant.Group) plant.SchoolKey { return g.School }

var urgency = []plant.Verdict{plant.Rescue, plant.Overdue, plant.Ready, plant.LookAt, plant.Wait, plant.GrowingOn, plant.Done, plant.Lost}

// Asks tells whether a verdict asks for an act today.
func Asks(v plant.Verdict) bool { return Urgency(v) < Urgency(plant.Wait) }

// ToPot tells whether a verdict says to pot it.
func ToPot(v plant.Verdict) bool { return v == plant.Ready || v == plant.Overdue }

// Urgency orders verdicts for the day's list: what must be done first comes first.
func Urgency(v plant.Verdict) int {
	for i, u := range urgency {
		if u == v {
			return i
		}
	}
	return len(urgency)
}
