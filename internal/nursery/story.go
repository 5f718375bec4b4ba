package nursery

import (
	"encoding/json"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/store"
)

// Story is a batch from its beginning to now, and to what is foreseen.
type Story struct {
	Points []StoryPoint // how many cells and plants there are in hand, in the order of time
	Events []StoryEvent
	Now    float64 // days since it began
	Ahead  float64 // when it is ready, or harvested; 0: nothing is foreseen
	Next   say.Text
}

// StoryPoint is how many cells are waited for and plants stand, on a day.
type StoryPoint struct {
	Day   float64
	Alive int
}

// StoryEvent is something that happened to it.
type StoryEvent struct {
	Day  float64
	Kind batch.Kind
	Says say.Text
	Lost int // plants it took
}

// storyWords are the acts that a story names.
var storyWords = map[batch.Kind]say.Words{
	batch.Sow: "sown", batch.Adopt: "begun##story", batch.Move: "moved##story", batch.Harden: "hardening", batch.SetOut: "set out##story",
	batch.Harvest: "cut##story", batch.Close: "closed",
}

func inHand(s *batch.State) int { return s.Waiting() + s.Standing() }

// story replays what was written of a batch.
func (b Batch) story(tx *store.Tx) Story {
	out := Story{Now: float64(tx.Now.Sub(b.SownAt).Hours() / 24)}
	s := batch.New()
	cuts, up := 0, false
	for _, f := range b.facts {
		var a batch.Act
		if json.Unmarshal(f.Data, &a) != nil {
			continue
		}
		before, lost := inHand(s), s.Losses()
		if s.Apply(a) != nil {
			continue
		}
		day := f.HappenedAt.Sub(b.SownAt).Hours() / 24
		if n := inHand(s); n != before {
			out.Points = append(out.Points, StoryPoint{day, before}, StoryPoint{day, n})
		}
		e := StoryEvent{Day: day, Kind: a.Kind, Lost: s.Losses() - lost}
		if w, named := storyWords[a.Kind]; named {
			e.Says = w
		}
		switch {
		case a.Kind == batch.Harvest:
			if cuts++; cuts > 1 {
				e.Says = nil // the first tells when it began
			}
		case a.Kind == batch.Count && !up && s.Sprouted > 0:
			up = true
			e.Says = say.T("%d up", s.Sprouted)
		}
		if e.Lost > 0 {
			e.Says = say.T("%d lost", e.Lost)
		}
		if e.Says != nil {
			out.Events = append(out.Events, e)
		}
	}
	out.foresee(b)
	return out
}

// foresee says when the batch is ready to move, or to be harvested.
func (s *Story) foresee(b Batch) {
	var day calendar.Day
	switch {
	case b.Closed || b.State.Standing()+b.State.Waiting() == 0:
		return
	case b.State.InTrays()+b.State.Waiting() > 0 && !b.Crop.Stays():
		if day = b.Verdict.About; day <= b.Today {
			return
		}
		s.Next = say.T("ready about %s", day.Short())
	default:
		if day = b.Crop.HarvestDue(b.Sown, 0, b.State.Taken > 0); day <= b.Today || b.State.Cuts > 0 {
			return
		}
		s.Next = say.T("to be harvested about %s", day.Short())
	}
	s.Ahead = float64(day - b.Sown)
}
