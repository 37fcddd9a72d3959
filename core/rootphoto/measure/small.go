package measure

import (
	_ "embed"
	"encoding/json"
	"math"
	"slices"
	"sync"

	"clearjar/core/rootphoto/colour"
	"clearjar/core/rootphoto/find"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/place"
	"clearjar/core/rootphoto/ridge"
	"clearjar/core/rootphoto/scene"
	"clearjar/core/rootphoto/tag"
)

// Small is what was learned in few numbers.
type Small struct {
	Colours    colour.Classes `json:"colours"`
	Allowances []Allowance    `json:"allowances"`
	Count      Count          `json:"count"`
}

// Allowance is how the true length of roots relates to that on the surface they are taken to lie on: low and high hold it
// nine times in ten, middle is usual. Measured on photos of known truth.
type Allowance struct {
	Shape place.Shape `json:"shape"`
	// Reach is how far a root reaches sideways over its length, from none: 0 hangs, 1 reaches, 2 lies. It counts in jars.
	Reach int `json:"reach"`
	// Unsure tells that the line is weak somewhere.
	Unsure bool    `json:"unsure"`
	Low    float64 `json:"low"`
	Middle float64 `json:"middle"`
	High   float64 `json:"high"`
	Roots  int     `json:"roots"`
}

// reaches are where a root is said to hang, to reach and to lie: sideways reach over length.
var reaches = [2]float64{0.45, 0.7}

// Kind is which allowance a length has, without its numbers.
func Kind(shape place.Shape, l place.Length, weak float32) Allowance {
	a := Allowance{Shape: shape, Unsure: weak < sureWeak}
	if shape == place.RoundJar && l.MM > 0 {
		for _, r := range reaches {
			if l.ReachMM/l.MM > r {
				a.Reach++
			}
		}
	}
	return a
}

// Allowance is that of a length. Of a kind that was never learned it is wide.
func (s Small) Allowance(shape place.Shape, l place.Length, weak float32) Allowance {
	k := Kind(shape, l, weak)
	for _, a := range s.Allowances {
		if a.Shape == k.Shape && a.Reach == k.Reach && a.Unsure == k.Unsure {
			return a
		}
	}
	k.Low, k.Middle, k.High = 0.6, 1, 1.9
	return k
}

// leastRoots is how many roots of a kind an allowance is learned from; of fewer, with the sure and the unsure together.
const leastRoots = 12

// mostHigh bounds how much longer than seen an interval reaches: what is longer still is a line that was followed wrongly.
const mostHigh = 3.0

// Ratios are true lengths over measured ones, of lines of some kinds.
type Ratios struct {
	kinds []Allowance
	ratio []float64
}

// Add adds one.
func (r *Ratios) Add(k Allowance, ratio float64) {
	r.kinds, r.ratio = append(r.kinds, k), append(r.ratio, ratio)
}

// of are the ratios of lines of a shape and a reach, in order; only the sure or the unsure ones when that is said.
func (r Ratios) of(shape place.Shape, reach int, unsure ...bool) []float64 {
	out := []float64{}
	for i, k := range r.kinds {
		if k.Shape == shape && k.Reach == reach && (len(unsure) == 0 || k.Unsure == unsure[0]) {
			out = append(out, r.ratio[i])
		}
	}
	slices.Sort(out)
	return out
}

// LearnAllowances learns them: what sure lines come to when they were mended, and unsure ones as one tap gives them. What is
// usual is that of all mended lines.
func LearnAllowances(mended, taps Ratios) []Allowance {
	out := []Allowance{}
	for _, shape := range []place.Shape{place.Board, place.FlatWall, place.RoundCup, place.RoundJar} {
		for reach := range 3 {
			all := mended.of(shape, reach)
			if len(all) < leastRoots/2 {
				continue
			}
			for _, unsure := range []bool{false, true} {
				some := mended.of(shape, reach, false)
				if unsure {
					some = taps.of(shape, reach, true)
				}
				if len(some) < leastRoots {
					some = taps.of(shape, reach)
				}
				at := func(v []float64, q float64) float64 { return v[int(q*float64(len(v)-1)+0.5)] }
				// Lines that are mended vary less than those of one tap; of few roots the ends are hardly seen.
				end := 0.02
				if unsure {
					end = 0.012
				}
				// What is seen lies within: a root is never shown outside of its own interval.
				low, high := math.Min(1, at(some, end)), math.Max(1, math.Min(mostHigh, at(some, 1-end)))
				out = append(out, Allowance{shape, reach, unsure, low, at(all, 0.45), high, len(some)})
			}
		}
	}
	return out
}

