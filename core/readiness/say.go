package readiness

import (
	"fmt"
	"math"
	"strings"
	"time"

	"clearjar/core/life"
	"clearjar/core/plant"
)

// Judgement is a [Decision] in sentences, with everything it rests on.
type Judgement struct {
	Decision
	// Sentence says what to do and what it rests on.
	Sentence string   `json:"sentence"`
	Reasons  []Reason `json:"reasons"`
	// Warned says what speaks against waiting calmly, though it decides nothing alone.
	Warned []string `json:"warnings"`
	// Changes says what would change the verdict.
	Changes string `json:"changes"`
	// Steps say how, where there is something to do at once.
	Steps    []string  `json:"steps,omitempty"`
	Question *Question `json:"question,omitempty"`
	// Caution says why potting it now would be against the evidence; empty when nothing speaks against it.
	Caution string `json:"caution,omitempty"`
	// Brief says the same in a few words, for a line of a list.
	Brief string `json:"brief"`
	// Contradictions say which facts speak against each other.
	Contradictions []string `json:"contradictions"`
}

// Reason is one criterion of a school as it stands, in the trade's words.
type Reason struct {
	Key      Criterion `json:"key" enum:"longest,roots,side_roots,nodes_rooted,tug,leaf_open,shoot,stem,root_health"`
	Standing Standing  `json:"standing" enum:"met,unmet,unknown,contrary"`
	// Wanted is what is asked, Found what the facts say.
	Wanted string `json:"wanted"`
	Found  string `json:"found"`
	// On is the day it was seen; nil when never.
	On *time.Time `json:"on,omitempty"`
	// Basis is where the number asked for comes from.
	Basis *plant.Basis `json:"basis,omitempty"`
}

// Judge decides and says: the verdict on one cutting under a school, with its sentences.
func Judge(e Evidence, school plant.SchoolKey) (Judgement, error) {
	d, err := Decide(e, school)
	if err != nil {
		return Judgement{}, err
	}
	return Say(d), nil
}

// Say puts a decision into sentences. It decides nothing.
func Say(d Decision) Judgement {
	j := Judgement{Decision: d, Reasons: []Reason{}, Warned: []string{}, Question: d.question(), Caution: d.caution(), Contradictions: []string{}}
	for _, c := range d.Against {
		j.Contradictions = append(j.Contradictions, c.said(d.s))
	}
	for _, f := range d.Findings {
		j.Reasons = append(j.Reasons, f.reason(d.s))
	}
	for _, w := range d.Warnings {
		j.Warned = append(j.Warned, d.s.warned(w))
	}
	s := grounds[d.Ground](d, j.Question)
	for i := range j.Ways {
		j.Ways[i].Says = j.Ways[i].said(len(d.SoundNodes))
	}
	j.Brief = d.brief(j.Question)
	j.Sentence, j.Changes, j.Steps = s.says, s.changes, s.steps
	return j
}

// said is what is said on a ground.
type saying struct {
	says, changes string
	steps         []string
}

// grounds puts each ground into words. q is the question that is asked, nil where none is.
var grounds = map[Ground]func(d Decision, q *Question) saying{
	Closed:         sayClosed,
	NotSet:         sayNotSet,
	RotInPot:       sayRotInPot,
	GrownOn:        sayPotted,
	Shock:          sayPotted,
	Settling:       sayPotted,
	LeafSince:      sayLookFirst,
	NoLeafSince:    sayLookFirst,
	Rot:            sayRot,
	OwnRoots:       sayOwnRoots,
	BeforePotting:  sayLookFirst,
	StayedTooLong:  sayStayed,
	AllMet:         sayReady,
	ReadyLongSince: sayReadyLong,
	Overgrown:      sayOvergrown,
	Likely:         sayLikely,
	YoungReady:     sayYoung,
	YoungGrow:      sayYoung,
	Uncovered:      sayUncovered,
	SignSeen:       saySign,
	TugGivesNow:    sayLookFirst,
	Contradicted:   sayLookFirst,
	WorthIt:        sayWorthIt,
	NotPromising:   sayNotPromising,
	OneOpen:        sayOneOpen,
	LookDue:        sayLookDue,
	TooEarly:       sayWait,
	PastUsual:      sayWait,
	Missing:        sayWait,
}

