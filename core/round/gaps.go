package round

import (
	"ulpa/core/calendar"
	"ulpa/core/say"
)

// Gap is cells of a tray that are kept free for a sowing.
type Gap struct {
	ID, Tray, Name, Place string
	Cells                 string // as people type them
	Crop                  say.Text
	On                    calendar.Day
}

// SowGap is a sowing into cells that were kept for it.
var SowGap = declare(Kind{Name: "gap", Of: Reserved, Writes: true, EndedBy: []string{"sow"}})

// OfGap is the sowing into a gap on its day, after it, and before the closed days that follow.
func (s Day) OfGap(g Gap) []Task {
	next, closed := s.next()
	if g.On >= next {
		return nil
	}
	t := s.task(SowGap, g.ID, g.Place)
	t.Before, t.Tray, t.Cells = say.T("Sow %s into the gap reserved in %s", say.Lower(g.Crop), say.Name(g.Name)), g.Tray, g.Cells
	t.Urgency, t.Minutes, t.Why = Today, 8, say.T("Cells %s were reserved for it until %s.", say.Name(g.Cells), g.On.Long())
	return []Task{t.before(next, closed)}
}
