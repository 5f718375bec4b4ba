package batch

import "ulpa/core/field"

// PotOn puts plants into pots of a size, or into larger ones.
const PotOn Kind = "pot_on"

func init() { applies[PotOn] = (*State).potOn }

// potOn is a move to a place where each stands in a pot of its own.
func (s *State) potOn(a Act) error {
	for _, t := range a.To {
		if t.Kind != InStand || t.Pot == "" || t.Pot == SamePot {
			return field.Refuse("pot", "choose a size of pot")
		}
	}
	for _, f := range a.From {
		for _, t := range a.To {
			if f.Kind == InStand && f.stand() == t.stand() {
				return field.Refuse("pot", "is the one they are in")
			}
		}
	}
	s.Roots = "" // of the pot before
	return s.move(a)
}
