package house_test

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/tank"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/people"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

var ctx = context.Background()

// inStep rebuilds the present from the facts and compares.
func inStep(t *testing.T, d testdb.DB, w who.Who) {
	t.Helper()
	require.NoError(t, d.Store.Read(ctx, w, func(tx *store.Tx) error {
		wrong, err := ledger.Audit(ctx, tx)
		require.Empty(t, wrong)
		return err
	}))
}

// grams is a harvest corrected.
func grams(g float64) map[string]any { return map[string]any{"grams": &g} }

func read[T any](t *testing.T, d testdb.DB, w who.Who, f func(*store.Tx) (T, error)) (out T) {
	t.Helper()
	require.NoError(t, d.Store.InSchool(ctx, w, func(tx *store.Tx) (err error) {
		out, err = f(tx)
		return err
	}))
	return out
}

func TestTheDemoIsConsistentAndTheSameEveryTime(t *testing.T) {
	t.Parallel()
	say := func(d testdb.DB) []string {
		w := d.Ines(t)
		inStep(t, d, w)
		lines, err := notebook.Read(ctx, d.Store, w, notebook.Filter{Most: 1000})
		require.NoError(t, err)
		require.Greater(t, len(lines), 150)
		var out []string
		for _, l := range lines {
			out = append(out, l.ID.String(), fmt.Sprint(l.About), l.Says.String())
			if l.Kind == solution.Brought.Name {
				out = out[:len(out)-3] // what the import of the logger wrote has an id of its own
			}
		}
		return out
	}
	again := testdb.Empty(t)
	require.NoError(t, demo.Load(ctx, again.Store, again.Clock, again.School(t, "ferrywharf"), demo.Day))
	require.Equal(t, say(testdb.Demo(t)), say(again))
}

// fixture is a small school: a tray sown with one batch, a tower and a frame.
type fixture struct {
	testdb.DB
	ines, crew   who.Who
	tray         uuid.UUID
	tower, frame uuid.UUID
	bench        uuid.UUID
	lot          uuid.UUID
}

func newFixture(t *testing.T) fixture {
	d := testdb.Empty(t)
	school := d.School(t, "small")
	f := fixture{DB: d, ines: d.Person(t, school, who.Coordinator, "ines"), crew: d.Person(t, school, who.Crew, "Dory")}
	f.tray, f.tower, f.frame, f.bench, f.lot = uuid.New(), uuid.New(), uuid.New(), uuid.New(), uuid.New()
	for _, p := range []site.PlaceSetup{
		{ID: f.bench, Name: "Bench", Kind: "bench", TemperatureC: new(20.0)},
		{ID: f.tower, Name: "Tower", Kind: "tower", Tiers: 3, Columns: 4, TemperatureC: new(0.0)},
		{
			ID:   f.frame,
			Name: "Frame", Kind: "frame", TemperatureC: new(0.0),
		},
	} {
		require.NoError(t, site.AddPlace(ctx, d.Store, f.ines, p))
	}
	require.NoError(t, site.AddTray(ctx, d.Store, f.ines, site.TraySetup{ID: f.tray, Name: "T1", Place: f.bench, Rows: 4, Columns: 6, CellML: 40}))
	rate := 0.9
	require.NoError(
		t,
		seeds.AddLot(ctx, d.Store, f.ines, seeds.LotSetup{ID: f.lot, Crop: "lettuce", Variety: "Harbour Frill", Name: "HF", Packed: 2026, Label: &rate}),
	)
	return f
}

func (f fixture) sow(t *testing.T, cells string) uuid.UUID {
	list, err := tray.ParseList(cells, 4, 6)
	require.NoError(t, err)
	s, err := sowing.Sow(ctx, f.Store, f.ines, sowing.SowRequest{ID: uuid.New(), Lot: f.lot, Wanted: 4, SeedsPerCell: 1, Tray: f.tray, Cells: list})
	require.NoError(t, err)
	return s.Batch
}

