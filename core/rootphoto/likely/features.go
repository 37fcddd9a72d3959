package likely

import (
	"math"

	"clearjar/core/rootphoto/ridge"
	"clearjar/core/rootphoto/scene"
)

// Background is what roots are seen against: what differs between media that show their roots, as numbers a forest can
// ask for.
type Background struct {
	// Water, Moss and Grains say what stands around the roots; none of them is a bare board.
	Water, Moss, Grains bool
}

// Colour is a colour in CIELAB.
type Colour [3]float32

// looked is a scene with all that the features of its pixels are read from.
type looked struct {
	*scene.Scene
	behind   Background
	expected Colour
	scales   []ridge.Scaled
	field    ridge.Field
	crests   []int32
	means    [3]sums // of L, a, b
	squares  sums    // of L
}

func look(s *scene.Scene, behind Background, expected Colour) *looked {
	l := &looked{Scene: s, behind: behind, expected: expected}
	l.scales = s.Scales()
	l.field = s.Field(l.scales)
	l.crests = l.field.Crests(ridge.LeastStrength)
	for i, p := range l.channels() {
		l.means[i] = sumsOf(p, func(v float32) float64 { return float64(v) })
	}
	l.squares = sumsOf(l.L, func(v float32) float64 { return float64(v) * float64(v) })
	return l
}

func (l *looked) channels() [3]ridge.Plane { return [3]ridge.Plane{l.L, l.A, l.B} }

// sums are the sums of a plane from its top left corner: the sum of any box takes four of them.
type sums struct {
	w, h int
	sum  []float64
}

func sumsOf(p ridge.Plane, of func(float32) float64) sums {
	s := sums{p.W, p.H, make([]float64, (p.W+1)*(p.H+1))}
	for y := range p.H {
		row, up, into := 0.0, s.sum[y*(p.W+1):], s.sum[(y+1)*(p.W+1):]
		for x, v := range p.Row(y) {
			row += of(v)
			into[x+1] = up[x+1] + row
		}
	}
	return s
}

// mean of the box so many pixels around a pixel, as far as it lies in the picture.
func (s sums) mean(x, y, around int) float32 {
	x0, x1, y0, y1 := max(0, x-around), min(s.w, x+around+1), max(0, y-around), min(s.h, y+around+1)
	w := s.w + 1
	return float32((s.sum[y1*w+x1] - s.sum[y0*w+x1] - s.sum[y1*w+x0] + s.sum[y0*w+x0]) / float64((x1-x0)*(y1-y0)))
}

// Sizes of what is looked at, mm.
const (
	wideMM, closeMM = 2.5, 1.0
	flankSigmas     = 2.6
)

var alongMM = []float32{0.4, 0.8, 1.6, 3.2}

// apart is how far two colours are from each other.
func apart(a, b Colour) float32 {
	return float32(math.Sqrt(float64((a[0]-b[0])*(a[0]-b[0]) + (a[1]-b[1])*(a[1]-b[1]) + (a[2]-b[2])*(a[2]-b[2]))))
}

func minus(a, b Colour) Colour { return Colour{a[0] - b[0], a[1] - b[1], a[2] - b[2]} }

func dot(a, b Colour) float32 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }

func (l *looked) colourAt(x, y float32) Colour {
	return Colour{l.L.Between(x, y), l.A.Between(x, y), l.B.Between(x, y)}
}

// firstFeatures is how many numbers the first forest sees of a pixel.
const firstFeatures = 62

