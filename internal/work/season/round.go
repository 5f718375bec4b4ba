package season

import (
	"context"

	"ulpa/core/crop"
	"ulpa/core/round"
	"ulpa/internal/base/store"
	walk "ulpa/internal/work/round"
)

// When somebody is there, and the nights, are what every part of the round goes by.
var _ = walk.Ground(func(ctx context.Context, tx *store.Tx, d *round.Day) (err error) {
	if d.Calendar, err = Calendar(ctx, tx); err != nil {
		return err
	}
	d.Cold, err = Cold(ctx, tx)
	return err
})

// Planned sowings are part of the round. The nights are written down among the settings.
var _ = walk.Declare(walk.Part[round.Planned]{
	Order: 120, Read: toSow,
	Due: func(d round.Day, p round.Planned) []round.Task { return d.OfPlanned(p) },
	Pages: map[*round.Kind]walk.Page{
		round.Sow:      walk.At("/sow?planned=", "", "Sow"),
		round.Forecast: {Path: func(round.Task) string { return "/settings/nights" }, Do: "Open"},
	},
})

func toSow(ctx context.Context, tx *store.Tx) (out []round.Planned, err error) {
	planned, err := Ahead(ctx, tx)
	for _, p := range planned {
		c, _ := crop.Of(p.Crop)
		out = append(out, round.Planned{ID: p.ID.String(), Crop: c.Name, Wanted: p.Wanted, SowOn: p.SowOn, ReadyBy: p.ReadyBy})
	}
	return out, err
}
