package cutplan

import (
	"math"

	"clearjar/core/stats"
)

// For "at least k plants" chances do not add up, so the table of [search.solve] is not enough.
// The search below carries partial plans from the tip down, each with its chances T(j) of at
// least j plants so far, j = 1..k. Pieces that follow act the same on every partial plan of a
// state, and keep the order of T: so a partial plan that another one matches or beats for every
// j can be dropped, and what is left is exact. What a state can still add is bounded from above
// by the best policy that may choose its next cut knowing which pieces have come through; a
// partial plan that cannot beat the best way known is dropped too.

// tails are chances of at least 1..k plants.
type tails []float64

func (t tails) at(j int) float64 {
	if j <= 0 {
		return 1
	}
	return t[j-1]
}

// plus adds one piece with chance p.
func (t tails) plus(p float64) tails {
	out := make(tails, len(t))
	for j := 1; j <= len(t); j++ {
		out[j-1] = p*t.at(j-1) + (1-p)*t.at(j)
	}
	return out
}

// beats tells whether t is at least as good for every count.
func (t tails) beats(u tails) bool {
	for j := range t {
		if t[j] < u[j]-1e-15 {
			return false
		}
	}
	return true
}

// partial is a partial plan: how it came about, and its tails.
type partial struct {
	tails tails
	used  int
	from  *partial
	arc   arc
	stem  int
}

// bounds[i][n][kept][pieces][j]: the best a policy that sees outcomes can do for j more plants.
type bounds [][][][][]float64

func (r *search) bound() bounds {
	k := r.aim.AtLeast
	u := make(bounds, len(r.benches)+1)
	blank := func() [][]float64 {
		rows := make([][]float64, r.most+1)
		cells := make([]float64, (r.most+1)*(k+1))
		for c := range rows {
			rows[c] = cells[c*(k+1) : (c+1)*(k+1)]
			for j := range rows[c] {
				rows[c][j] = impossible
			}
		}
		return rows
	}
	for i := len(r.benches); i >= 0; i-- {
		u[i] = make([][][][]float64, r.topOf(i)+1)
		for n := range u[i] {
			u[i][n] = make([][][]float64, r.keep+1)
			for kept := range u[i][n] {
				rows := blank()
				u[i][n][kept] = rows
				if i == len(r.benches) {
					if kept >= r.keep {
						clear(rows[0])
						rows[0][0] = 1
					}
					continue
				}
				r.raise(u, i, n, kept, rows)
			}
		}
	}
	return u
}

func (r *search) raise(u bounds, i, n, kept int, rows [][]float64) {
	k := r.aim.AtLeast
	if r.stays(i, n) {
		for c, rest := range u[i+1][r.topOf(i+1)][r.kept(i, n, kept)] {
			copy(rows[c], rest)
		}
	}
	for _, a := range r.arcs[i][n] {
		rest := u[i][a.to][kept]
		for c := range rows {
			from := c
			if a.piece {
				from = c - 1
			}
			if from < 0 || rest[from][0] == impossible {
				continue
			}
			rows[c][0] = 1
			for j := 1; j <= k; j++ {
				v := rest[from][j]
				if a.piece {
					v = a.p*rest[from][j-1] + (1-a.p)*rest[from][j]
				}
				rows[c][j] = math.Max(rows[c][j], v)
			}
		}
	}
}

// hope is the most that a partial plan can come to with exactly c more pieces; -Inf when the
// limits do not allow it.
func hope(t tails, rest []float64) float64 {
	if rest[0] == impossible {
		return impossible
	}
	k := len(t)
	sum := t.at(k)
	for have := 0; have < k; have++ {
		sum += (t.at(have) - t.at(have+1)) * rest[k-have]
	}
	return sum
}

