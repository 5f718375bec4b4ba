// Package trail keeps who signed in or tried to, who changed people or settings, and what
// was taken out of the school's books.
//
//	err := trail.Write(ctx, tx, "Enrolled the tablet %s", name)
package trail

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
)

// Write notes what the person of the transaction did. What is done in nobody's name, by
// whoever holds the owner's address, stands in no school's trail.
func Write(ctx context.Context, tx *store.Tx, says say.Words, args ...any) error {
	if tx.Who.Person == uuid.Nil {
		return nil
	}
	kept, err := json.Marshal(say.Kept{Text: say.T(says, args...)})
	if err != nil {
		return err
	}
	id, err := uuid.NewV7()
	if err != nil {
		return err
	}
	return tx.AddTrail(ctx, db.AddTrailParams{SchoolID: tx.Who.School, ID: id, At: tx.Now, PersonID: tx.Who.Person, Says: string(kept)})
}

// Note is Write in a transaction of its own.
func Note(ctx context.Context, s *store.Store, w who.Who, says say.Words, args ...any) error {
	return s.Aside(ctx, w, func(tx *store.Tx) error { return Write(ctx, tx, says, args...) })
}

// Line is what somebody did, once or several times on one day.
type Line struct {
	First, Last time.Time
	Times       int
	Person      string
	Says        say.Text
}

// kept reads what a line says; earlier releases kept it in English.
func kept(says string) say.Text {
	var k say.Kept
	if json.Unmarshal([]byte(says), &k) != nil || k.Text == nil {
		return say.Words(says)
	}
	return k.Text
}

// A page is of so many days at most and ends with the day that fills it; none has more
// than mostLines.
const perPage, mostLines, days = 100, 2000, 60

// Lines is a page, newest first; More is the day before which the next begins.
type Lines struct {
	Lines []Line
	More  *calendar.Day
}

// Read is a page of the trail, of the days before one (nil: from today on), for the
// coordinator. What one person did several times in a day is one line: nobody buries what
// others did.
func Read(ctx context.Context, s *store.Store, w who.Who, before *calendar.Day) (out Lines, err error) {
	if err := w.Must(who.Settings); err != nil {
		return out, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		until := (w.Day(tx.Now) + 2).At(0, 0, w.Zone)
		if before != nil {
			until = before.At(0, 0, w.Zone)
		}
		since := (w.Day(until) - days).At(0, 0, w.Zone)
		rows, err := tx.ListTrail(ctx, db.ListTrailParams{Zone: w.Zone.String(), Since: since, Before: until, Most: mostLines})
		for i, r := range rows {
			if day := w.Day(r.Last); i >= perPage && day != w.Day(rows[i-1].Last) {
				since = rows[i-1].Last // the day that is shown last
				break
			}
			out.Lines = append(out.Lines, Line{r.First, r.Last, r.Times, r.Person, kept(r.Says)})
		}
		if err != nil {
			return err
		}
		older, err := tx.LastInTrail(ctx, w.Day(since).At(0, 0, w.Zone))
		if err == nil {
			next := w.Day(older) + 1
			out.More = &next
		}
		if errors.Is(err, pgx.ErrNoRows) {
			return nil
		}
		return err
	})
	return out, err
}
