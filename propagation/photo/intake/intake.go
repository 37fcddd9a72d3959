// Package intake takes in an uploaded picture: it bounds the decoding, checks that
// the file is whole, reads when it was taken and which way is up, and makes
// smaller upright pictures for the screen. The original bytes are never changed.
//
// A picture is decoded once. How much memory all decoding takes at any time is
// bounded: what does not fit waits its turn.
package intake

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // registers the decoder
	"io"
	"runtime/debug"
	"slices"
	"time"

	"github.com/bep/imagemeta"
	"github.com/gen2brain/heic"
	"golang.org/x/sync/semaphore"

	"clearjar/core/plant"
)

// Limits of an upload.
const (
	MostBytes  = 25 << 20
	MostPixels = 60_000_000
	// mostDecoded is the memory that decoded pictures take at any time, in bytes.
	mostDecoded = 256 << 20
	// mostHEIC bounds pictures that phones keep as HEIC: they are decoded slowly and with much memory, one at a time.
	mostHEIC = 30_000_000
	// largePicture is from how many bytes a decoded picture's memory is given back at once.
	largePicture = 64 << 20
)

// room is the memory that decoding shares.
var room = semaphore.NewWeighted(mostDecoded)

// Picture is what an upload turned out to be. Width and height are of the upright picture.
type Picture struct {
	MediaType     string
	Width, Height int
	// Orientation is EXIF's: 1 upright, 3, 6 and 8 turned, the others mirrored.
	Orientation int
	// Taken is zero when the file does not say.
	Taken time.Time
	// Focal35 is the focal length as on 35 mm film, 0 when the file does not say.
	Focal35 float64
}

// head reads what a file says it is, and how many bytes it takes decoded. Refused: what is no picture, or too large.
func head(data []byte) (cfg image.Config, format string, bytesDecoded int64, err error) {
	if len(data) > MostBytes {
		return cfg, "", 0, plant.Refuse("photo", "%d MB is too large: at most 25 MB. Nothing was kept; take it at a lower resolution.", len(data)>>20)
	}
	if isHEIC(data) {
		cfg, err = heic.DecodeConfig(bytes.NewReader(data))
		format = formatHEIC
	} else {
		cfg, format, err = image.DecodeConfig(bytes.NewReader(data))
	}
	if err != nil || (format != "jpeg" && format != "png" && format != formatHEIC) {
		return cfg, "", 0, plant.Refuse("photo", "this file is not a JPEG, PNG or HEIC picture. Nothing was kept; choose another file.")
	}
	pixels := int64(cfg.Width) * int64(cfg.Height)
	if cfg.Width <= 0 || cfg.Height <= 0 || pixels > MostPixels {
		return cfg, "", 0, plant.Refuse("photo", "%d x %d pixels is too large: at most 60 megapixels. Nothing was kept.", cfg.Width, cfg.Height)
	}
	if format == formatHEIC {
		if pixels > mostHEIC {
			return cfg, "", 0, plant.Refuse("photo", "%d x %d pixels is too large for a HEIC picture: at most %d megapixels. Nothing was kept; send it as JPEG.", cfg.Width, cfg.Height, mostHEIC/1_000_000)
		}
		return cfg, format, mostDecoded, nil
	}
	bytesDecoded = pixels * bytesAPixel(cfg.ColorModel)
	if bytesDecoded > mostDecoded {
		return cfg, "", 0, plant.Refuse("photo", "%d x %d pixels with 16 bits a colour is too large: save it with 8 bits, or smaller. Nothing was kept.", cfg.Width, cfg.Height)
	}
	return cfg, format, bytesDecoded, nil
}

// formatHEIC is the format in which some phones keep their photos.
const formatHEIC = "heic"

// brands are what such a file says it is.
var brands = []string{"heic", "heix", "heim", "heis", "mif1"}

// isHEIC tells by its first bytes whether a file is a picture of that format.
// published: ISO/IEC 23008-12, the brands of the file type box (from memory).
func isHEIC(data []byte) bool {
	return len(data) > 12 && string(data[4:8]) == "ftyp" && slices.Contains(brands, string(data[8:12]))
}

func bytesAPixel(m color.Model) int64 {
	switch m {
	case color.GrayModel:
		return 1
	case color.Gray16Model:
		return 2
	case color.YCbCrModel:
		return 3
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	}
	if _, ok := m.(color.Palette); ok {
		return 1
	}
	return 4
}

// decode waits for room and decodes a file. done gives the room back; it is to be called in any case.
func decode(ctx context.Context, data []byte) (img image.Image, format string, done func(), err error) {
	_, format, size, err := head(data)
	if err != nil {
		return nil, "", func() {}, err
	}
	if err := room.Acquire(ctx, size); err != nil {
		return nil, "", func() {}, err
	}
	done = func() {
		if size >= largePicture {
			debug.FreeOSMemory()
		}
		room.Release(size)
	}
	if format == formatHEIC {
		img, err = heic.Decode(bytes.NewReader(data))
	} else {
		img, _, err = image.Decode(bytes.NewReader(data))
	}
	if err != nil {
		return nil, "", done, plant.Refuse("photo", "the picture is damaged or cut short (%s). Nothing was kept; send it again.", plainReason(err))
	}
	return img, format, done, nil
}

