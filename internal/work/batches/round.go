package batches

import (
	"context"

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
var _ = walk.Declare(walk.Part[round.Batch]{
	Order: 10, Read: batches,
	Due:   func(d round.Day, b round.Batch) []round.Task { return d.OfBatch(b) },
	Fares: away.OfBatch,
	Pages: map[*round.Kind]walk.Page{
		round.Count:  {Path: onTray, Do: "Count"},
		round.Warmth: {Path: onTray, Do: "Open"},
		round.Look:   walk.At("/batches/", "", "Open"), round.Harvest: walk.At("/batches/", "", "Open"),
		round.OpenFrame: walk.At("/batches/", "", "Open"), round.Cover: walk.At("/batches/", "", "Open"),
		round.Rinse: walk.At("/batches/", "#tend", "Open"), round.Discard: walk.At("/batches/", "#tend", "Open"),
		round.Attend: walk.At("/batches/", "#tend", "Open"),
		round.Move:   walk.At("/batches/", "/move", "Move"), round.PotOn: walk.At("/batches/", "/move", "Move"),
		round.SetOut: walk.At("/batches/", "/move", "Move"), round.BringIn: walk.At("/batches/", "/move", "Move"),
		round.TakeOut: walk.At("/batches/", "/move", "Move"),
	},
})

func onTray(t round.Task) string { return "/trays/" + t.Tray }

// InTray is how much of a batch stands and waits in a tray.
type InTray struct {
	Batch, Tray, Place uuid.UUID
	Waiting, Standing  int
}

// InTrays is how much of each batch stands and waits in which tray.
func InTrays(ctx context.Context, tx *store.Tx) ([]InTray, error) {
	return store.Keep(ctx, tx, "in trays", func() (out []InTray, err error) {
		rows, err := tx.TraysOfBatches(ctx)
		for _, r := range rows {
			out = append(out, InTray{Batch: r.BatchID, Tray: r.TrayID, Place: r.PlaceID, Waiting: r.Waiting, Standing: r.Standing})
		}
		return out, err
	})
}

// batches are those that grow, as the round looks at them.
func batches(ctx context.Context, tx *store.Tx, d round.Day) (out []round.Batch, err error) {
	lines, err := Lines(ctx, tx)
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
	moves, err := season.PlannedMoves(ctx, tx)
	if err != nil {
		return nil, err
	}
	for _, l := range lines {
		b := l.onRound(trays, d.Calendar, tx.Who, opened[l.ID], d.Today)
		b.Planned = moves[l.ID]
		out = append(out, b)
	}
	return out, nil
}

func (l Line) onRound(trays []InTray, school calendar.School, w who.Who, opened map[calendar.Day]bool, today calendar.Day) round.Batch {
	b := round.Batch{
		ID: l.ID.String(), Code: l.Code, Crop: l.Crop, Sown: l.Sown, Sprouted: l.State.Sprouted, Sprouts: l.Sprouts, Rooting: l.State.Start != "",
		Cells: l.State.Sown, Counted: l.Counted, Cut: l.Cut, Whole: l.State.Taken > 0, GoodDays: l.GoodDays(opened, today),
		Verdict: l.Verdict, LookedOn: l.Seen.On, InTray: map[string]string{}, InPorts: map[string]int{}, InStands: map[string]int{},
		Sprouting: l.Care,
	}
	for _, t := range trays {
		if t.Batch == l.ID {
			b.InTray[t.Place.String()] = t.Tray.String()
			b.Standing += t.Standing
			b.Waiting += t.Waiting
		}
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
