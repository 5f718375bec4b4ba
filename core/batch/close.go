package batch

import "ulpa/core/field"

// Close ends the batch.
const Close Kind = "close"

func init() { applies[Close] = (*State).close }

// close ends a batch of which nothing stands any more; what still waits is empty.
func (s *State) close(Act) error {
	if n := s.Standing(); n > 0 {
		if n == 1 {
			return field.Refuse("batch", "1 plant is still growing: harvest it, or write down where it went, then close")
		}
		return field.Refuse("batch", "%d plants are still growing: harvest them, or write down where they went, then close", n)
	}
	for at, c := range s.Cells {
		if c.Open && c.Waits > 0 {
			c.Over = true
			s.Cells[at] = c.settled()
		} else if c.State == Sown {
			s.Cells[at] = Cell{State: Empty}
		}
		s.Barren += s.Cells[at].never()
	}
	s.Closed = true
	return nil
}
