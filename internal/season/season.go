// Package season is the school's days and the weather ahead.
package season

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/harden"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Calendar reads the school's open and closed days.
func Calendar(ctx context.Context, tx *store.Tx) (calendar.School, error) {
	rows, err := tx.ListClosures(ctx)
	var s calendar.School
	for _, r := range rows {
		s.Closures = append(s.Closures, calendar.Closure{From: calendar.Of(r.FromDay), To: calendar.Of(r.ToDay), Name: r.Name})
	}
	return s, err
}

// Night is one night's forecast low.
type Night struct {
	Day  calendar.Day
	MinC float64
}

// NightsAhead reads the forecast lows from today on.
func NightsAhead(ctx context.Context, tx *store.Tx, days int) ([]Night, error) {
	today := tx.Who.Day(tx.Now)
	rows, err := tx.ListNights(ctx, db.ListNightsParams{FromDay: today.UTC(), ToDay: (today + calendar.Day(days-1)).UTC()})
	var out []Night
	for _, r := range rows {
		out = append(out, Night{calendar.Of(r.Day), r.MinC})
	}
	return out, err
}

// PutNight writes down a night's forecast low, °C.
func PutNight(ctx context.Context, s *store.Store, w who.Who, n Night) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	if n.MinC < -60 || n.MinC > 50 {
		return field.Refuse("min", "takes −60 to 50 °C")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.PutNight(ctx, db.PutNightParams{SchoolID: w.School, Day: n.Day.UTC(), MinC: n.MinC})
	})
}

// Close writes down a run of closed days.
func Close(ctx context.Context, s *store.Store, w who.Who, c calendar.Closure) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	var e field.Errors
	e.Require(c.To >= c.From, "to", "is before the first closed day")
	e.Require(c.To-c.From < 200, "to", "is more than 200 days later")
	e.Require(c.Name != "", "name", "say why it is closed, so that everybody knows the week")
	if err := e.Err(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.AddClosure(ctx, db.AddClosureParams{SchoolID: w.School, FromDay: c.From.UTC(), ToDay: c.To.UTC(), Name: c.Name})
	})
}

// Ramp is the hardening plan of a batch that was put into a frame; empty when
// none was begun.
func Ramp(ctx context.Context, s *store.Store, w who.Who, batchID uuid.UUID) (out []harden.Day, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		school, err := Calendar(ctx, tx)
		if err != nil {
			return err
		}
		facts, err := tx.FactsOfBatches(ctx, []uuid.UUID{batchID})
		for _, f := range facts {
			if f.Kind != string(batch.Harden) {
				continue
			}
			var a batch.Act
			if err := json.Unmarshal(f.Data, &a); err != nil {
				return err
			}
			out = harden.Ramp(school, w.Day(f.HappenedAt), a.RampDays)
		}
		return err
	})
	return out, err
}
