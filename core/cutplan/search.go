package cutplan

import (
	"math"

	"clearjar/core/plant"
)

// arc is one step down a stem: a piece ending there, or a node left out.
type arc struct {
	to      int
	piece   bool
	p       float64
	value   float64
	knifeMM float64 // lower end of the piece
	topMM   float64 // upper end of the piece
}

// search looks for the best way to cut benches under limits that they share. It walks each stem
// from the tip down; a state is the stem, the highest node not yet handled, and the leaves the
// stems before have kept (counted up to what is asked).
type search struct {
	benches []Bench
	limits  Limits
	aim     Aim
	targets []Target
	tops    []int
	leaves  [][]int
	arcs    [][][]arc
	keep    int
	most    int
}

func newSearch(benches []Bench, l Limits, aim Aim) (*search, error) {
	if err := l.Check(); err != nil {
		return nil, err
	}
	if err := aim.Check(l); err != nil {
		return nil, err
	}
	r := &search{benches: benches, limits: l, aim: aim}
	nodes, keeps := 0, false
	for _, b := range benches {
		if err := b.check(); err != nil {
			return nil, err
		}
		nodes += b.Standing()
		keeps = keeps || b.rule().KeepOne
	}
	if nodes > MostNodesTogether {
		return nil, plant.Refuse("stems", "%d nodes at once: plan at most %d together", nodes, MostNodesTogether)
	}
	if keeps {
		r.keep = l.KeepLeaves
	}
	r.most = nodes
	if l.MostPieces > 0 {
		r.most = min(l.MostPieces, nodes)
	}
	for _, b := range benches {
		r.addBench(b)
	}
	return r, nil
}

// MostNodesTogether bounds the standing nodes of all the stems that are planned at once.
const MostNodesTogether = 240

// addBench works out every allowed piece of one stem.
func (r *search) addBench(b Bench) {
	top := b.Standing()
	leaves := make([]int, top+1)
	for n := 1; n <= top; n++ {
		leaves[n] = b.leavesUpTo(n)
	}
	arcs := make([][]arc, top+1)
	widest := max(r.limits.MostNodes, r.limits.TipMost)
	for last := 1; last <= top; last++ {
		to := b.stops(last)
		for first := last; first >= 1 && last-first < widest; first-- {
			from := b.starts(first)
			if !r.limits.allows(b, first, last, from, to) {
				continue
			}
			p := b.piece(first, last, from, to, r.limits)
			if p.Refused != "" {
				continue
			}
			value := p.Chance
			if r.aim.Kind == MostWorth {
				value = p.Worth
			}
			arcs[last] = append(arcs[last], arc{first - 1, true, p.Chance, value, from, to})
		}
		// Neighbours that are left out need no knife between them: the longest run comes first.
		lowest := last
		for lowest >= 1 && b.Skip[lowest] {
			lowest--
		}
		for first := lowest + 1; first <= last; first++ {
			if b.nodeAt(b.starts(first)) == 0 {
				arcs[last] = append(arcs[last], arc{to: first - 1, knifeMM: b.starts(first), topMM: to})
			}
		}
	}
	r.tops = append(r.tops, top)
	r.leaves = append(r.leaves, leaves)
	r.arcs = append(r.arcs, arcs)
	if r.aim.Kind == Reshape {
		r.targets = append(r.targets, b.target(r.limits, r.aim))
	}
}

// stays tells whether the mother may be left with nodes 1 to n of stem i.
func (r *search) stays(i, n int) bool {
	return n == r.tops[i] || n >= r.limits.keeps(r.benches[i])
}

// stayValue is what the aim gives for leaving nodes 1 to n of stem i on the mother.
func (r *search) stayValue(i, n int) float64 {
	if r.aim.Kind != Reshape {
		return 0
	}
	return -missed * math.Abs(float64(n-r.targets[i].Node))
}

// kept is how many leaves are kept after stem i stays with n nodes, counted up to what is asked.
func (r *search) kept(i, n, before int) int { return min(r.keep, before+r.leaves[i][n]) }

// cell is the best completion of a state with an exact number of pieces.
type cell struct {
	value float64
	step  int // -1 stays, else the index of the arc
}

var impossible = math.Inf(-1)

// table is filled from the last stem back and from the base up: table[i][n][kept][pieces].
type table [][][][]cell

