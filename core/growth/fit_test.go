package growth

import (
	"encoding/csv"
	"math"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// rows reads a reference table; the first line names the columns.
func rows(t *testing.T, name string) []map[string]string {
	t.Helper()
	f, err := os.Open("testdata/" + name)
	require.NoError(t, err)
	defer func() { _ = f.Close() }()
	all, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	var out []map[string]string
	for _, r := range all[1:] {
		row := map[string]string{}
		for i, name := range all[0] {
			row[name] = r[i]
		}
		out = append(out, row)
	}
	require.NotEmpty(t, out)
	return out
}

func decimal(t *testing.T, s string) float64 {
	t.Helper()
	v, err := strconv.ParseFloat(s, 64)
	require.NoError(t, err)
	return v
}

func fits(t *testing.T) map[string]Line {
	t.Helper()
	sets := map[string][]LengthAt{}
	for _, r := range rows(t, "data.csv") {
		sets[r["dataset"]] = append(sets[r["dataset"]], LengthAt{decimal(t, r["x"]), decimal(t, r["y"])})
	}
	out := map[string]Line{}
	for name, looks := range sets {
		line, err := Fit(looks)
		require.NoError(t, err)
		out[name] = line
	}
	return out
}

// published: NIST/ITL Statistical Reference Datasets, Norris (certified values); the other
// sets were fitted by R 4.2.2 lm().
func TestLineEqualsCertifiedAndR(t *testing.T) {
	lines := fits(t)
	for _, r := range rows(t, "ols.csv") {
		line, ok := lines[r["dataset"]]
		require.True(t, ok)
		require.InEpsilon(t, decimal(t, r["intercept"]), line.Start, 1e-9, r["dataset"])
		require.InEpsilon(t, decimal(t, r["slope"]), line.Rate, 1e-10, r["dataset"])
		require.InEpsilon(t, decimal(t, r["resid_sd"]), line.Spread, 1e-9, r["dataset"])
	}
}

// published: R 4.2.2 predict(lm, interval = "prediction").
func TestPredictionIntervalEqualsR(t *testing.T) {
	lines := fits(t)
	for _, r := range rows(t, "prediction.csv") {
		low, high, ok := lines[r["dataset"]].Predict(decimal(t, r["x0"]), decimal(t, r["level"]))
		require.True(t, ok)
		require.InDelta(t, decimal(t, r["pred_lo"]), low, 1e-8, r["dataset"])
		require.InDelta(t, decimal(t, r["pred_hi"]), high, 1e-8, r["dataset"])
	}
}

// published: inverse prediction limits, Draper & Smith 1998 section 3.2 (from memory), computed in R and checked by root finding.
func TestDayOfReachEqualsInversePrediction(t *testing.T) {
	lines := fits(t)
	checked := 0
	for _, r := range rows(t, "inverse.csv") {
		line := lines[r["dataset"]]
		if r["kind"] != "prediction" || line.Rate <= 0 {
			continue
		}
		reach, ok := line.Reach(decimal(t, r["y0"]), decimal(t, r["level"]))
		require.True(t, ok)
		require.InEpsilon(t, decimal(t, r["x_hat"]), reach.Day, 1e-8)
		require.Equal(t, r["shape"] == "bounded", reach.Bounded, "%v", r)
		if reach.Bounded {
			require.InDelta(t, decimal(t, r["lo"]), reach.Low, 1e-7*math.Max(1, math.Abs(reach.Low)))
			require.InDelta(t, decimal(t, r["hi"]), reach.High, 1e-7*math.Max(1, math.Abs(reach.High)))
		}
		checked++
	}
	require.Greater(t, checked, 10)
}

// Three looks on a line by luck do not know the day better than the measuring is good for.
func TestLookNeverKnowsMoreThanItsMeasuring(t *testing.T) {
	f, ok := Ahead(number.Table{}, []LengthAt{{10, 10}, {17, 20}, {24, 30}}, 50, 24)
	require.True(t, ok)
	require.Greater(t, f.HighDay-f.LowDay, 7.0)
	two, ok := Ahead(number.Table{}, []LengthAt{{10, 10}, {20, 30}}, 50, 20)
	require.True(t, ok)
	require.True(t, two.Bounded)
	// Older looks weigh less: a root that stopped is not forecast by what it did at first.
	slow, _ := Ahead(number.Table{}, []LengthAt{{7, 5}, {14, 22}, {40, 36}, {47, 38}}, 50, 47)
	fast, _ := Ahead(number.Table{}, []LengthAt{{40, 28}, {47, 38}}, 50, 47)
	require.Greater(t, slow.ReachDay, fast.ReachDay)
}

// No day of a forecast lies in the past, whatever the looks say.
func TestForecastLiesAhead(t *testing.T) {
	f, ok := Ahead(number.Table{}, []LengthAt{{10, 20}, {17, 40}}, 50, 60)
	require.True(t, ok)
	require.GreaterOrEqual(t, f.ReachDay, 60.0)
	require.GreaterOrEqual(t, f.LowDay, 60.0)
	require.Greater(t, f.HighDay, f.ReachDay)
}

func TestNothingIsForecastWithoutGrowth(t *testing.T) {
	for name, looks := range map[string][]LengthAt{
		"one look":         {{5, 10}},
		"same day twice":   {{5, 10}, {5, 12}},
		"standing still":   {{5, 10}, {9, 10}},
		"shrinking":        {{5, 10}, {9, 8}},
		"years away":       {{5, 10}, {9, 10.01}},
		"nothing measured": nil,
	} {
		_, ok := Ahead(number.Table{}, looks, 50, 10)
		require.False(t, ok, name)
	}
}

func TestConfidenceHasABasis(t *testing.T) {
	require.Equal(t, plant.Assumption, Confidence.Basis.Kind)
}
