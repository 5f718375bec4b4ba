package site

import (
	"context"
	"time"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/tank"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
)

// How far back and ahead the weather of a place is told, in days, and how much leaf it is
// told for.
const (
	weatherBack, weatherAhead = 45, 45
	weatherLeaf               = 2.0
)

// Weathers are what air and light draw at the places of these tanks: by the light of each
// day, as warm and humid as the place's meters said; where they were silent, and on days to
// come, as its last week was or as is usual in the season. Nobody knows it where the school
// has not said how far north it lies.
func Weathers(ctx context.Context, tx *store.Tx, tanks []ledger.Tank) (map[uuid.UUID]tank.Weather, error) {
	if len(tanks) == 0 {
		return nil, nil
	}
	today := tx.Who.Day(tx.Now)
	return store.Keep(ctx, tx, "weather "+tx.Light(), func() (map[uuid.UUID]tank.Weather, error) { return weathers(ctx, tx, today) })
}

func weathers(ctx context.Context, tx *store.Tx, today calendar.Day) (map[uuid.UUID]tank.Weather, error) {
	if tx.Who.Latitude == nil {
		return nil, nil
	}
	rows, err := tx.ListPlaces(ctx)
	if err != nil {
		return nil, err
	}
	places, err := placesOf(ctx, tx, rows...)
	if err != nil {
		return nil, err
	}
	first := today - weatherBack
	read, err := metered(ctx, tx, rows, first)
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]tank.Weather{}
	for i, p := range places {
		w := tank.Weather{From: first.At(0, 0, tx.Who.Zone)}
		for d := first; d <= today+weatherAhead; d++ {
			warm, humid := p.TemperatureC, p.Humidity
			if d < today-meterDays || !p.Measured {
				warm = p.UsualC(d.At(12, 0, tx.Who.Zone), tx.Who)
			}
			if v, ok := read.on(rows[i].MeterID, d); ok {
				warm = v
			}
			if v, ok := read.on(rows[i].HumidID, d); ok {
				humid = &v
			}
			w.Daily = append(w.Daily, climate.Draws(p.LightMol(*tx.Who.Latitude, d), warm, humid, weatherLeaf))
		}
		out[p.ID] = w
	}
	return out, nil
}

// means are those of meters by the day.
type means map[uuid.UUID]map[calendar.Day]float64

func (m means) on(meter *uuid.UUID, d calendar.Day) (float64, bool) {
	if meter == nil {
		return 0, false
	}
	v, ok := m[*meter][d]
	return v, ok
}

// metered are the daily means of the places' meters since a day.
func metered(ctx context.Context, tx *store.Tx, rows []db.Place, first calendar.Day) (means, error) {
	var meters []uuid.UUID
	for _, r := range rows {
		for _, id := range []*uuid.UUID{r.MeterID, r.HumidID} {
			if id != nil {
				meters = append(meters, *id)
			}
		}
	}
	if len(meters) == 0 {
		return nil, nil
	}
	out := means{}
	list, err := tx.DailyMeans(ctx, db.DailyMeansParams{Meters: meters, Since: first.At(0, 0, time.UTC), Until: tx.Now})
	for _, x := range list {
		if out[x.SeriesID] == nil {
			out[x.SeriesID] = map[calendar.Day]float64{}
		}
		out[x.SeriesID][calendar.Of(x.At.UTC())] = x.Mean
	}
	return out, err
}
