package goals

import (
	"context"
	"encoding/json"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/work/season"
)

func wishesOf(ctx context.Context, tx *store.Tx) (map[uuid.UUID]plan.Wish, error) {
	rows, err := tx.Wishes(ctx)
	out := map[uuid.UUID]plan.Wish{}
	for _, r := range rows {
		var w plan.Wish
		if err := json.Unmarshal(r.Says, &w); err != nil {
			return nil, err
		}
		out[r.Batch] = w
	}
	return out, err
}

// Find is a batch of the season, with its goal.
func (o Outlook) Find(id uuid.UUID) (Line, Batch, bool) {
	for _, l := range o.Lines {
		for _, b := range l.Batches {
			if b.ID == id {
				return l, b, true
			}
		}
	}
	return Line{}, Batch{}, false
}

// Way is how a batch that cannot be grown as it is wanted could be; Line and Batch are those
// that make room, where another does.
type Way struct {
	plan.Way
	Line  Line
	Batch Batch
}

// Ways are the ways out of a batch's not being grown, the cheapest first; everything else
// stays as it is planned.
func (o Outlook) Ways(id uuid.UUID) (out []Way) {
	i := slices.Index(o.question.ids, id)
	if i < 0 || i >= len(o.question.answer.Batches) || o.question.answer.Batches[i].Grown {
		return nil
	}
	for _, w := range plan.Ways(o.question.in, o.question.answer, i) {
		way := Way{Way: w}
		if w.Kind == plan.WayOther {
			if w.Other >= len(o.question.ids) { // what stands already cannot go
				continue
			}
			way.Line, way.Batch, _ = o.Find(o.question.ids[w.Other])
		}
		out = append(out, way)
	}
	return out
}

// change writes down what is said of a batch of the season, by what it says so far.
func change(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, says func(*store.Tx, Outlook, Line, Batch) (plan.Wish, say.Text, error)) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	o, err := Look(ctx, s, w)
	if err != nil {
		return err
	}
	l, b, ok := o.Find(id)
	if !ok || b.Sown {
		return field.Refuse("batch", "no longer needs sowing; look at the season again")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		wish, text, err := says(tx, o, l, b)
		if err != nil {
			return err
		}
		if err := putWish(ctx, tx, l, b.ID, wish); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "From the season’s plan, %s for %s: %s", say.Name(l.Goal.Name), b.By.Short(), text)
	})
}

func putWish(ctx context.Context, tx *store.Tx, l Line, id uuid.UUID, wish plan.Wish) error {
	if wish.None() {
		return tx.DropWish(ctx, id)
	}
	text, err := json.Marshal(wish)
	if err != nil {
		return err
	}
	return tx.PutWish(ctx, db.PutWishParams{SchoolID: tx.Who.School, Batch: id, GoalID: l.Goal.ID, Says: text})
}

// Say pins a move of a batch, or keeps it from a day or place.
func Say(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, p plan.Pin) error {
	return change(ctx, s, w, id, func(_ *store.Tx, o Outlook, _ Line, b Batch) (plan.Wish, say.Text, error) {
		if err := o.can(b, p); err != nil {
			return plan.Wish{}, nil, err
		}
		return b.Wish.Set(p), PinSays(p), nil
	})
}

// can refuses what cannot be wished for.
func (o Outlook) can(b Batch, p plan.Pin) error {
	var e field.Errors
	known, there := p.Stage == plan.StageReady, p.Place == ""
	for _, s := range b.Stages {
		if s.Name == p.Stage {
			known = true
			for _, x := range s.Where {
				there = there || x.Place == p.Place
			}
		}
	}
	e.Require(known, "stage", "does not belong to this batch")
	e.Require(there, "place", "does not suit this stage")
	e.Require(p.Day > 0 || p.Place != "", "day", "must be a date")
	if p.Day > 0 && !p.Not {
		e.Require(p.Day >= o.Today, "day", "is past")
		e.Require(p.Day <= o.Today+plan.MaxSeasonDays-1, "day", "is more than three years ahead")
		e.Require(p.Day < o.Today || o.question.in.Open(p.Day), "day", "is a day on which nobody works")
	}
	return e.Err()
}

