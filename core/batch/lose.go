package batch

// Lose takes plants off the books.
const Lose Kind = "lose"

func init() { applies[Lose] = (*State).lose }

// lose takes plants that are gone off the books, for a cause.
func (s *State) lose(a Act) error {
	return s.take(a.From, func() { s.fall(a.Cause, 1) })
}
