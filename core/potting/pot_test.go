package potting

import (
	"encoding/csv"
	"math"
	"os"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
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
		a, err := Suggest(number.Table{}, group(t, "thick_climber"), plant.StemCutting, c.longest)
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
		a, err := Suggest(number.Table{}, group(t, key), plant.StemCutting, 30)
		require.NoError(t, err)
		require.Equal(t, first, a.Mix[0].Name, key)
	}
}

func TestImpossibleRootsAndPotsAreRefused(t *testing.T) {
	for _, mm := range []float64{-1, math.NaN(), 1e6} {
		_, err := Suggest(number.Table{}, group(t, "wax_vine"), plant.Tip, mm)
		require.Len(t, plant.Refusals(err), 1)
	}
	require.Error(t, Pot{TopMM: 0, BottomMM: 60, DepthMM: 80}.Check())
	require.NoError(t, Pot{TopMM: 90, BottomMM: 68, DepthMM: 85}.Check())
}

// common practice, no source: water-rooted pieces are kept evenly damp for the first 14 days.
func TestAftercareIsDatedAndKnowsWhatIsPast(t *testing.T) {
	potted := time.Date(2026, 5, 1, 9, 0, 0, 0, time.UTC)
	steps := Aftercare(number.Table{}, Planted{Group: group(t, "thick_climber"), Kind: plant.Tip, From: plant.Water, On: potted, Today: potted.AddDate(0, 0, 5)}).Steps
	require.Contains(t, steps[1].Text, "do not let it dry once")
	require.True(t, steps[2].Past)
	require.False(t, steps[3].Past)
	last := steps[len(steps)-1]
	require.Equal(t, time.Date(2026, 6, 5, 9, 0, 0, 0, time.UTC), last.On)
}

// common practice, no source: a division goes into a pot that fits its roots; the 100 mm rule is for first
// pots of cuttings. It keeps the mix its mother grows in.
func TestDivisionGetsAPotThatFitsItsRoots(t *testing.T) {
	a, err := Suggest(number.Table{}, group(t, "clump_former"), plant.Division, 300)
	require.NoError(t, err)
	require.Equal(t, 300.0, a.Pot.TopMM)
	require.Empty(t, a.Warning)
	require.Contains(t, a.MixWhy, "mother")
	unknown, err := Suggest(number.Table{}, group(t, "clump_former"), plant.Division, 0)
	require.NoError(t, err)
	require.Contains(t, unknown.Warning, "never measured")
	cutting, err := Suggest(number.Table{}, group(t, "thick_climber"), plant.Tip, 300)
	require.NoError(t, err)
	require.Equal(t, 100.0, cutting.Pot.TopMM)
}

// common practice, no source: succulents are set dry, watered after two days, then only when about 80 % of the
// mix is dry, and never covered. No group is without a course, and every mix has its parts.
func TestSucculentsAreKeptDryAfterPotting(t *testing.T) {
	on := time.Date(2026, 5, 1, 9, 0, 0, 0, time.UTC)
	for _, g := range plant.Groups() {
		for _, k := range plant.KindRows() {
			for _, m := range plant.Media() {
				steps := Aftercare(number.Table{}, Planted{Group: g, Kind: k.Kind, From: m.Medium, On: on, Today: on}).Steps
				require.NotEmpty(t, steps, g.Key)
				text := ""
				for i, s := range steps {
					require.True(t, i == 0 || s.Day > steps[i-1].Day)
					text += s.Text
				}
				dry := g.Keeping == plant.Dry
				require.Equal(t, dry, !strings.Contains(text, "amp") && strings.Contains(text, "80 %") && strings.Contains(text, "do not cover"), "%s %s", g.Key, k.Kind)
				if dry {
					require.Contains(t, steps[0].Text, "Do not water yet")
					require.Equal(t, 2, steps[1].Day)
				}
			}
		}
		a, err := Suggest(number.Table{}, g, plant.Tip, 30)
		require.NoError(t, err)
		_, known := MixNamed(number.Table{}, g.Mix)
		require.True(t, known, "the mix of %s is in the table", g.Key)
		require.NotEmpty(t, a.Mix)
	}
}

// common practice, no source: by kind and root type; a step is seen to once somebody was there on or after its day, and one that was
// missed asks no more when the next has come.
func TestWeeksAfterPottingAreTicked(t *testing.T) {
	on := time.Date(2026, 5, 1, 9, 0, 0, 0, time.UTC)
	day := func(n int) time.Time { return on.AddDate(0, 0, n) }
	weeks := func(p Planted, today int, visits ...int) Weeks {
		p.On, p.Today = on, day(today)
		for _, v := range visits {
			p.Visits = append(p.Visits, day(v))
		}
		return Aftercare(number.Table{}, p)
	}
	climber := Planted{Group: group(t, "thick_climber"), Kind: plant.Tip, From: plant.Water}
	require.Nil(t, weeks(climber, 1).Due(day(1)), "it was watered in as it was potted")
	require.Equal(t, 2, weeks(climber, 3).Due(day(3)).Day)
	require.Nil(t, weeks(climber, 3, 2).Due(day(3)))
	require.Equal(t, 7, weeks(climber, 8, 5).Due(day(8)).Day, "that of day 4 asks no more")
	require.Equal(t, 10, weeks(climber, 8, 5).Next(day(8)).Day)
	require.Nil(t, weeks(climber, 60, 40).Due(day(60)))
	require.True(t, day(14).Equal(weeks(climber, 1).ShockUntil))
	first := func(p Planted) string { return weeks(p, 0).Steps[0].Text }
	require.Contains(t, first(Planted{Group: group(t, "gesneriad"), Kind: plant.Plantlet}), "then cover it")
	require.Contains(t, first(Planted{Group: group(t, "clump_former"), Kind: plant.Division}), "Water well")
	require.Contains(t, first(Planted{Group: group(t, "rosette_succulent"), Kind: plant.Plantlet}), "Do not water yet")
	climber.Moved = true
	require.Contains(t, first(climber), "there is food in the mix")
	for _, g := range plant.Groups() {
		require.NotEmpty(t, weeks(Planted{Group: g, Kind: g.Kinds[0]}, 0).NotNormal, g.Key)
	}
}
