// Package harden plans how plants get used to the weather: so many hours
// outside on each day, more by and by.
package harden

import (
	"math"

	"ulpa/core/calendar"
)

// Day is one day of the ramp. On a closed day nobody opens the frame: the
// plants stay in with the lid propped, and the ramp waits.
type Day struct {
	Day    calendar.Day
	Step   int     // 1 for the first working day of the ramp; 0 on a closed day
	Hours  float64 // outside, or with the lid open
	Night  bool    // out overnight from this day on
	Closed bool
}

// MinDays and MaxDays bound a ramp's working days.
const (
	MinDays = 5
	MaxDays = 21
)

// Ramp is the fixed ramp: from two hours to a full ten over the given working
// days, the last fifth of them out overnight. It starts on the first open day
// from start on. steps outside MinDays to MaxDays are brought inside.
func Ramp(school calendar.School, start calendar.Day, steps int) []Day {
	steps = max(MinDays, min(MaxDays, steps))
	var out []Day
	step := 0
	for d := start; step < steps && len(out) < 400; d++ {
		if !school.Open(d) {
			if step > 0 {
				out = append(out, Day{Day: d, Closed: true})
			}
			continue
		}
		step++
		share := float64(step-1) / float64(steps-1)
		out = append(out, Day{
			Day: d, Step: step, Hours: math.Round(2*(2+8*share)) / 2,
			Night: step > steps-(steps+4)/5,
		})
	}
	return out
}

// On is the ramp's day for a date, and whether the ramp covers it.
func On(ramp []Day, d calendar.Day) (Day, bool) {
	for _, x := range ramp {
		if x.Day == d {
			return x, true
		}
	}
	return Day{}, false
}
