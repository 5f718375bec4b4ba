package labels

import (
	"context"
	"errors"
	"image/color"
	"io"
	"strings"

	"github.com/boombuler/barcode/qr"

	"ulpa/core/field"
	"ulpa/core/label"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/paper"
)

// Print is how labels are printed.
type Print struct {
	First   int    // the first free label of the first page, from 1
	Copies  int    // of each
	Address string // of this house, before each label's path
	Title   string
}

// mostLabels are printed in one file.
const mostLabels = 2000

// Check refuses, with field.Errors, what is no print of so many labels.
func (p Print) Check(sheet label.Sheet, labels int) error {
	var e field.Errors
	e.Require(p.Copies >= 1 && p.Copies <= 100, "copies", "must be 1 to 100")
	e.Require(p.First >= 1 && p.First <= sheet.On(), "first", "must be 1 up to the labels of a page")
	e.Require(labels > 0, "of", "choose at least one label")
	e.Require(labels*p.Copies <= mostLabels, "of", "are more than %d labels: print them in parts", mostLabels)
	return e.Err()
}

// Measures of what is drawn.
const (
	edge  = 1.5 // mm free around what a label says
	quiet = 4   // modules free around a code
	long  = 3   // times as wide as high is a stick
)

// Write prints labels as a PDF file, page by page, for as long as somebody waits for it. What a
// label says is set as large as it goes; a code stands beside it where it is large enough for a
// camera.
func Write(ctx context.Context, to io.Writer, sheet label.Sheet, list []Label, p Print) error {
	if err := errors.Join(sheet.Check(), p.Check(sheet, len(list))); err != nil {
		return err
	}
	bound.Dear(ctx, "labels")
	f := paper.New(to, p.Title, sheet.PageW, sheet.PageH)
	at, n := -1, 0
	for _, l := range list {
		drawn, err := drawnOf(l, p.Address, sheet.W, sheet.H)
		if err != nil {
			return err
		}
		for range p.Copies {
			if err := ctx.Err(); err != nil {
				return err
			}
			page, x, y := sheet.Place(n, p.First)
			for ; at < page; at++ {
				if err := f.Page(); err != nil {
					return err
				}
			}
			if sheet.Cut {
				f.Box(x, y, sheet.W, sheet.H)
			}
			drawn.put(f, x, y)
			n++
		}
	}
	return f.Close()
}

// drawing is a label as it is printed again and again: where its lines and the dark boxes of its
// code are.
type drawing struct {
	lines []label.Line
	code  *paper.Stamp // nil: it is too small for one
}

func (d drawing) put(f *paper.Writer, x, y float64) {
	for _, t := range d.lines {
		f.Text(x+edge, y+edge+t.Y, t.Size, t.Big, t.Says)
	}
	if d.code != nil {
		f.Put(d.code, x, y)
	}
}

func drawnOf(l Label, address string, w, h float64) (d drawing, err error) {
	wide := w - 2*edge
	if side := label.CodeSide(w, h); side > 0 {
		if d.code, err = code(address+l.Address, w-edge-side, (h-side)/2, side); err != nil {
			return d, err
		}
		wide -= side + edge
	}
	texts := []label.Text{{Says: l.Code, Big: true}}
	lines := l.Lines
	if wide > long*h { // a stick: one line is read at a glance
		lines = []string{strings.Join(lines, " · ")}
	}
	for _, s := range lines {
		texts = append(texts, label.Text{Says: s})
	}
	d.lines = label.Fit(texts, wide, h-2*edge, func(says string, big bool, size float64) float64 { return paper.Width(says, size, big) })
	return d, nil
}

// code is a two-dimensional code (ISO/IEC 18004) in a square, module by module, with its quiet
// zone.
func code(says string, x, y, side float64) (*paper.Stamp, error) {
	c, err := qr.Encode(says, qr.M, qr.Auto)
	if err != nil {
		return nil, err
	}
	dark, n := &paper.Stamp{}, c.Bounds().Dx()
	each := side / float64(n+2*quiet)
	for row := range n {
		for col := 0; col < n; col++ {
			from := col
			for col < n && isDark(c.At(col, row)) {
				col++
			}
			if col > from {
				dark.Box(x+float64(quiet+from)*each, y+float64(quiet+row)*each, float64(col-from)*each, each)
			}
		}
	}
	return dark, nil
}

func isDark(c color.Color) bool {
	r, _, _, _ := c.RGBA()
	return r < 0x8000
}
