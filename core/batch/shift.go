package batch

import (
	"slices"

	"ulpa/core/field"
)

// Shift puts plants from cells into other cells: a gap is filled from a neighbour, seedlings
// are pricked out, two half trays become one, or one becomes two.
const Shift Kind = "shift"

func init() { applies[Shift] = (*State).shift }

// shift takes plants out of their cells and into others, one for one and in order. A cell in
// which nothing came, or that was lost, holds one again; what it was stays in the counts. Extra
// takes those that would be thinned out: one stays in each cell.
func (s *State) shift(a Act) error {
	if len(a.From) == 0 {
		return field.Refuse("from", "enter which plants")
	}
	from, to := PlantsIn(a.From), PlantsIn(a.To)
	if n := from - to; n > 0 {
		return field.Refuse("to", "%d plants for %d places: choose %d more", from, to, n)
	} else if n < 0 {
		return field.Refuse("to", "%d places for %d plants: choose %d fewer", to, from, -n)
	}
	s.Roots = "" // of the cells before
	var taken []Cell
	for _, f := range a.From {
		if f.Kind == InOpen {
			if err := s.takeOpen(f); err != nil {
				return err
			}
			taken = append(taken, slices.Repeat([]Cell{{State: Sprouted}}, f.N)...)
			continue
		}
		c := s.Cells[f.key()]
		if f.Kind != InCell || f.N != 0 || c.Open || !c.State.Alive() {
			return field.Refuse("from", "%s holds no plant", f.name())
		}
		if a.Extra { // of several in a cell one stays, and each that does not is a place of its own from now on
			s.Cells[f.key()] = Cell{State: Thinned}
			s.Sown, s.Sprouted, s.Replanted = s.Sown+1, s.Sprouted+1, s.Replanted+1
			taken = append(taken, Cell{State: Sprouted})
			continue
		}
		taken = append(taken, c)
		delete(s.Cells, f.key())
	}
	for _, t := range a.To {
		if t.Kind == InOpen {
			if err := s.putOpen(t); err != nil {
				return err
			}
			taken = taken[t.N:]
			continue
		}
		was, there := s.Cells[t.key()]
		switch {
		case t.Kind != InCell || t.N != 0:
			return field.Refuse("to", "choose cells")
		case there && was.State != Empty && was.State != Lost:
			return field.Refuse("to", "%s is in use", t.name())
		}
		s.Barren += was.never()
		s.Cells[t.key()], taken = taken[0], taken[1:]
	}
	return nil
}

// Gaps is how the plants of a tray close up: from the last cells that hold one into the
// first in which nothing came or that were lost; nothing when there is no gap before a plant.
func (s *State) Gaps(in string) (from, to []Spot) {
	var plants, gaps []Spot
	for at, c := range s.Cells {
		if at.In != in || c.Open {
			continue
		}
		if c.State.Alive() {
			plants = append(plants, at)
		} else if c.State != Sown {
			gaps = append(gaps, at)
		}
	}
	inOrder(plants)
	inOrder(gaps)
	for i, g := range gaps {
		last := len(plants) - 1 - i
		if last < 0 || before(plants[last], g) {
			break
		}
		from, to = append(from, plants[last]), append(to, g)
	}
	return from, to
}
