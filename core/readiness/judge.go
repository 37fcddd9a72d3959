package readiness

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"

	"clearjar/core/growth"
	"clearjar/core/plant"
)

// Judgement is the verdict on one cutting and everything it rests on.
type Judgement struct {
	Verdict plant.Verdict   `json:"verdict" enum:"wait,look,ready,overdue,rescue,growing_on,done,lost"`
	School  plant.SchoolKey `json:"school" enum:"early_roots,first_leaf,full_roots"`
	// Sentence says what to do and what it rests on.
	Sentence string   `json:"sentence"`
	Reasons  []Reason `json:"reasons"`
	// Changes says what would change the verdict.
	Changes string `json:"changes"`
	// Steps say how, where there is something to do at once.
	Steps    []string   `json:"steps,omitempty"`
	NextLook *time.Time `json:"next_look,omitempty"`
	Question *Question  `json:"question,omitempty"`
	// Progress is 0 (just set) to 1 (ready), for the filled jar of Wait.
	Progress float64          `json:"progress"`
	AgeDays  int              `json:"age_days"`
	Forecast *growth.Forecast `json:"forecast,omitempty"`
	// ReadyOn is the forecast day, with the days it may come first and last when known.
	ReadyOn    *time.Time `json:"ready_on,omitempty"`
	ReadyFirst *time.Time `json:"ready_first,omitempty"`
	ReadyLast  *time.Time `json:"ready_last,omitempty"`
}

