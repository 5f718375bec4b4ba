package sums

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"ulpa/core/say"
)

// Picture is what a person looks at rather than reads; one of its parts is set.
type Picture struct {
	Says  string // for those who do not see it
	Chart *Chart
	Bars  []Bar
	Tanks []Tank
	Key   string // what the shapes mean
}

// Chart is a drawing over two axes, 560 by 250.
type Chart struct {
	XLabel, YLabel string
	XTicks, YTicks []Mark
	Bands          []Box
	Lines          []Line
	Verticals      []Mark
	Dots           []Mark
	Rows           []Row // arms or stages in place of a y axis
	Height, Base   float64
	x, y           scale
}

// Mark is a place with a word; Line a path; Box a rectangle, and Class their look.
type (
	Mark struct {
		X, Y  float64
		Text  string
		Class string
		End   bool // the word stands to the left of its place
	}
	Line struct{ Points, Class string }
	Box  struct {
		X, Y, W, H float64
		Class      string
	}
)

// Row is a bar or an interval on a line of its own.
type Row struct {
	Name, Text   string
	Y            float64
	From, To, At float64
	Width        float64
	Rest         float64 // how far a lighter part goes on
	Interval     bool
}

// Bar is a figure beside what it should be.
type Bar struct {
	Name, Value, Note string
	Width, Target     float64 // of 100; Target 0: none
	Class             string
	Best              bool
}

// Tank is a vessel cut open: its outline, its water, and what to read off.
type Tank struct {
	Name, Level         string
	Outline, Water      string
	LineY, LineX, LineW float64
	Marks               []Mark
}

type scale struct{ from, to, at, size float64 }

func (s scale) of(v float64) float64 {
	if s.to == s.from {
		return s.at
	}
	return s.at + s.size*(v-s.from)/(s.to-s.from)
}

const (
	chartLeft, chartWidth = 48.0, 496.0
	chartTop, chartHeight = 14.0, 186.0
	rowLeft, rowWidth     = 130.0, 410.0
	rowHeight             = 36.0
)

// plot begins a chart over these ranges, with ticks at round figures.
func plot(p say.Reader, xLabel string, x0, x1 float64, yLabel string, y0, y1 float64) *Chart {
	c := &Chart{XLabel: xLabel, YLabel: yLabel, Height: 250, Base: chartTop + chartHeight}
	c.x, c.y = scale{x0, x1, chartLeft, chartWidth}, scale{y0, y1, chartTop + chartHeight, -chartHeight}
	for _, v := range ticks(x0, x1, 7) {
		c.XTicks = append(c.XTicks, Mark{X: c.x.of(v), Y: c.Base + 18, Text: figureOf(p, v)})
	}
	for _, v := range ticks(y0, y1, 5) {
		c.YTicks = append(c.YTicks, Mark{X: chartLeft - 7, Y: c.y.of(v), Text: figureOf(p, v)})
	}
	return c
}

// rows begins a chart of rows over a range.
func rows(x0, x1 float64, n int) *Chart {
	c := &Chart{Height: float64(n)*rowHeight + 46, Base: float64(n)*rowHeight + 14}
	c.x = scale{x0, x1, rowLeft, rowWidth}
	return c
}

func (c *Chart) tick(v float64, text string) {
	at := c.x.of(v)
	c.XTicks = append(c.XTicks, Mark{X: at, Y: c.Base + 18, Text: text, End: at > rowLeft+rowWidth-20})
}

func (c *Chart) line(class string, points [][2]float64) {
	var b strings.Builder
	for _, p := range points {
		if p[1] < c.y.from || p[1] > c.y.to {
			continue // it leaves the drawing
		}
		fmt.Fprintf(&b, "%.1f,%.1f ", c.x.of(p[0]), c.y.of(p[1]))
	}
	c.Lines = append(c.Lines, Line{b.String(), class})
}

