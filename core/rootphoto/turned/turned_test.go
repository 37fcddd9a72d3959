package turned

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/optics"
)

func standing(t *testing.T, radius, distance, height float64) optics.Standing {
	t.Helper()
	c, err := optics.CameraOf(26, 1500, 2000)
	require.NoError(t, err)
	j := optics.Jar{RadiusMM: radius, WallMM: 2.5, Wall: optics.Glass, Inside: optics.Water}
	return optics.Stood(c, j, optics.Vec{Y: height, Z: -distance}, optics.Vec{X: 1}, optics.Vec{Y: 1}, optics.Vec{Z: 1})
}

// quarter is a place after the jar was turned a quarter to the right: what was nearest is rightmost.
func quarter(v optics.Vec) optics.Vec { return optics.Vec{X: -v.Z, Y: v.Y, Z: v.X} }

// root is a root that runs down and about in a jar, from a node near its axis.
func root(r *rand.Rand) (line []optics.Vec, mm float64) {
	at := optics.Vec{X: 4 * r.NormFloat64(), Y: 10, Z: 4 * r.NormFloat64()}
	way, lean := r.Float64()*2*math.Pi, 0.3+0.7*r.Float64()
	for range 20 + r.IntN(25) {
		way += 0.12 * r.NormFloat64()
		d := optics.Vec{X: lean * math.Cos(way), Y: -0.6, Z: lean * math.Sin(way)}
		next := at.Plus(d)
		if math.Hypot(next.X, next.Z) > 26 {
			break
		}
		line = append(line, at)
		mm += at.To(next)
		at = next
	}
	return append(line, at), mm
}

func seen(s optics.Standing, line []optics.Vec, off func() float64) []plant.Point {
	out := []plant.Point{}
	for _, v := range line {
		if p, ok := s.Pixel(v); ok {
			out = append(out, plant.Point{X: p.X + off(), Y: p.Y + off()})
		}
	}
	return out
}

// Roots in space, projected through glass and water into two views, are found again: exactly when the lines are exact,
// within a few per cent when they are off by a pixel. One view alone cannot tell.
func TestTwoViewsAQuarterApartGiveTheTrueLength(t *testing.T) {
	none := func() float64 { return 0 }
	worst, one := 0.0, 0.0
	for seed := range uint64(60) {
		r := rand.New(rand.NewPCG(seed, 11))
		line, mm := root(r)
		if mm < 8 {
			continue
		}
		a, b := standing(t, 38, 210+80*r.Float64(), 0), standing(t, 38, 210+80*r.Float64(), 0)
		turned := make([]optics.Vec, len(line))
		for i, v := range line {
			turned[i] = quarter(v)
		}
		// The cameras stand at different heights.
		lower := 6.0
		for i := range turned {
			turned[i].Y += lower
		}
		first, second := seen(a, line, none), seen(b, turned, none)
		if len(first) < len(line) || len(second) < len(line) {
			continue // part of it cannot be seen through the wall
		}
		pair, err := Put(View{a, first[0]}, View{b, second[0]})
		require.NoError(t, err)
		l, err := pair.Root(first, second)
		require.NoError(t, err, "seed %d", seed)
		worst = math.Max(worst, math.Abs(l.MM/mm-1))
		flat := 0.0
		for i := 1; i < len(line); i++ {
			flat += math.Hypot(line[i].X-line[i-1].X, line[i].Y-line[i-1].Y)
		}
		one = math.Max(one, 1-flat/mm)
	}
	t.Logf("two views off by at most %.3f, one by %.3f", worst, one)
	require.Less(t, worst, 0.06)
	require.Greater(t, one, 0.3, "one view hides far more")
}

// A place and the pixel it is seen at belong together, both ways.
func TestAPlaceIsSeenWhereItsPixelIsCast(t *testing.T) {
	s := standing(t, 38, 230, 0)
	r := rand.New(rand.NewPCG(5, 5))
	hit := 0
	for range 400 {
		v := optics.Vec{X: 60*r.Float64() - 30, Y: 60*r.Float64() - 30, Z: 60*r.Float64() - 30}
		if math.Hypot(v.X, v.Z) > 34 {
			continue
		}
		p, ok := s.Pixel(v)
		if !ok {
			continue
		}
		hit++
		at, ok := s.Place(p, v.Z, math.Inf(1))
		require.True(t, ok)
		require.Less(t, at.To(v), 1e-5)
	}
	require.Greater(t, hit, 150)
}

// Lines of two different roots are not taken for one.
func TestLinesOfDifferentRootsDoNotFit(t *testing.T) {
	a, b := standing(t, 38, 230, 0), standing(t, 38, 250, 0)
	down, up := []optics.Vec{}, []optics.Vec{}
	for i := range 20 {
		down, up = append(down, optics.Vec{Y: -float64(i)}), append(up, optics.Vec{X: float64(i) / 2, Y: float64(i) / 3})
	}
	none := func() float64 { return 0 }
	first, second := seen(a, down, none), seen(b, up, none)
	pair, err := Put(View{a, first[0]}, View{b, second[0]})
	require.NoError(t, err)
	_, err = pair.Root(first, second)
	require.ErrorIs(t, err, ErrNoFit)
}
