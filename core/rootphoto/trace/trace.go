// Package trace follows a root through a picture from a tapped tip to where it springs from.
//
// In: for each pixel how likely it lies on a root, 0 to 1, a tip and a target, and points that must be passed; pixels,
// centres at halves. Out: the path as a smooth polyline in pixels. Method: the cheapest path (Dijkstra 1959) over a cost
// that is low on roots, with steps to 16 neighbours, then a Gaussian along it: a chain of pixels is longer than the root.
package trace

import (
	"container/heap"
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
	length float64
}

// steps are those to the 16 neighbours: straight, diagonal, and as a knight goes.
var steps = func() (out []stepTo) {
	for dy := -2; dy <= 2; dy++ {
		for dx := -2; dx <= 2; dx++ {
			straight := max(abs(dx), abs(dy)) == 1
			knight := abs(dx)+abs(dy) == 3
			if straight || knight {
				out = append(out, stepTo{dx, dy, math.Hypot(float64(dx), float64(dy))})
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

// reached is a pixel in the queue.
type reached struct {
	at   int
	cost float64
}

type queue []reached

func (q queue) Len() int           { return len(q) }
func (q queue) Less(i, j int) bool { return q[i].cost < q[j].cost }
func (q queue) Swap(i, j int)      { q[i], q[j] = q[j], q[i] }

// Push and Pop are for the heap.
func (q *queue) Push(x any) { *q = append(*q, x.(reached)) }

// Pop takes the last.
func (q *queue) Pop() any {
	old := *q
	last := old[len(old)-1]
	*q = old[:len(old)-1]
	return last
}

// Path is the cheapest path through points in their order: from the tip, by those that must be passed, to the target.
// Each tap goes to the cheapest pixel near it, but the last: that is where it is. likely is how likely a pixel lies on a
// root.
func Path(likely ridge.Plane, through []plant.Point) ([]plant.Point, error) {
	if len(through) < 2 {
		return nil, errors.New("a path has a tip and a target")
	}
	at := make([]int, len(through))
	for i, p := range through {
		k, ok := pixel(likely, p)
		if !ok {
			return nil, ErrNoWay
		}
		if i < len(through)-1 {
			k = nearby(likely, p)
		}
		at[i] = k
	}
	out := []plant.Point{}
	for i := range len(at) - 1 {
		part, err := between(likely, at[i], at[i+1])
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

func pixel(p ridge.Plane, at plant.Point) (int, bool) {
	x, y := int(math.Floor(at.X)), int(math.Floor(at.Y))
	if !(at.X >= 0 && at.Y >= 0) || x >= p.W || y >= p.H {
		return 0, false
	}
	return y*p.W + x, true
}

func costOf(p float64) float64 { return 1 / (floor + math.Max(0, math.Min(1, p))) }

// nearby is the cheapest pixel near a tap; each pixel of the way makes it dearer.
func nearby(p ridge.Plane, tap plant.Point) int {
	best, least := 0, math.Inf(1)
	for y := max(0, int(tap.Y-snap)); y <= min(p.H-1, int(tap.Y+snap)); y++ {
		for x := max(0, int(tap.X-snap)); x <= min(p.W-1, int(tap.X+snap)); x++ {
			away := math.Hypot(float64(x)+0.5-tap.X, float64(y)+0.5-tap.Y)
			if away > snap {
				continue
			}
			if c := costOf(p.At(x, y)) * (1 + awayCosts*away); c < least {
				best, least = y*p.W+x, c
			}
		}
	}
	return best
}

// between is the cheapest path from one pixel to another.
func between(p ridge.Plane, from, to int) ([]plant.Point, error) {
	cost := make([]float64, len(p.Pix))
	before := make([]int32, len(p.Pix))
	for i := range cost {
		cost[i], before[i] = math.Inf(1), -1
	}
	cost[from] = 0
	open := &queue{{from, 0}}
	for open.Len() > 0 {
		now, _ := heap.Pop(open).(reached)
		if now.cost > cost[now.at] {
			continue
		}
		if now.at == to {
			break
		}
		x, y := now.at%p.W, now.at/p.W
		for _, s := range steps {
			nx, ny := x+s.dx, y+s.dy
			if nx < 0 || ny < 0 || nx >= p.W || ny >= p.H {
				continue
			}
			next := ny*p.W + nx
			c := now.cost + s.length*(costOf(p.Pix[now.at])+costOf(p.Pix[next]))/2
			if c < cost[next] {
				cost[next], before[next] = c, int32(now.at) //nolint:gosec // pictures have fewer pixels
				heap.Push(open, reached{next, c})
			}
		}
	}
	if math.IsInf(cost[to], 1) {
		return nil, ErrNoWay
	}
	back := []plant.Point{}
	for at := to; at >= 0; at = int(before[at]) {
		back = append(back, plant.Point{X: float64(at%p.W) + 0.5, Y: float64(at/p.W) + 0.5})
		if at == from {
			break
		}
	}
	out := make([]plant.Point, len(back))
	for i, q := range back {
		out[len(back)-1-i] = q
	}
	return out, nil
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
