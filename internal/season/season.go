// Package season is the school's days and the weather ahead.
//
//	err := season.PutNight(ctx, store, who, cold.Night{Day: day, MinC: -2})
package season

import (
	"context"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/name"
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

// Closures reads the closed days, from the first.
func Closures(ctx context.Context, s *store.Store, w who.Who) (out []calendar.Closure, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		school, err := Calendar(ctx, tx)
		out = school.Closures
		return err
	})
	return out, err
}

// Close writes down a run of closed days.
func Close(ctx context.Context, s *store.Store, w who.Who, c calendar.Closure) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	var e field.Errors
	e.Require(c.To >= c.From, "to", "is before the first closed day")
	e.Require(c.To-c.From < 200, "to", "is more than 200 days later")
	c.Name = name.Take(&e, "name", c.Name, 60)
	if err := e.Err(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.AddClosure(ctx, db.AddClosureParams{SchoolID: w.School, FromDay: c.From.UTC(), ToDay: c.To.UTC(), Name: c.Name})
	})
}
