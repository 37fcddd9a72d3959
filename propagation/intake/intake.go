// Package intake takes in an uploaded picture: it bounds the decoding, checks that
// the file is whole, reads when it was taken and which way is up, and makes
// smaller upright pictures for the screen. The original bytes are never changed.
package intake

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // registers the decoder
	"time"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"

	"clearjar/core/plant"
)

// Limits of an upload.
const (
	MostBytes  = 25 << 20
	MostPixels = 60_000_000
)

// Picture is what an upload turned out to be. Width and height are of the upright picture.
type Picture struct {
	MediaType     string
	Width, Height int
	// Orientation is EXIF's: 1 upright, 3, 6 and 8 turned, the others mirrored.
	Orientation int
	// Taken is zero when the file does not say.
	Taken time.Time
}

// Inspect checks a file from its first byte to its last. zone is assumed for an EXIF date, which has none.
func Inspect(data []byte, zone *time.Location) (Picture, error) {
	if len(data) > MostBytes {
		return Picture{}, plant.Refuse("photo", "%d MB is too large: at most 25 MB. Nothing was kept; take it at a lower resolution.", len(data)>>20)
	}
	head, format, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || (format != "jpeg" && format != "png") {
		return Picture{}, plant.Refuse("photo", "this file is not a JPEG or PNG picture. Nothing was kept; choose another file.")
	}
	if head.Width <= 0 || head.Height <= 0 || int64(head.Width)*int64(head.Height) > MostPixels {
		return Picture{}, plant.Refuse("photo", "%d x %d pixels is too large: at most 60 megapixels. Nothing was kept.", head.Width, head.Height)
	}
	if _, _, err := image.Decode(bytes.NewReader(data)); err != nil {
		return Picture{}, plant.Refuse("photo", "the picture is damaged or cut short (%s). Nothing was kept; send it again.", plainReason(err))
	}
	p := Picture{MediaType: "image/" + format, Width: head.Width, Height: head.Height, Orientation: 1}
	p.readEXIF(data, format, zone)
	if p.Orientation >= 5 {
		p.Width, p.Height = p.Height, p.Width
	}
	return p, nil
}

func plainReason(err error) string {
	if errors.Is(err, image.ErrFormat) {
		return "unknown format"
	}
	return err.Error()
}

// readEXIF fills in orientation and date where the file has them; a damaged block is as good as none.
func (p *Picture) readEXIF(data []byte, format string, zone *time.Location) {
	kind := imagemeta.JPEG
	if format == "png" {
		kind = imagemeta.PNG
	}
	var tags imagemeta.Tags
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(data), ImageFormat: kind, Sources: imagemeta.EXIF, Timeout: 2 * time.Second,
		HandleTag: func(t imagemeta.TagInfo) error { tags.Add(t); return nil },
		ShouldHandleTag: func(t imagemeta.TagInfo) bool {
			return t.Tag == "Orientation" || t.Tag == "DateTimeOriginal" || t.Tag == "DateTime"
		},
	})
	if err != nil {
		return
	}
	exif := tags.EXIF()
	if t, ok := exif["Orientation"]; ok {
		if n := toInt(t.Value); n >= 1 && n <= 8 {
			p.Orientation = n
		}
	}
	for _, name := range []string{"DateTimeOriginal", "DateTime"} {
		if t, ok := exif[name]; ok {
			if taken, err := time.ParseInLocation("2006:01:02 15:04:05", fmt.Sprint(t.Value), zone); err == nil {
				p.Taken = taken
				return
			}
		}
	}
}

func toInt(v any) int {
	switch n := v.(type) {
	case uint16:
		return int(n)
	case int:
		return n
	case uint32:
		return int(n)
	}
	return 0
}

// View makes an upright JPEG with no side longer than most pixels.
func View(data []byte, orientation, most int) ([]byte, error) {
	src, _, err := image.Decode(bytes.NewReader(data))
	if err != nil {
		return nil, err
	}
	b := src.Bounds()
	scale := min(1, float64(most)/float64(max(b.Dx(), b.Dy())))
	small := image.NewRGBA(image.Rect(0, 0, max(1, int(float64(b.Dx())*scale+0.5)), max(1, int(float64(b.Dy())*scale+0.5))))
	draw.Draw(small, small.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
	draw.BiLinear.Scale(small, small.Bounds(), src, b, draw.Over, nil)
	var out bytes.Buffer
	err = jpeg.Encode(&out, Upright(small, orientation), &jpeg.Options{Quality: 86})
	return out.Bytes(), err
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
