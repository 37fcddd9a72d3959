package likely

import (
	"errors"
	"math"
	"math/rand/v2"
	"slices"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/boost"
	"clearjar/core/rootphoto/ridge"
	"clearjar/core/rootphoto/scene"
)

// Example is a photo with its roots, to learn from.
type Example struct {
	// Name names the photo; photos of one Series are never learned from when one of them is judged.
	Name, Series string
	Scene        *scene.Scene
	Behind       Background
	// Class is the class of colour its roots are expected to have.
	Class string
	Roots []Drawn
}

// Drawn is a stretch of a root that is seen, in pixels of the scene, with its width; one that is not seen is not learned
// from, neither as root nor as none.
type Drawn struct {
	Line    []plant.Point
	WidthPX float64
	Seen    bool
	Colour  string
}

// kind is what a crest is.
type kind uint8

const (
	none kind = iota
	root
	unsure
)

// marked is how each pixel lies to the roots that are drawn.
type marked struct {
	w, h   int
	kind   []kind
	dx, dy []float32
}

// Distances at which a crest is on a root and off it: in pixels, or as a share of the root's half width, whichever is more.
const (
	onPX, onShare   = 1.8, 0.6
	offPX, offShare = 4.0, 1.3
	sameWay         = 0.8 // the cosine of the angle to the root up to which a crest runs along it
)

func mark(w, h int, roots []Drawn) marked {
	m := marked{w, h, make([]kind, w*h), make([]float32, w*h), make([]float32, w*h)}
	least := make([]float32, w*h)
	for i := range least {
		least[i] = float32(math.Inf(1))
	}
	for _, r := range roots {
		on, off := math.Max(onPX, onShare*r.WidthPX/2), math.Max(offPX, offShare*r.WidthPX/2)
		for i := 1; i < len(r.Line); i++ {
			a, b := r.Line[i-1], r.Line[i]
			length := math.Hypot(b.X-a.X, b.Y-a.Y)
			if length == 0 {
				continue
			}
			ux, uy := (b.X-a.X)/length, (b.Y-a.Y)/length
			x0, x1 := int(math.Min(a.X, b.X)-off)-1, int(math.Max(a.X, b.X)+off)+1
			y0, y1 := int(math.Min(a.Y, b.Y)-off)-1, int(math.Max(a.Y, b.Y)+off)+1
			for y := max(0, y0); y <= min(h-1, y1); y++ {
				for x := max(0, x0); x <= min(w-1, x1); x++ {
					px, py := float64(x)+0.5-a.X, float64(y)+0.5-a.Y
					t := math.Max(0, math.Min(length, px*ux+py*uy))
					d := math.Hypot(px-t*ux, py-t*uy)
					if d > off {
						continue
					}
					at := y*w + x
					if !r.Seen || d > on {
						if m.kind[at] == none {
							m.kind[at] = unsure
						}
						continue
					}
					if float32(d) < least[at] {
						least[at], m.kind[at] = float32(d), root
						m.dx[at], m.dy[at] = float32(ux), float32(uy)
					}
				}
			}
		}
	}
	return m
}

// of is what a crest is, by where it lies and how it runs.
func (m marked) of(at int32, acrossX, acrossY float32) kind {
	k := m.kind[at]
	if k == root && math.Abs(float64(m.dx[at]*-acrossY+m.dy[at]*acrossX)) < sameWay {
		return unsure
	}
	return k
}

// How the forests are learned.
var (
	firstHow  = boost.How{Trees: 90, Depth: 5, Rate: 0.12, Least: 4, Ridge: 2, Passes: 4}
	secondHow = boost.How{Trees: 70, Depth: 5, Rate: 0.12, Least: 4, Ridge: 2, Passes: 4}
)

const (
	// mostNone is how many crests on no root are learned from, a photo; each counts for the ones that were left out.
	mostNone = 9000
	seed     = 20260101
)

// inverted is a photo as its negative in brightness: what is learned of pale roots on dark is learned of dark on pale.
func (e Example) inverted(expected Colour) (Example, Colour) {
	s := *e.Scene
	s.L = ridge.New(s.L.W, s.L.H)
	for i, v := range e.Scene.L.Pix {
		s.L.Pix[i] = 100 - v
	}
	e.Scene = &s
	expected[0] = 100 - expected[0]
	return e, expected
}

// pale tells whether a colour is light: only of light ones negatives are learned from.
func (c Colour) pale() bool { return c[0] > 55 }

// Expected is the colour of each class of roots in photos: the median along those that are seen.
func Expected(all []Example) map[string]Colour {
	by := map[string][3][]float32{}
	for _, e := range all {
		for _, r := range e.Roots {
			if !r.Seen {
				continue
			}
			for _, p := range r.Line {
				x, y := int(p.X), int(p.Y)
				if x < 0 || y < 0 || x >= e.Scene.L.W || y >= e.Scene.L.H {
					continue
				}
				at := y*e.Scene.L.W + x
				v := by[r.Colour]
				v[0], v[1], v[2] = append(v[0], e.Scene.L.Pix[at]), append(v[1], e.Scene.A.Pix[at]), append(v[2], e.Scene.B.Pix[at])
				by[r.Colour] = v
			}
		}
	}
	out := map[string]Colour{}
	for class, v := range by {
		var c Colour
		for i := range c {
			slices.Sort(v[i])
			c[i] = v[i][len(v[i])/2]
		}
		out[class] = c
	}
	return out
}