func (f fixture) mark(t *testing.T, w who.Who, cells string, state, was batch.CellState) error {
	list, err := tray.ParseList(cells, 4, 6)
	require.NoError(t, err)
	r := trays.CountRequest{ID: uuid.New(), Tray: f.tray}
	for _, c := range list {
		r.Marks = append(r.Marks, batch.Mark{Row: c.Row, Col: c.Col, State: state, Cause: "eaten", Was: was})
	}
	return trays.Count(ctx, f.Store, w, r)
}

func (f fixture) move(w who.Who, id, b uuid.UUID, cells, ports string) error {
	from, _ := tray.ParseList(cells, 4, 6)
	to, _ := tray.ParseList(ports, 3, 4)
	r := site.MoveRequest{ID: id, Batch: b, To: f.tower, Ports: to}
	for _, c := range from {
		r.From = append(r.From, batch.Spot{Kind: batch.InCell, In: f.tray.String(), Row: c.Row, Col: c.Col})
	}
	return site.Move(ctx, f.Store, w, r)
}

func TestABatchCarriesItsCodeAndIsStoredOnce(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	r := sowing.SowRequest{ID: uuid.New(), Lot: f.lot, Wanted: 4, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{{Row: 0, Col: 0}}}
	first, err := sowing.Sow(ctx, f.Store, f.ines, r)
	require.NoError(t, err)
	again, err := sowing.Sow(ctx, f.Store, f.ines, r)
	require.NoError(t, err)
	require.Equal(t, first, again)
	require.Equal(t, "LET-01", first.Code)
	_, err = sowing.Sow(ctx, f.Store, f.ines, sowing.SowRequest{ID: uuid.New(), Lot: f.lot, Wanted: 4, SeedsPerCell: 1, Tray: f.tray, Cells: r.Cells})
	require.ErrorContains(t, err, "sown meanwhile", "a cell holds one batch")
	// Crews sow, unless their school switches that off.
	require.NoError(t, people.SetCrewMay(ctx, f.Store, f.ines, nil))
	crew, err := people.Load(ctx, f.Store, who.Who{School: f.crew.School, Person: f.crew.Person})
	require.NoError(t, err)
	_, err = sowing.Sow(ctx, f.Store, crew, r)
	require.ErrorIs(t, err, who.ErrNotAllowed)
	_, err = sowing.Sow(ctx, f.Store, f.crew, r)
	require.NoError(t, err)
	b := f.sow(t, "B1-B3")
	require.NoError(t, f.mark(t, f.crew, "B1-B3", batch.Sprouted, batch.Sown))
	id := uuid.New()
	require.NoError(t, f.move(f.crew, id, b, "B1-B2", "A1-A2"))
	require.NoError(t, f.move(f.crew, id, b, "B1-B2", "A1-A2"), "sent twice is stored once")
	require.Len(t, read(t, f.DB, f.ines, func(tx *store.Tx) ([]db.PortsOfPlacesRow, error) { return tx.PortsOfPlaces(ctx, []uuid.UUID{f.tower}) }), 2)
	inStep(t, f.DB, f.ines)
}

func TestSproutsFromTreatedSeedAreRefused(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	list, _ := tray.ParseList("A1-A6", 4, 6)
	sow := func(of string, treated bool) error {
		lot := seeds.LotSetup{ID: uuid.New(), Crop: of, Variety: "Tidewrack", Name: of + " " + uuid.NewString()[:4], Packed: 2026, Treated: treated}
		require.NoError(t, seeds.AddLot(ctx, f.Store, f.ines, lot))
		_, err := sowing.Sow(ctx, f.Store, f.ines, sowing.SowRequest{
			ID: uuid.New(), Lot: lot.ID, Wanted: 4, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{list[0]},
		})
		if err == nil {
			list = list[1:]
		}
		return err
	}
	for _, c := range crop.All() {
		if c.Kind == "sprout" {
			refusedAt(t, "lot", sow(c.ID, true))
		}
	}
	require.NoError(t, sow("alfalfa", false))
	require.NoError(t, sow("lettuce", true), "what grows up is not eaten with its seed")
}

