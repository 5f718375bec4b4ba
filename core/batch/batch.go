// Package batch keeps the books of one batch of plants. Every cell that was
// sown is one place for one plant (or one clump); from then on each is still
// waiting, empty, standing somewhere, lost for a named cause, or taken. The
// acts that people record are folded in order into a State, and an act that
// the records do not allow is refused.
//
//	s, err := batch.Fold(acts) // acts of kind batch.Sow, batch.Count, ...
//	err = s.Apply(batch.Act{Kind: batch.Close})
package batch

import (
	"fmt"
	"maps"
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/tray"
)

// Kind of act: Sow or Adopt, Count, Look, Move, Shift, Tend, PotOn, Harden, SetOut, Lose, HandOver, Wash, Harvest
// or Close, each with a file of its own.
type Kind string

// SpotKind is what a plant stands in.
type SpotKind string

// A cell of a tray, a section of an open one, a port of a tower or raft, or a number of plants in a place.
const (
	InCell  SpotKind = "cell"
	InOpen  SpotKind = "open"
	InPort  SpotKind = "port"
	InStand SpotKind = "stand"
)

// Spot is where plants stand. In names the tray or place. N counts plants in a
// stand or a section; a cell or port holds one. With N, a cell or port means so many of those in
// that tray or place, whichever they are: Choose says which.
type Spot struct {
	Kind SpotKind `json:"kind"`
	In   string   `json:"in"`
	Row  int      `json:"row,omitempty"`
	Col  int      `json:"col,omitempty"`
	N    int      `json:"n,omitempty"`
	Pot  string   `json:"pot,omitempty"` // of a stand: the size of pot they stand in; "": none, or not told
}

// Plants is how many the spot holds.
func (s Spot) Plants() int {
	if s.Kind == InStand || s.N > 0 {
		return s.N
	}
	return 1
}

// PlantsIn is how many all of them hold.
func PlantsIn(spots []Spot) int {
	n := 0
	for _, s := range spots {
		n += s.Plants()
	}
	return n
}

// stand is the key of a stand: its place, and its pot where it has one.
func (s Spot) stand() string { return StandKey(s.In, s.Pot) }

// StandKey is the key of State.Stands for a place and a size of pot, "" for none.
func StandKey(place, pot string) string {
	if pot == "" {
		return place
	}
	return place + "/" + pot
}

// SplitStand is the place and the size of pot of such a key.
func SplitStand(key string) (place, pot string) {
	place, pot, _ = strings.Cut(key, "/")
	return place, pot
}

func (s Spot) name() string { return tray.Cell{Row: s.Row, Col: s.Col}.Name() }

// key is the spot's in the books; a section of an open tray is kept among the cells.
func (s Spot) key() Spot {
	kind := s.Kind
	if kind == InOpen {
		kind = InCell
	}
	return Spot{Kind: kind, In: s.In, Row: s.Row, Col: s.Col}
}

// CellState is what is seen in a sown cell.
type CellState string

// Words are the state as people say it.
func (s CellState) Words() say.Words {
	switch s {
	case Sown:
		return "sown"
	case Sprouted:
		return "up##cell"
	case Thinned:
		return "thinned"
	case Empty:
		return "empty"
	}
	return "lost"
}

// Sown waits; Sprouted and Thinned hold a plant; Empty and Lost are over.
const (
	Sown     CellState = "sown"
	Sprouted CellState = "sprouted"
	Thinned  CellState = "thinned"
	Empty    CellState = "empty"
	Lost     CellState = "lost"
)

// Alive tells whether a plant stands in the cell.
func (c CellState) Alive() bool { return c == Sprouted || c == Thinned }

// Mark is what somebody saw in one cell. Was is what the cell showed when the
// person looked at the page; it lets two people's marks be told apart.
type Mark struct {
	In    string    `json:"in"`
	Row   int       `json:"row"`
	Col   int       `json:"col"`
	State CellState `json:"state"`
	Cause Cause     `json:"cause,omitempty"`
	Was   CellState `json:"was,omitempty"`
	// Of a section of an open tray: the plants that grow in it now, and whether no more will come up.
	Section bool `json:"section,omitempty"`
	N       int  `json:"n,omitempty"`
	Over    bool `json:"over,omitempty"`
}