var whyLost = map[string]string{"rotted": "it rotted", "dried": "it dried up", "never_woke": "it never woke", "broken": "it broke", "other": "another reason"}

func sayClosed(d Decision, _ *Question) saying {
	o := d.s.Outcome
	on := o.On.Format("2 Jan 2006")
	if o.Kind == life.EndEstablished {
		after := "after potting"
		if d.s.Potted == nil {
			after = "in its mix"
		}
		return saying{says: fmt.Sprintf("Established on %s: it has grown on %s.", on, after), changes: "Nothing: it is a plant of its own. Closed by mistake, it can be reopened."}
	}
	if o.Kind == life.EndParted {
		return saying{says: fmt.Sprintf("Parted on %s: it went into its %s.", on, d.s.kind.YoungMany), changes: "Nothing: its young plants are judged each by itself. Closed by mistake, it can be reopened."}
	}
	says := "Lost on " + on
	if why := whyLost[o.Why]; why != "" {
		says += ": " + why
	}
	return saying{says: says + ".", changes: "Nothing. Its record stays, so that the rates stay honest. Closed by mistake, it can be reopened."}
}

func sayNotSet(d Decision, _ *Question) saying {
	says := "Cut, but not set yet: put it into its medium before it wilts."
	if !d.s.Group.CallusHours.IsZero() {
		says = "Cut, but not set yet. Let the cut face dry first, then set it."
	}
	return saying{says: says, changes: "Set it into a vessel."}
}

// keptAfter says how it is kept in the weeks after potting.
var keptAfter = map[plant.Keeping]struct{ first, later string }{
	plant.Damp: {"Keep the mix evenly damp until day 14.", "Lower the humidity in steps; wait for a new leaf."},
	plant.Dry:  {"Water sparingly: only when about 80 % of the mix is dry.", "Water only when about 80 % of the mix is dry; wait for new growth."},
}

func sayPotted(d Decision, _ *Question) saying {
	s, kept := d.s, keptAfter[d.s.Group.Keeping]
	says := fmt.Sprintf("Potted %s ago. %s", plant.DaysLong(d.AgeDays), kept.later)
	switch d.Ground {
	case GrownOn:
		says = fmt.Sprintf("Potted %s ago, and a leaf opened since: it has grown on. Note it as established.", plant.DaysLong(d.AgeDays))
	case Shock:
		says = fmt.Sprintf("Potted %s ago. %s", plant.DaysLong(d.AgeDays), kept.first)
		if s.leaf.known && s.leaf.value != "fresh" {
			says += " Some yellowing or droop in the first two weeks is shock: remove spent leaves, do not feed, do not repot."
		}
	}
	if d.After != nil && d.After.Probably && d.Ground != GrownOn {
		says += " By now it is probably established; a new leaf makes it sure."
	}
	return saying{says: says, changes: "A new leaf after potting makes it established; a soft stem, rot or a dry mix asks for an act."}
}

func sayRot(d Decision, _ *Question) saying {
	why := d.Open[0]
	return saying{
		fmt.Sprintf("Act today. %s: %s. %s", headline(d.s, why.Criterion), why.found(d.s), d.soundAbove()),
		"Cutting back, noted as done: it is judged anew from what is left.",
		[]string{
			"Disinfect a sharp blade with 70 % alcohol (flammable: ventilate), and again after every cut into rot.",
			"Cut back to clean, firm tissue, white or green with no brown, and take off every mushy root. Cut away from you.",
			"Dust the face dry (the used dust is thrown away) and let it dry.",
			"Reset it in fresh, drier or airier medium, in a clean vessel, and note the cutting back.",
			"If no sound node is left, it is lost.",
		},
	}
}

