// Package tag reads the tags in a photo: whose they are, and where each of their corners stands to a fraction of a pixel.
//
// In: a grey picture. Out: the payload of every tag found, its four corners in pixels of that picture, and how well they
// fit. Method: the square codes are found and read by a general library at several reductions of the picture; its three
// finder marks give an affine guess, which is fitted to the pattern of the code in the picture itself by Gauss-Newton over
// the four corners, gain and offset solved along. Symbols are square; a tag is a rigid plane.
package tag

import (
	"image"
	"math"
	"strings"
	"sync"

	"github.com/makiuchi-d/gozxing"
	multi "github.com/makiuchi-d/gozxing/multi/qrcode/detector"
	"github.com/makiuchi-d/gozxing/qrcode/decoder"

	"clearjar/core/plant"
)

// Prefix is what the payload of a tag begins with; the rest is the short tag of a cutting or a vessel.
const Prefix = "CJ1:"

// Found is one tag in a picture.
type Found struct {
	Payload string `json:"payload"`
	// Corners of the symbol without its quiet zone, in pixels: top left, top right, bottom right, bottom left as it is read.
	Corners [4]plant.Point `json:"corners_px"`
	// Modules is how many squares it is wide.
	Modules int `json:"modules"`
	// Residual is what the fitted pattern leaves of the contrast, 0 to 1.
	Residual float64 `json:"residual"`
}

// MMPerPixel is the scale in the middle of the tag, on its plane, for a symbol of a width in mm: its width over the mean
// of its middle lines, which perspective leaves nearly alone.
func (f Found) MMPerPixel(symbolMM float64) float64 {
	h := squareTo(f.Corners)
	across := distance(h.at(0, 0.5), h.at(1, 0.5))
	down := distance(h.at(0.5, 0), h.at(0.5, 1))
	return 2 * symbolMM / (across + down)
}

func distance(a, b plant.Point) float64 { return math.Hypot(a.X-b.X, a.Y-b.Y) }

// reductions are how many pixels of the picture go into one, in the order they are tried: an unsharp photo is read better small.
var reductions = []int{2, 1, 3, 4}

// Read finds the tags in a picture, each payload once: where the same payload is read twice at one place it is one tag,
// at two places it is two.
func Read(g *image.Gray) []Found {
	out := []Found{}
	all := make([][]symbol, len(reductions))
	var done sync.WaitGroup
	for i, by := range reductions {
		done.Go(func() { all[i] = symbols(shrink(g, by)) })
	}
	done.Wait()
	for i, by := range reductions {
		for _, s := range all[i] {
			guess := s.guess(float64(by))
			if known(out, s.payload, guess) {
				continue
			}
			found := fit(g, s, guess)
			if !known(out, found.Payload, found.Corners) {
				out = append(out, found)
			}
		}
	}
	return out
}

// known tells whether a tag of that payload stands there already.
func known(all []Found, payload string, at [4]plant.Point) bool {
	for _, f := range all {
		if f.Payload == payload && distance(middle(f.Corners), middle(at)) < distance(f.Corners[0], f.Corners[2])/2 {
			return true
		}
	}
	return false
}

func middle(c [4]plant.Point) plant.Point {
	return plant.Point{X: (c[0].X + c[1].X + c[2].X + c[3].X) / 4, Y: (c[0].Y + c[1].Y + c[2].Y + c[3].Y) / 4}
}

// symbol is a code as the library gives it: its squares, and the middles of its three finder marks.
type symbol struct {
	payload                       string
	bits                          *gozxing.BitMatrix
	topLeft, topRight, bottomLeft plant.Point
}

