package readiness

import (
	"fmt"
	"time"

	"clearjar/core/plant"
)

// Standing is how one piece of evidence stands.
type Standing string

// Ways evidence can stand.
const (
	Met      Standing = "met"
	Unmet    Standing = "unmet"
	Unknown  Standing = "unknown"
	Contrary Standing = "contrary"
)

// Reason is one piece of evidence under a school.
type Reason struct {
	Key      string   `json:"key"`
	Standing Standing `json:"standing" enum:"met,unmet,unknown,contrary"`
	// Wanted is what is asked, Found what the facts say, in the trade's words.
	Wanted string `json:"wanted"`
	Found  string `json:"found"`
	// On is the day it was seen; nil when never.
	On *time.Time `json:"on,omitempty"`
	// Basis is where the number asked for comes from.
	Basis *plant.Basis `json:"basis,omitempty"`
}

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

// criterion turns the state into a reason.
type criterion func(s state) Reason

var schoolCriteria = map[plant.SchoolKey][]criterion{
	plant.EarlyRoots: {longestAtLeast(EarlyLongest), rootsAtLeast(EarlyRootCount), stemFirm, colourHealthy},
	plant.FirstLeaf:  {anchored, leafOpen, stemFirm, colourHealthy},
	plant.FullRoots:  {longestAtLeast(FullLongest), rootsAtLeast(FullRootCount), sideRoots, nodesRooted, stemFirm, colourHealthy},
}

func reason(key, wanted string, n plant.Number) Reason {
	r := Reason{Key: key, Wanted: wanted, Standing: Unknown, Found: "not noted"}
	if n.Key != "" {
		r.Basis = &n.Basis
	}
	return r
}

func (r Reason) as(met bool, on time.Time, format string, args ...any) Reason {
	r.Standing, r.Found, r.On = Unmet, fmt.Sprintf(format, args...), &on
	if met {
		r.Standing = Met
	}
	return r
}

func (r Reason) with(s Standing) Reason { r.Standing = s; return r }

func longestAtLeast(n plant.Number) criterion {
	return func(s state) Reason {
		r := reason("longest", fmt.Sprintf("Longest root %.0f mm or more", n.Value), n)
		if !s.roots.known {
			return r
		}
		root := s.roots.value.longest
		if root.LengthMM == 0 {
			return r.as(false, s.roots.on, "no root yet")
		}
		return r.as(root.LengthMM >= n.Value, s.roots.on, "%.0f mm (%.0f to %.0f)", root.LengthMM, root.LowMM, root.HighMM)
	}
}

func rootsAtLeast(n plant.Number) criterion {
	return func(s state) Reason {
		r := reason("roots", fmt.Sprintf("%.0f roots or more of %.0f mm", n.Value, CountedFrom.Value), n)
		if !s.roots.known {
			return r
		}
		return r.as(s.roots.value.count >= int(n.Value), s.roots.on, "%d", s.roots.value.count)
	}
}

func sideRoots(s state) Reason {
	r := reason("side_roots", "Side roots showing", FullSideRoots)
	if !s.roots.known {
		return r
	}
	return r.as(s.roots.value.side >= int(FullSideRoots.Value), s.roots.on, "%d seen", s.roots.value.side)
}

func nodesRooted(s state) Reason {
	want := min(int(FullNodes.Value), max(1, s.SetNodes))
	r := reason("nodes_rooted", fmt.Sprintf("Nodes rooted: %d of %d set", want, max(1, s.SetNodes)), FullNodes)
	if !s.roots.known {
		return r
	}
	return r.as(s.roots.value.nodes >= want, s.roots.on, "%d", s.roots.value.nodes)
}

// anchored: a tug holds; in water, where there is nothing to tug against, roots long enough stand in.
func anchored(s state) Reason {
	if s.Medium == plant.Water {
		r := longestAtLeast(LeafLongest)(s)
		r.Wanted = fmt.Sprintf("Anchored: a root of %.0f mm (in water nothing to tug)", LeafLongest.Value)
		return r
	}
	r := reason("tug", "A light tug holds", plant.Number{})
	if !s.tug.known || (s.tug.value == "gives" && s.stale(s.tug.on)) {
		return r
	}
	return r.as(s.tug.value == "holds", s.tug.on, "%s", map[string]string{"holds": "it holds", "gives": "it gives"}[s.tug.value])
}