func (r *search) solve() table {
	t := make(table, len(r.benches)+1)
	for i := len(r.benches); i >= 0; i-- {
		if i == len(r.benches) {
			t[i] = [][][]cell{make([][]cell, r.keep+1)}
			for kept := range t[i][0] {
				t[i][0][kept] = r.blank()
				if kept >= r.keep {
					t[i][0][kept][0].value = 0
				}
			}
			continue
		}
		t[i] = make([][][]cell, r.tops[i]+1)
		for n := 0; n <= r.tops[i]; n++ {
			t[i][n] = make([][]cell, r.keep+1)
			for kept := range t[i][n] {
				t[i][n][kept] = r.fill(t, i, n, kept)
			}
		}
	}
	return t
}

func (r *search) blank() []cell {
	row := make([]cell, r.most+1)
	for c := range row {
		row[c].value = impossible
	}
	return row
}

func (r *search) fill(t table, i, n, kept int) []cell {
	row := r.blank()
	if r.stays(i, n) {
		add := r.stayValue(i, n)
		for c, rest := range t[i+1][r.topOf(i+1)][r.kept(i, n, kept)] {
			if v := add + rest.value; v > row[c].value {
				row[c] = cell{v, -1}
			}
		}
	}
	for s, a := range r.arcs[i][n] {
		rest := t[i][a.to][kept]
		if !a.piece {
			for c := range row {
				if rest[c].value > row[c].value {
					row[c] = cell{rest[c].value, s}
				}
			}
			continue
		}
		for c := 1; c < len(row); c++ {
			if v := a.value + rest[c-1].value; v > row[c].value {
				row[c] = cell{v, s}
			}
		}
	}
	return row
}

func (r *search) topOf(i int) int {
	if i == len(r.benches) {
		return 0
	}
	return r.tops[i]
}

// way is one way to cut all the stems.
type way struct {
	arcs    [][]arc // by stem, from the tip down
	pieces  int
	reached float64
}

// follow reads the best way with an exact number of pieces.
func (r *search) follow(t table, pieces int) way {
	w := way{arcs: make([][]arc, len(r.benches)), pieces: pieces}
	kept, left := 0, pieces
	for i := range r.benches {
		n := r.tops[i]
		for {
			step := t[i][n][kept][left].step
			if step < 0 {
				break
			}
			a := r.arcs[i][n][step]
			w.arcs[i] = append(w.arcs[i], a)
			if a.piece {
				left--
			}
			n = a.to
		}
		kept = r.kept(i, n, kept)
	}
	return w
}

// ways gives, for each number of pieces the limits allow, the way that serves the aim best.
func (r *search) ways() []way {
	t := r.solve()
	start := t[0][r.tops[0]][0]
	out := []way{}
	for c := 1; c <= r.most; c++ {
		if start[c].value == impossible {
			continue
		}
		w := r.follow(t, c)
		w.reached = start[c].value
		if r.aim.Kind == Reshape {
			w.reached = w.expected()
		}
		out = append(out, w)
	}
	if r.aim.Kind == AtLeastK {
		out = r.atLeast(out)
	}
	return out
}

// best is the best of all the ways; fewer pieces when more serve the aim no better. The zero
// way cuts nothing.
func (r *search) best() way {
	best, value := way{}, 0.0
	if r.aim.Kind == Reshape {
		value = impossible
	}
	for _, w := range r.ways() {
		v := w.reached
		if r.aim.Kind == Reshape {
			v = w.expected() + r.shape(w)
		}
		if v > value+1e-15 {
			best, value = w, v
		}
	}
	return best
}

// shape is what a way gains by leaving each stem near its target.
func (r *search) shape(w way) float64 {
	sum := 0.0
	for i := range r.benches {
		sum += r.stayValue(i, w.stays(r, i))
	}
	return sum
}

// stays is how many nodes of stem i stay on the mother.
func (w way) stays(r *search, i int) int {
	if w.arcs == nil || len(w.arcs[i]) == 0 {
		return r.tops[i]
	}
	return w.arcs[i][len(w.arcs[i])-1].to
}

func (w way) expected() float64 {
	sum := 0.0
	for _, list := range w.arcs {
		for _, a := range list {
			if a.piece {
				sum += a.p
			}
		}
	}
	return sum
}

// knives are the cut positions on stem i, ascending.
func (w way) knives(r *search, i int) []float64 {
	out := []float64{}
	if w.arcs == nil {
		return out
	}
	end := r.benches[i].End()
	for at := len(w.arcs[i]) - 1; at >= 0; at-- {
		a := w.arcs[i][at]
		if n := len(out); n == 0 || a.knifeMM-out[n-1] > sameCutMM {
			out = append(out, a.knifeMM)
		}
		if a.topMM < end-sameCutMM {
			out = append(out, a.topMM)
		}
	}
	return out
}
