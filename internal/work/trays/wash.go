package trays

import (
	"bytes"
	"context"
	"maps"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// Wash frees the failed cells of a tray, those that are empty or lost: an entry for each
// batch that had some. Where something grows or is waited for nothing changes.
func Wash(ctx context.Context, s *store.Store, w who.Who, r ledger.Act) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "nursery.Wash", What: []any{r.On, r.At}}, func(tx *store.Tx) error {
		t, err := site.GetTray(ctx, tx, r.On)
		if err != nil {
			return err
		}
		cells, err := tx.CellsOfTray(ctx, t.ID)
		if err != nil {
			return err
		}
		failed := map[uuid.UUID][]batch.Spot{}
		for _, c := range cells {
			if s := batch.CellState(c.State); s == batch.Empty || s == batch.Lost {
				failed[c.BatchID] = append(failed[c.BatchID], batch.Spot{Kind: batch.InCell, In: t.ID.String(), Row: c.Row, Col: c.Col})
			}
		}
		if len(failed) == 0 {
			return field.Refuse("cells", "no cell of this tray is empty or lost")
		}
		order := slices.SortedFunc(maps.Keys(failed), func(a, b uuid.UUID) int { return bytes.Compare(a[:], b[:]) })
		for i, b := range order { // always in one order, as counts are
			act := batch.Act{Kind: batch.Wash, Cells: failed[b]}
			if _, err := ledger.OnBatch(ctx, tx, ledger.BatchAct{ID: ledger.InVisit(r.ID, b, i), Batch: b, Place: &t.Place, HappenedAt: r.At, Act: act}); err != nil {
				return err
			}
		}
		return nil
	})
}
