package optics

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// A square anywhere before the camera, turned anyhow: how it stands is found again from its corners.
func TestASquareIsFoundFromItsCorners(t *testing.T) {
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 9))
		c, err := CameraOf(24+30*r.Float64(), 3000, 4000)
		require.NoError(t, err)
		turn := func(v Vec, a, b, g float64) Vec {
			v = Vec{v.X*math.Cos(a) - v.Y*math.Sin(a), v.X*math.Sin(a) + v.Y*math.Cos(a), v.Z}
			v = Vec{v.X, v.Y*math.Cos(b) - v.Z*math.Sin(b), v.Y*math.Sin(b) + v.Z*math.Cos(b)}
			return Vec{v.X*math.Cos(g) + v.Z*math.Sin(g), v.Y, -v.X*math.Sin(g) + v.Z*math.Cos(g)}
		}
		a, b, g := 2*math.Pi*r.Float64(), 1.2*(r.Float64()-0.5), 1.2*(r.Float64()-0.5)
		across, down := turn(Vec{1, 0, 0}, a, b, g), turn(Vec{0, -1, 0}, a, b, g)
		middle := Vec{60 * r.NormFloat64() / 2, 60 * r.NormFloat64() / 2, 200 + 300*r.Float64()}
		side := 10 + 30*r.Float64()
		var corners [4]plant.Point
		ok := true
		for i, k := range [4][2]float64{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}} {
			p, ahead := c.At(middle.Plus(across.Times(k[0] * side / 2)).Plus(down.Times(k[1] * side / 2)))
			corners[i], ok = p, ok && ahead
		}
		require.True(t, ok)
		got, err := FromSquare(c, corners, side)
		require.NoError(t, err)
		require.Less(t, got.Middle.To(middle), 1e-6*middle.Z, "seed %d", seed)
		require.InDelta(t, 1, got.Across.Dot(across), 1e-9)
		require.InDelta(t, 1, got.Down.Dot(down), 1e-9)
		// A place on it is seen where it is.
		on := middle.Plus(across.Times(7)).Plus(down.Times(-4))
		p, _ := c.At(on)
		at, seen := got.Place(p)
		require.True(t, seen)
		require.Less(t, at.To(on), 1e-6*middle.Z)
	}
	_, err := FromSquare(Camera{FocalPX: 1000}, [4]plant.Point{{X: 1}, {X: 2}, {X: 3}, {X: 4}}, 10)
	require.Error(t, err)
	_, err = FromSquare(Camera{FocalPX: 1000}, [4]plant.Point{}, 0)
	require.Error(t, err)
}

// Points drawn on the near wall of a round cup are cast back onto it, whatever its taper: a line around it is as long as
// the arc, not as its shadow.
func TestTheNearWallOfACup(t *testing.T) {
	c, err := CameraOf(35, 3000, 4000)
	require.NoError(t, err)
	const axis = 320.0
	radius := func(y float64) float64 { return 38 + 0.08*y }
	outline := func(side, y float64) plant.Point {
		p := Outline(Vec{0, 0, -axis}, radius(y), side)
		px, ok := c.At(Vec{p.X, y, p.Z + axis})
		require.True(t, ok)
		return px
	}
	w := Wall{Camera: c, AxisMM: axis, Left: Edge{outline(-1, 30), outline(-1, -40)}, Right: Edge{outline(1, 30), outline(1, -40)}}
	sum := 0.0
	var last *Vec
	for a := -0.9; a <= 0.9; a += 0.01 {
		r := radius(0)
		p := Vec{r * math.Sin(a), 0, axis - r*math.Cos(a)}
		px, _ := c.At(p)
		at, ok := w.Place(px)
		require.True(t, ok)
		require.Less(t, at.To(p), 0.15)
		if last != nil {
			sum += last.To(at)
		}
		last = &at
	}
	require.InEpsilon(t, 1.8*38, sum, 0.01)
	_, ok := w.Place(plant.Point{X: 5, Y: 2000})
	require.False(t, ok, "beside the cup")
}
