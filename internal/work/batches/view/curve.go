package view

import (
	"fmt"
	"slices"

	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
)

// CurveView is the germination chart: counts beside the usual range.
type CurveView struct {
	Known              bool
	Band, Usual, Count string // SVG points
	Dots               face.Dots
	Top                string
	TopY, BaseY        float64
	Days               []face.Label
	Says               string
}

const (
	curveLeft, curveRight = 34.0, 268.0
	curveTop, curveBase   = 12.0, 132.0
)

// CurveOf draws a curve.
func CurveOf(c batches.Curve, p say.Reader) CurveView {
	v := CurveView{Known: c.Known, TopY: curveTop, BaseY: curveBase, Top: fmt.Sprint(c.Sown)}
	days := float64(max(6, c.Day+1))
	if n := len(c.Expected); n > 0 {
		days = max(days, c.Expected[n-1].Day)
	}
	x := func(d float64) float64 { return curveLeft + (curveRight-curveLeft)*min(1, d/days) }
	y := func(n float64) float64 { return curveBase - (curveBase-curveTop)*n/float64(max(1, c.Sown)) }
	var band, usual, counted face.Points
	for _, e := range c.Expected {
		band.Add(x(e.Day), y(e.High))
		usual.Add(x(e.Day), y(e.Mid))
	}
	for _, e := range slices.Backward(c.Expected) {
		band.Add(x(e.Day), y(e.Low))
	}
	counted.Add(x(0), y(0))
	for _, n := range c.Counts {
		counted.Add(x(n.Day), y(float64(n.Sprouted)))
		v.Dots.Dot(x(n.Day), y(float64(n.Sprouted)))
	}
	v.Band, v.Usual, v.Count = band.String(), usual.String(), counted.String()
	for i := 0; i <= 4; i++ {
		d := days * float64(i) / 4
		v.Days = append(v.Days, face.Label{X: x(d), Y: curveBase + 16, Text: fmt.Sprintf("%.0f", d)})
	}
	v.Says = p.T("Germination chart: %d of %d up on day %d.", c.Sprouted, c.Sown, c.JudgedDay)
	if c.Known {
		v.Says = p.T("%s Usual by then: %.0f, nine times in ten between %d and %d.", v.Says, c.By.Expected, c.By.Low, c.By.High)
	}
	return v
}
