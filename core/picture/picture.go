// Package picture makes a camera's picture fit to be kept: upright, small, and with nothing in
// it but what is seen. Place, device and time that a camera writes beside it are left behind.
//
//	kept, err := picture.Shrink(file)
package picture

import (
	"bytes"
	"image"
	"image/jpeg"

	"golang.org/x/image/draw"

	"ulpa/core/field"
)

// LargeSide and SmallSide are the longer sides of what is kept, in pixels.
const (
	LargeSide = 1280
	SmallSide = 240
)

// What Shrink refuses a picture for, beside what it is not; whoever shrinks it in a process apart
// refuses it for the same.
var (
	ErrBreaksOff = field.Refuse("file", "is a picture that is cut off; take it again")
	ErrTooMuch   = field.Refuse("file", "is too large to open; take it again, or send a screenshot of it")
)

// Kept is a picture as it is kept: JPEG without anything beside it.
type Kept struct {
	Large, Small  []byte
	Width, Height int // of the large one, as it is seen
}

// Shrink reads a picture (JPEG, PNG or WebP), turns it upright as the camera says, and scales
// it down. Anything else, and what Check refuses, is refused by field file.
func Shrink(file []byte) (k Kept, err error) {
	if err := Check(file); err != nil {
		return k, err
	}
	f, _ := formatOf(file)
	full, err := f.decode(bytes.NewReader(file))
	if err != nil {
		return k, ErrBreaksOff
	}
	turned := orientation(file)
	if long := max(full.Bounds().Dx(), full.Bounds().Dy()); long > 2*LargeSide { // a fine scaling of the whole keeps much beside
		full = scaled(full, 2*LargeSide, draw.ApproxBiLinear)
	}
	large := upright(scaled(full, LargeSide, draw.CatmullRom), turned)
	k.Width, k.Height = large.Bounds().Dx(), large.Bounds().Dy()
	if k.Large, err = encoded(large, 82); err != nil {
		return k, err
	}
	k.Small, err = encoded(scaled(large, SmallSide, draw.CatmullRom), 75)
	return k, err
}

func encoded(m image.Image, quality int) ([]byte, error) {
	var b bytes.Buffer
	err := jpeg.Encode(&b, m, &jpeg.Options{Quality: quality})
	return b.Bytes(), err
}

// scaled is a picture whose longer side is no longer than that, on white where it was clear.
func scaled(m image.Image, side int, by draw.Scaler) *image.RGBA {
	w, h := m.Bounds().Dx(), m.Bounds().Dy()
	if long := max(w, h); long > side {
		w, h = max(1, w*side/long), max(1, h*side/long)
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	by.Scale(out, out.Bounds(), m, m.Bounds(), draw.Over, nil)
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
