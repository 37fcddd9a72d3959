package trace

import (
	"errors"
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/stem"
)

const (
	// besideNext and besideCorner are which part of a crest's chance the pixels beside it have.
	besideNext, besideCorner = 0.5, 0.4
	// worthIt is what a pixel of the way over the stem must have in 1/cost for the path to go on towards the node.
	worthIt = 0.75
	// SmoothMM is the sigma of the Gaussian that a path is smoothed by.
	SmoothMM = 0.6
	// weakMM is the length over which the least chance of a path is taken, mm.
	weakMM = 2.5
	// tipBack and tipOn are how far before and beyond the tap the tip is looked for, pixels.
	tipBack, tipOn = 8, 11
	// mostBands bounds the nodes of all pieces in a photo.
	mostBands = 250
)

// Guide follows roots in a scene to the nodes of its piece.
type Guide struct {
	*Ground
	Map *likely.Map
	// Bands are those of the piece, then those of other pieces in the photo; the first Mine are its own.
	Bands []stem.Band
	Mine  int
	// band is, for each pixel, 1 + the node whose band it lies in.
	band []uint8
}

// Guided makes a guide.
func Guided(m *likely.Map) *Guide {
	g := &Guide{Ground: On(likely.Spread(m.P, besideNext, besideCorner)), Map: m, Bands: stem.Bands(m.Scene, m.Nodes), Mine: len(m.Nodes), band: make([]uint8, m.L.W*m.L.H)}
	for _, piece := range m.Others {
		if len(g.Bands)+len(piece) <= mostBands {
			g.Bands = append(g.Bands, stem.Bands(m.Scene, piece)...)
		}
	}
	for i, b := range g.Bands {
		reach := int(math.Hypot(math.Max(b.Left, b.Right), b.AlongPX)) + 1
		for y := max(0, int(b.Node.Y)-reach); y <= min(g.h-1, int(b.Node.Y)+reach); y++ {
			for x := max(0, int(b.Node.X)-reach); x <= min(g.w-1, int(b.Node.X)+reach); x++ {
				if (g.band[y*g.w+x] == 0 || i < g.Mine) && b.Holds(float64(x)+0.5, float64(y)+0.5) {
					g.band[y*g.w+x] = uint8(i + 1) //nolint:gosec // fewer than 255
				}
			}
		}
	}
	return g
}

// InBand is 1 + the node whose stretch of the stem a pixel lies in, 0 outside.
func (g *Guide) InBand(pixel int) int { return int(g.band[pixel]) }

// Followed is a root as it was followed: a line from the stem to the tip, in pixels of the scene.
type Followed struct {
	// Node is which of the nodes of the scene it springs from.
	Node int
	Line []plant.Point
	// Mean is the mean chance along it, Weak the least mean over a short stretch.
	Mean, Weak float32
}

// ErrOthers says that a root runs to another piece of the photo.
var ErrOthers = errors.New("this root runs to another cutting in the photo: choose the node it belongs to, or leave it to the other")

// ErrNoNode says that a node was asked for that the scene does not have.
var ErrNoNode = errors.New("this node is not in the picture")

// Follow follows a root from a tap at its tip to its node, by points it must pass. With node -1 it goes to whichever node
// is reached at the least cost.
func (g *Guide) Follow(tip plant.Point, pass []plant.Point, node int) (Followed, error) {
	if node >= g.Mine || g.Mine == 0 {
		return Followed{}, ErrNoNode
	}
	through := append([]plant.Point{tip}, pass...)
	path, err := g.PathInto(through, func(k int) bool {
		b := int(g.band[k])
		return b > 0 && (node < 0 || b == node+1)
	})
	if err != nil {
		return Followed{}, err
	}
	end := path[len(path)-1]
	k, _ := g.pixel(end)
	if node = int(g.band[k]) - 1; node >= g.Mine {
		return Followed{}, ErrOthers
	}
	path = append(path, g.over(end, node)...)
	path = g.withTip(path)
	return g.followed(path, node), nil
}