// Count tells how many roots of the stem there are from the sum of the confidences of those found near it.
type Count struct {
	Least float64 `json:"least"`
	Each  float64 `json:"each"`
}

// LearnCount fits it, the error relative to the count.
func LearnCount(sums, counts []float64) Count {
	var a11, a12, a22, b1, b2 float64
	for i, n := range counts {
		if n <= 0 {
			continue
		}
		x, w := sums[i], 1/(n*n)
		a11, a12, a22, b1, b2 = a11+w, a12+w*x, a22+w*x*x, b1+w*n, b2+w*x*n
	}
	d := a11*a22 - a12*a12
	if d == 0 {
		return Count{0, 1}
	}
	return Count{(b1*a22 - b2*a12) / d, (a11*b2 - a12*b1) / d}
}

// Of is how many there are; none where nothing was found.
func (c Count) Of(sum float64) float64 {
	if sum < 0.3 {
		return 0
	}
	return c.Least + c.Each*sum
}

// nearStem is how far from the stem a line may leave another and still count as a root of the stem, mm.
const nearStem = 10

// NearStem is the sum of the confidences of the best candidate of each branch that begins at or near the stem.
func NearStem(t *find.Tables, all []find.Candidate) float64 {
	best := map[int]float64{}
	for _, c := range all {
		if c.LeavesMM() < nearStem {
			best[c.Branch] = max(best[c.Branch], t.Chance(c))
		}
	}
	sum := 0.0
	for i := range len(best) + find.MostBranches {
		sum += best[i] // in their order: the same sum every time
	}
	return sum
}

// The confidences from which a line is proposed, and from which it is sure.
const (
	ProposeFrom = 0.35
	SureFrom    = 0.62
	// liesFrom is from which chance that it lies on a root a line is proposed whose end is unsure.
	liesFrom = 0.92
)

// Proposed is what a line must have to be proposed at a least confidence. From [ProposeFrom] down those are too that
// surely lie on a root though their end is unsure.
func Proposed(least float64) find.Wanted {
	w := find.Wanted{Confidence: least, Lies: 2}
	if least <= ProposeFrom {
		w.Lies = liesFrom
	}
	return w
}

//go:embed learned.json
var shipped []byte

// Shipped are the tables that come with the program.
var Shipped = sync.OnceValues(func() (*Tables, error) {
	t := &Tables{}
	var err error
	if t.Likely, err = likely.Shipped(); err != nil {
		return nil, err
	}
	if t.Find, err = find.Shipped(); err != nil {
		return nil, err
	}
	return t, json.Unmarshal(shipped, &t.Small)
})

// brightest is which part of the pixels may be brighter than what is taken for white.
const brightest = 0.02

// whiteOf is the white of a photo: the paper around its tag, else its brightest part.
func whiteOf(s *scene.Scene, found *tag.Found) colour.Lab {
	if found != nil {
		var sum colour.Lab
		n := 0.0
		c := found.Corners
		for i := range 4 {
			a, b, across := c[i], c[(i+1)%4], c[(i+2)%4]
			// A strip just outside of each side is paper.
			for t := 0.1; t <= 0.9; t += 0.1 {
				x, y := a.X+t*(b.X-a.X)-0.07*(across.X-b.X), a.Y+t*(b.Y-a.Y)-0.07*(across.Y-b.Y)
				px := (x - float64(s.Origin.X)) / float64(s.By)
				py := (y - float64(s.Origin.Y)) / float64(s.By)
				if px < 0 || py < 0 || px >= float64(s.L.W) || py >= float64(s.L.H) {
					continue
				}
				at := int(py)*s.L.W + int(px)
				sum.L, sum.A, sum.B, n = sum.L+float64(s.L.Pix[at]), sum.A+float64(s.A.Pix[at]), sum.B+float64(s.B.Pix[at]), n+1
			}
		}
		if n >= 8 {
			return colour.Lab{L: sum.L / n, A: sum.A / n, B: sum.B / n}
		}
	}
	return colour.Lab{L: float64(quantileOf(s.L, 1-brightest))}
}

// quantileOf is a quantile of a plane, by every seventh pixel.
func quantileOf(p ridge.Plane, q float64) float32 {
	some := make([]float32, 0, len(p.Pix)/7+1)
	for i := 0; i < len(p.Pix); i += 7 {
		some = append(some, p.Pix[i])
	}
	slices.Sort(some)
	return some[int(q*float64(len(some)-1))]
}
