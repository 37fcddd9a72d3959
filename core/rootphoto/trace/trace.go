// Package trace follows a root through a picture from a tapped tip to where it springs from.
//
// In: for each pixel how likely it lies on a root, 0 to 1, a tip and where it may end, and points that must be passed;
// pixels, centres at halves. Out: the path as a smooth polyline in pixels. Method: the cheapest path (Dijkstra 1959) over
// a cost that is low on roots, with steps to 16 neighbours, then a Gaussian along it: a chain of pixels is longer than the
// root.
package trace

import (
	"errors"
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/ridge"
)

// Values of the method.
const (
	// floor keeps a step off any root from being endlessly dear: cost is 1 / (floor + p).
	floor = 0.2
	// snap is how far from a tap its pixel may lie, and awayCosts how much dearer each pixel of the way makes it.
	snap      = 8.0
	awayCosts = 0.06
)

// ErrNoWay says that there is no way between two points of a picture.
var ErrNoWay = errors.New("there is no way between these points: they lie outside of the picture")

type stepTo struct {
	dx, dy int
	length float32
}

// steps are those to the 16 neighbours: straight, diagonal, and as a knight goes.
var steps = func() (out []stepTo) {
	for dy := -2; dy <= 2; dy++ {
		for dx := -2; dx <= 2; dx++ {
			straight := max(abs(dx), abs(dy)) == 1
			knight := abs(dx)+abs(dy) == 3
			if straight || knight {
				out = append(out, stepTo{dx, dy, float32(math.Hypot(float64(dx), float64(dy)))})
			}
		}
	}
	return out
}()

func abs(v int) int {
	if v < 0 {
		return -v
	}
	return v
}

// Ground is a picture that paths are looked for in.
type Ground struct {
	w, h int
	cost []float32
	p    ridge.Plane
}

// On is the ground of the chances of a picture's pixels.
func On(likely ridge.Plane) *Ground { return OnFloor(likely, floor) }

// OnFloor is a ground on which a step costs 1 / (floor + p).
func OnFloor(likely ridge.Plane, floor float32) *Ground {
	g := &Ground{likely.W, likely.H, make([]float32, len(likely.Pix)), likely}
	for i, p := range likely.Pix {
		g.cost[i] = 1 / (floor + max(0, min(1, p)))
	}
	return g
}

// P is the chance at a place; 0 outside of the picture.
func (g *Ground) P(at plant.Point) float32 {
	k, ok := g.pixel(at)
	if !ok {
		return 0
	}
	return g.p.Pix[k]
}

// Path is the cheapest path through points in their order: from the tip, by those that must be passed, to the target.
// Each tap goes to the cheapest pixel near it, but the last: that is where it is.
func (g *Ground) Path(through []plant.Point) ([]plant.Point, error) {
	if len(through) < 2 {
		return nil, errors.New("a path has a tip and a target")
	}
	last := through[len(through)-1]
	k, ok := g.pixel(last)
	if !ok {
		return nil, ErrNoWay
	}
	return g.PathInto(through[:len(through)-1], func(at int) bool { return at == k })
}

// PathInto is the cheapest path from a tip, by points that must be passed, to the first pixel that ends it. Pixels are
// counted row by row.
func (g *Ground) PathInto(through []plant.Point, ends func(pixel int) bool) ([]plant.Point, error) {
	if len(through) == 0 {
		return nil, errors.New("a path has a tip")
	}
	at := make([]int, len(through))
	for i, p := range through {
		if _, ok := g.pixel(p); !ok {
			return nil, ErrNoWay
		}
		at[i] = g.nearby(p)
	}
	out := []plant.Point{}
	for i := range at {
		end := ends
		if i < len(at)-1 {
			next := at[i+1]
			end = func(k int) bool { return k == next }
		}
		part, err := g.between(at[i], end)
		if err != nil {
			return nil, err
		}
		if i > 0 && len(part) > 0 {
			part = part[1:]
		}
		out = append(out, part...)
	}
	return out, nil
}

func (g *Ground) pixel(at plant.Point) (int, bool) {
	x, y := int(math.Floor(at.X)), int(math.Floor(at.Y))
	if !(at.X >= 0 && at.Y >= 0) || x >= g.w || y >= g.h {
		return 0, false
	}
	return y*g.w + x, true
}

// nearby is the cheapest pixel near a tap; each pixel of the way makes it dearer.
func (g *Ground) nearby(tap plant.Point) int {
	best, least := 0, math.Inf(1)
	for y := max(0, int(tap.Y-snap)); y <= min(g.h-1, int(tap.Y+snap)); y++ {
		for x := max(0, int(tap.X-snap)); x <= min(g.w-1, int(tap.X+snap)); x++ {
			away := math.Hypot(float64(x)+0.5-tap.X, float64(y)+0.5-tap.Y)
			if away > snap {
				continue
			}
			if c := float64(g.cost[y*g.w+x]) * (1 + awayCosts*away); c < least {
				best, least = y*g.w+x, c
			}
		}
	}
	return best
}

// Place is the middle of a pixel.
func (g *Ground) Place(pixel int) plant.Point {
	return plant.Point{X: float64(pixel%g.w) + 0.5, Y: float64(pixel/g.w) + 0.5}
}

// between is the cheapest path from one pixel to the first that ends it.
func (g *Ground) between(from int, ends func(pixel int) bool) ([]plant.Point, error) {
	spread := g.Spread([]int{from}, ends)
	if spread.End < 0 {
		return nil, ErrNoWay
	}
	back := spread.Back(spread.End)
	out := make([]plant.Point, len(back))
	for i, k := range back {
		out[len(back)-1-i] = g.Place(int(k))
	}
	return out, nil
}

