package find

import (
	"bytes"
	"compress/gzip"
	_ "embed"
	"fmt"
	"io"
	"math"
	"sync"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/boost"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/trace"
)

// Lengths that a candidate is looked at over, mm.
const (
	shortMM, longMM = 1.5, 4.0
	bendMM          = 2.0
	weakMM          = 2.5
	nearStemMM      = 4.0
)

// Candidate is a line that may be a root: a branch up to where it may end. As a side root it begins where its branch
// leaves another; as a root of the stem it is followed back to the stem.
type Candidate struct {
	// Line runs from its base to its tip, in pixels of the scene.
	Line []plant.Point
	Node int
	Side bool
	// Branch is which of the branches it is of, in the order they were taken.
	Branch   int
	Features [features]float32
}

// LeavesMM is how far from the stem it leaves another branch, mm; 0 at the stem.
func (c Candidate) LeavesMM() float64 { return float64(c.Features[2]) }

// features is how many numbers the forest sees of a candidate.
const features = 40

// Candidates are all candidates of a scene.
func Candidates(g *trace.Guide, behind likely.Background, expected likely.Colour) []Candidate {
	return candidates(g, behind, expected, shifts[0])
}

// More are further candidates, found otherwise, to learn from.
func More(g *trace.Guide, behind likely.Background, expected likely.Colour) []Candidate {
	out := []Candidate{}
	for _, s := range shifts[1:] {
		out = append(out, candidates(g, behind, expected, s)...)
	}
	return out
}

func candidates(g *trace.Guide, behind likely.Background, expected likely.Colour, shift float64) []Candidate {
	t := grow(g, shift)
	all := []branch{}
	for range MostBranches {
		b, ok := t.best()
		if !ok {
			break
		}
		all = append(all, b)
		t.use(b)
	}
	out := []Candidate{}
	for n, b := range all {
		out = append(out, t.candidates(b, n, false, behind, expected)...)
		for _, j := range t.joined(b, all) {
			out = append(out, t.candidates(j, n, true, behind, expected)...)
		}
	}
	return out
}

// along is what is known of each point of a branch.
type along struct {
	at       []plant.Point
	mm       []float64 // length from the stem
	p        []float64 // sum of chance times length up to the point
	strength []float64
	off      []float64 // sum of the distance from the expected colour, times length
	evidence []float64
	first    []float64 // sum of the first forest's chance times length
	scale    []float64 // sum of the scale and of its square times length
	scale2   []float64
}

func (t *tree) along(b branch, expected likely.Colour) along {
	m := t.guide.Map
	a := along{at: t.points(b.way)}
	n := len(b.way)
	a.mm, a.p, a.strength, a.off, a.evidence = make([]float64, n), make([]float64, n), make([]float64, n), make([]float64, n), make([]float64, n)
	a.first, a.scale, a.scale2 = make([]float64, n), make([]float64, n), make([]float64, n)
	for i := 1; i < n; i++ {
		k := t.pixel[b.way[i]]
		step := math.Hypot(a.at[i].X-a.at[i-1].X, a.at[i].Y-a.at[i-1].Y) / m.PxMM
		a.mm[i] = a.mm[i-1] + step
		a.p[i] = a.p[i-1] + step*float64(t.p.Pix[k])
		a.strength[i] = a.strength[i-1] + step*float64(m.Field.Strength.Pix[k])
		dl, da, db := m.L.Pix[k]-expected[0], m.A.Pix[k]-expected[1], m.B.Pix[k]-expected[2]
		a.off[i] = a.off[i-1] + step*math.Sqrt(float64(dl*dl+da*da+db*db))
		a.first[i] = a.first[i-1] + step*float64(m.First.Pix[k])
		scale := float64(m.Field.Scale[k])
		a.scale[i], a.scale2[i] = a.scale[i-1]+step*scale, a.scale2[i-1]+step*scale*scale
		a.evidence[i] = a.evidence[i-1] + step*float64(t.gain[b.way[i]])
	}
	return a
}

// index is the first point at least so many mm from the stem.
func (a along) index(mm float64) int {
	lo, hi := 0, len(a.mm)-1
	for lo < hi {
		mid := (lo + hi) / 2
		if a.mm[mid] < mm {
			lo = mid + 1
		} else {
			hi = mid
		}
	}
	return lo
}

func mean(sum []float64, mm []float64, from, to int) float64 {
	if to <= from || mm[to] <= mm[from] {
		return 0
	}
	return (sum[to] - sum[from]) / (mm[to] - mm[from])
}

// direction from one place to another, of length 1.
func direction(a, b plant.Point) (x, y float64) {
	d := math.Hypot(b.X-a.X, b.Y-a.Y)
	if d == 0 {
		return 0, 0
	}
	return (b.X - a.X) / d, (b.Y - a.Y) / d
}