// first fills in what the first forest sees of a crest.
func (l *looked) first(at int32, into []float32) {
	w := l.L.W
	x, y := int(at)%w, int(at)/w
	cx, cy := float32(x)+0.5, float32(y)+0.5
	ax, ay := l.field.AcrossX.Pix[at], l.field.AcrossY.Pix[at]
	best := int(l.field.Scale[at])
	wide, close := max(2, int(wideMM*l.PxMM)), max(1, int(closeMM*l.PxMM))
	around := Colour{l.means[0].mean(x, y, wide), l.means[1].mean(x, y, wide), l.means[2].mean(x, y, wide)}
	centre := Colour{l.L.Pix[at], l.A.Pix[at], l.B.Pix[at]}
	way := minus(l.expected, around)
	contrast := float32(math.Sqrt(float64(dot(way, way))))
	unit := Colour{}
	if contrast > 1 {
		unit = Colour{way[0] / contrast, way[1] / contrast, way[2] / contrast}
	}
	n := 0
	put := func(v float32) { into[n] = v; n++ }
	for i, s := range l.scales {
		var across, along Colour
		for c := range 3 {
			xx, xy, yy := s.Bend(c, x, y)
			across[c] = ax*ax*xx + 2*ax*ay*xy + ay*ay*yy
			if i == best {
				along[c] = ay*ay*xx - 2*ax*ay*xy + ax*ax*yy
			}
		}
		put(across[0])
		put(across[1])
		put(across[2])
		put(-dot(across, unit))
		if i == best {
			into[20] = -dot(along, unit)
		}
	}
	n++
	strength, second := l.field.Strength.Pix[at], l.field.Second.Pix[at]
	put(strength)
	put(float32(best))
	put(second / (strength + second + 0.1))
	reach := float32(flankSigmas * l.scales[best].Sigma)
	one, two := l.colourAt(cx+reach*ax, cy+reach*ay), l.colourAt(cx-reach*ax, cy-reach*ay)
	flank := Colour{(one[0] + two[0]) / 2, (one[1] + two[1]) / 2, (one[2] + two[2]) / 2}
	step := minus(centre, flank)
	put(step[0])
	put(step[1])
	put(step[2])
	put(dot(step, unit))
	put(apart(one, two))
	put(min(dot(minus(centre, one), unit), dot(minus(centre, two), unit)))
	off := minus(centre, around)
	put(off[0])
	put(off[1])
	put(off[2])
	put(dot(off, unit))
	put(apart(centre, l.expected))
	put(apart(flank, l.expected))
	put(contrast)
	put(min(apart(one, l.expected), apart(two, l.expected)))
	put(dot(minus(centre, l.expected), unit))
	mean := l.means[0].mean(x, y, wide)
	put(float32(math.Sqrt(math.Max(0, float64(l.squares.mean(x, y, wide)-mean*mean)))))
	mean = l.means[0].mean(x, y, close)
	put(float32(math.Sqrt(math.Max(0, float64(l.squares.mean(x, y, close)-mean*mean)))))
	put(centre[0] - l.expected[0])
	put(centre[1] - l.expected[1])
	put(centre[2] - l.expected[2])
	for _, mm := range alongMM {
		d := mm * float32(l.PxMM)
		a, b := l.along(cx, cy, -ay*d, ax*d, ax, ay), l.along(cx, cy, ay*d, -ax*d, ax, ay)
		put(min(a, b))
		put(max(a, b))
	}
	for _, mm := range []float32{0.8, 2} {
		d := mm * float32(l.PxMM)
		a, b := apart(l.colourAt(cx-ay*d, cy+ax*d), centre), apart(l.colourAt(cx+ay*d, cy-ax*d), centre)
		put(min(a, b))
		put(max(a, b))
	}
	put(flag(l.behind.Water))
	put(flag(l.behind.Moss))
	put(flag(l.behind.Grains))
	put(float32(math.Abs(float64(ax))))
	put(l.expected[0] - around[0])
	put(l.expected[2] - around[2])
}

func flag(v bool) float32 {
	if v {
		return 1
	}
	return 0
}

// along is how strong a line goes on at a step from a place: the strongest of three pixels across it.
func (l *looked) along(x, y, dx, dy, ax, ay float32) float32 {
	best := float32(0)
	for _, k := range [...]float32{-1, 0, 1} {
		px, py := int(x+dx+k*ax), int(y+dy+k*ay)
		if px < 0 || py < 0 || px >= l.L.W || py >= l.L.H {
			continue
		}
		at := py*l.L.W + px
		same := l.field.AcrossX.Pix[at]*ax + l.field.AcrossY.Pix[at]*ay
		best = max(best, l.field.Strength.Pix[at]*same*same)
	}
	return best
}
