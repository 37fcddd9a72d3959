package intake

import (
	"bytes"
	"context"
	"encoding/binary"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"image/png"
	"math"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// FuzzTake: whatever is uploaded, the answer is a picture within the limits or a refusal, never a panic.
func FuzzTake(f *testing.F) {
	whole, err := os.ReadFile("../../../demo/photos/demo_aroid_day08.jpg")
	require.NoError(f, err)
	f.Add(whole[:2000])
	var small bytes.Buffer
	require.NoError(f, jpeg.Encode(&small, image.NewGray(image.Rect(0, 0, 16, 16)), nil))
	f.Add(small.Bytes())
	f.Add([]byte("\x89PNG\r\n\x1a\n"))
	f.Fuzz(taken)
}

// taken holds of whatever is uploaded.
func taken(t *testing.T, data []byte) {
	p, _, err := Take(t.Context(), data, time.UTC, []int{320})
	if err != nil {
		require.Len(t, plant.Refusals(err), 1)
		return
	}
	require.True(t, p.Width > 0 && p.Height > 0 && p.Width*p.Height <= MostPixels)
	require.True(t, p.Orientation >= 1 && p.Orientation <= 8)
}

// FuzzHEIC: the same for the format of some phones, whose decoder is a world of its own.
func FuzzHEIC(f *testing.F) {
	phone, err := os.ReadFile("testdata/jar.heic")
	require.NoError(f, err)
	f.Add(phone)
	f.Add(phone[:600])
	f.Fuzz(taken)
}

func BenchmarkTake(b *testing.B) {
	data, err := os.ReadFile("../../../demo/photos/demo_aroid_day08.jpg")
	require.NoError(b, err)
	for b.Loop() {
		_, _, err := Take(b.Context(), data, time.UTC, []int{320, 1600})
		require.NoError(b, err)
	}
}

// exif is a JPEG segment with one date and a place, as a phone writes them.
// published: CIPA DC-008 (Exif 2.3): APP1, TIFF header, IFD0 with tag 306 (DateTime) and 34853 (GPS IFD), from memory.
func exif(date string) []byte {
	le := binary.LittleEndian
	tiff := []byte{'I', 'I', 42, 0, 8, 0, 0, 0}
	tiff = le.AppendUint16(tiff, 2)
	entry := func(tag, kind uint16, count, value uint32) {
		tiff = le.AppendUint16(le.AppendUint16(tiff, tag), kind)
		tiff = le.AppendUint32(le.AppendUint32(tiff, count), value)
	}
	entry(306, 2, 20, 38)
	entry(34853, 4, 1, 58)
	tiff = le.AppendUint32(tiff, 0)
	tiff = append(append(tiff, date...), 0)
	tiff = le.AppendUint16(tiff, 1)
	entry(1, 2, 2, 'N') // north of the equator
	tiff = le.AppendUint32(tiff, 0)
	app := append([]byte("Exif\x00\x00"), tiff...)
	return append([]byte{0xff, 0xe1, 0, byte(len(app) + 2)}, app...)
}

func photo(t testing.TB, w, h int, segment []byte) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, w, h)), nil))
	return append(append(append([]byte{}, b.Bytes()[:2]...), segment...), b.Bytes()[2:]...)
}

// A camera that writes only when the file was changed still says when the photo was taken.
func TestDateFallsBackToWhenTheFileWasWritten(t *testing.T) {
	p, _, err := Take(t.Context(), photo(t, 16, 16, exif("2026:05:03 10:20:30")), time.UTC, nil)
	require.NoError(t, err)
	require.Equal(t, time.Date(2026, 5, 3, 10, 20, 30, 0, time.UTC), p.Taken)
}

func TestBarePhotoTellsNoPlaceAndKeepsThePicture(t *testing.T) {
	whole := photo(t, 16, 16, exif("2026:05:03 10:20:30"))
	bare := Bare(whole, "image/jpeg", 6)
	require.NotContains(t, string(bare), "2026:05:03")
	require.Less(t, len(bare), len(whole))
	p, _, err := Take(t.Context(), bare, time.UTC, nil)
	require.NoError(t, err)
	require.Equal(t, 6, p.Orientation, "which way is up stays")
	require.True(t, p.Taken.IsZero())
	begins := bytes.Index(whole, []byte{0xff, 0xda})
	require.True(t, bytes.HasSuffix(bare, whole[begins:]), "the picture is the same, byte for byte")

	var flat bytes.Buffer
	require.NoError(t, png.Encode(&flat, image.NewGray(image.Rect(0, 0, 4, 4))))
	require.Equal(t, flat.Bytes(), Bare(flat.Bytes(), "image/png", 1))
	require.Nil(t, Bare([]byte("no picture"), "image/jpeg", 1))
}

