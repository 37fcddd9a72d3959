package demo

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/propagation"
	"clearjar/propagation/show"
	"clearjar/store"
	"clearjar/store/storetest"
)

func benchmarkShelf(b *testing.B, cuttings int) {
	g := propagation.New(storetest.Open(b), time.Now, time.UTC)
	ctx := store.As(b.Context(), store.First)
	_, err := Load(ctx, g)
	require.NoError(b, err)
	require.NoError(b, Crowd(ctx, g, cuttings))
	for b.Loop() {
		_, err := show.ShelfNow(ctx, g)
		require.NoError(b, err)
	}
}

func BenchmarkShelf26(b *testing.B)  { benchmarkShelf(b, 26) }
func BenchmarkShelf500(b *testing.B) { benchmarkShelf(b, 500) }
