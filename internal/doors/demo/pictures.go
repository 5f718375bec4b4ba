package demo

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"math/rand/v2"
	"time"

	"ulpa/internal/work/pictures"
)

// drawn is a made-up picture of a tray from above: cells of compost, and in most of them a
// seedling with leaves of a size.
func drawn(leaf int) []byte {
	r := rand.New(rand.NewPCG(7, uint64(leaf))) // #nosec G404 -- the same drawing on every run
	m := image.NewRGBA(image.Rect(0, 0, 480, 360))
	fill := func(at image.Rectangle, c color.RGBA) { draw.Draw(m, at, image.NewUniform(c), image.Point{}, draw.Src) }
	disc := func(x, y, radius int, c color.RGBA) {
		for dy := -radius; dy <= radius; dy++ {
			for dx := -radius; dx <= radius; dx++ {
				if dx*dx+dy*dy <= radius*radius {
					m.SetRGBA(x+dx, y+dy, c)
				}
			}
		}
	}
	fill(m.Bounds(), color.RGBA{38, 40, 42, 255})
	for row := range 4 {
		for col := range 6 {
			x, y := 18+75*col, 14+84*row
			soil := uint8(62 + r.IntN(14))
			fill(image.Rect(x, y, x+68, y+76), color.RGBA{soil, soil - 14, soil - 28, 255})
			if r.IntN(8) == 0 {
				continue
			}
			green := color.RGBA{uint8(70 + r.IntN(40)), uint8(140 + r.IntN(50)), 62, 255}
			for i := range 2 + leaf/8 {
				side := 1 - 2*(i%2)
				disc(x+34+side*(leaf/2+i*2)+r.IntN(5)-2, y+38+(i/2)*leaf/2-leaf/4+r.IntN(5)-2, leaf, green)
			}
		}
	}
	var b bytes.Buffer
	_ = jpeg.Encode(&b, m, &jpeg.Options{Quality: 80}) // into memory: it cannot fail
	return b.Bytes()
}

// photographs are of the lettuce that is on the bench, as it came up.
func (b *builder) photographs() {
	about := b.ids["let5"]
	for _, x := range []struct {
		ago, leaf int
		note      string
	}{{16, 5, "First green"}, {11, 9, "Seed leaves open"}, {4, 14, "First true leaves"}} {
		b.do("picture", func() error {
			return pictures.Add(b.ctx, b.store, b.me, pictures.New{
				ID: b.id(), File: drawn(x.leaf), Note: x.note, About: &about, At: (Day + b.shift).UTC().AddDate(0, 0, -x.ago).Add(10 * time.Hour),
			})
		})
	}
}
