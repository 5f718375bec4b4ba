package tank

import (
	"math"
	"time"

	"ulpa/core/say"
	"ulpa/core/vessel"
	"ulpa/core/working"
)

// Weather is what air and light draw from a m² of leaves at a tank's place, L, day by day
// from a day on: as it was measured, and as it is to be expected. The zero Weather is not
// known; then every day is like every other.
type Weather struct {
	From  time.Time
	Daily []float64 // above 0
}

// How far the weather to come may change what a record says, either way: beyond it the
// place, not the weather, must have been another.
const mostWeather = 3.0

// Mean is what is drawn in a day between two times; before the first day and after the
// last it is as on those. 0: nobody knows.
func (w Weather) Mean(from, to time.Time) float64 {
	if len(w.Daily) == 0 {
		return 0
	}
	day := func(t time.Time) float64 { return t.Sub(w.From).Hours() / 24 }
	at := func(i int) float64 { return w.Daily[min(max(i, 0), len(w.Daily)-1)] }
	a, b := day(from), day(to)
	if b-a < 1e-9 {
		return at(int(math.Floor(a)))
	}
	sum := 0.0
	for x := a; x < b; {
		next := min(math.Floor(x)+1, b)
		sum += at(int(math.Floor(x))) * (next - x)
		x = next
	}
	return sum / (b - a)
}

// Beside is how much more is drawn in a day between two times than was in an interval.
func (w Weather) Beside(x Interval, from, to time.Time) float64 {
	then, ahead := w.Mean(x.To.Add(-time.Duration(x.Days*24*float64(time.Hour))), x.To), w.Mean(from, to)
	if then <= 0 || ahead <= 0 {
		return 1
	}
	return min(max(ahead/then, 1/mostWeather), mostWeather)
}

// UsesBetween is how much the tank drinks with so many plants between two times: as Uses
// says, each of its intervals brought to the weather of then.
func (s *State) UsesBetween(spec Spec, plants int, from, to time.Time) vessel.Use {
	u := s.Uses(spec, plants)
	for i := range u.Past { // of each of the intervals one
		u.Past[i].Litres *= s.Weather.Beside(s.Thirst.Intervals[i], from, to)
	}
	return u
}

// weathered is how much more it drinks between two times than its record says by itself,
// with its step; 1 where nobody knows.
func (s *State) weathered(spec Spec, plants int, from, to time.Time) (float64, []working.Step) {
	as, is := s.Uses(spec, plants), s.UsesBetween(spec, plants, from, to)
	if len(as.Past) == 0 || len(s.Weather.Daily) == 0 {
		return 1, nil
	}
	was := as.Demand(1).Mean
	if was <= 0 {
		return 1, nil
	}
	factor := is.Demand(1).Mean / was
	return factor, []working.Step{{
		Name:    say.T("Weather ahead, compared with its record"),
		Formula: say.T("%.3g L/m² a day by light and air (Baille, Baille and Laury 1994)", s.Weather.Mean(from, to)), Value: factor,
	}}
}
