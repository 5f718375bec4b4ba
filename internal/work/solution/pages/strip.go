package pages

import (
	"fmt"
	"math"
	"time"

	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/solution"
)

// stripView is a jar's months on one strip: its water to scale, who lived in it, in which
// phase it was, and each pour.
type stripView struct {
	W, H              float64
	Water, Line       string // as a surface, and as its upper edge
	FootY, Low, LowH  float64
	Floor, PhaseY     float64
	Hang              []barView // the stretches in which roots hung
	Lives             []barView
	Months            []barView // every second one is shaded
	Pours             []face.Label
	Over, Dry         []face.Label
	Dots              face.Dots
	Foot, Label, Says string
	Lines             []monthLine
}

// barView is a stretch of the strip.
type barView struct {
	X, W       float64
	Text, Path string
	Shaded     bool
}

// monthLine is a month in figures.
type monthLine struct{ Name, Drunk, Poured, Level, PH, EC, Roots, Wrong string }

// The strip is so wide, with its water between a top and a floor.
const (
	stripW, stripLeft      = 920.0, 8.0
	stripTop, stripFloor   = 34.0, 134.0
	stripPhase, stripH     = 138.0, 170.0
	stripMonths, stripText = 12, 60.0 // months shown at most; the least width on which a word fits
)

// stripOf draws the months of a jar; nil: nothing is known of it.
func stripOf(page solution.Page, w who.Who) *stripView {
	if page.Strip == nil || len(page.Strip.Marks) < 2 {
		return nil
	}
	p, s := w.Prefs, *page.Strip
	if n := len(s.Months); n > stripMonths {
		s.Months = s.Months[n-stripMonths:]
	}
	begin, end := s.Months[0].Begins, page.Now
	if first := s.Marks[0].At; first.After(begin) {
		begin = first
	}
	days := math.Max(1, end.Sub(begin).Hours()/24)
	x := func(t time.Time) float64 {
		return stripLeft + (stripW-2*stripLeft)*math.Min(1, math.Max(0, t.Sub(begin).Hours()/24/days))
	}
	y := func(cm float64) float64 { return stripFloor - (stripFloor-stripTop)*math.Min(1, cm/s.HeightCM) }
	v := &stripView{
		W: stripW, H: stripH, FootY: y(s.FootCM), Low: y(s.HighCM), LowH: y(s.LowCM) - y(s.HighCM), Floor: stripFloor, PhaseY: stripPhase,
		Foot: p.T("bottom of the pot"),
	}
	v.water(s.Marks, begin, x, y, p)
	for i, m := range s.Months {
		until := m.Begins.AddDate(0, 1, 0)
		b := barView{X: x(m.Begins), W: x(until) - x(m.Begins), Shaded: i%2 == 1}
		if b.W >= stripText {
			b.Text = p.Say(say.Date(m.Begins, "January"))
		}
		v.Months = append(v.Months, b)
		v.Lines = append(v.Lines, monthOf(m, page.Tank.Spec, p))
	}
	for _, l := range page.Stays {
		until := w.Day(page.Now)
		if l.Until != 0 {
			until = l.Until
		}
		at := func(d int) float64 { return x(time.Unix(int64(d)*86400, 0)) }
		b := barView{X: at(int(l.From)), W: at(int(until)) - at(int(l.From)), Path: "/batches/" + l.Batch, Text: l.Code}
		if b.W > 2 {
			v.Lives = append(v.Lives, b)
		}
	}
	v.says(s, p)
	return v
}

