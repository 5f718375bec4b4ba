package picture_test

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/picture"
)

// corners is a picture with a colour of its own in each quarter: red, green, blue, white, as
// one reads.
func corners(w, h int) *image.RGBA {
	m := image.NewRGBA(image.Rect(0, 0, w, h))
	quarter := [4]color.RGBA{{200, 0, 0, 255}, {0, 200, 0, 255}, {0, 0, 200, 255}, {250, 250, 250, 255}}
	for y := range h {
		for x := range w {
			m.SetRGBA(x, y, quarter[2*(2*y/h)+2*x/w])
		}
	}
	return m
}

// secret is what a camera writes beside a picture and nobody may keep.
const secret = "Serial 4711, 51.5074 N"

type byteOrder interface {
	binary.ByteOrder
	binary.AppendByteOrder
}

// withExif is a JPEG that says how it is turned, in either order of bytes, and where it was
// taken.
func withExif(t *testing.T, m image.Image, turned uint16, order byteOrder) []byte {
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, m, &jpeg.Options{Quality: 95}))
	tiff := []byte("II*\x00")
	if order == binary.BigEndian {
		tiff = []byte("MM\x00*")
	}
	u16 := func(v uint16) { tiff = order.AppendUint16(tiff, v) }
	u32 := func(v uint32) { tiff = order.AppendUint32(tiff, v) }
	u32(8)
	u16(2)
	for _, e := range [2][4]uint32{{0x010F, 2, uint32(len(secret)), 38}, {0x0112, 3, 1, uint32(turned)}} {
		u16(uint16(e[0]))
		u16(uint16(e[1]))
		u32(e[2])
		if e[0] == 0x0112 {
			u16(turned)
			u16(0)
		} else {
			u32(e[3])
		}
	}
	u32(0)
	tiff = append(tiff, secret...)
	segment := append([]byte("Exif\x00\x00"), tiff...)
	out := []byte{0xFF, 0xD8, 0xFF, 0xE1}
	out = binary.BigEndian.AppendUint16(out, uint16(len(segment)+2))
	return append(append(out, segment...), b.Bytes()[2:]...)
}

// turnings are where the quarters are seen that a camera stored as red, green, blue, white.
var turnings = map[uint16]string{1: "rgbw", 2: "grwb", 3: "wbgr", 4: "bwrg", 5: "rbgw", 6: "brwg", 7: "wgbr", 8: "gwrb"}

func seen(t *testing.T, file []byte) (string, image.Rectangle) {
	m, err := jpeg.Decode(bytes.NewReader(file))
	require.NoError(t, err)
	out, b := "", m.Bounds()
	for _, at := range [4][2]int{{1, 1}, {3, 1}, {1, 3}, {3, 3}} {
		r, g, bl, _ := m.At(b.Dx()*at[0]/4, b.Dy()*at[1]/4).RGBA()
		switch {
		case r > 0x8000 && g > 0x8000:
			out += "w"
		case r > g && r > bl:
			out += "r"
		case g > bl:
			out += "g"
		default:
			out += "b"
		}
	}
	return out, b
}

// However the camera was held, the picture stands upright and within bounds, and nothing of
// what was written beside it is in what is kept.
func TestAPictureIsUprightSmallAndAlone(t *testing.T) {
	for turned, want := range turnings {
		order := []byteOrder{binary.LittleEndian, binary.BigEndian}[turned/2%2]
		file := withExif(t, corners(1300, 975), turned, order)
		require.Contains(t, string(file), secret)
		k, err := picture.Shrink(file)
		require.NoError(t, err)
		for side, kept := range map[int][]byte{picture.LargeSide: k.Large, picture.SmallSide: k.Small} {
			got, b := seen(t, kept)
			require.Equal(t, want, got, "turned %d", turned)
			require.Equal(t, side, max(b.Dx(), b.Dy()))
			require.Equal(t, turned >= 5, b.Dy() > b.Dx())
			require.NotContains(t, string(kept), "Exif")
			require.NotContains(t, string(kept), secret[:6])
		}
	}
}

