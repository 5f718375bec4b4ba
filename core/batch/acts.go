package batch

import (
	"cmp"
	"fmt"
	"slices"

	"ulpa/core/field"
)

// Fold replays acts in order. It fails on the first that cannot be, saying which.
func Fold(acts []Act) (*State, error) {
	s := New()
	for i, a := range acts {
		if err := s.Apply(a); err != nil {
			return nil, fmt.Errorf("act %d (%s): %w", i, a.Kind, err)
		}
	}
	return s, nil
}

// Apply changes the state by one act, or refuses it with field.Errors and
// leaves the state as it was.
func (s *State) Apply(a Act) error {
	if s.Closed {
		return field.Refuse("batch", "this batch is closed; nothing more can happen to it")
	}
	if s.Sown == 0 && a.Kind != Sow {
		return field.Refuse("batch", "nothing has been sown in this batch yet")
	}
	next := s.Clone()
	if err := next.apply(a); err != nil {
		return err
	}
	*s = *next
	return nil
}

func (s *State) apply(a Act) error {
	switch a.Kind {
	case Sow:
		return s.sow(a)
	case Count:
		return s.count(a)
	case Look:
		if a.Leaves < 0 || a.Leaves > 60 || a.HeightCM < 0 || a.HeightCM > 500 {
			return field.Refuse("leaves", "say 0 to 60 leaves and a height up to 500 cm")
		}
		s.Leaves, s.HeightCM = a.Leaves, a.HeightCM
		return nil
	case Move, Harden, SetOut:
		return s.move(a)
	case Lose:
		return s.take(a.From, func() { s.Lost[cause(a.Cause)]++ })
	case Harvest:
		return s.harvest(a)
	case Close:
		return s.close()
	}
	return field.Refuse("kind", "is not something that happens to a batch")
}

func (s *State) sow(a Act) error {
	if len(a.Cells) == 0 {
		return field.Refuse("cells", "choose at least one cell")
	}
	if a.SeedsPerCell < 1 || a.SeedsPerCell > 20 {
		return field.Refuse("seeds_per_cell", "put 1 to 20 seeds in a cell")
	}
	for _, c := range a.Cells {
		if _, taken := s.Cells[c.key()]; taken {
			return field.Refuse("cells", c.name()+" is sown already")
		}
		s.Cells[c.key()] = Cell{State: Sown}
	}
	s.Sown += len(a.Cells)
	s.Seeds += len(a.Cells) * a.SeedsPerCell
	return nil
}