// study is one example as it is learned from.
type study struct {
	Example
	expected Colour
	fold     int
	rows     boost.Rows
	marks    marked
	picked   []int32
	weight   []float32
}

// Learn learns the tables. With folds of 2 and more it also learns, for each fold, tables from the examples of the other
// folds only: the tables an example is judged by honestly. Folded tells the fold of each example, by their order.
// progress is told what is done. The same examples give the same tables.
func Learn(all []Example, folds int, progress func(string)) (whole *Tables, parts []*Tables, folded []int, err error) {
	if len(all) == 0 {
		return nil, nil, nil, errors.New("there are no photos with truth to learn from")
	}
	expected := Expected(all)
	folded = foldsOf(all, folds)
	studies := []*study{}
	for i, e := range all {
		c, known := expected[e.Class]
		if !known {
			c = expected["white"]
		}
		studies = append(studies, &study{Example: e, expected: c, fold: folded[i]})
		if c.pale() && i%2 == 0 && len(e.Roots) > 0 {
			inv, ic := e.inverted(c)
			studies = append(studies, &study{Example: inv, expected: ic, fold: folded[i]})
		}
	}
	names := []string{}
	for _, e := range all {
		names = append(names, e.Name)
	}
	slices.Sort(names)
	for i, s := range studies {
		s.prepare(uint64(i)) //nolint:gosec // an index
	}
	progress("looked at every photo")
	first := make([]*boost.Forest, folds+1)
	for k := range first {
		if first[k], err = boost.Learn(together(studies, k, firstFeatures, folds), firstHow); err != nil {
			return nil, nil, nil, err
		}
		progress("learned a first forest")
	}
	for _, s := range studies {
		// The second forest sees what the first says of photos it was not learned from.
		f := first[folds]
		if folds > 0 {
			f = first[s.fold]
		}
		s.again(f)
	}
	second := make([]*boost.Forest, folds+1)
	for k := range second {
		if second[k], err = boost.Learn(together(studies, k, secondFeatures, folds), secondHow); err != nil {
			return nil, nil, nil, err
		}
		progress("learned a second forest")
	}
	for k := range folds {
		parts = append(parts, &Tables{first[k], second[k], expected, nil})
	}
	return &Tables{first[folds], second[folds], expected, names}, parts, folded, nil
}

// foldsOf puts the examples into folds, those of one series into one.
func foldsOf(all []Example, folds int) []int {
	out := make([]int, len(all))
	if folds == 0 {
		return out
	}
	series := []string{}
	for _, e := range all {
		if !slices.Contains(series, e.Series) {
			series = append(series, e.Series)
		}
	}
	slices.Sort(series)
	for i, e := range all {
		out[i] = slices.Index(series, e.Series) % folds
	}
	return out
}

// together are the rows of all studies but those of a fold; the last fold leaves none out.
func together(studies []*study, leaveOut, features, folds int) *boost.Rows {
	out := &boost.Rows{Features: features}
	for _, s := range studies {
		if leaveOut < folds && s.fold == leaveOut {
			continue
		}
		out.X, out.First, out.Weight = append(out.X, s.rows.X...), append(out.First, s.rows.First...), append(out.Weight, s.rows.Weight...)
	}
	return out
}

// prepare looks at an example and picks the crests to learn from: all on roots, some of the others.
func (s *study) prepare(stream uint64) {
	l := look(s.Scene, s.Behind, s.expected)
	s.marks = mark(s.Scene.L.W, s.Scene.L.H, s.Roots)
	r := rand.New(rand.NewPCG(seed, stream))
	others := 0
	for _, at := range l.crests {
		if s.marks.of(at, l.field.AcrossX.Pix[at], l.field.AcrossY.Pix[at]) == none {
			others++
		}
	}
	share := math.Min(1, mostNone/math.Max(1, float64(others)))
	s.rows.Features = firstFeatures
	row := make([]float32, firstFeatures)
	for _, at := range l.crests {
		k := s.marks.of(at, l.field.AcrossX.Pix[at], l.field.AcrossY.Pix[at])
		weight := float32(1)
		switch {
		case k == unsure:
			continue
		case k == none && r.Float64() >= share:
			continue
		case k == none:
			weight = float32(1 / share)
		}
		s.picked, s.weight = append(s.picked, at), append(s.weight, weight)
		l.first(at, row)
		s.rows.Add(row, k == root, weight)
	}
}

// again puts what the second forest sees in the place of what the first saw.
func (s *study) again(f *boost.Forest) {
	l := look(s.Scene, s.Behind, s.expected)
	p := ridge.New(s.Scene.L.W, s.Scene.L.H)
	l.firstInto(f, p)
	g := guess(l, p)
	rows := boost.Rows{Features: secondFeatures}
	one, two := make([]float32, firstFeatures), make([]float32, secondFeatures)
	for i, at := range s.picked {
		if p.Pix[at] < hopeless {
			continue // the second is not asked
		}
		l.first(at, one)
		g.second(at, one, two)
		rows.Add(two, s.rows.First[i], s.weight[i])
	}
	s.rows = rows
}
