package intake

import (
	"bytes"
	"image"
	"image/jpeg"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// FuzzInspect: whatever is uploaded, the answer is a picture within the limits or a refusal, never a panic.
func FuzzInspect(f *testing.F) {
	whole, err := os.ReadFile("../../demo/photos/demo_aroid_day08.jpg")
	require.NoError(f, err)
	f.Add(whole[:2000])
	var small bytes.Buffer
	require.NoError(f, jpeg.Encode(&small, image.NewGray(image.Rect(0, 0, 16, 16)), nil))
	f.Add(small.Bytes())
	f.Add([]byte("\x89PNG\r\n\x1a\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := Inspect(data, time.UTC)
		if err != nil {
			require.Len(t, plant.Refusals(err), 1)
			return
		}
		require.True(t, p.Width > 0 && p.Height > 0 && p.Width*p.Height <= MostPixels)
		require.True(t, p.Orientation >= 1 && p.Orientation <= 8)
	})
}

func BenchmarkInspectAndView(b *testing.B) {
	data, err := os.ReadFile("../../demo/photos/demo_aroid_day08.jpg")
	require.NoError(b, err)
	for b.Loop() {
		p, err := Inspect(data, time.UTC)
		require.NoError(b, err)
		_, err = View(data, p.Orientation, 1600)
		require.NoError(b, err)
	}
}
