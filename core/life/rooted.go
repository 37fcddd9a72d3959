package life

import (
	"time"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// RootedFrom is the length from which a first-order root says that a node has rooted, in mm.
var RootedFrom = number.Define(plant.Number{
	Key: "life.rooted_from", Label: "A node has rooted with a first-order root of", Value: 5, Unit: "mm", Basis: plant.Practice,
})

// GrownOnAfter is how long after potting a new leaf counts as grown on.
var GrownOnAfter = number.Define(plant.Number{
	Key: "life.grown_on_after", Label: "A new leaf counts as grown on from this long after potting", Value: 7, Unit: "days",
	Basis: plant.Assumed("a leaf already unfolding when it was potted proves nothing"),
})

// How it is known that a cutting rooted.
const (
	ByRoots   = "roots"    // a first-order root was measured or counted
	ByTug     = "tug"      // a light tug held
	ByFeel    = "seen"     // roots were noted as seen or felt: squeezed, or crowding the vessel
	ByLeaf    = "leaf"     // a new leaf opened, in a medium that hides the roots
	ByGrowing = "grown_on" // it has grown on after potting
)

// Rooting is whether a cutting rooted, and how that is known.
type Rooting struct {
	// Known is false while nobody could say: roots that are hidden and were never felt are no failure.
	Known  bool
	Rooted bool
	By     string
	On     time.Time
	// Counted says that roots were counted; Nodes is how many of the set nodes have rooted by the best count.
	Counted bool
	Nodes   int
}

// Rooting tells whether it rooted. What says so first, in the order of how sure it is, decides; a cutting
// that was lost without any sign of roots did not; any other without a sign is not known.
func (l Life) Rooting() Rooting {
	r := Rooting{}
	set := 1
	if now, ok := l.SetNow(); ok {
		set = max(1, now.Nodes)
	}
	sign := func(by string, on time.Time) {
		if !r.Rooted {
			r.Known, r.Rooted, r.By, r.On = true, true, by, on
		}
	}
	for _, look := range l.Looks {
		r.Counted = r.Counted || look.Look.RootsCounted
		if n := RootedNodes(l.Numbers, look.Look, set); n > 0 {
			r.Nodes = max(r.Nodes, n)
			sign(ByRoots, look.On)
		}
	}
	for _, look := range l.Looks {
		if look.Look.Tug == "holds" {
			sign(ByTug, look.On)
		}
	}
	for _, look := range l.Looks {
		if look.Look.RootFeel != "" || look.Look.Crowding == "coiling" || look.Look.Crowding == "filling" {
			sign(ByFeel, look.On)
		}
	}
	if now, ok := l.SetNow(); ok && now.Medium.Row().Hidden && !r.Counted {
		for _, look := range l.Looks {
			for _, b := range look.Look.Buds {
				if b.Bud == plant.BudLeafOpen {
					sign(ByLeaf, look.On)
				}
			}
			if n, _ := look.Look.Young(); n > 0 {
				sign(ByLeaf, look.On)
			}
		}
	}
	if n := len(l.Partings); n > 0 {
		sign(ByGrowing, l.Partings[n-1].On)
	}
	switch l.Fate() {
	case Established:
		sign(ByGrowing, l.Outcome.On)
	case Lost:
		r.Known = true
	}
	if !r.Known && r.Counted && l.Potted == nil {
		r.Known = true // counted, and none was long enough yet
	}
	return r
}

// RootedNodes is how many of the first set nodes have a first-order root of [RootedFrom] in a look.
func RootedNodes(t number.Table, look plant.Look, set int) int {
	nodes, from := map[int]bool{}, t.Of(RootedFrom)
	for _, root := range look.Roots {
		if root.Node >= 1 && root.Node <= set && root.Order == 1 && root.LengthMM >= from {
			nodes[root.Node] = true
		}
	}
	return len(nodes)
}

// Trial is what a cutting adds to the records of set nodes: of tried nodes won took, and grew on. Where
// roots were counted each set node is a try; where they never were, the piece is one. ok is false while
// its fate is open, or can never be known: neither is a failure.
func (l Life) Trial() (won, tried int, ok bool) {
	succeeded, decided := l.Succeeded()
	now, set := l.SetNow()
	if !decided || !set {
		return 0, 0, false
	}
	r := l.Rooting()
	tried = 1
	if r.Counted && (r.Nodes > 0 || !succeeded) {
		tried = max(1, now.Nodes)
	}
	if succeeded {
		won = min(tried, max(1, r.Nodes))
	}
	return won, tried, true
}
