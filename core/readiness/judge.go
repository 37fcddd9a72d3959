package readiness

import (
	"math"
	"time"

	"clearjar/core/growth"
	"clearjar/core/plant"
)

// Judgement is the verdict on one cutting and everything it rests on.
type Judgement struct {
	Verdict plant.Verdict   `json:"verdict" enum:"wait,look,ready,overdue,rescue,growing_on,done,lost"`
	School  plant.SchoolKey `json:"school" enum:"early_roots,first_leaf,full_roots"`
	// Asks for an act today; ToPot for potting it.
	Asks  bool `json:"asks"`
	ToPot bool `json:"to_pot"`
	// Sentence says what to do and what it rests on.
	Sentence string   `json:"sentence"`
	Reasons  []Reason `json:"reasons"`
	// Warnings say what speaks against waiting calmly, though it decides nothing alone.
	Warnings []string `json:"warnings"`
	// Changes says what would change the verdict.
	Changes string `json:"changes"`
	// Steps say how, where there is something to do at once.
	Steps    []string   `json:"steps,omitempty"`
	NextLook *time.Time `json:"next_look,omitempty"`
	// LeaveUntil is the day before which opening or digging harms more than it tells.
	LeaveUntil *time.Time `json:"leave_until,omitempty"`
	Question   *Question  `json:"question,omitempty"`
	// Caution says why potting it now would be against the evidence; empty when nothing speaks against it.
	Caution string `json:"caution,omitempty"`
	// SoundNodes are those that stand clear of the rot, when it is known where they are; Rot asks to cut.
	SoundNodes []int `json:"sound_nodes,omitempty"`
	// Progress is 0 (just set) to 1 (ready), for the filled jar of Wait.
	Progress float64          `json:"progress"`
	AgeDays  int              `json:"age_days"`
	Forecast *growth.Forecast `json:"forecast,omitempty"`
	// ReadyOn is the forecast day, with the days it may come first and last when known.
	ReadyOn    *time.Time `json:"ready_on,omitempty"`
	ReadyFirst *time.Time `json:"ready_first,omitempty"`
	ReadyLast  *time.Time `json:"ready_last,omitempty"`
}

// Judge gives the verdict on one cutting under a school. An unknown school is refused. The same
// facts give the same verdict in whatever order they come; the caller's looks are not touched.
func Judge(e Evidence, school plant.SchoolKey) (Judgement, error) {
	if _, ok := schools[school]; !ok {
		return Judgement{}, plant.Refuse("school", "%q is not a school", school)
	}
	s := assess(e, school)
	j := Judgement{School: school, Reasons: []Reason{}, Warnings: []string{}, AgeDays: s.age}
	switch {
	case e.Outcome != nil:
		j.ended(s)
	case e.Potted != nil:
		j.afterPotting(s)
	case e.SetOn.IsZero():
		j.AgeDays = 0
		j.Verdict, j.Sentence = plant.LookAt, "Cut, but not set yet: put it into its medium before it wilts."
		if !e.Group.CallusHours.IsZero() {
			j.Sentence = "Cut, but not set yet. Let the cut face dry first, then set it."
		}
		j.Changes = "Set it into a vessel."
	default:
		j.standing(s)
	}
	j.caution(s)
	j.Asks, j.ToPot = Asks(j.Verdict), ToPot(j.Verdict)
	return j, nil
}

