package readiness

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"math/bits"
	"slices"
	"sort"
	"time"

	"clearjar/core/growth"
	"clearjar/core/life"
	"clearjar/core/number"
	"clearjar/core/plant"
)

// What happened to a cutting, as the life tells it.
type (
	LookOn  = life.LookOn
	Potting = life.Potting
	Outcome = life.Outcome
	CutBack = life.CutBack
)

// Evidence is everything known of one cutting.
type Evidence struct {
	Today time.Time       `json:"today"`
	Group plant.Group     `json:"-"`
	Kind  plant.PieceKind `json:"kind,omitempty"`
	// OwnRoots says that it came with roots, as a division does.
	OwnRoots bool         `json:"own_roots,omitempty"`
	Medium   plant.Medium `json:"medium"`
	// SetOn is when it was first set, zero while it has not been; MediumOn when it came into this
	// medium, zero for the same.
	SetOn    time.Time `json:"set_on"`
	MediumOn time.Time `json:"medium_on,omitzero"`
	// SetNodes is how many nodes are in the medium.
	SetNodes int `json:"set_nodes"`
	// NodeMM is where each node sits above the base the piece was cut with; it tells which are sound above rot.
	NodeMM []float64 `json:"node_mm,omitempty"`
	// LeafKept says whether a leaf feeds it; nil when nobody said.
	LeafKept *bool `json:"leaf_kept,omitempty"`
	// AerialRoot says that it came with an aerial root that is in the medium.
	AerialRoot bool `json:"aerial_root,omitempty"`
	// Cover is what stands over it: none, vented, ajar, on; empty for what is usual.
	Cover string `json:"cover,omitempty" enum:"none,vented,ajar,on"`
	// TemperatureC is how warm it stands, degrees C; 0 when nobody measured.
	TemperatureC float64 `json:"temperature_c,omitempty" minimum:"0" maximum:"60"`
	// Southern decides which half of the year is dark: true south of the equator.
	Southern bool `json:"southern"`
	// Numbers are those of the household.
	Numbers number.Table `json:"-"`
	// Learned is what the grower's records of its group and medium say; nil where there are none.
	Learned *Learned `json:"-"`
	// sisters is by how much later it is expected to root by what its sisters show, a logarithm.
	sisters float64
	// partings are when nodes of it went with what was parted from it.
	partings []life.Parting
	Looks    []LookOn  `json:"looks"`
	CutBacks []CutBack `json:"cut_backs,omitempty"`
	Potted   *Potting  `json:"potted,omitempty"`
	Outcome  *Outcome  `json:"outcome,omitempty"`
	// Previous is the verdict before: one that holds is not taken back for a little.
	Previous plant.Verdict `json:"previous,omitempty" enum:"wait,look,ready,overdue,rescue,growing_on,done,lost"`
	// Moves are when it was put into another medium, Care what was done for it.
	Moves []Move `json:"moves,omitempty"`
	Care  []Care `json:"care,omitempty"`
}

// Move is the fact of having been put into a medium.
type Move struct {
	On     time.Time    `json:"on"`
	Medium plant.Medium `json:"medium"`
}

// Care is the fact that something was done for a piece.
type Care struct {
	On  time.Time `json:"on"`
	Act plant.Act `json:"act"`
}

// Of is the evidence of a life as it is known on a day, of one that no longer stands on the day it left. southern is true south of the equator.
func Of(l life.Life, today time.Time, southern bool) Evidence {
	e := Evidence{
		Today: l.AsOf(today), Group: l.Group, Kind: l.Kind, OwnRoots: l.OwnRoots(), Medium: plant.Water, SetOn: l.FirstSetOn(), MediumOn: l.MediumOn(),
		NodeMM: l.NodeMM(), LeafKept: l.LeafKept, Southern: southern, Numbers: l.Numbers, Looks: l.Looks, CutBacks: l.CutBacks, Potted: l.Potted, Outcome: l.Outcome, partings: l.Partings,
	}
	if now, ok := l.SetNow(); ok {
		e.Medium, e.SetNodes = now.Medium, now.Nodes
	}
	return e
}