func (t *tree) candidates(b branch, number int, joined bool, behind likely.Background, expected likely.Colour) []Candidate {
	a := t.along(b, expected)
	last := len(b.way) - 1
	own := a.mm[b.own]
	out := []Candidate{}
	for mm := own + leastLengthMM; ; mm += candidatesApart {
		end := a.index(mm)
		if a.mm[last]-a.mm[end] < candidatesApart/2 {
			end = last
		}
		if a.mm[end]-own >= leastLengthMM-0.1 {
			out = append(out, t.candidate(b, a, end, number, false, joined, behind))
			if own > nearStemMM && !joined {
				out = append(out, t.candidate(b, a, end, number, true, false, behind))
			}
		}
		if end == last {
			return out
		}
	}
}

func (t *tree) candidate(b branch, a along, end, number int, side, joined bool, behind likely.Background) Candidate {
	m := t.guide.Map
	from := 0
	if side {
		from = b.own
	}
	line := trace.Smooth(a.at[from:end+1], trace.SmoothMM*m.PxMM)
	first := int(t.pixel[b.way[0]])
	c := Candidate{Line: line, Node: max(0, t.guide.InBand(first)-1), Side: side, Branch: number}
	own := b.own
	n := 0
	put := func(v float64) { c.Features[n] = float32(v); n++ }
	tip := a.at[end]
	put(a.mm[end] - a.mm[from])
	put(a.mm[end] - a.mm[own])
	put(a.mm[own])
	put(mean(a.p, a.mm, own, end))
	put(mean(a.p, a.mm, from, end))
	put(t.weakest(a, own, end))
	put(t.weakest(a, from, end))
	put(mean(a.p, a.mm, a.index(a.mm[end]-shortMM), end))
	put(mean(a.p, a.mm, a.index(a.mm[end]-longMM), end))
	// Ahead along the branch, and straight on.
	put(mean(a.p, a.mm, end, a.index(a.mm[end]+shortMM)))
	put(mean(a.p, a.mm, end, a.index(a.mm[end]+longMM)))
	ux, uy := direction(a.at[a.index(math.Max(a.mm[from], a.mm[end]-bendMM))], tip)
	put(t.ahead(tip, ux, uy, shortMM))
	put(t.ahead(tip, ux, uy, longMM))
	on := a.index(a.mm[end] + bendMM)
	vx, vy := direction(tip, a.at[on])
	put(ux*vx + uy*vy)
	// Where it leaves what was there before.
	jx, jy := direction(a.at[a.index(math.Max(0, a.mm[own]-bendMM))], a.at[own])
	kx, ky := direction(a.at[own], a.at[a.index(a.mm[own]+bendMM)])
	put(jx*kx + jy*ky)
	put(t.sharpest(a, own, end))
	put(math.Hypot(tip.X-a.at[own].X, tip.Y-a.at[own].Y) / m.PxMM / math.Max(1, a.mm[end]-a.mm[own]))
	node := t.guide.Bands[c.Node].Node
	put(math.Hypot(tip.X-node.X, tip.Y-node.Y) / m.PxMM)
	put((tip.Y - a.at[own].Y) / m.PxMM / math.Max(1, a.mm[end]-a.mm[own]))
	put((tip.Y - node.Y) / m.PxMM)
	put(mean(a.off, a.mm, own, end))
	put(mean(a.strength, a.mm, own, end))
	put(mean(a.strength, a.mm, a.index(a.mm[end]-shortMM), end) / (1 + mean(a.strength, a.mm, own, end)))
	put(mean(a.strength, a.mm, end, a.index(a.mm[end]+shortMM)) / (1 + mean(a.strength, a.mm, own, end)))
	put(mean(a.off, a.mm, end, a.index(a.mm[end]+shortMM)) - mean(a.off, a.mm, a.index(a.mm[end]-longMM), end))
	put(a.evidence[end] - a.evidence[own])
	put(a.evidence[len(a.evidence)-1] - a.evidence[end])
	put(a.mm[len(a.mm)-1] - a.mm[end])
	put(flag(side))
	put(flag(joined))
	put(flag(behind.Water))
	put(flag(behind.Moss))
	put(flag(behind.Grains))
	put(float64(number))
	put(flag(end == len(a.mm)-1))
	gap := 0.0
	if own > 0 {
		gap = math.Hypot(a.at[own].X-a.at[own-1].X, a.at[own].Y-a.at[own-1].Y) / m.PxMM
	}
	put(gap)
	put(mean(a.first, a.mm, own, end))
	size := mean(a.scale, a.mm, own, end)
	put(size)
	put(mean(a.scale2, a.mm, own, end) - size*size)
	put(mean(a.scale, a.mm, a.index(a.mm[end]-longMM), end) - size)
	return c
}

func flag(v bool) float64 {
	if v {
		return 1
	}
	return 0
}

// weakest is the least mean chance over a short stretch.
func (t *tree) weakest(a along, from, to int) float64 {
	least := mean(a.p, a.mm, from, to)
	for i := from; i < to; i++ {
		j := a.index(a.mm[i] + weakMM)
		if j > to || a.mm[to]-a.mm[i] < weakMM {
			break
		}
		least = math.Min(least, mean(a.p, a.mm, i, j))
	}
	return least
}

