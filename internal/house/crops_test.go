package house_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/tray"
	"ulpa/internal/crops"
	"ulpa/internal/nursery"
	"ulpa/internal/round"
	"ulpa/internal/season"
	"ulpa/internal/store"
	"ulpa/internal/who"
)

// A planned sowing comes up on the round on its day, presses when it is late,
// and is gone once it was sown or struck off.
func TestAPlannedSowingIsAskedForUntilItIsDone(t *testing.T) {
	f := newFixture(t)
	today := calendar.Of(f.Clock.Now())
	plan := func(sow calendar.Day) season.Planned {
		return season.Planned{ID: uuid.New(), Crop: "lettuce", Wanted: 12, SowOn: sow, ReadyBy: sow + 50}
	}
	late, due, ahead := plan(today-2), plan(today), plan(today+5)
	require.ErrorIs(t, season.Plan(ctx, f.Store, f.crew, due), who.ErrNotAllowed)
	for _, p := range []season.Planned{late, due, ahead, due} {
		require.NoError(t, season.Plan(ctx, f.Store, f.ines, p))
	}
	bad := plan(today)
	bad.ReadyBy, bad.Wanted, bad.Crop = today-1, 0, "tumbleweed"
	require.ErrorContains(t, season.Plan(ctx, f.Store, f.ines, bad), "choose a crop")

	asked := func() (words []string) {
		walk, err := round.Today(ctx, f.Store, f.ines)
		require.NoError(t, err)
		for _, stop := range walk.Stops {
			for _, task := range stop.Tasks {
				if task.Kind == "sow" {
					words = append(words, task.Urgency.Word()+" "+task.Planned)
				}
			}
		}
		return words
	}
	require.Equal(t, []string{"today " + late.ID.String(), "today " + due.ID.String()}, asked())
	lot := f.lots(t)[0].ID
	_, err := nursery.Sow(
		ctx,
		f.Store,
		f.ines,
		nursery.SowRequest{ID: uuid.New(), Lot: lot, Wanted: 12, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{{Row: 2, Col: 2}}, Planned: &late.ID},
	)
	require.NoError(t, err)
	require.Equal(t, []string{"today " + due.ID.String()}, asked())
	require.ErrorIs(t, season.Drop(ctx, f.Store, f.crew, due.ID), who.ErrNotAllowed)
	require.NoError(t, season.Drop(ctx, f.Store, f.ines, due.ID))
	require.Empty(t, asked())
	f.Clock.Set(f.Clock.Now().AddDate(0, 0, 5))
	require.Equal(t, []string{"today " + ahead.ID.String()}, asked())
}

// What a school knows of a crop is its own, all or nothing, and what the
// program reckons with.
func TestASchoolsCropValuesAreWhatIsReckonedWith(t *testing.T) {
	f := newFixture(t)
	other := f.Person(t, f.School(t, "elsewhere"), who.Coordinator, "olu")
	ask := func(w who.Who) crop.Crop {
		book, err := crops.Get(ctx, f.Store, w)
		require.NoError(t, err)
		require.Len(t, book.All(), len(crop.All()))
		return book.Find("lettuce")
	}
	require.ErrorIs(t, crops.Set(ctx, f.Store, f.ines, "tumbleweed", nil), store.ErrNotFound)
	require.ErrorContains(t, crops.Set(ctx, f.Store, f.ines, "lettuce", map[string]string{"survival": "0.5", "optimum_c": "40"}), "ceiling_c")
	require.Empty(t, ask(f.ines).Own, "one refusal keeps nothing")
	before, err := nursery.HowMuch(ctx, f.Store, f.ines, nursery.SowQuestion{Lot: f.lots(t)[0].ID, Wanted: 20, CellsPerTray: 24})
	require.NoError(t, err)
	require.NoError(t, crops.Set(ctx, f.Store, f.ines, "lettuce", map[string]string{"survival": "0.5"}))
	after, err := nursery.HowMuch(ctx, f.Store, f.ines, nursery.SowQuestion{Lot: f.lots(t)[0].ID, Wanted: 20, CellsPerTray: 24})
	require.NoError(t, err)
	require.Greater(t, after.Rate.Options[0].Cells, before.Rate.Options[0].Cells*3/2, "half of the sprouts die")
	require.Equal(t, 0.5, ask(f.ines).Survival)
	require.Empty(t, ask(other).Own)
	require.NotEqual(t, 0.5, ask(other).Survival)
}

func (f fixture) lots(t *testing.T) []nursery.Packet {
	shelf, err := nursery.GetShelf(ctx, f.Store, f.ines)
	require.NoError(t, err)
	return shelf.Packets
}
