package intake

import (
	"image"
	"image/color"

	"golang.org/x/image/draw"
)

// smaller makes a picture with no side longer than most pixels: first whole blocks of pixels are
// averaged, which takes next to no memory, then what is left is scaled.
func smaller(src image.Image, most int) *image.RGBA {
	b := src.Bounds()
	longest := max(b.Dx(), b.Dy())
	if k := longest / most; k > 1 {
		src = blocks(src, k)
		b, longest = src.Bounds(), max(src.Bounds().Dx(), src.Bounds().Dy())
	}
	scale := min(1, float64(most)/float64(longest))
	small := image.NewRGBA(image.Rect(0, 0, max(1, int(float64(b.Dx())*scale+0.5)), max(1, int(float64(b.Dy())*scale+0.5))))
	draw.Draw(small, small.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
	draw.BiLinear.Scale(small, small.Bounds(), src, b, draw.Over, nil)
	return small
}

// sums adds up the red, green, blue and alpha, each 0 to 255 and alpha-premultiplied, of the pixels from x0 to before x1 of
// a row, in the coordinates of the picture.
type sums func(y, x0, x1 int) (r, g, b, a uint32)

// sumsOf is the fastest way to the pixels of a picture; any kind has a way.
func sumsOf(src image.Image) sums {
	switch p := src.(type) {
	case *image.YCbCr:
		// Two neighbours share their colour where it is kept at half the width, four at a quarter.
		share := map[image.YCbCrSubsampleRatio]int{
			image.YCbCrSubsampleRatio422: 2, image.YCbCrSubsampleRatio420: 2, image.YCbCrSubsampleRatio411: 4, image.YCbCrSubsampleRatio410: 4,
		}[p.SubsampleRatio]
		share = max(1, share)
		return func(y, x0, x1 int) (r, g, b, a uint32) {
			at, colour := p.YOffset(x0, y), p.COffset(x0, y)
			left := share - x0&(share-1) // pixels until the colour changes; share is a power of two
			for range x1 - x0 {
				pr, pg, pb := color.YCbCrToRGB(p.Y[at], p.Cb[colour], p.Cr[colour])
				r, g, b = r+uint32(pr), g+uint32(pg), b+uint32(pb)
				at++
				if left--; left == 0 {
					colour, left = colour+1, share
				}
			}
			return r, g, b, 255 * uint32(x1-x0)
		}
	case *image.RGBA:
		return func(y, x0, x1 int) (r, g, b, a uint32) {
			o := p.PixOffset(x0, y)
			for row := p.Pix[o : o+4*(x1-x0)]; len(row) > 0; row = row[4:] {
				r, g, b, a = r+uint32(row[0]), g+uint32(row[1]), b+uint32(row[2]), a+uint32(row[3])
			}
			return r, g, b, a
		}
	case *image.NRGBA:
		return func(y, x0, x1 int) (r, g, b, a uint32) {
			o := p.PixOffset(x0, y)
			for row := p.Pix[o : o+4*(x1-x0)]; len(row) > 0; row = row[4:] {
				pa := uint32(row[3])
				r, g, b, a = r+uint32(row[0])*pa/255, g+uint32(row[1])*pa/255, b+uint32(row[2])*pa/255, a+pa
			}
			return r, g, b, a
		}
	}
	return func(y, x0, x1 int) (r, g, b, a uint32) {
		for x := x0; x < x1; x++ {
			pr, pg, pb, pa := src.At(x, y).RGBA()
			r, g, b, a = r+(pr>>8), g+(pg>>8), b+(pb>>8), a+(pa>>8)
		}
		return r, g, b, a
	}
}

// blocks averages blocks of k by k pixels; the last row and column may be of fewer.
func blocks(src image.Image, k int) *image.RGBA {
	b, of := src.Bounds(), sumsOf(src)
	w, h := (b.Dx()+k-1)/k, (b.Dy()+k-1)/k
	dst := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		y0, y1 := b.Min.Y+y*k, min(b.Min.Y+(y+1)*k, b.Max.Y)
		row := dst.Pix[y*dst.Stride : y*dst.Stride+4*w]
		for x := range w {
			x0, x1 := b.Min.X+x*k, min(b.Min.X+(x+1)*k, b.Max.X)
			var sr, sg, sb, sa uint32
			for yy := y0; yy < y1; yy++ {
				r, g, b, a := of(yy, x0, x1)
				sr, sg, sb, sa = sr+r, sg+g, sb+b, sa+a
			}
			n := uint32((y1 - y0) * (x1 - x0))
			row[4*x], row[4*x+1], row[4*x+2], row[4*x+3] = uint8(sr/n), uint8(sg/n), uint8(sb/n), uint8(sa/n)
		}
	}
	return dst
}

// Upright turns and mirrors a picture as its EXIF orientation asks.
// Source: CIPA DC-008 (Exif 2.3), tag 274: which edge of the picture row 0 and column 0 are.
func Upright(src *image.RGBA, orientation int) *image.RGBA {
	// w and h are of the picture as it lies in the file.
	w, h := src.Bounds().Dx(), src.Bounds().Dy()
	place := map[int]func(x, y int) (int, int){
		2: func(x, y int) (int, int) { return w - 1 - x, y },
		3: func(x, y int) (int, int) { return w - 1 - x, h - 1 - y },
		4: func(x, y int) (int, int) { return x, h - 1 - y },
		5: func(x, y int) (int, int) { return y, x },
		6: func(x, y int) (int, int) { return h - 1 - y, x },
		7: func(x, y int) (int, int) { return h - 1 - y, w - 1 - x },
		8: func(x, y int) (int, int) { return y, w - 1 - x },
	}[orientation]
	if place == nil {
		return src
	}
	dst := image.NewRGBA(image.Rect(0, 0, w, h))
	if orientation >= 5 {
		dst = image.NewRGBA(image.Rect(0, 0, h, w))
	}
	// Along a row of the file one steps evenly through the upright picture.
	step := dst.PixOffset(place(1, 0)) - dst.PixOffset(place(0, 0))
	for y := range h {
		to := dst.PixOffset(place(0, y))
		for row := src.Pix[y*src.Stride : y*src.Stride+4*w]; len(row) > 0; row, to = row[4:], to+step {
			copy(dst.Pix[to:to+4], row)
		}
	}
	return dst
}
