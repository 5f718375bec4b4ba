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

// gapTasks are the sowings into gaps at a place, of today, of before, and of the closed days
// that follow.
func (s School) gapTasks(p Place) (out []Task) {
	next, closed := s.Calendar.Next(s.Today)
	for _, g := range s.Gaps {
		if g.Place != p.ID || g.On >= next {
			continue
		}
		t := Task{
			Key: s.key("gap", g.ID), Kind: "gap", Before: say.T("Sow %s into the gap kept in %s", say.Lower(g.Crop), say.Name(g.Name)), Tray: g.Tray,
			Cells: g.Cells, Urgency: Today, Minutes: 8, Why: say.T("Cells %s were kept for it, for %s.", say.Name(g.Cells), g.On.Long()),
		}
		out = append(out, t.before(next, closed))
	}
	return out
}
