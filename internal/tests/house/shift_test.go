package house_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/site"
	"ulpa/internal/work/trays"
)

// Plants close up, go into another tray, and come back when that is undone; no cell is
// given twice, and a failed cell of another batch is washed first.
func TestPlantsGoIntoOtherCells(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	a, b := f.sow(t, "A1-A6"), f.sow(t, "B1-B6")
	require.NoError(t, f.mark(t, f.ines, "A1, A3, A5, A6", batch.Sprouted, ""))
	require.NoError(t, f.mark(t, f.ines, "A2, A4", batch.Empty, ""))
	require.NoError(t, f.mark(t, f.ines, "B1-B5", batch.Sprouted, ""))
	require.NoError(t, f.mark(t, f.ines, "B6", batch.Empty, ""))
	other := uuid.New()
	require.NoError(t, site.AddTray(ctx, f.Store, f.ines, site.TraySetup{ID: other, Name: "T2", Place: f.bench, Rows: 1, Columns: 4, CellML: 90}))
	cells := func(list string) []tray.Cell {
		out, err := tray.ParseList(list, 40, 40)
		require.NoError(t, err)
		return out
	}
	shift := func(r trays.ShiftRequest) (uuid.UUID, error) {
		r.ID, r.Tray = uuid.New(), f.tray
		return r.ID, trays.Shift(ctx, f.Store, f.ines, r)
	}
	where := func(id uuid.UUID) map[string]int {
		x, err := batches.Get(ctx, f.Store, f.ines, id)
		require.NoError(t, err)
		require.NoError(t, x.State.Balance())
		out := map[string]int{}
		for _, c := range x.Cells {
			if batch.CellState(c.State).Alive() {
				out[c.Tray]++
			}
		}
		return out
	}
	_, err := shift(trays.ShiftRequest{Closing: true})
	require.NoError(t, err)
	got, err := trays.Get(ctx, f.Store, f.ines, f.tray)
	require.NoError(t, err)
	for _, c := range got.Cells {
		if c.Batch == a && c.Col < 4 {
			require.True(t, batch.CellState(c.State).Alive(), "A%d", c.Col+1)
		}
	}
	_, err = shift(trays.ShiftRequest{Closing: true})
	refusedAt(t, "from", err)
	for name, r := range map[string]trays.ShiftRequest{
		"from": {From: cells("C1"), Into: other}, "to": {From: cells("A1-A4, B1"), Into: other}, "into": {From: cells("A1"), Into: uuid.New()},
	} {
		_, err := shift(r)
		refusedAt(t, name, err)
	}
	_, err = shift(trays.ShiftRequest{From: cells("A1"), Into: f.tray, To: cells("B6")})
	require.ErrorContains(t, err, "wash it first")
	_, err = shift(trays.ShiftRequest{From: cells("A1"), Into: f.tray, To: cells("B1")})
	refusedAt(t, "to", err)
	_, err = shift(trays.ShiftRequest{From: cells("A1, B1"), Into: f.tray, To: cells("B1, A1")})
	refusedAt(t, "to", err) // two batches do not swap in one go
	_, err = shift(trays.ShiftRequest{From: cells("A1, A2"), Into: f.tray, To: cells("A2, A1")})
	require.NoError(t, err)
	id, err := shift(trays.ShiftRequest{From: cells("B1-B4"), Into: other})
	require.NoError(t, err)
	require.Equal(t, map[string]int{"T1": 1, "T2": 4}, where(b))
	_, err = shift(trays.ShiftRequest{From: cells("A1"), Into: other})
	refusedAt(t, "to", err)
	require.NoError(t, notebook.Undo(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: id}))
	require.Equal(t, map[string]int{"T1": 5}, where(b))
	require.Equal(t, map[string]int{"T1": 4}, where(a))
}
