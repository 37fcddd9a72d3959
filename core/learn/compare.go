package learn

import (
	"math"

	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/stat/distuv"
)

// Arm is how many of the pieces treated one way succeeded.
type Arm struct{ Won, Tried int }

// belief is that of an arm of which nothing was known before: published, Jeffreys 1946.
func (a Arm) belief() distuv.Beta {
	return distuv.Beta{Alpha: float64(a.Won) + 0.5, Beta: float64(a.Tried-a.Won) + 0.5}
}

// Verdict is what a comparison shows.
type Verdict string

// What it can show.
const (
	Shown        Verdict = "shown"
	Leaning      Verdict = "leaning"
	NothingShown Verdict = "nothing_shown"
)

// Numbers of a comparison: assumed, and tried so that looking after every pair raises a false alarm in 5 to 6 of 100.
const (
	shownFrom   = 0.995
	leaningFrom = 0.95
	leastArm    = 10
)

// Finding is what two arms show: the chance that the first is better, 0 to 1, and how many an arm would be needed to show as large
// a difference, 0 where there is none.
type Finding struct {
	Better float64
	Shows  Verdict
	Needed int
}

// Compare holds two arms against each other.
func Compare(a, b Arm) Finding {
	x, y := a.belief(), b.belief()
	f := Finding{Shows: NothingShown}
	// The chance that x is above y, over the quantiles of x: an integral over 0 to 1 of what is smooth.
	f.Better = quad.Fixed(func(q float64) float64 { return y.CDF(x.Quantile(q)) }, 0, 1, 200, nil, 0)
	sure := math.Max(f.Better, 1-f.Better)
	switch {
	case min(a.Tried, b.Tried) < leastArm:
	case sure >= shownFrom:
		f.Shows = Shown
	case sure >= leaningFrom:
		f.Shows = Leaning
	}
	p, q := x.Mean(), y.Mean()
	if a.Tried > 0 && b.Tried > 0 {
		p, q = float64(a.Won)/float64(a.Tried), float64(b.Won)/float64(b.Tried)
	}
	if d := p - q; d != 0 {
		f.Needed = int(math.Ceil(11.7 * (p*(1-p) + q*(1-q)) / (d * d)))
	}
	return f
}
