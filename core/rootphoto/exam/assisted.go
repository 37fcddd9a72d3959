package exam

import (
	"math"
	"math/rand/v2"
	"sort"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/truth"
)

// tapOff is how far a tap on a tip is off at most, pixels of the photo.
const tapOff = 6

// seenLine is what is seen of a root, of a main root whose tip is seen: its whole line as the camera would see it, and
// its length from the first point that is seen.
type seenLine struct {
	root      truth.Root
	whole     []plant.Point
	fromFirst float64 // length from the first seen point to the tip
	all       float64
	visible   []plant.Point
}

// withTip are the main roots whose tip is seen.
func withTip(p *truth.Photo) []seenLine {
	out := []seenLine{}
	for _, r := range p.Roots {
		n := len(r.Points)
		if r.Order != 1 || n < 2 || r.VisibleAt[n-1] == 0 || r.ApparentPX[n-1] == nil {
			continue
		}
		line, at := r.Apparent()
		s := seenLine{root: r, whole: line, all: unbroken(line)}
		for i, k := range at {
			if r.VisibleAt[k] != 0 {
				if s.visible == nil {
					s.fromFirst = unbroken(line[i:])
				}
				s.visible = append(s.visible, line[i])
			}
		}
		// A line that is no more than jumps has no length to be compared with.
		if len(s.visible) > 1 && s.fromFirst > 1 {
			out = append(out, s)
		}
	}
	return out
}

// jump is from how many usual steps on a step of a line is none: the line leaves the glass at one side and comes back at the
// other.
const jump = 5

// unbroken is the length of a line without its jumps.
func unbroken(line []plant.Point) float64 {
	steps := []float64{}
	for i := 1; i < len(line); i++ {
		steps = append(steps, distance(line[i-1], line[i]))
	}
	usual, sum := quantile(steps, 0.5), 0.0
	for _, d := range steps {
		if d <= jump*usual+jump {
			sum += d
		}
	}
	return sum
}

// lengthError is how far a length is off what is seen of a root, relative; nothing between its length from the first
// point that is seen and its whole.
func (s seenLine) lengthError(px float64) float64 {
	switch {
	case px < s.fromFirst:
		return (s.fromFirst - px) / s.fromFirst
	case px > s.all:
		return (px - s.all) / s.all
	}
	return 0
}

// tap is a tap on the tip: off by up to six pixels, the same for a root of a photo every time.
func (s seenLine) tap(photo int) plant.Point {
	r := rand.New(rand.NewPCG(uint64(photo), uint64(s.root.ID))) //nolint:gosec // an index
	away, angle := tapOff*math.Sqrt(r.Float64()), 2*math.Pi*r.Float64()
	tip := s.whole[len(s.whole)-1]
	return plant.Point{X: tip.X + away*math.Cos(angle), Y: tip.Y + away*math.Sin(angle)}
}

// farthest is the seen point of the root that lies farthest from a line, and how far.
func farthest(of, from []plant.Point) (where plant.Point, away float64) {
	for _, p := range of {
		if d := toLine(p, from); d > away {
			where, away = p, d
		}
	}
	return where, away
}

// toLine is how far a place lies from a line.
func toLine(p plant.Point, line []plant.Point) float64 {
	least := math.Inf(1)
	for i := 1; i < len(line); i++ {
		a, b := line[i-1], line[i]
		dx, dy := b.X-a.X, b.Y-a.Y
		t := 0.0
		if n := dx*dx + dy*dy; n > 0 {
			t = math.Max(0, math.Min(1, ((p.X-a.X)*dx+(p.Y-a.Y)*dy)/n))
		}
		least = math.Min(least, math.Hypot(p.X-a.X-t*dx, p.Y-a.Y-t*dy))
	}
	return least
}

// quantile of numbers, linear between them.
func quantile(v []float64, q float64) float64 {
	if len(v) == 0 {
		return math.NaN()
	}
	s := append([]float64{}, v...)
	sort.Float64s(s)
	at := q * float64(len(s)-1)
	i := min(int(at), len(s)-1)
	j := min(i+1, len(s)-1)
	return s[i] + (at-float64(i))*(s[j]-s[i])
}