// standing judges a piece that stands in its medium.
func (j *Judgement) standing(s state) {
	j.Reasons = s.reasons(j.School)
	j.forecast(s)
	j.Progress = progress(s)
	j.warn(s)
	next := s.nextLook(*j)
	contrary, unmet, unknown := split(j.Reasons)
	health := pick(append(append([]Reason{}, unmet...), unknown...), "root_health", "stem")
	rooted := s.OwnRoots && s.kind.Pose == plant.Crown
	switch signal := s.signal(); {
	case len(contrary) > 0:
		j.rescue(s, contrary)
	case rooted && len(pick(unmet, "stem")) == 0:
		j.Verdict, j.Progress = plant.Ready, 1
		j.Sentence = "Pot it now: it has roots of its own and needs no rooting."
		j.Changes = "A soft base, or mushy roots."
	case s.mayHaveStayed(unmet) && len(health) > 0:
		j.lookFirst(s, health[0].Key, "Before potting")
	case (len(unmet) == 0 && len(unknown) == 0 || s.mayHaveStayed(unmet)) && s.oldLooks():
		j.lookFirst(s, s.first2(j.School), "Before potting")
	case s.stayedTooLong(unmet):
		j.overdue(s)
	case s.tooLong(), len(unmet) == 0 && len(unknown) == 0:
		j.ready(s)
	case signal != nil:
		j.signalled(s, signal)
	case s.gave && !s.squeezedSince(s.tug.on):
		j.lookFirst(s, "root_health", "A tug held once and gives now")
	case len(unmet) == 0:
		if key := s.question(unknown); key != "" {
			j.settle(s, key)
		} else {
			j.wait(s, unknown, s.nextAllowed(next))
		}
	case s.lookDue(next):
		if key := s.lookKey(unmet, unknown); key != "" {
			j.lookAgain(s, key)
		} else {
			j.wait(s, unmet, s.nextAllowed(next))
		}
	default:
		j.wait(s, unmet, s.nextAllowed(next))
	}
}

func split(reasons []Reason) (contrary, unmet, unknown []Reason) {
	for _, r := range reasons {
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

func pick(reasons []Reason, keys ...string) []Reason {
	var out []Reason
	for _, k := range keys {
		for _, r := range reasons {
			if r.Key == k {
				out = append(out, r)
			}
		}
	}
	return out
}

// mayHaveStayed: it stayed too long in its vessel, or its roots are far longer than the school wants.
func (s state) mayHaveStayed(unmet []Reason) bool { return s.tooLong() || s.stayedTooLong(unmet) }

// stayedTooLong: roots coil or fill the vessel, or stand three months in water. Without a root none of
// this is overdue.
func (s state) stayedTooLong(unmet []Reason) bool {
	if !s.roots.known || s.roots.value.count == 0 {
		return s.crowded() && len(pick(unmet, "longest", "roots")) == 0
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
func (s state) first2(school plant.SchoolKey) string {
	if schools[school].byTug && s.medium.Tugs {
		return "tug"
	}
	return "longest"
}

// readySince is the day of the first look at which the school's criteria already held.
func (s state) readySince(school plant.SchoolKey) time.Time {
	for i := range s.Looks {
		early := s.Evidence
		early.Looks, early.Today = append([]LookOn{}, s.Looks[:i+1]...), s.Looks[i].On
		then := assess(early, school)
		_, unmet, unknown := split(then.reasons(school))
		if len(unmet)+len(unknown) == 0 {
			return s.Looks[i].On
		}
	}
	return s.Today
}

// nextLook is the day of the next look: one look interval after the last, or the forecast day if that
// comes first; before the first look, the day on which roots can be there.
func (s state) nextLook(j Judgement) time.Time {
	next := s.firstLook()
	if len(s.Looks) > 0 {
		if after := s.last.AddDate(0, 0, int(s.every().Value)); after.After(next) || s.seenBefore() {
			next = after
		}
	}
	if j.ReadyOn != nil && j.ReadyOn.Before(next) && j.ReadyOn.After(s.Today) {
		next = *j.ReadyOn
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
func (s state) lookKey(unmet, unknown []Reason) string {
	if s.pastRange() {
		return "stem"
	}
	open := unmet
	if !s.roots.known && len(unknown) > 0 {
		open = append(append([]Reason{}, unknown...), unmet...)
	}
	return s.question(open)
}

// pastRange: roots usually show by now, and none was seen.
func (s state) pastRange() bool {
	nothing := !s.seenBefore() && (s.roots.known || s.tug.known || s.bud.known)
	return nothing && float64(plant.Days(s.from, s.Today)) > s.first.High
}

func (j *Judgement) forecast(s state) {
	f, ok := growth.Ahead(s.Numbers, LongestOverTime(s.Evidence), s.threshold, s.Today.Sub(s.SetOn).Hours()/24)
	if !ok || !s.asksLength {
		return
	}
	j.Forecast = &f
	day := func(d float64) *time.Time {
		t := s.SetOn.AddDate(0, 0, int(math.Ceil(math.Min(math.Max(d, 0), 5000))))
		return &t
	}
	j.ReadyOn = day(f.ReachDay)
	if f.Bounded {
		j.ReadyFirst, j.ReadyLast = day(f.LowDay), day(f.HighDay)
	}
}

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
