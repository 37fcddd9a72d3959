package stem

import (
	"image"
	"image/color"
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/scene"
)

// A green bar on grey, leaning: its edges are found to a pixel or two, whichever way it leans and whatever is said of its
// direction.
func TestTheEdgesOfAStem(t *testing.T) {
	const px = 6.0
	for _, lean := range []float64{-25, -10, 0, 12, 28} {
		sin, cos := math.Sincos(lean * math.Pi / 180)
		img := image.NewRGBA(image.Rect(0, 0, 900, 800))
		for y := range 800 {
			for x := range 900 {
				side := (float64(x)+0.5-450)*cos + (float64(y)+0.5-400)*sin
				c := color.RGBA{150, 150, 148, 255}
				if math.Abs(side) < 4*px {
					c = color.RGBA{60, 110, 50, 255}
				}
				img.SetRGBA(x, y, c)
			}
		}
		up := plant.Point{X: 450 + 150*sin, Y: 400 - 150*cos}
		for name, nodes := range map[string][]plant.Point{"one node": {{X: 450, Y: 400}}, "two nodes": {{X: 450, Y: 400}, up}} {
			s, err := scene.Around(img, nodes, nil, px)
			require.NoError(t, err)
			b := Bands(s, s.Nodes)[0]
			require.InDelta(t, 4*px, b.Left, 2.1, "%s, lean %g", name, lean)
			require.InDelta(t, 4*px, b.Right, 2.1, "%s, lean %g", name, lean)
			require.InDelta(t, lean, math.Atan2(b.UpX, -b.UpY)*180/math.Pi, 4)
			at := s.Nodes[0]
			require.True(t, b.Holds(at.X, at.Y))
			require.False(t, b.Holds(at.X+b.Right+8, at.Y))
			require.False(t, b.Holds(at.X, at.Y+40))
		}
	}
}
