package fish

import (
	"math"
	"time"

	"ulpa/core/say"
)

// Steps of a new system's filter, from nothing to ready.
const (
	CycleBegin   = "begin"
	CycleAmmonia = "rising"
	CycleNitrite = "nitrite"
	CycleTry     = "try" // nothing left; whether it does a day's work is to be tried
	CycleReady   = "ready"
)

// Cycling is how far a new filter has come.
type Cycling struct {
	Step string
	Day  int // since ammonia was first read
	Says say.Text
}

const (
	cycleSeen  = 0.5 // mg/L as N that counts as there
	cycleOver  = 0.3
	cycleDose  = 1.5  // mg/L that a trial begins with at least
	cycleHours = 26.0 // within which it must be gone: a day, and the hour's leeway of a school
	cycleKeeps = 7    // days that a filter without fish and without ammonia stays ready
)

// Cycle tells how far a filter has come by its readings: ammonia rises and falls, then nitrite
// does. It is ready for fish when an ammonia dose of 1.5 mg/L or more is gone by the next day,
// nitrite with it; two readings on different days show that. Unfed, it stays ready for a week.
// It usually takes three to six weeks.
func (s State) Cycle(now time.Time) Cycling {
	c := Cycling{Step: CycleBegin}
	var first, passed time.Time
	var dose *Dated
	ammonia, nitrite, low := false, false, false
	for i, r := range s.Readings {
		if r.TAN != nil && *r.TAN >= cycleSeen && !ammonia {
			ammonia, first = true, r.At
		}
		if r.Nitrite != nil && *r.Nitrite >= cycleSeen {
			nitrite, passed = true, time.Time{}
		}
		within := dose != nil && r.At.Sub(dose.At).Hours() <= cycleHours
		switch {
		case r.TAN != nil && r.Nitrite != nil && *r.TAN < cycleOver && *r.Nitrite < cycleOver:
			if low = true; within && nitrite && differ(r.At, dose.At) {
				passed = r.At
			}
			dose = nil
		case r.TAN != nil && *r.TAN >= cycleDose:
			dose, low = &s.Readings[i], false
		case r.TAN != nil && *r.TAN >= cycleOver:
			if low = false; dose != nil && !within {
				passed = time.Time{} // a dose that stayed
			}
		}
	}
	if ammonia {
		c.Day = int(math.Max(0, now.Sub(first).Hours()/24))
	}
	idle := now.Sub(passed).Hours() / 24
	switch {
	case !passed.IsZero() && idle <= cycleKeeps:
		c.Step, c.Says = CycleReady, say.T("Ready: a dose of ammonia was gone within a day. Few fish first, feed little, and read every day.")
	case !passed.IsZero():
		c.Step, c.Says = CycleTry, say.T("It was ready %.0f days ago; without ammonia its bacteria starve. Dose 2 mg/L again and read the next day.", idle)
	case ammonia && nitrite && low:
		c.Step = CycleTry
		c.Says = say.T("Day %d: ammonia and nitrite are gone. Now try it: dose to 2 mg/L of ammonia, read it, and read both again the next day. Only if both "+
			"are gone it is ready.", c.Day)
	case nitrite:
		c.Step, c.Says = CycleNitrite, say.T("Day %d: there is nitrite. Wait until it falls to nothing; keep it warm, dark and well aerated.", c.Day)
	case ammonia:
		c.Step, c.Says = CycleAmmonia, say.T("Day %d: there is ammonia, and no nitrite yet. Bacteria are settling in; that takes a week or two.", c.Day)
	default:
		c.Says = say.T("Not started yet: add a pinch of feed or a little ammonia solution, with no fish in it, until you read 2 to 3 mg/L of ammonia " +
			"(as N). An adult handles ammonia.")
	}
	return c
}

func differ(a, b time.Time) bool { return a.YearDay() != b.YearDay() || a.Year() != b.Year() }
