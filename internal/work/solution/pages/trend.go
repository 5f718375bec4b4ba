package pages

import (
	"fmt"

	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/solution"
)

// trendView is a chart of readings in their band, with doses marked.
type trendView struct {
	Name, Unit     string
	Low, High      string
	BandTop, BandH float64
	LowY, HighY    float64
	Line, Meter    string
	Doubt          string // how far each reading may be out, as upright lines
	Dots           face.Dots
	Last           *face.Label
	LastOut        bool
	Doses          []face.Label
	Ticks          []face.Label
	Says           string
	HasMeter       bool
}

const (
	trendLeft, trendRight = 46.0, 590.0
	trendTop, trendBase   = 12.0, 112.0
)

// doubtOf is how far a figure of a reading may be out; 0 where that is not told.
func doubtOf(r tank.Reading, u string) float64 {
	switch u {
	case "pH":
		return r.PHError()
	case unit.MS:
		return tank.ECError
	}
	return 0
}

// crowd is how many marks a trend can show before nobody can tell them apart.
const crowd = 80

// trendOf draws one quantity over a span. pick takes the figure out of a reading.
func trendOf(
	name say.Words,
	u string,
	span solution.Span,
	low, high float64,
	p say.Reader,
	now func() float64,
	past []ledger.Past,
	pick func(ledger.Past) *float64,
	dose func(ledger.Past) string,
	meter []solution.Point,
) trendView {
	trendDays := float64(span.Days)
	end := now()
	v := trendView{Name: p.Say(name), Unit: p.Name(u), Low: p.Figure(low, u), High: p.Figure(high, u)}
	bottom, top := low, high
	day := func(t float64) float64 { return trendDays - (end-t)/86400 }
	type point struct{ d, y, doubt float64 }
	var read, logged []point
	for _, x := range past {
		if y := pick(x); y != nil && day(float64(x.At.Unix())) >= 0 {
			read = append(read, point{day(float64(x.At.Unix())), *y, doubtOf(*x.Reading, u)})
			bottom, top = min(bottom, *y), max(top, *y)
		}
	}
	for _, m := range meter {
		if m.Unit == u {
			logged = append(logged, point{day(float64(m.At.Unix())), m.Value, 0})
			bottom, top = min(bottom, m.Value), max(top, m.Value)
		}
	}
	pad := (top - bottom) * 0.12
	bottom, top = bottom-pad, top+pad
	x := func(d float64) float64 { return trendLeft + (trendRight-trendLeft)*d/trendDays }
	y := func(n float64) float64 { return trendBase - (trendBase-trendTop)*(n-bottom)/max(1e-9, top-bottom) }
	v.LowY, v.HighY = y(low), y(high)
	v.BandTop, v.BandH = y(high), y(low)-y(high)
	outside := func(n float64) bool { return n < low-1e-9 || n > high+1e-9 }
	var line, mline face.Points
	for _, pt := range read {
		line.Add(x(pt.d), y(pt.y))
		if len(read) <= crowd || outside(pt.y) { // in a crowd the line says it, and a dot is a reading outside the band
			v.Dots.Dot(x(pt.d), y(pt.y))
		}
		if pt.doubt > 0 && len(read) <= crowd {
			high, low := max(trendTop-8, y(pt.y+pt.doubt)), min(trendBase+8, y(pt.y-pt.doubt))
			v.Doubt += fmt.Sprintf("M%.1f %.1fV%.1f", x(pt.d), high, low)
		}
	}
	for _, pt := range logged {
		mline.Add(x(pt.d), y(pt.y))
	}
	v.Line, v.Meter, v.HasMeter = line.String(), mline.String(), len(logged) > 0
	if n := len(read); n > 0 {
		last := read[n-1]
		v.Last = &face.Label{X: x(last.d), Y: y(last.y), Text: p.Figure(last.y, u)}
		v.LastOut = outside(last.y)
		v.Says = p.T("%s, %s: %d readings, last %s, range %s to %s.", name, say.Lower(span.Name), n, p.Format(last.y, u), v.Low, v.High)
	} else {
		v.Says = p.T("%s, %s: no reading.", name, say.Lower(span.Name))
	}
	for _, e := range past {
		if w := dose(e); w != "" && day(float64(e.At.Unix())) >= 0 {
			v.Doses = append(v.Doses, face.Label{X: x(day(float64(e.At.Unix()))), Y: trendTop, Text: w})
		}
	}
	if len(v.Doses) > crowd {
		v.Doses = nil // the notebook has them
	}
	v.Ticks = ticksOf(span, x, p)
	return v
}

// ticksOf are the days under a trend.
func ticksOf(span solution.Span, x func(day float64) float64, p say.Reader) (out []face.Label) {
	for i := 1; i <= 4; i++ { // the first would stand outside the drawing
		back := span.Days * (4 - i) / 4
		text := p.T("%d days ago", back)
		switch {
		case i == 4:
			text = p.T("today")
		case back > 60:
			text = p.T("%d weeks ago", (back+3)/7)
		}
		out = append(out, face.Label{X: x(float64(span.Days - back)), Y: trendBase + 18, Text: text})
	}
	return out
}

// trends draw the tank's quantities over a span.
func (v *tankView) trends(page solution.Page, p say.Reader) {
	spec := page.Tank.Spec
	now := func() float64 { return float64(page.Now.Unix()) }
	dosed := func(agent bool) func(ledger.Past) string {
		return func(x ledger.Past) string {
			switch {
			case x.Treat == nil:
				return ""
			case agent && x.Treat.Amount > 0:
				return p.T("dose")
			case !agent && (x.Treat.FedML() > 0 || x.Treat.WaterL > 0):
				return p.T("fill")
			}
			return ""
		}
	}
	of := func(get func(*tank.Reading) *float64) func(ledger.Past) *float64 {
		return func(x ledger.Past) *float64 {
			if x.Reading == nil {
				return nil
			}
			return get(x.Reading)
		}
	}
	for _, s := range solution.Spans {
		v.Spans = append(v.Spans, spanLink{p.Say(s.Name), fmt.Sprintf("%s?days=%d", v.Path, s.Days), s.Days == page.Span.Days})
	}
	v.Trends = []trendView{
		trendOf(
			"pH",
			"pH",
			page.Span,
			spec.PHLow,
			spec.PHHigh,
			p,
			now,
			page.Past,
			of(func(r *tank.Reading) *float64 { return r.PH }),
			dosed(true),
			page.Meter,
		),
		trendOf(
			"Strength",
			unit.MS,
			page.Span,
			spec.ECLow,
			spec.ECHigh,
			p,
			now,
			page.Past,
			of(func(r *tank.Reading) *float64 { return r.ECMS }),
			dosed(false),
			page.Meter,
		),
	}
	level := trendOf("Level", unit.Litre, page.Span, spec.DryBelowL, spec.FillToL, p, now, page.Past,
		of(func(r *tank.Reading) *float64 { return r.LevelL }), dosed(false), nil)
	temp := trendOf("Temperature", unit.Celsius, page.Span, coolC, tank.WarmC, p, now, page.Past,
		of(func(r *tank.Reading) *float64 { return r.TempC }), func(ledger.Past) string { return "" }, nil)
	if spec.Passive { // a jar is kept by its level
		v.Trends, v.More = append([]trendView{level}, v.Trends...), []trendView{temp}
	} else {
		v.More = []trendView{level, temp}
	}
}

// coolC is what roots are slow below, °C.
const coolC = 15
