package readiness

import (
	"fmt"
	"strings"
	"time"

	"clearjar/core/life"
	"clearjar/core/plant"
)

// budSaid says a bud in the words of the kind.
func budSaid(k plant.KindRow, b plant.Bud) string {
	if k.Comes != "shoot" {
		return map[plant.Bud]string{
			plant.BudDormant: "no " + k.Comes + " yet", plant.BudSwelling: "a " + k.Comes + " begins", plant.BudShooting: "a " + k.Comes + ", no open leaf yet", plant.BudLeafOpen: k.Comes + " with an open leaf",
		}[b]
	}
	return map[plant.Bud]string{plant.BudDormant: "bud asleep", plant.BudSwelling: "bud swelling", plant.BudShooting: "shoot, no open leaf yet", plant.BudLeafOpen: "leaf open"}[b]
}

var whyLost = map[string]string{"rotted": "it rotted", "dried": "it dried up", "never_woke": "it never woke", "broken": "it broke", "other": "another reason"}

func (j *Judgement) ended(s state) {
	j.Verdict, j.Sentence = plant.Lost, fmt.Sprintf("Lost on %s", s.Outcome.On.Format("2 Jan 2006"))
	if why := whyLost[s.Outcome.Why]; why != "" {
		j.Sentence += ": " + why
	}
	j.Sentence += "."
	j.Changes = "Nothing. Its record stays, so that the rates stay honest. Closed by mistake, it can be reopened."
	if s.Outcome.Kind == "established" {
		j.Verdict, j.Progress, j.Sentence = plant.Done, 1, fmt.Sprintf("Established on %s: it has grown on after potting.", s.Outcome.On.Format("2 Jan 2006"))
		j.Changes = "Nothing: it is a plant of its own. Closed by mistake, it can be reopened."
	}
}

// keptAfter says how it is kept in the weeks after potting.
var keptAfter = map[plant.Keeping]struct{ first, later string }{
	plant.Damp: {"Keep the mix evenly damp until day 14.", "Lower the humidity in steps; wait for a new leaf."},
	plant.Dry:  {"Water sparingly: only when about 80 % of the mix is dry.", "Water only when about 80 % of the mix is dry; wait for new growth."},
}

func (j *Judgement) growingOn(s state, days int, grown bool) {
	kept := keptAfter[s.Group.Keeping]
	switch {
	case grown:
		j.Sentence = fmt.Sprintf("Potted %s ago, and a leaf opened since: it has grown on. Note it as established.", plant.DaysLong(days))
	case days <= int(s.of(ShockDays)):
		j.Sentence = fmt.Sprintf("Potted %s ago. %s", plant.DaysLong(days), kept.first)
		if s.leaf.known && s.leaf.value != "fresh" {
			j.Sentence += " Some yellowing or droop in the first two weeks is shock: remove spent leaves, do not feed, do not repot."
		}
	default:
		j.Sentence = fmt.Sprintf("Potted %s ago. %s", plant.DaysLong(days), kept.later)
	}
	j.Changes = "A new leaf after potting makes it established; a soft stem, rot or a dry mix asks for an act."
}

func (j *Judgement) rescue(s state, contrary []Reason) {
	j.Verdict = plant.Rescue
	j.Sentence = fmt.Sprintf("Act today. %s: %s. %s", headline(s, contrary[0].Key), contrary[0].Found, s.soundAbove())
	j.Changes = "Cutting back, noted as done: it is judged anew from what is left."
	j.SoundNodes = s.sound()
	j.Steps = []string{
		"Disinfect a sharp blade with 70 % alcohol (flammable: ventilate), and again after every cut into rot.",
		"Cut back to clean, firm tissue, white or green with no brown, and take off every mushy root. Cut away from you.",
		"Dust the face dry (the used dust is thrown away) and let it dry.",
		"Reset it in fresh, drier or airier medium, in a clean vessel, and note the cutting back.",
		"If no sound node is left, it is lost.",
	}
}

