package round

import (
	"ulpa/core/calendar"
	"ulpa/core/say"
)

// Job is something a school does of its own at a place.
type Job struct {
	ID, Name, Place string
	For             string // the crew or person it is given to; "": whoever comes
	Minutes         int
	From            calendar.Day // the first day it is due
	Every           int          // days until it is due again; 0: once
	Last            calendar.Day // when it was last ticked off; 0: never
}

// Due is the day on which the job is due next; 0 when it is done for good.
func (j Job) Due() calendar.Day {
	switch {
	case j.Last == 0 || j.Last < j.From:
		return j.From
	case j.Every == 0:
		return 0
	}
	return j.Last + calendar.Day(j.Every)
}

// jobTasks are the school's own jobs at a place.
func (s School) jobTasks(p Place) (out []Task) {
	for _, j := range s.Jobs {
		due := j.Due()
		if j.Place != p.ID || due == 0 || due > s.Today {
			continue
		}
		t := Task{
			Key: s.key("job", j.ID), Kind: "job", Before: say.Name(j.Name), Urgency: Today, Minutes: j.Minutes, For: j.For, Job: j.ID,
			Why: say.T("A job of our own, due since %s.", due.Short()),
		}
		if due == s.Today {
			t.Why = say.T("A job of our own, due today.")
		}
		if j.Last != 0 {
			t.Why = say.T("%s Last done %s.", t.Why, j.Last.Short())
		}
		out = append(out, t)
	}
	return out
}
