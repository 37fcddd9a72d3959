package vessel

import (
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/scene"
)

// Avoid is a four-sided part of a scene whose edges are not those of a vessel: a label, a ruler.
type Avoid [4]plant.Point

// holds tells whether a place lies in it, whichever way its corners turn.
func (a Avoid) holds(x, y float64) bool {
	left, right := false, false
	for i := range a {
		p, q := a[i], a[(i+1)%4]
		side := (q.X-p.X)*(y-p.Y) - (q.Y-p.Y)*(x-p.X)
		left, right = left || side < 0, right || side > 0
	}
	return !left || !right
}

// blank marks the steps in what is to be avoided: they count neither for an edge nor against it.
func (g *steps) blank(avoid []Avoid) {
	for _, a := range avoid {
		left, right := math.Inf(1), math.Inf(-1)
		for _, p := range a {
			left, right = math.Min(left, p.X), math.Max(right, p.X)
		}
		for i, y := range g.y {
			for x := max(0, int(left)-1); x <= min(g.w-1, int(right)+1); x++ {
				if a.holds(float64(x)+0.5, y) {
					g.rows[i][x] = -1
				}
			}
		}
	}
}

// How the paper around a tag is followed to its edges.
const (
	paperStep = 0.05 // a step, as a share of the tag's width
	paperMost = 3.0  // at most so many widths to each side
	paperNear = 9.0  // how far its colour may lie from that beside the tag, units of CIELAB
	paperPart = 0.45 // and how much of a line across it must have that colour
	margin    = 0.08 // the edge itself is avoided as well
)

// Paper is the label that a tag is printed on, found by going on from the tag to every side as long as there is paper.
// Corners are those of the tag, in pixels of the scene: top left, top right, bottom right, bottom left.
func Paper(s *scene.Scene, corners [4]plant.Point) Avoid {
	at := func(u, v float64) plant.Point {
		top := plant.Point{X: corners[0].X + u*(corners[1].X-corners[0].X), Y: corners[0].Y + u*(corners[1].Y-corners[0].Y)}
		low := plant.Point{X: corners[3].X + u*(corners[2].X-corners[3].X), Y: corners[3].Y + u*(corners[2].Y-corners[3].Y)}
		return plant.Point{X: top.X + v*(low.X-top.X), Y: top.Y + v*(low.Y-top.Y)}
	}
	colour := func(u, v float64) (c [3]float64, ok bool) {
		p := at(u, v)
		if p.X < 0 || p.Y < 0 || p.X >= float64(s.L.W) || p.Y >= float64(s.L.H) {
			return c, false
		}
		x, y := float32(p.X), float32(p.Y)
		return [3]float64{float64(s.L.Between(x, y)), float64(s.A.Between(x, y)), float64(s.B.Between(x, y))}, true
	}
	// The quiet zone around the tag is paper.
	var paper [3]float64
	n := 0.0
	for t := 0.0; t <= 1; t += 0.05 {
		for _, p := range [][2]float64{{t, -0.08}, {t, 1.08}, {-0.08, t}, {1.08, t}} {
			if c, ok := colour(p[0], p[1]); ok {
				for k := range paper {
					paper[k] += c[k]
				}
				n++
			}
		}
	}
	for k := range paper {
		paper[k] /= math.Max(1, n)
	}
	onPaper := func(point func(t float64) (u, v float64)) bool {
		white, all := 0.0, 0.0
		for t := 0.0; t <= 1; t += 0.02 {
			c, ok := colour(point(t))
			if !ok {
				continue
			}
			all++
			if math.Sqrt((c[0]-paper[0])*(c[0]-paper[0])+(c[1]-paper[1])*(c[1]-paper[1])+(c[2]-paper[2])*(c[2]-paper[2])) < paperNear {
				white++
			}
		}
		return all > 0 && white >= paperPart*all
	}
	grow := func(point func(far, t float64) (u, v float64)) float64 {
		far := 2 * paperStep
		for ; far < paperMost; far += paperStep {
			if !onPaper(func(t float64) (float64, float64) { return point(far, t) }) {
				break
			}
		}
		return far + margin
	}
	left := grow(func(far, t float64) (float64, float64) { return -far, t })
	right := grow(func(far, t float64) (float64, float64) { return 1 + far, t })
	up := grow(func(far, t float64) (float64, float64) { return t, -far })
	down := grow(func(far, t float64) (float64, float64) { return t, 1 + far })
	return Avoid{at(-left, -up), at(1+right, -up), at(1+right, 1+down), at(-left, 1+down)}
}

// Strip is a ruler along two points on its marked edge: so many pixels to both sides.
func Strip(a, b plant.Point, beside float64) Avoid {
	d := math.Max(1e-9, math.Hypot(b.X-a.X, b.Y-a.Y))
	ux, uy := (b.X-a.X)/d, (b.Y-a.Y)/d
	// It goes on beyond the points.
	a, b = plant.Point{X: a.X - d*ux, Y: a.Y - d*uy}, plant.Point{X: b.X + d*ux, Y: b.Y + d*uy}
	off := func(p plant.Point, k float64) plant.Point { return plant.Point{X: p.X - k*uy, Y: p.Y + k*ux} }
	return Avoid{off(a, beside), off(b, beside), off(b, -beside), off(a, -beside)}
}
