package rootphoto

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
	"clearjar/core/plant"
)

func scale(px, mm float64) plant.Scale {
	return plant.Scale{A: plant.Point{X: 10, Y: 10}, B: plant.Point{X: 10 + px, Y: 10}, DistanceMM: mm}
}

// published: length of a circular arc, r * angle (Euclid); a polyline of short chords falls short by less than 0.1 %.
func TestLengthOfATracedArc(t *testing.T) {
	var path []plant.Point
	for i := 0; i <= 60; i++ {
		a := float64(i) / 60 * math.Pi
		path = append(path, plant.Point{X: 400 + 200*math.Cos(a), Y: 400 + 200*math.Sin(a)})
	}
	res, err := Measure(number.Table{}, scale(500, 50), [][]plant.Point{path}, Setting{})
	require.NoError(t, err)
	require.InEpsilon(t, math.Pi*20, res.Roots[0].LengthMM, 1e-3)
	require.Less(t, res.Roots[0].LowMM, res.Roots[0].LengthMM)
	require.Greater(t, res.Roots[0].HighMM, res.Roots[0].LengthMM)
}

func TestScaleThatCannotBe(t *testing.T) {
	for name, s := range map[string]plant.Scale{
		"same spot": scale(0, 50), "0 mm": scale(500, 0), "negative": scale(500, -3), "too close": scale(5, 50),
		"not a number": scale(math.NaN(), 50), "kilometres": scale(500, 1e6),
	} {
		_, err := MMPerPixel(number.Table{}, s)
		require.Len(t, plant.Refusals(err), 1, name)
	}
}

// published: a cylinder of water magnifies 4/3 sideways at its axis and not upwards (single refracting surface, textbook optics).
func TestJarWidensTheIntervalDownwardsForSidewaysRootsOnly(t *testing.T) {
	sideways := []plant.Point{{X: 100, Y: 100}, {X: 500, Y: 100}}
	hanging := []plant.Point{{X: 100, Y: 100}, {X: 100, Y: 500}}
	res, err := Measure(number.Table{}, scale(500, 50), [][]plant.Point{sideways, hanging}, Setting{RoundJar: true})
	require.NoError(t, err)
	require.InDelta(t, 40, res.Roots[0].LengthMM, 1e-9)
	require.Less(t, res.Roots[0].LowMM, 40*3.0/4)
	require.InDelta(t, res.Roots[1].LowMM-res.Roots[0].LowMM, 10, 0.01)
	require.Equal(t, res.Roots[0].HighMM, res.Roots[1].HighMM)
	require.Greater(t, res.Roots[0].HighMM, 40/0.59, "one view hides depth")
}

func TestOnePointHasNoLength(t *testing.T) {
	res, err := Measure(number.Table{}, scale(500, 50), [][]plant.Point{{{X: 1, Y: 1}}, nil}, Setting{})
	require.NoError(t, err)
	require.Zero(t, res.Roots[0].LengthMM)
	require.Zero(t, res.Roots[1].LengthMM)
}

func TestIntervalIsNeverInverted(t *testing.T) {
	for _, px := range []float64{21, 60, 400, 3000} {
		res, err := Measure(number.Table{}, scale(px, 50), [][]plant.Point{{{X: 0, Y: 0}, {X: 30, Y: 70}}}, Setting{RoundJar: true})
		require.NoError(t, err)
		r := res.Roots[0]
		require.True(t, 0 <= r.LowMM && r.LowMM <= r.LengthMM && r.LengthMM <= r.HighMM, "%+v", r)
	}
}
