// Package find proposes all roots of a photo at once, each with a confidence.
//
// In: how likely each pixel lies on a root, and where the stem stands at the nodes. Out: lines from the stem to the tips
// of what may be roots, with the chance that each is one and ends where it says. They are proposals: a grower accepts,
// mends or deletes them. Method: the cheapest ways from the stem to every pixel make a tree (Dijkstra 1959); its branches
// that gather the most evidence are taken one by one; where each ends, and whether it is a root, a forest of boosted trees
// says that was learned from photos of known truth.
package find

import (
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/ridge"
	"clearjar/core/rootphoto/trace"
)

// Values of the method.
const (
	floor           = 0.1
	beside          = 0.85
	firstShare      = 0.6 // how much of the first forest's chance counts where the second gives less
	mostCostMM      = 190 // how dear a way may be, as mm of sure root
	leastGain       = -1.2
	mostGain        = 2.5
	tubeMM          = 0.7
	leastEvidence   = 2.0 // a mm
	candidatesApart = 2.0 // mm between places a branch may end at
	// leastLengthMM is how long what a branch adds must be: shorter lines were mostly none.
	leastLengthMM    = 7.0
	evidenceSoftness = 0.03
	// A branch that leaves another may go on from a third that ends or passes near there, in about the same direction.
	joinMM, joinCosine = 2.5, 0.5
	mostJoins          = 3
)

// shifts are how much evidence a pixel has beyond the odds of its chance: more, and branches go on farther. The first is
// used; all are learned from.
var shifts = []float64{1.2, 0.6, 1.7}

// MostBranches bounds how many branches are taken from a photo.
const MostBranches = 60

// tree is the cheapest ways from the stem, as a list in which each pixel comes after the one it was reached from.
type tree struct {
	guide  *trace.Guide
	p      ridge.Plane // the chances, spread to the pixels beside
	pixel  []int32
	before []int32 // index in the list, -1 at the stem
	place  []int32 // where a pixel is in the list, -1 when it was not reached
	gain   []float32
	step   []float32
	used   []bool
	sum    []float32
}

func grow(g *trace.Guide, shift float64) *tree {
	m := g.Map
	crest := ridge.New(m.P.W, m.P.H)
	for i, p := range m.P.Pix {
		crest.Pix[i] = max(p, firstShare*m.First.Pix[i])
	}
	p := likely.Spread(crest, beside, beside*beside)
	on := trace.OnFloor(p, floor)
	from := []int{}
	for k := range p.Pix {
		if g.InBand(k) > 0 {
			from = append(from, k)
		}
	}
	s := on.SpreadUpTo(from, float32(mostCostMM*m.PxMM))
	t := &tree{guide: g, p: p, place: make([]int32, len(p.Pix))}
	for i := range t.place {
		t.place[i] = -1
	}
	for _, k := range s.Order {
		b := s.Before[k]
		at := int32(len(t.pixel)) //nolint:gosec // fewer than pixels
		t.place[k] = at
		t.pixel = append(t.pixel, k)
		if b < 0 {
			t.before, t.gain, t.step = append(t.before, -1), append(t.gain, 0), append(t.step, 0)
			continue
		}
		dx, dy := float64(int(k)%p.W-int(b)%p.W), float64(int(k)/p.W-int(b)/p.W)
		t.before, t.step = append(t.before, t.place[b]), append(t.step, float32(math.Hypot(dx, dy)))
		v := float64(p.Pix[k])
		e := math.Log((v+evidenceSoftness)/(1+evidenceSoftness-v)) + shift
		t.gain = append(t.gain, float32(math.Max(leastGain, math.Min(mostGain, e))))
	}
	t.used, t.sum = make([]bool, len(t.pixel)), make([]float32, len(t.pixel))
	return t
}

// branch is a way from the stem to the end of some evidence; its first part, up to own, belongs to branches before it.
type branch struct {
	way []int32 // indexes in the list, from the stem
	own int
}

// best is the branch that gathers the most evidence on what is not used yet, when it is enough.
func (t *tree) best() (branch, bool) {
	most, at := float32(0), -1
	for i, b := range t.before {
		if b < 0 || t.used[i] {
			t.sum[i] = 0
			continue
		}
		t.sum[i] = t.sum[b] + t.gain[i]*t.step[i]
		if t.sum[i] > most {
			most, at = t.sum[i], i
		}
	}
	if at < 0 || float64(most) < leastEvidence*t.guide.Map.PxMM {
		return branch{}, false
	}
	var back []int32
	own := -1
	for k := int32(at); k >= 0; k = t.before[k] { //nolint:gosec // an index
		if own < 0 && (t.used[k] || t.before[k] < 0) {
			own = len(back)
		}
		back = append(back, k)
	}
	b := branch{way: make([]int32, len(back)), own: 0}
	for i, k := range back {
		b.way[len(back)-1-i] = k
	}
	b.own = len(back) - 1 - own
	return b, true
}

// use marks what lies around a branch as used.
func (t *tree) use(b branch) {
	r := tubeMM * t.guide.Map.PxMM
	reach := int(math.Ceil(r))
	w, h := t.p.W, t.p.H
	for _, k := range b.way[b.own:] {
		x, y := int(t.pixel[k])%w, int(t.pixel[k])/w
		for dy := -reach; dy <= reach; dy++ {
			for dx := -reach; dx <= reach; dx++ {
				if math.Hypot(float64(dx), float64(dy)) > r || x+dx < 0 || y+dy < 0 || x+dx >= w || y+dy >= h {
					continue
				}
				if at := t.place[(y+dy)*w+x+dx]; at >= 0 {
					t.used[at] = true
				}
			}
		}
	}
}

func (t *tree) points(way []int32) []plant.Point {
	out := make([]plant.Point, len(way))
	for i, k := range way {
		out[i] = t.guide.Place(int(t.pixel[k]))
	}
	return out
}

// joined are the ways a branch may take to the stem other than the cheapest: over branches that pass near where it leaves
// its own way, running as it does.
func (t *tree) joined(b branch, all []branch) []branch {
	if b.own == 0 {
		return nil
	}
	px := t.guide.Map.PxMM
	at := t.guide.Place(int(t.pixel[b.way[b.own]]))
	ahead := t.guide.Place(int(t.pixel[b.way[min(len(b.way)-1, b.own+int(bendMM*1.5*px))]]))
	ux, uy := direction(at, ahead)
	before := map[int32]bool{}
	for _, k := range b.way[:b.own+1] {
		before[k] = true
	}
	out := []branch{}
	seen := map[int32]bool{}
	for _, c := range all {
		best, where := joinMM*px, -1
		back := int(bendMM * px)
		for i := c.own; i < len(c.way); i++ {
			if before[c.way[i]] || i < back {
				continue
			}
			q := t.guide.Place(int(t.pixel[c.way[i]]))
			d := math.Hypot(q.X-at.X, q.Y-at.Y)
			if d >= best {
				continue
			}
			vx, vy := direction(t.guide.Place(int(t.pixel[c.way[i-back]])), q)
			wx, wy := direction(q, ahead)
			if vx*ux+vy*uy > joinCosine && vx*wx+vy*wy > joinCosine {
				best, where = d, i
			}
		}
		if where < 0 || seen[c.way[where]] {
			continue
		}
		seen[c.way[where]] = true
		way := append(append([]int32{}, c.way[:where+1]...), b.way[b.own:]...)
		out = append(out, branch{way, where + 1})
		if len(out) == mostJoins {
			break
		}
	}
	return out
}
