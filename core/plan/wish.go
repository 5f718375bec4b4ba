package plan

import (
	"slices"

	"ulpa/core/calendar"
)

// StageReady names, in a Pin, the day on which a batch is ready.
const StageReady = "ready"

// Pin is what somebody in charge said of one move of a batch: on this day, at this place, or
// not there and then.
type Pin struct {
	Stage string       `json:"stage"`
	Day   calendar.Day `json:"on,omitzero"`
	Place string       `json:"place,omitempty"`
	Not   bool         `json:"not,omitempty"`
}

// Wish is what somebody in charge said of a batch, whatever would cost least.
type Wish struct {
	Pins   []Pin          `json:"pins,omitempty"`
	Shift  int            `json:"shift,omitempty"`  // days by which it may be later, or earlier
	Plants int            `json:"plants,omitempty"` // instead of those wanted
	Wait   map[string]int `json:"wait,omitempty"`   // more days that a stage may wait
	Skip   bool           `json:"skip,omitempty"`   // it is left out
}

// None tells whether nothing was said.
func (w Wish) None() bool {
	return len(w.Pins) == 0 && w.Shift == 0 && w.Plants == 0 && len(w.Wait) == 0 && !w.Skip
}

// Set says something of a move; what contradicts it is undone.
func (w Wish) Set(p Pin) Wish {
	w.Pins = slices.DeleteFunc(slices.Clone(w.Pins), func(o Pin) bool {
		if o.Stage != p.Stage || (o.Day > 0) != (p.Day > 0) {
			return false
		}
		return !p.Not && !o.Not || o.Day == p.Day && o.Place == p.Place
	})
	w.Pins = append(w.Pins, p)
	return w
}

// Free removes what was said of a move.
func (w Wish) Free(stage string) Wish {
	w.Pins = slices.DeleteFunc(slices.Clone(w.Pins), func(o Pin) bool { return o.Stage == stage })
	return w
}

// Of is what was said of a move.
func (w Wish) Of(stage string) (out []Pin) {
	for _, p := range w.Pins {
		if p.Stage == stage {
			out = append(out, p)
		}
	}
	return out
}

// Heed makes a batch as it is wished for. A place that does not suit a stage is as if it had
// not been said.
func (b GoalBatch) Heed(w Wish) GoalBatch {
	b.ReadyFrom, b.ReadyBy = b.ReadyFrom+calendar.Day(w.Shift), b.ReadyBy+calendar.Day(w.Shift)
	if w.Plants > 0 {
		b = b.Fewer(w.Plants)
	}
	b.Stages = slices.Clone(b.Stages)
	for i := range b.Stages {
		s := &b.Stages[i]
		s.HoldDays += w.Wait[s.Name]
		for _, p := range w.Of(s.Name) {
			s.pin(p)
		}
	}
	for _, p := range w.Of(StageReady) {
		switch {
		case p.Not:
			b.ReadyNotOn = append(slices.Clone(b.ReadyNotOn), p.Day)
		default:
			b.ReadyFrom, b.ReadyBy = p.Day, p.Day
		}
	}
	return b
}

func (s *SeasonStage) pin(p Pin) {
	switch {
	case p.Day > 0 && p.Not:
		s.NotOn = append(slices.Clone(s.NotOn), p.Day)
	case p.Day > 0:
		s.On = p.Day
	}
	if p.Place == "" {
		return
	}
	left := slices.DeleteFunc(slices.Clone(s.Where), func(w Stand) bool { return (w.Place == p.Place) == p.Not })
	if len(left) > 0 {
		s.Where = left
	}
}

// Fewer is the batch with another number of plants, its cells in proportion.
func (b GoalBatch) Fewer(plants int) GoalBatch {
	share := float64(plants) / float64(b.Plants)
	b.Cells = max(1, int(float64(b.Cells)*share+0.999))
	b.Value *= share
	b.Plants = plants
	return b
}
