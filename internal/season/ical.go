package season

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/internal/ical"
	"ulpa/internal/store"
	"ulpa/internal/things"
	"ulpa/internal/who"
)

// daysAhead is how far a calendar is read.
const daysAhead = 400

// ReadCalendar reads the whole days of an iCalendar file that are still to come, for
// somebody to choose those that are closed.
func ReadCalendar(s *store.Store, w who.Who, text string) (ical.Read, error) {
	if err := w.Must(who.Settings); err != nil {
		return ical.Read{}, err
	}
	today := w.Day(s.Now())
	got, err := ical.DaysOf(text, today, today+daysAhead, w.Zone)
	if err == nil && len(got.Days) == 0 {
		err = field.Errors{{Field: "text", Message: got.Nothing()}}
	}
	return got, err
}

// CloseAll adds closed days, those that are not there yet; sent twice they are there once.
func CloseAll(ctx context.Context, s *store.Store, w who.Who, list []ical.Days) (added int, err error) {
	if err := w.Must(who.Settings); err != nil {
		return 0, err
	}
	if len(list) == 0 {
		return 0, field.Refuse("days", "choose the days that are closed")
	}
	return added, s.InSchool(ctx, w, func(tx *store.Tx) error {
		rows, err := tx.ListClosures(ctx)
		if err != nil {
			return err
		}
		known := map[calendar.Day]bool{}
		for _, r := range rows {
			known[calendar.Of(r.FromDay)] = true
		}
		for _, d := range list {
			if known[d.From] {
				continue
			}
			known[d.From] = true
			c := ClosureSetup{ID: uuid.NewSHA1(w.School, []byte("closed "+d.ID)), From: d.From, To: d.To, Name: d.Name}
			if _, err := ClosureKind.PutIn(ctx, tx, c, things.New); err != nil {
				return err
			}
			added++
		}
		return nil
	})
}
