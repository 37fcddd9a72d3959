package likely

import (
	"bytes"
	"image"
	"image/color"
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/ridge"
	"clearjar/core/rootphoto/scene"
)

// pale is a board with one pale root that springs from a green stem, and its pixels.
func pale(t *testing.T) (*scene.Scene, func(x float64) float64) {
	t.Helper()
	curve := func(x float64) float64 { return 430 + 60*math.Sin((x-480)/60) }
	img := image.NewRGBA(image.Rect(0, 0, 1000, 900))
	for y := range 900 {
		for x := range 1000 {
			c := color.RGBA{40, 46, 52, 255}
			if math.Abs(float64(x)-460) < 26 && y < 520 {
				c = color.RGBA{60, 120, 50, 255}
			} else if x > 470 && x < 800 {
				// Upright distance, corrected for the slope of the line.
				slope := math.Cos((float64(x)-480)/60) * 1
				if d := math.Abs(float64(y)-curve(float64(x))) / math.Hypot(1, slope); d < 5 {
					v := uint8(225 - 12*d)
					c = color.RGBA{v, v, v - 14, 255}
				}
			}
			img.SetRGBA(x, y, c)
		}
	}
	s, err := scene.Around(img, []plant.Point{{X: 460, Y: 430}, {X: 460, Y: 250}}, nil, 6.5)
	require.NoError(t, err)
	return s, curve
}

// onAndOff is how likely the pixels along the root are, and how many far from it are likely at all.
func onAndOff(m *Map, curve func(x float64) float64) (on float64, off int) {
	n := 0.0
	for x := 520.0; x < 780; x += 5 {
		best := float32(0)
		for dy := -3.0; dy <= 3; dy++ {
			p := m.In(plant.Point{X: x, Y: curve(x) + dy})
			best = max(best, m.P.At(int(p.X), int(p.Y)))
		}
		on, n = on+float64(best), n+1
	}
	for i, p := range m.P.Pix {
		at := m.Out(plant.Point{X: float64(i%m.P.W) + 0.5, Y: float64(i/m.P.W) + 0.5})
		if p > 0.5 && (at.X < 430 || at.X > 830 || math.Abs(at.Y-curve(at.X)) > 40) {
			off++
		}
	}
	return on / n, off
}

func TestARootOnABoard(t *testing.T) {
	s, curve := pale(t)
	tables, err := Shipped()
	require.NoError(t, err)
	m := tables.Of(s, Background{}, "white")
	on, off := onAndOff(m, curve)
	require.Greater(t, on, 0.7)
	require.Less(t, off, 60)
	again := tables.Of(s, Background{}, "white")
	require.Equal(t, m.P, again.P)
}

// As a negative in brightness, with the expected colour made negative as well, a root is found as well: what is learned of
// pale roots holds for dark ones.
func TestANegativeIsSeenAsWell(t *testing.T) {
	s, curve := pale(t)
	tables, err := Shipped()
	require.NoError(t, err)
	e, expected := Example{Scene: s}.inverted(tables.ExpectedOf("white"))
	own := *tables
	own.Expected = map[string]Colour{"white": expected}
	on, _ := onAndOff(own.Of(e.Scene, Background{}, "white"), curve)
	require.Greater(t, on, 0.55)
}

func TestTablesReadBack(t *testing.T) {
	tables, err := Shipped()
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(tables.LearnedFrom), 50)
	var b bytes.Buffer
	require.NoError(t, tables.Write(&b))
	again, err := ReadTables(bytes.NewReader(b.Bytes()))
	require.NoError(t, err)
	require.Equal(t, tables, again)
	for _, bad := range [][]byte{nil, []byte("no"), b.Bytes()[:len(b.Bytes())/2]} {
		_, err := ReadTables(bytes.NewReader(bad))
		require.Error(t, err)
	}
	require.Equal(t, tables.ExpectedOf("white"), tables.ExpectedOf("pink"), "what was not learned is looked for as white")
}

// A few examples drawn here are learned from: the tables tell the root from its board, and the same examples give the same
// tables.
func TestLearningIsRepeatable(t *testing.T) {
	s, curve := pale(t)
	line := []plant.Point{}
	for x := 486.0; x < 800; x += 4 {
		line = append(line, s.In(plant.Point{X: x, Y: curve(x)}))
	}
	mirrored := *s
	mirrored.L = ridge.New(s.L.W, s.L.H)
	copy(mirrored.L.Pix, s.L.Pix)
	all := []Example{}
	for _, name := range []string{"a", "b", "c"} {
		all = append(all, Example{Name: name, Series: name, Scene: s, Class: "white", Roots: []Drawn{{Line: line, WidthPX: 10, Seen: true, Colour: "white"}}})
	}
	quiet := func(string) {}
	one, parts, folded, err := Learn(all, 3, quiet)
	require.NoError(t, err)
	two, _, _, err := Learn(all, 3, quiet)
	require.NoError(t, err)
	require.Equal(t, one.First.Bytes(), two.First.Bytes())
	require.Equal(t, one.Second.Bytes(), two.Second.Bytes())
	require.Greater(t, Judge(all, parts, folded).First, 0.98)
	_, _, _, err = Learn(nil, 0, quiet)
	require.Error(t, err)
}

func FuzzReadTables(f *testing.F) {
	f.Add([]byte("{}\n"))
	f.Fuzz(func(_ *testing.T, data []byte) { _, _ = ReadTables(bytes.NewReader(data)) })
}
