package tag

import (
	"encoding/json"
	"image"
	"image/color"
	"image/draw"
	_ "image/jpeg"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/boombuler/barcode/qr"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// paper is a picture with tags on it: a code from an independent writer, cast by a known homography, made unsharp by
// supersampling, with noise.
type paper struct {
	*image.Gray
	noise *rand.Rand
}

func blank(w, h int, seed uint64) paper {
	g := image.NewGray(image.Rect(0, 0, w, h))
	draw.Draw(g, g.Rect, image.NewUniform(color.Gray{150}), image.Point{}, draw.Src)
	return paper{g, rand.New(rand.NewPCG(seed, 3))}
}

// put draws a code so that its symbol has these corners; its quiet zone of four squares is white around it.
func (p paper) put(t *testing.T, payload string, c [4]plant.Point) {
	t.Helper()
	code, err := qr.Encode(payload, qr.M, qr.Auto)
	require.NoError(t, err)
	n := code.Bounds().Dx()
	h := squareTo(c)
	back := inverse(h)
	zone := 4 / float64(n)
	box := image.Rectangle{}
	for _, uv := range [][2]float64{{-zone, -zone}, {1 + zone, -zone}, {1 + zone, 1 + zone}, {-zone, 1 + zone}} {
		q := h.at(uv[0], uv[1])
		box = box.Union(image.Rect(int(q.X)-2, int(q.Y)-2, int(q.X)+3, int(q.Y)+3))
	}
	const fine = 6
	for y := box.Min.Y; y < box.Max.Y; y++ {
		for x := box.Min.X; x < box.Max.X; x++ {
			if !(image.Point{X: x, Y: y}).In(p.Rect) {
				continue
			}
			sum := 0.0
			for dy := range fine {
				for dx := range fine {
					uv := back.at(float64(x)+(float64(dx)+0.5)/fine, float64(y)+(float64(dy)+0.5)/fine)
					i, j := int(math.Floor(uv.X*float64(n))), int(math.Floor(uv.Y*float64(n)))
					switch {
					case uv.X < -zone || uv.Y < -zone || uv.X > 1+zone || uv.Y > 1+zone:
						sum += 150
					case i >= 0 && j >= 0 && i < n && j < n && dark(code.At(i, j)):
						sum += 45
					default:
						sum += 215
					}
				}
			}
			p.Pix[y*p.Stride+x] = uint8(math.Max(0, math.Min(255, sum/(fine*fine)+3*p.noise.NormFloat64())))
		}
	}
}

func dark(c color.Color) bool {
	r, _, _, _ := c.RGBA()
	return r < 0x8000
}

// inverse is the homography the other way, by its adjugate.
func inverse(h plane) plane {
	m := plane{
		h[4]*h[8] - h[5]*h[7], h[2]*h[7] - h[1]*h[8], h[1]*h[5] - h[2]*h[4],
		h[5]*h[6] - h[3]*h[8], h[0]*h[8] - h[2]*h[6], h[2]*h[3] - h[0]*h[5],
		h[3]*h[7] - h[4]*h[6], h[1]*h[6] - h[0]*h[7], h[0]*h[4] - h[1]*h[3],
	}
	for i := range m {
		m[i] /= m[8]
	}
	return m
}

func corners(x, y, size, tilt float64) [4]plant.Point {
	s, k := math.Sincos(tilt)
	at := func(u, v, shrink float64) plant.Point {
		u, v = u*size*shrink, v*size*0.92
		return plant.Point{X: x + u*k - v*s, Y: y + u*s + v*k}
	}
	return [4]plant.Point{at(-0.5, -0.5, 0.98), at(0.5, -0.5, 0.98), at(0.5, 0.5, 1.02), at(-0.5, 0.5, 1.02)}
}

func worst(got, want [4]plant.Point) (px float64) {
	for i := range got {
		px = math.Max(px, distance(got[i], want[i]))
	}
	return px
}

// Whatever the place, the size and the turn: its corners are found to half a pixel.
func TestCornersStandWhereTheyWereDrawn(t *testing.T) {
	for seed := range uint64(12) {
		r := rand.New(rand.NewPCG(seed, 1))
		p := blank(900, 700, seed)
		want := corners(300+300*r.Float64(), 280+140*r.Float64(), 120+130*r.Float64(), 2*math.Pi*r.Float64())
		p.put(t, "CJ1:V:7Q4K", want)
		all := Read(p.Gray)
		require.Len(t, all, 1, "seed %d", seed)
		require.Equal(t, "CJ1:V:7Q4K", all[0].Payload)
		require.Equal(t, 21, all[0].Modules)
		require.Less(t, worst(all[0].Corners, want), 0.5, "seed %d", seed)
		require.Less(t, all[0].Residual, 0.2)
	}
}

func TestSeveralTagsInOnePicture(t *testing.T) {
	p := blank(1400, 900, 9)
	p.put(t, "CJ1:V:AAAA", corners(250, 250, 190, 0.1))
	p.put(t, "CJ1:C:BBBB", corners(1100, 300, 170, -0.2))
	p.put(t, "CJ1:V:AAAA", corners(700, 650, 180, 0.05)) // a copy
	p.put(t, "https://example.org", corners(1150, 680, 180, 0))
	got := map[string]int{}
	for _, f := range Read(p.Gray) {
		got[f.Payload]++
	}
	require.Equal(t, map[string]int{"CJ1:V:AAAA": 2, "CJ1:C:BBBB": 1}, got, "what is no tag of ours is not one; a copy is a second")
}

func TestWhatCannotBeTrustedIsNoTag(t *testing.T) {
	require.Empty(t, Read(blank(400, 300, 1).Gray))
	require.Empty(t, Read(image.NewGray(image.Rect(0, 0, 3, 2))))
	require.Empty(t, Read(image.NewGray(image.Rect(0, 0, 0, 0))))
	noise := blank(500, 400, 5)
	for i := range noise.Pix {
		noise.Pix[i] = uint8(noise.noise.IntN(256))
	}
	require.Empty(t, Read(noise.Gray))
	// A mirrored photo: it can be read, and which side is which cannot be trusted.
	p := blank(600, 500, 2)
	c := corners(300, 250, 200, 0.2)
	p.put(t, "CJ1:V:7Q4K", [4]plant.Point{c[1], c[0], c[3], c[2]})
	require.Empty(t, Read(p.Gray))
}

// The rendered photos that ship with the demo, against the corners the renderer knows.
func TestTagsOfRenderedPhotos(t *testing.T) {
	files, err := filepath.Glob("../../../demo/photos/*.jpg")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		raw, err := os.ReadFile(strings.TrimSuffix(name, ".jpg") + ".json")
		require.NoError(t, err)
		var truth struct {
			Reference struct {
				Payload  string                `json:"payload"`
				SymbolMM float64               `json:"qr_symbol_width_mm"`
				Corners  map[string][2]float64 `json:"qr_symbol_corners_px"`
			} `json:"reference"`
		}
		require.NoError(t, json.Unmarshal(raw, &truth))
		file, err := os.Open(name)
		require.NoError(t, err)
		img, _, err := image.Decode(file)
		require.NoError(t, err)
		require.NoError(t, file.Close())
		g := image.NewGray(img.Bounds())
		draw.Draw(g, g.Rect, img, img.Bounds().Min, draw.Src)
		all := Read(g)
		require.Len(t, all, 1, name)
		require.Equal(t, truth.Reference.Payload, all[0].Payload)
		var want [4]plant.Point
		for i, corner := range []string{"top_left", "top_right", "bottom_right", "bottom_left"} {
			c := truth.Reference.Corners[corner]
			want[i] = plant.Point{X: c[0], Y: c[1]}
		}
		require.Less(t, worst(all[0].Corners, want), 0.5, name)
		is, should := all[0].MMPerPixel(truth.Reference.SymbolMM), Found{Corners: want}.MMPerPixel(truth.Reference.SymbolMM)
		require.InEpsilon(t, should, is, 0.003, "the scale to 0.3 %%, %s", name)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte{1, 2, 3}, uint8(40))
	f.Fuzz(func(t *testing.T, pix []byte, width uint8) {
		w := max(1, int(width))
		g := image.NewGray(image.Rect(0, 0, w, len(pix)/w))
		copy(g.Pix, pix)
		for _, found := range Read(g) {
			require.True(t, strings.HasPrefix(found.Payload, Prefix))
		}
	})
}
