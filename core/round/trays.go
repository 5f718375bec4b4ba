package round

import (
	"ulpa/core/say"
	"ulpa/core/tray"
)

// Tray is something to do to a tray: a cover, the heat from below, a turn, water.
type Tray struct {
	ID, Name, Place string
	tray.Advice
}

// Care is what a tray itself needs.
var Care = declare(Kind{Name: "care", Of: Trays, Writes: true, EndedBy: []string{"tray_care"}})

// OfTray is what is to be done to a tray.
func (s Day) OfTray(x Tray) []Task {
	t := s.task(Care, x.ID, x.Place)
	t.Before, t.Why, t.Urgency, t.Minutes, t.Tray = say.T("%s: %s", say.Name(x.Name), say.Lower(x.Says)), x.Why, Soon, 2, x.ID
	if t.Part = x.Advice.ID; x.Today {
		t.Urgency = Today
	}
	return []Task{t}
}