// Whole blocks averaged, then scaled: a plain colour stays what it is, in every kind of picture.
func TestSmallerPicturesKeepTheirColour(t *testing.T) {
	for name, img := range map[string]draw.Image{
		"RGBA": image.NewRGBA(image.Rect(0, 0, 997, 601)), "NRGBA": image.NewNRGBA(image.Rect(3, 5, 1000, 606)), "Gray": image.NewGray(image.Rect(0, 0, 997, 601)),
	} {
		draw.Draw(img, img.Bounds(), image.NewUniform(color.Gray{120}), image.Point{}, draw.Src)
		small := smaller(img, 100)
		require.Equal(t, image.Rect(0, 0, 100, 60), small.Bounds(), name)
		require.Equal(t, color.RGBA{120, 120, 120, 255}, small.RGBAAt(50, 30), name)
		require.Equal(t, color.RGBA{120, 120, 120, 255}, small.RGBAAt(0, 0), name)
	}
}

// What does not fit into the memory that decoding shares waits; it is refused only when it can never fit.
func TestDecodingWaitsForRoom(t *testing.T) {
	require.NoError(t, room.Acquire(t.Context(), mostDecoded))
	ctx, cancel := context.WithTimeout(t.Context(), 50*time.Millisecond)
	defer cancel()
	_, _, err := Take(ctx, photo(t, 16, 16, nil), time.UTC, nil)
	require.ErrorIs(t, err, context.DeadlineExceeded)
	room.Release(mostDecoded)
	_, _, err = Take(t.Context(), photo(t, 16, 16, nil), time.UTC, nil)
	require.NoError(t, err)
	require.True(t, room.TryAcquire(mostDecoded), "all room was given back")
	room.Release(mostDecoded)
}

// A photo as some phones keep it, written by another program from a photo of the demo, made smaller: it is taken in like
// any other, with its date and its focal length, and shown as JPEG.
func TestAPhotoOfAPhoneThatKeepsHEIC(t *testing.T) {
	data, err := os.ReadFile("testdata/jar.heic")
	require.NoError(t, err)
	p, views, err := Take(t.Context(), data, time.UTC, []int{320})
	require.NoError(t, err)
	require.Equal(t, "image/heic", p.MediaType)
	require.Equal(t, [3]int{600, 800, 1}, [3]int{p.Width, p.Height, p.Orientation})
	whole, err := os.ReadFile("../../../demo/photos/demo_aroid_day24.jpg")
	require.NoError(t, err)
	same, _, err := Take(t.Context(), whole, time.UTC, []int{320})
	require.NoError(t, err)
	require.Equal(t, same.Taken, p.Taken)
	require.Equal(t, same.Focal35, p.Focal35)
	// What is shown is the same picture, but for what two formats lose.
	decoded := func(view []byte) image.Image {
		img, err := jpeg.Decode(bytes.NewReader(view))
		require.NoError(t, err)
		return img
	}
	_, views2, err := Take(t.Context(), whole, time.UTC, []int{320})
	require.NoError(t, err)
	a, b := decoded(views[320]), decoded(views2[320])
	require.Equal(t, a.Bounds(), b.Bounds())
	off := 0.0
	for y := range a.Bounds().Dy() {
		for x := range a.Bounds().Dx() {
			ga, gb := color.GrayModel.Convert(a.At(x, y)).(color.Gray), color.GrayModel.Convert(b.At(x, y)).(color.Gray)
			off += math.Abs(float64(ga.Y) - float64(gb.Y))
		}
	}
	require.Less(t, off/float64(a.Bounds().Dx()*a.Bounds().Dy()), 4.0, "mean difference in grey, of 255")
	require.Nil(t, Bare(data, p.MediaType, 1), "its place cannot be taken out: it is not given away without a word")

	_, _, err = Take(t.Context(), data[:len(data)/2], time.UTC, []int{320})
	require.Len(t, plant.Refusals(err), 1, "cut short")
	_, _, err = Take(t.Context(), append([]byte("\x00\x00\x00\x18ftypheic"), make([]byte, 400)...), time.UTC, nil)
	require.Len(t, plant.Refusals(err), 1, "a head and nothing more")
}
