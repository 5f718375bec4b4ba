package ledger

import (
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
)

// Latest is when a batch was last counted, looked at, set out and cut, and since when it
// hardens; nil is never.
type Latest struct {
	Counted  *time.Time           `json:"counted,omitempty"`
	Looked   *time.Time           `json:"looked,omitempty"`
	Cut      *time.Time           `json:"cut,omitempty"`
	Hardened *time.Time           `json:"hardened,omitempty"`
	SetOut   *time.Time           `json:"set_out,omitempty"`
	RampDays int                  `json:"ramp_days,omitempty"`
	Frame    *uuid.UUID           `json:"frame,omitempty"`  // where it hardens
	Potted   map[string]time.Time `json:"potted,omitempty"` // by the size of pot: since when the last are in it
	Rinsed   *time.Time           `json:"rinsed,omitempty"` // sprouts, as the two below
	Watered  *time.Time           `json:"watered,omitempty"`
	Lit      *time.Time           `json:"lit,omitempty"`
	Wetted   *time.Time           `json:"wetted,omitempty"` // plants, soaked through
	Fed      *time.Time           `json:"fed,omitempty"`
	Water    []time.Time          `json:"water,omitempty"` // each time that water ran over sprouts, in order
}

// watered puts a time into its place among those at which water ran.
func (l *Latest) watered(at time.Time) {
	i, there := slices.BinarySearchFunc(l.Water, at, time.Time.Compare)
	if !there {
		l.Water = slices.Insert(slices.Clone(l.Water), i, at)
	}
}

// See takes an act into account that happened at a time and place. What
// happened earlier than what is known changes nothing.
func (l *Latest) See(a batch.Act, at time.Time, place *uuid.UUID) {
	at = at.UTC().Truncate(time.Microsecond) // as the database keeps it
	if a.Kind == batch.Tend {
		for _, did := range a.Did {
			last := map[string]**time.Time{
				batch.Rinsed: &l.Rinsed, batch.Watered: &l.Watered, batch.Lit: &l.Lit, batch.SoakedThrough: &l.Wetted, batch.Fed: &l.Fed,
			}[did]
			if *last == nil || at.After(**last) {
				*last = &at
			}
			if did == batch.Rinsed || did == batch.Watered {
				l.watered(at)
			}
		}
		return
	}
	for _, t := range a.To {
		if t.Pot != "" && t.Pot != batch.SamePot && at.After(l.Potted[t.Pot]) {
			next := maps.Clone(l.Potted)
			if next == nil {
				next = map[string]time.Time{}
			}
			next[t.Pot] = at
			l.Potted = next
		}
	}
	last := map[batch.Kind]**time.Time{
		batch.Count: &l.Counted, batch.Look: &l.Looked, batch.Harvest: &l.Cut, batch.Harden: &l.Hardened,
		batch.SetOut: &l.SetOut,
	}[a.Kind]
	if last == nil || *last != nil && at.Before(**last) {
		return
	}
	if a.Kind == batch.Harden {
		l.RampDays, l.Frame = a.RampDays, place
		if *last != nil {
			return // back from indoors: the ramp goes on where it stopped
		}
	}
	*last = &at
}

// InVisit is the id of a batch's entry within a visit to several: the first has the visit's own.
func InVisit(visit, batch uuid.UUID, i int) uuid.UUID {
	if i == 0 {
		return visit
	}
	return uuid.NewSHA1(visit, batch[:])
}
