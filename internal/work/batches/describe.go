package batches

import (
	"context"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
)

// Described is what a batch is for.
type Described struct {
	Batch   uuid.UUID
	Purpose string
	Wanted  int        // plants
	ReadyBy *time.Time // nil: no day
}

// Describe changes what a batch is for. What happened to it stays as it was written down.
func Describe(ctx context.Context, s *store.Store, w who.Who, d Described) error {
	if err := w.Must(who.Sow); err != nil {
		return err
	}
	var e field.Errors
	e.Require(d.Wanted >= 1 && d.Wanted <= 100_000, "wanted", "must be 1 to 100,000 plants")
	d.Purpose = name.Line(&e, "purpose", d.Purpose, 200)
	if err := e.Err(); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		thing, err := tx.GetThing(ctx, d.Batch)
		if err != nil {
			return err
		}
		n, err := tx.DescribeBatch(ctx, db.DescribeBatchParams{ID: d.Batch, Purpose: d.Purpose, Wanted: d.Wanted, ReadyBy: d.ReadyBy})
		if err == nil && n == 0 {
			err = store.ErrNotFound
		}
		if err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Changed what batch %s is for", say.Name(thing.Name))
	})
}
