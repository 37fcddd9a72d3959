package tag

import (
	"image"
	"testing"
)

// Whatever the picture: no crash, and every tag that is read lies about where the picture is.
func FuzzReadPicture(f *testing.F) {
	f.Add([]byte{0, 255, 3, 200, 9}, uint8(7), uint8(9))
	f.Add(make([]byte, 900), uint8(30), uint8(30))
	f.Fuzz(func(t *testing.T, pix []byte, w, h uint8) {
		g := image.NewGray(image.Rect(0, 0, int(w), int(h)))
		copy(g.Pix, pix)
		for _, found := range Read(g) {
			if len(found.Payload) <= len(Prefix) {
				t.Fatalf("an empty tag: %q", found.Payload)
			}
		}
	})
}