// Check refuses evidence that cannot be, naming every field that is wrong.
func (e Evidence) Check() error {
	var all []error
	after := func(field string, on time.Time) {
		if plant.Days(e.Today, on) > 0 {
			all = append(all, plant.Refuse(field, "%s lies after today, %s", on.Format("2 Jan 2006"), e.Today.Format("2 Jan 2006")))
		}
	}
	for i, l := range e.Looks {
		after(fmt.Sprintf("looks[%d].on", i), l.On)
		for _, f := range plant.Refusals(l.Look.Check()) {
			all = append(all, plant.Refuse(fmt.Sprintf("looks[%d].%s", i, f.Field), "%s", f.Reason))
		}
	}
	after("set_on", e.SetOn)
	if !e.Medium.Known() {
		all = append(all, plant.Refuse("medium", "%q is not a medium", e.Medium))
	}
	if e.Kind != "" && e.Kind.Row().Kind != e.Kind {
		all = append(all, plant.Refuse("kind", "%q is not a kind of piece", e.Kind))
	}
	if !slices.Contains([]string{"", "none", "vented", "ajar", "on"}, e.Cover) {
		all = append(all, plant.Refuse("cover", "%q is not none, vented, ajar or on", e.Cover))
	}
	if e.Potted != nil {
		after("potted.on", e.Potted.On)
	}
	for i, m := range e.Moves {
		after(fmt.Sprintf("moves[%d].on", i), m.On)
		if !m.Medium.Known() {
			all = append(all, plant.Refuse(fmt.Sprintf("moves[%d].medium", i), "%q is not a medium", m.Medium))
		}
	}
	for i, c := range e.Care {
		after(fmt.Sprintf("care[%d].on", i), c.On)
		if _, ok := c.Act.Row(); !ok {
			all = append(all, plant.Refuse(fmt.Sprintf("care[%d].act", i), "%q is not an act of care", c.Act))
		}
	}
	if e.Previous != "" && !slices.Contains(urgency, e.Previous) {
		all = append(all, plant.Refuse("previous", "%q is not a verdict", e.Previous))
	}
	if e.TemperatureC < 0 || e.TemperatureC > 60 {
		all = append(all, plant.Refuse("temperature_c", "%g is not 0 to 60 degrees C", e.TemperatureC))
	}
	return errors.Join(all...)
}

// noted is the newest value of one kind of observation.
type noted[T any] struct {
	value T
	on    time.Time
	known bool
}

// newest walks the looks from new to old and takes the first that noted something.
func newest[T any](looks []LookOn, take func(plant.Look) (T, bool)) noted[T] {
	for i := len(looks) - 1; i >= 0; i-- {
		if v, ok := take(looks[i].Look); ok {
			return noted[T]{v, looks[i].On, true}
		}
	}
	return noted[T]{}
}

func said(v string) (string, bool) { return v, v != "" }

// state is the evidence boiled down to what the criteria ask for.
type state struct {
	Evidence
	kind   plant.KindRow
	medium plant.MediumRow
	// first and pot are the usual days to first roots and to potting, at this time of the year.
	first, pot plant.Span
	// from is the day roots could begin to grow: of setting, or of the last cutting back that left none.
	from      time.Time
	threshold float64
	// potsEarly: the school pots by early roots.
	potsEarly                              bool
	last                                   time.Time
	roots                                  noted[rootState]
	stem, feel, tug, leaf, water, crowding noted[string]
	bud                                    noted[plant.Bud]
	// young is how many young plants were counted last and not parted since; youngSince when the first was seen.
	young      noted[int]
	youngSince time.Time
	// gave: a tug held once, and gives now.
	gave  bool
	rotMM float64
	rotOn time.Time
	// gone is how many nodes were cut away in all.
	gone int
	// age counts days since it was first set, inMedium since it came into this medium.
	age, inMedium int
	factor        float64
	// asksLength: the school wants a root of some length in this medium.
	asksLength bool
}

// rootState sums up the roots of one look.
type rootState struct {
	count, side, nodes int
	longest            plant.Root
	colours            map[plant.RootColour]bool
}

func sumRoots(t number.Table, l plant.Look) (rootState, bool) {
	if !l.RootsCounted {
		return rootState{}, false
	}
	r := rootState{}
	var nodes uint64 // a piece has at most 60 nodes
	for _, root := range l.Roots {
		if root.Order == 2 {
			if root.LengthMM >= t.Of(SideFrom) {
				r.side++
			}
			continue
		}
		if root.LengthMM >= t.Of(life.RootedFrom) {
			r.count++
			nodes |= 1 << (root.Node & 63)
		}
		if root.LengthMM > r.longest.LengthMM {
			r.longest = root
		}
		if root.Colour != "" {
			if r.colours == nil {
				r.colours = map[plant.RootColour]bool{}
			}
			r.colours[root.Colour] = true
		}
	}
	r.nodes = bits.OnesCount64(nodes)
	return r, true
}

// sorted gives the looks in the order they were made. Looks of one instant are put in an order of
// their own content, so that the order they come in decides nothing.
func sorted(looks []LookOn) []LookOn {
	inOrder := true
	for i := 1; i < len(looks) && inOrder; i++ {
		inOrder = looks[i-1].On.Before(looks[i].On)
	}
	if inOrder {
		return looks
	}
	type keyed struct {
		LookOn
		text string
	}
	all := make([]keyed, len(looks))
	for i, l := range looks {
		all[i].LookOn = l
	}
	sort.SliceStable(all, func(i, j int) bool {
		if !all[i].On.Equal(all[j].On) {
			return all[i].On.Before(all[j].On)
		}
		for _, k := range []*keyed{&all[i], &all[j]} {
			if k.text == "" {
				text, _ := json.Marshal(k.Look)
				k.text = string(text)
			}
		}
		return all[i].text < all[j].text
	})
	out := make([]LookOn, len(all))
	for i, k := range all {
		out[i] = k.LookOn
	}
	return out
}