func TestTwoPeopleMarkTheSameCell(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	f.sow(t, "A1-A6")
	require.NoError(t, f.mark(t, f.crew, "A1", batch.Sprouted, batch.Sown))
	require.NoError(t, f.mark(t, f.ines, "A1", batch.Sprouted, batch.Sown), "both saw the same")
	var clash trays.Clashes
	require.ErrorAs(t, f.mark(t, f.ines, "A1-A2", batch.Lost, batch.Sown), &clash)
	require.Len(t, clash, 1)
	require.Equal(t, "A1", clash[0].Cell)
	cells := read(t, f.DB, f.ines, func(tx *store.Tx) ([]db.CellsOfTrayRow, error) { return tx.CellsOfTray(ctx, f.tray) })
	require.Equal(t, "sown", cells[1].State, "nothing of a clashing visit is stored")
}

func TestAPortTakesOnePlantHoweverManyTryAtOnce(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	batches := []uuid.UUID{f.sow(t, "A1-A2"), f.sow(t, "B1-B2"), f.sow(t, "C1-C2")}
	for _, cells := range []string{"A1-A2", "B1-B2", "C1-C2"} {
		require.NoError(t, f.mark(t, f.crew, cells, batch.Sprouted, batch.Sown))
	}
	var wg sync.WaitGroup
	won := make(chan string, 3)
	for i, row := range []string{"A", "B", "C"} {
		wg.Go(func() {
			err := f.move(f.crew, uuid.New(), batches[i], row+"1", "B2")
			var refused field.Errors
			if err == nil {
				won <- row
			} else if !errors.As(err, &refused) {
				t.Errorf("not a refusal: %v", err)
			}
		})
	}
	wg.Wait()
	require.Len(t, won, 1)
	inStep(t, f.DB, f.ines)
}

func TestCorrectionsRebuildThePresent(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "A1-A4")
	require.NoError(t, f.mark(t, f.crew, "A1-A3", batch.Sprouted, batch.Sown))
	moved := uuid.New()
	require.NoError(t, f.move(f.ines, moved, b, "A1-A2", "C1-C2"))
	cut := uuid.New()
	require.NoError(
		t,
		harvest.Weigh(
			ctx,
			f.Store,
			f.ines,
			harvest.Request{ID: cut, Batch: b, Grams: 90, From: []batch.Spot{{Kind: batch.InPort, In: f.tower.String(), Row: 2}}},
		),
	)
	require.ErrorContains(t, notebook.Undo(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: moved}), "Undo that first")
	require.ErrorIs(t, notebook.Undo(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: moved}), who.ErrNotAllowed, "a crew takes back its own only")
	right := uuid.New()
	require.NoError(t, notebook.Correct(ctx, f.Store, f.ines, ledger.Act{ID: right, On: cut}, grams(60)))
	require.NoError(t, notebook.Correct(ctx, f.Store, f.ines, ledger.Act{ID: right, On: cut}, grams(60)), "sent twice")
	require.ErrorContains(t, notebook.Correct(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: cut}, grams(50)), "corrected already")
	x, err := batches.Get(ctx, f.Store, f.ines, b)
	require.NoError(t, err)
	require.InDelta(t, 60, x.State.Grams, 1e-9)
	require.NoError(t, notebook.Undo(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: right}))
	require.NoError(t, notebook.Undo(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: moved}))
	x, err = batches.Get(ctx, f.Store, f.ines, b)
	require.NoError(t, err)
	require.Equal(t, []int{3, 0, 0}, []int{x.State.InTrays(), len(x.State.Ports), x.State.Moved})
	lines, err := notebook.Read(ctx, f.Store, f.ines, notebook.Filter{About: &b})
	require.NoError(t, err)
	require.Len(t, lines, 7, "the notebook keeps all: sown, counted, moved, cut, corrected, and two taken back")
	inStep(t, f.DB, f.ines)
}

