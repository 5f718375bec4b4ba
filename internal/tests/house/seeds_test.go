package house_test

import (
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/batch"
	"ulpa/core/table"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/round"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/sowing"
)

func (f fixture) packet(t *testing.T, id uuid.UUID) seeds.One {
	o, err := seeds.Get(ctx, f.Store, f.ines, id)
	require.NoError(t, err)
	return o
}

func (f fixture) begin(t *testing.T, n int) uuid.UUID {
	id := uuid.New()
	r := seeds.NewTest{ID: id, Lot: f.lot, Place: &f.bench, Begun: seeds.Begun{Seeds: n, On: "paper", Light: "light"}}
	for range 2 { // sent twice, begun once
		require.NoError(t, seeds.BeginTest(ctx, f.Store, f.ines, r))
	}
	return id
}

// A test asks for its counts on the round, and when it has ended every sowing of the packet
// uses it; a count that is corrected, or undone, counts as it then stands.
func TestASeedTestIsReckonedWith(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	cells := func() int {
		a, err := sowing.HowMuch(ctx, f.Store, f.ines, sowing.SowQuestion{Lot: f.lot, Wanted: 20, CellsPerTray: 24})
		require.NoError(t, err)
		return a.Rate.Options[0].Cells
	}
	before := cells()
	test := f.begin(t, 40)
	asked := func() bool {
		walk, err := round.Today(ctx, f.Store, f.ines)
		require.NoError(t, err)
		for _, s := range walk.Stops {
			for _, x := range s.Tasks {
				if x.Kind.Name == "test" {
					require.Equal(t, f.bench.String(), s.Place)
					require.Equal(t, f.lot.String(), x.Of)
					return true
				}
			}
		}
		return false
	}
	require.False(t, asked(), "nothing is to be seen on the first day")
	f.Clock.Stand(f.Clock.Now().Add(5 * 24 * time.Hour))
	require.True(t, asked())
	saw := func(id uuid.UUID, came, bad int, over bool) error {
		return seeds.CountTest(ctx, f.Store, f.ines, seeds.SawTest{ID: id, Lot: f.lot, Test: test, Came: came, Bad: bad, Over: over})
	}
	refusedAt(t, "came", saw(uuid.New(), 41, 0, false))
	refusedAt(t, "bad", saw(uuid.New(), 39, 2, false))
	require.NoError(t, saw(uuid.New(), 6, 0, false))
	require.False(t, asked())
	require.Equal(t, before, cells(), "a test that runs tells nothing yet")
	last := uuid.New()
	require.NoError(t, saw(last, 10, 3, true))
	refusedAt(t, "test", saw(uuid.New(), 11, 3, false))
	poor := cells()
	require.Greater(t, poor, before*2, "a quarter comes")
	right := uuid.New()
	require.NoError(t, notebook.Correct(ctx, f.Store, f.ines, ledger.Act{ID: right, On: last}, map[string]any{"came": 36, "bad": 3}))
	require.Less(t, cells(), poor/2)
	require.Equal(t, 36, f.packet(t, f.lot).Tests[0].Came)
	refusedAt(t, "came", notebook.Correct(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: right}, map[string]any{"came": 99}))
}

// Seedlings of a test become a batch of its packet, no more than have come, as old as the test.
func TestATestBecomesABatch(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	test := f.begin(t, 20)
	begun := f.Clock.Now()
	f.Clock.Stand(f.Clock.Now().Add(6 * 24 * time.Hour))
	require.NoError(t, seeds.CountTest(ctx, f.Store, f.ines, seeds.SawTest{ID: uuid.New(), Lot: f.lot, Test: test, Came: 12}))
	r := sowing.AdoptRequest{ID: uuid.New(), Since: f.ines.Day(f.Clock.Now()), Plants: 13, Place: f.bench, Lot: f.lot, Test: test}
	_, err := sowing.Adopt(ctx, f.Store, f.ines, r)
	refusedAt(t, "plants", err)
	r.Plants = 9
	out, err := sowing.Adopt(ctx, f.Store, f.ines, r)
	require.NoError(t, err)
	b, err := batches.Get(ctx, f.Store, f.ines, out.Batch)
	require.NoError(t, err)
	require.Equal(t, []any{"lettuce", "Harbour Frill", 9, batch.FromTest}, []any{b.Crop.ID, b.Variety, b.State.Standing(), b.State.Start})
	require.WithinDuration(t, begun, b.SownAt, time.Second)
	o := f.packet(t, f.lot)
	require.True(t, o.Tests[0].Over)
	require.Equal(t, out.Batch, *o.Tests[0].Batch)
	require.InDelta(t, 20, o.Own.Rests, 0.1, "those that were pricked out are not tried a second time")
	require.Less(t, o.Own.Mean(), 0.85)
	r.ID = uuid.New()
	_, err = sowing.Adopt(ctx, f.Store, f.ines, r)
	refusedAt(t, "test", err)
}

// A delivery comes with what was wrong with it; its dead are losses with a name from the start.
func TestADeliveryIsABatch(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	r := sowing.AdoptRequest{
		ID: uuid.New(), Crop: "lettuce", Variety: "Bought", Since: f.ines.Day(f.Clock.Now()), Plants: 45, Place: f.bench, Start: batch.Delivered,
		Signs: []batch.Sign{"yellow", "dry"}, Dead: 3,
	}
	out, err := sowing.Adopt(ctx, f.Store, f.ines, r)
	require.NoError(t, err)
	b, err := batches.Get(ctx, f.Store, f.ines, out.Batch)
	require.NoError(t, err)
	require.Equal(t, []int{48, 45, 45, 3}, []int{b.State.Sown, b.State.Sprouted, b.State.Standing(), b.State.Lost[batch.DeadOnArrival]})
	require.NoError(t, b.State.Balance())
	for field, bad := range map[string]sowing.AdoptRequest{"signs": {Signs: []batch.Sign{"blue"}}, "start": {Start: "fell"}, "dead": {Dead: -1}} {
		x := r
		x.ID, x.Signs, x.Start, x.Dead = uuid.New(), bad.Signs, bad.Start, bad.Dead
		_, err := sowing.Adopt(ctx, f.Store, f.ines, x)
		refusedAt(t, field, err)
	}
}