// dot marks a point; its word goes to the side that has room.
func (c *Chart) dot(x, y float64, text string) {
	m := Mark{X: c.x.of(x), Y: c.y.of(y), Text: text}
	m.End = m.X > chartLeft+chartWidth*0.8
	c.Dots = append(c.Dots, m)
}

func (c *Chart) vertical(x float64, text, class string) {
	m := Mark{X: c.x.of(x), Y: chartTop, Text: text, Class: class}
	m.End = m.X > chartLeft+chartWidth*0.7
	c.Verticals = append(c.Verticals, m)
}

// band shades the heights between two values.
func (c *Chart) band(from, to float64, class string) {
	top, bottom := c.y.of(min(to, c.y.to)), c.y.of(max(from, c.y.from))
	c.Bands = append(c.Bands, Box{chartLeft, top, chartWidth, max(0, bottom-top), class})
}

// column shades the breadth between two values, over the whole height.
func (c *Chart) column(from, to float64, class string) {
	a, b := c.x.of(max(from, c.x.from)), c.x.of(min(to, c.x.to))
	if b > a {
		c.Bands = append(c.Bands, Box{X: a, Y: 6, W: b - a, H: c.Base - 6, Class: class})
	}
}

// row adds a line of its own from one value to another.
func (c *Chart) row(r Row) {
	r.Y = 14 + rowHeight*float64(len(c.Rows)) + rowHeight/2
	r.Width = max(2, c.x.of(r.To)-c.x.of(r.From))
	r.Rest = max(0, c.x.of(r.To+r.Rest)-c.x.of(r.To))
	r.From, r.To, r.At = c.x.of(r.From), c.x.of(r.To), c.x.of(r.At)
	c.Rows = append(c.Rows, r)
}

// ticks are round figures between two values, about so many.
func ticks(from, to float64, about int) (out []float64) {
	span := to - from
	if !(span > 0) || math.IsInf(span, 0) {
		return []float64{from}
	}
	step := math.Pow(10, math.Floor(math.Log10(span/float64(about))))
	for _, m := range []float64{1, 2, 5, 10} {
		if span/(step*m) <= float64(about) {
			step *= m
			break
		}
	}
	for v := math.Ceil(from/step-1e-9) * step; v <= to+step*1e-9; v += step {
		if math.Abs(v) < step*1e-6 {
			v = 0
		}
		out = append(out, v)
	}
	return out
}

// figureOf is a round figure with the reader's decimal mark.
func figureOf(p say.Reader, v float64) string { return p.Mark(short(v)) }

func short(v float64) string {
	if math.Abs(v) < 1e-12 {
		return "0"
	}
	return strconv.FormatFloat(tidy(v), 'f', -1, 64)
}

// cutOpen draws a vessel from its half-widths at heights from 0 to 1, filled to
// a height.
func cutOpen(halfWidth func(h float64) float64, aspect, filled float64) Tank {
	const base, tall, middle = 196.0, 180.0, 110.0
	width := min(95, tall*aspect/2)
	at := func(h float64) (x, y float64) { return width * halfWidth(h), base - tall*h }
	side := func(top float64) string {
		var left, right []string
		for i := range 21 {
			x, y := at(top * float64(i) / 20)
			left = append(left, fmt.Sprintf("%.1f,%.1f", middle-x, y))
			right = append([]string{fmt.Sprintf("%.1f,%.1f", middle+x, y)}, right...)
		}
		for i, j := 0, len(left)-1; i < j; i, j = i+1, j-1 {
			left[i], left[j] = left[j], left[i]
		}
		for i, j := 0, len(right)-1; i < j; i, j = i+1, j-1 {
			right[i], right[j] = right[j], right[i]
		}
		return strings.Join(append(left, right...), " ")
	}
	x, y := at(filled)
	return Tank{Outline: side(1), Water: side(filled), LineY: y, LineX: middle - x, LineW: 2 * x}
}
