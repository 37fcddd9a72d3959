package standin

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// A simulated cabinet is one that could be: the same every time, air that a sensor takes, dry when it is opened, silent now
// and then, and now and then with a wrong clock.
func TestACabinetIsOneThatCouldBe(t *testing.T) {
	start := time.Date(2026, 3, 1, 0, 0, 0, 0, time.UTC)
	h := Cabinet(time.UTC, 4)
	all := h.Between(start, start.AddDate(0, 0, 60), 5*time.Minute)
	require.Equal(t, all, h.Between(start, start.AddDate(0, 0, 60), 5*time.Minute))
	wrong, opened, moist := 0, 0, 0
	for _, r := range all {
		require.NoError(t, r.Check())
		if r.At.Before(start) {
			wrong++
		}
		if r.HumidityPct < 60 {
			opened++
		}
		if r.HumidityPct > 85 {
			moist++
		}
	}
	require.Positive(t, wrong)
	require.Less(t, wrong, len(all)/50)
	require.Less(t, len(all), 60*288, "it is silent now and then")
	require.Greater(t, len(all), 60*270)
	require.Positive(t, opened)
	require.Greater(t, moist, len(all)/3)
	h.Faultless = true
	whole := h.Between(start, start.AddDate(0, 0, 60), 5*time.Minute)
	require.Len(t, whole, 60*288)
	require.Equal(t, start, whole[0].At)
}