// Random acts of several people on several batches: whatever is accepted, the
// tables and the facts agree, and nothing stands twice.
func TestRandomActsKeepTheBooks(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	r := rand.New(rand.NewPCG(7, 11))
	rows := []string{"A", "B", "C", "D"}
	var begun []uuid.UUID
	for _, row := range rows {
		begun = append(begun, f.sow(t, row+"1-"+row+"6"))
	}
	states := []batch.CellState{batch.Sprouted, batch.Sprouted, batch.Thinned, batch.Lost, batch.Empty, batch.Sown}
	kept := map[string]int{}
	var ids []uuid.UUID
	for range 600 {
		i := r.IntN(4)
		cell := fmt.Sprintf("%s%d", rows[i], 1+r.IntN(6))
		id := uuid.New()
		what := []string{"count", "count", "move", "harden", "lose", "harvest", "undo", "adopt", "wash"}[r.IntN(9)]
		var err error
		var at time.Time // some come late, some from before there was anything
		if r.IntN(4) == 0 {
			at = f.Clock.Now().Add(-time.Duration(r.IntN(3*60)) * time.Minute)
		}
		f.Clock.Set(f.Clock.Now().Add(time.Minute))
		switch what {
		case "adopt":
			_, err = sowing.Adopt(ctx, f.Store, f.ines, sowing.AdoptRequest{
				ID: id, Crop: "basil", Variety: "Lamplighter", Since: f.ines.Day(f.Clock.Now()) - 40, Plants: 1 + r.IntN(2),
				Place: []uuid.UUID{f.frame, f.tower, f.bench, f.bench, f.bench, f.bench, f.bench, f.bench}[r.IntN(8)],
			})
		case "count":
			err = f.mark(t, f.crew, cell, states[r.IntN(6)], "")
		case "move":
			err = f.move(f.crew, id, begun[i], cell, fmt.Sprintf("%c%d", 'A'+r.IntN(3), 1+r.IntN(4)))
		case "harden":
			c, _ := tray.Parse(cell)
			err = site.Move(
				ctx,
				f.Store,
				f.crew,
				site.MoveRequest{
					ID:    id,
					Sure:  true,
					Batch: begun[i],
					At:    at,
					To:    f.frame,
					From:  []batch.Spot{{Kind: batch.InCell, In: f.tray.String(), Row: c.Row, Col: c.Col}},
				},
			)
		case "lose":
			act := ledger.Act{ID: id, On: begun[i], At: at}
			err = batches.Lose(ctx, f.Store, f.crew, act, []batch.Spot{{Kind: batch.InStand, In: f.frame.String(), N: 1}}, "eaten")
		case "wash":
			err = trays.Wash(ctx, f.Store, f.crew, ledger.Act{ID: id, On: f.tray, At: at})
			if err == nil && r.IntN(2) == 0 { // what was freed is sown again, and the wash cannot be undone
				_, _ = sowing.Sow(ctx, f.Store, f.ines, sowing.SowRequest{
					ID: uuid.New(), Lot: f.lot, Wanted: 1, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{{Row: i, Col: r.IntN(6)}},
				})
			}
		case "harvest":
			err = harvest.Weigh(
				ctx,
				f.Store,
				f.crew,
				harvest.Request{
					ID:    id,
					Batch: begun[i],
					Grams: 5,
					At:    at,
					From:  []batch.Spot{{Kind: batch.InPort, In: f.tower.String(), Row: r.IntN(3), Col: r.IntN(4)}},
				},
			)
		case "undo":
			if len(ids) > 0 {
				err = notebook.Undo(ctx, f.Store, f.ines, ledger.Act{ID: id, On: ids[r.IntN(len(ids))]})
			}
		}
		var refused field.Errors
		if err == nil {
			kept[what]++
			if what != "count" && what != "undo" {
				ids = append(ids, id)
			}
		} else {
			require.ErrorAs(t, err, &refused, what)
		}
	}
	for _, what := range []string{"count", "move", "harden", "lose", "harvest", "undo", "adopt", "wash"} {
		require.Positive(t, kept[what], "no %s was ever accepted: the test would prove nothing", what)
	}
	inStep(t, f.DB, f.ines)
}

