package batch

import (
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
)

// Look writes down leaves, height and roots.
const Look Kind = "look"

// RootState is what is seen of roots when one is knocked out.
type RootState struct {
	ID   string
	Name say.Words
}

// Roots are the states that count.
var Roots = []RootState{
	{"few", "white, the ball falls apart"}, {"hold", "white, they hold the ball"}, {"round", "they circle the pot"}, {"brown", "brown or slimy"},
}

func init() { applies[Look] = (*State).look }

// look writes down leaves, height and roots.
func (s *State) look(a Act) error {
	if a.Leaves < 0 || a.Leaves > 60 || a.HeightCM < 0 || a.HeightCM > 500 {
		return field.Refuse("leaves", "enter 0 to 60 leaves and a height up to 500 cm")
	}
	if a.Roots != "" && !slices.ContainsFunc(Roots, func(r RootState) bool { return r.ID == a.Roots }) {
		return field.Refuse("roots", "must be one of these")
	}
	s.Leaves, s.HeightCM = a.Leaves, a.HeightCM
	if a.Roots != "" {
		s.Roots = a.Roots
	}
	return nil
}
