package ridge

import (
	"image"
	"image/jpeg"
	"image/png"
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

// maskOf is the bright part of a picture.
func maskOf(t testing.TB, name string) Mask {
	t.Helper()
	file, err := os.Open(filepath.Join("testdata", name+".png"))
	require.NoError(t, err)
	defer func() { _ = file.Close() }()
	img, err := png.Decode(file)
	require.NoError(t, err)
	b := img.Bounds()
	m := NewMask(b.Dx(), b.Dy())
	for y := range m.H {
		for x := range m.W {
			r, _, _, _ := img.At(b.Min.X+x, b.Min.Y+y).RGBA()
			m.On[y*m.W+x] = r > 0x7fff
		}
	}
	return m
}

// published: Zhang & Suen 1984; the thinned pictures were made by two programs that are not ours and agree pixel for pixel.
func TestThinningIsThatOfTheBook(t *testing.T) {
	for _, name := range []string{"spiral", "taper", "y_junction", "circle_80"} {
		require.Equal(t, maskOf(t, name+".zs").On, Thin(maskOf(t, name)).On, name)
	}
}

// Thinning leaves what hangs together together, and is one pixel wide: thinned again it stays.
func TestThinnedStaysThin(t *testing.T) {
	m := Thin(maskOf(t, "spiral"))
	require.Equal(t, m, Thin(m))
	steps, every5 := 0.0, 0.0
	for _, c := range m.Chains() {
		for i := 1; i < len(c); i++ {
			steps += apart(m, c[i-1], c[i])
		}
		last := c[0]
		for i := 5; ; i += 5 {
			at := c[min(i, len(c)-1)]
			every5 += apart(m, last, at)
			if last = at; i >= len(c)-1 {
				break
			}
		}
	}
	// published: two programs that are not ours count 867 straight and 148 slanted steps, 1076.3 pixels; the spiral is 916.7
	// long. Through every fifth pixel the line is nearly as long as it is.
	require.InDelta(t, 1076.3036, steps, 1e-3)
	require.InEpsilon(t, 916.697, every5, 0.02)
	for _, size := range []image.Point{{}, {X: 1, Y: 1}, {X: 3, Y: 1}} {
		full := NewMask(size.X, size.Y)
		for i := range full.On {
			full.On[i] = true
		}
		Thin(full) // small ones do not fall over
	}
}

func apart(m Mask, a, b int) float64 {
	return math.Hypot(float64(a%m.W-b%m.W), float64(a/m.W-b/m.W))
}

func BenchmarkThin(b *testing.B) {
	m := maskOf(b, "spiral")
	for b.Loop() {
		Thin(m)
	}
	b.ReportMetric(float64(m.W*m.H)*float64(b.N)/b.Elapsed().Seconds()/1e6, "Mpx/s")
}

// photo is the photo that other programs are timed on as well, scripts/bench-images.sh.
func photo(b *testing.B) Plane {
	b.Helper()
	file, err := os.Open("../../../demo/photos/demo_orange_day47.jpg")
	require.NoError(b, err)
	defer func() { _ = file.Close() }()
	img, err := jpeg.Decode(file)
	require.NoError(b, err)
	ycc, ok := img.(*image.YCbCr)
	require.True(b, ok)
	return OfGray(&image.Gray{Pix: ycc.Y, Stride: ycc.YStride, Rect: ycc.Rect})
}

func BenchmarkSatoOnAPhoto(b *testing.B) {
	p := photo(b)
	for b.Loop() {
		Sato(p, []float64{1, 2, 3})
	}
}

func BenchmarkThinOnAPhoto(b *testing.B) {
	p := photo(b)
	m := NewMask(p.W, p.H)
	for i, v := range p.Pix {
		m.On[i] = v > 0.6
	}
	for b.Loop() {
		Thin(m)
	}
}
