package trays

import (
	"bytes"
	"context"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// ShiftRequest puts plants from cells of a tray into cells of this or another.
type ShiftRequest struct {
	ID      uuid.UUID
	Tray    uuid.UUID
	From    []tray.Cell
	Into    uuid.UUID   // the tray they go to
	To      []tray.Cell // none: those that are free there, in order
	Closing bool        // the tray's plants close up instead: each gap is filled from the end
	At      time.Time   // zero: now
}

// Shift pricks out, fills gaps, merges and splits: an entry for each batch it concerns.
func Shift(ctx context.Context, s *store.Store, w who.Who, r ShiftRequest) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "nursery.Shift", What: r}, func(tx *store.Tx) error {
		if r.Closing {
			r.Into = r.Tray
		}
		for _, id := range inOrderOfID(r.Tray, r.Into) { // so that two who swap trays never wait for each other
			if err := tx.HoldTray(ctx, id); err != nil {
				return err
			}
		}
		acts, err := shifts(ctx, tx, r)
		if err != nil {
			return err
		}
		into, err := site.GetTray(ctx, tx, r.Into)
		if err != nil {
			return err
		}
		order := slices.SortedFunc(maps.Keys(acts), func(a, b uuid.UUID) int { return bytes.Compare(a[:], b[:]) })
		for i, b := range order {
			act := ledger.BatchAct{ID: ledger.InVisit(r.ID, b, i), Batch: b, Place: &into.Place, HappenedAt: r.At, Act: acts[b]}
			if _, err := ledger.OnBatch(ctx, tx, act); err != nil {
				return err
			}
		}
		return nil
	})
}

func inOrderOfID(ids ...uuid.UUID) []uuid.UUID {
	slices.SortFunc(ids, func(a, b uuid.UUID) int { return bytes.Compare(a[:], b[:]) })
	return slices.Compact(ids)
}

// shifts are the acts that a request comes to, by batch.
func shifts(ctx context.Context, tx *store.Tx, r ShiftRequest) (map[uuid.UUID]batch.Act, error) {
	t, err := get(ctx, tx, r.Tray)
	if err != nil {
		return nil, store.Missing(err, "tray", "choose a tray")
	}
	acts := map[uuid.UUID]batch.Act{}
	if r.Closing {
		for _, b := range t.Batches {
			if from, to := b.State.Gaps(r.Tray.String()); len(from) > 0 {
				acts[b.ID] = batch.Act{Kind: batch.Shift, From: from, To: to}
			}
		}
		if len(acts) == 0 {
			return nil, field.Refuse("from", "there is no gap to close")
		}
		return acts, nil
	}
	into, err := get(ctx, tx, r.Into)
	if err != nil {
		return nil, store.Missing(err, "into", "choose a tray")
	}
	if len(r.From) == 0 {
		return nil, field.Refuse("from", "enter which plants")
	}
	to, err := freeIn(ctx, tx, into, r)
	if err != nil {
		return nil, err
	}
	if len(to) != len(r.From) {
		return nil, field.Refuse("to", "%d cells for %d plants", len(to), len(r.From))
	}
	spot := func(id uuid.UUID, c tray.Cell) batch.Spot {
		return batch.Spot{Kind: batch.InCell, In: id.String(), Row: c.Row, Col: c.Col}
	}
	for i, c := range r.From {
		at := slices.IndexFunc(t.Cells, func(x Cell) bool { return x.Row == c.Row && x.Col == c.Col })
		if at < 0 {
			return nil, field.Refuse("from", "%s holds no plant", c.Name())
		}
		b := t.Cells[at].Batch
		if o := slices.IndexFunc(into.Cells, func(x Cell) bool { return x.Row == to[i].Row && x.Col == to[i].Col }); o >= 0 {
			// Its own failed cell may be filled; one of another batch is that batch's until it
			// is washed or moved, since each act is of one batch.
			if other := into.Cells[o]; other.Batch != b {
				return nil, field.Refuse("to", "%s belongs to %s; wash it first", to[i].Name(), other.Code)
			}
		}
		act := acts[b]
		act.Kind, act.From, act.To = batch.Shift, append(act.From, spot(r.Tray, c)), append(act.To, spot(r.Into, to[i]))
		acts[b] = act
	}
	return acts, nil
}

// freeIn is where they go: the cells that were named, or as many as are free, row by row.
func freeIn(ctx context.Context, tx *store.Tx, into Tray, r ShiftRequest) (out []tray.Cell, err error) {
	for _, c := range r.To {
		if c.Row < 0 || c.Col < 0 || c.Row >= into.Rows || c.Col >= into.Columns {
			return nil, field.Refuse("to", "%s is outside this tray", c.Name())
		}
	}
	if len(r.To) > 0 {
		return r.To, nil
	}
	used, err := tx.CellsOfTray(ctx, into.ID)
	for row := range into.Rows {
		for col := range into.Columns {
			c := tray.Cell{Row: row, Col: col}
			taken := slices.ContainsFunc(used, func(u db.CellsOfTrayRow) bool { return u.Row == row && u.Col == col })
			kept := slices.ContainsFunc(into.Gaps, func(g Gap) bool { return slices.Contains(g.Cells, c) })
			if len(out) < len(r.From) && !taken && !kept {
				out = append(out, c)
			}
		}
	}
	return out, err
}