// sharpest is the cosine of the sharpest bend.
func (t *tree) sharpest(a along, from, to int) float64 {
	least := 1.0
	for i := from; i < to; i += 3 {
		b, c := a.index(a.mm[i]+bendMM), a.index(a.mm[i]+2*bendMM)
		if c > to || a.mm[to]-a.mm[i] < 2*bendMM {
			break
		}
		ux, uy := direction(a.at[i], a.at[b])
		vx, vy := direction(a.at[b], a.at[c])
		least = math.Min(least, ux*vx+uy*vy)
	}
	return least
}

// ahead is the mean chance straight on from a place, the better of three pixels across at each step.
func (t *tree) ahead(from plant.Point, ux, uy, mm float64) float64 {
	sum, n := 0.0, 0.0
	for d := 1.0; d <= mm*t.guide.Map.PxMM; d++ {
		best := 0.0
		for k := -1.0; k <= 1; k++ {
			x, y := int(from.X+d*ux-k*uy), int(from.Y+d*uy+k*ux)
			if x >= 0 && y >= 0 && x < t.p.W && y < t.p.H {
				best = math.Max(best, float64(t.p.Pix[y*t.p.W+x]))
			}
		}
		sum, n = sum+best, n+1
	}
	return sum / math.Max(1, n)
}

// Tables say which candidates are roots: Root which are one and end where they say, On which lie on roots, wherever these
// end.
type Tables struct{ Root, On *boost.Forest }

//go:embed tables.gz
var shipped []byte

// Shipped are the tables that come with the program.
var Shipped = sync.OnceValues(func() (*Tables, error) { return ReadTables(bytes.NewReader(shipped)) })

// Write writes tables, compressed.
func (t *Tables) Write(w io.Writer) error {
	z, err := gzip.NewWriterLevel(w, gzip.BestCompression)
	if err != nil {
		return err
	}
	for _, f := range []*boost.Forest{t.Root, t.On} {
		if _, err := z.Write(f.Bytes()); err != nil {
			return err
		}
	}
	return z.Close()
}

// ReadTables reads what [Tables.Write] wrote.
func ReadTables(r io.Reader) (*Tables, error) {
	z, err := gzip.NewReader(r)
	if err != nil {
		return nil, fmt.Errorf("these are no tables: %w", err)
	}
	all := io.LimitReader(z, 32<<20)
	t := &Tables{}
	for _, into := range []**boost.Forest{&t.Root, &t.On} {
		f, err := boost.Read(all)
		if err != nil {
			return nil, err
		}
		if f.Features != features {
			return nil, fmt.Errorf("these tables see %d numbers of a candidate, not %d: learn them anew", f.Features, features)
		}
		*into = f
	}
	return t, nil
}

// Chance is how likely a candidate is a root that ends where it says.
func (t *Tables) Chance(c Candidate) float64 { return float64(t.Root.Chance(c.Features[:])) }

// Lies is how likely a candidate lies on a root, wherever that ends.
func (t *Tables) Lies(c Candidate) float64 { return float64(t.On.Chance(c.Features[:])) }

// Proposal is a candidate that may well be a root.
type Proposal struct {
	Candidate
	// Confidence is the chance that it is a root and ends where it says, 0 to 1; Lies that it lies on one.
	Confidence, Lies float64
}

// Wanted is what a candidate must have to be proposed.
type Wanted struct {
	// Confidence is the least chance that it is a root and ends where it says.
	Confidence float64
	// Lies is from which chance that it lies on a root it is proposed also when its end is unsure; more than 1 for never.
	Lies float64
}

const (
	// leastLies is how likely any proposal lies on a root at least.
	leastLies = 0.65
	// leastEnd is the least confidence of one whose end is unsure: below it ended wrong almost always.
	leastEnd = 0.03
)

// Propose takes the best candidate of each branch, of those that have what is wanted.
func (t *Tables) Propose(all []Candidate, w Wanted) []Proposal {
	best := map[int]Proposal{}
	for _, c := range all {
		p := Proposal{c, t.Chance(c), 0}
		if p.Confidence <= best[c.Branch].Confidence || p.Confidence < math.Min(w.Confidence, leastEnd) {
			continue
		}
		p.Lies = t.Lies(c)
		if p.Confidence >= w.Confidence && p.Lies >= leastLies || p.Lies >= w.Lies {
			best[c.Branch] = p
		}
	}
	out := []Proposal{}
	for i := range MostBranches {
		if p, ok := best[i]; ok {
			out = append(out, p)
		}
	}
	return out
}

// how a forest of candidates is learned.
var how = boost.How{Trees: 100, Depth: 4, Rate: 0.1, Least: 3, Ridge: 3, Passes: 4}

// Learn learns which candidates are roots that end where they say, and which lie on roots.
func Learn(all []Candidate, right, on []bool) (*Tables, error) {
	t := &Tables{}
	var err error
	if t.Root, err = learned(all, right); err != nil {
		return nil, err
	}
	t.On, err = learned(all, on)
	return t, err
}

func learned(all []Candidate, of []bool) (*boost.Forest, error) {
	rows := &boost.Rows{Features: features}
	for i, c := range all {
		rows.Add(c.Features[:], of[i], 1)
	}
	return boost.Learn(rows, how)
}
