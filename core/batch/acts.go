package batch

import (
	"cmp"
	"fmt"
	"iter"
	"maps"
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
	if s.Sown == 0 && a.Kind != Sow && a.Kind != Adopt {
		return field.Refuse("batch", "nothing has been sown in this batch yet")
	}
	next := s.Clone()
	if err := next.apply(a); err != nil {
		return err
	}
	next.Crowd = next.crowd()
	*s = *next
	return nil
}

// applies is how each act changes the books; its file says so.
var applies = map[Kind]func(*State, Act) error{}

// Kinds are the acts the books know.
func Kinds() iter.Seq[Kind] { return maps.Keys(applies) }

func (s *State) apply(a Act) error {
	if apply, ok := applies[a.Kind]; ok {
		return apply(s, a)
	}
	return field.Refuse("kind", "is not something that happens to a batch")
}

// Choose names the cells or ports where somebody said only how many: ports from
// the top, cells in order. Of a stand it names the pots: those without one first.
func (s *State) Choose(from []Spot) ([]Spot, error) {
	var out []Spot
	for _, f := range from {
		if f.Kind == InStand && f.Pot == "" && s.Stands[f.In] < f.N {
			out = append(out, s.chooseStands(f)...)
			continue
		}
		if f.Kind == InStand || f.Kind == InOpen || f.N == 0 {
			out = append(out, f)
			continue
		}
		wanted := f.N
		if f.Kind == InCell {
			sections, left := s.chooseOpen(f)
			if out = append(out, sections...); left == 0 {
				continue
			}
			f.N = left
		}
		var there []Spot
		for at, c := range s.Cells {
			if at.Kind == f.Kind && at.In == f.In && c.State.Alive() && !c.Open {
				there = append(there, at)
			}
		}
		for at := range s.Ports {
			if at.Kind == f.Kind && at.In == f.In {
				there = append(there, at)
			}
		}
		if f.N < 0 || f.N > len(there) {
			return nil, field.Refuse("plants", "only %d are there", len(there)+wanted-f.N)
		}
		inOrder(there)
		out = append(out, there[:f.N]...)
	}
	return out, nil
}

// chooseStands takes plants of a place from its pots, in the order of their keys; what is
// lacking stays with the first, so that it is refused.
func (s *State) chooseStands(f Spot) (out []Spot) {
	left := f.N
	for _, key := range slices.Sorted(maps.Keys(s.Stands)) {
		place, pot := SplitStand(key)
		if n := min(left, s.Stands[key]); place == f.In && n > 0 {
			out, left = append(out, Spot{Kind: InStand, In: place, Pot: pot, N: n}), left-n
		}
	}
	if left > 0 {
		return []Spot{f}
	}
	return out
}

// inOrder sorts spots row by row.
func inOrder(list []Spot) {
	slices.SortFunc(list, func(a, b Spot) int { return cmp.Or(cmp.Compare(a.Row, b.Row), cmp.Compare(a.Col, b.Col)) })
}

func before(a, b Spot) bool { return a.Row < b.Row || a.Row == b.Row && a.Col < b.Col }

// take removes living plants from where they stand, telling how many through each.
func (s *State) take(from []Spot, each func()) error {
	for _, f := range from {
		if f.Kind != InStand && f.Kind != InOpen && f.N != 0 {
			return field.Refuse("from", "enter which plants")
		}
		switch f.Kind {
		case InCell:
			if c := s.Cells[f.key()]; c.Open || !c.State.Alive() {
				return field.Refuse("from", "%s holds no plant", f.name())
			}
			delete(s.Cells, f.key())
		case InOpen:
			if err := s.takeOpen(f); err != nil {
				return err
			}
		case InPort:
			if !s.Ports[f.key()] {
				return field.Refuse("from", "port %s holds no plant of this batch", f.name())
			}
			delete(s.Ports, f.key())
		case InStand:
			at := f.stand()
			if f.N < 1 || s.Stands[at] < f.N {
				return field.Refuse("plants", "only %d are there", s.Stands[at])
			}
			s.Stands[at] -= f.N
			if s.Stands[at] == 0 {
				delete(s.Stands, at)
			}
		default:
			return field.Refuse("from", "enter where the plants are")
		}
		for range f.Plants() {
			each()
		}
	}
	return nil
}

// Check refuses causes that are none of the list: facts keep what they are given.
func (a Act) Check() error {
	known := func(c Cause) bool { return c == "" || c.Known() }
	ok := known(a.Cause)
	for _, m := range a.Marks {
		ok = ok && known(m.Cause)
	}
	if !ok {
		return field.Refuse("cause", "choose one of the list")
	}
	return nil
}
