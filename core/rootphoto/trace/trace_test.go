package trace

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/ridge"
)

// drawn is a picture in which a curve is likely a root, with a few gaps and some noise.
func drawn(w, h int, curve func(t float64) plant.Point, r *rand.Rand) ridge.Plane {
	p := ridge.New(w, h)
	for i := range p.Pix {
		p.Pix[i] = 0.08 * r.Float32()
	}
	for i := range 4000 {
		t := float64(i) / 3999
		if math.Mod(t*7, 1) < 0.02 {
			continue // glare
		}
		c := curve(t)
		for dy := -3; dy <= 3; dy++ {
			for dx := -3; dx <= 3; dx++ {
				x, y := int(c.X)+dx, int(c.Y)+dy
				if x < 0 || y < 0 || x >= w || y >= h {
					continue
				}
				d := math.Hypot(float64(x)+0.5-c.X, float64(y)+0.5-c.Y)
				p.Pix[y*w+x] = max(p.Pix[y*w+x], float32(0.95*math.Exp(-d*d/3)))
			}
		}
	}
	return p
}

func exact(curve func(t float64) plant.Point) (px float64) {
	last := curve(0)
	for i := 1; i <= 20000; i++ {
		c := curve(float64(i) / 20000)
		px, last = px+math.Hypot(c.X-last.X, c.Y-last.Y), c
	}
	return px
}

// From a tap beside the tip to where it springs from: the length is right to 1 %, whatever the curve.
func TestAPathIsAsLongAsItsRoot(t *testing.T) {
	curves := map[string]func(float64) plant.Point{
		"straight": func(t float64) plant.Point { return plant.Point{X: 30 + 300*t, Y: 40 + 190*t} },
		"arc": func(t float64) plant.Point {
			return plant.Point{X: 190 + 140*math.Cos(3*t), Y: 180 + 130*math.Sin(3*t)}
		},
		"wave": func(t float64) plant.Point { return plant.Point{X: 30 + 320*t, Y: 170 + 60*math.Sin(9*t)} },
	}
	for name, curve := range curves {
		for seed := range uint64(4) {
			r := rand.New(rand.NewPCG(seed, 1))
			p := drawn(380, 340, curve, r)
			tip, base := curve(1), curve(0)
			tap := plant.Point{X: tip.X + 3*r.NormFloat64()/2, Y: tip.Y + 3*r.NormFloat64()/2}
			path, err := On(p).Path([]plant.Point{tap, base})
			require.NoError(t, err)
			smooth := Smooth(path, 4)
			require.InEpsilon(t, exact(curve), Length(smooth), 0.03, "%s %d: a tap beside the tip", name, seed)
			whole, err := On(p).Path([]plant.Point{tip, base})
			require.NoError(t, err)
			require.InEpsilon(t, exact(curve), Length(Smooth(whole, 4)), 0.012, "%s %d", name, seed)
			require.Greater(t, Length(whole), Length(Smooth(whole, 4)), "stairs are longer")
		}
	}
}

// Where two roots cross, a point that must be passed says which one is meant.
func TestAPointThatMustBePassed(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 3))
	short := func(t float64) plant.Point { return plant.Point{X: 40 + 240*t, Y: 150} }
	p := drawn(320, 300, short, r)
	long := drawn(320, 300, func(t float64) plant.Point {
		return plant.Point{X: 160 - 120*math.Cos(math.Pi*t), Y: 150 - 110*math.Sin(math.Pi*t)}
	}, r)
	for i := range p.Pix {
		p.Pix[i] = max(p.Pix[i], long.Pix[i])
	}
	ends := []plant.Point{{X: 40, Y: 150}, {X: 280, Y: 150}}
	direct, err := On(p).Path(ends)
	require.NoError(t, err)
	around, err := On(p).Path([]plant.Point{ends[0], {X: 160, Y: 41}, ends[1]})
	require.NoError(t, err)
	require.InEpsilon(t, 240, Length(Smooth(direct, 4)), 0.03)
	require.InEpsilon(t, exact(func(t float64) plant.Point {
		return plant.Point{X: 160 - 120*math.Cos(math.Pi*t), Y: 150 - 110*math.Sin(math.Pi*t)}
	}), Length(Smooth(around, 4)), 0.03)
}

func TestPathsThatCannotBe(t *testing.T) {
	p := ridge.New(20, 20)
	for _, through := range [][]plant.Point{nil, {{X: 1, Y: 1}}, {{X: -1, Y: 1}, {X: 5, Y: 5}}, {{X: 1, Y: 1}, {X: 20, Y: 5}}, {{X: math.NaN(), Y: 1}, {X: 2, Y: 5}}} {
		_, err := On(p).Path(through)
		require.Error(t, err, fmt.Sprint(through))
	}
	same, err := On(p).Path([]plant.Point{{X: 5, Y: 5}, {X: 5, Y: 5}})
	require.NoError(t, err)
	require.Less(t, Length(same), 20.0)
	require.Empty(t, Smooth(nil, 3))
	require.Len(t, Smooth([]plant.Point{{X: 1, Y: 1}}, 3), 1)
}

// The ends of a path stay, and its points lie evenly.
func TestSmoothingKeepsTheEnds(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 8))
	for range 50 {
		path := []plant.Point{{X: 100, Y: 100}}
		for range 5 + r.IntN(200) {
			last := path[len(path)-1]
			path = append(path, plant.Point{X: last.X + 2*r.Float64(), Y: last.Y + 2*r.NormFloat64()})
		}
		s := Smooth(path, 1+5*r.Float64())
		require.InDelta(t, path[0].X, s[0].X, 1e-9)
		require.InDelta(t, path[0].Y, s[0].Y, 1e-9)
		require.InDelta(t, path[len(path)-1].X, s[len(s)-1].X, 1e-9)
		require.LessOrEqual(t, Length(s), Length(path)+1e-9)
	}
}

func BenchmarkPath(b *testing.B) {
	r := rand.New(rand.NewPCG(1, 1))
	p := drawn(1000, 900, func(t float64) plant.Point { return plant.Point{X: 60 + 850*t, Y: 450 + 300*math.Sin(5*t)} }, r)
	ends := []plant.Point{{X: 910, Y: 450 + 300*math.Sin(5)}, {X: 60, Y: 450}}
	for b.Loop() {
		if _, err := On(p).Path(ends); err != nil {
			b.Fatal(err)
		}
	}
}
