package readiness

import (
	"fmt"
	"time"

	"clearjar/core/life"
	"clearjar/core/number"
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

// criterion turns the state into a reason. The zero reason says that there is nothing to judge yet.
type criterion func(s state) Reason

// schoolRow is what a school asks: what differs between schools is a column here.
type schoolRow struct {
	// longest is the root it wants, or that stands in for a tug where there is nothing to tug.
	longest plant.Number
	// byTug: where there is something to tug, a tug settles it, and no length is asked.
	byTug bool
	// early: it pots by short roots, and longer ones are more than it wants.
	early    bool
	criteria []criterion
}

var schools = map[plant.SchoolKey]schoolRow{
	plant.EarlyRoots: {longest: EarlyLongest, early: true, criteria: []criterion{longestAtLeast(EarlyLongest), rootsAtLeast(EarlyRootCount), bodyFirm, colourHealthy}},
	plant.FirstLeaf:  {longest: LeafLongest, byTug: true, criteria: []criterion{anchored, leafOpen, bodyFirm, colourHealthy}},
	plant.FullRoots:  {longest: FullLongest, criteria: []criterion{longestAtLeast(FullLongest), rootsAtLeast(FullRootCount), sideRoots, nodesRooted, bodyFirm, colourHealthy}},
}

// ThresholdMM is the longest root a school wants.
func ThresholdMM(t number.Table, school plant.SchoolKey) plant.Number {
	return t.Now(schools[school].longest)
}

// reasons are the criteria of a school as they stand.
func (s state) reasons(school plant.SchoolKey) []Reason {
	row := schools[school]
	out := make([]Reason, 0, len(row.criteria))
	for _, c := range row.criteria {
		if r := c(s); r.Key != "" {
			out = append(out, r)
		}
	}
	return out
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
		n := s.Numbers.Now(n)
		r := reason("longest", fmt.Sprintf("Longest root %.0f mm or more", n.Value), n)
		if !s.roots.known {
			return r
		}
		root := s.roots.value.longest
		if root.LengthMM == 0 {
			return r.as(false, s.roots.on, "no root yet")
		}
		return r.as(root.LengthMM >= n.Value, s.roots.on, "%.0f mm (%.0f to %.0f mm)", root.LengthMM, root.LowMM, root.HighMM)
	}
}

func rootsAtLeast(n plant.Number) criterion {
	return func(s state) Reason {
		n := s.Numbers.Now(n)
		r := reason("roots", fmt.Sprintf("%s or more of %.0f mm", plant.Counted(int(n.Value), "root", "roots"), s.of(life.RootedFrom)), n)
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
	return r.as(s.roots.value.side >= int(s.of(FullSideRoots)), s.roots.on, "%d seen", s.roots.value.side)
}

// nodesRooted asks for two rooted nodes where two are set; a piece with one growing point has nothing to ask.
func nodesRooted(s state) Reason {
	want := min(int(s.of(FullNodes)), s.setNodes())
	if s.kind.Sisters || want < 2 {
		return Reason{}
	}
	r := reason("nodes_rooted", fmt.Sprintf("%d of %d set nodes rooted", want, s.setNodes()), FullNodes)
	if !s.roots.known {
		return r
	}
	return r.as(s.roots.value.nodes >= want, s.roots.on, "%d", s.roots.value.nodes)
}

// setNodes is how many nodes are in the medium, 1 at least.
func (s state) setNodes() int { return max(1, s.SetNodes) }

// anchored: a tug holds; in water, where there is nothing to tug against, roots long enough stand in.
func anchored(s state) Reason {
	if !s.medium.Tugs {
		r := longestAtLeast(LeafLongest)(s)
		r.Wanted = fmt.Sprintf("Anchored: a root of %.0f mm (in water nothing to tug)", s.of(LeafLongest))
		return r
	}
	r := reason("tug", "A light tug holds", plant.Number{})
	if !s.tug.known || (s.tug.value == "gives" && s.stale(s.tug.on)) {
		return r
	}
	if s.gave {
		return r.as(false, s.tug.on, "held once, gives now: look for rot")
	}
	return r.as(s.tug.value == "holds", s.tug.on, "%s", map[string]string{"holds": "it holds", "gives": "it gives"}[s.tug.value])
}

func leafOpen(s state) Reason {
	wanted := "First new leaf open"
	if s.kind.Comes != "shoot" {
		wanted = fmt.Sprintf("First %s with an open leaf", s.kind.Comes)
	}
	r := reason("leaf_open", wanted, plant.Number{})
	if !s.bud.known {
		return r
	}
	r = r.as(s.bud.value == plant.BudLeafOpen, s.bud.on, "%s", budSaid(s.kind, s.bud.value))
	if s.bud.value == plant.BudShooting && plant.Days(s.bud.on, s.Today) >= int(s.every().Value) {
		r.Found = "shooting when last seen"
		return r.with(Unknown)
	}
	return r
}

// bodyFirm: the stem, or whatever the piece is made of, is firm and without rot.
func bodyFirm(s state) Reason {
	r := reason("stem", fmt.Sprintf("%s firm, no rot", plant.Upper(s.kind.Body)), plant.Number{})
	switch {
	case s.rotMM > 0:
		return r.as(false, s.rotOn, "rot for %.0f mm", s.rotMM).with(Contrary)
	case !s.stem.known:
		return r
	case s.stem.value == "soft":
		return r.as(false, s.stem.on, "soft").with(Contrary)
	}
	return r.as(s.stem.value == "firm", s.stem.on, "%s", s.stem.value)
}

// colourHealthy judges root colour by growth group, and never by colour alone: mushy
// is rot on anything, an unusual colour on a firm root is age, and without a squeeze it is open.
// Where no root was seen there is nothing to judge.
func colourHealthy(s state) Reason {
	r := reason("root_health", "Roots firm, of a healthy colour for "+plant.Lower(s.Group.Name), plant.Number{})
	if s.feel.known && s.feel.value == "mushy" {
		return r.as(false, s.feel.on, "mushy: rot, whatever the colour").with(Contrary)
	}
	if !s.roots.known || s.roots.value.longest.LengthMM == 0 {
		return Reason{}
	}
	odd := ""
	for _, c := range []plant.RootColour{plant.Black, plant.Brown, plant.Orange, plant.Pink, plant.Tan, plant.White, plant.Cream} {
		if s.roots.value.colours[c] && !s.Group.HealthyRoot(c) {
			odd = string(c)
			break
		}
	}
	firm := s.feel.known && s.feel.value == "firm" && !s.feel.on.Before(s.roots.on)
	switch {
	case len(s.roots.value.colours) == 0:
		return r.as(true, s.roots.on, "nothing noted against it")
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
