package house_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/plan"
	"ulpa/core/tray"
	"ulpa/internal/goals"
	"ulpa/internal/nursery"
	"ulpa/internal/round"
	"ulpa/internal/season"
	"ulpa/internal/things"
	"ulpa/internal/who"
)

// A goal is planned back over closed days to its sowing, which the round asks for on its
// day; what is sown stays as it is, and a plan that has changed meanwhile is not kept.
func TestASeasonIsKeptTrue(t *testing.T) {
	f := newFixture(t)
	today := calendar.Of(f.Clock.Now())
	goal := goals.Setup{ID: uuid.New(), Name: "Table", Kind: "weekly", Crop: "lettuce", Wanted: 3, From: today + 70, By: today + 83, Missing: plan.Must}
	_, err := goals.Kind.Put(ctx, f.Store, f.crew, goal, things.New)
	require.ErrorIs(t, err, who.ErrNotAllowed)
	_, err = goals.Kind.Put(ctx, f.Store, f.ines, goal, things.New)
	require.NoError(t, err)
	look := func() goals.Outlook {
		o, err := goals.Look(ctx, f.Store, f.ines)
		require.NoError(t, err)
		return o
	}
	first := look()
	require.NotEmpty(t, first.Changes)
	require.GreaterOrEqual(t, first.Cost, first.Bound)
	for _, b := range first.Lines[0].Batches {
		require.Empty(t, b.Why)
		require.True(t, b.Ready >= b.From && b.Ready <= b.By)
	}
	require.ErrorIs(t, goals.Keep(ctx, f.Store, f.crew, first.Tag), who.ErrNotAllowed)
	refusedAt(t, "plan", goals.Keep(ctx, f.Store, f.ines, "another plan"))
	require.NoError(t, goals.Keep(ctx, f.Store, f.ines, first.Tag))
	require.NoError(t, goals.Keep(ctx, f.Store, f.ines, first.Tag), "kept twice it is one")
	require.Empty(t, look().Changes)
	planned, err := season.Plans(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.Len(t, planned, len(first.Lines[0].Batches))

	// Struck off the list it is not planned, and not sown either.
	require.NoError(t, season.Drop(ctx, f.Store, f.ines, planned[0].ID))
	struck := look()
	require.Len(t, struck.Changes, 1)
	require.False(t, struck.Lines[0].Batches[0].Sown)
	require.NoError(t, goals.Keep(ctx, f.Store, f.ines, struck.Tag))

	// Its day comes, and it is sown.
	f.Clock.Set(f.Clock.Now().AddDate(0, 0, int(planned[0].SowOn-today)))
	walk, err := round.Today(ctx, f.Store, f.ines)
	require.NoError(t, err)
	asked := false
	for _, stop := range walk.Stops {
		for _, task := range stop.Tasks {
			asked = asked || task.Planned == planned[0].ID.String()
		}
	}
	require.True(t, asked)
	_, err = nursery.Sow(ctx, f.Store, f.ines, nursery.SowRequest{
		ID: uuid.New(), Lot: f.lot, Wanted: 3, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{{Row: 2, Col: 2}}, Planned: &planned[0].ID,
	})
	require.NoError(t, err)
	require.Empty(t, look().Changes, "what is sown is as it was planned")
	require.True(t, look().Lines[0].Batches[0].Sown)

	// A closure over the next sowing: the plan says what no longer holds, and moves nothing.
	_, err = season.ClosureKind.Put(ctx, f.Store, f.ines, season.ClosureSetup{
		ID: uuid.New(), From: planned[1].SowOn, To: planned[1].SowOn, Name: "Fair",
	}, things.New)
	require.NoError(t, err)
	after := look()
	require.Len(t, after.Changes, 1)
	still, err := season.Plans(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.Equal(t, planned[1:], still)
	require.NoError(t, goals.Keep(ctx, f.Store, f.ines, after.Tag))
	still, err = season.Plans(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.NotEqual(t, planned[1].SowOn, still[0].SowOn)

	// Too soon: it says why, and from when on it could be.
	soon := goals.Setup{ID: uuid.New(), Name: "Soon", Kind: "class", Crop: "lettuce", Wanted: 3, From: f.ines.Day(f.Clock.Now()) + 2, Missing: plan.Nice}
	_, err = goals.Kind.Put(ctx, f.Store, f.ines, soon, things.New)
	require.NoError(t, err)
	for _, l := range look().Lines {
		if l.Goal.Name == "Soon" {
			require.Equal(t, plan.Impossible, l.Batches[0].Why)
			require.Greater(t, l.Batches[0].Later, soon.From)
		}
	}
	refusedAt(t, "id", goals.Kind.Delete(ctx, f.Store, f.ines, goal.ID, ""))
	inStep(t, f.DB, f.ines)
}
