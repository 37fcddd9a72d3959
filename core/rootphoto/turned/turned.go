// Package turned puts two photos of one jar together that were taken a quarter turn apart: what one view hides of a root,
// how far it runs towards the camera or away, the other shows.
//
// In: how the jar stands before the camera in each photo, and lines of pixels of roots from their base to their tip. Out: a
// line in space, mm, and its length. Method: a pixel of one photo leaves the depth open and a pixel of the other gives it
// (each photo's depth is the other's way sideways); what is left over is their difference in height, and a root's points
// are paired so that this is least, in their order (dynamic time warping, Sakoe & Chiba 1978). Height is left nearly alone
// by a round jar, so it tells points apart.
package turned

import (
	"errors"
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/optics"
)

// View is one of the two photos: how the jar stands in it, and where the same node of the stem is seen.
type View struct {
	Standing optics.Standing
	Node     plant.Point
}

// Pair are the two photos; between First and Second the jar was turned a quarter to the right: what faced the camera then
// faces to the right of the photo.
type Pair struct {
	First, Second View
	// above is how much higher a place is in the frame of the second than in that of the first, mm.
	above float64
}

// ErrApart says that the two photos do not show the same node.
var ErrApart = errors.New("the node of one photo does not fit that of the other: mark the same node in both, the jar turned a quarter to the right")

// Put puts two views together by the node that both show.
func Put(first, second View) (Pair, error) {
	p := Pair{First: first, Second: second}
	a, b, ok := p.meet(first.Node, second.Node)
	if !ok {
		return p, ErrApart
	}
	p.above = b.Y - a.Y
	return p, nil
}

// rounds is how often the depths of two pixels are worked out from one another; each round leaves about a tenth.
const rounds = 6

// meet is where a pixel of the first photo and one of the second lie when they show one place: in the frame of the first,
// and as high as each photo has it.
func (p Pair) meet(first, second plant.Point) (a, b optics.Vec, ok bool) {
	for range rounds {
		var okA, okB bool
		// Turned a quarter to the right: x of the second is how near it was in the first, its depth the x of the first.
		a, okA = p.First.Standing.Place(first, -b.X, math.Inf(1))
		if !okA {
			return a, b, false
		}
		if b, okB = p.Second.Standing.Place(second, a.X, math.Inf(1)); !okB {
			return a, b, false
		}
	}
	a.Z = -b.X
	return a, b, true
}

// Values of the pairing.
const (
	// pointsApart is how far apart the points of a line are that are paired, mm.
	pointsApartMM = 1.0
	// sigmaMM is how far off heights are, by tracing: about a pixel at each.
	sigmaMM = 0.5
	// waits is what it costs that one line goes on while the other stands still, in squared sigmas: a root runs on in both.
	waits = 0.5
	// ends is how many points at the tip of either line may have no place in space.
	ends = 4
	// smoothMM is the sigma that the line in space is smoothed by.
	smoothMM = 1.2
	// fits is from which mean difference in height two lines are not of one root, mm.
	fitsMM = 2.0
	// mostPoints bounds the points of a line that are paired.
	mostPoints = 600
)

// The true length of a root is in the middle Middle times that of its line in space, nine times in ten between Low and High
// times: measured on 109 roots of rendered photos with a second view worked out.
const (
	Low, Middle, High = 0.94, 1.015, 1.15
)

// Line is a root in space.
type Line struct {
	// Points are in the frame of the first photo, from its base.
	Points []optics.Vec
	MM     float64
	// OffMM is the mean difference in height that is left.
	OffMM float64
}

// ErrNoFit says that two lines are not of one root.
var ErrNoFit = errors.New("these two lines do not fit: their heights differ along the way")

