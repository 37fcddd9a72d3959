package exam

import (
	"bytes"
	"image"
	"image/jpeg"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/image/draw"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/measure"
)

// twelveMegapixels is a photo of a jar as large as phones make them, in bytes, and what is asked of it.
func twelveMegapixels(b *testing.B) (file []byte, a measure.Asked) {
	b.Helper()
	c := jarA(b)
	from := c.Picture.Bounds()
	const w, h = 3000, 4000
	large := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.CatmullRom.Scale(large, large.Rect, c.Picture, from, draw.Src, nil)
	var out bytes.Buffer
	require.NoError(b, jpeg.Encode(&out, large, &jpeg.Options{Quality: 92}))
	a = c.asked()
	by := float64(w) / float64(from.Dx())
	for i, n := range a.Nodes {
		a.Nodes[i] = plant.Point{X: n.X * by, Y: n.Y * by}
	}
	return out.Bytes(), a
}

// From the bytes of a photo of 12 megapixels to proposals.
func BenchmarkTwelveMegapixels(b *testing.B) {
	file, a := twelveMegapixels(b)
	tables, err := measure.Shipped()
	require.NoError(b, err)
	for b.Loop() {
		img, err := jpeg.Decode(bytes.NewReader(file))
		if err != nil {
			b.Fatal(err)
		}
		if len(tables.Look(img, measure.Tags(img), a).Proposals(measure.ProposeFrom)) == 0 {
			b.Fatal("no roots")
		}
	}
}
