package season

import (
	"cmp"
	"context"
	"slices"
	"strconv"
	"time"

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

// Calendar reads the school's open and closed days, its terms and the periods of its week.
func Calendar(ctx context.Context, tx *store.Tx) (calendar.School, error) {
	rows, err := tx.SchoolCalendar(ctx)
	var s calendar.School
	for _, r := range rows {
		run := calendar.Closure{From: calendar.Of(r.FromDay), To: calendar.Of(r.ToDay), Name: r.Name}
		switch r.Kind {
		case "closed":
			s.Closures = append(s.Closures, run)
		case "term":
			s.Terms = append(s.Terms, run)
		case "special":
			s.Specials = append(s.Specials, calendar.Special{Closure: run, Minutes: int(r.Minutes)})
		case "period":
			s.Periods = append(s.Periods, calendar.Period{Weekday: int(r.Weekday), Minutes: int(r.Minutes), Whom: r.Name})
		}
	}
	// What is said of fewer days is said of them more surely.
	slices.SortStableFunc(s.Specials, func(a, b calendar.Special) int { return cmp.Compare(a.To-a.From, b.To-b.From) })
	return s, err
}

// Days are a run of days: a term, or days with minutes of their own.
type Days struct {
	ID      uuid.UUID    `json:"id"`
	From    calendar.Day `json:"from"`
	To      calendar.Day `json:"to"`
	Name    string       `json:"name"`
	Minutes int          `json:"minutes,omitempty"`
}

// TermKind is how terms are written down, SpecialKind days with minutes of their own.
var (
	TermKind = daysKind("term", 200, &things.Kind[Days]{
		Name: "terms", One: "term##thing", Add: "Add a term", Title: "Terms",
		About: "From the first day to the last. The season shows them; closed days within them are entered separately.",
	})
	SpecialKind = daysKind("special", 60, &things.Kind[Days]{
		Name: "special-days", One: "days with other minutes##thing", Add: "Add days with more or less time", Title: "Days with more or less time",
		About: "Exam weeks, a project day, or a closed day on which somebody comes in: so many minutes for the plants on each of them.",
	})
)

func daysKind(kind string, most calendar.Day, k *things.Kind[Days]) *things.Kind[Days] {
	k.May = who.Settings
	k.Fields = []ledger.Field[Days]{
		ledger.Day("from", "First day", func(d *Days) *calendar.Day { return &d.From }),
		ledger.Day("to", "Last day", func(d *Days) *calendar.Day { return &d.To }),
		ledger.Short("name", "What it is called", func(d *Days) *string { return &d.Name }),
	}
	if kind == "special" {
		minutes := ledger.Number("minutes", "Minutes for the plants on each of them", func(d *Days) *int { return &d.Minutes })
		k.Fields = append(k.Fields, minutes.Hinted("0: nothing is moved then."))
	}
	k.ID = func(d *Days) *uuid.UUID { return &d.ID }
	k.Blank = func() Days { return Days{} }
	k.All = func(ctx context.Context, tx *store.Tx) (out []Days, err error) {
		rows, err := tx.SchoolDays(ctx)
		for _, r := range rows {
			if r.Kind == kind {
				out = append(out, Days{r.ID, calendar.Of(r.FromDay), calendar.Of(r.ToDay), r.Name, r.Minutes})
			}
		}
		return out, err
	}
	k.Label = func(d Days) string { return d.Name }
	k.Says = func(d Days) say.Text {
		run := ClosureKind.Says(ClosureSetup{From: d.From, To: d.To})
		if kind == "special" {
			return say.T("%s: %d minutes a day", run, d.Minutes)
		}
		return run
	}
	k.Check = func(_ context.Context, _ *store.Tx, _, d *Days) error {
		var e field.Errors
		e.Require(d.From > 0, "from", "must be a date")
		e.Require(d.To >= d.From, "to", "is before the first day")
		e.Require(d.To-d.From < most, "to", "is more than %d days later", int(most))
		e.Require(d.Minutes >= 0 && d.Minutes <= 600, "minutes", "must be 0 to 600 minutes")
		d.Name = name.Take(&e, "name", d.Name, 60)
		return e.Err()
	}
	k.Keep = func(ctx context.Context, tx *store.Tx, _ *Days, d Days) error {
		return tx.PutSchoolDays(ctx, db.PutSchoolDaysParams{
			SchoolID: tx.Who.School, ID: d.ID, Kind: kind, FromDay: d.From.UTC(), ToDay: d.To.UTC(), Name: d.Name, Minutes: d.Minutes,
		})
	}
	k.Drop = func(ctx context.Context, tx *store.Tx, d Days) error { return tx.DropSchoolDays(ctx, d.ID) }
	return k
}

// Period is a time in every week in which a group works.
type Period struct {
	ID      uuid.UUID `json:"id"`
	Weekday string    `json:"weekday"` // 1 (Monday) to 7
	Starts  string    `json:"starts,omitempty"`
	Minutes int       `json:"minutes"`
	Whom    string    `json:"whom,omitempty"`
}

// Weekdays are the days of a week as choices, 1 (Monday) to 7.
var Weekdays = []ledger.Option{
	{Value: "1", Name: say.Words("Monday")},
	{Value: "2", Name: say.Words("Tuesday")},
	{Value: "3", Name: say.Words("Wednesday")},
	{Value: "4", Name: say.Words("Thursday")},
	{Value: "5", Name: say.Words("Friday")},
	{Value: "6", Name: say.Words("Saturday")},
	{Value: "7", Name: say.Words("Sunday")},
}

// PeriodKind is how the periods of a week are written down.
var PeriodKind = &things.Kind[Period]{
	Name: "periods", One: "weekly period##thing", Add: "Add a weekly period", Title: "Weekly periods",
	About: "When the group meets, for how long, and who takes it. Once one is entered, the season plans work only on these days.",
	May:   who.Settings,
	Fields: []ledger.Field[Period]{
		ledger.PickOf("weekday", "Day of the week", Weekdays, func(p *Period) *string { return &p.Weekday }),
		ledger.Short("starts", "Begins at", func(p *Period) *string { return &p.Starts }).Hinted("Like 10:40; may be left empty."),
		ledger.Number("minutes", "Minutes", func(p *Period) *int { return &p.Minutes }),
		ledger.Short("whom", "Who takes it", func(p *Period) *string { return &p.Whom }).Hinted("A group or a crew, no pupil’s name."),
	},
	ID:    func(p *Period) *uuid.UUID { return &p.ID },
	Blank: func() Period { return Period{Weekday: "1", Minutes: 45} },
	All: func(ctx context.Context, tx *store.Tx) (out []Period, err error) {
		rows, err := tx.Periods(ctx)
		for _, r := range rows {
			out = append(out, Period{r.ID, strconv.Itoa(r.Weekday), r.Starts, r.Minutes, r.Whom})
		}
		return out, err
	},
	Label: func(p Period) string { return cmp.Or(p.Whom, p.Starts, strconv.Itoa(p.Minutes)) },
	Says: func(p Period) say.Text {
		i := max(0, slices.IndexFunc(Weekdays, func(o ledger.Option) bool { return o.Value == p.Weekday }))
		if p.Starts == "" {
			return say.T("%s, %s", Weekdays[i].Name, say.Plural(p.Minutes, "minute"))
		}
		return say.T("%s %s, %s", Weekdays[i].Name, say.Name(p.Starts), say.Plural(p.Minutes, "minute"))
	},
	Check: func(_ context.Context, _ *store.Tx, _, p *Period) error {
		var e field.Errors
		e.Require(slices.ContainsFunc(Weekdays, func(o ledger.Option) bool { return o.Value == p.Weekday }), "weekday", "must be one of these")
		p.Starts, p.Whom = name.Line(&e, "starts", p.Starts, 5), name.Line(&e, "whom", p.Whom, 60)
		if _, err := time.Parse("15:04", p.Starts); p.Starts != "" && err != nil {
			e.Add("starts", "must be a time like 10:40")
		}
		e.Require(p.Minutes >= 5 && p.Minutes <= 600, "minutes", "must be 5 to 600 minutes")
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *Period, p Period) error {
		n, err := strconv.Atoi(p.Weekday)
		if err != nil {
			return err
		}
		return tx.PutPeriod(ctx, db.PutPeriodParams{SchoolID: tx.Who.School, ID: p.ID, Weekday: n, Starts: p.Starts, Minutes: p.Minutes, Whom: p.Whom})
	},
	Drop: func(ctx context.Context, tx *store.Tx, p Period) error { return tx.DropPeriod(ctx, p.ID) },
}
