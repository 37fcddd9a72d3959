package place

import (
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/optics"
)

// A jar half full: a root above the water is seen through glass and air, one below through glass and water. With the line of
// the water set both are as long as they are; without it the one above comes out a quarter short.
func TestAboveTheWaterIsAir(t *testing.T) {
	c, err := optics.CameraOf(26, 1500, 2000)
	require.NoError(t, err)
	full := optics.Jar{RadiusMM: 40, WallMM: 2.5, Wall: optics.Glass, Inside: optics.Water}
	empty := full
	empty.Inside = optics.Air
	stands := func(j optics.Jar) optics.Standing {
		return optics.Stood(c, j, optics.Vec{Z: -240}, optics.Vec{X: 1}, optics.Vec{Y: 1}, optics.Vec{Z: 1})
	}
	line := func(j optics.Jar, y float64) []plant.Point {
		out := []plant.Point{}
		for x := -15.0; x <= 15; x++ {
			p, ok := stands(j).Pixel(optics.Vec{X: x, Y: y})
			require.True(t, ok)
			out = append(out, p)
		}
		return out
	}
	above, below := line(empty, 12), line(full, -12)
	edge := func(side float64) *optics.Edge {
		at := optics.Outline(optics.Vec{Z: -240}, 40, side)
		px := func(y float64) plant.Point {
			p, ok := c.At(optics.Vec{X: at.X, Y: y, Z: at.Z + 240})
			require.True(t, ok)
			return p
		}
		return &optics.Edge{A: px(30), B: px(-30)}
	}
	given := Given{Width: 1500, Height: 2000, Focal35: 26, Vessel: Vessel{Shape: RoundJar, OuterMM: 80, WallMM: 2.5}, Left: edge(-1), Right: edge(1)}
	measured := func(water *float64) (up, down float64) {
		g := given
		g.Water = water
		s, err := Begin(g)
		require.NoError(t, err)
		on, err := s.On(nil)
		require.NoError(t, err)
		return on.Length(above).MM, on.Length(below).MM
	}
	touch := optics.Outline(optics.Vec{Z: -240}, 40, -1)
	surface, ok := c.At(optics.Vec{X: touch.X, Y: 0, Z: touch.Z + 240})
	require.True(t, ok)
	up, down := measured(&surface.Y)
	require.InDelta(t, 30, up, 0.05)
	require.InDelta(t, 30, down, 0.05)
	up, down = measured(nil)
	require.Less(t, up, 25.0, "taken for water it comes out short")
	require.InDelta(t, 30, down, 0.05)
}
