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

// trayCare is what is to be done to the trays at a place.
func (s School) trayCare(p Place) (out []Task) {
	for _, x := range s.Trays {
		if x.Place != p.ID {
			continue
		}
		u := Soon
		if x.Today {
			u = Today
		}
		out = append(out, Task{
			Key: s.key("care", x.ID+x.Advice.ID), Kind: "care", Before: say.T("%s: %s", say.Name(x.Name), say.Lower(x.Says)), Why: x.Why,
			Urgency: u, Minutes: 2, Tray: x.ID,
		})
	}
	return out
}