// Spread is how cheaply pixels are reached from some, and by which way.
type Spread struct {
	Cost []float32
	// Before is the pixel each was reached from; -1 for those it began with and those that were not reached.
	Before []int32
	// Order are the pixels in the order they were reached for good.
	Order []int32
	// End is the first pixel that ended it, -1 when none did.
	End int
}

// Back is the way from a pixel back to where it was begun, both with it.
func (s Spread) Back(at int) []int32 {
	out := []int32{}
	for k := int32(at); k >= 0; k = s.Before[k] { //nolint:gosec // a pixel
		out = append(out, k)
	}
	return out
}

// Spread reaches out from pixels until one ends it.
func (g *Ground) Spread(from []int, ends func(pixel int) bool) Spread {
	return g.spread(from, ends, float32(math.Inf(1)))
}

// SpreadUpTo reaches out from pixels to all that cost no more than so much.
func (g *Ground) SpreadUpTo(from []int, most float32) Spread { return g.spread(from, nil, most) }

func (g *Ground) spread(from []int, ends func(pixel int) bool, most float32) Spread {
	s := Spread{make([]float32, len(g.cost)), make([]int32, len(g.cost)), nil, -1}
	far := float32(math.Inf(1))
	for i := range s.Cost {
		s.Cost[i], s.Before[i] = far, -1
	}
	open := make(queue, 0, 4096)
	for _, k := range from {
		s.Cost[k] = 0
		open.push(reached{int32(k), 0}) //nolint:gosec // a pixel
	}
	for len(open) > 0 {
		now := open.pop()
		at := int(now.at)
		if now.cost > s.Cost[at] {
			continue
		}
		if ends != nil && ends(at) {
			s.End = at
			break
		}
		if ends == nil {
			s.Order = append(s.Order, now.at)
		}
		x, y := at%g.w, at/g.w
		here := g.cost[at]
		for _, step := range steps {
			nx, ny := x+step.dx, y+step.dy
			if uint(nx) >= uint(g.w) || uint(ny) >= uint(g.h) {
				continue
			}
			next := ny*g.w + nx
			if c := now.cost + step.length*(here+g.cost[next])/2; c < s.Cost[next] && c <= most {
				s.Cost[next], s.Before[next] = c, now.at
				open.push(reached{int32(next), c}) //nolint:gosec // a pixel
			}
		}
	}
	return s
}

// reached is a pixel in the queue.
type reached struct {
	at   int32
	cost float32
}

// queue gives the cheapest first: a heap of four children a place, which is faster here than the library's of two.
type queue []reached

func (q *queue) push(r reached) {
	h := append(*q, r)
	i := len(h) - 1
	for i > 0 {
		up := (i - 1) / 4
		if h[up].cost <= r.cost {
			break
		}
		h[i], i = h[up], up
	}
	h[i] = r
	*q = h
}

func (q *queue) pop() reached {
	h := *q
	top, last := h[0], h[len(h)-1]
	h = h[:len(h)-1]
	i := 0
	for {
		first := 4*i + 1
		if first >= len(h) {
			break
		}
		least := first
		for c := first + 1; c < min(first+4, len(h)); c++ {
			if h[c].cost < h[least].cost {
				least = c
			}
		}
		if h[least].cost >= last.cost {
			break
		}
		h[i], i = h[least], least
	}
	if len(h) > 0 {
		h[i] = last
	}
	*q = h
	return top
}

// spacing is how far apart the points of a smoothed path lie, pixels.
const spacing = 1.0

// Smooth is a path without its stairs: its points a pixel apart, each the mean of its neighbours under a Gaussian of a
// sigma in pixels along the path. Its ends stay: the path goes on beyond them turned about.
func Smooth(path []plant.Point, sigma float64) []plant.Point {
	even := resample(path)
	n := len(even)
	if n < 3 || sigma <= 0 {
		return even
	}
	reach := min(int(math.Ceil(3*sigma/spacing)), n-1)
	// Turned about at an end: the ends themselves stay where they are.
	beyond := func(end, within plant.Point) plant.Point {
		return plant.Point{X: 2*end.X - within.X, Y: 2*end.Y - within.Y}
	}
	at := func(i int) plant.Point {
		switch {
		case i < 0:
			return beyond(even[0], even[-i])
		case i > n-1:
			return beyond(even[n-1], even[2*(n-1)-i])
		}
		return even[i]
	}
	out := make([]plant.Point, n)
	for i := range out {
		var x, y, sum float64
		for k := -reach; k <= reach; k++ {
			w := math.Exp(-float64(k*k) * spacing * spacing / (2 * sigma * sigma))
			q := at(i + k)
			x, y, sum = x+w*q.X, y+w*q.Y, sum+w
		}
		out[i] = plant.Point{X: x / sum, Y: y / sum}
	}
	return out
}

// resample is a path with its points evenly apart.
func resample(path []plant.Point) []plant.Point {
	if len(path) == 0 {
		return nil
	}
	out := []plant.Point{path[0]}
	left := spacing
	for i := 1; i < len(path); i++ {
		a, b := path[i-1], path[i]
		whole := math.Hypot(b.X-a.X, b.Y-a.Y)
		for done := left; done <= whole; done += spacing {
			t := done / whole
			out = append(out, plant.Point{X: a.X + t*(b.X-a.X), Y: a.Y + t*(b.Y-a.Y)})
			left = spacing + done
		}
		if left -= whole; left < 1e-9 {
			left = spacing
		}
	}
	if last := path[len(path)-1]; out[len(out)-1] != last {
		out = append(out, last)
	}
	return out
}

// Length is how long a path is, in pixels.
func Length(path []plant.Point) (px float64) {
	for i := 1; i < len(path); i++ {
		px += math.Hypot(path[i].X-path[i-1].X, path[i].Y-path[i-1].Y)
	}
	return px
}
