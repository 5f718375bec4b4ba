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
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/batches"
)

// Request is a harvest weighed. From lists what was taken whole; empty for a cut.
type Request struct {
	ID    uuid.UUID
	Batch uuid.UUID
	Place *uuid.UUID
	Grams float64
	From  []batch.Spot
	Sure  bool      `json:"-"` // a doubtful weight was looked at twice
	At    time.Time // zero: now
}

// most is what a plant hardly ever gives at once, g: ten times that is a slip of the scale or
// of the comma.
var most = map[string]float64{
	"leaf": 700, "herb": 300, "fruiting": 4000, "root": 1500, "legume": 1000, "flower": 200, "cutting": 300, "sprout": 100,
}

// mostOfVessel is the same of a jar or tray of sprouts.
const mostOfVessel = 1500

// doubt asks about a weight that so many plants of a crop hardly give.
func doubt(c crop.Crop, soaked bool, grams float64, plants int) error {
	limit := most[c.Kind]
	if soaked {
		limit = mostOfVessel
	}
	if limit > 0 && plants > 0 && grams > limit*float64(plants) {
		return ledger.Doubted{Says: say.T("%s from %s is %s each. Is the decimal point right, and was it these plants?",
			say.Of(grams, unit.Gram), say.Plural(plants, "plant"), say.Of(grams/float64(plants), unit.Gram))}
	}
	return nil
}

// Weigh records a harvest.
func Weigh(ctx context.Context, s *store.Store, w who.Who, r Request) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "harvest.Weigh", What: r}, func(tx *store.Tx) error {
		return WeighIn(ctx, tx, r)
	})
}

// WeighIn is the same as a part of something else.
func WeighIn(ctx context.Context, tx *store.Tx, r Request) error {
	row, err := store.One(tx.GetBatches(ctx, []uuid.UUID{r.Batch}))
	if err != nil {
		return err
	}
	at := r.At
	if at.IsZero() {
		at = tx.Now
	}
	spoiled, err := batches.Condemned(ctx, tx, r.Batch, at)
	if err != nil {
		return err
	}
	if spoiled {
		return field.Refuse("grams", "is not food: it was too long without fresh water, or is beyond its days. Throw it away, and write that down")
	}
	if row.Crop == crop.Unknown {
		return field.Refuse("grams", "is not food: nobody knows what this plant is. Name it on its page first")
	}
	_, err = ledger.OnBatch(ctx, tx, ledger.BatchAct{
		ID: r.ID, Batch: r.Batch, Place: r.Place, HappenedAt: r.At,
		Check: func(s *batch.State) error {
			plants := batch.PlantsIn(r.From)
			if plants == 0 {
				plants = s.Standing()
			}
			c, _ := crop.Of(row.Crop)
			if r.Sure {
				return nil
			}
			if c.Food == crop.Poison {
				return ledger.Doubted{Says: say.T("It is poisonous, and nothing of it is eaten: is this for show? %s", say.Words(c.Hazard))}
			}
			return doubt(c, s.Start == batch.Soaked, r.Grams, plants)
		},
		Act: batch.Act{Kind: batch.Harvest, Grams: r.Grams, From: r.From, Whole: len(r.From) > 0},
	})
	return err
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
	batches.Line
	Due calendar.Day
}

// Overview is what can be cut and what has been.
type Overview struct {
	Today   calendar.Day
	Lines   []Line         // what is due first comes first
	Spoiled []batches.Line // is food no more
	Done    []Done
}

// ReadOverview reads what can be cut, and the harvests of the last four weeks.
func ReadOverview(ctx context.Context, s *store.Store, w who.Who) (o Overview, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		o.Today = w.Day(tx.Now)
		lines, err := batches.Lines(ctx, tx)
		if err != nil {
			return err
		}
		for _, l := range lines {
			if l.Condemned(tx) && l.State.InTrays()+l.InPorts()+l.InStands() > 0 {
				o.Spoiled = append(o.Spoiled, l)
			} else if (l.InPorts() > 0 || l.InStands() > 0) && l.Crop.ID != crop.Unknown {
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
			c, _ := crop.Of(r.Crop)
			o.Done = append(o.Done, Done{r.ID, r.HappenedAt, r.Code, c, a.Grams, a.Whole, r.Person})
		}
		return err
	})
	return o, err
}
