// Package jobs is what a school does on its round besides what Ulpa asks for.
//
//	_, err := jobs.Kind.Put(ctx, store, who, jobs.Setup{ID: id, Name: "Oil the hinges", Place: shed, Every: 90, Minutes: 5}, "")
package jobs

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	walk "ulpa/internal/work/round"
	"ulpa/internal/work/site"
)

// Setup is a job of the school's own on the round.
type Setup struct {
	ID      uuid.UUID    `json:"id"`
	Name    string       `json:"name"`
	Place   uuid.UUID    `json:"place"`
	From    calendar.Day `json:"from"`
	Every   int          `json:"every_days"` // 0: once
	Minutes int          `json:"minutes"`
	For     string       `json:"for,omitempty"` // the id of a crew or a person; empty: whoever comes
	Retired bool         `json:"retired,omitempty"`
	person  string
}

// Kind is how jobs are set up. A tick on the round does one.
var Kind = &things.Kind[Setup]{
	Name: "jobs", One: "job##thing", Add: "Add a job", Title: "Jobs of our own",
	About: "What the school does on its round besides what Ulpa asks for: once or repeatedly, for anybody or for one crew.",
	May:   who.Plan,
	Fields: []ledger.Field[Setup]{
		ledger.Short("name", "What is to be done", func(j *Setup) *string { return &j.Name }),
		ledger.PickID("place", "At##place", func(j *Setup) *uuid.UUID { return &j.Place }),
		ledger.Day("from", "From the day", func(j *Setup) *calendar.Day { return &j.From }),
		ledger.Number("every_days", "Again after so many days", func(j *Setup) *int { return &j.Every }).Hinted("0 when it is done once."),
		ledger.Number("minutes", "Minutes it takes", func(j *Setup) *int { return &j.Minutes }),
		ledger.PickOf("for", "For whom", []ledger.Option{{Value: "", Name: say.Words("anybody")}}, func(j *Setup) *string { return &j.For }),
	},
	ID:      func(j *Setup) *uuid.UUID { return &j.ID },
	Retired: func(j *Setup) *bool { return &j.Retired },
	Blank:   func() Setup { return Setup{Minutes: 5} },
	Pick:    pickForJob,
	All: func(ctx context.Context, tx *store.Tx) (out []Setup, err error) {
		rows, err := tx.AllJobs(ctx)
		for _, r := range rows {
			j := Setup{r.ID, r.Name, r.PlaceID, calendar.Of(r.FromDay), r.EveryDays, r.Minutes, "", r.Retired, r.Person}
			if r.PersonID != nil {
				j.For = r.PersonID.String()
			}
			out = append(out, j)
		}
		return out, err
	},
	Label: func(j Setup) string { return j.Name },
	Says: func(j Setup) say.Text {
		says := say.T("once, on %s", j.From.Short())
		if j.Every > 0 {
			says = say.T("every %s from %s", say.Plural(j.Every, "day"), j.From.Short())
		}
		if j.person != "" {
			says = say.T("%s, for %s", says, say.Name(j.person))
		}
		return says
	},
	Check: checkJob,
	Keep: func(ctx context.Context, tx *store.Tx, _ *Setup, j Setup) error {
		row := db.PutJobParams{
			SchoolID: tx.Who.School, ID: j.ID, Name: j.Name, PlaceID: j.Place, FromDay: j.From.UTC(), EveryDays: j.Every, Minutes: j.Minutes, Retired: j.Retired,
		}
		if id, err := uuid.Parse(j.For); err == nil {
			row.PersonID = &id
		}
		return tx.PutJob(ctx, row)
	},
	Drop: func(ctx context.Context, tx *store.Tx, j Setup) error { return tx.DropJob(ctx, j.ID) },
}

// pickForJob is where a job can be, and to whom it can be given.
func pickForJob(ctx context.Context, tx *store.Tx) (things.Options, error) {
	out, err := site.PickPlace(ctx, tx)
	if err != nil {
		return nil, err
	}
	people, err := tx.AllPeople(ctx)
	for _, p := range people {
		if p.Active {
			out["for"] = append(out["for"], ledger.Option{Value: p.ID.String(), Name: say.Name(p.Name)})
		}
	}
	return out, err
}

func checkJob(ctx context.Context, tx *store.Tx, _, j *Setup) error {
	var e field.Errors
	j.Name = name.Take(&e, "name", j.Name, 80)
	e.Require(j.From > 0, "from", "must be a date")
	e.Require(j.Every >= 0 && j.Every <= 366, "every_days", "must be 0 to 366 days")
	e.Require(j.Minutes >= 1 && j.Minutes <= 240, "minutes", "must be 1 to 240 minutes")
	options, err := pickForJob(ctx, tx)
	if err != nil {
		return err
	}
	among := func(name, value string) bool {
		for _, o := range options[name] {
			if o.Value == value {
				return true
			}
		}
		return false
	}
	e.Require(among("place", j.Place.String()), "place", "choose where it is; add a place first when there is none")
	if e.Require(j.For == "" || among("for", j.For), "for", "choose a crew or a person"); j.For == "" {
		j.person = ""
	}
	return e.Err()
}

// What is due of them is part of the round.
var _ = walk.Declare(walk.Part[round.Job]{
	Order: 50, Read: inUse,
	Due: func(d round.Day, j round.Job) []round.Task { return d.OfJob(j) },
})

// inUse are those that are not retired, with when each was ticked off last.
func inUse(ctx context.Context, tx *store.Tx) (out []round.Job, err error) {
	all, err := tx.AllJobs(ctx)
	if err != nil || len(all) == 0 {
		return nil, err
	}
	const longest = 800 // days back
	ticks, err := walk.Ticks(ctx, tx, round.Own, tx.Now.AddDate(0, 0, -longest))
	if err != nil {
		return nil, err
	}
	last := map[string]calendar.Day{}
	for _, t := range ticks {
		last[t.Of] = tx.Who.Day(t.At)
	}
	for _, r := range all {
		if !r.Retired {
			out = append(out, round.Job{
				ID: r.ID.String(), Name: r.Name, Place: r.PlaceID.String(), For: r.Person, Minutes: r.Minutes,
				From: calendar.Of(r.FromDay), Every: r.EveryDays, Last: last[r.ID.String()],
			})
		}
	}
	return out, nil
}