// Judge gives the verdict on one cutting under a school. An unknown school is refused.
func Judge(e Evidence, school plant.SchoolKey) (Judgement, error) {
	criteria, ok := schoolCriteria[school]
	if !ok {
		return Judgement{}, plant.Refuse("school", "%q is not a school", school)
	}
	s := assess(e, school)
	j := Judgement{School: school, Reasons: []Reason{}, AgeDays: s.age}
	if e.SetOn.IsZero() {
		j.AgeDays = 0
	}
	if done := afterPotting(&j, s); done {
		return j, nil
	}
	if e.SetOn.IsZero() {
		j.Verdict, j.Sentence = plant.LookAt, "Cut, but not set yet: put it into its medium before it wilts."
		j.Changes = "Set it into a vessel."
		return j, nil
	}
	for _, c := range criteria {
		j.Reasons = append(j.Reasons, c(s))
	}
	forecastInto(&j, s)
	j.Progress = progress(s)
	next := s.nextLook(j)
	switch contrary, unmet, unknown := split(j.Reasons); {
	case len(contrary) > 0:
		rescue(&j, s, contrary)
	case len(unmet) == 0 && len(unknown) == 0:
		ready(&j, s)
	case s.overstayed():
		overdue(&j, s)
	case len(unmet) == 0:
		settle(&j, unknown[0], s)
	case s.lookDue(next):
		lookAgain(&j, s, unmet, unknown)
	default:
		wait(&j, s, unmet, next)
	}
	return j, nil
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

func afterPotting(j *Judgement, s state) bool {
	switch {
	case s.Outcome != nil && s.Outcome.Kind == "established":
		j.Verdict, j.Progress, j.Sentence = plant.Done, 1, "Established: it has grown on after potting."
		j.Changes = "Nothing: it is a plant of its own."
	case s.Outcome != nil:
		j.Verdict, j.Sentence = plant.Lost, fmt.Sprintf("Lost on %s.", s.Outcome.On.Format("2 Jan 2006"))
		j.Changes = "Nothing. Its record stays, so that the rates stay honest."
	case s.Potted != nil:
		days := plant.Days(s.Potted.On, s.Today)
		j.Verdict, j.Progress, j.AgeDays = plant.GrowingOn, 1, days
		j.Sentence = fmt.Sprintf("Potted %s ago. Keep the mix evenly damp until day 14.", plural(days, "day", "days"))
		if days > 14 {
			j.Sentence = fmt.Sprintf("Potted %s ago. Lower the humidity in steps; wait for a new leaf.", plural(days, "day", "days"))
		}
		j.Changes = "A new leaf after potting makes it established."
		next := s.Potted.On.AddDate(0, 0, (days/3+1)*3)
		j.NextLook = &next
	default:
		return false
	}
	return true
}

func rescue(j *Judgement, s state, contrary []Reason) {
	j.Verdict = plant.Rescue
	j.Sentence = fmt.Sprintf("Act today. %s: %s. %s", headline(contrary[0].Key), contrary[0].Found, s.soundAbove())
	j.Changes = "A look with a firm stem and firm roots, after cutting back."
	j.Steps = []string{
		"Disinfect a sharp blade with 70 % alcohol (flammable: ventilate), and again after every cut into rot.",
		"Cut back to clean, firm tissue, white or green with no brown, and take off every mushy root. Cut away from you.",
		"Dust the face dry (the used dust is thrown away) and let it dry.",
		"Reset it in fresh, drier or airier medium, in a clean vessel; record the move and a look with a firm stem.",
		"If no sound node is left, it is lost.",
	}
}

// soundAbove says which nodes stand above the rot, when it is known where they are.
func (s state) soundAbove() string {
	if s.rotMM <= 0 || len(s.NodeMM) == 0 {
		return "Cut back to clean, firm tissue and reset in fresh medium."
	}
	var sound []string
	for i, mm := range s.NodeMM {
		if mm > s.rotMM {
			sound = append(sound, strconv.Itoa(i+1))
		}
	}
	if len(sound) == 0 {
		return "It reaches above the highest node: a leafless stump may still shoot while firm, but expect it lost."
	}
	return fmt.Sprintf("Cut above it: node %s of the piece is sound.", strings.Join(sound, " and "))
}

func headline(key string) string {
	if key == "root_health" {
		return "Roots"
	}
	return "Stem"
}

func ready(j *Judgement, s state) {
	since := plant.Days(s.readySince(j.School), s.Today)
	j.Progress = 1
	if s.overstayed() || since > int(ReadySince.Value) {
		overdue(j, s)
		if since > int(ReadySince.Value) {
			j.Sentence = fmt.Sprintf("Pot up now. Ready since %s: %s.", s.readySince(j.School).Format("2 Jan"), summary(s))
		}
		return
	}
	j.Verdict = plant.Ready
	j.Sentence = "Pot up. " + upper(summary(s)) + "."
	if InDarkHalf(s.Today, s.Southern) {
		j.Changes = "A soft stem, mushy roots or a stricter school. It is the dark half of the year: give it light and warmth after potting."
		return
	}
	j.Changes = "A soft stem, mushy roots or a stricter school."
}

// readySince is the day of the first look at which the school's root criteria already held.
func (s state) readySince(school plant.SchoolKey) time.Time {
	for i := range s.Looks {
		early := s.Evidence
		early.Looks, early.Today = append([]LookOn{}, s.Looks[:i+1]...), s.Looks[i].On
		then := assess(early, school)
		met := true
		for _, c := range schoolCriteria[school] {
			if st := c(then).Standing; st != Met {
				met = false
				break
			}
		}
		if met {
			return s.Looks[i].On
		}
	}
	return s.Today
}

// overstayed: roots coil or fill the vessel, or three months in water with roots.
func (s state) overstayed() bool {
	if s.crowding.known && s.crowding.value != "free" {
		return true
	}
	rooted := s.roots.known && s.roots.value.count >= int(EarlyRootCount.Value)
	return s.Medium == plant.Water && s.age > int(WaterMost.Value) && rooted
}

func overdue(j *Judgement, s state) {
	j.Verdict, j.Progress = plant.Overdue, 1
	why := []string{summary(s)}
	if s.crowding.known && s.crowding.value != "free" {
		why = append(why, "roots "+map[string]string{"coiling": "coil in the vessel", "filling": "fill the vessel"}[s.crowding.value])
	}
	if s.Medium == plant.Water && s.age > int(WaterMost.Value) {
		why = append(why, fmt.Sprintf("%d days in water", s.age))
	}
	j.Sentence = "Pot up now. " + upper(strings.Join(why, "; ")) + "."
	j.Changes = "Only potting: longer roots tangle and break."
}

func settle(j *Judgement, open Reason, s state) {
	j.Verdict = plant.LookAt
	j.Question = ask(open.Key, s.topNode())
	j.Sentence = upper(summary(s)) + "."
	if j.Question != nil {
		j.Sentence += " " + j.Question.Text
	}
	j.Changes = "The answer settles it."
}

func (s state) topNode() int { return max(1, s.SetNodes) }

// nextLook is the day of the next look: one look interval after the last, or the forecast day if that comes first.
func (s state) nextLook(j Judgement) time.Time {
	every := int(lookEvery[s.Medium].Value)
	from := s.SetOn
	if len(s.Looks) > 0 {
		from = s.last
	} else if first := int(s.Group.FirstRootsDays.Low); first > every {
		every = first
	}
	next := from.AddDate(0, 0, every)
	if j.ReadyOn != nil && j.ReadyOn.Before(next) && j.ReadyOn.After(s.Today) {
		next = *j.ReadyOn
	}
	return next
}

// lookDue: the next look is past by so much that what is known settles nothing.
func (s state) lookDue(next time.Time) bool {
	slack := lookEvery[s.Medium].Value * (StaleFactor.Value - 1)
	return plant.Days(next, s.Today) >= int(slack)
}

func lookAgain(j *Judgement, s state, unmet, unknown []Reason) {
	j.Verdict = plant.LookAt
	key := unmet[0].Key
	if s.roots.known && s.roots.value.count == 0 && float64(s.age) > s.Group.FirstRootsDays.High {
		key = "stem"
	} else if len(unknown) > 0 && !s.roots.known {
		key = unknown[0].Key
	}
	j.Question = ask(key, s.topNode())
	seen := "Never looked at"
	if len(s.Looks) > 0 {
		seen = fmt.Sprintf("Last look %s ago: %s", plural(plant.Days(s.last, s.Today), "day", "days"), summary(s))
	}
	j.Sentence = seen + "."
	if j.Question != nil {
		j.Sentence += " " + j.Question.Text
	}
	j.Changes = "A look at it today."
}

func wait(j *Judgement, s state, unmet []Reason, next time.Time) {
	j.Verdict = plant.Wait
	j.NextLook = &next
	j.Sentence = "Not yet: " + lower(short(unmet, s)) + "."
	if j.ReadyOn != nil {
		j.Changes = fmt.Sprintf("At %.1f mm a day the wanted length comes about %s.", j.Forecast.RateMMADay, j.ReadyOn.Format("2 Jan"))
		return
	}
	span := s.Group.PotUpDays
	j.Changes = fmt.Sprintf("%s usually pot up after %.0f days (%.0f to %.0f); this one is at day %d.", s.Group.Name, span.Mid*s.factor, span.Low*s.factor, span.High*s.factor, s.age)
	if s.factor > 1 {
		j.Changes += " Times are for the dark half of the year."
	}
}

// short says in one line what is missing.
func short(unmet []Reason, s state) string {
	var parts []string
	for _, r := range unmet {
		switch r.Key {
		case "longest", "tug":
			if s.roots.known && s.roots.value.longest.LengthMM > 0 && r.Key == "longest" {
				parts = append(parts, fmt.Sprintf("longest root %.0f mm of the %.0f wanted", s.roots.value.longest.LengthMM, s.threshold))
			} else {
				parts = append(parts, r.Found)
			}
		case "roots":
			parts = append(parts, fmt.Sprintf("%s of %.0f mm or more", plural(s.roots.value.count, "root", "roots"), CountedFrom.Value))
		case "side_roots":
			parts = append(parts, "no side roots yet")
		case "nodes_rooted":
			parts = append(parts, fmt.Sprintf("%d of %d nodes rooted", s.roots.value.nodes, max(1, s.SetNodes)))
		default:
			parts = append(parts, r.Found)
		}
		if len(parts) == 2 || parts[0] == "no root yet" {
			break
		}
	}
	return strings.Join(parts, ", ")
}

// summary says in one line what the newest looks found.
func summary(s state) string {
	var parts []string
	if s.roots.known {
		switch r := s.roots.value; {
		case r.longest.LengthMM == 0:
			parts = append(parts, "no root seen")
		default:
			text := fmt.Sprintf("longest root %.0f mm", r.longest.LengthMM)
			if s.asksLength {
				text += fmt.Sprintf(" (%.0f wanted)", s.threshold)
			}
			parts = append(parts, text)
			roots := plural(r.count, "root", "roots")
			if r.side > 0 {
				roots += " with side roots"
			}
			parts = append(parts, roots)
			if s.SetNodes > 1 && r.nodes >= s.SetNodes {
				parts = append(parts, fmt.Sprintf("all %d set nodes rooted", s.SetNodes))
			}
		}
	}
	if s.tug.known && s.tug.value == "holds" && s.Medium != plant.Water {
		parts = append(parts, "a tug holds")
	}
	if s.bud.known && s.bud.value == plant.BudLeafOpen {
		parts = append(parts, "first leaf open")
	}
	if len(parts) == 0 {
		return "no roots counted yet"
	}
	return strings.Join(parts, ", ")
}

func upper(s string) string { return strings.ToUpper(s[:1]) + s[1:] }
func lower(s string) string { return strings.ToLower(s[:1]) + s[1:] }

func forecastInto(j *Judgement, s state) {
	f, ok := growth.Ahead(LongestOverTime(s.Evidence), s.threshold)
	if !ok {
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
	p := float64(s.age) / math.Max(1, s.Group.PotUpDays.Mid*s.factor) * 0.5
	if s.roots.known && s.roots.value.longest.LengthMM > 0 {
		p = s.roots.value.longest.LengthMM / s.threshold
	}
	return math.Max(0.03, math.Min(p, 0.97))
}

// DefaultSchool is the school a growth group starts with.
func DefaultSchool(g plant.Group) plant.SchoolKey {
	switch g.Key {
	case "cissus_kin", "soft_climber", "heart_vine", "rosette_succulent":
		return plant.EarlyRoots
	}
	if len(g.Media) > 0 && g.Media[0] != plant.Water && g.Key != "pitcher_vine" {
		return plant.FirstLeaf
	}
	return plant.FullRoots
}

// Urgency orders verdicts for the day's list: what must be done first comes first.
func Urgency(v plant.Verdict) int {
	for i, u := range []plant.Verdict{plant.Rescue, plant.Overdue, plant.Ready, plant.LookAt, plant.Wait, plant.GrowingOn, plant.Done, plant.Lost} {
		if u == v {
			return i
		}
	}
	return 99
}
