package readiness

import (
	"fmt"
	"time"

	"clearjar/core/plant"
)

// Question is the one observation that would settle a verdict, with its answers.
type Question struct {
	Key     string   `json:"key"`
	Text    string   `json:"text"`
	Answers []Answer `json:"answers"`
}

// Answer is one tap: the label on it and the look it records.
type Answer struct {
	Label string     `json:"label"`
	Look  plant.Look `json:"look"`
}

// opens marks the questions that need the roots to be seen or felt. They wait until roots can be
// there, and where opening or digging harms, until a leaf is open or the usual time of potting has come.
var opens = map[string]bool{"tug": true, "longest": true, "roots": true, "side_roots": true, "nodes_rooted": true, "root_health": true}

var rootQuestions = map[string]Question{
	"root_health": {Text: "Squeeze a dark root: firm or mushy?", Answers: []Answer{
		{"firm", plant.Look{RootFeel: "firm"}}, {"mushy", plant.Look{RootFeel: "mushy"}},
	}},
	"tug": {Text: "Does a light tug hold?", Answers: []Answer{
		{"it holds", plant.Look{Tug: "holds"}}, {"it gives", plant.Look{Tug: "gives"}},
	}},
	"longest":      {Text: "How long is the longest root now? Take a photo or measure."},
	"roots":        {Text: "How many roots are there? Take a photo or count."},
	"side_roots":   {Text: "Do side roots show? Take a photo or look closely."},
	"nodes_rooted": {Text: "Which nodes have rooted? Take a photo or look."},
}

// ask gives the question that a key names.
func (s state) ask(key string) *Question {
	q := rootQuestions[key]
	q.Key = key
	switch key {
	case "stem":
		q.Text = fmt.Sprintf("Is the %s still firm?", s.kind.Body)
		q.Answers = []Answer{{"firm", plant.Look{Stem: "firm"}}, {"wrinkled", plant.Look{Stem: "wrinkled"}}, {"soft", plant.Look{Stem: "soft"}}}
	case "leaf_open":
		at := func(b plant.Bud) plant.Look { return plant.Look{Buds: []plant.BudAt{{Node: s.topNode(), Bud: b}}} }
		q.Text = "Is the first new leaf open?"
		asleep := "asleep"
		if s.kind.Comes != "shoot" {
			q.Text = fmt.Sprintf("Does a %s show?", s.kind.Comes)
			asleep = "nothing yet"
		}
		if s.medium.Hidden && s.Potted == nil {
			q.Text += " Look from outside; do not open or dig."
		}
		q.Answers = []Answer{{"leaf open", at(plant.BudLeafOpen)}, {"a shoot, no leaf yet", at(plant.BudShooting)}, {asleep, at(plant.BudDormant)}}
	}
	if q.Text == "" {
		return nil
	}
	if q.Answers == nil {
		q.Answers = []Answer{}
	}
	return &q
}

// topNode is the node a note about the bud is taken to speak of: the highest that is set.
func (s state) topNode() int { return s.gone + s.setNodes() }

// firstLook is the first day on which there can be something to see.
func (s state) firstLook() time.Time { return s.from.AddDate(0, 0, int(s.first.Low)) }

// rootsFrom is the first day on which looking at hidden roots is worth the harm.
func (s state) rootsFrom() time.Time {
	if !s.medium.Hidden {
		return s.firstLook()
	}
	return s.from.AddDate(0, 0, int(s.pot.Mid))
}

// mayOpen tells whether roots may be looked at, or felt for, today.
func (s state) mayOpen() bool {
	return plant.Days(s.rootsFrom(), s.Today) >= 0 || (s.bud.known && s.bud.value == plant.BudLeafOpen && !s.early()) || s.seenBefore()
}

// early tells whether roots cannot exist yet.
func (s state) early() bool { return plant.Days(s.firstLook(), s.Today) < 0 }

// seenBefore: roots were seen there already, so that there is something to look at again.
func (s state) seenBefore() bool {
	return (s.roots.known && s.roots.value.count > 0) || (s.tug.known && s.tug.value == "holds")
}

// question picks what to ask of the reasons that are open: the first that may be asked today. Where
// roots are hidden the shoot is asked first. Empty when nothing may be asked yet.
func (s state) question(open []Reason) string {
	if s.early() && !s.seenBefore() {
		return ""
	}
	if s.medium.Hidden && !s.mayOpen() {
		if !s.bud.known || s.stale(s.bud.on) || plant.Days(s.bud.on, s.Today) >= int(s.every().Value) {
			return "leaf_open"
		}
		return ""
	}
	for _, r := range open {
		if q := s.ask(r.Key); q != nil && (!opens[r.Key] || s.mayOpen()) {
			return r.Key
		}
	}
	return ""
}
