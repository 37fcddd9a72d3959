package stats

import (
	"encoding/csv"
	"encoding/json"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// The tables in testdata come from outside: exact fractions and R, SciPy and mpmath; the
// columns that R or exact integers gave are named at each test.

type row map[string]string

func (r row) float(t *testing.T, col string) float64 {
	t.Helper()
	v, err := strconv.ParseFloat(r[col], 64)
	require.NoError(t, err, col)
	return v
}

func (r row) int(t *testing.T, col string) int { return int(r.float(t, col)) }

func table(t *testing.T, name string) []row {
	t.Helper()
	f, err := os.Open("testdata/" + name)
	require.NoError(t, err)
	defer f.Close()
	lines, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	rows := make([]row, 0, len(lines))
	for _, l := range lines[1:] {
		r := row{}
		for i, col := range lines[0] {
			r[col] = l[i]
		}
		rows = append(rows, r)
	}
	require.NotEmpty(t, rows)
	return rows
}

// general-purpose reference: exact convolution in fractions, brute force over all outcomes up to n = 12.
func TestPoissonBinomialAgainstExactConvolution(t *testing.T) {
	raw, err := os.ReadFile("testdata/poisson_binomial_vectors.json")
	require.NoError(t, err)
	vectors := map[string][]float64{}
	require.NoError(t, json.Unmarshal(raw, &vectors))
	for _, r := range table(t, "poisson_binomial.csv") {
		pmf := PoissonBinomial(vectors[r["vector"]])
		k := r.int(t, "k")
		require.InDelta(t, r.float(t, "pmf"), pmf[k], 1e-13)
		require.InDelta(t, r.float(t, "prob_ge_k"), AtLeast(pmf, k), 1e-13)
	}
}

// general-purpose reference: exact integers; R gives k + qnbinom(q, k, p), equal in every row.
func TestHowManyAgainstExactIntegers(t *testing.T) {
	for _, r := range table(t, "sample_size.csv") {
		n, reached, err := HowMany(r.int(t, "k"), r.float(t, "p"), r.float(t, "q"))
		require.NoError(t, err)
		require.Equal(t, r.int(t, "n_min"), n, "%v", r)
		require.InEpsilon(t, r.float(t, "prob_at_n"), reached, 1e-11)
		if r.int(t, "n_min") > r.int(t, "k") {
			require.InDelta(t, r.float(t, "prob_at_n_minus_1"), BinomialAtLeast(n-1, r.int(t, "k"), r.float(t, "p")), 1e-11)
		}
	}
}

// general-purpose reference: exact fractions for n <= 300, 40 digits above.
func TestHowManyByRecordsAgainstFractions(t *testing.T) {
	for _, r := range table(t, "sample_size_betabinom.csv") {
		n, reached, err := HowManyByRecords(r.int(t, "k"), r.float(t, "a"), r.float(t, "b"), r.float(t, "q"))
		require.NoError(t, err)
		require.Equal(t, r.int(t, "n_min"), n, "%v", r)
		require.InDelta(t, r.float(t, "prob_at_n"), reached, 1e-9)
	}
}

// general-purpose reference: exact fractions.
func TestBetaBinomialAgainstFractions(t *testing.T) {
	for _, r := range table(t, "betabinom.csv") {
		got := BetaBinomialAtLeast(r.int(t, "n"), r.int(t, "k"), r.float(t, "a"), r.float(t, "b"))
		require.InDelta(t, r.float(t, "prob_ge_k"), got, 1e-11, "%v", r)
	}
}

// general-purpose reference: R qbeta, 40-digit quantiles beside it.
func TestBeliefAndItsQuantiles(t *testing.T) {
	for _, r := range table(t, "beta_quantiles.csv") {
		b := Beta{r.float(t, "prior_a"), r.float(t, "prior_b")}.Saw(r.int(t, "x"), r.int(t, "n"))
		require.InDelta(t, r.float(t, "mean"), b.Mean(), 1e-14)
		require.InDelta(t, r.float(t, "quantile"), b.Quantile(r.float(t, "p")), 1e-9, "%v", r)
	}
}

func TestBelieveWeighsTheStartingChance(t *testing.T) {
	b := Believe(0.6, 10)
	require.InDelta(t, 0.6, b.Mean(), 1e-15)
	// by hand: (6 + 2) / (10 + 10)
	require.InDelta(t, 0.4, b.Saw(2, 10).Mean(), 1e-15)
}

func TestImpossibleWishesAreNamed(t *testing.T) {
	for name, ask := range map[string]func() error{
		"plants":    func() error { _, _, err := HowMany(0, 0.5, 0.9); return err },
		"certainty": func() error { _, _, err := HowMany(1, 0.5, 1); return err },
		"chance":    func() error { _, _, err := HowMany(1, 0, 0.9); return err },
	} {
		refused := plant.Refusals(ask())
		require.Len(t, refused, 1, name)
		require.Equal(t, name, refused[0].Field)
	}
	_, _, err := HowManyByRecords(1, 0, 3, 0.9)
	require.Error(t, err)
	_, _, err = HowMany(1000, 1e-6, 0.999)
	require.ErrorContains(t, err, "not even")
	n, reached, err := HowManyByRecords(3, 2, 0, 0.9)
	require.NoError(t, err)
	require.Equal(t, 3, n)
	require.Equal(t, 1.0, reached)
	require.Equal(t, 1.0, BinomialAtLeast(5, 2, 1))
}
