package measure

import (
	"math"
	"slices"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/colour"
)

// How the width of a root is read.
const (
	// widestMM is the widest root that is looked for, and besideWidthMM how far beyond its middle its surroundings lie.
	widestMM      = 4.0
	besideWidthMM = 2.4
	// Crossings are this far apart along the line; those near the stem are of the stem.
	crossingsApartMM = 0.6
	nearStemMM       = 2.0
	// tipFromMM to tipToMM before the end is the tip: the end itself is round.
	tipFromMM, tipToMM = 4.0, 0.8
	// leastContrast is how much a root must differ from beside it for its edge to be seen, in units of lightness.
	leastContrast = 4.0
	// leastCrossings is how many crossings a width needs.
	leastCrossings = 3
	// softens is the sigma of the blur that cameras and their JPEGs leave, pixels of the scene: it widens what is thin.
	softens = 0.9
)

// widths are the mean width of the root along a line of the scene and that of its tip, mm; nil where its edges are not
// seen. Each crossing is as wide as the colour is more the root's than that beside it (full width at half of the
// difference), between two places that are cast like every other: a jar widens roots as well.
func (s *Seen) widths(line []plant.Point) (mean, tip *float64) {
	m := s.Guide.Map
	along := make([]float64, len(line))
	for i := 1; i < len(line); i++ {
		along[i] = along[i-1] + math.Hypot(line[i].X-line[i-1].X, line[i].Y-line[i-1].Y)/m.PxMM
	}
	if len(line) < 3 {
		return nil, nil
	}
	whole := along[len(along)-1]
	all, ends := []float64{}, []float64{}
	next := nearStemMM
	for i := 1; i < len(line)-1; i++ {
		if along[i] < next {
			continue
		}
		next = along[i] + crossingsApartMM
		mm, ok := s.across(line[max(0, i-2)], line[i], line[min(len(line)-1, i+2)])
		if !ok {
			continue
		}
		left := whole - along[i]
		if left > tipToMM {
			all = append(all, mm)
		}
		if left <= tipFromMM && left >= tipToMM {
			ends = append(ends, mm)
		}
	}
	middle := func(v []float64) *float64 {
		if len(v) < leastCrossings {
			return nil
		}
		slices.Sort(v)
		w := v[len(v)/2]
		return &w
	}
	return middle(all), middle(ends)
}

// across is how wide the root is at a point of its line, mm.
func (s *Seen) across(before, at, after plant.Point) (mm float64, ok bool) {
	m := s.Guide.Map
	ux, uy := after.X-before.X, after.Y-before.Y
	n := math.Hypot(ux, uy)
	if n == 0 {
		return 0, false
	}
	nx, ny := -uy/n, ux/n
	look := func(d float64) colour.Lab {
		x, y := float32(at.X+d*nx), float32(at.Y+d*ny)
		return colour.Lab{L: float64(m.L.Between(x, y)), A: float64(m.A.Between(x, y)), B: float64(m.B.Between(x, y))}
	}
	beside := besideWidthMM * m.PxMM
	left, right := look(-beside), look(beside)
	// The middle of a thin root lies within a pixel of its line.
	best, middle := 0.0, 0.0
	for d := -1.5; d <= 1.5; d += 0.5 {
		if c := math.Min(apart(look(d), left), apart(look(d), right)); c > best {
			best, middle = c, d
		}
	}
	if best < leastContrast {
		return 0, false
	}
	top := look(middle)
	edge := func(side float64, ground colour.Lab) (float64, bool) {
		full := apart(top, ground)
		last := 1.0
		for d := 0.5; d <= widestMM/2*m.PxMM; d += 0.5 {
			now := share(look(middle+side*d), ground, top, full)
			if now < 0.5 {
				return d - 0.5 + 0.5*(last-0.5)/(last-now), true
			}
			last = now
		}
		return 0, false
	}
	a, okA := edge(-1, left)
	b, okB := edge(1, right)
	if !okA || !okB {
		return 0, false
	}
	wide := a + b
	// The blur of the picture is no width: that of a thin bar of width w blurred by sigma is about the root of the sum of squares.
	if by := 2.355 * softens; wide > by {
		wide = math.Max(wide/2, math.Sqrt(wide*wide-by*by*math.Exp(-wide*wide/(4*by*by))))
	} else {
		wide /= 2
	}
	from := m.Out(plant.Point{X: at.X + (middle-wide/2)*nx, Y: at.Y + (middle-wide/2)*ny})
	to := m.Out(plant.Point{X: at.X + (middle+wide/2)*nx, Y: at.Y + (middle+wide/2)*ny})
	p, okP := s.Surface.Place(from)
	q, okQ := s.Surface.Place(to)
	return p.To(q), okP && okQ
}

func apart(a, b colour.Lab) float64 {
	return math.Sqrt((a.L-b.L)*(a.L-b.L) + (a.A-b.A)*(a.A-b.A) + (a.B-b.B)*(a.B-b.B))
}

// share is how far a colour has gone from the ground to the top, 0 to 1.
func share(c, ground, top colour.Lab, full float64) float64 {
	return ((c.L-ground.L)*(top.L-ground.L) + (c.A-ground.A)*(top.A-ground.A) + (c.B-ground.B)*(top.B-ground.B)) / (full * full)
}