// Take checks a file from its first byte to its last and makes the upright views of the given sizes of it.
// zone is assumed for an EXIF date, which has none.
func Take(ctx context.Context, data []byte, zone *time.Location, sizes []int) (Picture, map[int][]byte, error) {
	img, format, done, err := decode(ctx, data)
	defer func() { done() }()
	if err != nil {
		return Picture{}, nil, err
	}
	b := img.Bounds()
	p := Picture{MediaType: "image/" + format, Width: b.Dx(), Height: b.Dy(), Orientation: 1}
	p.readEXIF(data, format, zone)
	if p.Orientation >= 5 {
		p.Width, p.Height = p.Height, p.Width
	}
	views, err := viewsOf(img, p.Orientation, sizes)
	return p, views, err
}

// OpenAs decodes a file and turns it as an orientation says, whatever the file says: a grower may have turned it. done gives
// its memory back; it is to be called in any case.
func OpenAs(ctx context.Context, data []byte, orientation int) (p Picture, up image.Image, done func(), err error) {
	return open(ctx, data, orientation)
}

// Open decodes a file and turns it upright. done gives its memory back; it is to be called in any case.
func Open(ctx context.Context, data []byte) (p Picture, up image.Image, done func(), err error) {
	return open(ctx, data, 0)
}

func open(ctx context.Context, data []byte, orientation int) (p Picture, up image.Image, done func(), err error) {
	img, format, done, err := decode(ctx, data)
	if err != nil {
		return Picture{}, nil, done, err
	}
	p = Picture{MediaType: "image/" + format, Orientation: 1}
	p.readEXIF(data, format, time.UTC)
	if orientation > 0 {
		p.Orientation = orientation
	}
	up = turned(img, p.Orientation)
	p.Width, p.Height = up.Bounds().Dx(), up.Bounds().Dy()
	return p, up, done, nil
}

// Views makes upright JPEGs with no side longer than each of the sizes, in pixels; the file is decoded once.
func Views(ctx context.Context, data []byte, orientation int, sizes []int) (map[int][]byte, error) {
	img, _, done, err := decode(ctx, data)
	defer func() { done() }()
	if err != nil {
		return nil, err
	}
	return viewsOf(img, orientation, sizes)
}

func viewsOf(img image.Image, orientation int, sizes []int) (map[int][]byte, error) {
	views := map[int][]byte{}
	for _, most := range sizes {
		one, err := view(img, orientation, most)
		if err != nil {
			return nil, err
		}
		views[most] = one
	}
	return views, nil
}

func view(img image.Image, orientation, most int) ([]byte, error) {
	var out bytes.Buffer
	err := jpeg.Encode(&out, Upright(smaller(img, most), orientation), &jpeg.Options{Quality: 86})
	return out.Bytes(), err
}

// plainReason says what is wrong with a file without speaking of the program that reads it.
func plainReason(err error) string {
	switch {
	case errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF):
		return "it breaks off"
	case errors.Is(err, image.ErrFormat):
		return "unknown format"
	}
	return "its data make no picture"
}

// readEXIF fills in orientation and date where the file has them; a damaged block is as good as none.
func (p *Picture) readEXIF(data []byte, format string, zone *time.Location) {
	kind := imagemeta.JPEG
	switch format {
	case "png":
		kind = imagemeta.PNG
	case formatHEIC:
		kind = imagemeta.HEIF
	}
	const focal = "FocalLengthIn35mmFormat"
	dates := []string{"DateTimeOriginal", "CreateDate", "DateTimeDigitized", "ModifyDate", "DateTime"}
	var tags imagemeta.Tags
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(data), ImageFormat: kind, Sources: imagemeta.EXIF, Timeout: 2 * time.Second,
		HandleTag: func(t imagemeta.TagInfo) error { tags.Add(t); return nil },
		ShouldHandleTag: func(t imagemeta.TagInfo) bool {
			for _, name := range append(dates, "Orientation", focal) {
				if t.Tag == name {
					return true
				}
			}
			return false
		},
	})
	if err != nil {
		return
	}
	exif := tags.EXIF()
	// Which way is up a HEIC says otherwise, and its decoder heeds it.
	if t, ok := exif["Orientation"]; ok && format != formatHEIC {
		if n := toInt(t.Value); n >= 1 && n <= 8 {
			p.Orientation = n
		}
	}
	if t, ok := exif[focal]; ok {
		p.Focal35 = float64(toInt(t.Value))
	}
	for _, name := range dates {
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
