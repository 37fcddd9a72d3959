package practice

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/scenario"
)

// A short run of the benchmark: with few cases a row may miss by chance, so that nine in ten are asked for, and those that are far
// from their limit each. The whole of it is run by the command line.
func TestBenchmarkIsHeld(t *testing.T) {
	b := Standard(11, 150)
	require.Len(t, b.Groups, 5)
	require.Len(t, b.Schools, 3)
	rows := b.Run()
	held := 0
	for _, r := range rows {
		require.False(t, math.IsNaN(r.Measured), r.Figure)
		if r.Held {
			held++
		} else {
			t.Logf("%s: %.3f, %s, of %d", r.Figure, r.Measured, r.Wanted, r.Of)
		}
	}
	require.Greater(t, float64(held), 0.9*float64(len(rows)))
	require.Equal(t, rows, Standard(11, 150).Run(), "the same seed, the same table")
}

// What is drawn is as the model says: half of the first roots come before the usual day of a usual grower, a sixth and the like; no
// root is longer than the longest there is; what grows does not shrink; and the best day beats any other.
func TestDrawnCuttingsAreAsTheModelSays(t *testing.T) {
	g, _ := plant.GroupNamed("soft_climber")
	before, rooted, rotten := 0, 0, 0
	const n = 4000
	k := Standard(1, 1).Schools[2].Worth
	for i := range n {
		c := Draw(uint64(i), Setting{Group: g, Medium: plant.Water, Drawn: true})
		if math.IsInf(c.first, 1) {
			continue
		}
		rooted++
		if c.first < 14 {
			before++
		}
		if c.rot < c.first {
			rotten++
		}
		last := 0.0
		for day := 0.0; day < 120; day += 9 {
			s := c.at(c.truth.Effective(day))
			require.True(t, s.longest >= last && s.longest < longest)
			last = s.longest
		}
		if i < 50 {
			require.GreaterOrEqual(t, c.Best(&k, 100), c.Reveal(&k, float64(i)).Worth)
		}
	}
	require.InDelta(t, 0.5, float64(before)/float64(rooted), 0.03)
	// Two set nodes half the time: 1 - (0.92 + 0.9936) / 2 never root.
	require.InDelta(t, (0.92+0.9936)/2, float64(rooted)/n, 0.015)
	require.InDelta(t, 0.04, float64(rotten)/float64(rooted), 0.015)
	look, _ := Draw(3, Setting{Group: g, Medium: plant.Water}).Look(60, scenario.ByPhoto)
	again, _ := Draw(3, Setting{Group: g, Medium: plant.Water}).Look(60, scenario.ByPhoto)
	require.Equal(t, look, again)
}
