package vessel

import (
	"image"
	"image/color"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/scene"
)

// drawn is a vessel on a wall, as wide as said at each row, with a label beside it.
func drawn(t *testing.T, left, right func(y float64) float64, label image.Rectangle) *scene.Scene {
	t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, 1000, 900))
	for y := range 900 {
		for x := range 1000 {
			c := color.RGBA{150, 152, 149, 255}
			l, r := float64(x)-left(float64(y)), right(float64(y))-float64(x)
			switch {
			case l >= 0 && r >= 0 && (l < 5 || r < 5):
				c = color.RGBA{70, 80, 76, 255}
			case l >= 0 && r >= 0:
				c = color.RGBA{140, 146, 140, 255}
			case image.Pt(x, y).In(label):
				c = color.RGBA{240, 240, 238, 255}
			}
			img.SetRGBA(x, y, c)
		}
	}
	s, err := scene.Around(img, []plant.Point{{X: 480, Y: 480}, {X: 470, Y: 300}}, nil, 6)
	require.NoError(t, err)
	return s
}

func middle(e optics.Edge) float64 { return (e.A.X + e.B.X) / 2 }

func TestEdgesOfAJarAndOfACup(t *testing.T) {
	label := image.Rect(740, 420, 960, 700)
	for name, taper := range map[string]float64{"jar": 0, "cup": 0.1} {
		left := func(y float64) float64 { return 250 + taper*(y-450) }
		right := func(y float64) float64 { return 720 - taper*(y-450) }
		s := drawn(t, left, right, label)
		corner := func(x, y int) plant.Point { return s.In(plant.Point{X: float64(x), Y: float64(y)}) }
		paper := Avoid{corner(label.Min.X-4, label.Min.Y-4), corner(label.Max.X, label.Min.Y-4), corner(label.Max.X, label.Max.Y), corner(label.Min.X-4, label.Max.Y)}
		got, ok := Between(s, 400, 540, taper, []Avoid{paper})
		require.True(t, ok, name)
		y := s.Out(plant.Point{Y: (got.Left.A.Y + got.Left.B.Y) / 2}).Y
		require.InDelta(t, left(y), s.Out(plant.Point{X: middle(got.Left)}).X, 4, name)
		require.InDelta(t, right(y), s.Out(plant.Point{X: middle(got.Right)}).X, 4, name)
		_, ok = Between(s, 800, 900, taper, nil)
		require.False(t, ok, "none so far apart")
	}
}

// A wall and nothing else has no edges.
func TestNoVessel(t *testing.T) {
	s := drawn(t, func(float64) float64 { return 2000 }, func(float64) float64 { return 0 }, image.Rectangle{})
	_, ok := Between(s, 300, 700, 0, nil)
	require.False(t, ok)
}

func TestWhatIsAvoided(t *testing.T) {
	a := Strip(plant.Point{X: 10, Y: 0}, plant.Point{X: 10, Y: 100}, 3)
	require.True(t, a.holds(12, 50))
	require.False(t, a.holds(14, 50))
	require.True(t, a.holds(9, 190), "it goes on beyond its points")
}