// Act is one thing somebody did or saw. Which fields count follows from Kind.
type Act struct {
	Kind         Kind       `json:"kind"`
	Start        string     `json:"start,omitempty"`          // Adopt: how it began; one of Starts. Count: Struck where it is cuttings that are counted
	Waiting      bool       `json:"waiting,omitempty"`        // Adopt: those in cells have still to root
	Signs        []Sign     `json:"signs,omitempty"`          // Adopt: of Signs
	Dead         int        `json:"dead,omitempty"`           // Adopt: plants dead when they came
	SeedG        float64    `json:"seed_g,omitempty"`         // Adopt: dry seed, of what is soaked
	Extra        bool       `json:"extra,omitempty"`          // Shift: the plants of From stay, and the ones beside them go
	Did          []string   `json:"did,omitempty"`            // Tend: of Tendings
	Cells        []Spot     `json:"cells,omitempty"`          // Sow, Wash: the cells
	SeedsPerCell int        `json:"seeds_per_cell,omitempty"` // Sow
	Open         bool       `json:"open,omitempty"`           // Sow: the cells are sections of an open tray, and every seed is a place for a plant
	Packet       string     `json:"packet,omitempty"`         // Sow, Adopt of what is soaked: the id of the packet,
	PacketSeeds  int        `json:"packet_seeds,omitempty"`   // and so many seeds that were taken off what it held
	Reserved     []Reserved `json:"reserved,omitempty"`       // Sow: cells that had been reserved for a sowing
	Hands        []string   `json:"hands,omitempty"`          // Sow: crews or initials, each of whom had a share of the cells in this order
	Marks        []Mark     `json:"marks,omitempty"`          // Count
	Leaves       int        `json:"leaves,omitempty"`         // Look: true leaves on most plants
	Roots        string     `json:"roots,omitempty"`          // Look: of Roots
	HeightCM     float64    `json:"height_cm,omitempty"`      // Look
	From         []Spot     `json:"from,omitempty"`           // Move, Harden, SetOut, Lose, HandOver, Harvest whole
	To           []Spot     `json:"to,omitempty"`             // Move, Harden, SetOut
	Lost         []Spot     `json:"lost,omitempty"`           // Move: what did not survive it
	Cause        Cause      `json:"cause,omitempty"`          // Lose, Move with Lost
	Way          Way        `json:"way,omitempty"`            // HandOver: of Ways
	Mix          string     `json:"mix,omitempty"`            // Move into pots: the id of what they were filled with,
	MixL         float64    `json:"mix_l,omitempty"`          // and so many litres of it that were taken
	RampDays     int        `json:"ramp_days,omitempty"`      // Harden
	Grams        float64    `json:"grams,omitempty"`          // Harvest
	Whole        bool       `json:"whole,omitempty"`          // Harvest: the plants are gone
}

// Reserved are cells that were reserved for a sowing until they were sown.
type Reserved struct {
	ID    string       `json:"id"`
	Crop  string       `json:"crop"`
	On    calendar.Day `json:"on"`
	Cells string       `json:"cells"` // as tray.Format has them
}

// TakeSeed writes down that so many seeds were taken out of a packet that held so many; nil: nobody knows.
func (a *Act) TakeSeed(packet string, held *int, seeds int) {
	if held != nil {
		a.Packet, a.PacketSeeds = packet, min(*held, seeds)
	}
}

// Cell is a sown cell's state and, when lost, the cause. One that is open is a section of an
// open flat or a tub: many seeds wait in it and many plants stand in it (open.go).
type Cell struct {
	State  CellState `json:"state"`
	Cause  Cause     `json:"cause,omitempty"`
	Open   bool      `json:"open,omitempty"`
	Waits  int       `json:"waits,omitempty"`
	Plants int       `json:"plants,omitempty"`
	Over   bool      `json:"over,omitempty"` // what waits in it will not come up any more
}

// Waiting is how many seeds may still come up in it.
func (c Cell) Waiting() int {
	switch {
	case c.Over:
		return 0
	case !c.Open && c.State == Sown:
		return 1
	}
	return c.Waits
}

// never is how many places of it stayed empty.
func (c Cell) never() int {
	switch {
	case c.Over:
		return c.Waits
	case !c.Open && c.State == Empty:
		return 1
	}
	return 0
}

// Standing is how many plants stand in it.
func (c Cell) Standing() int {
	if !c.Open && c.State.Alive() {
		return 1
	}
	return c.Plants
}

