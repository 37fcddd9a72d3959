package boost

import (
	"bytes"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

func ring(n int, seed uint64) *Rows {
	r := rand.New(rand.NewPCG(seed, 1))
	rows := &Rows{Features: 3}
	for range n {
		x, y := r.NormFloat64(), r.NormFloat64()
		rows.Add([]float32{float32(x), float32(y), float32(r.NormFloat64())}, math.Hypot(x, y) > 1.1, 1)
	}
	return rows
}

// A ring about a disc: no straight cut tells them apart, trees do; and rows never seen are told as well.
func TestItTellsWhatNoStraightCutTells(t *testing.T) {
	f, err := Learn(ring(4000, 1), How{Trees: 60, Depth: 4, Rate: 0.2, Least: 1, Ridge: 1, Passes: 2})
	require.NoError(t, err)
	right := 0
	other := ring(2000, 2)
	for i, first := range other.First {
		if f.Chance(other.X[3*i:3*i+3]) > 0.5 == first {
			right++
		}
	}
	require.Greater(t, right, 1900)
}

// The odds of what is left to chance are those of the rows.
func TestChancesAreThoseOfTheRows(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	rows := &Rows{Features: 1}
	for range 20000 {
		x := r.Float32()
		rows.Add([]float32{x}, r.Float32() < x, 1)
	}
	f, err := Learn(rows, How{Trees: 50, Depth: 3, Rate: 0.2, Least: 5, Ridge: 1, Passes: 1})
	require.NoError(t, err)
	for _, x := range []float32{0.1, 0.3, 0.5, 0.7, 0.9} {
		require.InDelta(t, x, f.Chance([]float32{x}), 0.06)
	}
}

func TestTheSameRowsGiveTheSameTrees(t *testing.T) {
	rows := ring(3000, 3)
	how := How{Trees: 20, Depth: 5, Rate: 0.1, Least: 1, Ridge: 1, Passes: 1}
	one, err := Learn(rows, how)
	require.NoError(t, err)
	how.Passes = 3
	two, err := Learn(rows, how)
	require.NoError(t, err)
	require.Equal(t, one.Bytes(), two.Bytes())
	back, err := Read(bytes.NewReader(one.Bytes()))
	require.NoError(t, err)
	require.Equal(t, one, back)
}

func TestWhatCannotBeLearned(t *testing.T) {
	how := How{Trees: 1, Depth: 1, Rate: 1}
	_, err := Learn(&Rows{Features: 1}, how)
	require.Error(t, err)
	one := &Rows{Features: 1}
	one.Add([]float32{1}, true, 1)
	_, err = Learn(one, how)
	require.ErrorContains(t, err, "one kind")
	_, err = Learn(ring(10, 1), How{Trees: 0, Depth: 1})
	require.Error(t, err)
}

func FuzzRead(f *testing.F) {
	some, err := Learn(ring(200, 1), How{Trees: 2, Depth: 2, Rate: 0.1, Least: 1, Ridge: 1, Passes: 1})
	require.NoError(f, err)
	f.Add(some.Bytes())
	f.Add([]byte("trees 1\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		got, err := Read(bytes.NewReader(data))
		if err == nil {
			got.LogOdds(make([]float32, got.Features))
		}
	})
}
