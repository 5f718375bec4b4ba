package harden

import (
	"fmt"
	"math"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Tender is how much cold and wind young plants bear, and how many nights outside they want at the end.
type Tender struct {
	MarginC    float64 // above the lowest safe temperature
	MaxWindKMH float64
	Nights     int
}

// Tenders are starting values by tenderness.
var Tenders = map[string]Tender{"hardy": {0, 45, 4}, "half_hardy": {1, 35, 3}, "tender": {2, 25, 2}}

// Usual figures of a gated ramp.
const (
	UsualOut     = 9.0  // o'clock
	UsualHottest = 32.0 // °C
	UsualSetback = 4    // days in a row that do not count take a step back
	mostGated    = 120  // days until which it has to end
	mostUntil    = 366  // days until somebody is there
)

// Forecast is a day's weather.
type Forecast struct {
	Day                 calendar.Day
	MinC, MaxC, WindKMH float64
}

// at is the temperature at an hour: a wave that is highest at three in the afternoon.
func (f Forecast) at(hour float64) float64 {
	return (f.MaxC+f.MinC)/2 + (f.MaxC-f.MinC)/2*math.Cos(2*math.Pi*(hour-15)/24)
}

// coldest is the least from an hour on for some hours of the same day.
func (f Forecast) coldest(from, hours float64) float64 {
	least := math.Min(f.at(from), f.at(from+hours))
	if from <= 3 && from+hours >= 3 {
		least = math.Min(least, f.MinC)
	}
	return least
}

// GateInput is a ramp of so many steps, day by day from Start, with what is known of the weather.
type GateInput struct {
	Start                 calendar.Day
	Steps                 int
	FirstHours, LastHours float64
	OutAt                 float64 // hour of the day
	Gated                 bool    // a bad day does not count; else the ramp runs on by open days
	SafeC                 float64
	Tender                Tender
	HottestC              float64
	SetbackDays           int  // 0: never
	FrameBetween          bool // they stand in a frame on days without people, and lose nothing
	WaitUnknown           bool // a day without a forecast is waited out; else it is taken for good
	Workdays              []int
	Closed                []calendar.Closure
	Forecast              []Forecast
}

// GateDay is a day of the ramp. Reason is "step" where they go out.
type GateDay struct {
	Day       calendar.Day
	Step      int
	Counts    bool
	Reason    string
	Hours     float64
	BringInAt *float64 // nil when in, or out overnight
	Night     string   // on a step: not_yet, closed, unknown, too_cold, too_windy, out; else ""
	Known     bool
	ColdestC  *float64
}

// Gate is how a ramp comes out.
type Gate struct {
	Ready                      calendar.Day // 0: never, or nobody is there
	Counted, Waited, NightsOut int
	Days                       []GateDay
	Steps                      []working.Step
}

func (in GateInput) check() error {
	var e field.Errors
	e.Require(in.Steps >= 1 && in.Steps <= 60, "days", "must be 1 to 60 days")
	e.Require(in.FirstHours > 0 && in.FirstHours <= 24, "first_hours", "must be above 0, up to 24 hours")
	e.Require(in.LastHours >= in.FirstHours && in.OutAt+in.LastHours <= 24, "last_hours", "must not be below the first, and must end on the same day")
	e.Require(in.OutAt >= 0 && in.OutAt <= 23, "out_at", "must be 0 to 23 o’clock")
	e.Require(in.SafeC >= -30 && in.SafeC <= 30, "safe_c", "must be −30 to 30 °C")
	e.Require(in.Tender.MarginC >= 0 && in.Tender.MarginC <= 15, "margin_c", "must be 0 to 15 °C")
	e.Require(in.Tender.MaxWindKMH > 0 && in.Tender.MaxWindKMH <= 200, "max_wind_km_h", "must be above 0, up to 200 km/h")
	e.Require(in.Tender.Nights >= 0 && in.Tender.Nights <= in.Steps, "nights", "must be 0 or more, and no more than there are steps")
	e.Require(in.HottestC >= 0 && in.HottestC <= 60, "hottest_c", "must be 0 to 60 °C")
	e.Require(in.SetbackDays >= 0 && in.SetbackDays <= 365, "setback_days", "must be 0 to 365 days")
	e.Require(len(in.Workdays) > 0, "workdays", "needs at least one of 1 (Monday) to 7")
	for i, w := range in.Workdays {
		e.Require(w >= 1 && w <= 7, fmt.Sprintf("workdays.%d", i), "must be 1 (Monday) to 7")
	}
	for i, c := range in.Closed {
		e.Require(c.From <= c.To, fmt.Sprintf("closed.%d.to", i), "is before from")
	}
	seen := map[calendar.Day]bool{}
	for i, f := range in.Forecast {
		at := fmt.Sprintf("forecast.%d.", i)
		e.Require(!seen[f.Day], at+"date", "is there twice")
		seen[f.Day] = true
		e.Require(f.MinC >= -60 && f.MinC <= 60, at+"min_c", "must be −60 to 60 °C")
		e.Require(f.MaxC >= f.MinC && f.MaxC <= 60, at+"max_c", "must be −60 to 60 °C, and not below the lowest")
		e.Require(f.WindKMH >= 0 && f.WindKMH <= 300, at+"wind_km_h", "must be 0 to 300 km/h")
	}
	return e.Err()
}

func (in GateInput) open(d calendar.Day) bool {
	return slices.Contains(in.Workdays, int(d-d.Monday())+1) &&
		!slices.ContainsFunc(in.Closed, func(c calendar.Closure) bool { return d >= c.From && d <= c.To })
}

// hours of a step, the first of which is 1.
func (in GateInput) hours(step int) float64 {
	if in.Steps == 1 {
		return in.LastHours
	}
	return in.FirstHours + (in.LastHours-in.FirstHours)*float64(step-1)/float64(in.Steps-1)
}

func (in GateInput) forecast(d calendar.Day) *Forecast {
	i := slices.IndexFunc(in.Forecast, func(f Forecast) bool { return f.Day == d })
	if i < 0 {
		return nil
	}
	return &in.Forecast[i]
}

func (in GateInput) cold(c float64) bool { return c < in.SafeC+in.Tender.MarginC-1e-9 }

// day is one day on which a step is due, before it is known whether it counts.
func (in GateInput) day(d calendar.Day, step int) GateDay {
	x := GateDay{Day: d, Step: step, Reason: "step"}
	h, f := in.hours(step), in.forecast(d)
	if f != nil {
		c := f.coldest(in.OutAt, h)
		x.Known, x.ColdestC = true, &c
	}
	switch {
	case !in.open(d):
		x.Reason = "closed"
	case f == nil && in.WaitUnknown:
		x.Reason = "unknown"
	case f == nil:
	case in.cold(*x.ColdestC):
		x.Reason = "too_cold"
	case f.WindKMH > in.Tender.MaxWindKMH:
		x.Reason = "too_windy"
	case f.MaxC > in.HottestC:
		x.Reason = "too_hot"
	}
	x.Counts = x.Reason == "step" || !in.Gated && x.Reason != "closed"
	if x.Reason == "step" {
		x.Hours, x.Night = h, in.night(d+1, step)
		if back := in.OutAt + h; x.Night != "out" {
			x.BringInAt = &back
		}
	}
	return x
}

// night says whether they stay out until the next day.
func (in GateInput) night(next calendar.Day, step int) string {
	f := in.forecast(next)
	switch {
	case step <= in.Steps-in.Tender.Nights:
		return "not_yet"
	case !in.open(next):
		return "closed"
	case f == nil && in.WaitUnknown:
		return "unknown"
	case f == nil:
	case in.cold(f.MinC):
		return "too_cold"
	case f.WindKMH > in.Tender.MaxWindKMH:
		return "too_windy"
	}
	return "out"
}

// ByWeather runs a ramp day by day from its start. It refuses with field.Errors.
func ByWeather(in GateInput) (Gate, error) {
	if err := in.check(); err != nil {
		return Gate{}, err
	}
	var g Gate
	c, idle := 0, 0
	for i := range mostGated {
		x := in.day(in.Start+calendar.Day(i), min(c+1, in.Steps))
		g.Days = append(g.Days, x)
		if x.Night == "out" {
			g.NightsOut++
		}
		if x.Counts {
			g.Counted++
			c, idle = min(in.Steps, c+1), 0
			if c == in.Steps && (!in.Gated || g.NightsOut >= in.Tender.Nights) {
				g.Ready = in.ready(x.Day)
				break
			}
			continue
		}
		g.Waited++
		if in.FrameBetween && x.Reason == "closed" {
			continue
		}
		if idle++; in.Gated && in.SetbackDays > 0 && idle%in.SetbackDays == 0 {
			c = max(0, c-1)
		}
	}
	g.Steps = []working.Step{
		{
			Name:    say.T("Hours of the second step"),
			Formula: say.T("%.4g + (%.4g − %.4g) ÷ %d", in.FirstHours, in.LastHours, in.FirstHours, max(1, in.Steps-1)),
			Value:   in.hours(min(2, in.Steps)), Unit: "h",
		},
		{Name: say.T("Too cold below"), Formula: say.T("%.4g + %.4g", in.SafeC, in.Tender.MarginC), Value: in.SafeC + in.Tender.MarginC, Unit: "°C"},
		{Name: say.T("Days that count"), Formula: say.T("%d steps and %d more", in.Steps, max(0, g.Counted-in.Steps)), Value: float64(g.Counted)},
	}
	return g, nil
}

// ready is the first day after the last on which somebody is there; 0: none within a year.
func (in GateInput) ready(last calendar.Day) calendar.Day {
	for d := last + 1; d <= last+mostUntil; d++ {
		if in.open(d) {
			return d
		}
	}
	return 0
}
