package site

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/tower"
	"ulpa/internal/ledger"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Ticks are steps of a place's list that were done.
type Ticks struct {
	List  string   `json:"list"`
	Steps []string `json:"steps"`
}

// Checked is written down when steps of a list were done.
var Checked = ledger.Declare(ledger.Kind[Ticks]{Name: "checked", Says: func(t Ticks) say.Text {
	l, known := tower.ListOf(t.List)
	if !known {
		return say.T("Steps of a list done")
	}
	var done []say.Text
	for _, s := range l.Steps {
		if slices.Contains(t.Steps, s.ID) {
			done = append(done, s.Says)
		}
	}
	return say.T("%s: %s", l.Name, say.Join("; ", done...))
}})

// Running is a list as it stands at a place: what was ticked since it was last gone through.
type Running struct {
	tower.List
	Done  map[string]calendar.Day // by step
	Ended calendar.Day            // when it was last done whole; 0: never
}

// listDays is how long a list that was begun is gone on with.
const listDays = 30

// Lists are the lists of a place.
func Lists(ctx context.Context, s *store.Store, w who.Who, place uuid.UUID) (out []Running, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = lists(ctx, tx, place)
		return err
	})
	return out, err
}

func lists(ctx context.Context, tx *store.Tx, place uuid.UUID) ([]Running, error) {
	rows, err := tx.CheckedAt(ctx, db.CheckedAtParams{Place: place, Since: tx.Now.AddDate(0, 0, -listDays)})
	if err != nil {
		return nil, err
	}
	out := make([]Running, len(tower.Lists))
	for i, l := range tower.Lists {
		out[i] = Running{List: l, Done: map[string]calendar.Day{}}
	}
	for _, r := range rows {
		var t Ticks
		if err := json.Unmarshal(r.Data, &t); err != nil {
			return nil, err
		}
		for i := range out {
			x := &out[i]
			if x.ID != t.List {
				continue
			}
			day := tx.Who.Day(r.HappenedAt)
			if len(x.Done) == len(x.Steps) { // it is begun again
				x.Done = map[string]calendar.Day{}
			}
			for _, step := range t.Steps {
				x.Done[step] = day
			}
			if len(x.Done) == len(x.Steps) {
				x.Ended = day
			}
		}
	}
	return out, nil
}

// Check writes down that steps of a place's list were done.
func Check(ctx context.Context, s *store.Store, w who.Who, id, place uuid.UUID, t Ticks, at time.Time) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	l, known := tower.ListOf(t.List)
	if !known || len(t.Steps) == 0 {
		return field.Refuse("steps", "tick what was done")
	}
	for _, x := range t.Steps {
		if !l.Has(x) {
			return field.Refuse("steps", "takes the steps of this list")
		}
	}
	for _, x := range l.Steps {
		if x.Adult && slices.Contains(t.Steps, x.ID) {
			if err := w.Must(who.Dose); err != nil {
				return err
			}
		}
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: id, Verb: "site.Check", What: []any{place, t, at}}, func(tx *store.Tx) error {
		p, err := GetPlace(ctx, tx, place)
		if err != nil {
			return err
		}
		_, err = ledger.Write(ctx, tx, ledger.Fact{ID: id, Kind: Checked.Name, HappenedAt: at, About: []uuid.UUID{place}, Data: t, Names: p.Name})
		return err
	})
}
