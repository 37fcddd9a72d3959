package boost

import (
	"errors"
	"math"
	"slices"
	"sync"
)

// How a forest is learned.
type How struct {
	Trees, Depth int
	// Rate is how much of each tree counts.
	Rate float64
	// Least is the least weight of rows, by their second derivative, on each side of a cut.
	Least float64
	// Ridge is added to the second derivative of a leaf.
	Ridge float64
	// Passes are as many workers as there may be; the trees do not depend on it.
	Passes int
}

// Rows are numbers to learn from, row by row, with the kind of each row and how much it counts.
type Rows struct {
	Features int
	X        []float32
	First    []bool
	Weight   []float32
}

// Len is how many rows there are.
func (r *Rows) Len() int { return len(r.First) }

// Add adds a row.
func (r *Rows) Add(x []float32, first bool, weight float32) {
	r.X, r.First, r.Weight = append(r.X, x...), append(r.First, first), append(r.Weight, weight)
}

// bins is in how many parts the range of a feature is cut when it is learned from.
const bins = 128

// Learn fits a forest.
func Learn(rows *Rows, how How) (*Forest, error) {
	n := rows.Len()
	if n == 0 || rows.Features < 1 || rows.Features > 255 || len(rows.X) != n*rows.Features {
		return nil, errors.New("there are no rows to learn from")
	}
	if how.Depth < 1 || how.Depth > mostDepth || how.Trees < 1 || how.Trees > mostTrees {
		return nil, errors.New("a forest has 1 to 5000 trees of a depth of 1 to 12")
	}
	l := &learner{rows: rows, how: how, cuts: make([][]float32, rows.Features), bin: make([][]uint8, rows.Features)}
	l.each(rows.Features, func(f int) { l.cuts[f], l.bin[f] = cutUp(rows, f) })
	var first, all float64
	for i, w := range rows.Weight {
		all += float64(w)
		if rows.First[i] {
			first += float64(w)
		}
	}
	if first <= 0 || first >= all {
		return nil, errors.New("all rows are of one kind: there is nothing to tell apart")
	}
	f := &Forest{Features: rows.Features, Depth: how.Depth, Base: float32(math.Log(first / (all - first)))}
	l.score, l.slope, l.bend, l.node = make([]float32, n), make([]float32, n), make([]float32, n), make([]int32, n)
	for i := range l.score {
		l.score[i] = f.Base
	}
	for range how.Trees {
		l.tree(f)
	}
	return f, nil
}

// cutUp chooses where the range of a feature is cut, by its quantiles, and puts every row into its part.
func cutUp(rows *Rows, f int) (cuts []float32, bin []uint8) {
	n := rows.Len()
	some := make([]float32, 0, 20000)
	step := max(1, n/20000)
	for i := 0; i < n; i += step {
		some = append(some, rows.X[i*rows.Features+f])
	}
	slices.Sort(some)
	for k := 1; k < bins; k++ {
		c := some[k*(len(some)-1)/bins]
		if len(cuts) == 0 || c > cuts[len(cuts)-1] {
			cuts = append(cuts, c)
		}
	}
	bin = make([]uint8, n)
	for i := range bin {
		at, _ := slices.BinarySearch(cuts, rows.X[i*rows.Features+f])
		bin[i] = uint8(at) //nolint:gosec // at most bins
	}
	return cuts, bin
}

type learner struct {
	rows               *Rows
	how                How
	cuts               [][]float32
	bin                [][]uint8 // by feature, then row
	score, slope, bend []float32
	node               []int32
}

// each does something for every one of n, on some workers.
func (l *learner) each(n int, do func(i int)) {
	var all sync.WaitGroup
	workers := max(1, l.how.Passes)
	for w := range workers {
		all.Go(func() {
			for i := w; i < n; i += workers {
				do(i)
			}
		})
	}
	all.Wait()
}

// cutAt is the best cut of one node by one feature.
type cutAt struct {
	gain float64
	bin  int
}

// tree adds one tree to the forest.
func (l *learner) tree(f *Forest) {
	n := l.rows.Len()
	for i := range n {
		p := Sigmoid(l.score[i])
		y := float32(0)
		if l.rows.First[i] {
			y = 1
		}
		l.slope[i], l.bend[i], l.node[i] = l.rows.Weight[i]*(y-p), l.rows.Weight[i]*p*(1-p), 0
	}
	inner := 1<<l.how.Depth - 1
	feature, cut := make([]uint8, inner), make([]float32, inner)
	atBin := make([]int, inner)
	for depth := range l.how.Depth {
		first, count := 1<<depth-1, 1<<depth
		best := make([][]cutAt, l.rows.Features)
		l.each(l.rows.Features, func(k int) { best[k] = l.bestCuts(k, first, count) })
		for j := range count {
			at := first + j
			feature[at], cut[at], atBin[at] = 0, float32(math.Inf(1)), bins // all go left
			gain := 0.0
			for k := range best {
				if b := best[k][j]; b.gain > gain {
					gain = b.gain
					feature[at], cut[at], atBin[at] = uint8(k), l.cuts[k][b.bin], b.bin //nolint:gosec // at most 255
				}
			}
		}
		for i := range n {
			at := l.node[i]
			next := 2*at + 1
			if int(l.bin[feature[at]][i]) > atBin[at] {
				next++
			}
			l.node[i] = next
		}
	}
	leaves := 1 << l.how.Depth
	g, h := make([]float64, leaves), make([]float64, leaves)
	for i := range n {
		at := int(l.node[i]) - inner
		g[at] += float64(l.slope[i])
		h[at] += float64(l.bend[i])
	}
	leaf := make([]float32, leaves)
	for i := range leaf {
		leaf[i] = float32(l.how.Rate * g[i] / (h[i] + l.how.Ridge))
	}
	for i := range n {
		l.score[i] += leaf[int(l.node[i])-inner]
	}
	f.Feature, f.Cut, f.Leaf = append(f.Feature, feature...), append(f.Cut, cut...), append(f.Leaf, leaf...)
}

// bestCuts are the best cuts by one feature of the nodes of one row of the tree.
func (l *learner) bestCuts(k, first, count int) []cutAt {
	type sums struct{ g, h float64 }
	in := make([]sums, count*bins)
	bin := l.bin[k]
	for i, at := range l.node {
		s := &in[(int(at)-first)*bins+int(bin[i])]
		s.g += float64(l.slope[i])
		s.h += float64(l.bend[i])
	}
	best := make([]cutAt, count)
	for j := range count {
		part := in[j*bins : (j+1)*bins]
		var all sums
		for _, s := range part {
			all.g += s.g
			all.h += s.h
		}
		whole := all.g * all.g / (all.h + l.how.Ridge)
		var left sums
		for b := range len(l.cuts[k]) {
			left.g += part[b].g
			left.h += part[b].h
			right := sums{all.g - left.g, all.h - left.h}
			if left.h < l.how.Least || right.h < l.how.Least {
				continue
			}
			gain := left.g*left.g/(left.h+l.how.Ridge) + right.g*right.g/(right.h+l.how.Ridge) - whole
			if gain > best[j].gain+1e-9 {
				best[j] = cutAt{gain, b}
			}
		}
	}
	return best
}
