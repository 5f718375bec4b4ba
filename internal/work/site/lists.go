package site

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"ulpa/core/tower"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
)

// Checked is written down when steps of a place's list were done.
var Checked = ledger.Declare(ledger.Kind[tower.Ticks]{Name: "checked", Says: tower.Ticks.Says})

// listDays is how long a list that was begun is gone on with.
const listDays = 30

// Lists are the lists of a place.
func Lists(ctx context.Context, s *store.Store, w who.Who, place uuid.UUID) ([]tower.Running, error) {
	out := tower.Run()
	return out, s.Read(ctx, w, func(tx *store.Tx) error {
		rows, err := tx.CheckedAt(ctx, db.CheckedAtParams{Place: place, Since: tx.Now.AddDate(0, 0, -listDays)})
		for _, r := range rows {
			var t tower.Ticks
			if err := json.Unmarshal(r.Data, &t); err != nil {
				return err
			}
			for i := range out {
				out[i].Tick(t, tx.Who.Day(r.HappenedAt))
			}
		}
		return err
	})
}

// Check writes down that steps of a place's list were done.
func Check(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, t tower.Ticks) error {
	adult, err := t.Check()
	if err != nil {
		return err
	}
	need := who.Record
	if adult {
		need = who.Dose
	}
	if err := w.Must(need); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: act.ID, Verb: "site.Check", What: []any{act.On, t, act.At}}, func(tx *store.Tx) error {
		p, err := GetPlace(ctx, tx, act.On)
		if err != nil {
			return err
		}
		_, err = ledger.Write(ctx, tx, ledger.Fact{ID: act.ID, Kind: Checked.Name, HappenedAt: act.At, About: []uuid.UUID{act.On}, Data: t, Names: p.Name})
		return err
	})
}
