package batch

import "ulpa/core/field"

// Look writes down leaves and height.
const Look Kind = "look"

func init() { applies[Look] = (*State).look }

// look writes down leaves and height.
func (s *State) look(a Act) error {
	if a.Leaves < 0 || a.Leaves > 60 || a.HeightCM < 0 || a.HeightCM > 500 {
		return field.Refuse("leaves", "say 0 to 60 leaves and a height up to 500 cm")
	}
	s.Leaves, s.HeightCM = a.Leaves, a.HeightCM
	return nil
}
