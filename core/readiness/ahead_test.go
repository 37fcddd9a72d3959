package readiness

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
)

// keptFrom is a piece that is surely ready on a day and overgrown on another, 0 for never.
func keptFrom(ready, overgrown int) Kept {
	return Kept{From: setOn, Days: []float32{float32(ready)}, Sums: []float32{1}, Overgrown: float32(overgrown)}
}

// By hand: ready on days 10, 12 and 30 from setting, each well potted for 14 days: two days serve all.
func TestFewPottingDaysServeAll(t *testing.T) {
	days := PottingDays(number.Table{}, []Due{{Name: "a", Kept: keptFrom(10, 0)}, {Name: "b", Kept: keptFrom(12, 0)}, {Name: "c", Kept: keptFrom(30, 0)}}, day(5), 56)
	require.Equal(t, []PottingDay{{day(24), []string{"a", "b"}}, {day(44), []string{"c"}}}, days)
	overgrown := PottingDays(number.Table{}, []Due{{Name: "a", Kept: keptFrom(10, 15)}, {Name: "b", Kept: keptFrom(16, 0)}}, day(5), 56)
	require.Equal(t, day(15), overgrown[0].On, "before its roots are too long")
	require.Empty(t, PottingDays(number.Table{}, nil, day(5), 56))
}

// Whatever comes ready: each piece is in one day at most, no sooner than it is ready, and no fewer days would do as far as any
// two windows that do not meet tell.
func TestEveryPieceIsPottedOnce(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 1))
	for range 300 {
		all := []Due{}
		for i := range r.IntN(20) {
			all = append(all, Due{Name: fmt.Sprint(i), Kept: keptFrom(r.IntN(90), 0)})
		}
		seen := map[string]time.Time{}
		for _, d := range PottingDays(number.Table{}, all, day(20), 56) {
			for _, n := range d.Names {
				require.NotContains(t, seen, n)
				seen[n] = d.On
			}
		}
		for _, d := range all {
			if d.Kept.Ready(day(20+55)) < 0.8 {
				require.NotContains(t, seen, d.Name)
				continue
			}
			require.GreaterOrEqual(t, d.Kept.Ready(seen[d.Name]), 0.8, "no sooner than it is likely ready")
		}
	}
}
