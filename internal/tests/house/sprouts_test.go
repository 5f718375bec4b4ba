package house_test

import (
	"bytes"
	"image"
	"image/jpeg"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/pictures"
	"ulpa/internal/work/round"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/sprouts"
	"ulpa/internal/work/trays"
)

// A run of sprouts is asked for on the round until it is cut; what was rinsed and undone
// was not rinsed, and who begins one before a weekend is asked first.
func TestARunOfSproutsIsAskedForUntilItIsCut(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	lot := seeds.LotSetup{ID: uuid.New(), Crop: "lentilsprouts", Variety: "Ballast", Name: "BA-1", Packed: 2026, Seeds: new(5000)}
	require.NoError(t, seeds.AddLot(ctx, f.Store, f.ines, lot))
	monday := (f.ines.Day(f.Clock.Now()) + 6).Monday()
	stand := func(day calendar.Day, hour int) { f.Clock.Stand(day.At(hour, 0, f.ines.Zone)) }
	stand(monday+3, 15)
	r := sprouts.SoakRequest{ID: uuid.New(), Lot: lot.ID, Place: f.bench, Vessels: 2, Grams: 90}
	_, err := sprouts.Soak(ctx, f.Store, f.ines, r)
	var asked ledger.Doubted
	require.ErrorAs(t, err, &asked, "Thursday")
	for name, wrong := range map[string]func(*sprouts.SoakRequest){
		"lot":   func(r *sprouts.SoakRequest) { r.Lot = f.lot },
		"grams": func(r *sprouts.SoakRequest) { r.Grams = 0 }, "vessels": func(r *sprouts.SoakRequest) { r.Vessels = 0 },
	} {
		x := r
		x.Sure = true
		wrong(&x)
		_, err := sprouts.Soak(ctx, f.Store, f.ines, x)
		refusedAt(t, name, err)
	}
	r.Sure = true
	run, err := sprouts.Soak(ctx, f.Store, f.ines, r)
	require.NoError(t, err)
	require.Equal(t, 3000, *f.packet(t, lot.ID).SeedsLeft, "90 g at 45 g a thousand")
	kinds := func() (out []string) {
		walk, err := round.Today(ctx, f.Store, f.ines)
		require.NoError(t, err)
		for _, stop := range walk.Stops {
			for _, task := range stop.Tasks {
				if task.Of == run.Batch.String() {
					out = append(out, task.Kind.Name)
				}
			}
		}
		return out
	}
	tend := func() uuid.UUID {
		id := uuid.New()
		require.NoError(t, sprouts.Tend(ctx, f.Store, f.ines, sprouts.TendRequest{ID: id, Batch: run.Batch, Did: []string{batch.Rinsed}}))
		return id
	}
	require.Empty(t, kinds(), "it soaks")
	stand(monday+4, 9)
	require.Equal(t, []string{"attend", "rinse"}, kinds(), "nobody is here tomorrow")
	wrong := tend()
	require.Equal(t, []string{"attend"}, kinds())
	require.NoError(t, notebook.Undo(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: wrong}))
	require.Equal(t, []string{"attend", "rinse"}, kinds())
	tend()
	for day := monday + 5; day < monday+7; day++ {
		stand(day, 10)
		require.Contains(t, kinds(), "rinse")
		tend()
	}
	stand(monday+7, 10)
	require.Contains(t, kinds(), "harvest")
	early := sprouts.TendRequest{ID: uuid.New(), Batch: run.Batch, Did: []string{batch.Rinsed}}
	stand(monday+9, 10)
	require.Equal(t, []string{"discard"}, kinds())
	refusedAt(t, "grams", harvest.Weigh(ctx, f.Store, f.ines, harvest.Request{ID: uuid.New(), Batch: run.Batch, Grams: 150, Sure: true}))
	o, err := harvest.ReadOverview(ctx, f.Store, f.ines)
	require.NoError(t, err)
	require.Len(t, o.Spoiled, 1, "it stands among what is to be thrown away")
	for _, l := range o.Lines {
		require.NotEqual(t, run.Batch, l.ID, "and never among what is ready")
	}
	tend()
	require.Equal(t, []string{"discard"}, kinds(), "water afterwards makes it no better")
	early.At = (monday + 8).At(15, 0, f.ines.Zone)
	require.NoError(t, sprouts.Tend(ctx, f.Store, f.ines, early), "beyond its days no rinse helps, so nothing is asked")
	inStep(t, f.DB, f.ines)
	require.Error(t, sprouts.Tend(ctx, f.Store, f.ines, sprouts.TendRequest{ID: uuid.New(), Batch: f.sow(t, "A1"), Did: []string{batch.Rinsed}}),
		"lettuce is not rinsed")
}

