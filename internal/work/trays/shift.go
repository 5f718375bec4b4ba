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
	Some    []Handful   // of sections of an open tray
	Into    uuid.UUID   // the tray they go to
	To      []tray.Cell // none: those that are free there, in order
	Extra   bool        // the plants stay, and the seedlings beside them, that would be thinned out, go
	Closing bool        // the tray's plants close up instead: each gap is filled from the end
	At      time.Time   // zero: now
}

// Handful is so many plants of a section of an open tray.
type Handful struct {
	At     tray.Cell
	Plants int
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
	plants, err := taken(t, r)
	if err != nil {
		return nil, err
	}
	to, err := freeIn(ctx, tx, into, r, len(plants))
	if err != nil {
		return nil, err
	}
	if len(to) != len(plants) {
		return nil, field.Refuse("to", "%d cells for %d plants", len(to), len(plants))
	}
	for i, p := range plants {
		b := p.Batch
		if o := slices.IndexFunc(into.Cells, func(x Cell) bool { return x.Row == to[i].Row && x.Col == to[i].Col }); o >= 0 {
			// Its own failed cell may be filled; one of another batch is that batch's until it
			// is washed or moved, since each act is of one batch.
			if other := into.Cells[o]; other.Batch != b {
				return nil, field.Refuse("to", "%s belongs to %s; wash it first", to[i].Name(), other.Code)
			}
		}
		act := acts[b]
		act.Kind, act.Extra = batch.Shift, r.Extra
		act.From = with(act.From, t.Tray, tray.Cell{Row: p.Row, Col: p.Col}, p.Open)
		act.To = with(act.To, into.Tray, to[i], into.Open())
		acts[b] = act
	}
	return acts, nil
}

// with are spots with one more plant: those of a section are counted.
func with(spots []batch.Spot, in site.Tray, c tray.Cell, open bool) []batch.Spot {
	at := batch.Spot{Kind: batch.InCell, In: in.ID.String(), Row: c.Row, Col: c.Col}
	if !open {
		return append(spots, at)
	}
	at.Kind, at.N = batch.InOpen, 1
	if last := len(spots) - 1; last >= 0 && spots[last].Row == at.Row && spots[last].Col == at.Col {
		spots[last].N++
		return spots
	}
	return append(spots, at)
}

// taken are the cells that plants are taken from, one for each plant.
func taken(t Tray, r ShiftRequest) (out []Cell, err error) {
	from := func(c tray.Cell, open bool, n int) error {
		at := slices.IndexFunc(t.Cells, func(x Cell) bool { return x.Row == c.Row && x.Col == c.Col && x.Open == open })
		if at < 0 {
			return field.Refuse("from", "%s holds no plant", c.Name())
		}
		out = append(out, slices.Repeat(t.Cells[at:at+1], n)...)
		return nil
	}
	for _, c := range r.From {
		if err := from(c, false, 1); err != nil {
			return nil, err
		}
	}
	for _, h := range r.Some {
		if h.Plants < 1 || h.Plants > batch.MostInSection {
			return nil, field.Refuse("from", "%s: must be 1 to %d plants", h.At.Name(), batch.MostInSection)
		}
		if err := from(h.At, true, h.Plants); err != nil {
			return nil, err
		}
		if len(out) > batch.MostInSection {
			return nil, field.Refuse("from", "must be at most %d plants at once", batch.MostInSection)
		}
	}
	if len(out) == 0 {
		return nil, field.Refuse("from", "enter which plants")
	}
	return out, nil
}

// freeIn is where so many plants go: the cells that were named, or as many as are free, row by row. Into
// an open tray all go into one section: that which was named, or the first that is free.
func freeIn(ctx context.Context, tx *store.Tx, into Tray, r ShiftRequest, plants int) (out []tray.Cell, err error) {
	for _, c := range r.To {
		if c.Row < 0 || c.Col < 0 || c.Row >= into.Rows || c.Col >= into.Columns {
			return nil, field.Refuse("to", "%s is outside this tray", c.Name())
		}
	}
	named := r.To
	if into.Open() && len(named) > 1 {
		return nil, field.Refuse("to", "choose one section")
	}
	if len(named) == 0 {
		want := plants
		if into.Open() {
			want = 1
		}
		if named, err = firstFree(ctx, tx, into, want); err != nil {
			return nil, err
		}
	}
	if into.Open() && len(named) == 1 {
		return slices.Repeat(named, plants), nil
	}
	return named, nil
}

// firstFree are the first cells in which nothing is, and nothing is to come.
func firstFree(ctx context.Context, tx *store.Tx, into Tray, want int) (out []tray.Cell, err error) {
	used, err := tx.CellsOfTray(ctx, into.ID)
	for row := range into.Rows {
		for col := range into.Columns {
			c := tray.Cell{Row: row, Col: col}
			taken := slices.ContainsFunc(used, func(u db.CellsOfTrayRow) bool { return u.Row == row && u.Col == col })
			kept := slices.ContainsFunc(into.Gaps, func(g Gap) bool { return slices.Contains(g.Cells, c) })
			if len(out) < want && !taken && !kept {
				out = append(out, c)
			}
		}
	}
	return out, err
}
