package readiness

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/life"
	"clearjar/core/plant"
)

// A leaf of a group, set 70 days ago, with plantlets counted so many days ago.
func leafWith(t *testing.T, group string, count int, bud plant.Bud, daysAgo ...int) (life.Life, time.Time) {
	t.Helper()
	g, ok := plant.GroupNamed(group)
	require.True(t, ok)
	today := time.Date(2026, 6, 20, 12, 0, 0, 0, time.UTC)
	l := life.Life{
		Group: g, Kind: plant.LeafPiece, Form: plant.WholeLeaf, Nodes: []plant.Node{{BelowMM: 25}}, CutOn: today.AddDate(0, 0, -70),
		Settings: []life.Setting{{On: today.AddDate(0, 0, -70), Medium: plant.Mix, Nodes: 1}},
	}
	for _, ago := range daysAgo {
		look := plant.Look{Stem: "firm", Plantlets: []plant.YoungAt{{Node: 1, Count: count}}}
		if bud != "" {
			look.Buds = []plant.BudAt{{Node: 1, Bud: bud}}
		}
		l.Looks = append(l.Looks, life.LookOn{On: today.AddDate(0, 0, -ago), Look: look})
	}
	return l, today
}

// common practice, no source: plantlets are parted later, each its own plant; of sword leaves they stay on the leaf and are potted with it.
func TestYoungPlantsOnALeafArePartedNotPotted(t *testing.T) {
	judge := func(l life.Life, today time.Time) Judgement {
		j, err := Judge(Of(l, today, false), l.Group.School)
		require.NoError(t, err)
		return j
	}
	l, today := leafWith(t, "gesneriad", 4, "", 6)
	j := judge(l, today)
	require.Equal(t, plant.Wait, j.Verdict)
	require.Contains(t, j.Sentence, "4 plantlets, the first seen 6 days ago")
	require.True(t, today.AddDate(0, 0, 22).Equal(*j.NextLook))
	l, today = leafWith(t, "gesneriad", 4, "", 35, 6)
	j = judge(l, today)
	require.Equal(t, plant.Ready, j.Verdict)
	require.Equal(t, PartYoung, j.Act)
	require.False(t, j.ToPot, "the leaf itself is not potted")
	l, today = leafWith(t, "gesneriad", 1, plant.BudLeafOpen, 6)
	require.Equal(t, YoungReady, judge(l, today).Ground)
	// Parted since: none is left, and the leaf is looked at for more.
	l, today = leafWith(t, "gesneriad", 2, "", 35)
	l.Partings = []life.Parting{{On: today.AddDate(0, 0, -2), Young: []int{1, 1}}}
	require.NotContains(t, []Ground{YoungReady, YoungGrow}, judge(l, today).Ground)
	l.Partings[0].Young = []int{1}
	require.Contains(t, judge(l, today).Sentence, "1 plantlet")
	// The shoots of a sword leaf stay on it.
	l, today = leafWith(t, "sword_succulent", 2, plant.BudLeafOpen, 6)
	require.NotEqual(t, PartYoung, judge(l, today).Act)
	// A leaf that rots is rescued first.
	l, today = leafWith(t, "gesneriad", 3, plant.BudLeafOpen, 6)
	l.Looks[0].Look.Stem, l.Looks[0].Look.RotMM = "soft", 20
	require.Equal(t, plant.Rescue, judge(l, today).Verdict)
}
