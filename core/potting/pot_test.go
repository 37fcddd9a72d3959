package potting

import (
	"encoding/csv"
	"math"
	"os"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

func group(t *testing.T, key string) plant.Group {
	t.Helper()
	g, ok := plant.GroupNamed(key)
	require.True(t, ok)
	return g
}

// published: volume of a frustum (textbook solid geometry), exact fractions, checked by numerical integration in R.
func TestVolumeOfRoundPots(t *testing.T) {
	f, err := os.Open("testdata/pot_volumes.csv")
	require.NoError(t, err)
	defer func() { _ = f.Close() }()
	all, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	checked := 0
	for _, r := range all[1:] {
		if r[0] != "round" {
			continue
		}
		v := make([]float64, len(r))
		for i := 2; i < len(r); i++ {
			v[i], err = strconv.ParseFloat(r[i], 64)
			require.NoError(t, err)
		}
		require.InEpsilon(t, v[7], Pot{TopMM: v[2], BottomMM: v[3], DepthMM: v[4]}.FrustumML(v[6]), 1e-12, r[1])
		checked++
	}
	require.Greater(t, checked, 5)
}

// common practice, no source: a first pot has at most 100 mm; one far larger than the roots rots them.
func TestFirstPotFollowsTheRootsUpTo100(t *testing.T) {
	for _, c := range []struct{ longest, want float64 }{{0, 60}, {12, 60}, {61, 70}, {85, 90}, {100, 100}, {240, 100}} {
		a, err := Suggest(group(t, "thick_climber"), c.longest)
		require.NoError(t, err)
		require.Equal(t, c.want, a.Pot.TopMM, "longest %g", c.longest)
		require.Equal(t, c.longest > 100, a.Warning != "")
		sum := 0.0
		for _, p := range a.Mix {
			sum += p.ML
		}
		require.InEpsilon(t, a.MixML, sum, 1e-12)
	}
}

// common practice, no source: gritty mix for succulents, light and chunky for climbers.
func TestMixSuitsTheRoots(t *testing.T) {
	for key, first := range map[string]string{"rosette_succulent": "coarse grit", "velvet_climber": "bark", "peperomia": "coir or peat", "pitcher_vine": "long-fibre moss"} {
		a, err := Suggest(group(t, key), 30)
		require.NoError(t, err)
		require.Equal(t, first, a.Mix[0].Name, key)
	}
}

func TestImpossibleRootsAndPotsAreRefused(t *testing.T) {
	for _, mm := range []float64{-1, math.NaN(), 1e6} {
		_, err := Suggest(group(t, "wax_vine"), mm)
		require.Len(t, plant.Refusals(err), 1)
	}
	require.Error(t, Pot{TopMM: 0, BottomMM: 60, DepthMM: 80}.Check())
	require.NoError(t, Pot{TopMM: 90, BottomMM: 68, DepthMM: 85}.Check())
}

// common practice, no source: water-rooted pieces are kept evenly damp for the first 14 days.
func TestAftercareIsDatedAndKnowsWhatIsPast(t *testing.T) {
	potted := time.Date(2026, 5, 1, 9, 0, 0, 0, time.UTC)
	steps := Aftercare(potted, potted.AddDate(0, 0, 5), plant.Water)
	require.Contains(t, steps[1].Text, "do not let it dry once")
	require.True(t, steps[2].Past)
	require.False(t, steps[3].Past)
	last := steps[len(steps)-1]
	require.Equal(t, time.Date(2026, 6, 5, 9, 0, 0, 0, time.UTC), last.On)
}
