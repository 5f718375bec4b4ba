package picture

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"io"

	"golang.org/x/image/webp"

	"ulpa/core/field"
)

// What a file may be, before anything of it is unfolded.
const (
	MostBytes  = 16 << 20
	MostPixels = 40_000_000
	MostSide   = 16_384
	mostRatio  = 30        // of the longer side to the shorter one
	mostScans  = 40        // of a JPEG: cameras write up to a dozen
	mostChunks = 20_000    // of a PNG, each of which may be eight thousand bytes
	MostMemory = 400 << 20 // bytes that it takes at most while it is unfolded
)

// format is a kind of file that is taken.
type format struct {
	head   func(io.Reader) (image.Config, error)
	decode func(io.Reader) (image.Image, error)
	parts  func([]byte) (scans, most int, progressive bool)
}

// formatOf tells a file by how it begins: whatever else the program can read is not taken.
func formatOf(file []byte) (format, bool) {
	switch {
	case bytes.HasPrefix(file, []byte{0xFF, 0xD8, 0xFF}):
		return format{jpeg.DecodeConfig, jpeg.Decode, scansOf}, true
	case bytes.HasPrefix(file, []byte("\x89PNG\r\n\x1a\n")):
		return format{png.DecodeConfig, png.Decode, chunksOf}, true
	case len(file) > 12 && string(file[:4]) == "RIFF" && string(file[8:12]) == "WEBP":
		return format{webp.DecodeConfig, webp.Decode, func([]byte) (int, int, bool) { return 0, 0, false }}, true
	}
	return format{}, false
}

// Check looks at a file as far as it says what it is, and refuses, by field file, what is no
// picture or would take more time or memory than one is worth.
func Check(file []byte) error {
	f, ok := formatOf(file)
	if len(file) > MostBytes {
		return field.Refuse("file", "must be a picture of up to %d MB", MostBytes>>20)
	}
	if !ok {
		return field.Refuse("file", "must be a picture: JPEG, PNG or WebP")
	}
	head, err := f.head(bytes.NewReader(file))
	if err != nil || head.Width < 1 || head.Height < 1 {
		return field.Refuse("file", "must be a picture: JPEG, PNG or WebP")
	}
	long, short := max(head.Width, head.Height), min(head.Width, head.Height)
	if long > MostSide || long > mostRatio*short {
		return field.Refuse("file", "must be a picture of up to %d pixels on each side, no more than %d times as long as wide", MostSide, mostRatio)
	}
	if head.Width > MostPixels/head.Height {
		return field.Refuse("file", "must be a picture of up to %d million pixels", MostPixels/1_000_000)
	}
	n, most, progressive := f.parts(file)
	if n > most || memory(head, progressive) > MostMemory {
		return ErrTooMuch
	}
	return nil
}

// memory is what unfolding takes at most, in bytes: the points, a progressive JPEG's coefficients
// (four bytes for each of three colours), and what scaling keeps beside.
func memory(head image.Config, progressive bool) int64 {
	each := int64(4)
	switch head.ColorModel {
	case color.GrayModel:
		each = 1
	case color.Gray16Model:
		each = 2
	case color.YCbCrModel:
		each = 3
	case color.RGBA64Model, color.NRGBA64Model:
		each = 8
	}
	if progressive {
		each += 12
	}
	return each*int64(head.Width)*int64(head.Height) + 120<<20
}

// scansOf counts the passes in which a JPEG (ITU-T T.81) tells its points, and whether they refine
// one another.
func scansOf(file []byte) (n, most int, progressive bool) {
	for at := 2; at+4 <= len(file); {
		if file[at] != 0xFF {
			at++
			continue
		}
		marker := file[at+1]
		switch {
		case marker == 0xDA:
			n++
		case marker == 0xC2:
			progressive = true
		case marker == 0xFF: // filling
			at++
			continue
		}
		if marker == 0 || marker == 1 || marker >= 0xD0 && marker <= 0xD9 { // these stand alone
			at += 2
			continue
		}
		at += 2 + int(binary.BigEndian.Uint16(file[at+2:]))
	}
	return n, mostScans, progressive
}

// chunksOf counts the parts of a PNG.
func chunksOf(file []byte) (n, most int, progressive bool) {
	for at := 8; at+12 <= len(file); n++ {
		at += 12 + int(binary.BigEndian.Uint32(file[at:]))
	}
	return n, mostChunks, false
}