// over goes on over the stem towards the node as long as the root is seen on it.
func (g *Guide) over(from plant.Point, node int) []plant.Point {
	to, ok := g.pixel(g.Bands[node].Node)
	start, _ := g.pixel(from)
	if !ok || to == start {
		return nil
	}
	way, err := g.between(start, func(k int) bool { return k == to })
	if err != nil {
		return nil
	}
	gain, most, keep := 0.0, 0.0, 0
	for i := 1; i < len(way); i++ {
		k, _ := g.pixel(way[i])
		gain += (1/float64(g.cost[k]) - worthIt) * math.Hypot(way[i].X-way[i-1].X, way[i].Y-way[i-1].Y)
		if gain > most {
			most, keep = gain, i
		}
	}
	return way[1 : keep+1]
}

// withTip moves the tip, the first point of a path, to where the root is seen to end: a tap is a little off.
func (g *Guide) withTip(path []plant.Point) []plant.Point {
	even := Smooth(path, 2)
	if len(even) < 2*tipBack {
		return path
	}
	// The way beyond the tip goes straight on.
	a, b := even[0], even[min(len(even)-1, tipBack)]
	d := math.Hypot(a.X-b.X, a.Y-b.Y)
	if d == 0 {
		return path
	}
	ux, uy := (a.X-b.X)/d, (a.Y-b.Y)/d
	line := []plant.Point{}
	for i := tipOn; i > 0; i-- {
		line = append(line, plant.Point{X: a.X + float64(i)*ux, Y: a.Y + float64(i)*uy})
	}
	line = append(line, even[:2*tipBack]...)
	p := make([]float64, len(line))
	for i, q := range line {
		for _, beside := range [...]float64{-1, 0, 1} {
			p[i] = math.Max(p[i], float64(g.P(plant.Point{X: q.X - uy*beside, Y: q.Y + ux*beside})))
		}
	}
	// The best step from what is no root to what is one.
	sum := make([]float64, len(p)+1)
	for i, v := range p {
		sum[i+1] = sum[i] + v
	}
	best, at := 0.0, tipOn
	const arm = 6
	for i := 1; i <= tipOn+tipBack; i++ {
		before, after := max(0, i-arm), min(len(p), i+arm)
		step := (sum[after]-sum[i])/float64(after-i) - (sum[i]-sum[before])/float64(i-before)
		// Where nothing speaks for another place the tap is right.
		step -= 0.01 * math.Abs(float64(i-tipOn))
		if step > best {
			best, at = step, i
		}
	}
	if at <= tipOn {
		return append(line[at:tipOn:tipOn], path...)
	}
	cut := line[at]
	// Cut off what of the path lies before it.
	near, where := math.Inf(1), 0
	for i, q := range path[:min(len(path), 3*tipBack)] {
		if d := math.Hypot(q.X-cut.X, q.Y-cut.Y); d < near {
			near, where = d, i
		}
	}
	return path[where:]
}

// followed turns a path about, from the stem to the tip, smooths it and says how sure it is.
func (g *Guide) followed(path []plant.Point, node int) Followed {
	out := Followed{Node: node}
	turned := make([]plant.Point, len(path))
	for i, q := range path {
		turned[len(path)-1-i] = q
	}
	out.Line = Smooth(turned, SmoothMM*g.Map.PxMM)
	out.Mean, out.Weak = g.Sure(out.Line)
	return out
}

// Sure is the mean chance along a line, and the least mean over a short stretch of it.
func (g *Guide) Sure(line []plant.Point) (mean, weak float32) {
	p := make([]float32, len(line))
	for i, q := range line {
		p[i] = g.P(q)
		mean += p[i] / float32(len(line))
	}
	over := max(1, min(len(p), int(weakMM*g.Map.PxMM)))
	sum := float32(0)
	weak = 1
	for i, v := range p {
		sum += v
		if i >= over {
			sum -= p[i-over]
		}
		if i >= over-1 {
			weak = min(weak, sum/float32(over))
		}
	}
	return mean, weak
}
