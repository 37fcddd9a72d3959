package intake

import (
	"image"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// Plane by plane a picture is turned to where the way over single pixels turns it, for all eight orientations, every kind of
// subsampling, and odd sizes.
// published: TIFF 6.0 / EXIF 2.3, tag 274, where the first row and column are seen (from memory).
func TestAPictureIsTurnedPlaneByPlane(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 1))
	for _, ratio := range []image.YCbCrSubsampleRatio{image.YCbCrSubsampleRatio444, image.YCbCrSubsampleRatio420, image.YCbCrSubsampleRatio422, image.YCbCrSubsampleRatio440, image.YCbCrSubsampleRatio411} {
		for _, size := range []image.Point{{8, 6}, {9, 7}, {1, 5}} {
			p := image.NewYCbCr(image.Rectangle{Max: size}, ratio)
			for _, plane := range [][]uint8{p.Y, p.Cb, p.Cr} {
				for i := range plane {
					plane[i] = uint8(r.UintN(256))
				}
			}
			// Where each pixel of the file is seen.
			w, h := size.X, size.Y
			seen := map[int]func(x, y int) (int, int){
				1: func(x, y int) (int, int) { return x, y },
				2: func(x, y int) (int, int) { return w - 1 - x, y },
				3: func(x, y int) (int, int) { return w - 1 - x, h - 1 - y },
				4: func(x, y int) (int, int) { return x, h - 1 - y },
				5: func(x, y int) (int, int) { return y, x },
				6: func(x, y int) (int, int) { return h - 1 - y, x },
				7: func(x, y int) (int, int) { return h - 1 - y, w - 1 - x },
				8: func(x, y int) (int, int) { return y, w - 1 - x },
			}
			for orientation, at := range seen {
				got := turned(p, orientation)
				want := size
				if orientation >= 5 {
					want = image.Point{size.Y, size.X}
				}
				require.Equal(t, want, got.Bounds().Size(), "%v %d", ratio, orientation)
				ycc, ok := got.(*image.YCbCr)
				if !ok {
					require.Equal(t, image.YCbCrSubsampleRatio411, ratio, "only this one is turned as single pixels")
					continue
				}
				for y := range h {
					for x := range w {
						tx, ty := at(x, y)
						require.Equal(t, p.YCbCrAt(x, y).Y, ycc.YCbCrAt(tx, ty).Y, "%v %d", ratio, orientation)
						if size.X%2 == 0 && size.Y%2 == 0 {
							require.Equal(t, p.YCbCrAt(x, y), ycc.YCbCrAt(tx, ty), "%v %d", ratio, orientation)
						}
					}
				}
			}
		}
	}
}

// Turned a quarter to the right, what was on top is on the right; four quarters are none.
func TestAQuarterTurn(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 2))
	p := image.NewYCbCr(image.Rect(0, 0, 6, 4), image.YCbCrSubsampleRatio444)
	for _, plane := range [][]uint8{p.Y, p.Cb, p.Cr} {
		for i := range plane {
			plane[i] = uint8(r.UintN(256))
		}
	}
	for orientation := 1; orientation <= 8; orientation++ {
		was, now := turned(p, orientation), turned(p, TurnedRight(orientation, 1))
		b := was.Bounds()
		require.Equal(t, image.Pt(b.Dy(), b.Dx()), now.Bounds().Size())
		for y := range b.Dy() {
			for x := range b.Dx() {
				require.Equal(t, was.At(x, y), now.At(b.Dy()-1-y, x), "orientation %d", orientation)
			}
		}
		require.Equal(t, orientation, TurnedRight(orientation, 4))
		require.Equal(t, TurnedRight(orientation, 3), TurnedRight(orientation, -1))
	}
}