func sayRotInPot(d Decision, _ *Question) saying {
	found := "the roots are mushy"
	switch {
	case d.s.rotMM > 0:
		found = fmt.Sprintf("rot for %.0f mm", d.s.rotMM)
	case d.s.stem.value == "soft":
		found = "the " + d.s.kind.Body + " is soft"
	}
	return saying{
		fmt.Sprintf("Act today. In its pot %s. Unpot it and cut back to clean, firm tissue.", found),
		"Cutting back, noted as done: it is judged anew from what is left.",
		[]string{
			"Unpot it, wash the mix off, and throw that mix away.",
			"Disinfect a sharp blade with 70 % alcohol (flammable: ventilate), and again after every cut into rot.",
			"Cut away every soft part and mushy root to clean, firm tissue. Cut away from you.",
			"Let it dry, and reset it in fresh, drier mix in a smaller pot, or root it anew; note the cutting back.",
			"If no sound node is left, it is lost.",
		},
	}
}

func sayOwnRoots(Decision, *Question) saying {
	return saying{says: "Pot it now: it has roots of its own and needs no rooting.", changes: "A soft base, or mushy roots."}
}

func sayYoung(d Decision, _ *Question) saying {
	s := d.s
	there := fmt.Sprintf("%s, the first seen %s", plant.Counted(s.young.value, s.kind.Young, s.kind.YoungMany), plant.Ago(s.youngSince, s.Today))
	if d.Ground == YoungReady {
		return saying{
			fmt.Sprintf("Part the %s: %s.", s.kind.YoungMany, there), "What was parted is judged by itself; the " + s.kind.Body + " may give more.",
			[]string{
				"Loosen the mix around it and lift it out; do not pull.",
				"Tease the " + s.kind.YoungMany + " apart by hand, each with roots of its own; one without is set like a cutting.",
				"Pot each small, at the depth it grew, and keep it covered and out of the sun at first.",
				"Tag each at once: note here what came off, and each gets a code.",
			},
		}
	}
	return saying{says: fmt.Sprintf("Not yet: %s. They are parted once a leaf is open on them, or about %s.", there, plant.Date(*d.NextLook, s.Today)), changes: "A leaf that is open on one of them, or a soft " + s.kind.Body + "."}
}

func sayReady(d Decision, _ *Question) saying {
	s := d.s
	if d.Act == Uncover || d.s.schoolRow(d.School).stays {
		return saying{says: "Uncover it: " + plant.Lower(s.summary()) + ". It stays in its mix.", changes: "A soft stem, mushy roots or a tug that gives."}
	}
	out := saying{says: "Pot up. " + plant.Upper(s.summary()) + ".", changes: "A soft stem, mushy roots or a stricter school."}
	if longest := s.roots.value.longest.LengthMM; s.potsEarly && s.asksLength && longest > s.of(EarlyUsual) {
		out.says = fmt.Sprintf("Pot up. More than ready: %s; this school pots at %.0f to %.0f mm.", s.summary(), s.of(EarlyLongest), s.of(EarlyUsual))
	}
	if plant.InDarkHalf(s.Today, s.Southern) {
		out.changes += " It is the dark half of the year: give it light and warmth after potting."
	}
	return out
}

const onlyPotting = "Only potting: longer roots tangle and break."

func sayReadyLong(d Decision, _ *Question) saying {
	return saying{says: fmt.Sprintf("Pot up now. Ready since %s: %s.", plant.Date(d.ReadySince, d.s.Today), d.s.summary()), changes: onlyPotting}
}

func sayStayed(d Decision, _ *Question) saying {
	s := d.s
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
	return saying{says: "Pot up now. " + plant.Upper(strings.Join(why, "; ")) + ".", changes: onlyPotting}
}

const answerSettles = "The answer settles it."

func sayOneOpen(d Decision, q *Question) saying {
	return saying{says: plant.Upper(d.s.summary()) + ". " + q.Text, changes: answerSettles}
}

