package batch

import (
	"slices"
	"strings"

	"ulpa/core/field"
	"ulpa/core/say"
)

// Adopt takes plants into the books as they stand: what was before is not known, and
// nothing is made up about it.
const Adopt Kind = "adopt"

// How a batch that was not sown in cells here began.
const (
	AsItStood = ""       // what was before is not known
	Delivered = "bought" // plugs and plants that came in a box
	Struck    = "struck" // cuttings put into cells or pots
	Divided   = "divided"
	Planted   = "planted" // bulbs, tubers, cloves, sets, crowns
	Pegged    = "pegged"  // runners
	FromTest  = "test"    // seedlings of a seed test
	Soaked    = "soaked"  // seed soaked to be sprouted; each jar or tray of it stands for a plant
)

// Beginning is a way to begin, and what it is called.
type Beginning struct {
	ID   string
	Name say.Words
}

// Starts are all of them, as people choose them.
var Starts = []Beginning{
	{AsItStood, "it grows here already"},
	{Delivered, "plants that were delivered"},
	{Struck, "cuttings taken"},
	{Divided, "divided plants"},
	{Planted, "bulbs, tubers, cloves or crowns that were planted"},
	{Pegged, "pegged-down runners"},
	{FromTest, "seedlings of a seed test"},
	{Soaked, "seed that was soaked for sprouting"},
}

// Rooting counts the cells in which a cutting, or what was planted, has still to root.
func (s *State) Rooting() int {
	if s.Start == "" {
		return 0
	}
	return s.Waiting()
}

// Sign is the id of what is seen of a delivery that is not as it should be.
type Sign string

// SignOf reads an id, or the English words that stood for it up to shape 37, some with their sense.
func SignOf(text string) Sign {
	word, _, _ := strings.Cut(text, "##")
	return Sign(strings.TrimSuffix(word, " on them"))
}

// UnmarshalText is SignOf.
func (s *Sign) UnmarshalText(b []byte) error {
	*s = SignOf(string(b))
	return nil
}

// Signs are what can be seen of a delivery, and how people say it.
var Signs = []struct {
	ID   Sign
	Name say.Words
}{
	{"yellow", "yellow"},
	{"dry", "dry"},
	{"leggy", "leggy"},
	{"pot-bound", "pot-bound"},
	{"broken", "broken##plants"},
	{"pests", "pests on them"},
	{"cold", "cold##plants"},
}

// Name is how people say it; "" when it is none of Signs.
func (s Sign) Name() say.Words {
	for _, x := range Signs {
		if x.ID == s {
			return x.Name
		}
	}
	return ""
}

func init() { applies[Adopt] = (*State).adopt }

// adopt is the first act of a batch that was not sown here.
func (s *State) adopt(a Act) error {
	if s.Sown != 0 {
		return field.Refuse("to", "this batch has begun already")
	}
	if !slices.ContainsFunc(Starts, func(x Beginning) bool { return x.ID == a.Start }) {
		return field.Refuse("start", "must be one of these")
	}
	for _, x := range a.Signs {
		if x.Name() == "" {
			return field.Refuse("signs", "must be one of these")
		}
	}
	if a.Dead < 0 || a.Dead > 100_000 {
		return field.Refuse("dead", "must be 0 to 100,000 plants")
	}
	if a.SeedG < 0 || a.SeedG > 100_000 || (a.SeedG > 0) != (a.Start == Soaked) {
		return field.Refuse("grams", "must be grams of dry seed if it is soaked")
	}
	n := PlantsIn(a.To)
	if n < 1 || n > 100_000 {
		return field.Refuse("plants", "must be 1 to 100,000 plants")
	}
	if a.Waiting && a.Start != Struck && a.Start != Planted {
		return field.Refuse("start", "is for cuttings, or for things planted that have still to root")
	}
	waiting := 0
	for _, t := range a.To {
		switch t.Kind {
		case InCell:
			if _, taken := s.Cells[t.key()]; taken {
				return field.Refuse("cells", "%s is chosen twice", t.name())
			}
			s.Cells[t.key()] = Cell{State: Sprouted}
			if a.Waiting {
				s.Cells[t.key()] = Cell{State: Sown}
				waiting++
			}
		case InOpen:
			if _, twice := s.Cells[t.key()]; twice {
				return field.Refuse("cells", "%s is chosen twice", t.name())
			}
			if err := s.putOpen(t); err != nil {
				return err
			}
			if a.Waiting { // so many of them have still to root
				s.Cells[t.key()] = Cell{Open: true, Waits: s.Cells[t.key()].Plants}.settled()
				waiting += t.N
			}
		case InPort:
			if s.Ports[t.key()] {
				return field.Refuse("ports", "%s is chosen twice", t.name())
			}
			s.Ports[t.key()] = true
		default:
			s.Stands[t.stand()] += t.N
		}
	}
	// Each is a place for one plant, and holds one; the dead ones held one too.
	s.Sown, s.Sprouted, s.Entered = n+a.Dead, n-waiting, n-waiting
	if a.Dead > 0 {
		s.Lost[DeadOnArrival] = a.Dead
	}
	s.Start, s.SeedG, s.Signs = a.Start, a.SeedG, a.Signs
	return nil
}