// atLeast improves ways, one for each number of pieces, until each has the best chance of at least k plants.
func (r *search) atLeast(known []way) []way {
	k := r.aim.AtLeast
	best := map[int]float64{}
	found := map[int]way{}
	for _, w := range known {
		w.reached = stats.AtLeast(stats.PoissonBinomial(w.chances()), k)
		best[w.pieces], found[w.pieces] = w.reached, w
	}
	u := r.bound()
	// Quickly with few partial plans for a good start, then with all of them.
	for _, width := range []int{4, math.MaxInt} {
		for _, p := range r.walk(u, best, width) {
			if v := p.tails.at(k); v > best[p.used] {
				best[p.used] = v
				found[p.used] = p.way(len(r.benches), v)
			}
		}
	}
	out := []way{}
	for _, w := range known {
		out = append(out, found[w.pieces])
	}
	return out
}

// walk carries partial plans through all states and gives the complete ones.
func (r *search) walk(u bounds, best map[int]float64, width int) []*partial {
	open := make([][]*partial, r.keep+1)
	open[0] = []*partial{{tails: make(tails, r.aim.AtLeast)}}
	for i := range r.benches {
		at := make([][][]*partial, r.tops[i]+1)
		for n := range at {
			at[n] = make([][]*partial, r.keep+1)
		}
		at[r.tops[i]] = open
		next := make([][]*partial, r.keep+1)
		for n := r.tops[i]; n >= 0; n-- {
			for kept := range at[n] {
				list := r.prune(at[n][kept], u[i][n][kept], best, width)
				for _, p := range list {
					if r.stays(i, n) {
						after := r.kept(i, n, kept)
						next[after] = append(next[after], p)
					}
					for _, a := range r.arcs[i][n] {
						at[a.to][kept] = append(at[a.to][kept], p.step(a, i))
					}
				}
			}
		}
		open = next
	}
	return open[r.keep]
}

func (p *partial) step(a arc, stem int) *partial {
	q := &partial{tails: p.tails, used: p.used, from: p, arc: a, stem: stem}
	if a.piece {
		q.tails, q.used = p.tails.plus(a.p), p.used+1
	}
	return q
}

// prune drops partial plans that cannot beat the best way known, that another one of as many
// pieces beats, and all but the most hopeful when width bounds them.
func (r *search) prune(list []*partial, rest [][]float64, best map[int]float64, width int) []*partial {
	byUsed := map[int][]*partial{}
	order := []int{}
	for _, p := range list {
		hopeful := false
		for c := 0; p.used+c <= r.most && !hopeful; c++ {
			known, ok := best[p.used+c]
			hopeful = ok && hope(p.tails, rest[c]) > known+1e-13
		}
		if !hopeful {
			continue
		}
		if _, ok := byUsed[p.used]; !ok {
			order = append(order, p.used)
		}
		byUsed[p.used] = undominated(byUsed[p.used], p)
	}
	out := []*partial{}
	for _, used := range order {
		out = append(out, byUsed[used][:min(width, len(byUsed[used]))]...)
	}
	return out
}

func undominated(list []*partial, p *partial) []*partial {
	for _, q := range list {
		if q.tails.beats(p.tails) {
			return list
		}
	}
	kept := list[:0]
	for _, q := range list {
		if !p.tails.beats(q.tails) {
			kept = append(kept, q)
		}
	}
	return append(kept, p)
}

// way reads a complete plan back.
func (p *partial) way(stems int, reached float64) way {
	w := way{arcs: make([][]arc, stems), pieces: p.used, reached: reached}
	var back []*partial
	for q := p; q.from != nil; q = q.from {
		back = append(back, q)
	}
	for i := len(back) - 1; i >= 0; i-- {
		w.arcs[back[i].stem] = append(w.arcs[back[i].stem], back[i].arc)
	}
	return w
}

func (w way) chances() []float64 {
	out := []float64{}
	for _, list := range w.arcs {
		for _, a := range list {
			if a.piece {
				out = append(out, a.p)
			}
		}
	}
	return out
}