// Free removes what was said of a move of a batch, or, without a stage, all of it.
func Free(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, stage string) error {
	return change(ctx, s, w, id, func(_ *store.Tx, _ Outlook, _ Line, b Batch) (plan.Wish, say.Text, error) {
		if stage == "" {
			return plan.Wish{}, say.T("free again"), nil
		}
		return b.Wish.Free(stage), say.T("%s is free again", StageWords[stage]), nil
	})
}

// Skip leaves a batch out.
func Skip(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) error {
	return change(ctx, s, w, id, func(_ *store.Tx, _ Outlook, _ Line, b Batch) (plan.Wish, say.Text, error) {
		b.Wish.Skip = true
		return b.Wish, say.T("left out"), nil
	})
}

// Go takes a way out of a batch that cannot be: the first of that kind among those that are offered
// now. Where none is any more, it is refused.
func Go(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID, kind string) error {
	return change(ctx, s, w, id, func(tx *store.Tx, o Outlook, l Line, b Batch) (plan.Wish, say.Text, error) {
		for _, way := range o.Ways(id) {
			if way.Kind != kind {
				continue
			}
			switch kind {
			case plan.WayOther:
				err := putWish(ctx, tx, way.Line, way.Batch.ID, way.Wish(way.Batch.Wish))
				return b.Wish, say.T("another makes room for it"), err
			case plan.WayOpen:
				day := opening(way.Way, l.Goal.Name)
				_, err := season.SpecialKind.PutIn(ctx, tx, day, things.New)
				return b.Wish, say.T("somebody comes in on %s", way.Open.Short()), err
			}
			return way.Wish(b.Wish), say.T("another choice was made"), nil
		}
		return plan.Wish{}, nil, field.Refuse("way", "is not there any more; look at the season again")
	})
}

// opening is the day on which somebody comes in, as a school writes it down.
func opening(w plan.Way, goal string) season.Days {
	id := uuid.NewSHA1(uuid.NameSpaceOID, []byte("open "+goal+w.Open.String()))
	return season.Days{ID: id, From: w.Open, To: w.Open, Name: goal, Minutes: min(600, int(w.Minutes))}
}

// StageWords are the moves of a batch, and the day on which it is ready.
var StageWords = map[string]say.Words{
	plan.StageTray: "Sow##stage", plan.StagePot: "Pot on##stage", plan.StageHarden: "Harden off##stage", plan.StageLast: "Last place##stage",
	plan.StageReady: "Ready##stage",
}

// PinSays says what a pin says.
func PinSays(p plan.Pin) say.Text {
	called := StageWords[p.Stage]
	switch {
	case p.Day > 0 && p.Not:
		return say.T("%s: not on %s", called, p.Day.Short())
	case p.Day > 0:
		return say.T("%s: on %s", called, p.Day.Short())
	case p.Not:
		return say.T("%s: not at %s", called, say.Name(p.Place))
	}
	return say.T("%s: at %s", called, say.Name(p.Place))
}

// WishSays says the rest of what is wished for a batch.
func WishSays(w plan.Wish) (out []say.Text) {
	for _, p := range w.Pins {
		out = append(out, PinSays(p))
	}
	if w.Shift > 0 {
		out = append(out, say.T("ready up to %s later", say.Plural(w.Shift, "day")))
	}
	if w.Shift < 0 {
		out = append(out, say.T("ready %s earlier", say.Plural(-w.Shift, "day")))
	}
	if w.Plants > 0 {
		out = append(out, say.T("%s only", say.Plural(w.Plants, "plant")))
	}
	for _, s := range []string{plan.StageTray, plan.StagePot, plan.StageHarden, plan.StageLast} {
		if n := w.Wait[s]; n > 0 {
			out = append(out, say.T("%s: waits %s too long", StageWords[s], say.Plural(n, "day")))
		}
	}
	return out
}

// DayOf is the day of a move of a batch as it is planned; 0: none.
func (b Batch) DayOf(stage string) calendar.Day {
	if stage == plan.StageReady {
		return b.Ready
	}
	for _, m := range b.Moves {
		if m.Stage == stage {
			return m.Day
		}
	}
	return 0
}