func (j *Judgement) rescuePotted(s state) {
	found := "the roots are mushy"
	switch {
	case s.rotMM > 0:
		found = fmt.Sprintf("rot for %.0f mm", s.rotMM)
	case s.stem.value == "soft":
		found = "the " + s.kind.Body + " is soft"
	}
	j.Verdict = plant.Rescue
	j.Sentence = fmt.Sprintf("Act today. In its pot %s. Unpot it and cut back to clean, firm tissue.", found)
	j.Changes = "Cutting back, noted as done: it is judged anew from what is left."
	j.Steps = []string{
		"Unpot it, wash the mix off, and throw that mix away.",
		"Disinfect a sharp blade with 70 % alcohol (flammable: ventilate), and again after every cut into rot.",
		"Cut away every soft part and mushy root to clean, firm tissue. Cut away from you.",
		"Let it dry, and reset it in fresh, drier mix in a smaller pot, or root it anew; note the cutting back.",
		"If no sound node is left, it is lost.",
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

// soundAbove says which nodes stand above the rot, when it is known where they are.
func (s state) soundAbove() string {
	if s.rotMM <= 0 || len(s.NodeMM) == 0 {
		return "Cut back to clean, firm tissue and reset in fresh medium."
	}
	sound := s.sound()
	if len(sound) == 0 {
		return "No node is left with sound tissue below it: a leafless stump may still shoot while firm, but expect it lost."
	}
	verb := map[bool]string{true: "is", false: "are"}[len(sound) == 1]
	return fmt.Sprintf("Cut above it: %s %s of the piece %s sound.", map[bool]string{true: s.kind.Point, false: s.kind.Points}[len(sound) == 1], plant.Numbered(sound), verb)
}

func headline(s state, key string) string {
	if key == "root_health" {
		return "Roots"
	}
	return plant.Upper(s.kind.Body)
}

func (j *Judgement) ready(s state) {
	j.Progress = 1
	since := s.readySince(j.School)
	if plant.Days(since, s.Today) > int(s.of(ReadySince)) {
		j.overdue(s)
		j.Sentence = fmt.Sprintf("Pot up now. Ready since %s: %s.", plant.Date(since, s.Today), s.summary())
		return
	}
	j.Verdict = plant.Ready
	j.Sentence = "Pot up. " + plant.Upper(s.summary()) + "."
	if longest := s.roots.value.longest.LengthMM; s.potsEarly && s.asksLength && longest > s.of(EarlyUsual) {
		j.Sentence = fmt.Sprintf("Pot up. More than ready: %s; this school pots at %.0f to %.0f mm.", s.summary(), s.of(EarlyLongest), s.of(EarlyUsual))
	}
	j.Changes = "A soft stem, mushy roots or a stricter school."
	if plant.InDarkHalf(s.Today, s.Southern) {
		j.Changes += " It is the dark half of the year: give it light and warmth after potting."
	}
}

func (j *Judgement) overdue(s state) {
	j.Verdict, j.Progress = plant.Overdue, 1
	why := []string{s.summary()}
	if s.crowded() {
		why = append(why, "roots "+map[string]string{"coiling": "coil in the vessel", "filling": "fill the vessel"}[s.crowding.value])
	}
	if s.tooLong() {
		why = append(why, fmt.Sprintf("more than ready: this school pots at %.0f to %.0f mm", s.of(EarlyLongest), s.of(EarlyUsual)))
	}
	if !s.medium.Hidden && s.inMedium > int(s.of(WaterMost)) {
		why = append(why, fmt.Sprintf("%d days in water", s.inMedium))
	}
	j.Sentence = "Pot up now. " + plant.Upper(strings.Join(why, "; ")) + "."
	j.Changes = "Only potting: longer roots tangle and break."
}

func (j *Judgement) settle(s state, key string) {
	j.Verdict, j.Question = plant.LookAt, s.ask(key)
	j.Sentence = plant.Upper(s.summary()) + ". " + j.Question.Text
	j.Changes = "The answer settles it."
}

// lookFirst asks for one look and says what stands before it.
func (j *Judgement) lookFirst(s state, key, why string) {
	j.Verdict, j.Question = plant.LookAt, s.ask(key)
	j.Sentence = fmt.Sprintf("%s: %s", why, plant.Lower(j.Question.Text))
	if s.Potted == nil {
		j.Sentence += " " + plant.Upper(s.summary()) + s.seenOn() + "."
	}
	j.Changes = "The answer settles it."
}

func (s state) seenOn() string {
	if len(s.Looks) == 0 {
		return ""
	}
	return " when last seen " + plant.Ago(s.last, s.Today)
}

func (j *Judgement) lookAgain(s state, key string) {
	j.Verdict, j.Question = plant.LookAt, s.ask(key)
	seen := "Never looked at"
	if len(s.Looks) > 0 {
		seen = fmt.Sprintf("Last look %s: %s", plant.Ago(s.last, s.Today), s.summary())
	}
	j.Sentence = seen + ". " + j.Question.Text
	j.Changes = "A look at it today."
}

func (j *Judgement) wait(s state, open []Reason, next time.Time) {
	j.Verdict, j.NextLook = plant.Wait, &next
	if s.medium.Hidden && !s.mayOpen() {
		until := s.rootsFrom()
		j.LeaveUntil = &until
	}
	switch {
	case s.early() && !s.seenBefore():
		first := s.firstLook()
		j.NextLook = &first
		j.Sentence = fmt.Sprintf("Too early for roots: first look on %s.", plant.Date(first, s.Today))
		if s.medium.Hidden {
			j.Sentence = fmt.Sprintf("Too early for roots. Leave it alone; look for a %s from %s on.", s.kind.Comes, plant.Date(first, s.Today))
		}
	case s.pastRange():
		j.Sentence = fmt.Sprintf("Nothing yet at day %d, past the usual %.0f to %.0f. While it is firm it may still come; it is not promising.", plant.Days(s.from, s.Today), s.first.Low, s.first.High)
	default:
		j.Sentence = "Not yet: " + plant.Lower(s.short(open)) + "."
	}
	if j.ReadyOn != nil {
		j.Changes = fmt.Sprintf("At about %.1f mm a day the wanted length comes about %s.", j.Forecast.RateMMADay, plant.Date(*j.ReadyOn, s.Today))
		return
	}
	j.Changes = fmt.Sprintf("%s are usually potted after about %.0f days (%.0f to %.0f); this one is at day %d.", s.Group.Name, s.pot.Mid, s.pot.Low, s.pot.High, s.age)
	if s.factor > 1.05 {
		j.Changes += fmt.Sprintf(" Times are %.1f times as long at this time of the year.", s.factor)
	}
}

// short says in one line what is missing.
func (s state) short(open []Reason) string {
	var parts []string
	for _, r := range open {
		switch {
		case r.Standing == Unknown:
			parts = append(parts, map[string]string{
				"longest": "no roots counted yet", "roots": "no roots counted yet", "side_roots": "no roots counted yet", "nodes_rooted": "no roots counted yet",
				"tug": "no tug tried yet", "leaf_open": "no " + s.kind.Comes + " noted yet", "stem": s.kind.Body + " not felt yet", "root_health": r.Found,
			}[r.Key])
		case r.Key == "longest" && s.roots.known && s.roots.value.longest.LengthMM > 0:
			parts = append(parts, fmt.Sprintf("longest root %.0f mm of the %.0f mm wanted", s.roots.value.longest.LengthMM, s.threshold))
		case r.Key == "roots":
			parts = append(parts, fmt.Sprintf("%d of %s wanted (%.0f mm or more)", s.roots.value.count, r.wantedRoots(), s.of(life.RootedFrom)))
		case r.Key == "side_roots":
			parts = append(parts, "no side roots yet")
		case r.Key == "nodes_rooted":
			parts = append(parts, fmt.Sprintf("%d of %s rooted", s.roots.value.nodes, plant.Counted(s.setNodes(), "set node", "set nodes")))
		case r.Key == "stem":
			parts = append(parts, fmt.Sprintf("%s %s", s.kind.Body, r.Found))
		default:
			parts = append(parts, r.Found)
		}
		if parts[0] == "no root yet" {
			break
		}
		if n := len(parts); n == 2 && parts[0] == parts[1] {
			parts = parts[:1]
		}
		if len(parts) == 2 {
			break
		}
	}
	return strings.Join(parts, ", ")
}

// wantedRoots are the roots a reason asks for, as its own words begin.
func (r Reason) wantedRoots() string { return strings.SplitN(r.Wanted, " or more", 2)[0] }

// summary says in one line what the newest looks found.
func (s state) summary() string {
	var parts []string
	if s.roots.known {
		switch r := s.roots.value; {
		case r.longest.LengthMM == 0:
			parts = append(parts, "no root seen")
		default:
			text := fmt.Sprintf("longest root %.0f mm", r.longest.LengthMM)
			if s.asksLength {
				text += fmt.Sprintf(" (%.0f mm wanted)", s.threshold)
			}
			parts = append(parts, text)
			roots := plant.Counted(r.count, "root", "roots")
			if r.side > 0 {
				roots += " with side roots"
			}
			parts = append(parts, roots)
			if n := s.setNodes(); n > 1 && r.nodes >= n && !s.kind.Sisters {
				parts = append(parts, map[bool]string{true: "both set nodes rooted", false: fmt.Sprintf("all %d set nodes rooted", n)}[n == 2])
			}
		}
	}
	if s.tug.known && s.medium.Tugs {
		parts = append(parts, map[string]string{"holds": "a tug holds", "gives": "a tug gives"}[s.tug.value])
	}
	if s.bud.known && s.bud.value == plant.BudLeafOpen {
		parts = append(parts, map[bool]string{true: "first leaf open", false: s.kind.Comes + " with an open leaf"}[s.kind.Comes == "shoot"])
	}
	if len(parts) == 0 {
		return "no roots counted yet"
	}
	return strings.Join(parts, ", ")
}