// water draws the line of the water, the stretches in which roots hung, and what was poured.
func (v *stripView) water(marks []tank.Mark, begin time.Time, x func(time.Time) float64, y func(float64) float64, p say.Reader) {
	var line face.Points
	var first, last float64
	pours := 0
	for i, m := range marks {
		if m.At.Before(begin) && (i+1 == len(marks) || marks[i+1].At.Before(begin)) {
			continue
		}
		at := x(m.At)
		if len(line) == 0 {
			first = at
		}
		line.Add(at, y(m.CM))
		last = at
		if m.Read {
			v.Dots.Dot(at, y(m.CM))
		}
		if m.Over {
			v.Over = append(v.Over, face.Label{X: at, Y: y(m.CM)})
		}
		if m.Dry {
			v.Dry = append(v.Dry, face.Label{X: at, Y: y(m.CM)})
		}
		if m.Pour > 0 {
			v.Pours = append(v.Pours, face.Label{X: at, Y: stripTop - 4, Text: "+" + p.Figure(m.Pour, unit.Litre)})
			pours++
		}
		if m.Hang && i+1 < len(marks) {
			v.hang(at, x(marks[i+1].At))
		}
	}
	if pours > stripMonths*2 {
		for i := range v.Pours {
			v.Pours[i].Text = "" // the table has them
		}
	}
	v.Line = line.String()
	v.Water = fmt.Sprintf("%.1f,%.1f %s %.1f,%.1f", first, stripFloor, v.Line, last, stripFloor)
}

// hang adds a stretch, or makes the last one longer.
func (v *stripView) hang(from, to float64) {
	if n := len(v.Hang); n > 0 && v.Hang[n-1].X+v.Hang[n-1].W >= from-0.05 {
		v.Hang[n-1].W = to - v.Hang[n-1].X
		return
	}
	v.Hang = append(v.Hang, barView{X: from, W: to - from})
}

// says is the strip in a sentence.
func (v *stripView) says(s tank.Strip, p say.Reader) {
	drunk, over, dry := 0.0, 0, 0
	for _, m := range s.Months {
		drunk, over, dry = drunk+m.Drunk, over+m.Over, dry+m.Dry
	}
	parts := []say.Text{say.T("%s drunk in %s.", say.Of(drunk, unit.Litre), say.Plural(len(s.Months), "month"))}
	switch {
	case over > 0:
		parts = append(parts, say.T("Filled over hanging roots %s. Never do that: they drown there.", say.Plural(over, "time")))
	default:
		parts = append(parts, say.T("Never fill over hanging roots."))
	}
	if dry > 0 {
		parts = append(parts, say.T("Found dry %s.", say.Plural(dry, "time")))
	}
	v.Says = p.Say(say.Join(" ", parts...))
	v.Label = p.T("The water of this jar, month by month. %s", say.Name(v.Says))
}

func monthOf(m tank.Month, spec tank.Spec, p say.Reader) monthLine {
	span := func(low, high *float64, u string) string {
		switch {
		case low == nil:
			return "–"
		case p.Figure(*low, u) == p.Figure(*high, u):
			return p.Figure(*low, u)
		}
		return p.Figure(*low, u) + "–" + p.Figure(*high, u)
	}
	l := monthLine{
		Name: p.Say(say.Date(m.Begins, "January 2006")), Drunk: p.Figure(m.Drunk, unit.Litre), Poured: "–", Level: "–", Roots: "–",
		PH: span(m.PHLow, m.PHHigh, "pH"), EC: span(m.ECLow, m.ECHigh, unit.MS),
	}
	if m.Pours > 0 {
		l.Poured = fmt.Sprintf("%s (%d ×)", p.Figure(m.Poured, unit.Litre), m.Pours)
	}
	if m.HighestCM >= m.LowestCM {
		l.Level = span(&m.LowestCM, &m.HighestCM, unit.Centimetre)
	}
	if m.RootsCM != nil {
		l.Roots = p.Figure(*m.RootsCM, unit.Centimetre)
	}
	var wrong []say.Text
	if m.Over > 0 {
		wrong = append(wrong, say.T("%d × over its roots", m.Over))
	}
	if m.Dry > 0 {
		wrong = append(wrong, say.T("%d × dry", m.Dry))
	}
	if m.Unwritten > 0.05*spec.CapacityL {
		wrong = append(wrong, say.T("%s arrived that nobody wrote down", say.Of(m.Unwritten, unit.Litre)))
	}
	if l.Wrong = "–"; len(wrong) > 0 {
		l.Wrong = p.Say(say.Join(", ", wrong...))
	}
	return l
}
