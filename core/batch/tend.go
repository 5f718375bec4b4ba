package batch

import (
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
)

// Tend is what is done to sprouts from day to day.
const Tend Kind = "tend"

// What is done to sprouts.
const (
	Rinsed  = "rinsed" // the soak drained off, or rinsed again
	Watered = "watered"
	Lit     = "lit"
)

// Tending is something that can be done to sprouts, and what it is called.
type Tending struct {
	ID   string
	Name say.Words
}

// Tendings are all of them.
var Tendings = []Tending{{Rinsed, "rinsed and drained"}, {Watered, "fresh water under the tray"}, {Lit, "put into the light"}}

func init() { applies[Tend] = (*State).tend }

// tend changes nothing of what stands where: when it was done last is what counts.
func (s *State) tend(a Act) error {
	if s.Start != Soaked {
		return field.Refuse("did", "only sprouts are rinsed")
	}
	if len(a.Did) == 0 {
		return field.Refuse("did", "enter what was done")
	}
	for _, x := range a.Did {
		if !slices.ContainsFunc(Tendings, func(t Tending) bool { return t.ID == x }) {
			return field.Refuse("did", "must be one of these")
		}
	}
	return nil
}
