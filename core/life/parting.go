package life

import (
	"slices"
	"time"

	"clearjar/core/plant"
)

// Parting is the fact that young plants, or nodes of it, were parted from a piece.
type Parting struct {
	On time.Time
	// Taken are the numbers of its own growing points that went with them.
	Taken []int
	// Young are the growing points that a young plant came off and that stayed, one for each plant.
	Young []int
}

// Offspring is what became of the plants that were parted from a piece. A given one is never known.
type Offspring struct {
	Open, Established, Lost, Given int
}

// Count adds one.
func (o *Offspring) Count(f Fate) {
	switch f {
	case Established, Parted:
		o.Established++
	case Lost:
		o.Lost++
	case GivenAway:
		o.Given++
	default:
		o.Open++
	}
}

// Taken are the numbers of the growing points that went with what was parted from it.
func (l Life) Taken() []int {
	out := []int{}
	for _, p := range l.Partings {
		for _, n := range p.Taken {
			if !slices.Contains(out, n) {
				out = append(out, n)
			}
		}
	}
	slices.Sort(out)
	return out
}

// HadNode tells whether growing point n was on it on a day: it is one of its own, and was not parted from it on an earlier day.
func (l Life) HadNode(n int, at time.Time) bool {
	if n < 1 || n > len(l.Nodes) {
		return false
	}
	for _, p := range l.Partings {
		if slices.Contains(p.Taken, n) && plant.Days(p.On, at) > 0 {
			return false
		}
	}
	return true
}

// NodesLeft are the numbers of the growing points that are still on it: not cut back and not parted.
func (l Life) NodesLeft() []int {
	gone, _ := l.Gone()
	taken, out := l.Taken(), []int{}
	for n := gone + 1; n <= len(l.Nodes); n++ {
		if !slices.Contains(taken, n) {
			out = append(out, n)
		}
	}
	return out
}

// MayPart refuses parts that cannot be taken from it: nodes that are not there any more, a middle out of a stem, or the last one. Each
// part is the nodes first to last.
func (l Life) MayPart(parts [][2]int) error {
	left, row := l.NodesLeft(), l.Kind.Row()
	went := []int{}
	for _, p := range parts {
		for n := p[0]; n <= p[1]; n++ {
			if !slices.Contains(left, n) || p[0] < 1 || p[1] < p[0] {
				return plant.Refuse("parts", "%s %d is not on it", row.Point, n)
			}
			if slices.Contains(went, n) && !row.Keeps {
				return plant.Refuse("parts", "%s %d goes with one plant only", row.Point, n)
			}
			went = append(went, n)
		}
		if p[1] < p[0] {
			return plant.Refuse("parts", "from %d to %d is nothing", p[0], p[1])
		}
	}
	if row.Keeps {
		return nil
	}
	slices.Sort(went)
	if len(went) >= len(left) {
		return plant.Refuse("parts", "one %s at least stays on it, which keeps its code", row.Point)
	}
	if row.Pose != plant.Crown && !slices.Equal(went, left[len(left)-len(went):]) {
		return plant.Refuse("parts", "a stem is cut from its top: take the uppermost %s first", row.Points)
	}
	return nil
}