func TestATankFromReadingToSecondHalf(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	tanks := read(t, d, ines, func(tx *store.Tx) ([]ledger.Tank, error) { return ledger.Tanks(ctx, tx) })
	var north uuid.UUID
	for _, x := range tanks {
		if x.Name == "North tower" {
			north = x.ID
		}
	}
	p, err := solution.Get(ctx, d.Store, ines, north)
	require.NoError(t, err)
	require.True(t, p.Advice.Adult)
	crew := d.Person(t, ines.School, who.Crew, "Wherry")
	plan := solution.TreatRequest{ID: uuid.New(), Tank: north, Done: p.Advice.Plan}
	require.ErrorIs(t, solution.Treat(ctx, d.Store, crew, plan), who.ErrNotAllowed, "no crew doses acid")
	require.NoError(t, solution.Treat(ctx, d.Store, ines, plan))
	require.NoError(t, solution.Treat(ctx, d.Store, ines, plan), "sent twice")
	after, err := solution.Get(ctx, d.Store, ines, north)
	require.NoError(t, err)
	require.Equal(t, "wait", after.Advice.Acts[0].Do)
	require.InDelta(t, *p.Advice.Expect.LevelL, *after.Tank.State.LevelL, 0.01, "the water was counted once")
	wild := plan
	wild.ID, wild.Done.Amount = uuid.New(), 200*plan.Done.Amount
	require.ErrorAs(t, solution.Treat(ctx, d.Store, ines, wild), new(solution.Asked), "far too much acid is asked about")
	odd, level := 58.0, 50.0
	err = solution.LogReading(
		ctx,
		d.Store,
		crew,
		solution.ReadingRequest{ID: uuid.New(), Tank: north, Reading: tank.Reading{PH: &odd, LevelL: &level}, Sure: true},
	)
	require.ErrorContains(t, err, "Did you mean 5.8?")
	require.NotNil(t, after.Advice.NowPH)
	d.Clock.Set(d.Clock.Now().Add(20 * time.Minute))
	ph := after.Advice.NowPH.P50 + 0.1
	reading := uuid.New()
	require.NoError(t, solution.LogReading(ctx, d.Store, crew, solution.ReadingRequest{ID: reading, Tank: north, Reading: tank.Reading{PH: &ph}}))
	second, err := solution.Get(ctx, d.Store, ines, north)
	require.NoError(t, err)
	require.Equal(t, len(after.Tank.State.Water.Events)+1, len(second.Tank.State.Water.Events), "both readings of the dose are learned from")
	require.Equal(t, "dose", second.Advice.Acts[0].Do)
	require.True(t, second.Stand.Judged.Dose.Learned)
	require.NoError(t, notebook.Undo(ctx, d.Store, crew, ledger.Act{ID: uuid.New(), On: reading}))
	back, err := solution.Get(ctx, d.Store, ines, north)
	require.NoError(t, err)
	require.Equal(t, after.Tank.State, back.Tank.State, "taking the reading back restores what was known before it")
	inStep(t, d, ines)
}

// The made-up school stands on any day, weekends and other seasons too.
func TestTheDemoStandsOnAnyDay(t *testing.T) {
	t.Parallel()
	for _, day := range []calendar.Day{demo.Day + 3, demo.Day + 146} {
		d := testdb.Empty(t)
		school := d.School(t, "ferrywharf")
		require.NoError(t, demo.Load(ctx, d.Store, d.Clock, school, day), day.Long())
		inStep(t, d, d.Ines(t))
	}
}
