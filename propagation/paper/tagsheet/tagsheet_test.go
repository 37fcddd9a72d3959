package tagsheet

import (
	"bytes"
	"fmt"
	"image"
	"image/draw"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/qrcode"
	"github.com/stretchr/testify/require"
)

var made = time.Date(2026, 5, 20, 12, 0, 0, 0, time.UTC)

func tag(i int) Tag {
	return Tag{
		Short: fmt.Sprintf("A%02dKX", i), Code: fmt.Sprintf("MEL-B%d-%d", i, i+1), Name: "Philodendron melanochrysum (Ŝpražené žluťoučké)",
		Nodes: fmt.Sprintf("nodes %d-%d", i, i+1), Medium: "moss", Up: "tip end up", CutOn: made,
	}
}

const dpi = 300

// pictures renders a PDF with poppler, a program that is not ours.
func pictures(t *testing.T, pdf []byte) []image.Image {
	t.Helper()
	dir := t.TempDir()
	path := filepath.Join(dir, "tags.pdf")
	require.NoError(t, os.WriteFile(path, pdf, 0o600))
	out, err := exec.Command("pdftoppm", "-png", "-r", fmt.Sprint(dpi), path, filepath.Join(dir, "page")).CombinedOutput()
	require.NoError(t, err, "%s", out)
	files, err := filepath.Glob(filepath.Join(dir, "page*.png"))
	require.NoError(t, err)
	var all []image.Image
	for _, f := range files {
		raw, err := os.ReadFile(f)
		require.NoError(t, err)
		img, err := png.Decode(bytes.NewReader(raw))
		require.NoError(t, err)
		all = append(all, img)
	}
	return all
}

func px(mm float64) int { return int(mm / 25.4 * dpi) }

// read decodes the code of one spot, and measures it between the centres of its finder squares.
func read(t *testing.T, page image.Image, s Spot) (payload string, sideMM float64) {
	t.Helper()
	const quiet = 2.2
	area := image.Rect(px(s.QRX-quiet), px(s.QRY-quiet), px(s.QRX+s.QRSideMM+quiet), px(s.QRY+s.QRSideMM+quiet))
	crop := image.NewGray(image.Rect(0, 0, area.Dx(), area.Dy()))
	draw.Draw(crop, crop.Bounds(), page, area.Min, draw.Src)
	bitmap, err := gozxing.NewBinaryBitmapFromImage(crop)
	require.NoError(t, err)
	got, err := qrcode.NewQRCodeReader().Decode(bitmap, map[gozxing.DecodeHintType]interface{}{gozxing.DecodeHintType_TRY_HARDER: true})
	require.NoError(t, err)
	p := got.GetResultPoints()
	// published: ISO/IEC 18004, version 1 has 21 modules, finder centres are 14 apart (from memory).
	return got.GetText(), (p[2].GetX() - p[1].GetX()) / dpi * 25.4 / 14 * 21
}

func TestEveryTagReadsBackFromThePrintedSheet(t *testing.T) {
	for _, size := range Sizes() {
		for _, n := range []int{1, 24} {
			t.Run(fmt.Sprintf("%s/%d", size.Key, n), func(t *testing.T) {
				t.Parallel()
				tags := []Tag{}
				for i := range n {
					tags = append(tags, tag(i))
				}
				pdf, err := Print(tags, size, made)
				require.NoError(t, err)
				pages, spots := pictures(t, pdf), Layout(n, size)
				require.Len(t, pages, spots[n-1].Page+1)
				for i, s := range spots {
					payload, side := read(t, pages[s.Page], s)
					require.Equal(t, tags[i].Payload(), payload)
					require.InDelta(t, size.QR, side, 0.2, "the code is printed at the size it says")
				}
			})
		}
	}
}

func TestSameTagsGiveTheSameBytes(t *testing.T) {
	size, err := SizeNamed("stick")
	require.NoError(t, err)
	a, err := Print([]Tag{tag(1), tag(2)}, size, made)
	require.NoError(t, err)
	b, err := Print([]Tag{tag(1), tag(2)}, size, made)
	require.NoError(t, err)
	require.True(t, bytes.Equal(a, b))
}

func TestOrdersThatCannotBePrinted(t *testing.T) {
	_, err := SizeNamed("poster")
	require.ErrorContains(t, err, "tape, stick or hang")
	_, err = Print(nil, Sizes()[0], made)
	require.ErrorContains(t, err, "at least one")
	_, err = Print(make([]Tag, MostTags+1), Sizes()[0], made)
	require.ErrorContains(t, err, "at most 200")
}

// A name is never cut off while it can be read: it is wrapped or set smaller.
func TestFullNameIsPrinted(t *testing.T) {
	for _, size := range Sizes() {
		long := tag(1)
		long.Name = "Epipremnum pinnatum, cream-patterned"
		pdf, err := Print([]Tag{long}, size, made)
		require.NoError(t, err)
		path := filepath.Join(t.TempDir(), "tag.pdf")
		require.NoError(t, os.WriteFile(path, pdf, 0o600))
		text, err := exec.Command("pdftotext", path, "-").Output()
		require.NoError(t, err)
		said := strings.Join(strings.Fields(string(text)), " ")
		require.Contains(t, said, long.Name, size.Key)
		require.Contains(t, said, long.Code)
		require.Contains(t, said, "20 May 2026")
		require.Contains(t, said, "up")
	}
}
