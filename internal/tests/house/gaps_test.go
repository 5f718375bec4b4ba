package house_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/tray"
	"ulpa/internal/work/round"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

// A gap holds free cells of one tray, once; the round asks for its sowing on its day, and what
// is sown into it leaves only the rest kept.
func TestAGapIsKeptUntilItIsSown(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	f.sow(t, "A1-A6")
	today := f.ines.Day(f.Clock.Now())
	keep := func(cells string, ahead int) (uuid.UUID, error) {
		list, err := tray.ParseList(cells, 40, 40)
		require.NoError(t, err)
		k := trays.Keep{ID: uuid.New(), Tray: f.tray, Cells: list, Crop: "lettuce", On: today + calendar.Day(ahead)}
		return k.ID, trays.KeepGap(ctx, f.Store, f.ines, k)
	}
	for _, cells := range []string{"A6-B1", "Z1", "B1-B9"} {
		_, err := keep(cells, 3)
		refusedAt(t, "cells", err)
	}
	id, err := keep("B1-B4", 3)
	require.NoError(t, err)
	again := trays.Keep{ID: id, Tray: f.tray, Cells: []tray.Cell{{Row: 1}}, Crop: "lettuce", On: today + 3}
	require.NoError(t, trays.KeepGap(ctx, f.Store, f.ines, again), "sent twice")
	again.Crop = "basil"
	refusedAt(t, "id", trays.KeepGap(ctx, f.Store, f.ines, again))
	_, err = keep("B4-B5", 3)
	refusedAt(t, "cells", err)
	asked := func() *string {
		walk, err := round.Today(ctx, f.Store, f.ines)
		require.NoError(t, err)
		for _, s := range walk.Stops {
			for _, x := range s.Tasks {
				if x.Kind.Name == "gap" {
					require.Equal(t, f.bench.String(), s.Place)
					return &x.Cells
				}
			}
		}
		return nil
	}
	require.Nil(t, asked())
	f.Clock.Stand(f.Clock.Now().Add(3 * 24 * time.Hour))
	require.Equal(t, "B1-B4", *asked())
	f.sow(t, "B1-B3")
	require.Equal(t, "B4", *asked())
	got, err := trays.Get(ctx, f.Store, f.ines, f.tray)
	require.NoError(t, err)
	require.NoError(t, trays.DropGap(ctx, f.Store, f.ines, got.Gaps[0].ID))
	require.Nil(t, asked())
}

// Trays added at once count on from those there are, and once only, however often it is sent.
func TestTraysAreAddedAtOnce(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	id, like := uuid.New(), site.TraySetup{Place: f.bench, Rows: 2, Columns: 3, CellML: 60, Kind: "tub", Medium: "coir"}
	for range 2 {
		require.NoError(t, site.AddTrays(ctx, f.Store, f.ines, id, like, 5))
	}
	shelf, err := sowing.GetShelf(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.Len(t, shelf.Trays, 6)
	names := map[string]bool{}
	for _, x := range shelf.Trays {
		names[x.Name] = true
	}
	require.Len(t, names, 6)
	refusedAt(t, "many", site.AddTrays(ctx, f.Store, f.ines, uuid.New(), like, 61))
	like.Kind = "bucket"
	refusedAt(t, "kind", site.AddTrays(ctx, f.Store, f.ines, uuid.New(), like, 1))
}
