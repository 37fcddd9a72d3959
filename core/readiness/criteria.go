package readiness

import (
	"time"

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

// Criterion names what a school may ask, and what one may be asked to look at.
type Criterion string

// The criteria. MediumState is no school's, and is asked about after a sign.
const (
	Longest     Criterion = "longest"
	Roots       Criterion = "roots"
	SideRoots   Criterion = "side_roots"
	NodesRooted Criterion = "nodes_rooted"
	Tug         Criterion = "tug"
	LeafOpen    Criterion = "leaf_open"
	Shoot       Criterion = "shoot"
	Body        Criterion = "stem"
	RootHealth  Criterion = "root_health"
	MediumState Criterion = "water"
)

// Found is what was found of a criterion, where that is more than a number.
type Found int

// What can be found.
const (
	// NotNoted: nobody noted it. AsNumbered: the numbers say it.
	NotNoted Found = iota
	AsNumbered
	NoRoot
	TugHolds
	TugGives
	TugGaveNow
	RootSeen
	BudAsNoted
	ShootThen
	BodyAsNoted
	RotLength
	FeelsMushy
	NothingAgainst
	UsualColour
	OddButFirm
	OddColour
	OddHarmless
)

// Finding is one criterion as it stands, in values.
type Finding struct {
	Criterion Criterion
	Standing  Standing
	Found     Found
	// On is the day it was seen; nil when never.
	On *time.Time
	// Asked is the number it asks for, with its basis; without a key where no number is asked.
	Asked plant.Number
	// Want and Have are roots, nodes, or mm; Low and High hold a length with its interval, in mm.
	Want, Have, Low, High float64
	// Word is the state, bud or colour that was noted.
	Word string
	// ForTug: a root of some length stands in for a tug, where there is nothing to tug against.
	ForTug bool
}

// criterion turns the state into a finding. The zero finding says that there is nothing to judge yet.
type criterion func(s state) Finding

// schoolRow is what a school asks: what differs between schools is a column here.
type schoolRow struct {
	// longest is the root it wants, or that stands in for a tug where there is nothing to tug.
	longest plant.Number
	// byTug: where there is something to tug, a tug settles it, and no length is asked.
	byTug bool
	// early: it pots by short roots, and longer ones are more than it wants.
	early bool
	// stays: it is not potted, and uncovered instead.
	stays    bool
	criteria []criterion
}

var schools = map[plant.SchoolKey]schoolRow{
	plant.EarlyRoots:    {longest: EarlyLongest, early: true, criteria: []criterion{longestAtLeast(EarlyLongest), rootsAtLeast(EarlyRootCount), bodyFirm, colourHealthy}},
	plant.FirstLeaf:     {longest: LeafLongest, byTug: true, criteria: []criterion{anchored, leafOpen, bodyFirm, colourHealthy}},
	plant.FullRoots:     {longest: FullLongest, criteria: []criterion{longestAtLeast(FullLongest), rootsAtLeast(FullRootCount), sideRoots, nodesRooted, bodyFirm, colourHealthy}},
	plant.StraightToMix: {longest: LeafLongest, byTug: true, stays: true, criteria: []criterion{anchoredOrRooted, shoots, bodyFirm, colourHealthy}},
}

// ThresholdMM is the longest root a school wants.
func ThresholdMM(t number.Table, school plant.SchoolKey) plant.Number {
	return t.Now(schools[school].longest)
}

// findings are the criteria of a school as they stand.
func (s state) findings(school plant.SchoolKey) []Finding {
	row := schools[school]
	out := make([]Finding, 0, len(row.criteria))
	for _, c := range row.criteria {
		if f := c(s); f.Criterion != "" {
			out = append(out, f)
		}
	}
	return out
}

func open(c Criterion, n plant.Number) Finding {
	return Finding{Criterion: c, Standing: Unknown, Asked: n, Want: n.Value}
}

// as says how it stands by what was found on a day.
func (f Finding) as(met bool, on time.Time, found Found) Finding {
	f.Standing, f.Found, f.On = Unmet, found, &on
	if met {
		f.Standing = Met
	}
	return f
}

func (f Finding) with(s Standing) Finding { f.Standing = s; return f }
func (f Finding) word(w string) Finding   { f.Word = w; return f }
func (f Finding) have(n int) Finding      { f.Have = float64(n); return f }

func longestAtLeast(n plant.Number) criterion {
	return func(s state) Finding {
		f := open(Longest, s.Numbers.Now(n))
		if !s.roots.known {
			return f
		}
		root := s.roots.value.longest
		if root.LengthMM == 0 {
			return f.as(false, s.roots.on, NoRoot)
		}
		f.Have, f.Low, f.High = root.LengthMM, root.LowMM, root.HighMM
		return f.as(root.LengthMM >= f.Want, s.roots.on, AsNumbered)
	}
}

func rootsAtLeast(n plant.Number) criterion {
	return func(s state) Finding {
		f := open(Roots, s.Numbers.Now(n))
		if !s.roots.known {
			return f
		}
		return f.have(s.roots.value.count).as(s.roots.value.count >= int(f.Want), s.roots.on, AsNumbered)
	}
}

func sideRoots(s state) Finding {
	f := open(SideRoots, s.Numbers.Now(FullSideRoots))
	if !s.roots.known {
		return f
	}
	return f.have(s.roots.value.side).as(s.roots.value.side >= int(f.Want), s.roots.on, AsNumbered)
}

// nodesRooted asks for two rooted nodes where two are set; a piece with one growing point has nothing to ask.
func nodesRooted(s state) Finding {
	want := min(int(s.of(FullNodes)), s.setNodes())
	if s.kind.Sisters || want < 2 {
		return Finding{}
	}
	f := open(NodesRooted, s.Numbers.Now(FullNodes))
	f.Want = float64(want)
	if !s.roots.known {
		return f
	}
	return f.have(s.roots.value.nodes).as(s.roots.value.nodes >= want, s.roots.on, AsNumbered)
}

// setNodes is how many nodes are in the medium, 1 at least.
func (s state) setNodes() int { return max(1, s.SetNodes) }

// anchored: a tug holds; in water, where there is nothing to tug against, roots long enough stand in.
func anchored(s state) Finding {
	if !s.medium.Tugs {
		f := longestAtLeast(LeafLongest)(s)
		f.ForTug = true
		return f
	}
	f := open(Tug, plant.Number{})
	switch {
	case !s.tug.known || (s.tug.value == "gives" && s.stale(s.tug.on)):
		return f
	case s.gave:
		return f.as(false, s.tug.on, TugGaveNow)
	case s.tug.value == "holds":
		return f.as(true, s.tug.on, TugHolds)
	}
	return f.as(false, s.tug.on, TugGives)
}

// anchoredOrRooted: a tug holds, or a root was seen, as at a drain hole.
func anchoredOrRooted(s state) Finding {
	f := anchored(s)
	if f.Standing != Met && s.medium.Tugs && s.roots.known && s.roots.value.count > 0 && !s.gave {
		return f.have(s.roots.value.count).as(true, s.roots.on, RootSeen)
	}
	return f
}

// shoots: new growth shows, with a leaf or without.
func shoots(s state) Finding {
	f := open(Shoot, plant.Number{})
	if !s.bud.known {
		return f
	}
	return f.word(string(s.bud.value)).as(s.bud.value == plant.BudShooting || s.bud.value == plant.BudLeafOpen, s.bud.on, BudAsNoted)
}

func leafOpen(s state) Finding {
	f := open(LeafOpen, plant.Number{})
	if !s.bud.known {
		return f
	}
	f = f.word(string(s.bud.value)).as(s.bud.value == plant.BudLeafOpen, s.bud.on, BudAsNoted)
	if s.bud.value == plant.BudShooting && plant.Days(s.bud.on, s.Today) >= int(s.every().Value) {
		f.Found = ShootThen
		return f.with(Unknown)
	}
	return f
}

// bodyFirm: the stem, or whatever the piece is made of, is firm and without rot.
func bodyFirm(s state) Finding {
	f := open(Body, plant.Number{})
	switch {
	case s.rotMM > 0:
		f.Have = s.rotMM
		return f.as(false, s.rotOn, RotLength).with(Contrary)
	case !s.stem.known:
		return f
	case s.stem.value == "soft":
		return f.word(s.stem.value).as(false, s.stem.on, BodyAsNoted).with(Contrary)
	}
	return f.word(s.stem.value).as(s.stem.value == "firm", s.stem.on, BodyAsNoted)
}

// colourHealthy judges root colour by growth group, and never by colour alone: mushy
// is rot on anything, an unusual colour on a firm root is age, and without a squeeze it is open.
// Where no root was seen there is nothing to judge.
func colourHealthy(s state) Finding {
	f := open(RootHealth, plant.Number{})
	if s.feel.known && s.feel.value == "mushy" {
		return f.as(false, s.feel.on, FeelsMushy).with(Contrary)
	}
	if !s.roots.known || s.roots.value.longest.LengthMM == 0 {
		return Finding{}
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
		return f.as(true, s.roots.on, NothingAgainst)
	case odd == "":
		return f.word(s.usualColour()).as(true, s.roots.on, UsualColour)
	case firm:
		return f.word(odd).as(true, s.feel.on, OddButFirm)
	case odd == string(plant.Brown) || odd == string(plant.Black):
		return f.word(odd).as(false, s.roots.on, OddColour).with(Unknown)
	}
	return f.word(odd).as(true, s.roots.on, OddHarmless)
}

// usualColour is the colour of those usual for the group that was seen; empty when none of them was.
func (s state) usualColour() string {
	for _, c := range s.Group.RootColours {
		if s.roots.value.colours[c] {
			return string(c)
		}
	}
	return ""
}

// schoolRow is the row of a school.
func (s state) schoolRow(school plant.SchoolKey) schoolRow { return schools[school] }
