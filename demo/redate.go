package demo

import (
	"bytes"
	"time"
)

// redate writes another date over the EXIF date of a rendered photo; EXIF dates all have one length.
func redate(picture []byte, was string, on time.Time) []byte {
	return bytes.ReplaceAll(picture, []byte(was), []byte(on.Format("2006:01:02 15:04:05")))
}
