package site

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"ulpa/core/climate"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
)

// AirRead is a reading of the air of a place.
var AirRead = ledger.Declare(ledger.Kind[climate.Seen]{
	Name: "air",
	Says: func(s climate.Seen) say.Text {
		var parts []say.Text
		for _, x := range []struct {
			v    *float64
			says say.Words
			unit string
		}{
			{s.TempC, "%s", unit.Celsius}, {s.Humidity, "%s humid", "%"}, {s.Hours, "light for %s", "hours"}, {s.Umol, "%s at the leaves", "µmol/m²/s"},
		} {
			if x.v != nil {
				parts = append(parts, say.T(x.says, say.Of(*x.v, x.unit)))
			}
		}
		return say.T("Air: %s", say.Join(", ", parts...))
	},
	Fields: []ledger.Field[climate.Seen]{
		ledger.Maybe("air_temp", "Air", unit.Celsius, func(s *climate.Seen) **float64 { return &s.TempC }),
		ledger.Maybe("humidity", "Humidity", "%", func(s *climate.Seen) **float64 { return &s.Humidity }),
		ledger.Maybe("light_hours", "Light, a day", "hours", func(s *climate.Seen) **float64 { return &s.Hours }),
		ledger.Maybe("umol", "Light at the leaves", "µmol/m²/s", func(s *climate.Seen) **float64 { return &s.Umol }),
	},
	Right: func(_ context.Context, _ *store.Tx, _ ledger.Entry, s climate.Seen) (climate.Seen, error) {
		return s, s.Check()
	},
})

// ReadAir writes down what was read of the air of a place.
func ReadAir(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, a climate.Seen) error {
	if err := w.Must(who.Measure); err != nil {
		return err
	}
	if err := a.Check(); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: act.ID, Verb: "site.ReadAir", What: []any{act.On, a, act.At}}, func(tx *store.Tx) error {
		p, err := GetPlace(ctx, tx, act.On)
		if err != nil {
			return err
		}
		_, err = ledger.Write(ctx, tx, ledger.Fact{ID: act.ID, Kind: AirRead.Name, HappenedAt: act.At, About: []uuid.UUID{act.On}, Data: a, Names: p.Name})
		return err
	})
}

// Climate is the air and the light of a place, and when somebody last read it by hand.
type Climate struct {
	climate.Place
	ByHand *time.Time
}

// airDays is how long what was read by hand stands.
const airDays = 14

// ClimateOf is the air and the light of a place: by its meters, else as somebody read them
// within a fortnight, else as is usual there.
func ClimateOf(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (c Climate, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		p, err := GetPlace(ctx, tx, id)
		if err != nil {
			return err
		}
		usual := climate.Place{TempC: p.TemperatureC, Measured: p.Measured, Humidity: p.Humidity}
		if w.Latitude != nil {
			usual.LightMol = p.LightMol(*w.Latitude, w.Day(tx.Now))
		}
		rows, err := tx.AirOf(ctx, db.AirOfParams{Place: id, Since: tx.Now.AddDate(0, 0, -airDays)})
		if err != nil {
			return err
		}
		var seen []climate.Seen
		for _, r := range rows {
			var a climate.Seen
			if err := json.Unmarshal(r.Data, &a); err != nil {
				return err
			}
			seen, c.ByHand = append(seen, a), &r.HappenedAt
		}
		c.Place, err = usual.Known(seen)
		return err
	})
	return c, err
}
