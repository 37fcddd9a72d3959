package conclude

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/propagation"
)

// A verdict that holds is not taken back for a little, and one under another school holds nothing up.
func TestVerdictBeforeCountsUnderItsOwnSchoolOnly(t *testing.T) {
	set := time.Date(2026, 5, 1, 10, 0, 0, 0, time.UTC)
	group, _ := plant.GroupNamed("soft_climber")
	group.School = plant.FullRoots
	roots := func(mm ...float64) (out []plant.Root) {
		for i, v := range mm {
			out = append(out, plant.Root{Node: 1 + i%2, Order: 1, LengthMM: v, LowMM: v, HighMM: v, How: plant.Typed})
		}
		return out
	}
	l := Lived{Life: life.Life{
		Group: group, Kind: plant.StemCutting, Nodes: []plant.Node{{BelowMM: 40}, {BelowMM: 30}}, BaseMM: 12, CutOn: set,
		Settings: []life.Setting{{On: set, Medium: plant.Water, Nodes: 2}},
		Looks: []life.LookOn{
			{On: set.AddDate(0, 0, 14), Look: plant.Look{RootsCounted: true, Stem: "firm", Roots: roots(6, 5)}},
			{On: set.AddDate(0, 0, 21), Look: plant.Look{RootsCounted: true, Stem: "firm", Roots: append(roots(24, 14, 9), plant.Root{Node: 1, Order: 2, LengthMM: 3, LowMM: 3, HighMM: 3, How: plant.Typed})}},
		},
	}}
	l.Row.ID = uuid.New()
	found := 0
	for d := 25; d < 60; d++ {
		g := propagation.New(nil, func() time.Time { return set.AddDate(0, 0, d) }, time.UTC)
		e := l.Evidence(g)
		decided, err := readiness.Decide(e, plant.FullRoots)
		require.NoError(t, err)
		if decided.Likely == nil || *decided.Likely < 0.66 || *decided.Likely > 0.79 {
			continue
		}
		found++
		verdict := func(before judgedAs) plant.Verdict {
			c, _, _, err := judge(g, l, before)
			require.NoError(t, err)
			return c.Verdict
		}
		require.NotEqual(t, plant.Ready, verdict(judgedAs{}))
		require.Equal(t, plant.Ready, verdict(judgedAs{plant.FullRoots, plant.Ready}))
		require.NotEqual(t, plant.Ready, verdict(judgedAs{plant.EarlyRoots, plant.Ready}))
	}
	require.Positive(t, found, "a day on which it is neither clearly ready nor clearly not")
}
