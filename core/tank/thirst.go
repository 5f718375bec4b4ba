package tank

import (
	"time"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/vessel"
)

// Record is what a tank has drunk by its own levels and additions.
type Record struct {
	From      *LevelAt   `json:"from,omitempty"`      // where the interval that runs began
	Poured    float64    `json:"poured,omitempty"`    // in, less out, since then
	Intervals []Interval `json:"intervals,omitempty"` // the last few, oldest first
	Levels    []LevelAt  `json:"levels,omitempty"`    // of the last days, for a jar
}

// LevelAt is a level at a time.
type LevelAt struct {
	At     time.Time `json:"at"`
	Litres float64   `json:"litres"`
	Poured bool      `json:"poured,omitempty"` // to there, not read
	In     float64   `json:"in,omitempty"`     // so many litres, when it was poured
}

// Interval is what was drunk between two readings of the level.
type Interval struct {
	To     time.Time `json:"to"`
	Days   float64   `json:"days"`
	Litres float64   `json:"litres"`
	Plants int       `json:"plants,omitempty"` // 0: nobody knows how many
}

const (
	shortestInterval = 0.5 // days; a shorter one says more of the stick than of the plants
	mostIntervals    = 8
	levelsDays       = 3.5
)

// StartPerPlantL is what a plant of leaves is taken to drink a day before its tank's
// record tells, and StartSpread how far that may be out: starting values.
const (
	StartPerPlantL = 0.08
	StartSpread    = 0.5
	leastLDay      = 0.005 // what the air takes, of each litre it holds
)

// read ends the interval that runs, if it is long enough, and begins the next.
func (r *Record) read(litres float64, plants *int, at time.Time) {
	r.saw(LevelAt{At: at, Litres: litres})
	if r.From != nil {
		days := at.Sub(r.From.At).Hours() / 24
		if days < shortestInterval {
			return // it runs on
		}
		x := Interval{To: at, Days: days, Litres: r.From.Litres + r.Poured - litres}
		if plants != nil {
			x.Plants = *plants
		}
		if x.Litres > -0.05*r.From.Litres { // else somebody filled it and did not write it down
			x.Litres = max(0, x.Litres)
			r.Intervals = append(r.Intervals, x)
		}
		if n := len(r.Intervals); n > mostIntervals {
			r.Intervals = append([]Interval(nil), r.Intervals[n-mostIntervals:]...)
		}
	}
	r.From, r.Poured = &LevelAt{At: at, Litres: litres}, 0
}

// pour takes down what went in, less what came out, and from which level to which.
func (r *Record) pour(litres, from, to float64, at time.Time) {
	if litres == 0 {
		return
	}
	r.Poured += litres
	r.saw(LevelAt{At: at, Litres: from})
	r.saw(LevelAt{at, to, true, max(0, litres)})
}

func (r *Record) saw(l LevelAt) {
	var kept []LevelAt
	for _, x := range r.Levels {
		if l.At.Sub(x.At).Hours() <= levelsDays*24 {
			kept = append(kept, x)
		}
	}
	r.Levels = append(kept, l)
}

// Uses is how much the tank drinks with so many plants: by its own intervals, each
// brought to as many plants as there are now; before there are any, by the plants.
func (s *State) Uses(spec Spec, plants int) vessel.Use {
	var past []vessel.Refill
	litres := 0.0
	for _, x := range s.Thirst.Intervals {
		share := 1.0
		if x.Plants > 0 && plants > 0 {
			share = float64(plants) / float64(x.Plants)
		}
		past = append(past, vessel.Refill{Days: x.Days, Litres: x.Litres * share})
		litres += x.Litres
	}
	if litres > 0 {
		return vessel.Use{Past: past, SpreadGuess: vessel.SpreadGuess}
	}
	mean := max(float64(plants)*StartPerPlantL, leastLDay*spec.CapacityL)
	return vessel.Use{MeanLDay: mean, SDLDay: StartSpread * mean}
}

// LevelOn works out the level at a time from when it was last known; 0 when dry, and full
// when it never was.
func (s *State) LevelOn(spec Spec, at time.Time) float64 {
	if s.LevelL == nil {
		return spec.FillToL
	}
	if s.LevelAt == nil || !at.After(*s.LevelAt) {
		return *s.LevelL
	}
	plants := 0
	if s.Plants != nil {
		plants = *s.Plants
	}
	use := s.Uses(spec, plants).Demand(1).Mean
	return max(0, *s.LevelL-use*at.Sub(*s.LevelAt).Hours()/24)
}

// Drinks says what a tank drinks a day, and what that rests on, in the reader's units.
func (s *State) Drinks(spec Spec, plants int) say.Text {
	u := s.Uses(spec, plants)
	much := say.Of(u.Demand(1).Mean, unit.Litre)
	if len(u.Past) == 0 {
		return say.T("drinking about %s a day (a guess until its levels show more)", much)
	}
	return say.T("drinking about %s a day, by its own levels", much)
}
