// Package stem finds the two edges of a stem at its nodes: a root ends where the stem begins, not at a node's middle.
//
// In: the part of a photo around a piece, and where its nodes are. Out: for each node the direction of the stem and how far
// its edges lie to either side, in pixels of the scene. Method: the strongest step of colour along both sides, averaged
// along a stretch above the node, over directions around the one the nodes give.
package stem

import (
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/ridge"
	"clearjar/core/rootphoto/scene"
)

// Sizes, mm, and angles, degrees.
const (
	leastHalf, mostHalf = 1.75, 8.5 // half the stem's width
	fromAbove, toAbove  = 3.0, 11.0 // the stretch above the node that is looked at
	turnAlone, turn     = 36.0, 15.0
	turnStep            = 3.0
	stepMM              = 0.25
	// Along is how far a node's band reaches up and down the stem.
	Along = 3.0
)

// Band is the stem at a node.
type Band struct {
	Node plant.Point
	// UpX and UpY are the direction of the stem, to its tip, of length 1.
	UpX, UpY float64
	// Left and Right are how far the edges lie from the node to either side of that direction, pixels.
	Left, Right float64
	// AlongPX is how far the band reaches up and down.
	AlongPX float64
	// Strength is how strong the step of colour at both edges is, units of CIELAB.
	Strength float64
}

// Holds tells whether a place lies in the band.
func (b Band) Holds(x, y float64) bool {
	dx, dy := x-b.Node.X, y-b.Node.Y
	up, side := dx*b.UpX+dy*b.UpY, -dx*b.UpY+dy*b.UpX
	return math.Abs(up) <= b.AlongPX && side >= -b.Left && side <= b.Right
}

// Bands are those of the nodes of one piece in a scene.
func Bands(s *scene.Scene, nodes []plant.Point) []Band {
	ux, uy, most := 0.0, -1.0, turnAlone
	if n := len(nodes); n > 1 {
		a, b := nodes[0], nodes[n-1]
		if d := math.Hypot(b.X-a.X, b.Y-a.Y); d > 1 {
			ux, uy, most = (b.X-a.X)/d, (b.Y-a.Y)/d, turn
		}
	}
	out := []Band{}
	for _, n := range nodes {
		out = append(out, at(s, n, ux, uy, most))
	}
	return out
}

func at(s *scene.Scene, node plant.Point, ux, uy, most float64) Band {
	best := Band{Node: node, UpX: ux, UpY: uy, Left: leastHalf * 2 * s.PxMM, Right: leastHalf * 2 * s.PxMM, AlongPX: Along * s.PxMM}
	planes := [3]ridge.Plane{s.L, s.A, s.B}
	steps := int(mostHalf/stepMM) + 4
	profile := make([][3]float64, 2*steps+1)
	for a := -most; a <= most; a += turnStep {
		sin, cos := math.Sincos(a * math.Pi / 180)
		vx, vy := ux*cos-uy*sin, ux*sin+uy*cos
		for i := range profile {
			side := float64(i-steps) * stepMM * s.PxMM
			var sum [3]float64
			n := 0.0
			for up := fromAbove; up <= toAbove; up += 0.5 {
				x, y := node.X+vx*up*s.PxMM-vy*side, node.Y+vy*up*s.PxMM+vx*side
				if x < 0 || y < 0 || x >= float64(s.L.W) || y >= float64(s.L.H) {
					continue
				}
				for c := range sum {
					sum[c] += float64(planes[c].Between(float32(x), float32(y)))
				}
				n++
			}
			for c := range sum {
				profile[i][c] = sum[c] / math.Max(1, n)
			}
		}
		edge := func(from, to int) (where float64, strength float64) {
			for i := from; i <= to; i++ {
				d := 0.0
				for c := range 3 {
					v := profile[i+1][c] + profile[i+2][c] - profile[i-1][c] - profile[i-2][c]
					d += v * v / 4
				}
				if d = math.Sqrt(d); d > strength {
					where, strength = float64(i-steps)*stepMM*s.PxMM, d
				}
			}
			return where, strength
		}
		least := int(leastHalf / stepMM)
		left, sl := edge(2, steps-least)
		right, sr := edge(steps+least, 2*steps-2)
		if sl+sr > best.Strength {
			best.UpX, best.UpY, best.Left, best.Right, best.Strength = vx, vy, -left, right, sl+sr
		}
	}
	return best
}
