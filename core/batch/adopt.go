package batch

import "ulpa/core/field"

// Adopt takes plants into the books as they stand: what was before is not known, and
// nothing is made up about it.
const Adopt Kind = "adopt"

func init() { applies[Adopt] = (*State).adopt }

// adopt is the first act of a batch that was not sown here.
func (s *State) adopt(a Act) error {
	if s.Sown != 0 {
		return field.Refuse("to", "this batch has begun already")
	}
	n := PlantsIn(a.To)
	if n < 1 || n > 100_000 {
		return field.Refuse("plants", "takes 1 to 100,000 plants")
	}
	for _, t := range a.To {
		switch t.Kind {
		case InCell:
			if _, taken := s.Cells[t.key()]; taken {
				return field.Refuse("cells", "%s is chosen twice", t.name())
			}
			s.Cells[t.key()] = Cell{State: Sprouted}
		case InPort:
			if s.Ports[t.key()] {
				return field.Refuse("ports", "%s is chosen twice", t.name())
			}
			s.Ports[t.key()] = true
		default:
			s.Stands[t.In] += t.N
		}
	}
	// Each is a place for one plant, and holds one.
	s.Sown, s.Sprouted, s.Entered = n, n, n
	return nil
}
