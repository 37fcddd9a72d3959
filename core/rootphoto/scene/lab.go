package scene

import (
	"image"
	"math"

	"clearjar/core/rootphoto/colour"
	"clearjar/core/rootphoto/ridge"
)

// lab is a part of a picture in CIELAB, by pixels of it into one.
func lab(img image.Image, part image.Rectangle, by, w, h int) (l, a, b ridge.Plane) {
	l, a, b = ridge.New(w, h), ridge.New(w, h), ridge.New(w, h)
	row := rowOf(img, part, by, w)
	ridge.Rows(h, func(from, to int) {
		rgb := make([][3]float32, w)
		for y := from; y < to; y++ {
			row(y, rgb)
			into := y * w
			for x, c := range rgb {
				l.Pix[into+x], a.Pix[into+x], b.Pix[into+x] = colour.Fast(c[0], c[1], c[2])
			}
		}
	})
	return l, a, b
}

// rowOf gives rows of red, green and blue, 0 to 255, each the mean of by times by pixels.
func rowOf(img image.Image, part image.Rectangle, by, w int) func(y int, into [][3]float32) {
	share := 1 / float32(by*by)
	if ycc, ok := img.(*image.YCbCr); ok {
		return func(y int, into [][3]float32) { rowOfYCbCr(ycc, part, by, y, into) }
	}
	return func(y int, into [][3]float32) {
		for x := range w {
			var r, g, b float32
			for dy := range by {
				for dx := range by {
					// Colours are not premultiplied by the library: a clear pixel is black.
					cr, cg, cb, _ := img.At(part.Min.X+x*by+dx, part.Min.Y+y*by+dy).RGBA()
					r, g, b = r+float32(cr)/257, g+float32(cg)/257, b+float32(cb)/257
				}
			}
			into[x] = [3]float32{r * share, g * share, b * share}
		}
	}
}

// rowOfYCbCr is a row of a picture as JPEG keeps it. Colour is kept at fewer places than brightness: between them it is
// taken from the four around.
func rowOfYCbCr(p *image.YCbCr, part image.Rectangle, by, y int, into [][3]float32) {
	stepX, stepY := 1, 1
	switch p.SubsampleRatio {
	case image.YCbCrSubsampleRatio420:
		stepX, stepY = 2, 2
	case image.YCbCrSubsampleRatio422:
		stepX = 2
	case image.YCbCrSubsampleRatio440:
		stepY = 2
	case image.YCbCrSubsampleRatio411:
		stepX = 4
	case image.YCbCrSubsampleRatio410:
		stepX, stepY = 4, 2
	case image.YCbCrSubsampleRatio444:
	}
	cw, ch := (p.Rect.Max.X-1)/stepX-p.Rect.Min.X/stepX+1, (p.Rect.Max.Y-1)/stepY-p.Rect.Min.Y/stepY+1
	top, middle := part.Min.Y+y*by-p.Rect.Min.Y, float32(by)/2
	cy, fy := between((float32(top)+middle)/float32(stepY)-0.5, ch)
	low := min(cy+1, ch-1)
	share := 1 / float32(by*by)
	for x := range into {
		left := part.Min.X + x*by - p.Rect.Min.X
		var sum int
		for dy := range by {
			at := (top+dy)*p.YStride + left
			for _, v := range p.Y[at : at+by] {
				sum += int(v)
			}
		}
		cx, fx := between((float32(left)+middle)/float32(stepX)-0.5, cw)
		right := min(cx+1, cw-1)
		cb := mix(p.Cb, p.CStride, cx, right, cy, low, fx, fy) - 128
		cr := mix(p.Cr, p.CStride, cx, right, cy, low, fx, fy) - 128
		luma := float32(sum) * share
		into[x] = [3]float32{luma + 1.402*cr, luma - 0.344136*cb - 0.714136*cr, luma + 1.772*cb}
	}
}

func between(v float32, n int) (first int, part float32) {
	v = min(max(v, 0), float32(n-1))
	first = int(math.Floor(float64(v)))
	return first, v - float32(first)
}

func mix(p []uint8, stride, left, right, top, low int, fx, fy float32) float32 {
	a := float32(p[top*stride+left]) + fx*(float32(p[top*stride+right])-float32(p[top*stride+left]))
	b := float32(p[low*stride+left]) + fx*(float32(p[low*stride+right])-float32(p[low*stride+left]))
	return a + fy*(b-a)
}
