// Package tower is what a person should know who plants and keeps a tower or another system
// with a pump: which tier suits a crop and why, what it means when the pump stops, and what
// is done, in order, before the first plant and between two crops.
//
//	a := tower.Where(basil, 5)
//	a.Tiers // best first
package tower

import (
	"math"

	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// Advice is the tiers that suit a crop, from 0 at the top, best first, and why.
type Advice struct {
	Tiers []int
	Why   say.Text
}

// A crop taller than this, cm, shades what stands below it; one of more than that is heavy.
const (
	tallCM  = 38
	heavyCM = 55
)

// Where is where a crop stands best in a tower of so many tiers: heavy and sprawling ones
// low, upright tall ones at the top, where they shade nobody, what is cut often at the
// height of hands, small ones wherever there is light left over.
func Where(c crop.Crop, tiers int) Advice {
	low, high := tiers-1, 0
	middle := (tiers - 1) / 2
	sprawls := c.Habit == "climbing" || c.Habit == "trailing"
	switch {
	case sprawls || c.HeightCM > heavyCM || c.Kind == "fruiting":
		return Advice{towards(low, tiers), say.T("Heavy or sprawling: plant it at the bottom, where it pulls least and can hang. Tie it up; a tower can " +
			"tip over.")}
	case c.HeightCM >= tallCM && !c.Cuts:
		return Advice{towards(high, tiers), say.T("Tall: put it at the top, where it shades nothing.")}
	case c.Cuts:
		return Advice{towards(middle, tiers), say.T("You cut it again and again: put it at hand height.")}
	}
	return Advice{towards(high, tiers), say.T("Small and quick: near the top, in the best light, clear of hanging plants.")}
}

// towards are all tiers, nearest to one first, the lower of two first.
func towards(at, tiers int) (out []int) {
	for d := 0; d < tiers; d++ {
		for _, t := range []int{at + d, at - d} {
			if t >= 0 && t < tiers && (d > 0 || len(out) == 0) {
				out = append(out, t)
			}
		}
	}
	return out
}

// What a cube of mineral wool or foam holds, of its volume, and how much of that may go
// before leaves hang; and how much of a day's water goes by day: starting values.
const (
	CubeML   = 40.0
	holds    = 0.8
	mayGo    = 0.5
	byDay    = 0.9
	dayHours = 12.0
)

// Stopped is how long plants stand it when nothing flows.
type Stopped struct {
	DayHours, NightHours float64
	Steps                []working.Step
}

// PumpStops answers how long plants last in cubes of so many mL that drink so many litres a
// day each; zero where that is not known.
func PumpStops(litresDay, cubeML float64) Stopped {
	if litresDay <= 0 || cubeML <= 0 {
		return Stopped{}
	}
	store := cubeML * holds * mayGo
	day := 1000 * litresDay * byDay / dayHours
	night := 1000 * litresDay * (1 - byDay) / (24 - dayHours)
	return Stopped{DayHours: store / day, NightHours: math.Min(store/night, 72), Steps: []working.Step{
		{Name: say.T("Water a cube can lose"), Formula: say.T("%.3g × %.2g × %.2g", cubeML, holds, mayGo), Value: store, Unit: unit.Millilitre},
		{Name: say.T("Drunk in an hour of daylight"), Formula: say.T("%.3g × %.2g ÷ %.3g", 1000*litresDay, byDay, dayHours), Value: day, Unit: unit.Millilitre},
	}}
}

// Timer says whether a pump that runs for some minutes in every so many waters often enough:
// a cube must not lose more than a third of what may go before it runs again.
func Timer(onMin, everyMin float64, stopped Stopped) (says say.Text, ok bool) {
	if everyMin <= 0 || onMin <= 0 || stopped.DayHours <= 0 {
		return nil, true
	}
	off := (everyMin - onMin) / 60
	if off <= stopped.DayHours/3 {
		return say.T("It runs %.0f minutes in every %.0f minutes: often enough by day.", onMin, everyMin), true
	}
	return say.T("It is off for %.0f minutes at a time: too long by day for cubes that last %.1f hours.", everyMin-onMin, stopped.DayHours), false
}
