package round

import (
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/harden"
	"ulpa/core/ready"
	"ulpa/core/seed"
	"ulpa/core/sprout"
)

// Sprouts is what to expect of a sowing, and what its last count said.
type Sprouts struct {
	ComesUp bool // it can, where it stands
	Share   float64
	Now     seed.Expected
	AtCount *seed.Expected // at the day of the last count, with what was seen; nil: never
}

// Batch is what the walk needs to know of a batch. In counts its plants and
// waiting cells by place; trays say where its cells are.
type Batch struct {
	ID, Code          string
	Crop              crop.Crop
	Sown              calendar.Day
	Waiting           int  // cells undecided
	Rooting           bool // and these are of cuttings and the like
	Sprouted, Cells   int
	Standing          int  // in trays; of sprouts, their vessels
	Crowded           bool // these stand in open trays, most of them
	Sprouts           Sprouts
	Counted, Cut      calendar.Day
	Whole             bool // plants were taken whole when it was cut
	Verdict           ready.Verdict
	LookedOn          calendar.Day
	Gone              bool              // nothing of it grows, or may still come
	InTray            map[string]string // place → tray
	InPorts, InStands map[string]int    // place → plants
	Harden            *harden.Plan      // when it was ever begun
	Frame             string            // the place where it hardens
	GoodDays          int               // outside so far
	Planned           *PlannedMove      // that out of its tray, as the season has it; nil: none
	Outward           *Outward          // and how it goes outside; nil: it does not
	Potted            []Potted
	Delivered         Delivered
	Sprouting         *sprout.Care // what was done to it; nil: it is nothing that is rinsed
}

// Potted are plants of a batch that stand in pots at a place.
type Potted struct {
	Place, Pot string // the pot by its name
	Plants     int
	Verdict    ready.Verdict
}

// PlannedMove is a move of a batch as the season's plan has it.
type PlannedMove struct {
	Day      calendar.Day
	To, Goal string // the place, and what it is for
}
