package likely

import (
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/ridge"
)

// Sizes of what the second forest looks at, mm.
const (
	nearMM, roundMM = 1.2, 4.0
	besideMM        = 1.5
	farMM           = 80
	goesOn          = 0.1 // a chance from which a line goes on
)

var walkedMM = []float32{1, 2, 4, 8}

// secondFeatures is how many numbers the second forest sees of a pixel.
const secondFeatures = 29

// guessed are the chances the first forest gives.
type guessed struct {
	*looked
	p     ridge.Plane
	means sums
	stem  stem
}

// stem is where the stem stands: from its lowest node up, in pixels of the scene.
type stem struct {
	nodes  []plant.Point
	ux, uy float64 // its direction up, of length 1
}

func stemOf(nodes []plant.Point) stem {
	s := stem{nodes: nodes, uy: -1}
	if len(nodes) > 1 {
		a, b := nodes[0], nodes[len(nodes)-1]
		if d := math.Hypot(b.X-a.X, b.Y-a.Y); d > 1 {
			s.ux, s.uy = (b.X-a.X)/d, (b.Y-a.Y)/d
		}
	}
	return s
}

// from is how far a place lies from the stem: beside the line through its nodes, and up it from the lowest node, pixels.
func (s stem) from(x, y float64) (beside, up float64) {
	dx, dy := x-s.nodes[0].X, y-s.nodes[0].Y
	return math.Abs(dx*s.uy - dy*s.ux), dx*s.ux + dy*s.uy
}

func (s stem) nearest(x, y float64) (node plant.Point, away float64) {
	away = math.Inf(1)
	for _, n := range s.nodes {
		if d := math.Hypot(n.X-x, n.Y-y); d < away {
			node, away = n, d
		}
	}
	return node, away
}

func guess(l *looked, p ridge.Plane) *guessed {
	return &guessed{l, p, sumsOf(p, func(v float32) float64 { return float64(v) }), stemOf(l.Nodes)}
}

// octants are the steps to the eight neighbours, turning to the right.
var octants = [8][2]int{{1, 0}, {1, 1}, {0, 1}, {-1, 1}, {-1, 0}, {-1, -1}, {0, -1}, {1, -1}}

func octantOf(dx, dy float32) int {
	return (int(math.Round(math.Atan2(float64(dy), float64(dx))/(math.Pi/4))) + 8) % 8
}

// walk is what is met on the way along a line from a pixel.
type walk struct {
	mean   [4]float32
	colour [2]float32 // how far the colour is from that of the start, at the second and the third of the lengths
	goes   float32    // how far it goes on, mm
}

// walk follows the likeliest pixels, straight or an eighth to a side at every step.
func (g *guessed) walk(x, y, octant int, centre Colour) walk {
	var out walk
	sum, steps, length, went := float32(0), 0, float32(0), true
	missed := float32(0)
	px := float32(g.PxMM)
	for i, mm := range walkedMM {
		for length < mm*px {
			best, turn := float32(-1), 0
			for _, k := range [...]int{0, 1, -1} {
				o := octants[(octant+k+8)%8]
				nx, ny := x+o[0], y+o[1]
				if nx < 0 || ny < 0 || nx >= g.p.W || ny >= g.p.H {
					continue
				}
				if v := g.p.Pix[ny*g.p.W+nx]; v > best {
					best, turn = v, k
				}
			}
			if best < 0 {
				length = mm * px // the picture ends
				steps++
				went = false
				break
			}
			octant = (octant + turn + 8) % 8
			o := octants[octant]
			x, y = x+o[0], y+o[1]
			step := float32(1)
			if o[0] != 0 && o[1] != 0 {
				step = math.Sqrt2
			}
			length += step
			sum += best
			steps++
			if best < goesOn {
				missed += step
				if missed > px {
					went = false
				}
			} else if went {
				missed, out.goes = 0, length/px
			}
		}
		out.mean[i] = sum / float32(max(1, steps))
		if i == 1 || i == 2 {
			at := y*g.p.W + x
			out.colour[i-1] = apart(centre, Colour{g.L.Pix[at], g.A.Pix[at], g.B.Pix[at]})
		}
	}
	return out
}

// second fills in what the second forest sees of a crest; first is what the first saw.
func (g *guessed) second(at int32, first, into []float32) {
	w := g.L.W
	x, y := int(at)%w, int(at)/w
	ax, ay := g.field.AcrossX.Pix[at], g.field.AcrossY.Pix[at]
	centre := Colour{g.L.Pix[at], g.A.Pix[at], g.B.Pix[at]}
	n := 0
	put := func(v float32) { into[n] = v; n++ }
	both := func(a, b float32) { put(min(a, b)); put(max(a, b)) }
	put(g.p.Pix[at])
	put(g.means.mean(x, y, max(1, int(nearMM/2*g.PxMM))))
	put(g.means.mean(x, y, max(1, int(roundMM/2*g.PxMM))))
	octant := octantOf(-ay, ax)
	on, back := g.walk(x, y, octant, centre), g.walk(x, y, (octant+4)%8, centre)
	for i := range walkedMM {
		both(on.mean[i], back.mean[i])
	}
	both(on.colour[0], back.colour[0])
	both(on.colour[1], back.colour[1])
	both(on.goes, back.goes)
	mm := func(px float64) float32 { return float32(math.Min(farMM, px/g.PxMM)) }
	cx, cy := float64(x)+0.5, float64(y)+0.5
	beside, up := g.stem.from(cx, cy)
	node, away := g.stem.nearest(cx, cy)
	put(mm(beside))
	put(max(-farMM, mm(up)))
	put(mm(away))
	towards := float32(0)
	if away > 1 {
		towards = float32(math.Abs(float64(ay)*(node.X-cx)-float64(ax)*(node.Y-cy)) / away)
	}
	put(towards)
	put(g.sideways(cx, cy, ax, ay))
	put(first[21]) // strength
	put(first[22]) // scale
	put(first[27]) // step to the flanks, towards what is expected
	put(first[36]) // contrast of what is expected
	put(first[34]) // how far from what is expected
	put(float32(math.Abs(float64(ax))))
	put(on.mean[3] * back.mean[3])
}

// sideways is the likeliest line beside a pixel: walls and stems have two edges.
func (g *guessed) sideways(x, y float64, ax, ay float32) float32 {
	best := float32(0)
	d := besideMM * g.PxMM
	for _, sign := range [...]float64{-1, 1} {
		for k := -1.0; k <= 1; k++ {
			px, py := int(x+sign*(d+k)*float64(ax)), int(y+sign*(d+k)*float64(ay))
			if px >= 0 && py >= 0 && px < g.p.W && py < g.p.H {
				best = max(best, g.p.Pix[py*g.p.W+px])
			}
		}
	}
	return best
}