// Root is the root that two lines show, both from the base to the tip.
func (p Pair) Root(first, second []plant.Point) (Line, error) {
	a, b := p.thin(first, p.First.Standing), p.thin(second, p.Second.Standing)
	if len(a) < 2 || len(b) < 2 {
		return Line{}, ErrNoFit
	}
	n, m := len(a), len(b)
	at := make([]optics.Vec, n*m)
	cost, total := make([]float64, n*m), make([]float64, n*m)
	from := make([]int32, n*m)
	for i := range a {
		for j := range b {
			k := i*m + j
			u, v, ok := p.meet(a[i], b[j])
			cost[k], total[k], from[k] = math.Inf(1), math.Inf(1), -1
			if !ok {
				continue
			}
			off := (v.Y - u.Y - p.above) / sigmaMM
			u.Y = (u.Y + v.Y - p.above) / 2
			at[k], cost[k] = u, off*off
			if k == 0 {
				total[k] = cost[k]
				continue
			}
			step := func(before int, extra float64) {
				if t := total[before] + cost[k] + extra; t < total[k] {
					total[k], from[k] = t, int32(before) //nolint:gosec // at most mostPoints squared
				}
			}
			if i > 0 && j > 0 {
				step(k-m-1, 0)
			}
			if i > 0 {
				step(k-m, waits)
			}
			if j > 0 {
				step(k-1, waits)
			}
		}
	}
	// A tip right at the wall may be cast beyond it by tracing: the last points that have a place stand for it.
	k := -1
	for back := 0; back < 2*ends && k < 0; back++ {
		for i := n - 1; i >= max(0, n-1-back); i-- {
			if j := m - 1 - (back - (n - 1 - i)); j >= 0 && !math.IsInf(total[i*m+j], 1) {
				k = i*m + j
				break
			}
		}
	}
	if k < 0 {
		return Line{}, ErrNoFit
	}
	return traced(at, cost, from, k)
}

func traced(at []optics.Vec, cost []float64, from []int32, k int) (Line, error) {
	points := []optics.Vec{}
	off, pairs := 0.0, 0.0
	for k >= 0 {
		points = append(points, at[k])
		off, pairs = off+math.Sqrt(cost[k])*sigmaMM, pairs+1
		k = int(from[k])
	}
	l := Line{OffMM: off / pairs}
	for i := len(points) - 1; i >= 0; i-- {
		l.Points = append(l.Points, points[i])
	}
	if l.OffMM > fitsMM {
		return l, ErrNoFit
	}
	l.Points = smooth(l.Points)
	for i := 1; i < len(l.Points); i++ {
		l.MM += l.Points[i-1].To(l.Points[i])
	}
	return l, nil
}

// thin are points of a line about a mm apart, and its last.
func (p Pair) thin(line []plant.Point, on optics.Standing) []plant.Point {
	out := []plant.Point{}
	var last optics.Vec
	for i, q := range line {
		at, ok := on.Place(q, 0, math.Inf(1))
		if !ok {
			continue
		}
		if len(out) == 0 || last.To(at) >= pointsApartMM || i == len(line)-1 {
			out, last = append(out, q), at
		}
		if len(out) == mostPoints {
			break
		}
	}
	return out
}

// smooth is a line in space smoothed along its length, its ends left where they are.
func smooth(line []optics.Vec) []optics.Vec {
	along := make([]float64, len(line))
	for i := 1; i < len(line); i++ {
		along[i] = along[i-1] + line[i-1].To(line[i])
	}
	whole := along[len(along)-1]
	out := make([]optics.Vec, len(line))
	for i := range line {
		// Narrower towards the ends, so that these stay.
		sigma := math.Min(smoothMM, math.Min(along[i], whole-along[i])/2)
		if sigma <= 0 {
			out[i] = line[i]
			continue
		}
		sum, weight := optics.Vec{}, 0.0
		for j := range line {
			d := (along[j] - along[i]) / sigma
			if math.Abs(d) > 3 {
				continue
			}
			w := math.Exp(-d * d / 2)
			sum, weight = sum.Plus(line[j].Times(w)), weight+w
		}
		out[i] = sum.Times(1 / weight)
	}
	return out
}
