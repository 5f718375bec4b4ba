package house_test

import (
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/ledger"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/seeds"
)

// A harvest that was undone is in the list no more, and one that was corrected is there once,
// as it is now.
func TestTheListOfHarvestsIsOfWhatIsSo(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	list := func() []harvest.Done {
		o, err := harvest.ReadOverview(ctx, d.Store, ines)
		require.NoError(t, err)
		return o.Done
	}
	o, err := harvest.ReadOverview(ctx, d.Store, ines)
	require.NoError(t, err)
	i := slices.IndexFunc(o.Lines, func(l harvest.Line) bool { return l.Crop.Cuts && l.InPorts()+l.InStands() > 0 })
	require.GreaterOrEqual(t, i, 0)
	before, id := len(list()), uuid.New()
	require.NoError(t, harvest.Weigh(ctx, d.Store, ines, harvest.Request{ID: id, Batch: o.Lines[i].ID, Grams: 120}))
	require.Len(t, list(), before+1)
	right := uuid.New()
	require.NoError(t, notebook.Correct(ctx, d.Store, ines, ledger.Act{ID: right, On: id}, map[string]any{"grams": new(130.0)}))
	require.Len(t, list(), before+1)
	require.True(t, slices.ContainsFunc(list(), func(x harvest.Done) bool { return x.Grams == 130 }))
	require.False(t, slices.ContainsFunc(list(), func(x harvest.Done) bool { return x.Grams == 120 }))
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: right}))
	require.Len(t, list(), before)
}

// A packet that is retired is offered nowhere, and one restored is again.
func TestRetiredPacketsAreNotOffered(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	offered := func() bool {
		return slices.ContainsFunc(f.lots(t), func(p seeds.Packet) bool { return p.ID == f.lot })
	}
	require.True(t, offered())
	require.NoError(t, seeds.LotKind.Retire(ctx, f.Store, f.ines, f.lot, true))
	require.False(t, offered())
	require.NoError(t, seeds.LotKind.Retire(ctx, f.Store, f.ines, f.lot, false))
	require.True(t, offered())
}

// The pages of the notebook, one after the other, hold every entry once, however many happened in
// the same moment.
func TestPagesOfTheNotebookHoldEveryEntryOnce(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	at := f.Clock.Now()
	want := map[uuid.UUID]bool{}
	for n := range 45 {
		id := uuid.New()
		want[id] = true
		r := notebook.NoteRequest{ID: id, Text: "n", At: at.AddDate(0, 0, -n/20)}
		require.NoError(t, notebook.Note(ctx, f.Store, f.ines, r))
	}
	for _, size := range []int{1, 7, 20, 45, 100} {
		seen := map[uuid.UUID]bool{}
		for filter := (notebook.Filter{Most: size}); ; {
			page, err := notebook.Read(ctx, f.Store, f.ines, filter)
			require.NoError(t, err)
			for _, l := range page {
				require.False(t, seen[l.ID], "twice, in pages of %d", size)
				seen[l.ID] = true
			}
			if len(page) < size {
				break
			}
			last := page[len(page)-1]
			filter.Before, filter.BeforeSeq = &last.HappenedAt, last.Seq
		}
		for id := range want {
			require.True(t, seen[id], "left out, in pages of %d", size)
		}
	}
}
