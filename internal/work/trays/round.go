package trays

import (
	"context"
	"net/url"

	"github.com/google/uuid"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/round"
	"ulpa/core/tray"
	"ulpa/internal/base/store"
	"ulpa/internal/work/batches"
	walk "ulpa/internal/work/round"
	"ulpa/internal/work/site"
)

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

func gaps(ctx context.Context, tx *store.Tx) (out []round.Gap, err error) {
	list, err := Gaps(ctx, tx)
	for _, g := range list {
		out = append(out, round.Gap{
			ID: g.ID.String(), Tray: g.Tray.String(), Name: g.Called, Place: g.Place.String(), Cells: tray.Format(g.Cells), Crop: g.Crop.Name, On: g.On,
		})
	}
	return out, err
}

func trayCare(ctx context.Context, tx *store.Tx) (out []round.Tray, err error) {
	cared, err := Advise(ctx, tx)
	for _, a := range cared {
		out = append(out, round.Tray{ID: a.Tray.String(), Name: a.Name, Place: a.Place.String(), Advice: a.Advice})
	}
	return out, err
}

// The water that trays draw is part of the round.
var _ = walk.Declare(walk.Part[round.Thirst]{
	Order: 75, Read: thirsty,
	Due:   func(d round.Day, x round.Thirst) []round.Task { return d.OfThirst(x) },
	Pages: map[*round.Kind]walk.Page{round.WaterTrays: walk.At("/places/", "", "Open")},
})

// thirsty are the trays that are in use and lie under no cover. Whoever sows waters.
func thirsty(ctx context.Context, tx *store.Tx) (out []round.Thirst, err error) {
	cares, err := Cares(ctx, tx)
	if err != nil {
		return nil, err
	}
	lines, err := batches.Lines(ctx, tx)
	if err != nil {
		return nil, err
	}
	parts, err := batches.InTrays(ctx, tx)
	if err != nil {
		return nil, err
	}
	sown := map[string]calendar.Day{} // the latest, by tray
	for _, l := range lines {
		for _, x := range parts.OfBatch[l.ID] {
			sown[x.Tray.String()] = max(sown[x.Tray.String()], l.Sown)
		}
	}
	trays, err := wetTrays(ctx, tx)
	for _, t := range trays {
		id, err := uuid.Parse(t.ID)
		if err != nil {
			return nil, err
		}
		if c := cares[id]; !c.Cover || t.Up > 0 {
			out = append(out, round.Thirst{ID: t.ID, Name: t.Name, Place: t.Place, UseL: t.UseL(), Watered: max(c.Watered, sown[t.ID])})
		}
	}
	return out, err
}

// How trays fare when nobody is there is part of the round, and nothing is due of it.
var _ = walk.Declare(walk.Part[away.Tray]{
	Order: 20, Read: wetTrays,
	Fares: func(_ round.Day, s away.Span, t away.Tray) []away.Thing { return []away.Thing{t.Fares(s)} },
})

// wetTrays are the trays that something stands in.
func wetTrays(ctx context.Context, tx *store.Tx) (out []away.Tray, err error) {
	air, err := batches.Airs(ctx, tx)
	if err != nil {
		return nil, err
	}
	parts, err := batches.InTrays(ctx, tx)
	if err != nil {
		return nil, err
	}
	trays, err := site.Trays(ctx, tx)
	for _, t := range trays {
		x := away.Tray{
			ID: t.ID.String(), Name: t.Name, Place: t.Place.String(), All: t.Cells(), CellML: t.CellML, Drains: t.Drains, Air: air[t.Place],
		}
		for _, p := range parts.InTray[t.ID] {
			x.Cells += p.Waiting + p.Standing
			x.Up += p.Standing
		}
		if many := x.Cells; t.Open() && many > 0 { // its sections, and as many of them as have seedlings up
			x.Cells, x.Up = t.Used, t.Used*x.Up/many
		}
		if x.Cells > 0 {
			out = append(out, x)
		}
	}
	return out, err
}
