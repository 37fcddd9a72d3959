package outside_test

import (
	"context"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/climate"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/outside"
	"clearjar/standin"
	"clearjar/store"
	"clearjar/store/storetest"
)

func v7() uuid.UUID { return uuid.Must(uuid.NewV7()) }

// hung is a garden whose clock can be set, with one shelf and a sensor on it.
func hung(t testing.TB, now *time.Time) (g *propagation.Garden, place uuid.UUID, sensor outside.MadeKey) {
	t.Helper()
	ctx := store.As(t.Context(), store.First)
	g = propagation.New(storetest.Open(t), func() time.Time { return *now }, time.UTC)
	_, _, err := door.Keep(ctx, g, door.NewVessel{ID: v7(), Name: "Jar", Place: "Sill", Vessel: plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 120, WallMM: 2, FillMM: 80, Holds: 3}})
	require.NoError(t, err)
	places, err := g.Store.Places(ctx)
	require.NoError(t, err)
	place = places[0].ID
	sensor, err = outside.Make(ctx, g, outside.NewKey{ID: v7(), What: outside.Sensor, Name: "Cabinet", PlaceID: &place})
	require.NoError(t, err)
	return g, place, sensor
}

// Whatever the order, the parcels and the repeats, and whenever what is old is gathered into hours: each reading counts once.
func TestReadingsCountOnceHoweverTheyCome(t *testing.T) {
	t.Parallel()
	for seed := range uint64(6) {
		r := rand.New(rand.NewPCG(seed, 11))
		start := time.Date(2026, 4, 1, 0, 0, 0, 0, time.UTC)
		now := start.AddDate(0, 0, 25)
		ctx := store.As(t.Context(), store.First)
		g, place, sensor := hung(t, &now)
		h := standin.Cabinet(time.UTC, seed)
		h.Faultless = true
		all := h.Between(start, start.AddDate(0, 0, 20), 7*time.Minute)
		var temp float64
		for _, one := range all {
			temp += one.TempC
		}
		left := append([]climate.Reading{}, all...)
		r.Shuffle(len(left), func(i, j int) { left[i], left[j] = left[j], left[i] })
		kept := 0
		for len(left) > 0 {
			n := min(len(left), 1+r.IntN(1200))
			parcel := append([]climate.Reading{}, left[:n]...)
			left = left[n:]
			for range r.IntN(300) { // some come again
				parcel = append(parcel, all[r.IntN(len(all))])
			}
			taken, err := outside.TakeIn(ctx, g, sensor.ID, parcel, start)
			require.NoError(t, err)
			require.Zero(t, taken.RefusedCount)
			require.Equal(t, len(parcel), taken.Kept+taken.Repeated)
			kept += taken.Kept
			now = now.Add(time.Duration(r.IntN(60)) * time.Hour)
			if r.IntN(3) == 0 {
				require.NoError(t, outside.Gather(ctx, g))
			}
		}
		require.NoError(t, outside.Gather(ctx, g))
		// Some come again that are of hours by now.
		taken, err := outside.TakeIn(ctx, g, sensor.ID, all[:500], start)
		require.NoError(t, err)
		require.Zero(t, taken.Kept)
		require.Equal(t, 500, taken.Repeated)
		stretches, err := outside.StretchesAt(ctx, g, place, start, now)
		require.NoError(t, err)
		var whole climate.Stretch
		for _, s := range stretches {
			whole = whole.With(s)
		}
		require.Equal(t, len(all), whole.N)
		require.Equal(t, len(all), kept, "and was said to be kept once")
		require.InDelta(t, temp/float64(len(all)), whole.Temp.Mean, 1e-3)
	}
}

func TestWhatIsOldIsKeptByTheHour(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)
	ctx := store.As(t.Context(), store.First)
	g, place, sensor := hung(t, &now)
	_, err := outside.TakeIn(ctx, g, sensor.ID, standin.Cabinet(time.UTC, 1).Between(now.Add(-48*time.Hour), now, 5*time.Minute), propagation.EarliestRecord)
	require.NoError(t, err)
	before, err := outside.StretchesAt(ctx, g, place, now.Add(-48*time.Hour), now)
	require.NoError(t, err)
	require.Greater(t, len(before), 500)
	now = now.AddDate(0, 0, 28)
	require.NoError(t, outside.Gather(ctx, g))
	after, err := outside.StretchesAt(ctx, g, place, now.AddDate(0, 0, -40), now)
	require.NoError(t, err)
	require.Equal(t, len(before), len(after), "28 days on, all of it is there one by one")
	now = now.AddDate(0, 0, 3)
	require.NoError(t, outside.Gather(ctx, g))
	after, err = outside.StretchesAt(ctx, g, place, now.AddDate(0, 0, -40), now)
	require.NoError(t, err)
	require.Equal(t, len(climate.Stretches(before, now.Truncate(time.Hour), time.Hour)), len(after))
}

func TestAKeyOpensItsOwnHouseholdAndNoMoreOnceRevoked(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)
	g, _, sensor := hung(t, &now)
	other := v7()
	b := store.As(t.Context(), other)
	_, err := g.Store.Pool.Exec(b, "insert into household (id) values ($1)", other)
	require.NoError(t, err)
	// Opened from the other household's context, it is still that of its own.
	own, key, err := outside.Open(b, g, outside.Sensor, sensor.Secret)
	require.NoError(t, err)
	require.Equal(t, sensor.ID, key.ID)
	list, err := outside.Keys(b, g, outside.Sensor)
	require.NoError(t, err)
	require.Empty(t, list)
	list, err = outside.Keys(own, g, outside.Sensor)
	require.NoError(t, err)
	require.Len(t, list, 1)
	_, _, err = outside.Open(b, g, outside.Calendar, sensor.Secret)
	require.Equal(t, outside.LockedError{}, err, "a sensor's key reads no calendar")
	_, err = outside.Revoke(b, g, sensor.ID)
	require.Equal(t, propagation.MissingError{What: "This key"}, err)
	_, err = outside.Revoke(own, g, sensor.ID)
	require.NoError(t, err)
	for _, secret := range []string{"", "x", sensor.Secret[:20], sensor.Secret + "A"} {
		_, _, err = outside.Open(b, g, outside.Sensor, secret)
		require.Equal(t, outside.LockedError{}, err)
	}
	_, _, err = outside.Open(b, g, outside.Sensor, sensor.Secret)
	require.Equal(t, outside.LockedError{Revoked: true}, err)
	var secrets int
	require.NoError(t, g.Store.Pool.QueryRow(own, "select count(*) from outside_key k where k::text like '%' || $1 || '%'", sensor.Secret).Scan(&secrets))
	require.Zero(t, secrets, "the secret is kept nowhere")
}

func BenchmarkTakeIn(b *testing.B) {
	now := time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)
	ctx := store.As(context.Background(), store.First)
	g, _, sensor := hung(b, &now)
	all := standin.Cabinet(time.UTC, 1).Between(now.AddDate(0, 0, -25), now, time.Minute)
	n := 0
	for b.Loop() {
		from := (n * 1000) % (len(all) - 1000)
		_, err := outside.TakeIn(ctx, g, sensor.ID, all[from:from+1000], propagation.EarliestRecord)
		require.NoError(b, err)
		n++
	}
	b.ReportMetric(float64(n*1000)/b.Elapsed().Seconds(), "readings/s")
}
