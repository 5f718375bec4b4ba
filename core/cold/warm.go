package cold

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/crop"
)

// What suffers far above frost hangs on the nights of a date and not on the last frost: basil
// at 12 °C, cucumber at 10.
const (
	chillFrom  = 3.0  // °C: below, frost alone decides
	warmestC   = 20   // °C, up to which nights are counted
	coolNights = 0.25 // share of a fortnight's nights that may be colder
	fortnight  = 14
	yearDays   = 365
)

// Warmth is for each whole °C the part of the usual year in which the nights are warm enough for
// plants that stand no colder ones.
type Warmth struct {
	south bool
	by    []season // by whole °C; empty: no nights are told
}

// season is days of the year, from the middle of winter; none where it never is.
type season struct {
	from, to int
	ever     bool
}

// warmthOf counts how often the nights of each fortnight were colder, all years together.
func warmthOf(nights []climate.Minimum, south bool) Warmth {
	var all [yearDays]float64
	var colder [warmestC + 1][yearDays]float64
	for _, n := range nights {
		d := yearDay(n.Day, south)
		all[d]++
		for c := max(0, int(math.Floor(n.C))+1); c <= warmestC; c++ {
			colder[c][d]++
		}
	}
	out := Warmth{south, make([]season, warmestC+1)}
	for c := range out.by {
		warm := func(d int) bool { // the fortnight that begins on a day of the year
			n, cold := 0.0, 0.0
			for i := d; i < d+fortnight; i++ {
				n, cold = n+all[i%yearDays], cold+colder[c][i%yearDays]
			}
			return n > 0 && cold <= coolNights*n
		}
		best := season{}
		for d := 0; d < yearDays-fortnight; { // the longest stretch of it
			if !warm(d) {
				d++
				continue
			}
			from := d
			for d < yearDays-fortnight && warm(d) {
				d++
			}
			if !best.ever || d-from > best.to-best.from {
				best = season{from, d + fortnight - 1, true}
			}
		}
		out.by[c] = best
	}
	return out
}

// yearDay is the place of a day in the year from the middle of its winter.
func yearDay(d calendar.Day, south bool) int {
	n := d.UTC().YearDay() - 1
	if south {
		n += yearDays - 181
	}
	return n % yearDays
}

// never lies beyond what anybody plans.
const never = calendar.Day(100 * yearDays)

func (w Warmth) of(safeC float64) (season, bool) {
	if w.by == nil || safeC < chillFrom {
		return season{}, false
	}
	return w.by[min(int(math.Ceil(safeC)), warmestC)], true
}

// From is from which day on, in the year nearest to one, nights are warm enough for what stands
// none below safeC; a day that never comes where they never are. It is false where frost alone
// decides, or no nights are told.
func (w Warmth) From(safeC float64, near calendar.Day) (calendar.Day, bool) {
	s, told := w.of(safeC)
	if !told {
		return 0, false
	}
	if !s.ever {
		return near + never, true
	}
	return w.day(s.from, near), true
}

// Until is until when.
func (w Warmth) Until(safeC float64, near calendar.Day) (calendar.Day, bool) {
	s, told := w.of(safeC)
	if !told || !s.ever {
		return 0, false
	}
	return w.day(s.to, near), true
}

// day is the day with a place in the year that is nearest to another.
func (w Warmth) day(place int, near calendar.Day) calendar.Day {
	d := near + calendar.Day(place-yearDay(near, w.south))
	if d-near > yearDays/2 {
		d -= yearDays
	} else if near-d > yearDays/2 {
		d += yearDays
	}
	return d
}

// NeverOut tells whether the nights here are never warm enough for a crop to stand in the open.
func (f Frosts) NeverOut(c crop.Crop) bool {
	s, told := f.Warm.of(c.SafeC)
	return told && !s.ever
}
