// Package vessel finds the two outlines of a round vessel in a photo.
//
// In: the part of a photo around a piece, and how far apart its outlines may be. Out: two lines in pixels of the scene.
// Method: where the colour steps sideways, row by row; the straight, nearly upright lines that most rows support; of all
// pairs with the piece between them, far enough apart and alike in direction, the best supported.
package vessel

import (
	"math"
	"slices"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/ridge"
	"clearjar/core/rootphoto/scene"
)

// Values of the method.
const (
	rowsTogether = 4
	arm          = 2    // pixels to either side of a step
	clip         = 7.0  // a step counts at most this, units of CIELAB
	steepest     = 0.09 // sideways over down
	slopeStep    = 0.006
	// upMM and downMM are how far above and below the lowest node the outlines are looked for.
	upMM, downMM = 15.0, 45.0
	// furtherOut is how far beyond an edge its outer one may lie, as a share of the width: the inside of a wall is seen as well.
	furtherOut, furtherShare = 0.03, 0.5
	// mirrored is how much it counts that both edges step alike, from outside to inside.
	mirrored = 0.5
	// mostApart is how differently both edges may lean beside their taper.
	mostApart = 0.1
	// leastRows: of at least one in so many rows an edge must be free to be seen.
	leastRows = 4
	// leastSupport is the least mean step of an edge.
	leastSupport = 1.2
)

// Found are the outlines of a vessel.
type Found struct {
	Left, Right optics.Edge
	// Support is the mean step of colour along the weaker of both, units of CIELAB, at most 7.
	Support float64
}

// line is an upright line: x at the middle row, and how far x moves a row.
type line struct {
	x, slope, support float64
	// step is the mean step of colour, from left to right.
	step [3]float64
}

func (l line) at(y, middle float64) float64 { return l.x + l.slope*(y-middle) }

// Between finds the outlines of a vessel whose width lies between two numbers of pixels and that holds all nodes of the
// scene; false when there are none. What is to be avoided are things in the picture with edges of their own.
// Taper is how much the radius of the vessel grows with its height, 0 for a cylinder.
func Between(s *scene.Scene, least, most, taper float64, avoid []Avoid) (Found, bool) {
	lowest := s.Nodes[0]
	for _, n := range s.Nodes {
		if n.Y > lowest.Y {
			lowest = n
		}
	}
	top, bottom := max(0, int(lowest.Y-upMM*s.PxMM)), min(s.L.H, int(lowest.Y+downMM*s.PxMM))
	if bottom-top < 8*rowsTogether {
		return Found{}, false
	}
	g := stepsOf(s, top, bottom)
	g.blank(avoid)
	middle := float64(top+bottom) / 2
	lines := g.lines(middle, math.Abs(taper))
	left, right := lowest.X, lowest.X
	for _, n := range s.Nodes {
		left, right = math.Min(left, n.X), math.Max(right, n.X)
	}
	var bestL, bestR line
	best := 0.0
	for _, a := range lines {
		if a.x > left-2*s.PxMM {
			continue
		}
		for _, b := range lines {
			width := b.x - a.x
			if b.x < right+2*s.PxMM || width < least || width > most {
				continue
			}
			// Both edges of one upright vessel lean alike but for its taper and perspective.
			if math.Abs(b.slope-a.slope+2*taper) > mostApart {
				continue
			}
			apart := math.Abs(a.slope+b.slope) / 0.1
			score := math.Sqrt(a.support*b.support) * (1 - 0.15*math.Min(2, apart)) * (1 + mirrored*alike(a, b))
			if score > best {
				best, bestL, bestR = score, a, b
			}
		}
	}
	if best < leastSupport {
		return Found{}, false
	}
	width := bestR.x - bestL.x
	bestL, bestR = outer(lines, bestL, -1, width), outer(lines, bestR, 1, width)
	bestL, bestR = g.fitted(bestL, middle), g.fitted(bestR, middle)
	edge := func(l line) optics.Edge {
		return optics.Edge{A: plant.Point{X: l.at(float64(top), middle), Y: float64(top)}, B: plant.Point{X: l.at(float64(bottom), middle), Y: float64(bottom)}}
	}
	return Found{edge(bestL), edge(bestR), math.Min(bestL.support, bestR.support)}, true
}

// outer is a line about parallel to one, further out by no more than a wall, that many rows support as well.
func outer(lines []line, of line, way float64, width float64) line {
	best := of
	for _, l := range lines {
		out := (l.x - of.x) * way
		if out > 2 && out < furtherOut*width && math.Abs(l.slope-of.slope) < 0.02 && l.support >= furtherShare*of.support && (l.x-best.x)*way > 0 {
			best = l
		}
	}
	return best
}

// steps are how much the colour steps sideways, in bands of rows.
type steps struct {
	w    int
	y    []float64
	rows [][]float32
	// signed is the step from left to right, by channel.
	signed [3][][]float32
}

