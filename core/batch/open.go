package batch

import (
	"maps"
	"slices"

	"ulpa/core/field"
)

// The sections of an open flat or a tub are kept among the cells, but hold many: every
// seed sown is a place of its own, which waits, or came up, or never did. How many stand there is
// counted and not marked one by one.

// MostInSection is how many seeds or plants one section may hold.
const MostInSection = 5000

// sowOpen scatters seed in sections, so many in each.
func (s *State) sowOpen(a Act) error {
	if a.SeedsPerCell < 1 || a.SeedsPerCell > MostInSection {
		return field.Refuse("seeds_per_cell", "sow 1 to %d seeds in a section", MostInSection)
	}
	for _, c := range a.Cells {
		if _, taken := s.Cells[c.key()]; taken {
			return field.Refuse("cells", "%s is sown already", c.name())
		}
		s.Cells[c.key()] = Cell{State: Sown, Open: true, Waits: a.SeedsPerCell}
	}
	s.Sown += len(a.Cells) * a.SeedsPerCell
	s.Seeds += len(a.Cells) * a.SeedsPerCell
	return nil
}

// countOpen takes in how many plants grow in a section now. More than before have come up; more
// than seeds were thought to be there mean that more was sown than was thought. Fewer are lost.
func (s *State) countOpen(at Spot, c Cell, m Mark) error {
	if m.N < 0 || m.N > MostInSection {
		return field.Refuse("marks", "%s: must be 0 to %d plants", at.name(), MostInSection)
	}
	switch came := m.N - c.Plants; {
	case came > 0:
		if more := came - c.Waits; more > 0 {
			s.Sown, s.Seeds, c.Waits = s.Sown+more, s.Seeds+more, c.Waits+more
		}
		c.Waits -= came
		s.Sprouted += came
	case came < 0:
		s.fall(m.Cause, -came)
	}
	c.Plants = m.N
	c.Over = m.Over && c.Waits > 0
	s.Cells[at] = c.settled()
	return nil
}

// settled is a section with the state that its numbers come to.
func (c Cell) settled() Cell {
	switch {
	case c.Plants > 0:
		c.State = Sprouted
	case c.Waiting() > 0:
		c.State = Sown
	default:
		c.State = Empty
	}
	return c
}

// takeOpen takes plants out of a section; one that is left with nothing is free.
func (s *State) takeOpen(f Spot) error {
	c := s.Cells[f.key()]
	if !c.Open || f.N < 1 || c.Plants < f.N {
		return field.Refuse("plants", "only %d are there", c.Plants)
	}
	if c.Plants -= f.N; c.Plants+c.Waiting() == 0 {
		s.Barren += c.never()
		delete(s.Cells, f.key())
		return nil
	}
	s.Cells[f.key()] = c.settled()
	return nil
}

// putOpen puts plants into a section, beside those of the batch that stand there.
func (s *State) putOpen(t Spot) error {
	c, there := s.Cells[t.key()]
	if there && !c.Open && c.State != Empty && c.State != Lost {
		return field.Refuse("to", "%s is in use", t.name())
	}
	if there && !c.Open {
		s.Barren += c.never()
		c = Cell{}
	}
	if c.Open = true; t.N < 1 || c.Plants+t.N > MostInSection {
		return field.Refuse("to", "%s: must be 1 to %d plants", t.name(), MostInSection)
	}
	c.Plants += t.N
	s.Cells[t.key()] = c.settled()
	return nil
}

// chooseOpen names sections where somebody said only how many plants of a tray, in order; left is
// how many they do not hold.
func (s *State) chooseOpen(f Spot) (out []Spot, left int) {
	open := slices.Collect(func(yield func(Spot) bool) {
		for at := range maps.Keys(s.Cells) {
			if c := s.Cells[at]; at.In == f.In && c.Open && c.Plants > 0 && !yield(at) {
				return
			}
		}
	})
	inOrder(open)
	left = f.N
	for _, at := range open {
		if n := min(left, s.Cells[at].Plants); n > 0 {
			out, left = append(out, Spot{Kind: InOpen, In: at.In, Row: at.Row, Col: at.Col, N: n}), left-n
		}
	}
	return out, left
}

// crowd counts the plants in open trays.
func (s *State) crowd() int {
	n := 0
	for _, c := range s.Cells {
		n += c.Plants
	}
	return n
}
