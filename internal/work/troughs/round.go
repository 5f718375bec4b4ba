package troughs

import (
	"context"

	"ulpa/core/away"
	"ulpa/core/round"
	"ulpa/internal/base/store"
	walk "ulpa/internal/work/round"
)

// What fish need is part of the round, and how they fare when nobody is there.
var _ = walk.Declare(walk.Part[round.Trough]{
	Order: 100, Read: withFish,
	Due:   func(d round.Day, t round.Trough) []round.Task { return d.OfTrough(t) },
	Fares: away.OfTrough,
	Pages: map[*round.Kind]walk.Page{
		round.FishAlarm: walk.At("/fish/", "", "Open"), round.FishRead: walk.At("/fish/", "", "Open"),
		round.FishFeed: walk.At("/fish/", "", "Open"), round.FishWeigh: walk.At("/fish/", "", "Open"),
	},
})

func withFish(ctx context.Context, tx *store.Tx) (out []round.Trough, err error) {
	kept, err := InUse(ctx, tx)
	for _, t := range kept {
		out = append(out, round.Trough{ID: t.ID.String(), Name: t.Name, Place: t.Place.String(), Trough: t.Trough(), State: t.State})
	}
	return out, err
}