// sayLookFirst asks for one look and says what stands before it.
func sayLookFirst(d Decision, q *Question) saying {
	s, why := d.s, ""
	switch d.Ground {
	case BeforePotting:
		why = "Before potting"
	case TugGivesNow:
		why = "A tug held once and gives now"
	case Contradicted:
		why = strings.TrimSuffix(d.Against[0].said(s), ".")
	case LeafSince:
		why = fmt.Sprintf("Its leaf was %s %s, past the two weeks of shock", s.leaf.value, plant.Ago(s.leaf.on, s.Today))
	case NoLeafSince:
		why = fmt.Sprintf("Potted %s ago and no new %s noted", plant.DaysLong(d.AgeDays), map[bool]string{true: "leaf", false: s.kind.Comes}[s.kind.Comes == "shoot"])
	}
	says := fmt.Sprintf("%s: %s", why, plant.Lower(q.Text))
	if s.Potted == nil {
		says += " " + plant.Upper(s.summary()) + s.seenOn() + "."
	}
	return saying{says: says, changes: answerSettles}
}

func (s state) seenOn() string {
	if len(s.Looks) == 0 {
		return ""
	}
	return " when last seen " + plant.Ago(s.last, s.Today)
}

func sayLookDue(d Decision, q *Question) saying {
	seen := "Never looked at"
	if len(d.s.Looks) > 0 {
		seen = fmt.Sprintf("Last look %s: %s", plant.Ago(d.s.last, d.s.Today), d.s.summary())
	}
	return saying{says: seen + ". " + q.Text, changes: "A look at it today."}
}

func saySign(d Decision, q *Question) saying {
	seen := "A leaf dropped"
	if w, ok := waterSays[d.Sign.Seen]; ok {
		seen = w.says
	}
	return saying{says: fmt.Sprintf("%s %s. %s", seen, plant.Ago(d.Sign.On, d.s.Today), q.Text), changes: "The answer; until then it stands in what harms it."}
}

func sayWait(d Decision, _ *Question) saying {
	s, says := d.s, ""
	switch d.Ground {
	case TooEarly:
		first := plant.Date(*d.NextLook, s.Today)
		says = fmt.Sprintf("Too early for roots: first look on %s.", first)
		if s.medium.Hidden {
			says = fmt.Sprintf("Too early for roots. Leave it alone; look for a %s from %s on.", s.kind.Comes, first)
		}
	case PastUsual:
		says = fmt.Sprintf("Nothing yet at day %d, past the usual %.0f to %.0f. While it is firm it may still come; it is not promising.", plant.Days(s.from, s.Today), s.first.Low, s.first.High)
	default:
		says = "Not yet: " + plant.Lower(s.short(d.Open)) + "."
	}
	return saying{says: says, changes: d.untilReady()}
}

// untilReady says when it is likely to be ready.
func (d Decision) untilReady() string {
	s := d.s
	if d.m != nil {
		return d.untilLikely()
	}
	if d.ReadyOn != nil {
		return fmt.Sprintf("At about %.1f mm a day the wanted length comes about %s.", d.Forecast.RateMMADay, plant.Date(*d.ReadyOn, s.Today))
	}
	says := fmt.Sprintf("%s are usually potted after about %.0f days (%.0f to %.0f); this one is at day %d.", s.Group.Name, s.pot.Mid, s.pot.Low, s.pot.High, s.age)
	if s.factor > 1.05 {
		says += fmt.Sprintf(" Times are %.1f times as long at this time of the year.", s.factor)
	}
	return says
}

// untilLikely says when it is likely to be ready, by the model.
func (d Decision) untilLikely() string {
	s, f := d.s, d.m.forecast
	if math.IsInf(f.Days[1], 1) || math.IsInf(f.Days[0], 1) {
		return "Something this school wants likely never comes; another school may suit it better."
	}
	if f.Days[1] <= d.m.s.Today {
		return fmt.Sprintf("By now it may be ready, %s.", plant.Lower(strings.TrimSuffix(chanceSaid(f.Now), ".")))
	}
	c := d.m.comes()
	says := "If all goes well it is ready about " + plant.Date(*c.Middle, s.Today)
	if c.Last != nil {
		first := "now"
		if c.First.After(s.Today) {
			first = plant.Date(*c.First, s.Today)
		}
		says += fmt.Sprintf(", eight times in ten between %s and %s", first, plant.Date(*c.Last, s.Today))
	}
	return says + "."
}

