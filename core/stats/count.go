package stats

import (
	"math"

	"gonum.org/v1/gonum/mathext"
	"gonum.org/v1/gonum/stat/distuv"

	"clearjar/core/plant"
)

// MostPieces bounds every count of pieces asked for here.
const MostPieces = 1_000_000

// slack takes a chance that equals the wanted certainty as decimals for reaching it.
const slack = 1e-12

// PoissonBinomial is the chance of each number of successes, 0 to len(chances), when the i-th
// piece succeeds with chance chances[i], independently. Exact convolution, O(n²).
func PoissonBinomial(chances []float64) []float64 {
	pmf := make([]float64, 1, len(chances)+1)
	pmf[0] = 1
	for _, p := range chances {
		pmf = append(pmf, 0)
		for k := len(pmf) - 1; k > 0; k-- {
			pmf[k] = pmf[k]*(1-p) + pmf[k-1]*p
		}
		pmf[0] *= 1 - p
	}
	return pmf
}

// AtLeast is the chance of k successes or more in a distribution such as [PoissonBinomial] gives.
func AtLeast(pmf []float64, k int) float64 {
	if k <= 0 {
		return 1
	}
	sum := 0.0
	for i := len(pmf) - 1; i >= k; i-- {
		sum += pmf[i]
	}
	return math.Min(1, sum)
}

// BinomialAtLeast is P(X >= k) for X of n pieces with one common chance p: the regularised
// incomplete beta function I_p(k, n-k+1). published: NIST Digital Library of Mathematical Functions, 8.17.5 (from
// memory). Not by gonum's Binomial, whose survival is 1 - CDF and loses the small chances.
func BinomialAtLeast(n, k int, p float64) float64 {
	switch {
	case k <= 0:
		return 1
	case k > n || p <= 0:
		return 0
	case p >= 1:
		return 1
	}
	return mathext.RegIncBeta(float64(k), float64(n-k+1), p)
}

// BetaBinomialAtLeast is P(X >= k) for X of n pieces whose common chance is unknown,
// Beta(a, b). It sums the k chances below by their recurrence, in logarithms.
func BetaBinomialAtLeast(n, k int, a, b float64) float64 {
	if k <= 0 {
		return 1
	}
	if k > n {
		return 0
	}
	lbeta := func(x, y float64) float64 {
		lx, _ := math.Lgamma(x)
		ly, _ := math.Lgamma(y)
		lxy, _ := math.Lgamma(x + y)
		return lx + ly - lxy
	}
	nf := float64(n)
	log := lbeta(a, b+nf) - lbeta(a, b)
	below := math.Exp(log)
	for i := 0; i < k-1; i++ {
		x := float64(i)
		log += math.Log((nf - x) / (x + 1) * (a + x) / (b + nf - x - 1))
		below += math.Exp(log)
	}
	return math.Max(0, 1-below)
}

// HowMany is the smallest number of pieces n of which at least k succeed with the wanted
// certainty, when each succeeds with chance p. It refuses what no number of pieces reaches.
func HowMany(k int, p, certainty float64) (n int, reached float64, err error) {
	if err := checkWish(k, certainty); err != nil {
		return 0, 0, err
	}
	if !(p > 0 && p <= 1) {
		return 0, 0, plant.Refuse("chance", "the chance of one piece must be above 0 %% and at most 100 %%")
	}
	return smallest(k, certainty, func(n int) float64 { return BinomialAtLeast(n, k, p) })
}

// HowManyByRecords is as [HowMany] when the chance rests on records: Beta(a, b).
func HowManyByRecords(k int, a, b, certainty float64) (n int, reached float64, err error) {
	if err := checkWish(k, certainty); err != nil {
		return 0, 0, err
	}
	if !(a > 0 && b >= 0) || math.IsInf(a+b, 0) {
		return 0, 0, plant.Refuse("chance", "there is no record to go by")
	}
	if b == 0 {
		return smallest(k, certainty, func(int) float64 { return 1 })
	}
	return smallest(k, certainty, func(n int) float64 { return BetaBinomialAtLeast(n, k, a, b) })
}

func checkWish(k int, certainty float64) error {
	switch {
	case k < 1 || k > 1000:
		return plant.Refuse("plants", "ask for 1 to 1000 plants")
	case !(certainty > 0 && certainty < 1):
		return plant.Refuse("certainty", "a certainty lies above 0 %% and below 100 %%: nothing is certain")
	}
	return nil
}

// smallest finds the least n >= k at which a chance that grows with n reaches the certainty.
func smallest(k int, certainty float64, at func(n int) float64) (int, float64, error) {
	enough := func(n int) bool { return at(n) >= certainty-slack }
	high := k
	for !enough(high) {
		if high >= MostPieces {
			return 0, 0, plant.Refuse("certainty", "not even %d pieces reach it", MostPieces)
		}
		high = min(2*high, MostPieces)
	}
	low := k - 1 // never enough: fewer pieces than plants
	for high-low > 1 {
		if mid := (low + high) / 2; enough(mid) {
			high = mid
		} else {
			low = mid
		}
	}
	return high, at(high), nil
}

// Beta is a chance known only so well: as if A-ish successes and B-ish failures had been seen.
type Beta struct {
	A float64 `json:"a"`
	B float64 `json:"b"`
}

// Believe is a starting chance that weighs as much as weight records.
func Believe(chance, weight float64) Beta { return Beta{chance * weight, (1 - chance) * weight} }

// Saw adds records: won of tried.
func (b Beta) Saw(won, tried int) Beta {
	return Beta{b.A + float64(won), b.B + float64(tried-won)}
}

// Mean is the chance to go by, A / (A + B).
func (b Beta) Mean() float64 { return b.A / (b.A + b.B) }

// Quantile is the chance that the true one lies below with probability p, 0 to 1; at the end when all or none was seen.
func (b Beta) Quantile(p float64) float64 {
	switch {
	case b.A <= 0:
		return 0
	case b.B <= 0:
		return 1
	}
	return distuv.Beta{Alpha: b.A, Beta: b.B}.Quantile(p)
}

// Naive is plants over chance, rounded up: what one takes without reckoning with luck.
func Naive(k int, p float64) int {
	return int(math.Ceil(float64(k)/p - slack))
}
