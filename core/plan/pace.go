package plan

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/growth"
)

// Weather is how light and warm a place is by day: as far as anybody knows.
type Weather struct {
	LightMol func(calendar.Day) float64 // mol/m² and day
	WarmC    func(calendar.Day) float64
}

// The light and warmth in which a crop takes its usual days.
const (
	usualLightMol = 12
	usualWarmC    = 20
	leafBaseC     = 4 // of lettuce and its like
	longest       = 3 // times the usual days, at most
)

// warmthOf is how a leafy crop takes to warmth: like lettuce, but for what needs more of it, by the
// temperatures between which its seed germinates (they go together: Trudgill and others 2005).
func warmthOf(c crop.Crop) growth.Parameters {
	p := growth.Lettuce
	if c.BaseC > leafBaseC {
		p.BaseC, p.LeafBaseC = c.BaseC, c.BaseC
		p.OptimumLowC = max(p.OptimumLowC, c.OptimumC-2)
		p.OptimumHighC = max(p.OptimumHighC, p.OptimumLowC+2)
		p.CeilingC = max(p.CeilingC, p.OptimumHighC+5)
	}
	return p
}

// TrayDays are the days that a stage of so many usual ones takes when it ends on a day: as
// many as bring it the same warmth above a base as those at 20 °C do, times a school's own pace
// (1: the usual; 1.2: its plants take a fifth more warmth for a leaf).
func TrayDays(usual int, baseC float64, end calendar.Day, w Weather, pace float64) int {
	need := float64(usual) * (usualWarmC - baseC) * pace
	for n := 1; n < longest*usual; n++ {
		if need -= math.Max(0, w.WarmC(end-calendar.Day(n))-baseC); need <= 1e-9 {
			return n
		}
	}
	return longest * usual
}

// GrownDays are the days from sowing to harvest of a leafy crop of so many usual ones when it is
// harvested on a day and is to weigh so many times what it usually does: as many as give it that
// weight, where those give it the usual one at 20 °C and 12 mol of light (growth.Grow, as lettuce,
// with the crop's own warmth).
func GrownDays(c crop.Crop, usual int, times float64, end calendar.Day, w Weather) int {
	usual = min(usual, growth.LastDay/longest)
	target := times * UsualGrams(c, usual)
	low, high := max(1, usual/2), longest*usual // not enough with low, enough with high, or as long as is worked out
	for low < high {
		n := (low + high) / 2
		from := end - calendar.Day(n)
		on := func(f func(calendar.Day) float64) func(int) float64 {
			return func(d int) float64 { return f(from + calendar.Day(d)) }
		}
		if grownGrams(c, n, on(w.LightMol), on(w.WarmC)) >= target {
			high = n
		} else {
			low = n + 1
		}
	}
	return low
}

// UsualGrams are what a head of a crop that weighs as much as lettuce does after so many days at
// 20 °C and 12 mol of light.
func UsualGrams(c crop.Crop, days int) float64 {
	return grownGrams(c, days, func(int) float64 { return usualLightMol }, func(int) float64 { return usualWarmC })
}

// grownGrams is the fresh weight after so many days of such light and warmth, close at first and
// then spaced.
func grownGrams(c crop.Crop, days int, light, warm func(int) float64) float64 {
	in := growth.Input{EmergenceDays: 4, Spacing: []growth.Spacing{{FromDay: 0, PlantsM2: 400}, {FromDay: max(1, days/2), PlantsM2: 25}}, Parameters: warmthOf(c)}
	for d := range days {
		in.LightMol, in.TemperatureC = append(in.LightMol, light(d)), append(in.TemperatureC, warm(d))
	}
	in.OnDay = &days
	a, err := growth.Grow(in)
	if err != nil || a.On == nil {
		return 0
	}
	return a.On.FreshG
}
