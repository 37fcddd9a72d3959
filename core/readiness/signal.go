package readiness

import (
	"fmt"
	"time"

	"clearjar/core/life"
	"clearjar/core/plant"
)

// signal is something that was seen and asks for an act and an answer.
type signal struct {
	on       time.Time
	sentence string
	question Question
}

// waterSigns are what a note about water, moss or mix asks for. A dry medium is no sign where it is kept dry.
var waterSigns = map[string]struct {
	says, ask string
	keepings  []plant.Keeping
	answers   []Answer
}{
	"smells": {"The water smelt", "Change it now and squeeze a root or the base: firm or mushy?", []plant.Keeping{plant.Damp, plant.Dry}, []Answer{
		{"changed, firm", plant.Look{Water: "clear", RootFeel: "firm"}}, {"mushy", plant.Look{RootFeel: "mushy"}},
	}},
	"cloudy": {"The water was cloudy", "Change it now. Is it clear again?", []plant.Keeping{plant.Damp, plant.Dry}, []Answer{
		{"changed, clear", plant.Look{Water: "clear"}}, {"it smells", plant.Look{Water: "smells"}},
	}},
	"dry": {"It was dry", "Mist or water it. Is it moist now?", []plant.Keeping{plant.Damp}, []Answer{
		{"moist", plant.Look{Water: "moist"}}, {"still dry", plant.Look{Water: "dry"}},
	}},
	"soaked": {"It was soaked", "Tip out what pools, and air it. Is it just moist now?", []plant.Keeping{plant.Damp, plant.Dry}, []Answer{
		{"moist", plant.Look{Water: "moist"}}, {"still soaked", plant.Look{Water: "soaked"}},
	}},
}

// signal finds what was seen last and has not been answered: foul water, a dry or soaked medium, a leaf that dropped.
func (s state) signal() *signal {
	recent := func(on time.Time) bool { return plant.Days(on, s.Today) <= int(s.of(SignalDays)) }
	if w, ok := waterSigns[s.water.value]; ok && s.water.known && recent(s.water.on) {
		for _, k := range w.keepings {
			if k == s.Group.Keeping {
				text := fmt.Sprintf("%s %s.", w.says, plant.Ago(s.water.on, s.Today))
				return &signal{s.water.on, text, Question{"water", w.ask, w.answers}}
			}
		}
	}
	if s.leaf.known && s.leaf.value == "dropped" && recent(s.leaf.on) && (!s.stem.known || s.stem.on.Before(s.leaf.on)) {
		return &signal{s.leaf.on, fmt.Sprintf("A leaf dropped %s.", plant.Ago(s.leaf.on, s.Today)), *s.ask("stem")}
	}
	return nil
}

func (j *Judgement) signalled(s state, sig *signal) {
	j.Verdict, j.Question = plant.LookAt, &sig.question
	j.Sentence = sig.sentence + " " + sig.question.Text
	j.Changes = "The answer; until then it stands in what harms it."
}

// warn notes what speaks against calm waiting.
func (j *Judgement) warn(s state) {
	add := func(when bool, format string, args ...any) {
		if when {
			j.Warnings = append(j.Warnings, fmt.Sprintf(format, args...))
		}
	}
	add(s.gave, "A tug held once and gives now: roots may have rotted.")
	add(s.leaf.known && s.leaf.value == "drooping", "The leaf droops: raise the humidity, or cut the blade down.")
	add(s.leaf.known && s.leaf.value == "yellowing", "The leaf yellows: take it off when it is spent.")
	add(s.stem.known && s.stem.value == "wrinkled", "The %s is wrinkled: it loses more water than it can drink. Raise the humidity.", s.kind.Body)
	add(s.pastRange(), "Nothing seen by day %d; first roots usually come after %.0f to %.0f days at this time of the year. Firm and green it waits; it is not promising.",
		plant.Days(s.from, s.Today), s.first.Low, s.first.High)
	add(s.crowded() && s.roots.known && s.roots.value.count == 0, "Roots are said to crowd, and none was counted: look again.")
}

// caution says why potting now would be against the evidence.
func (j *Judgement) caution(s state) {
	if s.Potted != nil || s.Outcome != nil {
		return
	}
	switch j.Verdict {
	case plant.Rescue:
		j.Caution = "It rots. Potted now it takes the rot along: cut back to clean, firm tissue first."
	case plant.LookAt:
		j.Caution = "One look is open that could speak against it: look first."
	case plant.Wait:
		j.Caution = "It is not ready under its school: it may have too little root to drink with."
	}
}

// afterPotting judges a potted piece by what was seen since.
func (j *Judgement) afterPotting(s state) {
	days := plant.Days(s.Potted.On, s.Today)
	j.Verdict, j.Progress, j.AgeDays = plant.GrowingOn, 1, days
	next := s.Potted.On.AddDate(0, 0, (days/3+1)*3)
	if days >= int(s.of(ShockDays)) {
		next = s.Potted.On.AddDate(0, 0, (days/14+1)*14)
	}
	shock := days <= int(s.of(ShockDays))
	grown := s.bud.known && s.bud.value == plant.BudLeafOpen && plant.Days(s.Potted.On, s.bud.on) >= int(s.of(life.GrownOnAfter))
	late := float64(days) > s.of(LeafAfter)*s.factor && !grown && (!s.bud.known || s.stale(s.bud.on))
	switch sig := s.signal(); {
	case s.rotMM > 0 || s.stem.value == "soft" || s.feel.value == "mushy":
		j.rescuePotted(s)
		return
	case sig != nil:
		j.signalled(s, sig)
		return
	case !shock && s.leaf.known && (s.leaf.value == "drooping" || s.leaf.value == "dropped") && (!s.stem.known || s.stem.on.Before(s.leaf.on)):
		j.lookFirst(s, "stem", fmt.Sprintf("Its leaf was %s %s, past the two weeks of shock", s.leaf.value, plant.Ago(s.leaf.on, s.Today)))
		return
	case late:
		j.lookFirst(s, "leaf_open", fmt.Sprintf("Potted %s ago and no new %s noted", plant.DaysLong(days), map[bool]string{true: "leaf", false: s.kind.Comes}[s.kind.Comes == "shoot"]))
		return
	}
	j.NextLook = &next
	j.growingOn(s, days, grown)
}