// A picture stands in the notebook and in its batch's story until its entry is undone;
// corrected it is the same picture, and what is none leaves nothing.
func TestAPictureGoesWithItsEntry(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	o, err := batches.ReadOverview(ctx, d.Store, ines)
	require.NoError(t, err)
	about := o.Lines[0].ID
	var file bytes.Buffer
	require.NoError(t, jpeg.Encode(&file, image.NewGray(image.Rect(0, 0, 2000, 500)), nil))
	id := uuid.New()
	shots := func() []batches.StoryShot {
		b, err := batches.Get(ctx, d.Store, ines, about)
		require.NoError(t, err)
		return b.Story.Shots
	}
	before := len(shots())
	var refused field.Errors
	require.ErrorAs(t, pictures.Add(ctx, d.Store, ines, pictures.New{ID: uuid.New(), File: []byte("none"), About: &about}), &refused)
	require.Len(t, shots(), before)
	for range 2 { // sent twice, one picture
		require.NoError(t, pictures.Add(ctx, d.Store, ines, pictures.New{ID: id, File: file.Bytes(), Note: "Long", About: &about}))
	}
	require.Len(t, shots(), before+1)
	right := uuid.New()
	require.NoError(t, notebook.Correct(ctx, d.Store, ines, ledger.Act{ID: right, On: id}, map[string]any{"note": "A long one"}))
	e, p, err := pictures.Get(ctx, d.Store, ines, id)
	require.NoError(t, err)
	require.Equal(t, []any{right, "A long one", 1280, 320}, []any{e.ID, p.Note, p.Width, p.Height})
	require.Len(t, shots(), before+1)
	small, err := pictures.Read(ctx, d.Store, ines, id, true)
	require.NoError(t, err)
	require.Less(t, len(small), 20_000)
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: right}))
	require.Len(t, shots(), before)
	_, err = pictures.Read(ctx, d.Store, ines, id, false)
	require.ErrorIs(t, err, store.ErrNotFound)
	_, _, err = pictures.Get(ctx, d.Store, ines, id)
	require.ErrorIs(t, err, store.ErrNotFound)
}

