package batches

import (
	"encoding/json"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/work/pictures"
	"ulpa/internal/work/site"
)

// Story is a batch from its beginning to now, and to what is foreseen.
type Story struct {
	Points []StoryPoint // how many cells and plants there are in hand, in the order of time
	Events []StoryEvent
	Now    float64 // days since it began
	Ahead  float64 // when it is ready, or harvested; 0: nothing is foreseen
	Next   say.Text
	Warm   []StoryWarmth
	Shots  []StoryShot
}

// StoryWarmth is how warm it usually is where the batch stood, from a day on.
type StoryWarmth struct {
	Day, TempC float64
	Place      string
}

// StoryShot is a picture of it.
type StoryShot struct {
	Day float64
	On  calendar.Day
	pictures.Picture
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
	batch.Harvest: "cut##story", batch.HandOver: "handed over", batch.Close: "closed",
}

func inHand(s *batch.State) int { return s.Waiting() + s.Standing() }

// story replays what was written of a batch.
func (b Batch) story(tx *store.Tx) Story {
	out := Story{Now: float64(tx.Now.Sub(b.SownAt).Hours() / 24)}
	s := batch.New()
	cuts, up := 0, false
	for _, f := range b.facts {
		day := f.HappenedAt.Sub(b.SownAt).Hours() / 24
		if f.Kind == pictures.Taken.Name {
			if p, err := pictures.Of(f.Data); err == nil {
				out.Shots = append(out.Shots, StoryShot{day, tx.Who.Day(f.HappenedAt), p})
			}
			continue
		}
		var a batch.Act
		if json.Unmarshal(f.Data, &a) != nil {
			continue
		}
		before, lost := inHand(s), s.Losses()
		if s.Apply(a) != nil {
			continue
		}
		out.stood(day, a.Kind, f.Place, b.places)
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

// stood says how warm it is where the plants went. What stays behind is not told.
func (s *Story) stood(day float64, kind batch.Kind, place uuid.UUID, places []site.Place) {
	moves := []batch.Kind{batch.Sow, batch.Adopt, batch.Move, batch.Shift, batch.Harden, batch.SetOut}
	i := slices.IndexFunc(places, func(p site.Place) bool { return p.ID == place })
	if i < 0 || !slices.Contains(moves, kind) {
		return
	}
	w := StoryWarmth{day, places[i].TemperatureC, places[i].Name}
	if n := len(s.Warm); n == 0 || s.Warm[n-1].Place != w.Place {
		s.Warm = append(s.Warm, w)
	}
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
