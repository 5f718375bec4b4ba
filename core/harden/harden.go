// Package harden plans how plants get used to the weather: so many hours
// outside on each day, more by and by, within the school's day.
//
//	p := harden.Plan{School: school, Start: today, Steps: 10, DayHours: 7}
//	day, ok := harden.On(p.Ramp(today), today)
package harden

import (
	"maps"
	"math"
	"slices"

	"ulpa/core/calendar"
)

// Day is one day of the ramp. On a closed day nobody opens the frame, and a day on
// which it was not opened does not count: the ramp waits. After a long wait it goes back.
type Day struct {
	Day    calendar.Day
	Step   int     // of the ramp; 0 on a day that does not count; the last one once it is over
	Hours  float64 // outside, or with the lid open
	Night  bool    // out overnight from this step on, where the night allows
	Closed bool
	Done   bool // it was opened
	Missed bool // it was not, and the day is past
}

// MinDays and MaxDays bound a ramp's working days.
const (
	MinDays = 5
	MaxDays = 21
)

const (
	firstHours = 2.0
	mostHours  = 10.0
	margin     = 0.5 // hours of the school's day to open and close in
)

// Plan is what a ramp is made from.
type Plan struct {
	School   calendar.School
	Start    calendar.Day
	Steps    int                   // working days; brought inside MinDays to MaxDays
	DayHours float64               // of the school's day
	Done     map[calendar.Day]bool // the days on which it was opened
}

// Steps a ramp has, whatever was asked.
func (p Plan) steps() int { return max(MinDays, min(MaxDays, p.Steps)) }

// hours of a step, from two to as many as the school's day holds, ten at most.
func (p Plan) hours(step int) float64 {
	last := min(mostHours, max(firstHours, p.DayHours-margin))
	share := float64(step-1) / float64(p.steps()-1)
	return math.Round(2*(firstHours+(last-firstHours)*share)) / 2
}

const (
	keptDays   = 3
	daysOfLoss = 2
)

// Lost is how many days of hardening off are lost in so many days without one: none over a weekend
// and the day after it, then one in two (plants lose it faster than they gain it: Kalberer,
// Wisniewski and Arora 2006, Plant Sci. 171:3).
func Lost(idle int) int { return max(0, (idle-keptDays)/daysOfLoss) }

// after is the step that is left of one after so many days without a day outside: half of it at
// least, for a closed frame is cool.
func after(step, idle int) int { return step - min(step/2, Lost(idle)) }

// next is the step of a day outside, after the one that was reached on another.
func (p Plan) next(step int, last, d calendar.Day) int {
	return min(after(step, int(d-last)-1)+1, p.steps())
}

// Ramp is the plan day by day from its start: what was done, and from today on one step
// each open day, until the last; once that is reached, the last again on each day until today.
// The last fifth of the steps are out overnight.
func (p Plan) Ramp(today calendar.Day) []Day {
	steps := p.steps()
	var out []Day
	step, last := 0, p.Start
	for d := p.Start; (step < steps || d <= today) && len(out) < 400; d++ {
		x := Day{Day: d}
		switch {
		case !p.School.Open(d):
			x.Closed = true
		case d < today && !p.Done[d]:
			x.Missed = true
		default:
			step, last = p.next(step, last, d), d
			x.Step, x.Hours, x.Night, x.Done = step, p.hours(step), step > steps-(steps+4)/5, p.Done[d]
		}
		if len(out) > 0 || !x.Closed {
			out = append(out, x)
		}
	}
	return out
}

// Over tells whether every step was done, and not lost again by a day.
func (p Plan) Over(today calendar.Day) bool {
	step, last := 0, p.Start
	for _, d := range slices.Sorted(maps.Keys(p.Done)) {
		if p.Done[d] && d <= today {
			step, last = p.next(step, last, d), d
		}
	}
	return after(step, int(today-last)-1) >= p.steps()
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
