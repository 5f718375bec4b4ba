package batch

import "ulpa/core/field"

// Harvest weighs what was cut.
const Harvest Kind = "harvest"

func init() { applies[Harvest] = (*State).harvest }

// harvest weighs what was cut, or taken whole.
func (s *State) harvest(a Act) error {
	if a.Grams <= 0 || a.Grams > 1e6 {
		return field.Refuse("grams", "weigh it: more than nothing, less than a tonne")
	}
	if s.Standing() == 0 {
		return field.Refuse("batch", "no plant of this batch is growing")
	}
	if a.Whole && len(a.From) == 0 {
		return field.Refuse("plants", "enter how many plants were taken whole")
	}
	if !a.Whole {
		a.From = nil
	}
	if err := s.take(a.From, func() { s.Taken++ }); err != nil {
		return err
	}
	s.Cuts++
	s.Grams += a.Grams
	return nil
}
