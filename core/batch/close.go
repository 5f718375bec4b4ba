package batch

import (
	"fmt"

	"ulpa/core/field"
)

// close ends a batch of which nothing stands any more; what still waits is empty.
func (s *State) close(Act) error {
	if n := s.Standing(); n > 0 {
		standing := fmt.Sprintf("%d plants still stand", n)
		if n == 1 {
			standing = "1 plant still stands"
		}
		return field.Refuse("batch", standing+": harvest, or write down where they went, then close")
	}
	for at, c := range s.Cells {
		if c.State == Sown {
			s.Cells[at] = Cell{State: Empty}
		}
	}
	s.Barren, s.Closed = s.countCells(Empty), true
	return nil
}
