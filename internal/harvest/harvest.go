// Package harvest is cutting, weighing and what came of it.
//
//	err := harvest.Weigh(ctx, store, who, harvest.Request{ID: id, Batch: batch, Grams: 420})
package harvest

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/internal/ledger"
	"ulpa/internal/nursery"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Request is a harvest weighed. From lists what was taken whole; empty for a cut.
type Request struct {
	ID    uuid.UUID
	Batch uuid.UUID
	Place *uuid.UUID
	Grams float64
	From  []batch.Spot
	At    time.Time // zero: now
}

// Weigh records a harvest.
func Weigh(ctx context.Context, s *store.Store, w who.Who, r Request) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "harvest.Weigh", What: r}, func(tx *store.Tx) error {
		_, err := ledger.OnBatch(ctx, tx, ledger.BatchAct{
			ID: r.ID, Batch: r.Batch, Place: r.Place, HappenedAt: r.At,
			Act: batch.Act{Kind: batch.Harvest, Grams: r.Grams, From: r.From, Whole: len(r.From) > 0},
		})
		return err
	})
}

// Done is a harvest in the list.
type Done struct {
	Entry  uuid.UUID
	At     time.Time
	Code   string
	Crop   crop.Crop
	Grams  float64
	Whole  bool
	Person string
}

// Line is a batch that stands outside its trays, and the day it is due.
type Line struct {
	nursery.Line
	Due calendar.Day
}

// Overview is what can be cut and what has been.
type Overview struct {
	Today calendar.Day
	Lines []Line // what is due first comes first
	Done  []Done
}

// ReadOverview reads what can be cut, and the harvests of the last four weeks.
func ReadOverview(ctx context.Context, s *store.Store, w who.Who) (o Overview, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		o.Today = w.Day(tx.Now)
		lines, err := nursery.Lines(ctx, tx)
		if err != nil {
			return err
		}
		for _, l := range lines {
			if l.InPorts() > 0 || l.InStands() > 0 {
				o.Lines = append(o.Lines, Line{l, l.Crop.HarvestDue(l.Sown, l.Cut, l.State.Taken > 0)})
			}
		}
		slices.SortStableFunc(o.Lines, func(a, b Line) int { return cmp.Compare(a.Due, b.Due) })
		rows, err := tx.HarvestsSince(ctx, db.HarvestsSinceParams{Since: tx.Now.AddDate(0, 0, -28), Until: tx.Now.Add(time.Minute)})
		for _, r := range rows {
			var a batch.Act
			if err := json.Unmarshal(r.Data, &a); err != nil {
				return err
			}
			c, _ := crop.Find(r.Crop)
			o.Done = append(o.Done, Done{r.ID, r.HappenedAt, r.Code, c, a.Grams, a.Whole, r.Person})
		}
		return err
	})
	return o, err
}
