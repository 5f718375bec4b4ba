package climate

import (
	"fmt"
	"math"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Minimum is one night's low, °C.
type Minimum struct {
	Day calendar.Day
	C   float64
}

// FrostInput is a station's nights.
type FrostInput struct {
	Minima     []Minimum
	ThresholdC float64
	South      bool
	Risks      []float64
}

// RiskDate is the safe day at a risk; "" when no day of the half is safe enough.
type RiskDate struct {
	Risk float64
	Date string // MM-DD
	Hit  int    // counted years with a frost on that day or past it
}

// Half is what the counted springs or autumns say.
type Half struct {
	Years  int
	ByRisk []RiskDate
}

// FrostYear is one calendar year as measured; nil where no frost or not counted.
type FrostYear struct {
	Year                         int
	LastSpring, FirstAutumn      *calendar.Day
	SpringCounted, AutumnCounted bool
}

// Frost is the answer.
type Frost struct {
	Spring, Autumn Half
	EachYear       []FrostYear
	Steps          []working.Step
}

type halfYear struct {
	days  int
	frost *calendar.Day // last of spring, first of autumn
}

type frostBook struct{ spring, autumn map[int]*halfYear }

// OfFrost answers which day is safe at which risk. Spring is the half-year
// before midsummer where the school is; a half counts when nine days in ten
// are there. It refuses with field.Errors.
func OfFrost(in FrostInput) (Frost, error) {
	if err := in.check(); err != nil {
		return Frost{}, err
	}
	book := in.read()
	var out Frost
	var springs, autumns []calendar.Day
	first, last := math.MaxInt, math.MinInt
	for _, m := range []map[int]*halfYear{book.spring, book.autumn} {
		for y := range m {
			first, last = min(first, y), max(last, y)
		}
	}
	for y := first; y <= last; y++ {
		sp, au := book.spring[y], book.autumn[y]
		if sp == nil && au == nil {
			continue
		}
		fy := FrostYear{Year: y, SpringCounted: in.counts(sp, y, true), AutumnCounted: in.counts(au, y, false)}
		if fy.SpringCounted {
			out.Spring.Years++
			if fy.LastSpring = sp.frost; sp.frost != nil {
				springs = append(springs, *sp.frost)
			}
		}
		if fy.AutumnCounted {
			out.Autumn.Years++
			if fy.FirstAutumn = au.frost; au.frost != nil {
				autumns = append(autumns, *au.frost)
			}
		}
		out.EachYear = append(out.EachYear, fy)
	}
	out.Spring.ByRisk = in.risks(springs, out.Spring.Years, true)
	out.Autumn.ByRisk = in.risks(autumns, out.Autumn.Years, false)
	out.Steps = append(out.Spring.steps("Spring, frost on or after %s"), out.Autumn.steps("Autumn, frost on or before %s")...)
	return out, nil
}

// steps are the shares of years that the dates rest on.
func (h Half) steps(name say.Words) (out []working.Step) {
	for _, r := range h.ByRisk {
		if r.Date != "" {
			out = append(
				out,
				working.Step{
					Name:    say.T(name, r.Date),
					Formula: say.T("%d of %d years", r.Hit, h.Years),
					Value:   float64(r.Hit) / float64(h.Years),
					Source:  say.T("share of the years counted"),
				},
			)
		}
	}
	return out
}

func (in FrostInput) check() error {
	var e field.Errors
	e.Require(len(in.Minima) > 0, "daily_minima", "needs at least one night")
	e.Require(in.ThresholdC >= -90 && in.ThresholdC <= 60, "threshold_c", "must be −90 to 60 °C")
	e.Require(len(in.Risks) > 0, "risks", "needs at least one risk")
	for i, r := range in.Risks {
		e.Require(r >= 0 && r <= 1, fmt.Sprintf("risks.%d", i), "must be a share from 0 to 1")
	}
	seen := make(map[calendar.Day]bool, len(in.Minima))
	for i, m := range in.Minima {
		if !(m.C >= -90 && m.C <= 60) {
			e.Add(fmt.Sprintf("daily_minima.%d.c", i), "must be −90 to 60 °C; leave a missing night out")
		}
		if seen[m.Day] {
			e.Add(fmt.Sprintf("daily_minima.%d.date", i), "is in the list twice")
		}
		seen[m.Day] = true
		if len(e) > 100 {
			break
		}
	}
	return e.Err()
}

// isSpring tells which half of the year a month belongs to.
func (in FrostInput) isSpring(m time.Month) bool { return (m <= time.June) != in.South }

func (in FrostInput) read() frostBook {
	book := frostBook{map[int]*halfYear{}, map[int]*halfYear{}}
	for _, m := range in.Minima {
		y, month, _ := m.Day.UTC().Date()
		half := book.autumn
		spring := in.isSpring(month)
		if spring {
			half = book.spring
		}
		h := half[y]
		if h == nil {
			h = &halfYear{}
			half[y] = h
		}
		h.days++
		if m.C > in.ThresholdC {
			continue
		}
		if h.frost == nil || (spring && m.Day > *h.frost) || (!spring && m.Day < *h.frost) {
			d := m.Day
			h.frost = &d
		}
	}
	return book
}

func (in FrostInput) counts(h *halfYear, year int, spring bool) bool {
	if h == nil {
		return false
	}
	from, to := in.bounds(spring)
	start := calendar.Date(year, from.month, from.day)
	length := int(calendar.Date(year, to.month, to.day)-start) + 1
	return 10*h.days >= 9*length
}

type monthDay struct {
	month time.Month
	day   int
}

func (in FrostInput) bounds(spring bool) (from, to monthDay) {
	if spring != in.South {
		return monthDay{1, 1}, monthDay{6, 30}
	}
	return monthDay{7, 1}, monthDay{12, 31}
}

// order counts a day's place in a common year; 29 February counts as 1 March.
func order(d calendar.Day) int {
	_, m, day := d.UTC().Date()
	return calendar.Date(2001, m, day).UTC().YearDay() // 2001-02-29 is 2001-03-01
}

// risks finds, for each risk, the earliest safe day of spring or the latest of autumn.
func (in FrostInput) risks(frosts []calendar.Day, years int, spring bool) []RiskDate {
	from, to := in.bounds(spring)
	first, last := calendar.Date(2001, from.month, from.day).UTC().YearDay(), calendar.Date(2001, to.month, to.day).UTC().YearDay()
	on := map[int]int{}
	for _, f := range frosts {
		on[order(f)]++
	}
	hit := make(map[int]int, last-first+1) // years with a frost still to come, or already come
	n := 0
	if spring {
		for d := last; d >= first; d-- {
			n += on[d]
			hit[d] = n
		}
	} else {
		for d := first; d <= last; d++ {
			n += on[d]
			hit[d] = n
		}
	}
	var out []RiskDate
	for _, r := range in.Risks {
		x := RiskDate{Risk: r}
		for i := range last - first + 1 {
			d := first + i
			if !spring {
				d = last - i
			}
			if years > 0 && float64(hit[d])/float64(years) <= r {
				x.Hit, x.Date = hit[d], calendar.Date(2001, 1, d).UTC().Format("01-02")
				break
			}
		}
		out = append(out, x)
	}
	return out
}
