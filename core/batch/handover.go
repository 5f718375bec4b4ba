package batch

import (
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
)

// HandOver lets plants go that are not lost: others grow them now.
const HandOver Kind = "hand-over"

// Way is the id of how plants were handed over.
type Way string

// GivenAway is the way of what earlier releases wrote down as a loss, by a cause of that name.
const GivenAway Way = "given-away"

// thinnedOut is the way of seedlings that made room for others: no loss, and nothing that came of a sowing.
const thinnedOut Way = "thinned-out"

// handed tells whether a cause is no loss: the plant was handed over.
func (c Cause) handed() bool { return c == Cause(GivenAway) }

// Handing is a way and what it is called.
type Handing struct {
	ID   Way
	Name say.Words
}

// Ways are how plants can be handed over, and how people say it.
var Ways = []Handing{
	{GivenAway, "given away"},
	{"sold", "sold"},
	{"planted-elsewhere", "planted elsewhere"},
	{thinnedOut, "thinned out"},
}

// Name is how people say it; "" when it is none of Ways.
func (w Way) Name() say.Words {
	for _, x := range Ways {
		if x.ID == w {
			return x.Name
		}
	}
	return ""
}

func init() { applies[HandOver] = (*State).handOver }

func (s *State) handOver(a Act) error {
	if len(a.From) == 0 {
		return field.Refuse("from", "enter which plants")
	}
	if a.Way.Name() == "" {
		return field.Refuse("way", "must be one of these")
	}
	return s.take(a.From, func() { s.hand(a.Way, 1) })
}

// hand counts plants that were handed over; it makes a map of its own, for copies share theirs.
func (s *State) hand(way Way, n int) {
	next := map[Way]int{way: n}
	for k, v := range s.Handed {
		next[k] += v
	}
	if next[way] == 0 {
		delete(next, way)
	}
	if s.Handed = next; len(next) == 0 {
		s.Handed = nil // as it is kept
	}
}

// HandedOver counts the plants that were handed over, in whatever way.
func (s *State) HandedOver() int {
	n := 0
	for _, k := range s.Handed {
		n += k
	}
	return n
}

// Given counts the plants that others grow now: what was thinned out is not among them.
func (s *State) Given() int { return s.HandedOver() - s.Handed[thinnedOut] }

// fall counts plants lost to a cause, or takes such a loss back. What was given away is no loss,
// though a cell may be marked so.
func (s *State) fall(c Cause, n int) {
	if c = c.reason().ID; c.handed() {
		s.hand(GivenAway, n)
		return
	}
	if s.Lost[c] += n; s.Lost[c] == 0 {
		delete(s.Lost, c)
	}
}

// Losing are the causes of what is lost, that which is handed over not among them.
func Losing() []Reason {
	return slices.DeleteFunc(slices.Clone(Causes), func(r Reason) bool { return r.ID.handed() })
}
