package learn

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"clearjar/core/scenario"
)

// Came is what is known of when one piece rooted, in effective days since setting. A root was first seen at Seen, and none at Not, the
// look before it (0 for none); where none was ever seen Seen is 0 and Not the last look at which the piece was firm, waiting or
// rotted since.
type Came struct{ Not, Seen float64 }

// Times is how much later than the starting value a grower's pieces root: the logarithm of the factor, its mean and its spread.
type Times struct {
	Mean, Spread float64
	// Pieces is how many records it rests on, Rooted how many of them rooted.
	Pieces, Rooted int
}

// Factor is by how many times later they root.
func (t Times) Factor() float64 { return math.Exp(t.Mean) }

// The grid of the factor, a logarithm, and how long the first root may be when it is first seen, mm.
const (
	gridEnd  = 1.2
	gridStep = 0.025
	unseenMM = 2.0
	seenMM   = 1.0
)

// At is the belief on the grid after records of pieces like p: the prior is normal, around the starting value, as wide as growers
// differ.
func At(p scenario.Params, records []Came) Times {
	mu, s := p.Piece()
	logRate, _ := p.PieceRate()
	rate := math.Exp(logRate)
	w := p.Wakes()
	normal := distuv.UnitNormal
	rootedBy := func(t, theta float64) float64 {
		if t <= 0 {
			return 0
		}
		return normal.CDF((math.Log(t) - mu - theta) / s)
	}
	out := Times{Pieces: len(records)}
	for _, r := range records {
		if r.Seen > 0 {
			out.Rooted++
		}
	}
	var sum, first, second float64
	for i := 0; i <= int(math.Round(2*gridEnd/gridStep)); i++ {
		theta := -gridEnd + float64(i)*gridStep
		ll := -theta * theta / (2 * p.M().Growers() * p.M().Growers())
		for _, r := range records {
			chance := w*(1-rootedBy(r.Not, theta)) + 1 - w
			if r.Seen > 0 {
				chance = rootedBy(r.Seen-seenMM/rate, theta) - rootedBy(r.Not-unseenMM/rate, theta)
			}
			ll += math.Log(math.Max(chance, 1e-9))
		}
		weight := math.Exp(ll)
		sum, first, second = sum+weight, first+weight*theta, second+weight*theta*theta
	}
	out.Mean = first / sum
	out.Spread = math.Sqrt(math.Max(0, second/sum-out.Mean*out.Mean))
	return out
}

// Grew is the rate of the longest root of one piece, the logarithm of mm an effective day, and the variance of how well it is known.
type Grew struct{ LogRate, Variance float64 }

// Rates is how much faster than the starting value a grower's roots grow: the logarithm of the factor, its mean and its spread.
type Rates struct {
	Mean, Spread float64
	Pieces       int
}

// Rate is the belief after rates of pieces like p: normal on normal, a piece weighs less the worse it is known.
func Rate(p scenario.Params, records []Grew) Rates {
	mu, s := p.PieceRate()
	precision := 1 / (p.M().Growers() * p.M().Growers())
	mean := 0.0
	for _, r := range records {
		w := 1 / (s*s + r.Variance)
		precision += w
		mean += w * (r.LogRate - mu)
	}
	return Rates{mean / precision, math.Sqrt(1 / precision), len(records)}
}

// StartsAs is how many pieces of records the starting value weighs: past as many, the records count for more.
func StartsAs(p scenario.Params) float64 {
	_, s := p.Piece()
	return s * s / (p.M().Growers() * p.M().Growers())
}

// Sister is what a piece of the same mother, day and medium shows of when it rooted: by how much later than usual, a logarithm, and
// how sure that is, one over its variance, what was expected of it taken off.
type Sister struct{ Later, Precision float64 }

// Numbers of what sisters share: assumed.
const (
	sistersShare = 0.30
	mostSisters  = 6
	mostLater    = 0.3
)

// Sisters is by how much later a piece like p is expected to root than by its own records, from its sisters: a logarithm.
func Sisters(p scenario.Params, of []Sister) float64 {
	_, s := p.Piece()
	if len(of) > mostSisters {
		of = of[:mostSisters]
	}
	above, below := 0.0, 1/(sistersShare*s*s)
	for _, x := range of {
		w := 1 / ((1-sistersShare)*s*s + 1/x.Precision)
		above, below = above+w*x.Later, below+w
	}
	return math.Max(-mostLater, math.Min(mostLater, above/below))
}
