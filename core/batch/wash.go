package batch

import "ulpa/core/field"

// Wash frees the cells in which nothing lives and nothing is waited for.
const Wash Kind = "wash"

func init() { applies[Wash] = (*State).wash }

// wash lets failed cells go; what they were stays in the counts.
func (s *State) wash(a Act) error {
	if len(a.Cells) == 0 {
		return field.Refuse("cells", "none is empty or lost")
	}
	for _, at := range a.Cells {
		c, ok := s.Cells[at.key()]
		switch {
		case !ok:
			return field.Refuse("cells", "%s holds nothing of this batch", at.name())
		case c.State != Empty && c.State != Lost:
			return field.Refuse("cells", "%s is neither empty nor lost", at.name())
		}
		s.Barren += c.never()
		delete(s.Cells, at.key())
	}
	return nil
}
