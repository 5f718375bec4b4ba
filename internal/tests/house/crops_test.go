package house_test

import (
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/tray"
	"ulpa/internal/base/store"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/round"
	"ulpa/internal/work/season"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/sowing"
)

// A planned sowing comes up on the round on its day, presses when it is late,
// and is gone once it was sown or struck off.
func TestAPlannedSowingIsAskedForUntilItIsDone(t *testing.T) {
	t.Parallel()
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
				if task.Kind.Name == "sow" {
					words = append(words, task.Urgency.Word()+" "+task.Of)
				}
			}
		}
		return words
	}
	require.Equal(t, []string{"today " + late.ID.String(), "today " + due.ID.String()}, asked())
	lot := f.lots(t)[0].ID
	_, err := sowing.Sow(
		ctx,
		f.Store,
		f.ines,
		sowing.SowRequest{ID: uuid.New(), Lot: lot, Wanted: 12, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{{Row: 2, Col: 2}}, Planned: &late.ID},
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
// program uses.
func TestASchoolsCropValuesAreWhatIsReckonedWith(t *testing.T) {
	t.Parallel()
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
	before, err := sowing.HowMuch(ctx, f.Store, f.ines, sowing.SowQuestion{Lot: f.lots(t)[0].ID, Wanted: 20, CellsPerTray: 24})
	require.NoError(t, err)
	require.NoError(t, crops.Set(ctx, f.Store, f.ines, "lettuce", map[string]string{"survival": "0.5"}))
	after, err := sowing.HowMuch(ctx, f.Store, f.ines, sowing.SowQuestion{Lot: f.lots(t)[0].ID, Wanted: 20, CellsPerTray: 24})
	require.NoError(t, err)
	require.Greater(t, after.Rate.Options[0].Cells, before.Rate.Options[0].Cells*3/2, "half of the sprouts die")
	require.Equal(t, 0.5, ask(f.ines).Survival)
	require.Empty(t, ask(other).Own)
	require.NotEqual(t, 0.5, ask(other).Survival)
}

func (f fixture) lots(t *testing.T) []seeds.Packet {
	shelf, err := sowing.GetShelf(ctx, f.Store, f.ines)
	require.NoError(t, err)
	return shelf.Packets
}

// A crop of a school's own begins as the most similar crop, is sown and judged by its own values,
// and whatever is of it follows its name; nobody has one that was never told.
func TestACropOfOnesOwn(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	today := calendar.Of(f.Clock.Now())
	own := crops.OwnSetup{ID: uuid.New(), Name: "Oak  leaf", Like: "lettuce"}
	put := func(n crops.OwnSetup, tag string) (crops.OwnSetup, error) {
		_, err := crops.OwnKind.Put(ctx, f.Store, f.ines, n, tag)
		return n, err
	}
	for _, bad := range []crops.OwnSetup{
		{ID: uuid.New(), Name: "Lettuce", Like: "basil"}, {ID: uuid.New(), Name: "Oak/leaf", Like: "lettuce"}, {ID: uuid.New(), Name: " ", Like: "lettuce"},
	} {
		_, err := put(bad, "")
		refusedAt(t, "name", err)
	}
	_, err := put(crops.OwnSetup{ID: uuid.New(), Name: "Moss", Like: "lettuce~Oak leaf"}, "")
	refusedAt(t, "nearest", err)
	_, err = put(own, "")
	require.NoError(t, err)
	of := crop.Like("lettuce", "Oak leaf")

	lot := seeds.LotSetup{ID: uuid.New(), Crop: of, Variety: "Rust", Name: "O-1", Packed: 2026}
	for _, bad := range []string{"lettuce~Elm leaf", "moss~Oak leaf", "lettuce~"} {
		other := lot
		other.Crop = bad
		_, err := seeds.LotKind.Put(ctx, f.Store, f.ines, other, "")
		refusedAt(t, "crop", err)
		refusedAt(t, "crop", season.Plan(ctx, f.Store, f.ines, season.Planned{ID: uuid.New(), Crop: bad, Wanted: 1, SowOn: today, ReadyBy: today + 9}))
		_, err = sowing.Adopt(ctx, f.Store, f.ines, sowing.AdoptRequest{ID: uuid.New(), Crop: bad, Variety: "x", Since: today, Plants: 1, Place: f.bench})
		refusedAt(t, "crop", err)
		require.ErrorIs(t, crops.Set(ctx, f.Store, f.ines, bad, map[string]string{"ph": "6-7"}), store.ErrNotFound)
	}
	_, err = seeds.LotKind.Put(ctx, f.Store, f.ines, lot, "")
	require.NoError(t, err)
	require.NoError(t, season.Plan(ctx, f.Store, f.ines, season.Planned{ID: uuid.New(), Crop: of, Wanted: 2, SowOn: today + 3, ReadyBy: today + 60}))
	column := crop.Columns[slices.IndexFunc(crop.Columns, func(k crop.Column) bool { return k.Name == "ready_leaves" })]
	require.NoError(t, crops.Set(ctx, f.Store, f.ines, of, map[string]string{column.Name: "7"}))
	sown, err := sowing.Sow(ctx, f.Store, f.ines, sowing.SowRequest{
		ID: uuid.New(), Lot: lot.ID, Wanted: 2, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{{Row: 1, Col: 1}, {Row: 1, Col: 2}},
	})
	require.NoError(t, err)
	require.Regexp(t, "^OAK-", sown.Code)

	told, err := crops.OwnKind.Get(ctx, f.Store, f.ines, own.ID)
	require.NoError(t, err)
	kin := told
	kin.Like = "basil"
	_, err = put(kin, things.Tag(told))
	refusedAt(t, "nearest", err)
	refusedAt(t, "id", crops.OwnKind.Delete(ctx, f.Store, f.ines, own.ID, things.Tag(told)))
	renamed, retired := told, told
	renamed.Name, retired.Name, retired.Retired = "Copper leaf", "Copper leaf", true
	for _, n := range []crops.OwnSetup{renamed, retired} {
		was, err := crops.OwnKind.Get(ctx, f.Store, f.ines, own.ID)
		require.NoError(t, err)
		_, err = put(n, things.Tag(was))
		require.NoError(t, err)
		of = crop.Like("lettuce", "Copper leaf")
		b, err := batches.Get(ctx, f.Store, f.ines, sown.Batch)
		require.NoError(t, err)
		require.Equal(t, of, b.Crop.ID)
		require.Equal(t, "Copper leaf", string(b.Crop.Name))
		require.Equal(t, "7", column.Of(b.Crop), "as the school found it")
		book, err := crops.Get(ctx, f.Store, f.ines)
		require.NoError(t, err)
		require.True(t, book.Has(of))
		require.Equal(t, !n.Retired, slices.ContainsFunc(book.All(), func(c crop.Crop) bool { return c.ID == of }))
		plans, err := season.Plans(ctx, f.Store, f.ines)
		require.NoError(t, err)
		require.Equal(t, of, plans[0].Crop)
	}
	inStep(t, f.DB, f.ines)
	_, err = put(crops.OwnSetup{ID: uuid.New(), Name: "Copper leaf", Like: "basil"}, "")
	refusedAt(t, "name", err) // retired, it has its name still
	spare := crops.OwnSetup{ID: uuid.New(), Name: "Elm leaf", Like: "lettuce"}
	_, err = put(spare, "")
	require.NoError(t, err)
	require.NoError(t, crops.Set(ctx, f.Store, f.ines, crop.Like("lettuce", "Elm leaf"), map[string]string{column.Name: "9"}))
	require.NoError(t, crops.OwnKind.Delete(ctx, f.Store, f.ines, spare.ID, ""))
}
