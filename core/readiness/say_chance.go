package readiness

import (
	"fmt"

	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// chanceWords are words for chances, from the least chance each begins at.
var chanceWords = []struct {
	from float64
	word string
}{{0.95, "Almost surely ready"}, {0.8, "Likely ready"}, {0.6, "More likely ready than not"}, {0.4, "Perhaps ready"}, {0.2, "Rather not ready yet"}, {0.05, "Hardly ready yet"}, {0, "Not ready yet"}}

// Words says the chance that it is ready, in words and in tenths.
func (c Chance) Words() string { return chanceSaid(c.Ready) }

func chanceSaid(ready float64) string {
	for _, w := range chanceWords {
		if ready < w.from {
			continue
		}
		if tenths := int(ready*10 + 0.5); tenths > 0 && tenths < 10 {
			return fmt.Sprintf("%s: %d in 10.", w.word, tenths)
		}
		return w.word + "."
	}
	return ""
}

// answerSaid are the answers to the questions of the model, in words.
var answerSaid = map[scenario.Question][]string{
	scenario.AskBud:     {"asleep", "swelling", "a shoot, no leaf yet", "leaf open"},
	scenario.AskSqueeze: {"firm", "soft or mushy"},
	scenario.AskTug:     {"it gives", "it holds"},
	scenario.AskCount:   {"no root", "1 root", "2 roots", "3 roots or more"},
}

// answerWords says one answer.
func answerWords(q scenario.Question, a scenario.Outcome) string {
	if words := answerSaid[q]; words != nil {
		return words[a.Answer]
	}
	says := fmt.Sprintf("longest %.0f to %.0f mm", a.LowMM, a.HighMM)
	if a.HighMM >= 250 {
		says = fmt.Sprintf("longest over %.0f mm", a.LowMM)
	}
	if q != scenario.AskPhoto {
		return says
	}
	for i, word := range []string{"side roots", "a leaf open", "3 roots or more"} {
		if a.Answer>>i&1 == 1 {
			says += ", " + word
		}
	}
	return says
}

// asked are the questions of the model where they are asked otherwise than a school asks them.
var asked = map[scenario.Question]string{
	scenario.AskCount:   "How many roots are there? Count them.",
	scenario.AskMeasure: "How long is the longest root now? Measure it.",
	scenario.AskPhoto:   "How are its roots? Take a photo.",
}

// said puts a contradiction into words.
func (c Contradiction) said(s state) string {
	was, now := plant.Date(c.Was, s.Today), plant.Date(c.Now, s.Today)
	switch c.Clash {
	case TugGave:
		return fmt.Sprintf("A tug held on %s and gives on %s: look for rot.", was, now)
	case RootsGone:
		return fmt.Sprintf("A root of %.0f mm was seen on %s and none on %s: look for rot, or whether it broke off.", c.WasMM, was, now)
	case Shrank:
		return fmt.Sprintf("The longest root was %.0f mm on %s and %.0f mm on %s: it broke, or another was measured.", c.WasMM, was, c.NowMM, now)
	case LongAndLoose:
		return fmt.Sprintf("A root of %.0f mm was seen on %s, and a tug gives on %s: look for rot.", c.WasMM, was, now)
	case LeafGone:
		return fmt.Sprintf("A leaf was open on %s, and its %s is asleep on %s: has it dropped?", was, map[bool]string{true: "bud", false: s.kind.Comes}[s.kind.Comes == "shoot"], now)
	case FirmAgain:
		return fmt.Sprintf("The %s was soft on %s and is firm on %s, and no cutting back was noted: squeeze it again.", s.kind.Body, was, now)
	}
	return ""
}

// sayWorthIt asks for the look that is worth its trouble.
func sayWorthIt(d Decision, q *Question) saying {
	s := d.s
	says := chanceSaid(d.m.ready)
	if len(s.Looks) > 0 {
		says += fmt.Sprintf(" Last look %s: %s.", plant.Ago(s.last, s.Today), s.summary())
	}
	return saying{says: says + " " + q.Text, changes: "The answer; " + plant.Lower(d.untilReady())}
}

// sayLikely pots by what is known, though not all was seen.
func sayLikely(d Decision, _ *Question) saying {
	s := d.s
	says := fmt.Sprintf("%s When last seen %s: %s.", chanceSaid(d.m.ready), plant.Ago(s.last, s.Today), s.summary())
	if d.Act == Uncover {
		return saying{says: "Uncover it. " + says, changes: "A soft stem, mushy roots or a tug that gives."}
	}
	return saying{says: "Pot up. " + says, changes: "A look that shows less, a soft stem or mushy roots."}
}

func sayOvergrown(d Decision, _ *Question) saying {
	s := d.s
	return saying{says: fmt.Sprintf("Pot up now. By now its roots are likely longer than this school wants; when last seen %s: %s.", plant.Ago(s.last, s.Today), s.summary()), changes: onlyPotting}
}

func sayUncovered(d Decision, _ *Question) saying {
	return saying{says: "Uncovered, and it stays in its mix: nothing is left to do. Note it as established when a new leaf has opened.", changes: "A soft stem, a dry mix or a leaf that droops."}
}

func sayNotPromising(d Decision, _ *Question) saying {
	s := d.s
	nothing := fmt.Sprintf("Nothing yet at day %d", plant.Days(s.from, s.Today))
	if s.pastRange() {
		nothing += fmt.Sprintf(", past the usual %.0f to %.0f", s.first.Low, s.first.High)
	}
	return saying{
		says:    fmt.Sprintf("%s: not promising. It likely never roots, %d in 10; while it is firm it may still come.", nothing, min(9, int(d.m.never*10+0.5))),
		changes: "A root, a shoot or a tug that holds; a soft stem ends it.",
	}
}

// said says a way on.
func (w Way) said(sound int) string {
	tenths := fmt.Sprintf("%.0f in 100", 100*w.Chance)
	switch w.Way {
	case "cut":
		if sound == 0 {
			return "Cut back to clean tissue today: about " + tenths + ", if a sound node is left."
		}
		return fmt.Sprintf("Cut above the rot today, with %s left: about %s.", plant.Counted(sound, "sound node", "sound nodes"), tenths)
	case "wait":
		return "Wait and see: about " + tenths + ", and less each day."
	}
	return "Give it up: its place and your minutes go to the others."
}
