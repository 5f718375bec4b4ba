package site

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"ulpa/core/climate"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/ledger"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Air is what somebody read of the air and the light of a place.
type Air struct {
	TempC    *float64 `json:"temp_c,omitempty"`
	Humidity *float64 `json:"humidity,omitempty"` // %
	Hours    *float64 `json:"light_hours,omitempty"`
	Umol     *float64 `json:"umol,omitempty"` // µmol/m² and second, at the leaves
}

// Check refuses what hardly can be.
func (a Air) Check() error {
	var e field.Errors
	e.Require(a.TempC != nil || a.Humidity != nil || a.Hours != nil || a.Umol != nil, "air_temp", "type at least one figure")
	e.Require(a.TempC == nil || *a.TempC >= -30 && *a.TempC <= 60, "air_temp", "takes %s to %s", say.Figure(-30, unit.Celsius), say.Of(60, unit.Celsius))
	e.Require(a.Humidity == nil || *a.Humidity >= 1 && *a.Humidity <= 100, "humidity", "takes 1 to 100 %%")
	e.Require(a.Hours == nil || *a.Hours >= 0 && *a.Hours <= 24, "light_hours", "takes 0 to 24 hours")
	e.Require(a.Umol == nil || *a.Umol >= 0 && *a.Umol <= 3000, "umol", "takes 0 to 3,000")
	return e.Err()
}

// AirRead is a reading of the air of a place.
var AirRead = ledger.Declare(ledger.Kind[Air]{
	Name: "air",
	Says: func(a Air) say.Text {
		var parts []say.Text
		for _, x := range []struct {
			v    *float64
			says say.Words
			unit string
		}{
			{a.TempC, "%s", unit.Celsius}, {a.Humidity, "%s humid", "%"}, {a.Hours, "light for %s", "hours"}, {a.Umol, "%s at the leaves", "µmol/m²/s"},
		} {
			if x.v != nil {
				parts = append(parts, say.T(x.says, say.Of(*x.v, x.unit)))
			}
		}
		return say.T("Air: %s", say.Join(", ", parts...))
	},
	Fields: []ledger.Field[Air]{
		ledger.Maybe("air_temp", "Air", unit.Celsius, func(a *Air) **float64 { return &a.TempC }),
		ledger.Maybe("humidity", "Humidity", "%", func(a *Air) **float64 { return &a.Humidity }),
		ledger.Maybe("light_hours", "Light, a day", "hours", func(a *Air) **float64 { return &a.Hours }),
		ledger.Maybe("umol", "Light at the leaves", "µmol/m²/s", func(a *Air) **float64 { return &a.Umol }),
	},
	Right: func(_ context.Context, _ *store.Tx, _ ledger.Entry, a Air) (Air, error) { return a, a.Check() },
})

// ReadAir writes down what was read of the air of a place.
func ReadAir(ctx context.Context, s *store.Store, w who.Who, id, place uuid.UUID, a Air, at time.Time) error {
	if err := w.Must(who.Measure); err != nil {
		return err
	}
	if err := a.Check(); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: id, Verb: "site.ReadAir", What: []any{place, a, at}}, func(tx *store.Tx) error {
		p, err := GetPlace(ctx, tx, place)
		if err != nil {
			return err
		}
		_, err = ledger.Write(ctx, tx, ledger.Fact{ID: id, Kind: AirRead.Name, HappenedAt: at, About: []uuid.UUID{place}, Data: a, Names: p.Name})
		return err
	})
}

// Climate is the air and the light of a place, as far as anybody knows.
type Climate struct {
	TempC    float64
	Humidity *float64 // %; nil: nobody knows
	VPDKPa   *float64
	Steps    climate.Air
	LightMol float64  // a usual day; 0: not known
	Hours    *float64 // of light, as somebody said
	ByHand   *time.Time
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
		c.TempC, c.Humidity = p.TemperatureC, p.Humidity
		school, err := tx.GetSchool(ctx)
		if err != nil {
			return err
		}
		if school.Latitude != nil {
			c.LightMol = p.LightMol(*school.Latitude, w.Day(tx.Now))
		}
		rows, err := tx.AirOf(ctx, db.AirOfParams{Place: id, Since: tx.Now.AddDate(0, 0, -airDays)})
		if err != nil {
			return err
		}
		var umol *float64
		for _, r := range rows {
			var a Air
			if err := json.Unmarshal(r.Data, &a); err != nil {
				return err
			}
			at := r.HappenedAt
			c.ByHand = &at
			if a.TempC != nil && !p.Measured {
				c.TempC = *a.TempC
			}
			if a.Humidity != nil && p.Humidity == nil {
				c.Humidity = a.Humidity
			}
			if a.Hours != nil {
				c.Hours = a.Hours
			}
			if a.Umol != nil {
				umol = a.Umol
			}
		}
		if umol != nil && c.Hours != nil {
			c.LightMol = *umol * *c.Hours * 3600 / 1e6
		}
		if c.Humidity != nil {
			if c.Steps, err = climate.OfAir(c.TempC, *c.Humidity, 0); err != nil {
				return err
			}
			c.VPDKPa = &c.Steps.VPDKPa
		}
		return nil
	})
	return c, err
}