// symbols are the tags the library finds in a picture.
func symbols(g *image.Gray) []symbol {
	w, h := g.Rect.Dx(), g.Rect.Dy()
	// The library reads brightness as it is kept: by way of its picture it would ask for each pixel one at a time.
	light, err := gozxing.NewPlanarYUVLuminanceSource(g.Pix, g.Stride, h, 0, 0, w, h, false)
	if err != nil {
		return nil
	}
	bitmap, err := gozxing.NewBinaryBitmap(gozxing.NewHybridBinarizer(light))
	if err != nil {
		return nil
	}
	black, err := bitmap.GetBlackMatrix()
	if err != nil {
		return nil
	}
	hints := map[gozxing.DecodeHintType]interface{}{gozxing.DecodeHintType_TRY_HARDER: true}
	found, err := multi.NewMultiDetector(black).DetectMulti(hints)
	if err != nil {
		return nil
	}
	out := []symbol{}
	for _, f := range found {
		// Decoding may turn a mirrored code about: the squares as they are seen are kept before.
		seen := copyOf(f.GetBits())
		text, err := decoder.NewDecoder().Decode(f.GetBits(), hints)
		if err != nil || !strings.HasPrefix(text.GetText(), Prefix) || mirrored(text.GetOther()) {
			continue
		}
		p := f.GetPoints()
		out = append(out, symbol{text.GetText(), seen, point(p[1]), point(p[2]), point(p[0])})
	}
	return out
}

// mirrored tells whether a code was read from behind: a mirrored photo, whose sides cannot be trusted.
func mirrored(other interface{}) bool {
	meta, ok := other.(*decoder.QRCodeDecoderMetaData)
	return ok && meta.IsMirrored()
}

func point(p gozxing.ResultPoint) plant.Point { return plant.Point{X: p.GetX(), Y: p.GetY()} }

func copyOf(b *gozxing.BitMatrix) *gozxing.BitMatrix {
	out, err := gozxing.NewBitMatrix(b.GetWidth(), b.GetHeight())
	if err != nil {
		return b
	}
	for y := range b.GetHeight() {
		for x := range b.GetWidth() {
			if b.Get(x, y) {
				out.Set(x, y)
			}
		}
	}
	return out
}

// markMiddle is how many squares the middle of a finder mark lies from the edges of the symbol.
const markMiddle = 3.5

// guess is where the corners are if the tag were seen straight on: the finder marks give three of the four. by is how
// many pixels of the picture went into one of those the marks are given in.
func (s symbol) guess(by float64) [4]plant.Point {
	n := float64(s.bits.GetWidth())
	span := n - 2*markMiddle
	right := plant.Point{X: (s.topRight.X - s.topLeft.X) / span, Y: (s.topRight.Y - s.topLeft.Y) / span}
	down := plant.Point{X: (s.bottomLeft.X - s.topLeft.X) / span, Y: (s.bottomLeft.Y - s.topLeft.Y) / span}
	at := func(u, v float64) plant.Point {
		return plant.Point{X: (s.topLeft.X + (u-markMiddle)*right.X + (v-markMiddle)*down.X) * by, Y: (s.topLeft.Y + (u-markMiddle)*right.Y + (v-markMiddle)*down.Y) * by}
	}
	return [4]plant.Point{at(0, 0), at(n, 0), at(n, n), at(0, n)}
}

// shrink is a picture with so many by so many pixels gone into one, by their mean.
func shrink(g *image.Gray, by int) *image.Gray {
	if by == 1 {
		return g
	}
	b := g.Bounds()
	out := image.NewGray(image.Rect(0, 0, b.Dx()/by, b.Dy()/by))
	w := out.Rect.Dx()
	sums := make([]uint32, w*by)
	for y := range out.Rect.Dy() {
		clear(sums)
		for dy := range by {
			row := g.PixOffset(b.Min.X, b.Min.Y+y*by+dy)
			for x, v := range g.Pix[row : row+w*by] {
				sums[x] += uint32(v)
			}
		}
		into := out.Pix[y*out.Stride : y*out.Stride+w]
		for x := range into {
			sum := uint32(0)
			for _, v := range sums[x*by : x*by+by] {
				sum += v
			}
			into[x] = uint8(sum / uint32(by*by)) //nolint:gosec // the mean of bytes is one
		}
	}
	return out
}
