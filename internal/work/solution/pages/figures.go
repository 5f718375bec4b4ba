package pages

import (
	"fmt"
	"slices"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/solution"
)

// figureLine is what was read at one time, or what went in or out then.
type figureLine struct {
	At, PH, EC, Level, Temp string
	PHOut, ECOut            bool
	Done                    string
}

// figuresOf are the charts' values as a table, all quantities beside each other, the latest
// first: what a finger or a screen reader takes from a chart.
func figuresOf(page solution.Page, w who.Who, path string, all bool) face.CutList[figureLine] {
	p, spec := w.Prefs, page.Tank.Spec
	begin := page.Now.AddDate(0, 0, -page.Span.Days)
	past := slices.DeleteFunc(slices.Clone(page.Past), func(x ledger.Past) bool { return x.At.Before(begin) || x.Reading == nil && x.Treat == nil })
	slices.Reverse(past)
	rest := fmt.Sprintf("%s?days=%d&all=1#figures", path, page.Span.Days)
	return face.CutAs(past, face.Fewer(face.FewLines, all), rest, func(x ledger.Past) figureLine {
		// A figure that reads like the band's own edge is not outside it.
		outside := func(v *float64, low, high float64, u string) bool {
			return v != nil && (*v < low && p.Figure(*v, u) != p.Figure(low, u) || *v > high && p.Figure(*v, u) != p.Figure(high, u))
		}
		l := figureLine{At: p.Say(say.Date(x.At.In(w.Zone), "Mon 2 Jan, 15:04"))}
		if x.Treat != nil {
			l.Done = p.Say(solution.TreatWords(*x.Treat))
		}
		if r := x.Reading; r != nil {
			put := func(to *string, v *float64, u string) {
				if v != nil {
					*to = p.Figure(*v, u)
				}
			}
			put(&l.PH, r.PH, "pH")
			put(&l.EC, r.ECMS, unit.MS)
			put(&l.Level, r.LevelL, unit.Litre)
			put(&l.Temp, r.TempC, unit.Celsius)
			l.PHOut, l.ECOut = outside(r.PH, spec.PHLow, spec.PHHigh, "pH"), outside(r.ECMS, spec.ECLow, spec.ECHigh, unit.MS)
		}
		return l
	})
}
