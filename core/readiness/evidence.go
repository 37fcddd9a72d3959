package readiness

import (
	"fmt"
	"math"
	"sort"
	"time"

	"clearjar/core/growth"
	"clearjar/core/plant"
)

// LookOn is one look and the day it was made.
type LookOn struct {
	On   time.Time  `json:"on"`
	Look plant.Look `json:"look"`
}

// Potting is the fact of having been potted up.
type Potting struct {
	On time.Time `json:"on"`
}

// Outcome is how a cutting ended: established or lost.
type Outcome struct {
	On   time.Time `json:"on"`
	Kind string    `json:"kind" enum:"established,lost"`
}

// Evidence is everything known of one cutting.
type Evidence struct {
	Today  time.Time    `json:"today"`
	Group  plant.Group  `json:"-"`
	Medium plant.Medium `json:"medium"`
	// SetOn is zero while the cutting has not been set.
	SetOn time.Time `json:"set_on"`
	// SetNodes is how many nodes are in the medium.
	SetNodes int `json:"set_nodes"`
	// NodeMM is where each node sits above the base of the piece; it tells which are sound above rot.
	NodeMM []float64 `json:"node_mm,omitempty"`
	// Latitude sign decides which half of the year is dark: true south of the equator.
	Southern bool     `json:"southern"`
	Looks    []LookOn `json:"looks"`
	Potted   *Potting `json:"potted,omitempty"`
	Outcome  *Outcome `json:"outcome,omitempty"`
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
	threshold                              float64
	last                                   time.Time
	roots                                  noted[rootState]
	stem, feel, tug, leaf, water, crowding noted[string]
	bud                                    noted[plant.Bud]
	rotMM                                  float64
	age                                    int
	factor                                 float64
	// asksLength: the school wants a root of some length in this medium.
	asksLength bool
}

// rootState sums up the roots of one look.
type rootState struct {
	count, side, nodes int
	longest            plant.Root
	colours            map[plant.RootColour]bool
}

func sumRoots(l plant.Look) (rootState, bool) {
	if !l.RootsCounted {
		return rootState{}, false
	}
	r := rootState{colours: map[plant.RootColour]bool{}}
	nodes := map[int]bool{}
	for _, root := range l.Roots {
		if root.Order == 2 {
			if root.LengthMM >= SideFrom.Value {
				r.side++
			}
			continue
		}
		if root.LengthMM >= CountedFrom.Value {
			r.count++
			nodes[root.Node] = true
		}
		if root.LengthMM > r.longest.LengthMM {
			r.longest = root
		}
		if root.Colour != "" {
			r.colours[root.Colour] = true
		}
	}
	r.nodes = len(nodes)
	return r, true
}

// InDarkHalf tells whether a day lies in the dark half of the year, between the
// autumn and the spring equinox.
func InDarkHalf(day time.Time, southern bool) bool {
	m, d := day.Month(), day.Day()
	dark := m < time.March || m > time.September || (m == time.March && d < 21) || (m == time.September && d >= 23)
	return dark != southern
}

func assess(e Evidence, school plant.SchoolKey) state {
	sort.SliceStable(e.Looks, func(i, j int) bool { return e.Looks[i].On.Before(e.Looks[j].On) })
	s := state{Evidence: e, threshold: ThresholdMM(school).Value, factor: 1}
	s.asksLength = school != plant.FirstLeaf || e.Medium == plant.Water
	if InDarkHalf(e.Today, e.Southern) {
		s.factor = DarkFactor.Value
	}
	if len(e.Looks) > 0 {
		s.last = e.Looks[len(e.Looks)-1].On
	}
	s.age = plant.Days(e.SetOn, e.Today)
	s.roots = newest(e.Looks, sumRoots)
	s.stem = newest(e.Looks, func(l plant.Look) (string, bool) { return said(l.Stem) })
	s.feel = newest(e.Looks, func(l plant.Look) (string, bool) { return said(l.RootFeel) })
	s.tug = newest(e.Looks, func(l plant.Look) (string, bool) { return said(l.Tug) })
	s.leaf = newest(e.Looks, func(l plant.Look) (string, bool) { return said(l.Leaf) })
	s.water = newest(e.Looks, func(l plant.Look) (string, bool) { return said(l.Water) })
	s.crowding = newest(e.Looks, func(l plant.Look) (string, bool) { return said(l.Crowding) })
	s.bud = newest(e.Looks, furthestBud)
	rot := newest(e.Looks, func(l plant.Look) (float64, bool) { return l.RotMM, l.RotMM > 0 || l.Stem == "firm" })
	s.rotMM = rot.value
	return s
}

func furthestBud(l plant.Look) (plant.Bud, bool) {
	rank := map[plant.Bud]int{plant.BudDormant: 1, plant.BudSwelling: 2, plant.BudShooting: 3, plant.BudLeafOpen: 4}
	var best plant.Bud
	for _, b := range l.Buds {
		if rank[b.Bud] > rank[best] {
			best = b.Bud
		}
	}
	return best, best != ""
}

// LongestOverTime is the longest first-order root at each look since setting, for [growth.Fit].
// Looks before the first root say nothing about its rate and are left out.
func LongestOverTime(e Evidence) []growth.LengthAt {
	out := []growth.LengthAt{}
	for _, l := range e.Looks {
		r, ok := sumRoots(l.Look)
		if ok && r.longest.LengthMM > 0 && !e.SetOn.IsZero() && !l.On.Before(e.SetOn) {
			out = append(out, growth.LengthAt{Day: math.Max(0, l.On.Sub(e.SetOn).Hours()/24), LengthMM: r.longest.LengthMM})
		}
	}
	return out
}

// stale tells whether an observation is too old to settle anything.
func (s state) stale(on time.Time) bool {
	return float64(plant.Days(on, s.Today)) > lookEvery[s.Medium].Value*StaleFactor.Value
}

func plural(n int, one, many string) string {
	if n == 1 {
		return fmt.Sprintf("1 %s", one)
	}
	return fmt.Sprintf("%d %s", n, many)
}
