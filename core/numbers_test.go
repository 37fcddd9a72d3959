package core_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core"
	"clearjar/core/care"
	"clearjar/core/climate"
	"clearjar/core/cutplan"
	"clearjar/core/life"
	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/core/rootphoto"
	"clearjar/core/setting"
)

func TestEveryNumberHasItsPlaceOnTheTable(t *testing.T) {
	require.NotEmpty(t, core.Rules)
	listed := map[string]bool{}
	for _, list := range [][]plant.Number{cutplan.Numbers(), readiness.Numbers(), potting.Numbers(), rootphoto.Numbers(), climate.Numbers(), care.Numbers(), setting.Numbers()} {
		for _, n := range list {
			listed[n.Key] = true
		}
	}
	for _, n := range number.All() {
		require.NotEmpty(t, n.Label, n.Key)
		require.NotEmpty(t, n.Unit, n.Key)
		require.NotEmpty(t, n.Basis.Kind, n.Key)
		require.NotEmpty(t, n.Basis.Source, n.Key)
		require.LessOrEqual(t, n.Low, n.Value, n.Key)
		require.GreaterOrEqual(t, n.High, n.Value, n.Key)
		if n.Key[:6] != "growth" {
			require.True(t, listed[n.Key], "%s is shown nowhere", n.Key)
		}
	}
}

func TestTableRefusesWhatCannotBe(t *testing.T) {
	for _, c := range []number.Change{{Key: "luck", Value: 1}, {Key: readiness.EarlyLongest.Key, Value: -1}, {Key: readiness.EarlyLongest.Key, Value: math.NaN()}, {Key: rootphoto.JarMagnify.Key, Value: 3}} {
		_, err := number.Table{}.With(c)
		require.ErrorAs(t, err, new(number.ChangeError), c.Key)
	}
	a, err := number.Table{}.With(number.Change{Key: readiness.EarlyLongest.Key, Value: 12})
	require.NoError(t, err)
	b, err := a.With(number.Change{Key: readiness.EarlyLongest.Key, Value: 14})
	require.NoError(t, err)
	require.InDelta(t, 12, a.Of(readiness.EarlyLongest), 0, "a table laid over leaves the one beneath")
	require.NotEqual(t, a.Version(), b.Version())
	require.Empty(t, number.Table{}.Version())
	back, err := b.With(number.Change{Key: readiness.EarlyLongest.Key, Value: 12})
	require.NoError(t, err)
	require.Equal(t, a.Version(), back.Version(), "the same values are the same version")
}

// finite fails on a number that is none.
func finite(t *testing.T, what string, values ...float64) {
	t.Helper()
	for _, v := range values {
		require.False(t, math.IsNaN(v) || math.IsInf(v, 0), what)
	}
}

