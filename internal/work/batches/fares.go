package batches

import (
	"context"
	"math"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/away"
	"ulpa/core/round"
	"ulpa/core/vessel"
	"ulpa/internal/base/store"
	walk "ulpa/internal/work/round"
	"ulpa/internal/work/site"
)

// How pots fare when nobody is there is part of the round, and nothing is due of them.
var _ = walk.Declare(walk.Part[away.Pots]{
	Order: 30, Read: wetPots,
	Fares: func(_ round.Day, s away.Span, p away.Pots) []away.Thing { return []away.Thing{p.Fares(s)} },
})

// Airs are what draws water from leaves, by place.
func Airs(ctx context.Context, tx *store.Tx) (map[uuid.UUID]away.Air, error) {
	return store.Keep(ctx, tx, "airs "+tx.Minute()+tx.Light(), func() (map[uuid.UUID]away.Air, error) { return readAirs(ctx, tx) })
}

func readAirs(ctx context.Context, tx *store.Tx) (map[uuid.UUID]away.Air, error) {
	places, err := site.PlacesOfWalk(ctx, tx)
	out := map[uuid.UUID]away.Air{}
	for _, p := range places {
		a := away.Air{TempC: p.TemperatureC, Humidity: p.Humidity}
		if tx.Who.Latitude != nil {
			a.LightMol = p.LightMol(*tx.Who.Latitude, tx.Who.Day(tx.Now))
		}
		out[p.ID] = a
	}
	return out, err
}

// wetPots are the pots that something stands in, batch by batch.
func wetPots(ctx context.Context, tx *store.Tx) (out []away.Pots, err error) {
	air, err := Airs(ctx, tx)
	if err != nil {
		return nil, err
	}
	sizes, err := site.PotKind.All(ctx, tx)
	if err != nil {
		return nil, err
	}
	lines, err := Lines(ctx, tx)
	for _, l := range lines {
		for _, x := range l.Potted {
			i := slices.IndexFunc(sizes, func(p site.PotSetup) bool { return p.ID == x.Size })
			if i < 0 {
				continue
			}
			filled, err := vessel.FillPots(vessel.PotsInput{Pot: sizes[i].Pot().Vessel(), Count: 1})
			if err != nil {
				continue // its measures say nothing
			}
			top := sizes[i].TopCM * sizes[i].TopCM
			if !sizes[i].Square {
				top *= math.Pi / 4
			}
			out = append(out, away.Pots{
				Batch: l.ID.String(), Code: l.Code, Pot: x.Pot, Place: x.Place.String(), Plants: x.Plants,
				PotML: 1000 * filled.PotL, TopCM2: top, Air: air[x.Place],
			})
		}
	}
	return out, err
}
