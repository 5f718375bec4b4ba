package batch

import (
	"slices"

	"ulpa/core/field"
)

// Count says what was seen in cells.
const Count Kind = "count"

func init() { applies[Count] = (*State).count }

// count marks what was seen in cells: what came up, what did not, what was lost.
func (s *State) count(a Act) error {
	for _, m := range a.Marks {
		at := Spot{Kind: InCell, In: m.In, Row: m.Row, Col: m.Col}
		c, ok := s.Cells[at]
		if !ok {
			return field.Refuse("marks", "%s holds nothing of this batch", at.name())
		}
		if c.Open {
			if err := s.countOpen(at, c, m); err != nil {
				return err
			}
			continue
		}
		if !slices.Contains([]CellState{Sown, Sprouted, Thinned, Empty, Lost}, m.State) {
			return field.Refuse("marks", "%s: mark it as up, thinned, empty or lost", at.name())
		}
		was, is := c.State, m.State
		if was == Lost {
			s.fall(c.Cause, -1)
		}
		next := Cell{State: is}
		if is == Lost {
			next.Cause = m.Cause.reason().ID
			s.fall(next.Cause, 1)
		}
		if is.Alive() && (was == Sown || was == Empty) {
			s.Sprouted++
		}
		if (is == Sown || is == Empty) && was.Alive() {
			s.Sprouted--
		}
		s.Cells[at] = next
	}
	return nil
}
