package site

import (
	"context"

	"ulpa/core/round"
	"ulpa/internal/base/store"
	walk "ulpa/internal/work/round"
)

// The places, in the order to walk, are the stops of the round; tasks name the trays.
var _ = walk.Ground(func(ctx context.Context, tx *store.Tx, d *round.Day) error {
	places, err := PlacesOfWalk(ctx, tx)
	for _, p := range places {
		d.Places = append(d.Places, round.Place{ID: p.ID.String(), Name: p.Name, Kind: p.Kind, TemperatureC: p.TemperatureC})
	}
	if err != nil {
		return err
	}
	trays, err := Trays(ctx, tx)
	d.Trays = map[string]string{}
	for _, t := range trays {
		d.Trays[t.ID.String()] = t.Name
	}
	return err
})