// Cuttings wait until they have rooted: they are felt for, counted as rooted, and add up; who
// shared a sowing each has their own cells, and no name is longer than a crew's.
func TestCuttingsWaitAndSowingsAreShared(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	cells, err := tray.ParseList("A1-A6", 4, 6)
	require.NoError(t, err)
	out, err := sowing.Adopt(ctx, f.Store, f.ines, sowing.AdoptRequest{
		ID: uuid.New(), Crop: "mint", Variety: "Bosun", Since: f.ines.Day(f.Clock.Now()), Tray: f.tray, Cells: cells, Start: batch.Struck,
	})
	require.NoError(t, err)
	asks := func() (n int) {
		walk, err := round.Today(ctx, f.Store, f.ines)
		require.NoError(t, err)
		for _, stop := range walk.Stops {
			for _, task := range stop.Tasks {
				if task.Of == out.Batch.String() {
					require.Equal(t, "count", task.Kind.Name)
					n++
				}
			}
		}
		return n
	}
	require.Zero(t, asks())
	f.Clock.Stand(f.Clock.Now().AddDate(0, 0, 11))
	require.Equal(t, 1, asks())
	require.NoError(t, trays.Count(ctx, f.Store, f.ines, trays.CountRequest{ID: uuid.New(), Tray: f.tray, Marks: []batch.Mark{
		{Col: 0, State: batch.Sprouted}, {Col: 1, State: batch.Sprouted}, {Col: 2, State: batch.Lost, Cause: "root-rot"},
	}}))
	require.Zero(t, asks())
	b, err := batches.Get(ctx, f.Store, f.ines, out.Batch)
	require.NoError(t, err)
	require.Equal(t, []int{6, 2, 3, 1}, []int{b.State.Sown, b.State.Sprouted, b.State.Rooting(), b.State.Losses()})
	require.False(t, b.Curve.Known, "no germination is reckoned for cuttings")
	lines, err := notebook.Read(ctx, f.Store, f.ines, notebook.Filter{About: &out.Batch})
	require.NoError(t, err)
	require.Contains(t, lines[0].Says.String(), "2 rooted")

	rest, err := tray.ParseList("B1-D6", 4, 6)
	require.NoError(t, err)
	r := sowing.SowRequest{ID: uuid.New(), Lot: f.lot, Wanted: 9, SeedsPerCell: 1, Tray: f.tray, Cells: rest, Hands: []string{"Punt", " M. B. "}}
	sown, err := sowing.Sow(ctx, f.Store, f.ines, r)
	require.NoError(t, err)
	b, err = batches.Get(ctx, f.Store, f.ines, sown.Batch)
	require.NoError(t, err)
	require.Len(t, b.Hands, 2)
	require.Equal(t, []string{"Punt", "M. B."}, []string{b.Hands[0].Name, b.Hands[1].Name})
	require.Equal(t, len(rest), len(b.Hands[0].Cells)+len(b.Hands[1].Cells))
	r.ID, r.Hands = uuid.New(), []string{"a name that is longer than any crew's"}
	_, err = sowing.Sow(ctx, f.Store, f.ines, r)
	refusedAt(t, "hands", err)
	inStep(t, f.DB, f.ines)
}

// A tray that is covered, heated and turned asks to be left alone in time, what was done by
// mistake is undone, and a weight says how much water is lacking.
func TestATrayIsCaredFor(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	f.sow(t, "A1-A4")
	care := func(d tray.Done) (id uuid.UUID, ml float64) {
		id = uuid.New()
		ml, err := trays.Care(ctx, f.Store, f.ines, ledger.Act{ID: id, On: f.tray}, d)
		require.NoError(t, err)
		return id, ml
	}
	asks := func() (out []string) {
		walk, err := round.Today(ctx, f.Store, f.ines)
		require.NoError(t, err)
		for _, stop := range walk.Stops {
			for _, task := range stop.Tasks {
				if task.Kind.Name == "care" {
					out = append(out, task.What().String())
				}
			}
		}
		return out
	}
	on, _ := care(tray.Done{Did: []string{tray.Covered, tray.Heated}})
	require.Empty(t, asks())
	require.NoError(t, trays.Count(ctx, f.Store, f.ines, trays.CountRequest{ID: uuid.New(), Tray: f.tray, Marks: []batch.Mark{
		{Col: 0, State: batch.Sprouted}, {Col: 1, State: batch.Sprouted},
	}}))
	require.Len(t, asks(), 2, "the cover, and the heat")
	require.NoError(t, notebook.Undo(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: on}))
	require.Empty(t, asks())
	dry, wet, now := 900.0, 1500.0, 1020.0
	_, ml := care(tray.Done{DryG: &dry, WetG: &wet})
	require.Zero(t, ml)
	_, ml = care(tray.Done{NowG: &now})
	require.InDelta(t, 480, ml, 1e-9)
	require.Len(t, asks(), 1, "water")
	care(tray.Done{Did: []string{tray.Watered}})
	require.Empty(t, asks())
	_, err := trays.Care(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: f.tray}, tray.Done{})
	refusedAt(t, "did", err)
}
