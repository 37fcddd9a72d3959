package server_test

import (
	"bytes"
	"crypto/sha256"
	"encoding/binary"
	"encoding/hex"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"io"
	"net/http"
	"os"
	"testing"

	"clearjar/propagation/photo"

	"github.com/stretchr/testify/require"
)

func picture(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			img.Set(x, y, color.RGBA{uint8(x), uint8(y), 90, 255})
		}
	}
	// A red corner at the top left tells which way is up.
	for y := range h / 4 {
		for x := range w / 4 {
			img.Set(x, y, color.RGBA{230, 20, 20, 255})
		}
	}
	return img
}

func asJPEG(t *testing.T, img image.Image) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, &jpeg.Options{Quality: 95}))
	return b.Bytes()
}

// withEXIF puts an EXIF block with an orientation behind the JPEG's start marker.
// published: CIPA DC-008 (Exif 2.3): APP1 "Exif", a TIFF header, IFD0 with tag 274 (from memory).
func withEXIF(plain []byte, orientation uint16) []byte {
	tiff := []byte{'I', 'I', 42, 0, 8, 0, 0, 0, 1, 0, 0x12, 0x01, 3, 0, 1, 0, 0, 0, byte(orientation), 0, 0, 0, 0, 0, 0, 0}
	app := append([]byte("Exif\x00\x00"), tiff...)
	out := append([]byte{}, plain[:2]...)
	out = append(out, 0xff, 0xe1, byte((len(app)+2)>>8), byte(len(app)+2))
	out = append(out, app...)
	return append(out, plain[2:]...)
}

// bomb is a tiny PNG that says it is huge.
// published: PNG specification (W3C 2003): signature, IHDR chunk, CRC-32.
func bomb() []byte {
	ihdr := append([]byte("IHDR"), 0, 0, 0xff, 0xff, 0, 0, 0xff, 0xff, 8, 6, 0, 0, 0)
	b := append([]byte("\x89PNG\r\n\x1a\n\x00\x00\x00\x0d"), ihdr...)
	return binary.BigEndian.AppendUint32(b, crc32.ChecksumIEEE(ihdr))
}

func (g grower) keep(data []byte) (p photo.Photo) {
	g.t.Helper()
	g.ok("POST", "/api/photos?id="+id().String(), data, &p)
	return p
}

func TestOriginalBytesAreKeptUnchangedAndOnce(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	raw, err := os.ReadFile("../demo/photos/demo_aroid_day08.jpg")
	require.NoError(t, err)
	p := g.keep(raw)
	require.Equal(t, "exif", p.TakenFrom)
	require.Equal(t, "2026-03-09", p.TakenAt.Format("2006-01-02"))
	require.Equal(t, []int{1200, 1600}, []int{p.WidthPX, p.HeightPX})
	require.Equal(t, p, g.keep(raw), "the same photo twice is one")
	res, err := g.client.Get(g.base + "/api/photos/" + p.ID.String() + "?location=true")
	require.NoError(t, err)
	defer func() { _ = res.Body.Close() }()
	got, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	sum := sha256.Sum256(got)
	require.Equal(t, p.SHA256, hex.EncodeToString(sum[:]))
	require.Equal(t, raw, got)
}

// published: CIPA DC-008 (Exif 2.3), tag 274: 6 = row 0 is the right-hand side, 3 = turned by half, 8 = row 0 is the left-hand side.
func TestOrientationIsHonoured(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	for orientation, at := range map[uint16][2]int{1: {4, 4}, 2: {75, 4}, 3: {75, 35}, 4: {4, 35}, 5: {4, 4}, 6: {35, 4}, 7: {35, 75}, 8: {4, 75}} {
		p := g.keep(withEXIF(asJPEG(t, picture(80, 40)), orientation))
		require.Equal(t, orientation >= 5, p.HeightPX > p.WidthPX, "orientation %d", orientation)
		res, err := g.client.Get(g.base + "/api/photos/" + p.ID.String() + "?size=320")
		require.NoError(t, err)
		view, err := jpeg.Decode(res.Body)
		require.NoError(t, err)
		_ = res.Body.Close()
		r, green, _, _ := view.At(at[0], at[1]).RGBA()
		require.True(t, r>>8 > 170 && green>>8 < 90, "orientation %d: the red corner is not at %v", orientation, at)
	}
}

func TestPhotosWithoutAUsableDate(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	p := g.keep(asJPEG(t, picture(64, 64)))
	require.Equal(t, "upload", p.TakenFrom)
	require.Equal(t, now, p.TakenAt.UTC())
	require.Contains(t, p.Remark, "does not say")
	raw, err := os.ReadFile("../demo/photos/demo_aroid_day08.jpg")
	require.NoError(t, err)
	p = g.keep(bytes.ReplaceAll(raw, []byte("2026:03:09"), []byte("2091:03:09")))
	require.Equal(t, "upload", p.TakenFrom)
	require.Contains(t, p.Remark, "in the future")
	var flat bytes.Buffer
	require.NoError(t, png.Encode(&flat, picture(50, 50)))
	require.Equal(t, "upload", g.keep(flat.Bytes()).TakenFrom)
}

func TestFilesThatAreNoPhoto(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	whole := asJPEG(t, picture(600, 400))
	for name, c := range map[string]struct {
		data []byte
		says string
	}{
		"text":            {[]byte("this is no picture"), "not a JPEG, PNG or HEIC"},
		"nothing":         {[]byte{}, ""},
		"truncated JPEG":  {whole[:len(whole)/2], "cut short"},
		"PNG bomb":        {bomb(), "60 megapixels"},
		"GIF":             {[]byte("GIF89a\x01\x00\x01\x00\x00\x00\x00;"), "not a JPEG, PNG or HEIC"},
		"26 MB of JPEG":   {append(append([]byte{}, whole...), make([]byte, 26<<20-len(whole))...), "25 MB"},
		"script as image": {[]byte("<svg onload=alert(1)>"), "not a JPEG, PNG or HEIC"},
	} {
		var p problem
		status := g.send("POST", "/api/photos?id="+id().String(), c.data, &p)
		require.True(t, status >= 400 && status < 500, "%s: %d", name, status)
		require.Contains(t, p.Detail, c.says, name)
	}
}

// endless is a body of any length that costs no memory.
type endless struct{ left int64 }

func (e *endless) Read(p []byte) (int, error) {
	if e.left <= 0 {
		return 0, io.EOF
	}
	n := min(int64(len(p)), e.left)
	e.left -= n
	return int(n), nil
}

func TestHundredMegabytesAreTurnedAwayUnread(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, g.base+"/api/photos?id="+id().String(), &endless{100 << 20})
	require.NoError(t, err)
	req.ContentLength = 100 << 20
	req.Header.Set("Content-Type", "application/octet-stream")
	req.Header.Set("Expect", "100-continue")
	res, err := g.client.Do(req)
	require.NoError(t, err)
	defer func() { _ = res.Body.Close() }()
	require.Equal(t, http.StatusRequestEntityTooLarge, res.StatusCode)
}
