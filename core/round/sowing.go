package round

import (
	"ulpa/core/calendar"
	"ulpa/core/say"
)

// Planned is a sowing that is meant to happen.
type Planned struct {
	ID             string
	Crop           say.Text // by its name
	Wanted         int
	SowOn, ReadyBy calendar.Day
}

// Sow is a planned sowing, at the first bench.
var Sow = declare(Kind{Name: "sow", Of: Plans, Writes: true, EndedBy: []string{"sow"}})

// OfPlanned is a planned sowing on its day, after it, and before the closed days that follow.
func (s Day) OfPlanned(p Planned) []Task {
	next, closed := s.next()
	if p.SowOn >= next {
		return nil
	}
	t := s.task(Sow, p.ID, s.sowingPlace())
	t.Before = say.T("Sow %s, %s wanted", say.Lower(p.Crop), say.Plural(p.Wanted, "plant"))
	t.Urgency, t.Minutes, t.Why = Today, 12, say.T("Planned, to be ready by %s.", p.ReadyBy.Long())
	if p.SowOn < s.Today {
		t.Why = say.T("It was planned for %s: every day it waits is a day later than %s.", p.SowOn.Long(), p.ReadyBy.Long())
	}
	return []Task{t.before(next, closed)}
}
