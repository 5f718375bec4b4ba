package house_test

import (
	"math/rand/v2"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

// An open flat is sown, counted, thinned, and pricked out by handfuls into cells, ports and another flat;
// whatever is accepted, the tables and the facts agree, and what is undone is as it was.
func TestAnOpenFlatKeepsItsBooks(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	flat, other := uuid.New(), uuid.New()
	for id, name := range map[uuid.UUID]string{flat: "Flat 1", other: "Flat 2"} {
		like := site.TraySetup{ID: id, Name: name, Place: f.bench, Rows: 3, Columns: 1, CellML: 1500, Kind: "flat", Medium: "compost"}
		require.NoError(t, site.AddTray(ctx, f.Store, f.ines, like))
	}
	sow := func(seeds int) (sowing.Sown, error) {
		return sowing.Sow(ctx, f.Store, f.ines, sowing.SowRequest{
			ID: uuid.New(), Lot: f.lot, Wanted: 80, SeedsPerCell: seeds, Tray: flat, Cells: []tray.Cell{{Row: 0}, {Row: 1}},
		})
	}
	_, err := sow(batch.MostInSection + 1)
	refusedAt(t, "seeds", err)
	sown, err := sow(60)
	require.NoError(t, err)
	now := func() batches.Batch {
		b, err := batches.Get(ctx, f.Store, f.ines, sown.Batch)
		require.NoError(t, err)
		require.NoError(t, b.State.Balance())
		return b
	}
	count := func(row, n int, over bool) (uuid.UUID, error) {
		id := uuid.New()
		m := batch.Mark{Row: row, State: batch.Sprouted, N: n, Over: over, Cause: "damping-off"}
		return id, trays.Count(ctx, f.Store, f.crew, trays.CountRequest{ID: id, Tray: flat, Marks: []batch.Mark{m}})
	}
	_, err = count(0, 48, false)
	require.NoError(t, err)
	wrong, err := count(1, 5, true)
	require.NoError(t, err)
	require.Equal(t, []int{53, 12, 55}, []int{now().State.Standing(), now().State.Waiting(), now().State.Empties()})
	require.NoError(t, notebook.UndoVisit(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: wrong}), "it was 51")
	_, err = count(1, 51, false)
	require.NoError(t, err)
	require.Equal(t, []int{99, 21, 0}, []int{now().State.Standing(), now().State.Waiting(), now().State.Empties()})

	shift := func(r trays.ShiftRequest) error {
		r.ID, r.Tray = uuid.New(), flat
		return trays.Shift(ctx, f.Store, f.crew, r)
	}
	some := func(row, n int) []trays.Handful { return []trays.Handful{{At: tray.Cell{Row: row}, Plants: n}} }
	refusedAt(t, "from", shift(trays.ShiftRequest{Some: some(2, 4), Into: f.tray}))
	refusedAt(t, "plants", shift(trays.ShiftRequest{Some: some(0, 49), Into: other}))
	require.ErrorContains(t, shift(trays.ShiftRequest{Some: some(0, 30), Into: f.tray}), "24 cells for 30 plants")
	require.NoError(t, shift(trays.ShiftRequest{Some: append(some(0, 18), some(1, 2)...), Into: f.tray}))
	require.NoError(t, shift(trays.ShiftRequest{Some: some(0, 25), Into: other}))
	require.NoError(t, site.Move(ctx, f.Store, f.crew, site.MoveRequest{
		ID: uuid.New(), Batch: sown.Batch, To: f.tower, Fill: true, From: []batch.Spot{{Kind: batch.InOpen, In: flat.String(), Row: 1, N: 6}},
	}))
	inTray := map[string]int{}
	for _, c := range now().Cells {
		inTray[c.Tray] += c.Standing()
	}
	require.Equal(t, map[string]int{"T1": 20, "Flat 1": 48, "Flat 2": 25}, inTray)
	require.Len(t, now().Ports, 6)
	inStep(t, f.DB, f.ines)

	r, kept := rand.New(rand.NewPCG(3, 9)), 0
	var visits []uuid.UUID
	for range 120 {
		row := r.IntN(2)
		var err error
		switch r.IntN(5) {
		case 0, 1:
			id, failed := count(row, r.IntN(70), r.IntN(3) == 0)
			visits, err = append(visits, id), failed
		case 2:
			err = shift(trays.ShiftRequest{Some: some(row, 1+r.IntN(9)), Into: other, To: []tray.Cell{{Row: r.IntN(3)}}})
		case 3:
			from := []batch.Spot{{Kind: batch.InCell, In: flat.String(), N: 1 + r.IntN(12)}}
			err = batches.HandOver(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: sown.Batch}, from, "thinned-out")
		case 4:
			if len(visits) > 0 {
				err = notebook.UndoVisit(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: visits[r.IntN(len(visits))]})
			}
		}
		if err == nil {
			kept++
		}
		require.NoError(t, now().State.Balance())
	}
	require.Greater(t, kept, 30)
	inStep(t, f.DB, f.ines)
}

// A seedling that is thinned out of a cell is replanted as one of its batch.
func TestAThinnedSeedlingIsReplanted(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "A1-A3")
	require.NoError(t, f.mark(t, f.crew, "A1-A2", batch.Sprouted, batch.Sown))
	r := trays.ShiftRequest{ID: uuid.New(), Tray: f.tray, Extra: true, From: []tray.Cell{{}, {Col: 1}}, Into: f.tray, To: []tray.Cell{{Row: 1}, {Row: 1, Col: 1}}}
	require.NoError(t, trays.Shift(ctx, f.Store, f.crew, r))
	x, err := batches.Get(ctx, f.Store, f.ines, b)
	require.NoError(t, err)
	require.Equal(t, []int{5, 4, 2}, []int{x.State.Sown, x.State.Standing(), x.State.Replanted})
	inStep(t, f.DB, f.ines)
	require.NoError(t, notebook.UndoVisit(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: r.ID}))
	inStep(t, f.DB, f.ines)
}
