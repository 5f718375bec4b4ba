package batches

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/round"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	walk "ulpa/internal/work/round"
	"ulpa/internal/work/season"
)

// What is due of batches is part of the round, and how they fare when nobody is there.
var _ = walk.Declare(walk.Part[*growing]{
	Order: 10, Read: batches,
	Due:   func(_ round.Day, b *growing) []round.Task { return b.due },
	Fares: func(d round.Day, s away.Span, b *growing) []away.Thing { return away.OfBatch(d, s, b.Batch) },
	Pages: map[*round.Kind]walk.Page{
		round.Count: {Path: onTray, Do: "Count"}, round.CountTray: {Path: onTray, Do: "Count"},
		round.Warmth: {Path: onTray, Do: "Open"},
		round.Look:   walk.At("/batches/", "", "Open"), round.Harvest: walk.At("/batches/", "", "Open"),
		round.OpenFrame: walk.At("/batches/", "", "Open"), round.Cover: walk.At("/batches/", "", "Open"),
		round.Rinse: walk.At("/batches/", "#tend", "Open"), round.Discard: walk.At("/batches/", "#tend", "Open"),
		round.Settle: walk.At("/batches/", "#tend", "Open"),
		round.Attend: walk.At("/batches/", "#tend", "Open"),
		round.Move:   walk.At("/batches/", "/move", "Move"), round.PotOn: walk.At("/batches/", "/move", "Move"),
		round.SetOut: walk.At("/batches/", "/move", "Move"), round.BringIn: walk.At("/batches/", "/move", "Move"),
		round.TakeOut: walk.At("/batches/", "/move", "Move"), round.ToFrame: walk.At("/batches/", "/move", "Move"),
		round.CloseBatch: walk.At("/batches/", "", "Open"),
	},
})

func onTray(t round.Task) string { return "/trays/" + t.Tray }

// InTray is how much of a batch stands and waits in a tray.
type InTray struct {
	Batch, Tray, Place uuid.UUID
	Waiting, Standing  int
}

// Parts are how much of each batch stands and waits in which tray, by batch and by tray.
type Parts struct{ OfBatch, InTray map[uuid.UUID][]InTray }

// InTrays reads them.
func InTrays(ctx context.Context, tx *store.Tx) (Parts, error) {
	return store.Keep(ctx, tx, "in trays", func() (Parts, error) {
		p := Parts{map[uuid.UUID][]InTray{}, map[uuid.UUID][]InTray{}}
		rows, err := tx.TraysOfBatches(ctx)
		for _, r := range rows {
			x := InTray{Batch: r.BatchID, Tray: r.TrayID, Place: r.PlaceID, Waiting: r.Waiting, Standing: r.Standing}
			p.OfBatch[x.Batch], p.InTray[x.Tray] = append(p.OfBatch[x.Batch], x), append(p.InTray[x.Tray], x)
		}
		return p, err
	})
}

// growing is a batch that grows, as the round looks at it, and what is due of it.
type growing struct {
	round.Batch
	due []round.Task
}

// batches are those that grow: what is written of one is worked out for that one.
func batches(ctx context.Context, tx *store.Tx) (out []*growing, err error) {
	each, err := store.KeepEach(ctx, tx, fmt.Sprint("growing ", tx.Who.Prefs, tx.Minute()), ofBatches, func(ids []uuid.UUID) (store.Each[*growing], error) {
		return onRound(ctx, tx, ids)
	})
	if err != nil {
		return nil, err
	}
	lines, err := Lines(ctx, tx)
	for _, l := range lines {
		if b := each[l.ID]; b != nil {
			out = append(out, b)
		}
	}
	return out, err
}

// onRound are some batches as the round looks at them, or all.
func onRound(ctx context.Context, tx *store.Tx, ids []uuid.UUID) (store.Each[*growing], error) {
	d, err := walk.DayOf(ctx, tx)
	if err != nil {
		return nil, err
	}
	lines, err := eachLine(ctx, tx)
	if err != nil {
		return nil, err
	}
	trays, err := InTrays(ctx, tx)
	if err != nil {
		return nil, err
	}
	opened, err := season.Opened(ctx, tx)
	if err != nil {
		return nil, err
	}
	moves, err := season.MovesPlanned(ctx, tx)
	if err != nil {
		return nil, err
	}
	if ids == nil {
		ids = slices.Collect(maps.Keys(lines))
	}
	out := store.Each[*growing]{}
	for _, id := range ids {
		if l := lines[id]; l != nil {
			b := l.onRound(trays.OfBatch[id], d.Calendar, tx.Who, opened[id], d.Today)
			b.Planned, b.Outward = moves[id].Move, moves[id].Outward
			out[id] = &growing{Batch: b, due: d.OfBatch(b)}
		}
	}
	return out, nil
}

func (l Line) onRound(trays []InTray, school calendar.School, w who.Who, opened map[calendar.Day]bool, today calendar.Day) round.Batch {
	b := round.Batch{
		ID: l.ID.String(), Code: l.Code, Crop: l.Crop, Sown: l.Sown, Sprouted: l.State.Sprouted, Sprouts: l.Sprouts, Rooting: l.State.Start != "",
		Cells: l.State.Sown, Counted: l.Counted, Cut: l.Cut, Whole: l.State.Taken > 0, GoodDays: l.GoodDays(opened, today),
		Verdict: l.Verdict, LookedOn: l.Seen.On, InTray: map[string]string{}, InPorts: map[string]int{}, InStands: map[string]int{},
		Sprouting: l.Care, Crowded: crowded(l.State), Gone: l.InTrays()+l.InPorts()+l.InStands()+l.Undecided() == 0,
	}
	if l.State.Signs != nil {
		b.Delivered = round.Delivered{
			Signs: l.State.Signs, Wetted: dayOf(w, l.last.Wetted), Fed: dayOf(w, l.last.Fed), Moved: l.State.Moved > 0 || len(l.last.Potted) > 0,
		}
	}
	for _, t := range trays {
		b.InTray[t.Place.String()] = t.Tray.String()
		b.Standing += t.Standing
		b.Waiting += t.Waiting
	}
	for _, x := range l.Where {
		switch x.Kind {
		case "port":
			b.InPorts[x.Place.String()] += x.Plants
		case "stand":
			b.InStands[x.Place.String()] += x.Plants
		}
	}
	for _, x := range l.Potted {
		b.Potted = append(b.Potted, round.Potted{Place: x.Place.String(), Pot: x.Pot, Plants: x.Plants, Verdict: x.Verdict})
	}
	if b.Sprouting != nil {
		b.Standing = l.InStands()
	}
	if l.Harden != nil {
		plan := l.Harden.Plan(school, w, opened)
		b.Harden, b.Frame = &plan, l.Harden.Place.String()
	}
	return b
}

// dayOf is the day of a moment; 0 for none.
func dayOf(w who.Who, at *time.Time) calendar.Day {
	if at == nil {
		return 0
	}
	return w.Day(*at)
}