// However packets are poured together, recounted and thrown away, no seed appears from
// nowhere, and what left the shelf says where it went.
func TestSeedsOnTheShelfAddUp(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	crew := f.ines
	crew.Kind = who.Crew
	rapid.Check(t, func(rt *rapid.T) {
		var lots []uuid.UUID
		sum := 0
		for range rapid.IntRange(2, 4).Draw(rt, "packets") {
			n := rapid.IntRange(0, 90).Draw(rt, "seeds")
			packed := rapid.IntRange(2020, 2026).Draw(rt, "packed")
			l := seeds.LotSetup{ID: uuid.New(), Crop: "basil", Variety: "Lamplighter", Name: uuid.NewString()[:8], Packed: packed, Seeds: &n}
			require.NoError(rt, seeds.AddLot(ctx, f.Store, f.ines, l))
			lots, sum = append(lots, l.ID), sum+n
		}
		for range rapid.IntRange(1, 5).Draw(rt, "acts") {
			a, b := rapid.SampledFrom(lots).Draw(rt, "a"), rapid.SampledFrom(lots).Draw(rt, "b")
			oa, ob := f.packet(t, a), f.packet(t, b)
			switch rapid.SampledFrom([]string{"merge", "recount", "finish"}).Draw(rt, "act") {
			case "merge":
				err := seeds.Merge(ctx, f.Store, f.ines, seeds.Pouring{From: a, Into: b})
				if a == b || oa.Setup.Retired || ob.Setup.Retired {
					require.Error(rt, err)
					continue
				}
				require.NoError(rt, err)
				now := f.packet(t, b)
				require.Equal(rt, *oa.SeedsLeft+*ob.SeedsLeft, *now.SeedsLeft)
				require.Equal(rt, min(oa.Packed, ob.Packed), now.Packed, "as old as the older")
				require.Equal(rt, now.Name, f.packet(t, a).Setup.Gone)
			case "recount":
				n := rapid.IntRange(0, 90).Draw(rt, "n")
				err := seeds.Recount(ctx, f.Store, f.ines, a, &n, nil)
				if oa.Setup.Retired {
					require.Error(rt, err)
					continue
				}
				require.NoError(rt, err)
				sum += n - *oa.SeedsLeft
			case "finish":
				require.ErrorIs(rt, seeds.Finish(ctx, f.Store, crew, a, "too-old"), who.ErrNotAllowed)
				err := seeds.Finish(ctx, f.Store, f.ines, a, "too-old")
				if oa.Setup.Retired {
					require.Error(rt, err)
					require.Equal(rt, oa.Setup.Gone, f.packet(t, a).Setup.Gone, "where it went is not forgotten")
					continue
				}
				require.NoError(rt, err)
				sum -= *oa.SeedsLeft
			}
			left := 0
			for _, id := range lots {
				left += *f.packet(t, id).SeedsLeft
			}
			require.Equal(rt, sum, left)
		}
	})
}

// What was written as a file is read again as the same packets; a file with one line that
// cannot be read adds none.
func TestPacketsComeFromAFileAllOrNone(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	shelf, err := seeds.OnShelf(ctx, f.Store, f.ines)
	require.NoError(t, err)
	var out strings.Builder
	require.NoError(t, shelf.WriteCSV(&out, f.ines))
	read := func(text string) (table.Table, seeds.Chosen) {
		x, err := table.Read(text)
		require.NoError(t, err)
		return x, seeds.Guess(x)
	}
	x, chosen := read(out.String())
	lines, err := seeds.Look(ctx, f.Store, f.ines, x, chosen)
	require.NoError(t, err)
	require.Len(t, lines, len(shelf.Lots))
	for _, l := range lines {
		require.True(t, l.Known, "%+v", l)
	}
	const good = "Sort;Crop;Year;Grams\nEbb;lettuce;2025;2,5\nMizzle;Basil;2026;\n"
	for _, bad := range []string{"Flow;moss;2025;1\n", "Flow;lettuce;soon;1\n", "Flow;lettuce;;1\n", ";lettuce;2024;1\n", "Flow;lettuce;1066;1\n"} {
		x, chosen = read(good + bad)
		_, err := seeds.Take(ctx, f.Store, f.ines, uuid.New(), x, chosen)
		refusedAt(t, "text", err)
	}
	x, chosen = read(good)
	id := uuid.New()
	added, err := seeds.Take(ctx, f.Store, f.ines, id, x, chosen)
	require.NoError(t, err)
	require.Equal(t, 2, added)
	added, err = seeds.Take(ctx, f.Store, f.ines, id, x, chosen)
	require.NoError(t, err)
	require.Zero(t, added, "sent twice")
	after, err := seeds.OnShelf(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.Len(t, after.Lots, len(shelf.Lots)+2)
	for _, l := range after.Lots {
		if l.Variety == "Ebb" {
			require.InDelta(t, 2.5/l.Crop.SeedG*1000, float64(*l.SeedsLeft), 1, "grams become seeds")
		}
	}
}