func (s *State) count(a Act) error {
	for _, m := range a.Marks {
		at := Spot{Kind: InCell, In: m.In, Row: m.Row, Col: m.Col}
		c, ok := s.Cells[at]
		if !ok {
			return field.Refuse("marks", at.name()+" holds nothing of this batch")
		}
		if !slices.Contains([]CellState{Sown, Sprouted, Thinned, Empty, Lost}, m.State) {
			return field.Refuse("marks", at.name()+": mark it sprouted, thinned, empty or lost")
		}
		was, is := c.State, m.State
		if was == Lost {
			s.Lost[c.Cause]--
			if s.Lost[c.Cause] == 0 {
				delete(s.Lost, c.Cause)
			}
		}
		next := Cell{State: is}
		if is == Lost {
			next.Cause = cause(m.Cause)
			s.Lost[next.Cause]++
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

func (s *State) move(a Act) error {
	from, to := 0, 0
	for _, f := range a.From {
		from += f.Plants()
		if f.Kind == InCell {
			s.Moved++
		}
	}
	for _, t := range a.To {
		to += t.Plants()
	}
	switch {
	case to == 0:
		return field.Refuse("to", "choose where the plants go")
	case from < to:
		return field.Refuse("to", fmt.Sprintf("%d places for %d plants: choose %d fewer", to, from, to-from))
	case from > to:
		return field.Refuse("to", fmt.Sprintf("%d plants for %d places: choose %d more", from, to, from-to))
	}
	if err := s.take(a.From, func() {}); err != nil {
		return err
	}
	if err := s.take(a.Lost, func() { s.Lost[cause(a.Cause)]++ }); err != nil {
		return err
	}
	for _, t := range a.To {
		switch t.Kind {
		case InPort:
			if s.Ports[t.key()] {
				return field.Refuse("to", "port "+t.name()+" holds a plant already")
			}
			s.Ports[t.key()] = true
		case InStand:
			if t.N < 1 {
				return field.Refuse("to", "move at least one plant")
			}
			s.Stands[t.In] += t.N
		default:
			return field.Refuse("to", "plants move to a port, a frame or a bed")
		}
	}
	if a.Kind == SetOut {
		s.SetOut += to
	}
	return nil
}

// Choose names the cells or ports where somebody said only how many: ports from
// the top, cells in order.
func (s *State) Choose(from []Spot) ([]Spot, error) {
	var out []Spot
	for _, f := range from {
		if f.Kind == InStand || f.N == 0 {
			out = append(out, f)
			continue
		}
		var there []Spot
		for at, c := range s.Cells {
			if at.Kind == f.Kind && at.In == f.In && c.State.Alive() {
				there = append(there, at)
			}
		}
		for at := range s.Ports {
			if at.Kind == f.Kind && at.In == f.In {
				there = append(there, at)
			}
		}
		if f.N < 0 || f.N > len(there) {
			return nil, field.Refuse("plants", fmt.Sprintf("only %d stand there", len(there)))
		}
		slices.SortFunc(there, func(a, b Spot) int { return cmp.Or(cmp.Compare(a.Row, b.Row), cmp.Compare(a.Col, b.Col)) })
		out = append(out, there[:f.N]...)
	}
	return out, nil
}

// take removes living plants from where they stand, telling how many through each.
func (s *State) take(from []Spot, each func()) error {
	for _, f := range from {
		if f.Kind != InStand && f.N != 0 {
			return field.Refuse("from", "say which plants")
		}
		switch f.Kind {
		case InCell:
			if !s.Cells[f.key()].State.Alive() {
				return field.Refuse("from", f.name()+" holds no plant")
			}
			delete(s.Cells, f.key())
		case InPort:
			if !s.Ports[f.key()] {
				return field.Refuse("from", "port "+f.name()+" holds no plant of this batch")
			}
			delete(s.Ports, f.key())
		case InStand:
			if f.N < 1 || s.Stands[f.In] < f.N {
				return field.Refuse("plants", fmt.Sprintf("only %d stand there", s.Stands[f.In]))
			}
			s.Stands[f.In] -= f.N
			if s.Stands[f.In] == 0 {
				delete(s.Stands, f.In)
			}
		default:
			return field.Refuse("from", "say where the plants stand")
		}
		for range f.Plants() {
			each()
		}
	}
	return nil
}

func (s *State) harvest(a Act) error {
	if a.Grams <= 0 || a.Grams > 1e6 {
		return field.Refuse("grams", "weigh it: more than nothing, less than a tonne")
	}
	if s.Standing() == 0 {
		return field.Refuse("batch", "no plant of this batch is standing")
	}
	if a.Whole && len(a.From) == 0 {
		return field.Refuse("plants", "say how many plants were taken whole")
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

func (s *State) close() error {
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

func cause(c string) string {
	if slices.Contains(Causes, c) {
		return c
	}
	return "other"
}

// Check refuses causes that are none of the list: facts keep what they are given.
func (a Act) Check() error {
	known := func(c string) bool { return c == "" || slices.Contains(Causes, c) }
	ok := known(a.Cause)
	for _, m := range a.Marks {
		ok = ok && known(m.Cause)
	}
	if !ok {
		return field.Refuse("cause", "choose one of the list")
	}
	return nil
}
