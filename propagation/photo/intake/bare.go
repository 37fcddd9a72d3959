package intake

import (
	"bytes"
	"encoding/binary"
)

// Bare gives a photo without what it tells of the place and the person: every block of metadata is
// left out but the one that says which way is up. The picture itself is untouched, byte for byte.
//
// Source: JPEG (ITU-T T.81, markers and segments), PNG (W3C 2003, chunks), Exif 2.3 (CIPA DC-008), from memory.
func Bare(data []byte, mediaType string, orientation int) []byte {
	if mediaType == "image/png" {
		return barePNG(data)
	}
	return bareJPEG(data, orientation)
}

// bareJPEG drops the application segments but the first (JFIF) and the colour ones, and comments.
func bareJPEG(data []byte, orientation int) []byte {
	if len(data) < 4 || data[0] != 0xff || data[1] != 0xd8 {
		return nil
	}
	out := bytes.NewBuffer(make([]byte, 0, len(data)))
	out.Write(data[:2])
	out.Write(upright(orientation))
	for at := 2; at+4 <= len(data); {
		if data[at] != 0xff {
			return nil
		}
		marker := data[at+1]
		if marker == 0xda { // the picture begins; it has no metadata
			out.Write(data[at:])
			return out.Bytes()
		}
		length := int(binary.BigEndian.Uint16(data[at+2:])) + 2
		if length < 4 || at+length > len(data) {
			return nil
		}
		// APP0 is JFIF, APP2 may be a colour profile, APP14 says how colours are stored; the rest talks.
		talks := marker == 0xfe || (marker >= 0xe1 && marker <= 0xef && marker != 0xe2 && marker != 0xee)
		if marker == 0xe2 && !bytes.HasPrefix(data[at+4:at+length], []byte("ICC_PROFILE")) {
			talks = true
		}
		if !talks {
			out.Write(data[at : at+length])
		}
		at += length
	}
	return nil
}

// upright is a block of metadata that says nothing but which way is up.
func upright(orientation int) []byte {
	tiff := []byte{'I', 'I', 42, 0, 8, 0, 0, 0, 1, 0, 0x12, 0x01, 3, 0, 1, 0, 0, 0, byte(orientation), 0, 0, 0, 0, 0, 0, 0}
	app := append([]byte("Exif\x00\x00"), tiff...)
	return append([]byte{0xff, 0xe1, byte((len(app) + 2) >> 8), byte(len(app) + 2)}, app...)
}

var pngTalks = map[string]bool{"eXIf": true, "tEXt": true, "iTXt": true, "zTXt": true, "tIME": true}

func barePNG(data []byte) []byte {
	const signature = 8
	if len(data) < signature {
		return nil
	}
	out := bytes.NewBuffer(make([]byte, 0, len(data)))
	out.Write(data[:signature])
	for at := signature; at+12 <= len(data); {
		length := int(binary.BigEndian.Uint32(data[at:])) + 12
		if length < 12 || at+length > len(data) {
			return nil
		}
		if !pngTalks[string(data[at+4:at+8])] {
			out.Write(data[at : at+length])
		}
		at += length
	}
	return out.Bytes()
}
