package trays

import (
	"bytes"
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// CountRequest is one visit to a tray: what was seen in the cells that changed.
type CountRequest struct {
	ID    uuid.UUID
	Tray  uuid.UUID
	Marks []batch.Mark
	At    time.Time // zero: now
	Whole bool      `json:",omitempty"` // the whole tray was looked at: batches without a mark are as they were
}

// Clash is a cell that somebody else has marked since the page was looked at.
type Clash struct {
	Cell    string
	Was, Is batch.CellState
	You     batch.CellState
}

// Clashes is the answer when two people marked the same cells: nothing has
// been stored, so that the second can look again.
type Clashes []Clash

// Error says which cells, and what to do.
func (c Clashes) Error() string { return c.Why().String() }

// Why is the same for whoever reads it.
func (c Clashes) Why() say.Text {
	var parts []say.Text
	for _, x := range c {
		parts = append(parts, say.T("%s was marked %s by somebody else, and you marked it %s", x.Cell, x.Is.Words(), x.You.Words()))
	}
	return say.T("%s. Look at the cell and save again; your other marks are still here.", say.Join("; ", parts...))
}

// Count records what a visit to a tray saw: one entry for each batch in it. The
// same visit sent twice is stored once.
func Count(ctx context.Context, s *store.Store, w who.Who, r CountRequest) error {
	if err := w.Must(who.Measure); err != nil {
		return err
	}
	if len(r.Marks) > 1600 {
		return field.Refuse("marks", "are more than a tray has cells")
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "nursery.Count", What: r.said()}, func(tx *store.Tx) error { return count(ctx, tx, r) })
}

// said is the visit without what the page showed, which changes by the visit itself.
func (r CountRequest) said() CountRequest {
	r.Marks = slices.Clone(r.Marks)
	for i := range r.Marks {
		r.Marks[i].Was = ""
	}
	return r
}

func count(ctx context.Context, tx *store.Tx, r CountRequest) error {
	t, err := site.GetTray(ctx, tx, r.Tray)
	if err != nil {
		return err
	}
	cells, err := tx.CellsOfTray(ctx, t.ID)
	if err != nil {
		return err
	}
	holds, open := map[tray.Cell]uuid.UUID{}, map[tray.Cell]bool{}
	var order []uuid.UUID
	for _, c := range cells {
		at := tray.Cell{Row: c.Row, Col: c.Col}
		holds[at], open[at] = c.BatchID, c.Open
	}
	marks := map[uuid.UUID][]batch.Mark{}
	saw := map[tray.Cell]batch.CellState{}
	for _, m := range r.Marks {
		at := tray.Cell{Row: m.Row, Col: m.Col}
		if at.Row < 0 || at.Row >= t.Rows || at.Col < 0 || at.Col >= t.Columns {
			return field.Refuse("marks", "%s is outside this tray", at.Name())
		}
		if s, twice := saw[at]; twice && s != m.State {
			return field.Refuse("marks", "%s cannot be both %s and %s", at.Name(), s.Words(), m.State.Words())
		}
		saw[at] = m.State
		b, ok := holds[at]
		if !ok {
			return field.Refuse("marks", "%s no longer holds anything; load the tray again", at.Name())
		}
		if marks[b] == nil {
			order = append(order, b)
		}
		m.In, m.Section = t.ID.String(), open[at]
		marks[b] = append(marks[b], m)
	}
	if r.Whole || len(order) == 0 {
		// A visit that saw no change is still a count, for every batch here that had none.
		for _, c := range cells {
			if !slices.Contains(order, c.BatchID) {
				order = append(order, c.BatchID)
			}
		}
	}
	if len(order) == 0 {
		return field.Refuse("marks", "this tray holds nothing any more; load it again")
	}
	slices.SortFunc(
		order,
		func(a, b uuid.UUID) int { return bytes.Compare(a[:], b[:]) },
	) // always in one order, so that two visits never wait for each other
	for i, b := range order {
		_, err := ledger.OnBatch(ctx, tx, ledger.BatchAct{
			ID: ledger.InVisit(r.ID, b, i), Batch: b, Place: &t.Place, HappenedAt: r.At,
			Act:   batch.Act{Kind: batch.Count, Marks: marks[b]},
			Check: func(now *batch.State) error { return clashes(now, marks[b]) },
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// clashes compares what each mark's writer saw with what the cell shows now.
// Two people who saw the same thing agree.
func clashes(now *batch.State, marks []batch.Mark) error {
	var out Clashes
	for _, m := range marks {
		is := now.Cells[batch.Spot{Kind: batch.InCell, In: m.In, Row: m.Row, Col: m.Col}].State
		if m.Was != "" && is != m.Was && is != m.State {
			out = append(out, Clash{Cell: tray.Cell{Row: m.Row, Col: m.Col}.Name(), Was: m.Was, Is: is, You: m.State})
		}
	}
	if len(out) > 0 {
		return out
	}
	return nil
}
