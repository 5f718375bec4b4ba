// Package season is the school's days and the weather ahead.
//
//	err := season.PutNight(ctx, store, who, cold.Night{Day: day, MinC: -2})
package season

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// Closures reads the closed days, from the first.
func Closures(ctx context.Context, s *store.Store, w who.Who) (out []calendar.Closure, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		school, err := Calendar(ctx, tx)
		out = school.Closures
		return err
	})
	return out, err
}

// ClosureSetup is a run of closed days as it is written down.
type ClosureSetup struct {
	ID   uuid.UUID    `json:"id"`
	From calendar.Day `json:"from"`
	To   calendar.Day `json:"to"`
	Name string       `json:"name"`
}

// ClosureKind is how closed days are written down. Nothing refers to them, so they are
// deleted and not retired.
var ClosureKind = &things.Kind[ClosureSetup]{
	Name: "closures", One: "closed days##thing", Add: "Add closed days", Title: "Closed days",
	About: "When nobody is here. Weekends are closed already. Water, trays and frames are checked against it.",
	May:   who.Settings,
	Fields: []ledger.Field[ClosureSetup]{
		ledger.Day("from", "First day", func(c *ClosureSetup) *calendar.Day { return &c.From }),
		ledger.Day("to", "Last day", func(c *ClosureSetup) *calendar.Day { return &c.To }),
		ledger.Short("name", "Why", func(c *ClosureSetup) *string { return &c.Name }),
	},
	ID:    func(c *ClosureSetup) *uuid.UUID { return &c.ID },
	Blank: func() ClosureSetup { return ClosureSetup{} },
	All: func(ctx context.Context, tx *store.Tx) (out []ClosureSetup, err error) {
		rows, err := tx.ListClosures(ctx)
		for _, r := range rows {
			out = append(out, ClosureSetup{r.ID, calendar.Of(r.FromDay), calendar.Of(r.ToDay), r.Name})
		}
		return out, err
	},
	Label: func(c ClosureSetup) string { return c.Name },
	Says: func(c ClosureSetup) say.Text {
		if c.From == c.To {
			return say.Date(c.From.UTC(), "2 Jan 2006")
		}
		return say.T("%s to %s", say.Date(c.From.UTC(), "2 Jan 2006"), say.Date(c.To.UTC(), "2 Jan 2006"))
	},
	Check: func(ctx context.Context, tx *store.Tx, _, c *ClosureSetup) error {
		var e field.Errors
		e.Require(c.From > 0, "from", "must be a date")
		e.Require(c.To >= c.From, "to", "is before the first closed day")
		e.Require(c.To-c.From < 200, "to", "is more than 200 days later")
		c.Name = name.Take(&e, "name", c.Name, 60)
		rows, err := tx.ListClosures(ctx)
		for _, r := range rows {
			if r.ID != c.ID && calendar.Of(r.FromDay) == c.From {
				e.Add("from", "is the first of “%s” already; change that one", say.Name(r.Name))
			}
		}
		if err != nil {
			return err
		}
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *ClosureSetup, c ClosureSetup) error {
		return tx.PutClosure(ctx, db.PutClosureParams{SchoolID: tx.Who.School, ID: c.ID, FromDay: c.From.UTC(), ToDay: c.To.UTC(), Name: c.Name})
	},
	Drop: func(ctx context.Context, tx *store.Tx, c ClosureSetup) error { return tx.DropClosure(ctx, c.ID) },
}

// Close writes down a new run of closed days.
func Close(ctx context.Context, s *store.Store, w who.Who, c calendar.Closure) error {
	id, err := uuid.NewV7()
	if err != nil {
		return err
	}
	_, err = ClosureKind.Put(ctx, s, w, ClosureSetup{id, c.From, c.To, c.Name}, things.New)
	return err
}
