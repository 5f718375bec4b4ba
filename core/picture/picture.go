// Package picture makes a camera's picture fit to be kept: upright, small, and with nothing in
// it but what is seen. Place, device and time that a camera writes beside it are left behind.
//
//	kept, err := picture.Shrink(file)
package picture

import (
	"bytes"
	"image"
	"image/jpeg"
	_ "image/png" // read as well

	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp" // read as well

	"ulpa/core/field"
)

// MostBytes and MostPixels are how large a file is taken at all.
const (
	MostBytes  = 16 << 20
	MostPixels = 40_000_000
)

// LargeSide and SmallSide are the longer sides of what is kept, in pixels.
const (
	LargeSide = 1280
	SmallSide = 240
)

// Kept is a picture as it is kept: JPEG without anything beside it.
type Kept struct {
	Large, Small  []byte
	Width, Height int // of the large one, as it is seen
}

// Shrink reads a picture (JPEG, PNG or WebP), turns it upright as the camera says, and scales
// it down. Anything else is refused by field file.
func Shrink(file []byte) (k Kept, err error) {
	if len(file) > MostBytes {
		return k, field.Refuse("file", "takes a picture of up to %d MB", MostBytes>>20)
	}
	head, _, err := image.DecodeConfig(bytes.NewReader(file))
	if err != nil {
		return k, field.Refuse("file", "takes a picture: JPEG, PNG or WebP")
	}
	if head.Width < 1 || head.Height < 1 || head.Width > MostPixels/head.Height {
		return k, field.Refuse("file", "takes a picture of up to %d million points", MostPixels/1_000_000)
	}
	full, _, err := image.Decode(bytes.NewReader(file))
	if err != nil {
		return k, field.Refuse("file", "is a picture that breaks off; take it again")
	}
	turned := orientation(file)
	large := upright(scaled(full, LargeSide), turned)
	k.Width, k.Height = large.Bounds().Dx(), large.Bounds().Dy()
	if k.Large, err = encoded(large, 82); err != nil {
		return k, err
	}
	k.Small, err = encoded(scaled(large, SmallSide), 75)
	return k, err
}

func encoded(m image.Image, quality int) ([]byte, error) {
	var b bytes.Buffer
	err := jpeg.Encode(&b, m, &jpeg.Options{Quality: quality})
	return b.Bytes(), err
}

// scaled is a picture whose longer side is no longer than that, on white where it was clear.
func scaled(m image.Image, side int) *image.RGBA {
	w, h := m.Bounds().Dx(), m.Bounds().Dy()
	if long := max(w, h); long > side {
		w, h = max(1, w*side/long), max(1, h*side/long)
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	draw.CatmullRom.Scale(out, out.Bounds(), m, m.Bounds(), draw.Over, nil)
	return out
}

// upright turns and mirrors a picture as orientation (1 to 8, of the Exif standard) says.
func upright(m *image.RGBA, orientation int) *image.RGBA {
	w, h := m.Bounds().Dx(), m.Bounds().Dy()
	var from func(x, y int) (int, int) // where in m a point of the upright one is
	switch orientation {
	case 2:
		from = func(x, y int) (int, int) { return w - 1 - x, y }
	case 3:
		from = func(x, y int) (int, int) { return w - 1 - x, h - 1 - y }
	case 4:
		from = func(x, y int) (int, int) { return x, h - 1 - y }
	case 5:
		from = func(x, y int) (int, int) { return y, x }
	case 6:
		from = func(x, y int) (int, int) { return y, h - 1 - x }
	case 7:
		from = func(x, y int) (int, int) { return w - 1 - y, h - 1 - x }
	case 8:
		from = func(x, y int) (int, int) { return w - 1 - y, x }
	default:
		return m
	}
	box := image.Rect(0, 0, w, h)
	if orientation >= 5 {
		box = image.Rect(0, 0, h, w)
	}
	out := image.NewRGBA(box)
	for y := range box.Max.Y {
		for x := range box.Max.X {
			fx, fy := from(x, y)
			copy(out.Pix[out.PixOffset(x, y):][:4], m.Pix[m.PixOffset(fx, fy):][:4])
		}
	}
	return out
}
