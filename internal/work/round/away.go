package round

import (
	"context"
	"slices"
	"time"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/tank"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// foretell is how everything fares over a stretch.
func (w Walk) foretell(s away.Span) away.Plan {
	var things []away.Thing
	if s.Closed > 0 {
		for _, x := range w.held {
			things = append(things, x.fares(s)...)
		}
	}
	return away.Foretell(w.day, s, things)
}

// spansAhead and spansBack are for how many days the stretches are told on which nobody is there.
const (
	spansAhead = 40
	spansBack  = 30
)

// Absence is how a school fares while nobody is there, and how it did before.
type Absence struct {
	away.Plan
	Coming []away.Span
	Past   []Came
	Now    time.Time
}

// Came is a stretch that is over, with what was forecast of it beside what was found.
type Came struct {
	away.Span
	Tanks []Found
}

// Found is a tank after such a stretch.
type Found struct {
	Tank, Name string
	tank.Stretch
}

// Away forecasts the stretch that follows a day, or the next one when that is 0. A day that
// is followed by none is refused.
func Away(ctx context.Context, s *store.Store, w who.Who, from calendar.Day) (Absence, error) {
	walk, err := Today(ctx, s, w)
	if err != nil {
		return Absence{}, err
	}
	out := Absence{Plan: walk.Away(), Coming: away.Coming(walk.day, spansAhead), Now: walk.Now}
	if from != 0 && from != out.From {
		i := slices.IndexFunc(out.Coming, func(x away.Span) bool { return x.From == from })
		if i < 0 {
			return out, field.Refuse("from", "enter the last day before closed days, within the next %d days", spansAhead)
		}
		out.Plan = walk.foretell(out.Coming[i])
	}
	for _, span := range away.Past(walk.day, spansBack) {
		came := Came{Span: span}
		for _, x := range walk.held {
			came.Tanks = append(came.Tanks, x.came(span)...)
		}
		if len(came.Tanks) > 0 {
			out.Past = append(out.Past, came)
		}
	}
	return out, nil
}
