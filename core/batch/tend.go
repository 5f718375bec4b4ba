package batch

import (
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
)

// Tend is what is done to a batch from day to day and changes nothing of what grows where.
const Tend Kind = "tend"

// What is done to sprouts, and to plants.
const (
	Rinsed  = "rinsed" // the soak drained off, or rinsed again
	Watered = "watered"
	Lit     = "lit"

	SoakedThrough = "soaked-through"
	Fed           = "fed"
)

// Tending is something that can be done to sprouts, or to plants, and what it is called.
type Tending struct {
	ID     string
	Name   say.Words
	Plants bool
}

// Tendings are all of them.
var Tendings = []Tending{
	{Rinsed, "rinsed and drained", false},
	{Watered, "fresh water under the tray", false},
	{Lit, "put into the light", false},
	{SoakedThrough, "soaked through, and drained", true},
	{Fed, "fed", true},
}

func init() { applies[Tend] = (*State).tend }

// tend changes nothing of what stands where: when it was done last is what counts.
func (s *State) tend(a Act) error {
	if len(a.Did) == 0 {
		return field.Refuse("did", "enter what was done")
	}
	for _, x := range a.Did {
		i := slices.IndexFunc(Tendings, func(t Tending) bool { return t.ID == x })
		switch {
		case i < 0:
			return field.Refuse("did", "must be one of these")
		case Tendings[i].Plants == (s.Start == Soaked):
			return field.Refuse("did", "sprouts are rinsed, plants are watered and fed")
		}
	}
	return nil
}
