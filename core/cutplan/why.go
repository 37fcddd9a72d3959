package cutplan

import (
	"fmt"
	"strings"

	"clearjar/core/plant"
)

// easing is one thing that may stand in the way of every cut, and how it is taken away.
type easing struct {
	says string
	ease func(Limits, []Bench) (Limits, []Bench)
}

// easings are what a grower can give up, each with what it asks.
func (r *search) easings() []easing {
	l := r.limits
	limit := func(change func(*Limits)) func(Limits, []Bench) (Limits, []Bench) {
		return func(l Limits, b []Bench) (Limits, []Bench) { change(&l); return l, b }
	}
	out := []easing{}
	add := func(when bool, says string, ease func(Limits, []Bench) (Limits, []Bench)) {
		if when {
			out = append(out, easing{says, ease})
		}
	}
	add(l.KeepLeaves > 0 && r.keep > 0, fmt.Sprintf("the mother keeps %s", plant.Counted(l.KeepLeaves, "leaf", "leaves")), limit(func(l *Limits) { l.KeepLeaves = 0 }))
	add(l.KeepNodes > 1, fmt.Sprintf("the mother keeps %s", plant.Counted(l.KeepNodes, "node", "nodes")), limit(func(l *Limits) { l.KeepNodes = 1 }))
	add(l.TipBare > 0, fmt.Sprintf("a tip needs %s below its lowest leaf that stays", plant.Counted(l.TipBare, "bare node", "bare nodes")), limit(func(l *Limits) { l.TipBare = 0 }))
	add(l.NoStrip, "no leaf may be stripped", limit(func(l *Limits) { l.NoStrip = false }))
	add(l.LeastNodes > 1, fmt.Sprintf("a piece needs %s", plant.Counted(l.LeastNodes, "node", "nodes")), limit(func(l *Limits) { l.LeastNodes = 1 }))
	add(true, fmt.Sprintf("a tip has at most %s", plant.Counted(l.TipMost, "node", "nodes")), limit(func(l *Limits) { l.TipMost, l.MostNodes = 12, 10 }))
	add(l.MostLengthMM > 0, fmt.Sprintf("a piece must not be longer than %.0f mm", l.MostLengthMM), limit(func(l *Limits) { l.MostLengthMM = 0 }))
	skips := false
	for _, b := range r.benches {
		skips = skips || len(b.Skip) > 0
	}
	add(skips, "nodes are left out", func(l Limits, benches []Bench) (Limits, []Bench) {
		out := append([]Bench{}, benches...)
		for i := range out {
			out[i].Skip = map[int]bool{}
		}
		return l, out
	})
	return out
}

// possible tells whether anything can be cut under the limits.
func possible(l Limits, benches []Bench) bool {
	r, err := newSearch(benches, l, Aim{})
	return err == nil && len(r.ways()) > 0
}

// whyNothing names what leaves nothing to cut: each thing that alone would have to give, or, where none
// is enough, all that stand in the way together, or what cannot be changed.
func (r *search) whyNothing() []string {
	for _, b := range r.benches {
		if b.Standing() > 0 && b.Organ() == plant.LeafOrgan && !b.Group.Gives(plant.LeafPiece) {
			return []string{fmt.Sprintf("Nothing to cut: %s do not regrow from a leaf.", plant.Lower(b.Group.Name))}
		}
	}
	standing := 0
	for _, b := range r.benches {
		standing += b.Standing()
	}
	if standing == 0 {
		return []string{"Nothing to cut: no node stands here any more."}
	}
	if standing == 1 && r.benches[0].rule().KeepOne {
		return []string{"Nothing to cut: one node stands, and it stays on the mother."}
	}
	easings := r.easings()
	alone := []string{}
	for _, e := range easings {
		if possible(e.ease(r.limits, r.benches)) {
			alone = append(alone, e.says)
		}
	}
	if len(alone) > 0 {
		return []string{"Nothing to cut, because " + strings.Join(alone, "; or because ") + ". Give one of these up to get a plan."}
	}
	l, benches, all := r.limits, r.benches, []string{}
	for _, e := range easings {
		l, benches = e.ease(l, benches)
		all = append(all, e.says)
	}
	if possible(l, benches) {
		return []string{"Nothing to cut: several things together stand in the way: " + strings.Join(all, "; ") + "."}
	}
	return []string{"Nothing to cut: the nodes stand too close for a knife, or no part has a node that may be used."}
}
