package readiness

import (
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// Worked examples of the model: the mix is felt on these days after potting; a piece that was given 0.7 at potting, firm and without a
// leaf on day 28; a rescue with one sound node left, with two.
func TestWeeksAfterPotting(t *testing.T) {
	checks := dryingChecks(0.12, 0.03)
	require.Len(t, checks, 4)
	for i, day := range []float64{1.6, 3.6, 6.6, 11.7} {
		require.InDelta(t, day, checks[i], 0.06)
	}
	require.InDelta(t, 0.919, stays(0.7, 28), 0.002)
	require.InDelta(t, 0.753, rescueChance(0.9, 0.04, 1), 0.002)
	require.InDelta(t, 0.890, rescueChance(0.9, 0.04, 2), 0.002)
	require.Len(t, dryingChecks(0.06, 0.03), 2, "fewer where roots are used to it")
}

// Of every group, kind, medium and school: the longer it stands firm the likelier it grows on, and it is established by no chance.
func TestPottedPieceIsExpectedToGrowOn(t *testing.T) {
	everyCase(t, func(name string, e Evidence, school plant.SchoolKey) {
		e.Looks = []LookOn{{On: day(29), Look: rooted(plant.White, 30, 20)}}
		e.Potted = &Potting{On: day(30)}
		last := 0.0
		for _, on := range []int{30, 40, 60, 100} {
			e.Today = day(on)
			if on > 30 {
				e.Looks = append(e.Looks, LookOn{On: day(on), Look: plant.Look{Stem: "firm"}})
			}
			j := judge(t, e, school)
			require.NotEqual(t, plant.Done, j.Verdict)
			if j.After == nil {
				require.Equal(t, plant.Rescue, j.Verdict, name)
				continue
			}
			require.GreaterOrEqual(t, j.After.Stays, last-1e-9, name)
			require.True(t, j.After.Stays >= 0 && j.After.Stays <= 1, name)
			last = j.After.Stays
		}
	})
}