func assess(e Evidence, school plant.SchoolKey) state {
	e.Looks = life.Life{Looks: sorted(e.Looks), CutBacks: e.CutBacks, Partings: e.partings}.LooksLeft()
	for i, l := range e.Looks {
		e.Looks[i].Look = l.Look.Shoots()
	}
	s := state{Evidence: e, kind: e.Kind.Row(), medium: e.Medium.Row(), threshold: ThresholdMM(e.Numbers, school).Value, potsEarly: schools[school].early, from: e.SetOn}
	s.asksLength = !schools[school].byTug || !s.medium.Tugs
	s.factor = 1 + (s.of(DarkFactor)-1)*plant.Darkness(e.Today, e.Southern)
	effects := 1.0
	if e.LeafKept != nil && !*e.LeafKept && s.kind.Pose == plant.Upright {
		effects = s.of(LeaflessSlower)
	}
	first, pot := e.Group.RootTimes(e.Kind)
	s.first, s.pot = first.Times(s.factor*effects), pot.Times(s.factor*effects)
	looks := e.Looks
	if e.Potted != nil { // what was seen before potting speaks of other roots and another medium
		for len(looks) > 0 && !looks[0].On.After(e.Potted.On) {
			looks = looks[1:]
		}
	}
	if len(e.Looks) > 0 {
		s.last = e.Looks[len(e.Looks)-1].On
	}
	s.age = plant.Days(e.SetOn, e.Today)
	s.inMedium = s.age
	if !e.MediumOn.IsZero() {
		s.inMedium = plant.Days(e.MediumOn, e.Today)
	}
	s.read(looks)
	for _, c := range e.CutBacks {
		s.gone = max(s.gone, c.GoneNodes)
		if (!s.roots.known || s.roots.value.count == 0) && c.On.After(s.from) {
			s.from = c.On
		}
	}
	return s
}

// read takes from the looks what was noted last of each thing.
func (s *state) read(looks []LookOn) {
	s.roots = newest(looks, func(l plant.Look) (rootState, bool) { return sumRoots(s.Numbers, l) })
	s.stem = newest(looks, func(l plant.Look) (string, bool) { return said(l.Stem) })
	s.feel = newest(looks, func(l plant.Look) (string, bool) { return said(l.RootFeel) })
	s.tug = newest(looks, func(l plant.Look) (string, bool) { return said(l.Tug) })
	s.leaf = newest(looks, func(l plant.Look) (string, bool) { return said(l.Leaf) })
	s.water = newest(looks, func(l plant.Look) (string, bool) { return said(l.Water) })
	s.crowding = newest(looks, func(l plant.Look) (string, bool) { return said(l.Crowding) })
	s.bud = furthestBud(looks)
	s.young = newest(looks, func(l plant.Look) (int, bool) { return l.Young() })
	for _, l := range looks {
		if n, _ := l.Look.Young(); n > 0 && s.youngSince.IsZero() {
			s.youngSince = l.On
		}
	}
	rot := newest(looks, func(l plant.Look) (float64, bool) { return l.RotMM, l.RotMM > 0 || l.Stem == "firm" })
	s.rotMM, s.rotOn = rot.value, rot.on
	if s.tug.known && s.tug.value == "gives" {
		for _, l := range looks {
			s.gave = s.gave || l.Look.Tug == "holds"
		}
	}
}

// furthestBud is the bud that has come furthest, each node as it was noted last.
func furthestBud(looks []LookOn) noted[plant.Bud] {
	rank := map[plant.Bud]int{plant.BudDormant: 1, plant.BudSwelling: 2, plant.BudShooting: 3, plant.BudLeafOpen: 4}
	byNode := map[int]noted[plant.Bud]{}
	for _, l := range looks {
		for _, b := range l.Look.Buds {
			byNode[b.Node] = noted[plant.Bud]{b.Bud, l.On, true}
		}
	}
	var best noted[plant.Bud]
	for _, b := range byNode {
		if rank[b.value] > rank[best.value] || (b.value == best.value && b.on.After(best.on)) {
			best = b
		}
	}
	return best
}

// LongestOverTime is the longest first-order root at each look since setting, for [growth.Fit].
// Looks before the first root say nothing about its rate and are left out.
func LongestOverTime(e Evidence) []growth.LengthAt {
	out := make([]growth.LengthAt, 0, len(e.Looks))
	for _, l := range e.Looks {
		r, ok := sumRoots(e.Numbers, l.Look)
		if ok && r.longest.LengthMM > 0 && !e.SetOn.IsZero() && !l.On.Before(e.SetOn) {
			out = append(out, growth.LengthAt{Day: math.Max(0, l.On.Sub(e.SetOn).Hours()/24), LengthMM: r.longest.LengthMM})
		}
	}
	return out
}

// stale tells whether an observation is too old to settle anything.
func (s state) stale(on time.Time) bool {
	return float64(plant.Days(on, s.Today)) > s.every().Value*s.of(StaleFactor)
}

// every is the number of days between looks in this medium.
func (s state) every() plant.Number { return s.Numbers.Now(s.medium.LookEvery) }

// of is the value in use of a number.
func (s state) of(n plant.Number) float64 { return s.Numbers.Of(n) }
