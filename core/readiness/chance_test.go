package readiness_test

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/readiness"
)

var may = time.Date(2026, 5, 1, 12, 0, 0, 0, time.UTC)

func typed(node int, mm float64) plant.Root {
	return plant.Root{Node: node, Order: 1, LengthMM: mm, LowMM: mm, HighMM: mm, How: plant.Typed}
}

// A worked example of the model: a soft climber in water, two nodes, roots of 6 mm on day 14 and of 24 mm on day 21.
func TestForeseenFromTwoLooks(t *testing.T) {
	g, _ := plant.GroupNamed("soft_climber")
	e := readiness.Evidence{Today: may.AddDate(0, 0, 21), Group: g, Medium: plant.Water, SetOn: may, SetNodes: 2, TemperatureC: 24, Looks: []readiness.LookOn{
		{On: may.AddDate(0, 0, 14), Look: plant.Look{RootsCounted: true, Roots: []plant.Root{typed(1, 6)}, Stem: "firm", Buds: []plant.BudAt{{Node: 1, Bud: plant.BudDormant}}}},
		{On: may.AddDate(0, 0, 21), Look: plant.Look{RootsCounted: true, Roots: []plant.Root{typed(1, 24), typed(2, 14), typed(2, 9)}, Stem: "firm", Buds: []plant.BudAt{{Node: 1, Bud: plant.BudSwelling}}}},
	}}
	c, ok := readiness.Foresee(e, plant.FullRoots)
	require.True(t, ok)
	require.InDelta(t, 29.8, *c.Days.P10, 1.5)
	require.InDelta(t, 34.8, *c.Days.P50, 1.5)
	require.InDelta(t, 41.7, *c.Days.P90, 2)
	require.InDelta(t, 17, c.Best.Day, 3)
	require.InDelta(t, 0.805, c.Best.Curve[0], 0.005)
	require.InDelta(t, 0.905, c.Best.Curve[14], 0.005)
	// The order in which looks come changes nothing, nor does the clock on the wall of another zone.
	e.Looks[0], e.Looks[1] = e.Looks[1], e.Looks[0]
	again, _ := readiness.Foresee(e, plant.FullRoots)
	require.Equal(t, c, again)
}

// Every group, every kind of piece, every medium, every school, with looks as they come: chances are chances, days are in order,
// and what the model does not speak of it does not speak of.
func TestForeseenForEveryPiece(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 9))
	spoken := 0
	for _, g := range plant.Groups() {
		for _, kind := range g.Kinds {
			for _, m := range plant.Media() {
				for _, school := range plant.Schools() {
					e := readiness.Evidence{Today: may.AddDate(0, 0, r.IntN(200)), Group: g, Kind: kind, Medium: m.Medium, SetOn: may, SetNodes: 1 + r.IntN(3), Southern: r.IntN(2) == 0}
					for day, mm := 5, 0.0; may.AddDate(0, 0, day).Before(e.Today); day += 5 + r.IntN(20) {
						l := plant.Look{RootsCounted: r.IntN(3) > 0, Stem: []string{"", "firm"}[r.IntN(2)], Tug: []string{"", "gives", "holds"}[r.IntN(3)]}
						if mm += r.Float64() * 12; mm > 15 && l.RootsCounted {
							l.Roots = []plant.Root{typed(1, mm)}
						}
						if r.IntN(2) == 0 {
							l.Buds = []plant.BudAt{{Node: 1, Bud: []plant.Bud{plant.BudDormant, plant.BudSwelling, plant.BudShooting, plant.BudLeafOpen}[r.IntN(4)]}}
						}
						e.Looks = append(e.Looks, readiness.LookOn{On: may.AddDate(0, 0, day), Look: l})
					}
					c, ok := readiness.Foresee(e, school.Key)
					require.True(t, ok, "%s %s", g.Key, kind)
					spoken++
					for _, p := range []float64{c.Ready, c.Never, c.Lacks, c.Rot} {
						require.True(t, p >= 0 && p <= 1+1e-9, "%s %s %s: %v", g.Key, kind, m.Medium, c)
					}
					if c.Days.P10 != nil && c.Days.P90 != nil {
						require.LessOrEqual(t, *c.Days.P10, *c.Days.P50)
						require.LessOrEqual(t, *c.Days.P50, *c.Days.P90)
					}
					for _, q := range c.Questions {
						require.False(t, math.IsNaN(q.Net))
						require.Equal(t, m.Tugs || q.Question != "tug", true, "there is nothing to tug against in %s", m.Medium)
						sum := 0.0
						for _, a := range q.Answers {
							require.NotEmpty(t, a.Answer)
							sum += a.Chance
						}
						require.InDelta(t, 1, sum, 1e-9, "%s: one answer comes", q.Question)
					}
					require.Equal(t, school.Key == plant.StraightToMix, c.Best == nil)
					if c.Best == nil {
						continue
					}
					require.Len(t, c.Best.Curve, 61)
					for _, v := range c.Best.Curve {
						require.False(t, math.IsNaN(v))
						require.Less(t, math.Abs(v), 1.1)
					}
					require.LessOrEqual(t, c.Best.From, c.Best.Day)
					require.LessOrEqual(t, c.Best.Day, c.Best.To)
				}
			}
		}
	}
	require.Greater(t, spoken, 250)
	// What is potted, closed or not set is not foreseen.
	g, _ := plant.GroupNamed("soft_climber")
	for _, e := range []readiness.Evidence{{Group: g, Medium: plant.Water, Today: may}, {Group: g, Medium: plant.Water, Today: may, SetOn: may, Potted: &readiness.Potting{On: may}}} {
		_, ok := readiness.Foresee(e, plant.FullRoots)
		require.False(t, ok)
	}
}
