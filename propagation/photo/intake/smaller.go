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

// pixels gives one pixel's red, green, blue and alpha, 0 to 255, alpha-premultiplied.
type pixels func(x, y int) (r, g, b, a uint32)

// pixelsOf is the fastest way to the pixels of a picture; any kind has a way.
func pixelsOf(src image.Image) pixels {
	switch p := src.(type) {
	case *image.YCbCr:
		return func(x, y int) (uint32, uint32, uint32, uint32) {
			yi, ci := p.YOffset(x, y), p.COffset(x, y)
			r, g, b := color.YCbCrToRGB(p.Y[yi], p.Cb[ci], p.Cr[ci])
			return uint32(r), uint32(g), uint32(b), 255
		}
	case *image.RGBA:
		return func(x, y int) (uint32, uint32, uint32, uint32) {
			o := p.Pix[p.PixOffset(x, y):]
			return uint32(o[0]), uint32(o[1]), uint32(o[2]), uint32(o[3])
		}
	case *image.NRGBA:
		return func(x, y int) (uint32, uint32, uint32, uint32) {
			o := p.Pix[p.PixOffset(x, y):]
			a := uint32(o[3])
			return uint32(o[0]) * a / 255, uint32(o[1]) * a / 255, uint32(o[2]) * a / 255, a
		}
	}
	return func(x, y int) (uint32, uint32, uint32, uint32) {
		r, g, b, a := src.At(x, y).RGBA()
		return r >> 8, g >> 8, b >> 8, a >> 8
	}
}

// blocks averages blocks of k by k pixels; the last row and column may be of fewer.
func blocks(src image.Image, k int) *image.RGBA {
	b, at := src.Bounds(), pixelsOf(src)
	w, h := (b.Dx()+k-1)/k, (b.Dy()+k-1)/k
	dst := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		y0, y1 := b.Min.Y+y*k, min(b.Min.Y+(y+1)*k, b.Max.Y)
		row := dst.Pix[y*dst.Stride : y*dst.Stride+4*w]
		for x := range w {
			x0, x1 := b.Min.X+x*k, min(b.Min.X+(x+1)*k, b.Max.X)
			var sr, sg, sb, sa uint32
			for yy := y0; yy < y1; yy++ {
				for xx := x0; xx < x1; xx++ {
					r, g, b, a := at(xx, yy)
					sr, sg, sb, sa = sr+r, sg+g, sb+b, sa+a
				}
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
	for y := range h {
		for x := range w {
			dx, dy := place(x, y)
			copy(dst.Pix[dst.PixOffset(dx, dy):][:4], src.Pix[src.PixOffset(x, y):][:4])
		}
	}
	return dst
}
