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

// Own is a job of the school's own. A tick does it.
var Own = declare(Kind{Name: "job", Of: Jobs, Alone: true})

// OfJob is a job of the school's own that is due.
func (s Day) OfJob(j Job) []Task {
	due := j.Due()
	if due == 0 || due > s.Today {
		return nil
	}
	t := s.task(Own, j.ID, j.Place)
	t.Before, t.Urgency, t.Minutes, t.For = say.Name(j.Name), Today, j.Minutes, j.For
	t.Why = say.T("One of our own jobs, due since %s.", due.Short())
	if due == s.Today {
		t.Why = say.T("A job of our own, due today.")
	}
	if j.Last != 0 {
		t.Why = say.T("%s Last done %s.", t.Why, j.Last.Short())
	}
	return []Task{t}
}