// State is where a batch's plants are and went.
type State struct {
	Cells  map[Spot]Cell  `json:"-"`
	Ports  map[Spot]bool  `json:"-"`
	Stands map[string]int `json:"-"` // plants by StandKey

	Sown      int           `json:"sown"`             // cells sown, and seeds in open trays: places for plants
	Seeds     int           `json:"seeds"`            // seeds used
	Sprouted  int           `json:"sprouted"`         // places that ever held a sprout
	Moved     int           `json:"moved"`            // plants that ever left their cell for another place
	SetOut    int           `json:"set_out"`          // plants set out of doors
	Taken     int           `json:"taken"`            // plants harvested whole
	Cuts      int           `json:"cuts"`             // harvests
	Grams     float64       `json:"grams"`            // harvested
	Lost      map[Cause]int `json:"lost"`             // by cause, the empty cells not among them
	Handed    map[Way]int   `json:"handed,omitempty"` // plants handed over, by the way; no losses
	Leaves    int           `json:"leaves"`           // as last looked at
	Roots     string        `json:"roots,omitempty"`  // as last looked at; "": nobody did
	HeightCM  float64       `json:"height_cm"`        // as last looked at
	Closed    bool          `json:"closed"`
	Start     string        `json:"start,omitempty"`     // how it began, where it was not sown
	Signs     []Sign        `json:"signs,omitempty"`     // what was seen of it when it was delivered
	SeedG     float64       `json:"seed_g,omitempty"`    // dry seed of what was soaked
	Entered   int           `json:"entered,omitempty"`   // plants that were entered as they stood, and not sown
	Crowd     int           `json:"crowd,omitempty"`     // of its plants, those that stand in open trays, not pricked out
	Replanted int           `json:"replanted,omitempty"` // plants that were thinned out and planted, each a place of its own
	Barren    int           `json:"barren"`              // empty cells that were washed, one by one or when it was closed
}

// New is the state before anything happened.
func New() *State {
	return &State{Cells: map[Spot]Cell{}, Ports: map[Spot]bool{}, Stands: map[string]int{}, Lost: map[Cause]int{}}
}

// Never tells that nothing of it was ever sown or entered: what it began with was undone.
func (s *State) Never() bool {
	return s.Sown == 0 && s.Seeds == 0 && s.SeedG == 0 && s.Entered == 0 && s.Start == "" && len(s.Cells)+len(s.Ports)+len(s.Stands) == 0
}

// Waiting counts the places in which nothing has been decided yet.
func (s *State) Waiting() int {
	n := 0
	for _, c := range s.Cells {
		n += c.Waiting()
	}
	return n
}

// Empties counts the places in which nothing came up.
func (s *State) Empties() int {
	n := s.Barren
	for _, c := range s.Cells {
		if !s.Closed {
			n += c.never()
		}
	}
	return n
}

// InTrays counts the plants still in their trays.
func (s *State) InTrays() int {
	n := 0
	for _, c := range s.Cells {
		n += c.Standing()
	}
	return n
}

// InStands counts the plants in beds, frames and other places without ports.
func (s *State) InStands() int {
	n := 0
	for _, k := range s.Stands {
		n += k
	}
	return n
}

// Standing counts every living plant of the batch.
func (s *State) Standing() int { return s.InTrays() + len(s.Ports) + s.InStands() }

// Losses counts the lost, whatever the cause.
func (s *State) Losses() int {
	n := 0
	for _, k := range s.Lost {
		n += k
	}
	return n
}

// Balance is the law: every cell sown is waiting, empty, standing, lost, taken or
// handed over, and none is two of these. A closed batch has nothing left standing.
func (s *State) Balance() error {
	empties := s.Empties()
	if s.Sown != s.Waiting()+empties+s.Standing()+s.Losses()+s.Taken+s.HandedOver() {
		return fmt.Errorf("%d sown, but %d waiting, %d empty, %d standing, %d lost, %d taken and %d handed over",
			s.Sown, s.Waiting(), empties, s.Standing(), s.Losses(), s.Taken, s.HandedOver())
	}
	return nil
}

// Clone is a copy that can be changed without touching s.
func (s *State) Clone() *State {
	c := *s
	c.Cells, c.Ports = maps.Clone(s.Cells), maps.Clone(s.Ports)
	c.Stands, c.Lost = maps.Clone(s.Stands), maps.Clone(s.Lost)
	return &c
}
