package round

import (
	"ulpa/core/calendar"
	"ulpa/core/say"
)

// Meter is a pen that is kept at a place, and the day on which it is to be put into buffers.
type Meter struct {
	ID, Name, Place string
	Due             calendar.Day
	Last            calendar.Day // 0: never
}

// meterTasks are the pens that are due at a place.
func (s School) meterTasks(p Place) (out []Task) {
	for _, m := range s.Meters {
		if m.Place != p.ID || m.Due > s.Today {
			continue
		}
		why := say.T("Nobody has put it into buffers yet; what it reads is worth little more than a card.")
		if m.Last != 0 {
			why = say.T("Last on %s. What it reads is worth less from week to week.", m.Last.Short())
		}
		out = append(out, Task{
			Key: s.key("calibrate", m.ID), Kind: "calibrate", Before: say.T("Calibrate %s", say.Name(m.Name)), Why: why, Urgency: Soon, Minutes: 8, Meter: m.ID,
		})
	}
	return out
}
