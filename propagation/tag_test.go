package propagation_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
	"clearjar/store"
	"clearjar/store/storetest"
)

// Two ids whose first tag is the same: the second thing gets another tag, whatever it is.
func TestTagThatIsTakenIsNoDeadEnd(t *testing.T) {
	t.Parallel()
	first := map[string]uuid.UUID{}
	var a, b uuid.UUID
	for a == uuid.Nil {
		id := uuid.Must(uuid.NewV7())
		tag := door.ShortTag(id, 0)
		if was, ok := first[tag]; ok {
			a, b = was, id
		}
		first[tag] = id
	}
	require.NotEqual(t, door.ShortTag(b, 0), door.ShortTag(b, 1))
	now := time.Date(2026, 11, 20, 12, 0, 0, 0, time.UTC)
	g := propagation.New(storetest.Open(t), func() time.Time { return now }, time.UTC)
	sort, _ := plant.Jar.Sort()
	tags := map[string]bool{}
	for _, id := range []uuid.UUID{a, b} {
		ctx := store.As(t.Context(), store.First)
		_, _, err := door.Keep(ctx, g, door.NewVessel{ID: id, Name: "Jar " + id.String(), Place: "Sill", Vessel: sort.Usual})
		require.NoError(t, err)
		v, err := show.VesselNow(ctx, g, id)
		require.NoError(t, err)
		tags[v.Tag] = true
	}
	require.Len(t, tags, 2)
}
