package intake

import (
	"image"
	"image/color"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// Of every kind of picture, cut out anywhere, the sums of a row are those of its pixels one by one.
func TestRowsAddUpToTheirPixels(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	whole := image.Rect(0, 0, 23, 9)
	fill := func(p []uint8) {
		for i := range p {
			p[i] = uint8(r.IntN(256))
		}
	}
	pictures := map[string]interface {
		image.Image
		SubImage(image.Rectangle) image.Image
	}{}
	for name, ratio := range map[string]image.YCbCrSubsampleRatio{
		"444": image.YCbCrSubsampleRatio444, "422": image.YCbCrSubsampleRatio422, "420": image.YCbCrSubsampleRatio420, "440": image.YCbCrSubsampleRatio440,
		"411": image.YCbCrSubsampleRatio411, "410": image.YCbCrSubsampleRatio410,
	} {
		p := image.NewYCbCr(whole, ratio)
		fill(p.Y)
		fill(p.Cb)
		fill(p.Cr)
		pictures[name] = p
	}
	rgba, nrgba, grey := image.NewRGBA(whole), image.NewNRGBA(whole), image.NewGray(whole)
	for y := range 9 {
		for x := range 23 {
			rgba.Set(x, y, color.NRGBA{uint8(r.IntN(256)), uint8(r.IntN(256)), uint8(r.IntN(256)), uint8(r.IntN(256))})
		}
	}
	fill(nrgba.Pix)
	fill(grey.Pix)
	pictures["rgba"], pictures["nrgba"], pictures["grey"] = rgba, nrgba, grey
	for name, p := range pictures {
		for range 60 {
			cut := p.SubImage(image.Rect(r.IntN(10), r.IntN(4), 12+r.IntN(11), 5+r.IntN(4)))
			b := cut.Bounds()
			y, x0 := b.Min.Y+r.IntN(b.Dy()), b.Min.X+r.IntN(b.Dx())
			x1 := x0 + r.IntN(b.Max.X-x0+1)
			gr, gg, gb, ga := sumsOf(cut)(y, x0, x1)
			var wr, wg, wb, wa int
			for x := x0; x < x1; x++ {
				pr, pg, pb, pa := cut.At(x, y).RGBA()
				wr, wg, wb, wa = wr+int(pr>>8), wg+int(pg>>8), wb+int(pb>>8), wa+int(pa>>8)
			}
			near := float64(x1 - x0) // a rounding a pixel
			require.InDelta(t, wr, int(gr), near, name)
			require.InDelta(t, wg, int(gg), near, name)
			require.InDelta(t, wb, int(gb), near, name)
			require.Equal(t, wa, int(ga), name)
		}
	}
}

// published: CIPA DC-008 (Exif), tag 274. A pixel goes where each orientation puts it, in pictures one pixel wide too.
func TestUprightPutsEveryPixelInItsPlace(t *testing.T) {
	for _, size := range []image.Point{{5, 3}, {1, 4}, {4, 1}, {1, 1}} {
		src := image.NewRGBA(image.Rectangle{Max: size})
		for i := range src.Pix {
			src.Pix[i] = uint8(i*7 + 1)
		}
		w, h := size.X, size.Y
		for o, at := range map[int]func(x, y int) image.Point{
			1: func(x, y int) image.Point { return image.Pt(x, y) }, 2: func(x, y int) image.Point { return image.Pt(w-1-x, y) },
			3: func(x, y int) image.Point { return image.Pt(w-1-x, h-1-y) }, 4: func(x, y int) image.Point { return image.Pt(x, h-1-y) },
			5: func(x, y int) image.Point { return image.Pt(y, x) }, 6: func(x, y int) image.Point { return image.Pt(h-1-y, x) },
			7: func(x, y int) image.Point { return image.Pt(h-1-y, w-1-x) }, 8: func(x, y int) image.Point { return image.Pt(y, w-1-x) },
		} {
			up := Upright(src, o)
			for y := range h {
				for x := range w {
					to := at(x, y)
					require.Equal(t, src.RGBAAt(x, y), up.RGBAAt(to.X, to.Y), "orientation %d, %v", o, size)
				}
			}
		}
	}
}

func BenchmarkBlocks(b *testing.B) {
	p := image.NewYCbCr(image.Rect(0, 0, 4000, 3000), image.YCbCrSubsampleRatio420)
	for b.Loop() {
		blocks(p, 2)
	}
}
