// Package label lays labels out on sheets and text on labels, in millimetres: nothing is cut
// and nothing overlaps, however long a name is.
//
//	page, x, y := sheet.Place(7, 3) // the eighth label, when the first free one is the third
//	lines := label.Fit(texts, 40, 20, measure)
package label

import (
	"strings"

	"ulpa/core/field"
)

// Sheet is a page of labels in rows and columns; a roll is a page of one.
type Sheet struct {
	PageW, PageH  float64 // mm
	Columns, Rows int
	W, H          float64 // of a label
	Left, Top     float64 // to the first
	GapX, GapY    float64
	Cut           bool // lines to cut along
}

// Check refuses, with field.Errors, what cannot be printed.
func (s Sheet) Check() error {
	var e field.Errors
	in := func(at string, v, low, high float64) {
		e.Require(v >= low && v <= high, at, "must be %g to %g mm", low, high)
	}
	in("page_w", s.PageW, 10, 420)
	in("page_h", s.PageH, 10, 600)
	in("w", s.W, 8, 420)
	in("h", s.H, 8, 600)
	in("left", s.Left, 0, 200)
	in("top", s.Top, 0, 200)
	in("gap_x", s.GapX, 0, 100)
	in("gap_y", s.GapY, 0, 100)
	e.Require(s.Columns >= 1 && s.Columns <= 40, "columns", "must be 1 to 40")
	e.Require(s.Rows >= 1 && s.Rows <= 60, "rows", "must be 1 to 60")
	const slack = 0.6 // mm, since dimensions are rounded
	c, r := float64(s.Columns), float64(s.Rows)
	e.Require(s.Left+c*s.W+(c-1)*s.GapX <= s.PageW+slack, "columns", "reach beyond the page")
	e.Require(s.Top+r*s.H+(r-1)*s.GapY <= s.PageH+slack, "rows", "reach beyond the page")
	return e.Err()
}

// On is how many labels a page has.
func (s Sheet) On() int { return s.Columns * s.Rows }

// Place is where the n-th label stands, from 0, when the first free one of the first page is
// the first-th, from 1: row by row.
func (s Sheet) Place(n, first int) (page int, x, y float64) {
	at := n + max(0, first-1)
	page = at / s.On()
	row, col := at%s.On()/s.Columns, at%s.On()%s.Columns
	return page, s.Left + float64(col)*(s.W+s.GapX), s.Top + float64(row)*(s.H+s.GapY)
}

// Text is a line of a label; Big ones are what is read from afar.
type Text struct {
	Says string
	Big  bool
}

// Line is a line as it is printed: its size in points, and its place from the text's left
// upper corner to its foot, mm.
type Line struct {
	Says string
	Big  bool
	Size float64
	Y    float64
}

// Measures of text.
const (
	PointMM  = 0.352778 // mm of a point
	bigger   = 1.9
	leading  = 1.18
	mostSize = 13
	ascent   = 0.78
)

// Fit sets texts as large as they go into a field of so many mm, wrapped between words where
// that helps; measure is how wide a text is at a size, mm.
func Fit(texts []Text, w, h float64, measure func(says string, big bool, size float64) float64) []Line {
	set := func(size float64) (lines []Line, fits bool) {
		y := 0.0
		for _, t := range texts {
			s := size
			if t.Big {
				s *= bigger
			}
			for _, part := range wrap(t.Says, func(x string) bool { return measure(x, t.Big, s) <= w }) {
				if measure(part, t.Big, s) > w {
					return nil, false
				}
				lines = append(lines, Line{part, t.Big, s, y + ascent*s*PointMM})
				y += leading * s * PointMM
			}
		}
		return lines, y <= h
	}
	low, high := 0.0, float64(mostSize)
	var best []Line
	for range 24 {
		mid := (low + high) / 2
		if lines, ok := set(mid); ok {
			best, low = lines, mid
		} else {
			high = mid
		}
	}
	return best
}

// wrap breaks a text between words so that each line fits, as far as words do.
func wrap(says string, fits func(string) bool) (out []string) {
	line := ""
	for _, word := range strings.Fields(says) {
		switch {
		case line == "":
			line = word
		case fits(line + " " + word):
			line += " " + word
		default:
			out = append(out, line)
			line = word
		}
	}
	if line != "" {
		out = append(out, line)
	}
	return out
}

// CodeSide is how large a square code may be on a label, mm; 0: it is too small for a camera.
func CodeSide(w, h float64) float64 {
	const least, margin = 11, 1.5
	side := min(h-2*margin, 0.42*w, 26)
	if side < least {
		return 0
	}
	return side
}
