package readiness

import (
	"fmt"

	"clearjar/core/plant"
)

// Question is the one observation that would settle a verdict, with its answers.
type Question struct {
	Key Criterion `json:"key" enum:"longest,roots,side_roots,nodes_rooted,tug,leaf_open,shoot,stem,root_health,water"`
	// By is the way to answer it, where that is not one tap.
	By      string   `json:"by,omitempty" enum:"bud,squeeze,tug,count,measure,photo"`
	Text    string   `json:"text"`
	Answers []Answer `json:"answers"`
}

// Answer is one tap: the label on it and the look it records.
type Answer struct {
	Label string     `json:"label"`
	Look  plant.Look `json:"look"`
}

var rootQuestions = map[Criterion]Question{
	RootHealth: {Text: "Squeeze a dark root: firm or mushy?", Answers: []Answer{
		{"firm", plant.Look{RootFeel: "firm"}}, {"mushy", plant.Look{RootFeel: "mushy"}},
	}},
	Tug: {Text: "Does a light tug hold?", Answers: []Answer{
		{"it holds", plant.Look{Tug: "holds"}}, {"it gives", plant.Look{Tug: "gives"}},
	}},
	Longest:     {Text: "How long is the longest root now? Take a photo or measure."},
	Roots:       {Text: "How many roots are there? Take a photo or count."},
	SideRoots:   {Text: "Do side roots show? Take a photo or look closely."},
	NodesRooted: {Text: "Which nodes have rooted? Take a photo or look."},
}

// question puts what is asked for into words, with its answers; nil when nothing is asked.
func (d Decision) question() *Question {
	s := d.s
	q := rootQuestions[d.Ask]
	switch d.Ask {
	case "":
		return nil
	case MediumState:
		if d.Sign != nil {
			says := waterSays[d.Sign.Seen]
			q = Question{Text: says.ask, Answers: says.answers}
		}
	case Body:
		q.Text = fmt.Sprintf("Is the %s still firm?", s.kind.Body)
		q.Answers = []Answer{{"firm", plant.Look{Stem: "firm"}}, {"wrinkled", plant.Look{Stem: "wrinkled"}}, {"soft", plant.Look{Stem: "soft"}}}
	case LeafOpen:
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
	if d.Ask == Tug && s.tug.known && s.tug.value == "holds" {
		q.Text = "Does a light tug still hold?"
	}
	if text := asked[d.By]; text != "" {
		q.Text = text
		q.Answers = []Answer{{"no root yet", plant.Look{RootsCounted: true, Roots: []plant.Root{}}}}
		if s.roots.known && s.roots.value.count > 0 {
			q.Answers = []Answer{}
		}
	}
	q.Key, q.By = d.Ask, string(d.By)
	if q.Answers == nil {
		q.Answers = []Answer{}
	}
	return &q
}

// waterSays is what is said of a sign of the water, moss or mix, what is asked then, and the answers.
var waterSays = map[string]struct {
	says, ask string
	answers   []Answer
}{
	"smells": {"The water smelt", "Change it now and squeeze a root or the base: firm or mushy?", []Answer{
		{"changed, firm", plant.Look{Water: "clear", RootFeel: "firm"}}, {"mushy", plant.Look{RootFeel: "mushy"}},
	}},
	"cloudy": {"The water was cloudy", "Change it now. Is it clear again?", []Answer{
		{"changed, clear", plant.Look{Water: "clear"}}, {"it smells", plant.Look{Water: "smells"}},
	}},
	"dry": {"It was dry", "Mist or water it. Is it moist now?", []Answer{
		{"moist", plant.Look{Water: "moist"}}, {"still dry", plant.Look{Water: "dry"}},
	}},
	"soaked": {"It was soaked", "Tip out what pools, and air it. Is it just moist now?", []Answer{
		{"moist", plant.Look{Water: "moist"}}, {"still soaked", plant.Look{Water: "soaked"}},
	}},
}
