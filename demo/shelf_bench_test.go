package demo

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/propagation"
	"clearjar/store/storetest"
)

func benchmarkShelf(b *testing.B, cuttings int) {
	g := propagation.New(storetest.Open(b), time.Now, time.UTC)
	_, err := Load(b.Context(), g)
	require.NoError(b, err)
	require.NoError(b, Crowd(b.Context(), g, cuttings))
	for b.Loop() {
		_, err := g.Shelf(b.Context())
		require.NoError(b, err)
	}
}

func BenchmarkShelf26(b *testing.B)  { benchmarkShelf(b, 26) }
func BenchmarkShelf500(b *testing.B) { benchmarkShelf(b, 500) }
