package intake

import (
	"image"
	"image/draw"
)

// turned turns a picture as its EXIF orientation says. A picture as JPEG keeps it stays one: it is turned plane by plane.
func turned(img image.Image, orientation int) image.Image {
	if orientation < 2 || orientation > 8 {
		return img
	}
	ycc, ok := img.(*image.YCbCr)
	if !ok {
		rgba := image.NewRGBA(image.Rect(0, 0, img.Bounds().Dx(), img.Bounds().Dy()))
		draw.Draw(rgba, rgba.Bounds(), img, img.Bounds().Min, draw.Src)
		return Upright(rgba, orientation)
	}
	w, h := ycc.Rect.Dx(), ycc.Rect.Dy()
	ratio := ycc.SubsampleRatio
	out := &image.YCbCr{SubsampleRatio: ratio, Rect: image.Rect(0, 0, w, h)}
	if orientation >= 5 {
		out.Rect = image.Rect(0, 0, h, w)
		switch ratio {
		case image.YCbCrSubsampleRatio422:
			out.SubsampleRatio = image.YCbCrSubsampleRatio440
		case image.YCbCrSubsampleRatio440:
			out.SubsampleRatio = image.YCbCrSubsampleRatio422
		case image.YCbCrSubsampleRatio411, image.YCbCrSubsampleRatio410:
			rgba := image.NewRGBA(image.Rect(0, 0, w, h))
			draw.Draw(rgba, rgba.Bounds(), img, img.Bounds().Min, draw.Src)
			return Upright(rgba, orientation)
		case image.YCbCrSubsampleRatio444, image.YCbCrSubsampleRatio420:
		}
	}
	chromaW, chromaH := chroma(ycc)
	out.Y, out.YStride = turnedPlane(ycc.Y, ycc.YStride, w, h, orientation)
	out.Cb, out.CStride = turnedPlane(ycc.Cb, ycc.CStride, chromaW, chromaH, orientation)
	out.Cr, _ = turnedPlane(ycc.Cr, ycc.CStride, chromaW, chromaH, orientation)
	return out
}

// chroma is at how many places, across and down, a picture keeps its colour.
func chroma(p *image.YCbCr) (w, h int) {
	first, last := p.COffset(p.Rect.Min.X, p.Rect.Min.Y), p.COffset(p.Rect.Max.X-1, p.Rect.Max.Y-1)
	h = (last-first)/p.CStride + 1
	return last - first - (h-1)*p.CStride + 1, h
}

// turnedPlane is a plane turned or mirrored as an orientation says.
func turnedPlane(src []uint8, stride, w, h, orientation int) (dst []uint8, dstStride int) {
	dstStride = w
	if orientation >= 5 {
		dstStride = h
	}
	dst = make([]uint8, w*h)
	for y := range h {
		row := src[y*stride : y*stride+w]
		var at, step int
		switch orientation {
		case 2:
			at, step = y*w+w-1, -1
		case 3:
			at, step = (h-1-y)*w+w-1, -1
		case 4:
			at, step = (h-1-y)*w, 1
		case 5:
			at, step = y, h
		case 6:
			at, step = h-1-y, h
		case 7:
			at, step = (w-1)*h+h-1-y, -h
		case 8:
			at, step = (w-1)*h+y, -h
		}
		for _, v := range row {
			dst[at] = v
			at += step
		}
	}
	return dst, dstStride
}

// after is the orientation of a picture that is turned a quarter to the right as it is seen.
// published: TIFF 6.0 / EXIF 2.3, tag 274 (from memory).
var after = map[int]int{1: 6, 6: 3, 3: 8, 8: 1, 2: 7, 7: 4, 4: 5, 5: 2}

// TurnedRight is the orientation of a picture of an orientation after so many further quarter turns to the right.
func TurnedRight(orientation, quarters int) int {
	if after[orientation] == 0 {
		orientation = 1
	}
	for range ((quarters % 4) + 4) % 4 {
		orientation = after[orientation]
	}
	return orientation
}
