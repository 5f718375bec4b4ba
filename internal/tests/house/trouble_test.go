package house_test

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/trouble"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
)

// What the books know goes into the guess: how late, how warm, what the water read, where they
// stand; what it was taken for is written down once and about its batch.
func TestTheGuideKnowsTheBatch(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "A1-A6")
	require.NoError(t, f.mark(t, f.ines, "A1-A6", batch.Sprouted, ""))
	_, k, err := batches.KnownOf(ctx, f.Store, f.ines, b)
	require.NoError(t, err)
	require.Zero(t, k.AgeDays+k.DaysLate)
	require.False(t, k.InWater || k.Outside || k.NoHoles)
	f.Clock.Stand(f.Clock.Now().Add(70 * 24 * time.Hour))
	require.NoError(t, batches.Look(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: b}, batches.Looks{Leaves: 7, HeightCM: 12}))
	f.Clock.Stand(f.Clock.Now().Add(20 * 24 * time.Hour))
	_, k, err = batches.KnownOf(ctx, f.Store, f.ines, b)
	require.NoError(t, err)
	require.Equal(t, 90, k.AgeDays)
	require.Greater(t, k.DaysLate, 10)
	require.Equal(t, "late", trouble.Look("yellow-low", nil, k).Causes[0].ID)

	id := uuid.New()
	for range 2 {
		require.NoError(t, batches.NoteAilment(ctx, f.Store, f.ines, ledger.Act{ID: id, On: b}, batches.Ailment{Sign: "yellow-low", Cause: "late"}))
	}
	refusedAt(t, "cause", batches.NoteAilment(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: b}, batches.Ailment{Sign: "yellow-low", Cause: "ghosts"}))

	d := testdb.Demo(t) // plants in a tower know their water, those in a frame their nights
	o, err := batches.ReadOverview(ctx, d.Store, d.Ines(t))
	require.NoError(t, err)
	water, outside, jars := false, false, 0
	for _, l := range o.Lines {
		b, k, err := batches.KnownOf(ctx, d.Store, d.Ines(t), l.ID)
		require.NoError(t, err)
		for _, p := range b.Ports[:min(1, len(b.Ports))] {
			tanks := read(t, d, d.Ines(t), func(tx *store.Tx) ([]ledger.Tank, error) { return ledger.TanksOfPlace(ctx, tx, p.PlaceID) })
			for _, x := range tanks {
				if x.Spec.Passive && x.Position == p.Col+1 { // one row of jars
					require.Equal(t, x.State.ECMS, k.ECMS, "%s reads its own jar", b.Code)
					jars++
				}
			}
		}
		water = water || k.InWater && k.PH != nil && k.PHHigh > 0
		outside = outside || k.Outside && k.ColdNight != nil
	}
	require.True(t, water && outside && jars > 0)
}