// Each number at either end of its range: nothing breaks, no length and no chance is nonsense, for every group,
// school and medium.
func TestEveryNumberMayBeChangedToEitherEnd(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 3))
	for _, n := range number.All() {
		for _, v := range []float64{n.Low, n.High} {
			table, err := number.Table{}.With(number.Change{Key: n.Key, Value: v})
			require.NoError(t, err)
			what := fmt.Sprintf("%s = %g", n.Key, v)
			l, today := anyLife(r)
			l.Numbers = table
			potted := l
			potted.Potted = &life.Potting{On: today.AddDate(0, 0, -r.IntN(40))}
			_, err = readiness.Judge(readiness.Of(potted, today, false), plant.FullRoots)
			require.NoError(t, err, what)
			for _, s := range plant.Schools() {
				j, err := readiness.Judge(readiness.Of(l, today, r.IntN(2) == 0), s.Key)
				require.NoError(t, err, what)
				require.NotEmpty(t, j.Sentence, what)
				finite(t, what, j.Progress, j.DayLoss)
				if c, ok := readiness.Foresee(readiness.Of(l, today, false), s.Key); ok {
					finite(t, what, c.Ready, c.Never, c.Lacks, c.Rot)
					require.True(t, c.Ready >= 0 && c.Ready <= 1 && c.Never >= 0 && c.Never <= 1, what)
					if c.Best != nil {
						finite(t, what, c.Best.Curve...)
					}
				}
				if j.Forecast != nil {
					finite(t, what, j.Forecast.ReachDay, j.Forecast.LowDay, j.Forecast.HighDay, j.Forecast.RateMMADay)
				}
			}
			for _, sort := range plant.VesselSorts() {
				v := care.Vessel{Kind: sort.Kind, Medium: l.Settings[0].Medium, Since: l.CutOn, Pieces: []care.Piece{{Code: "A1", Group: l.Group, Kind: l.Kind, CutOn: l.CutOn, SetOn: l.CutOn, RootedOn: &l.CutOn}}}
				d := care.On(v, today, care.Where{Schools: care.Usual(), Numbers: table})
				require.NotNil(t, d.Next, what)
				require.Greater(t, plant.Days(today, *d.Next), 0, what)
			}
			won, tried, _ := l.Trial()
			require.LessOrEqual(t, won, tried, what)
			pot, err := potting.Suggest(table, l.Group, l.Kind, r.Float64()*200)
			require.NoError(t, err, what)
			require.NoError(t, pot.Pot.Check(), "%s: %+v", what, pot.Pot)
			finite(t, what, pot.MixML)
			together, err := potting.Together(table, []potting.Piece{
				{Name: "a", Group: l.Group, Kind: l.Kind, LongestMM: 30, NodeMM: []float64{10, 60}, SetNodes: 1, LengthMM: 100},
				{Name: "b", Group: l.Group, Kind: l.Kind, LongestMM: 34},
				{Name: "c", Group: l.Group, Kind: l.Kind, LongestMM: 90, Now: &potting.Pot{TopMM: 90, BottomMM: 60, DepthMM: 80}},
			})
			require.NoError(t, err, what)
			for _, p := range together.Pots {
				require.NoError(t, p.Pot.Check(), "%s: %+v", what, p.Pot)
				finite(t, what, p.MixML, p.ApartMM, p.RimMM, p.Spread)
			}
			for _, m := range together.Mixes {
				for _, p := range m.Parts {
					finite(t, what, p.ML)
				}
			}
			require.NotEmpty(t, potting.Aftercare(table, potting.Planted{Group: l.Group, Kind: l.Kind, From: plant.Water, On: today, Today: today}).Steps, what)
			m, err := rootphoto.Measure(table, plant.Scale{B: plant.Point{X: 600}, DistanceMM: 50}, [][]plant.Point{{{X: 1, Y: 1}, {X: 90, Y: 300}}}, rootphoto.Setting{RoundJar: true})
			require.NoError(t, err, what)
			for _, root := range m.Roots {
				require.LessOrEqual(t, root.LowMM, root.LengthMM, what)
				require.GreaterOrEqual(t, root.HighMM, root.LengthMM, what)
			}
			bench := cutplan.Bench{Group: l.Group, Sheet: cutplan.Sheet{Table: table}, Stem: plant.Stem{BeyondMM: 30, ThicknessMM: 8, TipIntact: true, Nodes: []plant.Node{
				{BelowMM: 40, Leaf: true, Bud: plant.BudDormant}, {BelowMM: 50, Leaf: true, Bud: plant.BudSwelling, Aerial: true}, {BelowMM: 45, Leaf: true, Bud: plant.BudDormant},
			}}}
			plan, err := cutplan.Check(bench, cutplan.DefaultLimits(), []float64{70})
			require.NoError(t, err, what)
			for _, p := range plan.Pieces {
				require.True(t, p.Chance >= 0 && p.Chance <= 1, "%s: %g", what, p.Chance)
			}
		}
	}
}

// anyLife is a life of some group in some medium, with looks.
func anyLife(r *rand.Rand) (life.Life, time.Time) {
	cut := time.Date(2026, 4, 1, 12, 0, 0, 0, time.UTC)
	media := plant.Media()
	l := life.Life{
		Group: plant.Groups()[r.IntN(len(plant.Groups()))], Kind: plant.StemCutting, Nodes: []plant.Node{{BelowMM: 30}, {BelowMM: 40}}, CutOn: cut,
		Settings: []life.Setting{{On: cut, Medium: media[r.IntN(len(media))].Medium, Nodes: 2}},
	}
	for i := range 4 {
		mm := float64(4 + 6*i)
		l.Looks = append(l.Looks, life.LookOn{On: cut.AddDate(0, 0, 10+7*i), Look: plant.Look{RootsCounted: true, Roots: []plant.Root{{Node: 1, Order: 1, LengthMM: mm, LowMM: mm, HighMM: mm}}, Stem: "firm"}})
	}
	if r.IntN(3) == 0 {
		l.Potted = &life.Potting{On: cut.AddDate(0, 0, 40)}
	}
	return l, cut.AddDate(0, 0, 32+r.IntN(60))
}

// Judging is deciding; with its sentences it is what one page shows.
func BenchmarkDecide10000Lives(b *testing.B) {
	judging(b, func(e readiness.Evidence, s plant.SchoolKey) error { _, err := readiness.Decide(e, s); return err })
}

func BenchmarkJudge10000Lives(b *testing.B) {
	judging(b, func(e readiness.Evidence, s plant.SchoolKey) error { _, err := readiness.Judge(e, s); return err })
}

func judging(b *testing.B, judge func(readiness.Evidence, plant.SchoolKey) error) {
	r := rand.New(rand.NewPCG(1, 1))
	lives := make([]life.Life, 10000)
	days := make([]time.Time, len(lives))
	for i := range lives {
		lives[i], days[i] = anyLife(r)
	}
	b.ResetTimer()
	for b.Loop() {
		for i, l := range lives {
			if err := judge(readiness.Of(l, days[i], false), l.Group.School); err != nil {
				b.Fatal(err)
			}
		}
	}
}