func stepsOf(s *scene.Scene, top, bottom int) steps {
	g := steps{w: s.L.W}
	planes := [3]ridge.Plane{s.L, s.A, s.B}
	mean := [3][]float32{}
	for y := top; y+rowsTogether <= bottom; y += rowsTogether {
		for c, p := range planes {
			m := make([]float32, g.w)
			for k := range rowsTogether {
				for x, v := range p.Row(y + k) {
					m[x] += v / rowsTogether
				}
			}
			mean[c] = m
		}
		row := make([]float32, g.w)
		signed := [3][]float32{make([]float32, g.w), make([]float32, g.w), make([]float32, g.w)}
		for x := arm; x < g.w-arm; x++ {
			sum := float32(0)
			for c := range mean {
				d := (mean[c][x+arm] + mean[c][x+arm-1] - mean[c][x-arm] - mean[c][x-arm+1]) / 2
				sum += d * d
				signed[c][x] = min(clip, max(-clip, d))
			}
			row[x] = min(clip, float32(math.Sqrt(float64(sum))))
		}
		for c := range signed {
			g.signed[c] = append(g.signed[c], signed[c])
		}
		g.y, g.rows = append(g.y, float64(y)+rowsTogether/2.0), append(g.rows, row)
	}
	return g
}

func (g steps) support(l line, middle float64) float64 {
	sum, rows := 0.0, 0
	for i, y := range g.y {
		x := int(l.at(y, middle))
		if x >= 0 && x < g.w && g.rows[i][x] < 0 {
			continue
		}
		rows++
		if x >= 0 && x < g.w {
			sum += float64(g.rows[i][x])
		}
	}
	if rows < len(g.y)/leastRows {
		return 0
	}
	return sum / float64(rows)
}

// mostLines bounds how many lines are paired.
const mostLines = 120

// lines are the lines that more rows support than their neighbours, the best first.
func (g steps) lines(middle, taper float64) []line {
	steepest := steepest + taper
	slopes := int(2*steepest/slopeStep) + 1
	all := make([][]float64, slopes)
	for k := range all {
		all[k] = make([]float64, g.w)
		for x := range all[k] {
			all[k][x] = g.support(line{x: float64(x) + 0.5, slope: -steepest + float64(k)*slopeStep}, middle)
		}
	}
	out := []line{}
	for k := range all {
		for x := 2; x < g.w-2; x++ {
			v := all[k][x]
			if v < leastSupport/2 {
				continue
			}
			top := true
			for dk := max(0, k-2); dk <= min(slopes-1, k+2) && top; dk++ {
				for dx := x - 2; dx <= x+2; dx++ {
					if all[dk][dx] > v {
						top = false
						break
					}
				}
			}
			if top {
				out = append(out, line{x: float64(x) + 0.5, slope: -steepest + float64(k)*slopeStep, support: v})
			}
		}
	}
	slices.SortStableFunc(out, func(a, b line) int {
		switch {
		case a.support > b.support:
			return -1
		case a.support < b.support:
			return 1
		}
		return 0
	})
	out = out[:min(len(out), mostLines)]
	for i := range out {
		out[i].step = g.step(out[i], middle)
	}
	return out
}

// step is the mean step of colour along a line, from left to right.
func (g steps) step(l line, middle float64) (out [3]float64) {
	for i, y := range g.y {
		if x := int(l.at(y, middle)); x >= 0 && x < g.w {
			for c := range out {
				out[c] += float64(g.signed[c][i][x]) / float64(len(g.y))
			}
		}
	}
	return out
}

// alike is how alike the steps from outside to inside are at both edges of a vessel, -1 to 1.
func alike(left, right line) float64 {
	var d, a, b float64
	for c := range left.step {
		d -= left.step[c] * right.step[c]
		a += left.step[c] * left.step[c]
		b += right.step[c] * right.step[c]
	}
	return d / (math.Sqrt(a*b) + 0.5)
}

// fitted moves a line onto the strongest steps near it, row by row, those far off left out.
func (g steps) fitted(l line, middle float64) line {
	const reach = 4
	for range 3 {
		var n, sy, sx, syy, sxy float64
		for i, y := range g.y {
			at := l.at(y, middle)
			var sum, weight float64
			for x := max(0, int(at)-reach); x <= min(g.w-1, int(at)+reach); x++ {
				w := math.Max(0, float64(g.rows[i][x]))
				w *= w
				sum += w * (float64(x) + 0.5)
				weight += w
			}
			if weight < 1 {
				continue
			}
			x, dy := sum/weight, y-middle
			if math.Abs(x-at) > reach-1 {
				continue
			}
			w := math.Min(weight, 50)
			n, sy, sx, syy, sxy = n+w, sy+w*dy, sx+w*x, syy+w*dy*dy, sxy+w*dy*x
		}
		d := n*syy - sy*sy
		if n < 50 || d <= 0 {
			return l
		}
		l.slope = (n*sxy - sy*sx) / d
		l.x = (sx - l.slope*sy) / n
	}
	return l
}
