package season

import (
	"context"
	"strconv"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/internal/base/ical"
	"ulpa/internal/base/store"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// daysAhead is how far a calendar is read.
const daysAhead = 400

// ReadCalendar reads the whole days of an iCalendar file that are still to come, for
// somebody to choose those that are closed.
func ReadCalendar(ctx context.Context, s *store.Store, w who.Who, text string) (ical.Read, error) {
	if err := w.Must(who.Settings); err != nil {
		return ical.Read{}, err
	}
	today := w.Day(s.Now())
	got, err := ical.DaysOf(ctx, text, today, today+daysAhead, w.Zone)
	if err == nil && len(got.Days)+len(got.Weekly) == 0 {
		err = field.Errors{{Field: "text", Message: got.Nothing()}}
	}
	return got, err
}

// Taken is a run of days of a calendar, and what it is to the school: closed, term or special.
type Taken struct {
	ical.Days
	As string
}

// TakeCalendar adds days and weekly periods that were chosen from a calendar, those that are
// not there yet; sent twice they are there once.
func TakeCalendar(ctx context.Context, s *store.Store, w who.Who, days []Taken, weekly []ical.Weekly) (added int, err error) {
	if err := w.Must(who.Settings); err != nil {
		return 0, err
	}
	if len(days)+len(weekly) == 0 {
		return 0, field.Refuse("days", "choose the days that are closed")
	}
	return added, s.InSchool(ctx, w, func(tx *store.Tx) error {
		school, err := Calendar(ctx, tx)
		if err != nil {
			return err
		}
		known := map[string]bool{}
		for as, list := range map[string][]calendar.Closure{"closed": school.Closures, "term": school.Terms} {
			for _, c := range list {
				known[as+c.From.String()] = true
			}
		}
		for _, x := range school.Specials {
			known["special"+x.From.String()] = true
		}
		periods, err := PeriodKind.All(ctx, tx)
		if err != nil {
			return err
		}
		for _, p := range periods {
			known[p.Weekday+p.Starts] = true
		}
		for _, d := range days {
			if known[d.As+d.From.String()] {
				continue
			}
			known[d.As+d.From.String()] = true
			if err := takeDays(ctx, tx, w, d); err != nil {
				return err
			}
			added++
		}
		for _, x := range weekly {
			p := Period{
				ID: uuid.NewSHA1(w.School, []byte("weekly "+x.ID)), Weekday: strconv.Itoa(x.Weekday), Starts: x.Starts, Minutes: x.Minutes, Whom: x.Name,
			}
			if known[p.Weekday+p.Starts] {
				continue
			}
			known[p.Weekday+p.Starts] = true
			if _, err := PeriodKind.PutIn(ctx, tx, p, things.New); err != nil {
				return err
			}
			added++
		}
		return nil
	})
}

func takeDays(ctx context.Context, tx *store.Tx, w who.Who, d Taken) error {
	id := uuid.NewSHA1(w.School, []byte("closed "+d.ID))
	run := Days{ID: id, From: d.From, To: d.To, Name: d.Name}
	var err error
	switch d.As {
	case "term":
		_, err = TermKind.PutIn(ctx, tx, run, things.New)
	case "special":
		_, err = SpecialKind.PutIn(ctx, tx, run, things.New)
	default:
		_, err = ClosureKind.PutIn(ctx, tx, ClosureSetup{ID: id, From: d.From, To: d.To, Name: d.Name}, things.New)
	}
	return err
}
