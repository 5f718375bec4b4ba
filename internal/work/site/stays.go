package site

import (
	"context"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/crop"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/work/crops"
)

// Stay is a batch on a part of a place, by its code.
type Stay struct {
	batch.Stay
	Code string
	Crop crop.Crop
}

// StaysAt are what stood on each part of a place, of what came to it since a time.
func StaysAt(ctx context.Context, tx *store.Tx, p Place, since time.Time, parts int, part func(batch.Spot) int) (out []Stay, err error) {
	came, err := tx.CameTo(ctx, db.CameToParams{Place: p.ID, Since: since})
	if err != nil {
		return nil, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return nil, err
	}
	var ids []uuid.UUID
	by := map[string]db.CameToRow{}
	for _, x := range came {
		ids, by[x.ID.String()] = append(ids, x.ID), x
	}
	facts, err := ledger.ActsOn(ctx, tx, ids)
	if err != nil {
		return nil, err
	}
	var acts []batch.Happened
	for _, f := range facts {
		acts = append(acts, batch.Happened{Batch: f.Batch.String(), On: tx.Who.Day(f.At), Act: f.Act})
	}
	for _, s := range batch.Stays(acts, parts, part) {
		out = append(out, Stay{s, by[s.Batch].Code, book.Find(by[s.Batch].Crop)})
	}
	return out, nil
}
