package batches

import (
	"context"
	"time"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/seeds"
)

// Described is what a batch is for.
type Described struct {
	Batch   uuid.UUID
	Purpose string
	Wanted  int        // plants
	ReadyBy *time.Time // nil: no day
	Planned uuid.UUID  // the planned sowing that it is counted for; zero: none
	Crop    string     // of plants that were not sown here, what they turned out to be; "": as before
	Variety string     // of that crop; made when new
}

// Planned is a planned sowing that a batch can be counted for.
type Planned struct {
	ID      uuid.UUID
	Wanted  int
	SowOn   calendar.Day
	ReadyBy calendar.Day
	Mine    bool // the batch is counted for it
}

// near is how many days before or after a planned day a sowing is likely to be the planned one.
const near = 10

// Fits tells whether a batch that was sown on a day is likely to be that sowing.
func (p Planned) Fits(sown calendar.Day) bool {
	return !p.Mine && max(p.SowOn-sown, sown-p.SowOn) <= near
}

// PlannedLike are the planned sowings that a batch can be counted for, the soonest first.
func PlannedLike(ctx context.Context, s *store.Store, w who.Who, b Batch) (out []Planned, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = plannedLike(ctx, tx, b.ID, b.Crop.ID)
		return err
	})
	return out, err
}

func plannedLike(ctx context.Context, tx *store.Tx, batch uuid.UUID, crop string) (out []Planned, err error) {
	rows, err := tx.PlannedLike(ctx, db.PlannedLikeParams{Batch: batch, Crop: crop})
	for _, r := range rows {
		out = append(out, Planned{r.ID, r.Wanted, calendar.Of(r.SowOn), calendar.Of(r.ReadyBy), r.Mine})
	}
	return out, err
}

// countFor makes a batch count for one planned sowing alone, or for none.
func countFor(ctx context.Context, tx *store.Tx, batch uuid.UUID, crop string, planned uuid.UUID) error {
	list, err := plannedLike(ctx, tx, batch, crop)
	if err != nil {
		return err
	}
	known := planned == uuid.Nil
	for _, p := range list {
		switch {
		case p.ID == planned:
			known = true
			err = tx.SettlePlanned(ctx, db.SettlePlannedParams{ID: p.ID, Batch: &batch})
		case p.Mine:
			err = tx.FreePlanned(ctx, p.ID)
		}
		if err != nil {
			return err
		}
	}
	if !known {
		return field.Refuse("planned", "is not open any more; load the page again")
	}
	return nil
}

// rename makes a batch that was not sown here one of another crop or variety: an unknown plant is known
// at last, or it was taken for something else. Its code stays, for it stands on the stick.
func rename(ctx context.Context, tx *store.Tx, b *db.GetBatchesRow, d Described) error {
	if d.Crop == "" || d.Crop == b.Crop && name.Key(d.Variety) == name.Key(b.Variety) {
		return nil
	}
	if b.SeedLotID != nil {
		return field.Refuse("crop", "is what its seed packet says: correct the packet instead")
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return err
	}
	if !book.Has(d.Crop) {
		return field.Refuse("crop", "choose a crop")
	}
	variety, err := seeds.VarietyOf(ctx, tx, d.Crop, d.Variety)
	if err != nil {
		return err
	}
	if err := tx.NameBatch(ctx, db.NameBatchParams{ID: d.Batch, Crop: d.Crop, VarietyID: variety}); err != nil {
		return err
	}
	b.Crop = d.Crop
	return trail.Write(ctx, tx, "Named batch %s: %s", say.Name(b.Code), book.Find(d.Crop).Name)
}

// Describe changes what a batch is for. What happened to it stays as it was written down.
func Describe(ctx context.Context, s *store.Store, w who.Who, d Described) error {
	if err := w.Must(who.Sow); err != nil {
		return err
	}
	var e field.Errors
	e.Require(d.Wanted >= 1 && d.Wanted <= 100_000, "wanted", "must be 1 to 100,000 plants")
	d.Purpose = name.Line(&e, "purpose", d.Purpose, 200)
	if d.Crop != "" {
		d.Variety = name.Take(&e, "variety", d.Variety, 60)
	}
	if err := e.Err(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		rows, err := tx.GetBatches(ctx, []uuid.UUID{d.Batch})
		if err != nil {
			return err
		}
		if len(rows) == 0 {
			return store.ErrNotFound
		}
		if err := rename(ctx, tx, &rows[0], d); err != nil {
			return err
		}
		if err := countFor(ctx, tx, d.Batch, rows[0].Crop, d.Planned); err != nil {
			return err
		}
		if err := tx.DescribeBatch(ctx, db.DescribeBatchParams{ID: d.Batch, Purpose: d.Purpose, Wanted: d.Wanted, ReadyBy: d.ReadyBy}); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Changed what batch %s is for", say.Name(rows[0].Code))
	})
}
