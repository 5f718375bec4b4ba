package house_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/internal/base/things"
	"ulpa/internal/work/site"
)

// A tray and a tower can be made as small as what is in use reaches, and no smaller: the refusal
// names the row and the column up to which something is.
func TestWhatIsInUseStaysInside(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "A1, C5")
	change := func(rows, columns int) error {
		v, err := site.TrayKind.Get(ctx, f.Store, f.ines, f.tray)
		require.NoError(t, err)
		tag := things.Tag(v)
		v.Rows, v.Columns = rows, columns
		_, err = site.TrayKind.Put(ctx, f.Store, f.ines, v, tag)
		return err
	}
	require.ErrorContains(t, change(2, 6), "rows: has cells in use up to row 3")
	require.ErrorContains(t, change(4, 4), "columns: has cells in use up to column 5")
	require.NoError(t, change(3, 5))

	require.NoError(t, f.mark(t, f.ines, "A1, C5", batch.Sprouted, batch.Sown))
	require.NoError(t, f.move(f.ines, uuid.New(), b, "C5", "B3"))
	tower := func(tiers, columns int) error {
		v, err := site.PlaceKind.Get(ctx, f.Store, f.ines, f.tower)
		require.NoError(t, err)
		tag := things.Tag(v)
		v.Tiers, v.Columns = tiers, columns
		_, err = site.PlaceKind.Put(ctx, f.Store, f.ines, v, tag)
		return err
	}
	require.ErrorContains(t, tower(1, 4), "tiers: has a plant in row 2; move it first")
	require.ErrorContains(t, tower(3, 2), "columns: has a plant in port 3; move it first")
	require.NoError(t, tower(2, 3))
	// A cell that a plant has left holds nothing back any more.
	require.NoError(t, change(1, 1), "only A1 is left")
}
