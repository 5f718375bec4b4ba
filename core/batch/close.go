package batch

import "ulpa/core/field"

// Close ends the batch.
const Close Kind = "close"

func init() { applies[Close] = (*State).close }

// close ends a batch of which nothing stands any more; what still waits is empty.
func (s *State) close(Act) error {
	if n := s.Standing(); n > 0 {
		if n == 1 {
			return field.Refuse("batch", "1 plant still stands: harvest, or write down where they went, then close")
		}
		return field.Refuse("batch", "%d plants still stand: harvest, or write down where they went, then close", n)
	}
	for at, c := range s.Cells {
		if c.State == Sown {
			s.Cells[at] = Cell{State: Empty}
		}
	}
	s.Barren, s.Closed = s.Barren+s.countCells(Empty), true
	return nil
}
