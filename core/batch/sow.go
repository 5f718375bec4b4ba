package batch

import "ulpa/core/field"

// Sow puts seed into cells.
const Sow Kind = "sow"

func init() { applies[Sow] = (*State).sow }

// sow puts seed into cells.
func (s *State) sow(a Act) error {
	if len(a.Cells) == 0 {
		return field.Refuse("cells", "choose at least one cell")
	}
	if a.Open {
		return s.sowOpen(a)
	}
	if a.SeedsPerCell < 1 || a.SeedsPerCell > 20 {
		return field.Refuse("seeds_per_cell", "put 1 to 20 seeds in a cell")
	}
	for _, c := range a.Cells {
		if _, taken := s.Cells[c.key()]; taken {
			return field.Refuse("cells", "%s is sown already", c.name())
		}
		s.Cells[c.key()] = Cell{State: Sown}
	}
	s.Sown += len(a.Cells)
	s.Seeds += len(a.Cells) * a.SeedsPerCell
	return nil
}
