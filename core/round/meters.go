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

// Calibrate is putting a pen into its buffers.
var Calibrate = declare(Kind{Name: "calibrate", Of: Meters, Writes: true, EndedBy: []string{"calibration"}})

// OfMeter is a pen that is due.
func (s Day) OfMeter(m Meter) []Task {
	if m.Due > s.Today {
		return nil
	}
	t := s.task(Calibrate, m.ID, m.Place)
	t.Before, t.Urgency, t.Minutes = say.T("Calibrate %s", say.Name(m.Name)), Soon, 8
	t.Why = say.T("Nobody has checked it in buffers yet; its readings are worth little more than a colour card.")
	if m.Last != 0 {
		t.Why = say.T("Last calibrated on %s. The older that is, the less its readings are worth.", m.Last.Short())
	}
	return []Task{t}
}
