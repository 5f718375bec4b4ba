package nursery

import (
	"context"
	"net/url"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/round"
	"ulpa/core/tray"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
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

// Sowings into gaps, and what trays need themselves, are part of the round.
var (
	_ = walk.Declare(walk.Part[round.Gap]{
		Order: 70, Read: gaps,
		Due: func(d round.Day, g round.Gap) []round.Task { return d.OfGap(g) },
		Pages: map[*round.Kind]walk.Page{round.SowGap: {
			Path: func(t round.Task) string { return "/sow?tray=" + t.Tray + "&cells=" + url.QueryEscape(t.Cells) }, Do: "Sow",
		}},
	})
	_ = walk.Declare(walk.Part[round.Tray]{
		Order: 80, Read: trayCare,
		Due:   func(d round.Day, t round.Tray) []round.Task { return d.OfTray(t) },
		Pages: map[*round.Kind]walk.Page{round.Care: walk.At("/trays/", "#care", "Open")},
	})
)

func gaps(ctx context.Context, tx *store.Tx, _ round.Day) (out []round.Gap, err error) {
	list, err := Gaps(ctx, tx)
	for _, g := range list {
		out = append(out, round.Gap{
			ID: g.ID.String(), Tray: g.Tray.String(), Name: g.Called, Place: g.Place.String(), Cells: tray.Format(g.Cells), Crop: g.Crop.Name, On: g.On,
		})
	}
	return out, err
}

func trayCare(ctx context.Context, tx *store.Tx, _ round.Day) (out []round.Tray, err error) {
	cared, err := AdviseTrays(ctx, tx)
	for _, a := range cared {
		out = append(out, round.Tray{ID: a.Tray.String(), Name: a.Name, Place: a.Place.String(), Advice: a.Advice})
	}
	return out, err
}

// inTrays is how much of each batch stands and waits in which tray.
func inTrays(ctx context.Context, tx *store.Tx) ([]db.TraysOfBatchesRow, error) {
	return store.Keep(ctx, tx, "in trays", func() ([]db.TraysOfBatchesRow, error) { return tx.TraysOfBatches(ctx) })
}

// batches are those that grow, as the round looks at them.
func batches(ctx context.Context, tx *store.Tx, d round.Day) (out []round.Batch, err error) {
	lines, err := Lines(ctx, tx)
	if err != nil {
		return nil, err
	}
	trays, err := inTrays(ctx, tx)
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

func (l Line) onRound(trays []db.TraysOfBatchesRow, school calendar.School, w who.Who, opened map[calendar.Day]bool, today calendar.Day) round.Batch {
	b := round.Batch{
		ID: l.ID.String(), Code: l.Code, Crop: l.Crop, Sown: l.Sown, Sprouted: l.State.Sprouted, Sprouts: l.Sprouts, Rooting: l.State.Start != "",
		Cells: l.State.Sown, Counted: l.Counted, Cut: l.Cut, Whole: l.State.Taken > 0, GoodDays: l.GoodDays(opened, today),
		Verdict: l.Verdict, LookedOn: l.Seen.On, InTray: map[string]string{}, InPorts: map[string]int{}, InStands: map[string]int{},
		Sprouting: l.Care,
	}
	for _, t := range trays {
		if t.BatchID == l.ID {
			b.InTray[t.PlaceID.String()] = t.TrayID.String()
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
