package conclude_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/store"
	"clearjar/store/storetest"
)

// After a change of a number all that has ended is counted anew, some at a time: nobody waits for all of it, and how
// many are still to come is said.
func TestRecordsAreCountedAnewSomeAtATime(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)
	g := propagation.New(storetest.Open(t), func() time.Time { return now }, time.UTC)
	ctx := store.As(t.Context(), store.First)
	keep := func(f door.Fact) {
		_, _, err := door.Keep(ctx, g, f)
		require.NoError(t, err)
	}
	id := func() uuid.UUID { return uuid.Must(uuid.NewV7()) }
	mother := door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Hoya", GroupKey: "wax_vine", Pattern: "plain"}}
	keep(mother)
	const ended = 503
	for range ended {
		b := door.Brought{ID: id(), MotherID: &mother.ID, Kind: plant.StemCutting, Nodes: 1, Leaves: 1, Since: now.AddDate(0, 0, -30), KnownTo: "day"}
		keep(b)
		keep(door.Handover{ID: id(), CuttingID: b.CuttingID(), GivenOn: now})
	}
	_, waiting, err := conclude.Records(ctx, g)
	require.NoError(t, err)
	require.Equal(t, ended-500, waiting)
	records := door.NumberChoice{ID: id(), Key: "wake.wax_vine.water", Kind: "records"}
	_, waiting, err = conclude.Records(ctx, g)
	require.NoError(t, err)
	require.Zero(t, waiting)
	// A number that everything rests on: all of them once more, and none is used before all are counted.
	keep(door.NumberChoice{ID: id(), Key: "readiness.early.longest", Kind: "value", Value: 12})
	behind, err := conclude.Behind(ctx, g)
	require.NoError(t, err)
	require.True(t, behind)
	_, _, err = door.Keep(ctx, g, records)
	require.ErrorContains(t, err, "3 cuttings to go")
	for n := 1; n > 0; {
		n, err = conclude.CatchUp(ctx, g)
		require.NoError(t, err)
	}
	behind, err = conclude.Behind(ctx, g)
	require.NoError(t, err)
	require.False(t, behind)
}