func leafOpen(s state) Reason {
	r := reason("leaf_open", "First new leaf open", plant.Number{})
	if !s.bud.known {
		return r
	}
	found := map[plant.Bud]string{plant.BudDormant: "bud asleep", plant.BudSwelling: "bud swelling", plant.BudShooting: "shoot, no open leaf yet", plant.BudLeafOpen: "leaf open"}[s.bud.value]
	r = r.as(s.bud.value == plant.BudLeafOpen, s.bud.on, "%s", found)
	if s.bud.value == plant.BudShooting && plant.Days(s.bud.on, s.Today) >= int(lookEvery[s.Medium].Value) {
		r.Found = "shooting when last seen"
		return r.with(Unknown)
	}
	return r
}

func stemFirm(s state) Reason {
	r := reason("stem", "Stem firm, no rot", plant.Number{})
	switch {
	case s.rotMM > 0:
		return r.as(false, s.stemSeen(), "rot for %.0f mm", s.rotMM).with(Contrary)
	case !s.stem.known:
		return r
	case s.stem.value == "soft":
		return r.as(false, s.stem.on, "soft").with(Contrary)
	}
	return r.as(s.stem.value == "firm", s.stem.on, "%s", s.stem.value)
}

func (s state) stemSeen() time.Time {
	if s.stem.known {
		return s.stem.on
	}
	return s.last
}

// colourHealthy judges root colour by growth group, and never by colour alone: mushy
// is rot on anything, an unusual colour on a firm root is age, and without a squeeze it is open.
func colourHealthy(s state) Reason {
	r := reason("root_health", "Roots firm, of a healthy colour for "+s.Group.Name, plant.Number{})
	if s.feel.known && s.feel.value == "mushy" {
		return r.as(false, s.feel.on, "mushy: rot, whatever the colour").with(Contrary)
	}
	if !s.roots.known || s.roots.value.longest.LengthMM == 0 || len(s.roots.value.colours) == 0 {
		r.Standing, r.Found = Met, "nothing against it"
		return r
	}
	odd := ""
	for _, c := range []plant.RootColour{plant.Orange, plant.Brown, plant.Black, plant.Pink, plant.Tan, plant.White, plant.Cream} {
		if s.roots.value.colours[c] && !s.Group.HealthyRoot(c) {
			odd = string(c)
			break
		}
	}
	firm := s.feel.known && s.feel.value == "firm" && !s.feel.on.Before(s.roots.on)
	switch {
	case odd == "":
		return r.as(true, s.roots.on, "%s: usual for the group", s.colourWord())
	case firm:
		return r.as(true, s.feel.on, "%s, but firm", odd)
	case odd == string(plant.Brown) || odd == string(plant.Black):
		r = r.as(false, s.roots.on, "%s: unusual here; only a squeeze decides", odd)
		return r.with(Unknown)
	}
	return r.as(true, s.roots.on, "%s: unusual for the group, no sign of rot", odd)
}

func (s state) colourWord() string {
	for _, c := range s.Group.RootColours {
		if s.roots.value.colours[c] {
			return string(c)
		}
	}
	return "as expected"
}

var questions = map[string]Question{
	"stem": {Key: "stem", Text: "Is the stem still firm?", Answers: []Answer{
		{"firm", plant.Look{Stem: "firm"}}, {"wrinkled", plant.Look{Stem: "wrinkled"}}, {"soft", plant.Look{Stem: "soft"}},
	}},
	"root_health": {Key: "root_health", Text: "Squeeze a dark root: firm or mushy?", Answers: []Answer{
		{"firm", plant.Look{RootFeel: "firm"}}, {"mushy", plant.Look{RootFeel: "mushy"}},
	}},
	"tug": {Key: "tug", Text: "Does a light tug hold?", Answers: []Answer{
		{"it holds", plant.Look{Tug: "holds"}}, {"it gives", plant.Look{Tug: "gives"}},
	}},
	"longest":      {Key: "longest", Text: "How long is the longest root now? Take a photo or measure."},
	"roots":        {Key: "roots", Text: "How many roots are there? Take a photo or count."},
	"side_roots":   {Key: "side_roots", Text: "Do side roots show? Take a photo or look closely."},
	"nodes_rooted": {Key: "nodes_rooted", Text: "Which nodes have rooted? Take a photo or look."},
}

// ask gives the question that an unknown reason leaves open.
func ask(key string, buds int) *Question {
	if key == "leaf_open" {
		at := func(b plant.Bud) plant.Look { return plant.Look{Buds: []plant.BudAt{{Node: buds, Bud: b}}} }
		return &Question{Key: key, Text: "Is the first new leaf open?", Answers: []Answer{
			{"leaf open", at(plant.BudLeafOpen)}, {"still a shoot", at(plant.BudShooting)}, {"asleep", at(plant.BudDormant)},
		}}
	}
	q, ok := questions[key]
	if !ok {
		return nil
	}
	if q.Answers == nil {
		q.Answers = []Answer{}
	}
	return &q
}
