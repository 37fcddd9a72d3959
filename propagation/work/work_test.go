package work

import (
	"bytes"
	"context"
	"image"
	"image/png"
	"path/filepath"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/keeping"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/photo"
	"clearjar/store"
	"clearjar/store/storetest"
)

// The turn of the day judges what stands in every household, once a day, issues its forecasts, and sees to pictures that
// are missing, while two servers work on one database.
func TestTurnOfTheDayIsDoneOnceForEveryHousehold(t *testing.T) {
	t.Parallel()
	url := storetest.URL(t)
	s, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	t.Cleanup(s.Close)
	now := time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)
	g := propagation.New(s, func() time.Time { return now }, time.UTC)
	a, other := store.As(t.Context(), store.First), uuid.Must(uuid.NewV7())
	b := store.As(t.Context(), other)
	_, err = s.Pool.Exec(b, "insert into household (id) values ($1)", other)
	require.NoError(t, err)
	for _, ctx := range []context.Context{a, b} {
		_, _, err := door.Keep(ctx, g, door.Brought{
			ID: uuid.Must(uuid.NewV7()), Name: "Hoya", GroupKey: "wax_vine", Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: now.AddDate(0, 0, -9), KnownTo: "day",
		})
		require.NoError(t, err)
	}
	// One that left before: it is judged too, so that it counts among the records.
	gone := door.Brought{
		ID: uuid.Must(uuid.NewV7()), Name: "Hoya", GroupKey: "wax_vine", Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: now.AddDate(0, 0, -30), KnownTo: "day",
	}
	_, _, err = door.Keep(a, g, gone)
	require.NoError(t, err)
	_, _, err = door.Keep(a, g, door.Handover{ID: uuid.Must(uuid.NewV7()), CuttingID: gone.CuttingID(), GivenOn: now.AddDate(0, 0, -2)})
	require.NoError(t, err)
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, image.NewGray(image.Rect(0, 0, 50, 40))))
	picture := uuid.Must(uuid.NewV7())
	_, err = photo.Keep(b, g, picture, raw.Bytes())
	require.NoError(t, err)
	_, err = s.Pool.Exec(b, "delete from photo_view")
	require.NoError(t, err)

	count := func(ctx context.Context, sql string) (n int) {
		require.NoError(t, s.Pool.QueryRow(ctx, sql).Scan(&n))
		return n
	}
	copies := Copies{Database: url, Folder: filepath.Join(t.TempDir(), "copies"), Keep: 2}
	for range 2 {
		client, err := Start(t.Context(), s, g, copies)
		require.NoError(t, err)
		t.Cleanup(func() { _ = client.StopAndCancel(a) })
	}
	require.Eventually(t, func() bool {
		return count(a, "select count(*) from conclusion") == 2 && count(b, "select count(*) from conclusion") == 1 && count(b, "select count(*) from photo_view") == 2
	}, 20*time.Second, 50*time.Millisecond)
	require.Equal(t, 2, count(a, "select count(*) from river.river_job where kind = 'turn_of_day'"), "one a household, whoever asks")
	require.Equal(t, 1, count(a, "select count(*) from river.river_job where kind = 'recount'"), "for the one that has something to recount")
	require.Equal(t, 1, count(a, "select count(*) from river.river_job where kind = 'picture'"))
	require.Eventually(t, func() bool {
		made, err := keeping.Copies(copies.Folder)
		return err == nil && len(made) == 1
	}, 20*time.Second, 50*time.Millisecond, "one copy, though two look after it")
	require.Zero(t, count(a, "select count(*) from photo"), "the other's photo stays the other's")
}
