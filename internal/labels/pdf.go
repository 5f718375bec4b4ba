package labels

import (
	"errors"
	"image/color"
	"io"
	"strings"

	"codeberg.org/go-pdf/fpdf"
	"github.com/boombuler/barcode/qr"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"ulpa/core/field"
	"ulpa/core/label"
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
	e.Require(p.Copies >= 1 && p.Copies <= 100, "copies", "takes 1 to 100")
	e.Require(p.First >= 1 && p.First <= sheet.On(), "first", "takes 1 up to the labels of a page")
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

// Write prints labels as a PDF file. What a label says is set as large as it goes; a code
// stands beside it where it is large enough for a camera.
func Write(to io.Writer, sheet label.Sheet, list []Label, p Print) error {
	if err := errors.Join(sheet.Check(), p.Check(sheet, len(list))); err != nil {
		return err
	}
	f := fpdf.NewCustom(&fpdf.InitType{UnitStr: "mm", Size: fpdf.SizeType{Wd: sheet.PageW, Ht: sheet.PageH}})
	f.SetTitle(p.Title, true)
	f.SetAutoPageBreak(false, 0)
	f.SetMargins(0, 0, 0)
	f.AddUTF8FontFromBytes("go", "", goregular.TTF)
	f.AddUTF8FontFromBytes("go", "B", gobold.TTF)
	at, n := -1, 0
	for _, l := range list {
		for range p.Copies {
			page, x, y := sheet.Place(n, p.First)
			for ; at < page; at++ {
				f.AddPage()
			}
			if sheet.Cut {
				f.SetDrawColor(150, 150, 150)
				f.SetLineWidth(0.1)
				f.Rect(x, y, sheet.W, sheet.H, "D")
			}
			if err := draw(f, l, p.Address, x, y, sheet.W, sheet.H); err != nil {
				return err
			}
			n++
		}
	}
	return f.Output(to)
}

func style(big bool) string {
	if big {
		return "B"
	}
	return ""
}

func draw(f *fpdf.Fpdf, l Label, address string, x, y, w, h float64) error {
	wide := w - 2*edge
	if side := label.CodeSide(w, h); side > 0 {
		if err := code(f, address+l.Address, x+w-edge-side, y+(h-side)/2, side); err != nil {
			return err
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
	set := label.Fit(texts, wide, h-2*edge, func(says string, big bool, size float64) float64 {
		f.SetFont("go", style(big), size)
		return f.GetStringWidth(says)
	})
	for _, t := range set {
		f.SetFont("go", style(t.Big), t.Size)
		f.Text(x+edge, y+edge+t.Y, t.Says)
	}
	return f.Error()
}

// code draws a two-dimensional code (ISO/IEC 18004) into a square, module by module, with its
// quiet zone.
func code(f *fpdf.Fpdf, says string, x, y, side float64) error {
	c, err := qr.Encode(says, qr.M, qr.Auto)
	if err != nil {
		return err
	}
	n := c.Bounds().Dx()
	each := side / float64(n+2*quiet)
	f.SetFillColor(0, 0, 0)
	for row := range n {
		for col := 0; col < n; col++ {
			from := col
			for col < n && dark(c.At(col, row)) {
				col++
			}
			if col > from {
				f.Rect(x+float64(quiet+from)*each, y+float64(quiet+row)*each, float64(col-from)*each, each, "F")
			}
		}
	}
	return nil
}

func dark(c color.Color) bool {
	r, _, _, _ := c.RGBA()
	return r < 0x8000
}
