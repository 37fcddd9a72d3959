package measure

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/place"
)

// inView is what a camera sees of roots in a jar, that was turned a quarter to the right or not; the node is at the origin.
func inView(t *testing.T, turned bool, distance float64, roots [][]optics.Vec) (*Seen, []Root) {
	t.Helper()
	c, err := optics.CameraOf(26, 1500, 2000)
	require.NoError(t, err)
	jar := optics.Jar{RadiusMM: 40, WallMM: 2.5, Wall: optics.Glass, Inside: optics.Water}
	s := optics.Stood(c, jar, optics.Vec{Z: -distance}, optics.Vec{X: 1}, optics.Vec{Y: 1}, optics.Vec{Z: 1})
	at := func(v optics.Vec) plant.Point {
		if turned {
			v = optics.Vec{X: -v.Z, Y: v.Y - 4, Z: v.X} // and the camera is held a little higher
		}
		p, ok := s.Pixel(v)
		require.True(t, ok)
		return p
	}
	surface := place.Exact(place.Start{Camera: c, Given: place.Given{Vessel: place.Vessel{Shape: place.RoundJar, OuterMM: 80, WallMM: 2.5}}}, s)
	seen := &Seen{Surface: &surface, Asked: Asked{Nodes: []plant.Point{at(optics.Vec{})}}}
	out := []Root{}
	for _, line := range roots {
		r := Root{Order: 1, Views: 1}
		for _, v := range line {
			r.Path = append(r.Path, at(v))
		}
		mm := surface.Length(r.Path).MM
		r.LengthMM = &mm
		out = append(out, r)
	}
	return seen, out
}

func straight(x, y, z float64) []optics.Vec {
	out := []optics.Vec{}
	for i := range 21 {
		k := float64(i) / 20
		out = append(out, optics.Vec{X: x * k, Y: y * k, Z: z * k})
	}
	return out
}

// Roots towards the camera look short in one photo. With a second photo each gets its true length, whatever order the
// lines come in; one that is not in the second photo keeps what one photo tells.
func TestTwoPhotosPutTogether(t *testing.T) {
	roots := [][]optics.Vec{straight(5, -20, -24), straight(20, -8, 6), straight(-4, -30, 18), straight(-18, 3, -3)}
	first, mine := inView(t, false, 230, roots)
	second, its := inView(t, true, 260, [][]optics.Vec{roots[2], roots[0], roots[1]})
	got, err := first.Beside(second, mine, its)
	require.NoError(t, err)
	for i, r := range got {
		end := roots[i][20]
		mm := math.Sqrt(end.X*end.X + end.Y*end.Y + end.Z*end.Z)
		if i == 3 {
			require.Equal(t, 1, r.Views, "it is not in the second photo")
			continue
		}
		require.Equal(t, 2, r.Views, "root %d", i)
		require.InEpsilon(t, mm, *r.LengthMM, 0.02, "root %d", i)
		require.Less(t, *r.LowMM, mm)
		require.Greater(t, *r.HighMM, mm)
	}
	require.Greater(t, *got[0].LengthMM, 1.3**mine[0].LengthMM, "one view hid a third of it")

	second.Asked.Nodes = nil
	_, err = first.Beside(second, mine, its)
	require.ErrorIs(t, err, ErrNoJar)
}
