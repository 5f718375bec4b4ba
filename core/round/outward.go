package round

import (
	"ulpa/core/calendar"
	"ulpa/core/cold"
	"ulpa/core/say"
)

// ToFrame is the first day of hardening off, as the season has it.
var ToFrame = declare(Kind{Name: "to_frame", Of: Batches, Writes: true, EndedBy: []string{"harden", "set_out"}})

// Outward is when plants of a batch are to begin hardening off and to be planted out, as the
// season has it, and for which goal; a day that is 0 is not planned.
type Outward struct {
	Harden, Out calendar.Day
	Frame, Goal string
}

// hardensNow tells whether hardening off is to begin before anybody is here again.
func (s Day) hardensNow(b Batch) bool {
	next, _ := s.Calendar.Next(s.Today)
	return b.Outward != nil && b.Outward.Harden != 0 && b.Outward.Harden < next && b.Frame == ""
}

// outward asks to begin hardening off on its day, and to plant out on the day for which plants
// were raised, whether or not they are used to the weather by then; n of them are at the place.
func (s Day) outward(p Place, b Batch, n int, add adder) {
	x := b.Outward
	if x == nil || n == 0 || p.Kind == "bed" {
		return
	}
	many := say.Plural(n, "plant")
	switch next, _ := s.Calendar.Next(s.Today); {
	case x.Out != 0 && x.Out <= s.Today:
		u, why := Today, say.T("Planned for %s, for %s.", x.Out.Long(), say.Name(x.Goal))
		switch {
		case b.Harden == nil:
			why = say.T("%s They have never been outside: harden them off for a week first if that can wait, else plant on a dull, still day and shade them.", why)
		case !b.Harden.Over(s.Today):
			why = say.T("%s They have been outside for %s: choose a dull, still day, water well, and shade them at first.", why, say.Plural(b.GoodDays, "day"))
		default:
			return // it is asked for in the frame
		}
		add(SetOut, say.T("Plant out##task"), many, why, u, 15)
	case s.hardensNow(b):
		why := say.T("Planned for %s, for %s.", x.Harden.Long(), say.Name(x.Goal))
		if x.Out != 0 {
			why = say.T("%s They are to be planted out on %s.", why, x.Out.Long())
		}
		u := Today
		if worst, known := s.Cold.Worst(b.Crop, 0, cold.Cover, s.Today, next); known && worst.Protect {
			u, why = Soon, say.T("%s The nights until somebody is back are too cold for them: carry them out by day only, or wait for milder ones.", why)
		}
		add(ToFrame, say.T("Take##task"), say.T("to %s to harden off: %s", say.Name(x.Frame), many), why, u, 10)
	}
}
