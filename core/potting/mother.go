package potting

import (
	"fmt"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Numbers of roots that come off as a plant is potted on.
var (
	RootsOffUsual = number.Define(plant.Number{Key: "potting.roots_off", Label: "Roots that come off a plant, at most", Value: 0.2, Low: 0, High: 1, Unit: "fraction", Basis: plant.Practice})
	RootsOffMost  = number.Define(plant.Number{Key: "potting.roots_off_vigorous", Label: "Roots that come off a vigorous plant, at most", Value: 0.5, Low: 0, High: 1, Unit: "fraction", Basis: plant.Practice})
)

// NextPot is the pot a plant is potted on into, and why; longestMM is how far its roots run down, 0 when nobody looked.
func NextPot(t number.Table, now Pot, longestMM float64) (Pot, string) {
	width, depth, why := movedOn(t, now, longestMM)
	next := now
	next.TopMM, next.DepthMM = min(500, width), min(500, depth)
	next.BottomMM = min(500, now.BottomMM+width-now.TopMM)
	return next, why
}

// PottingOnAgainst is what speaks against a pot after a pot, and against taking so much of the roots off.
func PottingOnAgainst(t number.Table, before *Pot, to Pot, rootsOff float64) []string {
	out := []string{}
	if before != nil && to.TopMM-before.TopMM >= t.Of(NeverWider) {
		out = append(out, fmt.Sprintf("%.0f mm wider than before: %.0f mm or more at once stays wet and rots the roots.", to.TopMM-before.TopMM, t.Of(NeverWider)))
	}
	switch {
	case rootsOff > t.Of(RootsOffMost):
		out = append(out, fmt.Sprintf("More than %.0f %% of the roots are off: not even a vigorous plant takes that lightly. Shade it, keep it humid, trim its leaves.", 100*t.Of(RootsOffMost)))
	case rootsOff > t.Of(RootsOffUsual):
		out = append(out, fmt.Sprintf("More than %.0f %% of the roots are off: only a vigorous plant takes that. Trim its leaves as hard.", 100*t.Of(RootsOffUsual)))
	}
	return out
}
