// Package trays is what stands in which cell: counts, care, plants put into other cells, cells
// that are kept free and those that are washed.
//
//	t, err := trays.Get(ctx, store, who, id)
//	err = trays.Count(ctx, store, who, trays.CountRequest{ID: entry, Tray: id, Marks: marks})
package trays

import (
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/site"
)

// Tray is a tray with what is in its cells, and the batches in it.
type Tray struct {
	site.Tray
	Place   site.Place
	Cells   []Cell
	Batches []batches.Batch
	Gaps    []Gap // what is kept free in it
	Care    tray.Care
	Stage   tray.Stage
}

// Cell is a cell that was sown.
type Cell struct {
	Row, Col   int
	Batch      uuid.UUID
	Code, Crop string
	batch.Cell
}

// Get reads a tray and the batches in it.
func Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (t Tray, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		t, err = store.Keep(ctx, tx, fmt.Sprint("tray ", id, tx.Light(), tx.Hour()), func() (Tray, error) { return get(ctx, tx, id) })
		return err
	})
	return t, err
}

func get(ctx context.Context, tx *store.Tx, id uuid.UUID) (t Tray, err error) {
	if t.Tray, err = site.GetTray(ctx, tx, id); err != nil {
		return t, err
	}
	if t.Place, err = site.GetPlace(ctx, tx, t.Tray.Place); err != nil {
		return t, err
	}
	cells, err := tx.CellsOfTray(ctx, id)
	if err != nil {
		return t, err
	}
	var ids []uuid.UUID
	for _, c := range cells {
		t.Cells = append(t.Cells, Cell{c.Row, c.Col, c.BatchID, c.Code, c.Crop, ledger.CellOf(c.State, c.Cause, c.Open, c.Waits, c.Plants, c.Done)})
		if !slices.Contains(ids, c.BatchID) {
			ids = append(ids, c.BatchID)
		}
	}
	if t.Batches, err = batches.Load(ctx, tx, ids); err != nil {
		return t, err
	}
	if t.Gaps, err = gapsOf(ctx, tx, id); err != nil {
		return t, err
	}
	cares, err := Cares(ctx, tx)
	if err != nil {
		return t, err
	}
	waiting, standing := 0, 0
	for _, c := range t.Cells {
		waiting, standing = waiting+c.Waiting(), standing+c.Standing()
	}
	t.Care, t.Stage = cares[id], stageOf(t.Place, tx.Who.Latitude, t.Drains, waiting, standing, tx.Who.Day(tx.Now))
	for _, b := range t.Batches {
		t.Stage.WantsMol = max(t.Stage.WantsMol, b.Crop.Comforts(int(t.Stage.Today-b.Sown)).LightMol)
	}
	return t, err
}