// A small one stays as large as it is, clear points turn white, and a file that is no picture,
// that breaks off or that would unfold to more than memory allows is refused beside its field.
func TestWhatIsNoPictureIsRefused(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewNRGBA(image.Rect(0, 0, 40, 30))))
	k, err := picture.Shrink(b.Bytes())
	require.NoError(t, err)
	require.Equal(t, []int{40, 30}, []int{k.Width, k.Height})
	look, _ := seen(t, k.Large)
	require.Equal(t, "wwww", look)

	var whole bytes.Buffer
	require.NoError(t, jpeg.Encode(&whole, corners(300, 300), nil))
	var animated bytes.Buffer
	require.NoError(t, gif.Encode(&animated, corners(40, 30), nil))
	for name, file := range map[string][]byte{
		"nothing": nil, "a text": []byte("BM, or so it says"), "breaks off": whole.Bytes()[:whole.Len()/2], "unfolds": pngOf(t, 100_000, 100_000, 8),
		"too large": make([]byte, picture.MostBytes+1), "a GIF": animated.Bytes(),
		"wide": pngOf(t, 40_000_000, 1, 8), "high": pngOf(t, 1, 40_000_000, 1), "a ribbon": pngOf(t, 16_000, 500, 8),
		"deep": pngOf(t, 8_000, 5_000, 16), "pieces": pieces(b.Bytes(), 50_000), "scans": scans(t, 900),
	} {
		_, err := picture.Shrink(file)
		require.ErrorContains(t, err, "file", name)
		if name != "breaks off" { // which is seen only by whoever unfolds it
			require.ErrorContains(t, picture.Check(file), "file", name)
		}
	}
	require.NoError(t, picture.Check(pngOf(t, 8_000, 5_000, 8)), "as large as a picture may be")
	require.NoError(t, picture.Check(scans(t, 12)))
}

// pngOf is the beginning of a PNG of coloured points, each of so many bits a colour: as much as
// says how large it is.
func pngOf(t *testing.T, w, h uint32, bits byte) []byte {
	head := []byte("IHDR")
	head = binary.BigEndian.AppendUint32(head, w)
	head = binary.BigEndian.AppendUint32(head, h)
	kind := byte(6)
	if bits == 1 {
		kind = 0
	}
	head = append(head, bits, kind, 0, 0, 0)
	out := append([]byte("\x89PNG\r\n\x1a\n"), 0, 0, 0, 13)
	out = append(out, head...)
	out = binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(head))
	_, err := png.DecodeConfig(bytes.NewReader(out))
	require.NoError(t, err)
	return out
}

// pieces is a PNG with so many empty parts in it.
func pieces(file []byte, n int) []byte {
	part := append([]byte{0, 0, 0, 0}, "IDAT"...)
	part = binary.BigEndian.AppendUint32(part, crc32.ChecksumIEEE(part[4:]))
	end := len(file) - 12
	return slices.Concat(file[:end], bytes.Repeat(part, n), file[end:])
}

// scans is a progressive JPEG whose last pass comes again and again.
func scans(t *testing.T, n int) []byte {
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, corners(64, 64), nil))
	file := bytes.Clone(b.Bytes())
	file[bytes.Index(file, []byte{0xFF, 0xC0})+1] = 0xC2
	pass := []byte{0xFF, 0xDA, 0, 8, 1, 1, 0, 1, 63, 0, 0xFF, 0xD0}
	return slices.Concat(file[:len(file)-2], bytes.Repeat(pass, n), file[len(file)-2:])
}

// FuzzShrink feeds it what anybody may send.
func FuzzShrink(f *testing.F) {
	var b bytes.Buffer
	_ = jpeg.Encode(&b, corners(40, 20), nil)
	f.Add(b.Bytes())
	f.Add([]byte("\xff\xd8\xff\xe1\x00\x10Exif\x00\x00MM\x00*\xff\xff\xff\xff"))
	f.Fuzz(func(t *testing.T, file []byte) {
		if k, err := picture.Shrink(file); err == nil {
			require.LessOrEqual(t, max(k.Width, k.Height), picture.LargeSide)
		}
	})
}

// BenchmarkShrink is a tablet's picture of twelve million points.
func BenchmarkShrink(b *testing.B) {
	var file bytes.Buffer
	_ = jpeg.Encode(&file, corners(4000, 3000), nil)
	for b.Loop() {
		_, _ = picture.Shrink(file.Bytes())
	}
}
