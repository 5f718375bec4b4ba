package sim

import (
	"math"

	"ulpa/core/calendar"
)

// Climate is what the weather of a place varies around.
type Climate struct {
	LatitudeDeg   float64
	MeanC, SwingC float64 // of the days: over the year, and from that to the warmest
	Coldest       int     // day of the year
	RangeC        float64 // between night and afternoon of a clear day
	DailySD       float64 // of a day's mean around the usual, °C
	Memory        float64 // share of that which is left a day later
	Clear         float64 // the share of the sun's light that comes through, usually
	WetDays       float64 // share of days with rain
	RainMM        float64 // on such a day
	WindMS        float64
}

// Temperate is a maritime climate at 52° North.
var Temperate = Climate{
	LatitudeDeg: 52, MeanC: 10.2, SwingC: 7, Coldest: 20, RangeC: 11, DailySD: 3.2, Memory: 0.78, Clear: 0.42, WetDays: 0.38, RainMM: 4.5, WindMS: 3.2,
}

// Hour is the weather of an hour.
type Hour struct {
	C, SunWM2, VPDKPa, WindMS, RainMM float64
}

// Weather is that of a season, hour by hour.
type Weather struct {
	Climate Climate
	From    calendar.Day
	hours   []Hour
	chance  uint64
}

// NewWeather draws the weather of so many days. A day's mean follows the day before (an
// autoregression, as in Richardson 1981), and clear days are warmer by day and colder by night.
func NewWeather(seed uint64, c Climate, from calendar.Day, days int) *Weather {
	w := &Weather{Climate: c, From: from, chance: seed}
	luck := ChanceOf(seed, "weather")
	off, sky := luck.Normal(0, c.DailySD), luck.Normal(0, 1)
	for d := range days {
		off = c.Memory*off + luck.Normal(0, c.DailySD*math.Sqrt(1-c.Memory*c.Memory))
		sky = 0.4*sky + luck.Normal(0, math.Sqrt(1-0.16))
		wet := luck.Happens(c.WetDays * (1 - 0.5*math.Tanh(sky)))
		clear := max(0.12, min(0.75, c.Clear+0.16*sky))
		rain := 0.0
		if wet {
			clear, rain = max(0.1, clear*0.65), c.RainMM*luck.ExpFloat64()
		}
		wind := c.WindMS * luck.Spread(0.45)
		w.day(from+calendar.Day(d), off, clear, rain, wind)
	}
	return w
}

// day adds the hours of a day.
func (w *Weather) day(day calendar.Day, off, clear, rain, wind float64) {
	c := w.Climate
	doy := float64(day.UTC().YearDay())
	mean := c.MeanC - c.SwingC*math.Cos(2*math.Pi*(doy-float64(c.Coldest))/365) + off
	half := c.RangeC * (0.35 + 0.9*clear) / 2
	low := mean - half
	vapour := saturation(low - 1)
	wetHour := int(doy*7) % 20
	for h := range 24 {
		x := Hour{C: mean + half*math.Cos(2*math.Pi*(float64(h)-15)/24), WindMS: wind * (0.8 + 0.4*math.Cos(2*math.Pi*(float64(h)-15)/24))}
		x.SunWM2 = clear * extraterrestrial(c.LatitudeDeg, doy, float64(h)+0.5)
		x.VPDKPa = max(0.02, saturation(x.C)-vapour)
		if h >= wetHour && h < wetHour+4 {
			x.RainMM = rain / 4
		}
		w.hours = append(w.hours, x)
	}
}

// saturation is the pressure of water vapour over water, kPa (Magnus's formula with the constants
// of Alduchov and Eskridge 1996).
func saturation(c float64) float64 { return 0.61094 * math.Exp(17.625*c/(c+243.04)) }

// extraterrestrial is the sun on a level square metre above the air, W/m², at a solar hour
// (declination by Cooper 1969, distance as Duffie and Beckman give it).
func extraterrestrial(latitudeDeg, doy, hour float64) float64 {
	lat := latitudeDeg * math.Pi / 180
	tilt := 23.45 * math.Pi / 180 * math.Sin(2*math.Pi*(284+doy)/365)
	angle := (hour - 12) * 15 * math.Pi / 180
	high := math.Sin(lat)*math.Sin(tilt) + math.Cos(lat)*math.Cos(tilt)*math.Cos(angle)
	return max(0, 1361*(1+0.033*math.Cos(2*math.Pi*doy/365))*high)
}

// Days are how many there are.
func (w *Weather) Days() int { return len(w.hours) / 24 }

// At is an hour of it, counted from the first.
func (w *Weather) At(hour int) Hour { return w.hours[max(0, min(hour, len(w.hours)-1))] }

// LowC is the lowest of the night that begins on a day: from its evening to the next morning.
func (w *Weather) LowC(day calendar.Day) float64 {
	low := math.Inf(1)
	for h := 18; h < 18+15; h++ {
		low = min(low, w.At(int(day-w.From)*24+h).C)
	}
	return low
}

// ForecastC is what is forecast on a day for a night so many days ahead: the further, the worse.
func (w *Weather) ForecastC(on calendar.Day, ahead int) float64 {
	night := on + calendar.Day(ahead)
	return w.LowC(night) + ChanceOf(w.chance, "forecast", on, ahead).Normal(0, 1.1+0.45*float64(ahead))
}
