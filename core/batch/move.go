package batch

import "ulpa/core/field"

// Plants go on: to ports, into a frame, to a bed.
const (
	Move   Kind = "move"
	Harden Kind = "harden"
	SetOut Kind = "set_out"
)

func init() {
	applies[Move], applies[Harden], applies[SetOut] = (*State).move, (*State).move, (*State).move
}

// SamePot is the pot of a stand to which each plant comes in the pot that it stands in.
const SamePot = "="

// move takes plants from where they stand to ports, a frame or a bed.
func (s *State) move(a Act) error {
	from, to := 0, 0
	for _, f := range a.From {
		from += f.Plants()
		if f.Kind == InCell || f.Kind == InOpen {
			s.Moved += f.Plants()
		}
	}
	for _, t := range a.To {
		to += t.Plants()
	}
	switch {
	case to == 0:
		return field.Refuse("to", "choose where the plants go")
	case from < to:
		return field.Refuse("to", "%d places for %d plants: choose %d fewer", to, from, to-from)
	case from > to:
		return field.Refuse("to", "%d plants for %d places: choose %d more", from, to, from-to)
	}
	if err := s.take(a.From, func() {}); err != nil {
		return err
	}
	if err := s.take(a.Lost, func() { s.fall(a.Cause, 1) }); err != nil {
		return err
	}
	for _, t := range a.To {
		switch t.Kind {
		case InPort:
			if s.Ports[t.key()] {
				return field.Refuse("to", "port %s holds a plant already", t.name())
			}
			s.Ports[t.key()] = true
		case InStand:
			if t.N < 1 {
				return field.Refuse("to", "move at least one plant")
			}
			if t.Pot == SamePot {
				if len(a.To) != 1 {
					return field.Refuse("to", "choose one place")
				}
				for _, f := range a.From {
					s.Stands[StandKey(t.In, f.Pot)] += f.Plants()
				}
				continue
			}
			s.Stands[t.stand()] += t.N
		default:
			return field.Refuse("to", "plants move to a port, a frame or a bed")
		}
	}
	if a.Kind == SetOut {
		s.SetOut += to
	}
	return nil
}