// caution says why potting now would be against the evidence.
func (d Decision) caution() string {
	if d.s.Potted != nil || d.s.Outcome != nil {
		return ""
	}
	return map[plant.Verdict]string{
		plant.Rescue: "It rots. Potted now it takes the rot along: cut back to clean, firm tissue first.",
		plant.LookAt: "One look is open that could speak against it: look first.",
		plant.Wait:   "It is not ready under its school: it may have too little root to drink with.",
	}[d.Verdict]
}

func (s state) warned(w Warning) string {
	switch w {
	case WarnTugGives:
		return "A tug held once and gives now: roots may have rotted."
	case WarnDroops:
		return "The leaf droops: raise the humidity, or cut the blade down."
	case WarnYellows:
		return "The leaf yellows: take it off when it is spent."
	case WarnWrinkled:
		return fmt.Sprintf("The %s is wrinkled: it loses more water than it can drink. Raise the humidity.", s.kind.Body)
	case WarnNothingYet:
		return fmt.Sprintf("Nothing seen by day %d; first roots usually come after %.0f to %.0f days at this time of the year. Firm and green it waits; it is not promising.",
			plant.Days(s.from, s.Today), s.first.Low, s.first.High)
	case WarnCrowdUncounted:
		return "Roots are said to crowd, and none was counted: look again."
	}
	return ""
}

// soundAbove says which nodes stand above the rot, when it is known where they are.
func (d Decision) soundAbove() string {
	s, sound := d.s, d.SoundNodes
	if s.rotMM <= 0 || len(s.NodeMM) == 0 {
		return "Cut back to clean, firm tissue and reset in fresh medium."
	}
	if len(sound) == 0 {
		return "No node is left with sound tissue below it: a leafless stump may still shoot while firm, but expect it lost."
	}
	verb := map[bool]string{true: "is", false: "are"}[len(sound) == 1]
	return fmt.Sprintf("Cut above it: %s %s of the piece %s sound.", map[bool]string{true: s.kind.Point, false: s.kind.Points}[len(sound) == 1], plant.Numbered(sound), verb)
}

func headline(s state, c Criterion) string {
	if c == RootHealth {
		return "Roots"
	}
	return plant.Upper(s.kind.Body)
}

// short says in one line what is missing.
func (s state) short(open []Finding) string {
	var parts []string
	for _, f := range open {
		switch {
		case f.Standing == Unknown:
			parts = append(parts, map[Criterion]string{
				Longest: "no roots counted yet", Roots: "no roots counted yet", SideRoots: "no roots counted yet", NodesRooted: "no roots counted yet",
				Tug: "no tug tried yet", LeafOpen: "no " + s.kind.Comes + " noted yet", Body: s.kind.Body + " not felt yet", RootHealth: f.found(s),
			}[f.Criterion])
		case f.Criterion == Longest && f.Have > 0:
			parts = append(parts, fmt.Sprintf("longest root %.0f mm of the %.0f mm wanted", f.Have, s.threshold))
		case f.Criterion == Roots:
			parts = append(parts, fmt.Sprintf("%d of %s wanted (%.0f mm or more)", int(f.Have), rootsWanted(f), s.of(life.RootedFrom)))
		case f.Criterion == SideRoots:
			parts = append(parts, "no side roots yet")
		case f.Criterion == NodesRooted:
			parts = append(parts, fmt.Sprintf("%d of %s rooted", int(f.Have), plant.Counted(s.setNodes(), "set node", "set nodes")))
		case f.Criterion == Body:
			parts = append(parts, fmt.Sprintf("%s %s", s.kind.Body, f.found(s)))
		default:
			parts = append(parts, f.found(s))
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
