package house_test

import (
	"fmt"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/chemistry"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/ready"
	core "ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/tank"
	"ulpa/core/tray"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/people"
	"ulpa/internal/work/round"
	"ulpa/internal/work/season"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

func TestHowMuchTrustsATestBeforeALabel(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	label, tested, came, held := 0.95, 20, 8, 40
	old := uuid.New()
	require.NoError(
		t,
		seeds.AddLot(
			ctx,
			f.Store,
			f.ines,
			seeds.LotSetup{
				ID:      old,
				Crop:    "lettuce",
				Variety: "harbour frill",
				Name:    "old",
				Packed:  2022,
				Label:   &label,
				Tested:  &tested,
				Came:    &came,
				Seeds:   &held,
			},
		),
	)
	ask := func(lot uuid.UUID) sowing.SowAnswer {
		a, err := sowing.HowMuch(ctx, f.Store, f.ines, sowing.SowQuestion{Lot: lot, Wanted: 20, CellsPerTray: 24})
		require.NoError(t, err)
		return a
	}
	fresh, aged := ask(f.lot), ask(old)
	require.Greater(t, aged.Rate.Options[0].Cells, fresh.Rate.Options[0].Cells)
	require.Equal(t, 5, aged.AgeYears)
	require.Equal(t, "Harbour Frill", aged.Lot.Variety, "a variety is the same however it is written")
	require.False(t, aged.Rate.Options[0].EnoughSeed)
	_, err := sowing.HowMuch(ctx, f.Store, f.ines, sowing.SowQuestion{Lot: uuid.New(), Wanted: 20, CellsPerTray: 24})
	require.ErrorContains(t, err, "choose a seed lot")
	_, err = sowing.HowMuch(ctx, f.Store, f.ines, sowing.SowQuestion{Lot: f.lot, Wanted: 0, CellsPerTray: 24})
	require.ErrorContains(t, err, "plants_wanted")
}

func TestSowingUsesUpSeed(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	held := 10
	lot := uuid.New()
	require.NoError(
		t,
		seeds.AddLot(ctx, f.Store, f.ines, seeds.LotSetup{ID: lot, Crop: "basil", Variety: "Lamplighter", Name: "LL", Packed: 2026, Seeds: &held}),
	)
	for i, left := range []int{4, 0} {
		_, err := sowing.Sow(
			ctx,
			f.Store,
			f.ines,
			sowing.SowRequest{ID: uuid.New(), Lot: lot, Wanted: 2, SeedsPerCell: 3, Tray: f.tray, Cells: []tray.Cell{{Row: i}, {Row: i, Col: 1}}},
		)
		require.NoError(t, err)
		shelf, err := sowing.GetShelf(ctx, f.Store, f.ines)
		require.NoError(t, err)
		require.Equal(t, left, *shelf.Packets[0].SeedsLeft)
	}
	_, err := sowing.Sow(
		ctx,
		f.Store,
		f.ines,
		sowing.SowRequest{ID: uuid.New(), Lot: lot, Wanted: 2, SeedsPerCell: 1, Tray: f.tray, Cells: []tray.Cell{{Row: 9}}},
	)
	require.ErrorContains(t, err, "J1 is outside this tray")
}

// What came up since a count nobody knows: a weekend does not put a tray behind.
func TestACountIsJudgedByItsOwnDay(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b, sown := f.sow(t, "A1-D6"), f.Clock.Now()
	curve := func(days float64) batches.Curve {
		f.Clock.Set(sown.Add(time.Duration(days * 24 * float64(time.Hour))))
		x, err := batches.Get(ctx, f.Store, f.ines, b)
		require.NoError(t, err)
		return x.Curve
	}
	c := curve(9)
	require.Equal(t, []bool{true, false}, []bool{c.Known, c.Counted()}, "nobody looked")
	require.Greater(t, c.By.Low, 12)
	curve(3)
	require.NoError(t, f.mark(t, f.crew, "A1-B5", batch.Sprouted, batch.Sown))
	c = curve(3)
	require.Equal(t, []int{10, 3}, []int{c.Sprouted, c.JudgedDay})
	require.NotEqual(t, seed.Behind, c.By.Verdict)
	require.Equal(t, c.By, curve(9).By, "what came up since nobody knows")
	require.NoError(t, f.mark(t, f.crew, "B6", batch.Sprouted, batch.Sown))
	require.Equal(t, seed.Behind, curve(9).By.Verdict, "eleven on day 9")
}

func TestTheSchoolsOwnRuleGoesFirst(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "A1-A4")
	require.NoError(t, f.mark(t, f.crew, "A1-A4", batch.Sprouted, batch.Sown))
	require.NoError(t, batches.Look(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: b}, batches.Looks{Leaves: 2, HeightCM: 5}))
	get := func() batches.Batch {
		x, err := batches.Get(ctx, f.Store, f.ines, b)
		require.NoError(t, err)
		return x
	}
	require.Equal(t, ready.Early, get().Verdict.Word)
	own := map[string]string{"ready_leaves": "2", "nursery_hold": "3", "ready_age": "0"}
	require.ErrorIs(t, crops.Set(ctx, f.Store, f.crew, "lettuce", own), who.ErrNotAllowed)
	require.ErrorContains(t, crops.Set(ctx, f.Store, f.ines, "lettuce", map[string]string{"ready_leaves": "0", "ready_age": "0"}), "one is enough")
	require.NoError(t, crops.Set(ctx, f.Store, f.ines, "lettuce", own))
	x := get()
	require.True(t, x.Crop.Own["ready_leaves"])
	require.False(t, x.Crop.Own["ready_every"])
	require.Equal(t, ready.Ready, x.Verdict.Word)
	require.Equal(t, 3, x.Verdict.DaysLeft(x.Today))
	usual, _ := crop.Find("lettuce")
	require.NoError(t, crops.Set(ctx, f.Store, f.ines, "lettuce", map[string]string{"ready_leaves": strconv.Itoa(usual.Ready.Leaves)}))
	require.False(t, get().Crop.Own["ready_leaves"], "the catalogue's own value is no override")
}

func TestACountWithNoChangeIsStillACount(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	a, b := f.sow(t, "A1-A4"), f.sow(t, "B1-B4")
	visit := uuid.New()
	for range 2 { // sent twice
		require.NoError(t, trays.Count(ctx, f.Store, f.crew, trays.CountRequest{ID: visit, Tray: f.tray}))
	}
	var ids []uuid.UUID
	for _, id := range []uuid.UUID{a, b} {
		lines, err := notebook.Read(ctx, f.Store, f.ines, notebook.Filter{About: &id})
		require.NoError(t, err)
		require.Len(t, lines, 2)
		require.Equal(t, "Counted: no change", lines[0].Says.String())
		ids = append(ids, lines[0].ID)
	}
	require.Contains(t, ids, visit, "a visit is known by its own id")
	require.ErrorContains(t, f.mark(t, f.crew, "D1", batch.Sprouted, ""), "D1 no longer holds anything")
}

// The answer to a count gets lost, and before it is sent again the plants have
// moved out and others were sown there: it is kept once, for the first.
func TestACountSentAgainAfterTheTrayChanged(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "A1-A2")
	r := trays.CountRequest{ID: uuid.New(), Tray: f.tray, Marks: []batch.Mark{{State: batch.Sprouted, Was: batch.Sown}}}
	require.NoError(t, trays.Count(ctx, f.Store, f.crew, r))
	require.NoError(t, f.move(f.crew, uuid.New(), b, "A1", "C1"))
	require.NoError(t, trays.Count(ctx, f.Store, f.crew, r), "the cell is empty now")
	next := f.sow(t, "A1")
	require.NoError(t, trays.Count(ctx, f.Store, f.crew, r))
	x, err := batches.Get(ctx, f.Store, f.ines, next)
	require.NoError(t, err)
	require.Zero(t, x.State.Sprouted, "those sown since were not counted")
	inStep(t, f.DB, f.ines)
}

func TestSplittingABatch(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "A1-A6")
	require.NoError(t, f.mark(t, f.crew, "A1-A6", batch.Sprouted, batch.Sown))
	cell := func(col int) batch.Spot {
		return batch.Spot{Kind: batch.InCell, In: f.tray.String(), Col: col}
	}
	move := site.MoveRequest{
		ID:    uuid.New(),
		Batch: b,
		To:    f.tower,
		From:  []batch.Spot{cell(0), cell(1)},
		Ports: []tray.Cell{{Row: 2}, {Row: 2, Col: 1}},
		Lost:  []batch.Spot{cell(2)},
	}
	require.ErrorContains(t, site.Move(ctx, f.Store, f.crew, move), "enter what happened")
	move.Cause = "broken"
	require.NoError(t, site.Move(ctx, f.Store, f.crew, move))
	for says, r := range map[string]site.MoveRequest{
		"C1 already holds a plant of LET-01": {From: []batch.Spot{cell(3)}, To: f.tower, Ports: []tray.Cell{{Row: 2}}},
		"is no port of this place":           {From: []batch.Spot{cell(3)}, To: f.tower, Ports: []tray.Cell{{Row: 7}}},
		"choose where the plants go":         {From: []batch.Spot{cell(3)}, To: f.tower},
		"A1 holds no plant":                  {From: []batch.Spot{cell(0)}, To: f.frame},
		"must be 5 to 21 working days":       {From: []batch.Spot{cell(3)}, To: f.frame, RampDays: 2},
		"choose a place":                     {From: []batch.Spot{cell(3)}, To: uuid.New()},
	} {
		r.ID, r.Batch = uuid.New(), b
		require.ErrorContains(t, site.Move(ctx, f.Store, f.crew, r), says)
	}
	require.NoError(t, site.Move(ctx, f.Store, f.crew, site.MoveRequest{ID: uuid.New(), Batch: b, To: f.frame, From: []batch.Spot{cell(3), cell(4)}}))
	x, err := batches.Get(ctx, f.Store, f.ines, b)
	require.NoError(t, err)
	require.Equal(t, []int{1, 2, 2, 1, 4}, []int{x.State.InTrays(), len(x.Ports), x.State.InStands(), x.State.Losses(), x.State.Moved})
	ramp, err := season.Ramp(ctx, f.Store, f.ines, b)
	require.NoError(t, err)
	require.Equal(t, f.ines.Day(f.Store.Now()), ramp[0].Day)
	places, err := site.All(ctx, f.Store, f.ines)
	require.NoError(t, err)
	standing := map[string]int{}
	for _, p := range places {
		for _, s := range p.Standing {
			standing[p.Name] += s.Plants
		}
	}
	require.Equal(t, map[string]int{"Bench": 1, "Tower": 2, "Frame": 2}, standing)
	inStep(t, f.DB, f.ines)
}

func TestClosingFreesTheTray(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "A1-A3")
	require.NoError(t, f.mark(t, f.crew, "A1", batch.Sprouted, batch.Sown))
	require.ErrorContains(t, batches.Close(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: b}), "1 plant is still growing")
	require.NoError(t, batches.Lose(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: b}, []batch.Spot{{Kind: batch.InCell, In: f.tray.String()}}, "eaten"))
	require.NoError(t, batches.Close(ctx, f.Store, f.ines, ledger.Act{ID: uuid.New(), On: b}))
	require.ErrorContains(t, harvest.Weigh(ctx, f.Store, f.ines, harvest.Request{ID: uuid.New(), Batch: b, Grams: 5}), "is closed")
	f.sow(t, "A1-A3")
	x, err := batches.Get(ctx, f.Store, f.ines, b)
	require.NoError(t, err)
	require.Equal(t, 2, x.State.Empties(), "the closed batch still knows what stayed empty")
	inStep(t, f.DB, f.ines)
}

func TestTheRoundRemembersWhatWasDecided(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	f.sow(t, "A1-A6")
	f.Clock.Stand(f.Store.Now().AddDate(0, 0, 4))
	due := func() (keys []string, done int) {
		walk, err := round.Today(ctx, f.Store, f.crew)
		require.NoError(t, err)
		for _, s := range walk.Stops {
			for _, x := range s.Tasks {
				if x.Kind != core.WaterTrays { // which is there every day
					keys = append(keys, x.Key.String())
				}
			}
			done += len(walk.Done[s.Place])
		}
		return keys, done
	}
	keys, done := due()
	require.Len(t, keys, 1)
	require.Zero(t, done)
	tick := round.TickRequest{ID: uuid.New(), Task: keys[0], Skip: true}
	said, err := round.Tick(ctx, f.Store, f.crew, tick)
	require.NoError(t, err)
	require.Equal(t, f.bench, said.Place)
	_, err = round.Tick(ctx, f.Store, f.crew, tick)
	require.NoError(t, err, "sent again")
	keys, done = due()
	require.Empty(t, keys)
	require.Equal(t, 1, done)
	require.NoError(t, notebook.Undo(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: tick.ID}))
	keys, _ = due()
	require.Len(t, keys, 1, "taken back, it is due again")
	for _, other := range []string{"", "x", "Done: Added 500 mL of nitric acid", strings.Replace(keys[0], "2027", "2026", 1)} {
		_, err := round.Tick(ctx, f.Store, f.crew, round.TickRequest{ID: uuid.New(), Task: other, Unwritten: true})
		require.ErrorContains(t, err, "load the round again")
	}
}

func TestNothingHappensInTheFuture(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "A1")
	err := batches.Look(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: b, At: f.Store.Now().AddDate(0, 0, 2)}, batches.Looks{Leaves: 2, HeightCM: 0})
	require.ErrorContains(t, err, "must not be in the future")
	f.Clock.Stand(f.Store.Now().AddDate(0, 0, 3))
	require.NoError(
		t,
		batches.Look(ctx, f.Store, f.crew, ledger.Act{ID: uuid.New(), On: b, At: f.Store.Now().AddDate(0, 0, -2)}, batches.Looks{Leaves: 2, HeightCM: 0}),
		"what was seen the day before yesterday may be written down today",
	)
}

func TestSettingUpIsTheCoordinators(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	staff := f.Person(t, f.ines.School, who.Staff, "tam")
	place := site.PlaceSetup{ID: uuid.New(), Name: "Mast", Kind: "tower", Tiers: 4, Columns: 4, TemperatureC: new(18.0)}
	vat := site.TankSetup{ID: uuid.New(), Place: f.tower, Name: "Vat", Spec: tank.Spec{
		CapacityL: 10, FillToL: 9, PHLow: 5.5, PHTarget: 5.8, PHHigh: 6.2, ECLow: 1, ECTarget: 1.2, ECHigh: 1.5, StockRise: 0.2,
		Acid: chemistry.Product{
			Agent:           chemistry.CitricAcid,
			StrengthPercent: 91,
		}, Base: chemistry.Product{Agent: chemistry.PotassiumCarbonate, StrengthPercent: 99},
	}}
	for _, w := range []who.Who{f.crew, staff} {
		require.ErrorIs(t, site.AddPlace(ctx, f.Store, w, place), who.ErrNotAllowed)
		require.ErrorIs(t, site.AddTank(ctx, f.Store, w, vat), who.ErrNotAllowed)
		require.ErrorIs(t, people.SetSchoolUnits(ctx, f.Store, w, unit.Prefs{US: true}), who.ErrNotAllowed)
		require.ErrorIs(t, season.Close(ctx, f.Store, w, calendar.Closure{Name: "x"}), who.ErrNotAllowed)
	}
	require.NoError(t, site.AddPlace(ctx, f.Store, f.ines, place))
	require.NoError(t, site.AddTank(ctx, f.Store, f.ines, vat))
	require.NoError(t, site.AddTank(ctx, f.Store, f.ines, vat), "sent twice it is there once")
	twin := vat
	twin.ID = uuid.New()
	require.ErrorContains(t, site.AddTank(ctx, f.Store, f.ines, twin), "is there already")
	require.NoError(t, people.SetSchoolUnits(ctx, f.Store, f.ines, unit.Prefs{US: true, PPM: 500}))
	again, err := people.Load(ctx, f.Store, who.Who{School: f.crew.School, Person: f.crew.Person})
	require.NoError(t, err)
	require.Equal(t, unit.Prefs{US: true, PPM: 500}, again.Prefs.Prefs, "who has not chosen follows the school")
	require.NoError(t, people.SetUnits(ctx, f.Store, f.crew, unit.Prefs{}))
	again, err = people.Load(ctx, f.Store, who.Who{School: f.crew.School, Person: f.crew.Person})
	require.NoError(t, err)
	require.Equal(t, unit.Prefs{}, again.Prefs.Prefs)

	// A tank of powders: citric acid is asked for in grams.
	ph, ec, level := 7.2, 1.2, 9.0
	require.NoError(
		t,
		solution.LogReading(
			ctx,
			f.Store,
			f.crew,
			solution.ReadingRequest{ID: uuid.New(), Tank: vat.ID, Reading: tank.Reading{PH: &ph, ECMS: &ec, LevelL: &level}},
		),
	)
	page, err := solution.Get(ctx, f.Store, f.ines, vat.ID)
	require.NoError(t, err)
	require.Equal(t, "g", page.Advice.Acts[0].Unit)
}

func TestSentences(t *testing.T) {
	t.Parallel()
	us := say.Reader{Prefs: unit.Prefs{US: true, PPM: 500}}
	for _, c := range []struct {
		prefs      say.Reader
		kind, data string
		says       string
	}{
		{say.Reader{}, "reading", `{"ph": 6.4, "ec_ms": 1.7, "temp_c": 19.5, "level_l": 41}`, "Read pH 6.4, 1.7 mS/cm, 19.5 °C, level 41 L"},
		{us, "reading", `{"ec_ms": 1.7, "temp_c": 20}`, "Read 850 ppm (500 scale), 68 °F"},
		{
			say.Reader{},
			"treat", `{"drain_l": 3, "water_l": 17, "stock_ml": 40, "agent": "nitric_acid", "amount": 9, "unit": "mL"}`,
			"Added 3 L drained, 17 L water, 40 mL of each stock, 9 mL of nitric acid",
		},
		{say.Reader{}, "sow", `{"kind": "sow", "cells": [{"kind": "cell"}], "seeds_per_cell": 3}`, "Sowed 1 cell, 3 seeds in each"},
		{say.Reader{}, "count", `{"kind": "count", "marks": [{"row": 0, "col": 0, "state": "sprouted"}, {"row": 1, "col": 2, "state": "lost",
			"cause": "eaten"}]}`, "Counted: 1 lost to eaten (B3); 1 came up (A1)"},
		{say.Reader{}, "look", `{"kind": "look", "leaves": 1, "height_cm": 5}`, "Looked: 1 true leaf, 5 cm tall"},
		{us, "look", `{"kind": "look", "leaves": 4, "height_cm": 5.08}`, "Looked: 4 true leaves, 2 in tall"},
		{say.Reader{}, "harvest", `{"kind": "harvest", "grams": 240}`, "Harvested 240 g, cut"},
		{say.Reader{}, "lose", `{"kind": "lose", "from": [{"kind": "stand", "n": 4}], "cause": "too cold"}`, "Lost 4 plants: too cold"},
		{say.Reader{}, "void", `{"text": "Read pH 6"}`, "Undid: Read pH 6"},
		{say.Reader{}, "void", `{"kind": "reading", "data": {"ph": 6}}`, "Undid: Read pH 6"},
		{us, "void", `{"kind": "reading", "data": {"temp_c": 20}}`, "Undid: Read 68 °F"},
		{say.Reader{}, "tick", `{"task": "x", "what": "Count sprouts in LET-01"}`, "Done: Count sprouts in LET-01"},
		{say.Reader{}, "reading", `"broken"`, "Unreadable entry"},
	} {
		require.Equal(t, c.says, c.prefs.Say(ledger.Sentence(c.kind, []byte(c.data))))
	}
}

// What a first writing refuses, putting right and every other way in refuse too.
func TestBoundsHoldAfterTheFirstWrite(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Ines(t)
	refuses := func(at string, err error) {
		t.Helper()
		var refused field.Errors
		require.ErrorAs(t, err, &refused)
		require.Equal(t, at, refused[0].Field)
	}
	right := func(entry uuid.UUID, r map[string]any) error {
		return notebook.Correct(ctx, d.Store, w, ledger.Act{ID: uuid.New(), On: entry}, r)
	}
	litres := func(name string, l float64) map[string]any { return map[string]any{name: &l} }
	long := strings.Repeat("é", 4001)
	note := uuid.New()
	refuses("text", notebook.Note(ctx, d.Store, w, notebook.NoteRequest{ID: note, Text: long}))
	require.NoError(t, notebook.Note(ctx, d.Store, w, notebook.NoteRequest{ID: note, Text: long[2:]}))
	refuses("text", right(note, map[string]any{"text": long}))
	refuses("text", right(note, map[string]any{"text": " \n"}))

	place, vat := uuid.New(), uuid.New()
	require.NoError(t, site.AddPlace(ctx, d.Store, w, site.PlaceSetup{ID: place, Name: "Far bench", Kind: "bench", TemperatureC: new(18.0)}))
	spec := plainSpec
	require.NoError(t, site.AddTank(ctx, d.Store, w, site.TankSetup{ID: vat, Place: place, Name: "Far tank", Spec: spec}))
	level, ph, far := 60.0, 6.0, 61.0
	reading, water := uuid.New(), uuid.New()
	require.NoError(
		t,
		solution.LogReading(ctx, d.Store, w, solution.ReadingRequest{ID: reading, Tank: vat, Reading: tank.Reading{PH: &ph, LevelL: &level}, Sure: true}),
	)
	refuses("ph", right(reading, map[string]any{"ph": (*float64)(nil), "level": (*float64)(nil)}))
	refuses("ph", right(reading, map[string]any{"ph": &far}))
	refuses("water", solution.Treat(ctx, d.Store, w, solution.TreatRequest{ID: uuid.New(), Tank: vat, Done: tank.Treatment{WaterL: 99}, Sure: true}))
	require.NoError(t, solution.Treat(ctx, d.Store, w, solution.TreatRequest{ID: water, Tank: vat, Done: tank.Treatment{WaterL: 9}, Sure: true}))
	refuses("water", right(water, litres("water", 99)))
	refuses("drain", right(water, litres("drain", 70)))
	refuses("water", right(water, litres("water", 0)))
	require.NoError(t, right(water, litres("water", 19)))

	id := func(q string) (id uuid.UUID) {
		return read(t, d, w, func(tx *store.Tx) (uuid.UUID, error) { return id, tx.Conn().QueryRow(ctx, q).Scan(&id) })
	}
	_, err := sowing.Sow(
		ctx,
		d.Store,
		w,
		sowing.SowRequest{
			ID:           uuid.New(),
			Lot:          id("SELECT id FROM seed_lot LIMIT 1"),
			Wanted:       1,
			SeedsPerCell: 1,
			Tray:         id("SELECT id FROM tray LIMIT 1"),
			Cells:        []tray.Cell{{Row: 0, Col: 0}},
			Purpose:      strings.Repeat("x", 900_000),
		},
	)
	refuses("purpose", err)
	refuses(
		"cause",
		batches.Lose(
			ctx,
			d.Store,
			w,
			ledger.Act{
				ID: uuid.New(),
				On: id("SELECT id FROM batch WHERE NOT closed LIMIT 1"),
			},
			[]batch.Spot{{Kind: batch.InCell}},
			batch.Cause(strings.Repeat("x", 900_000)),
		),
	)

	// A twin of a name is not another name.
	for _, twin := range []string{"Far bench", "FAR  BENCH", "\uff26ar bench"} {
		refuses("name", site.AddPlace(ctx, d.Store, w, site.PlaceSetup{ID: uuid.New(), Name: twin, Kind: "bench", TemperatureC: new(18.0)}))
	}
	for _, unseen := range []string{"Far b\u200bench", "\u202eFar bench", "\u3164", "Far\x00"} {
		refuses("name", site.AddPlace(ctx, d.Store, w, site.PlaceSetup{ID: uuid.New(), Name: unseen, Kind: "bench", TemperatureC: new(18.0)}))
		refuses("name", season.Close(ctx, d.Store, w, calendar.Closure{From: calendar.Of(d.Clock.Now()), To: calendar.Of(d.Clock.Now()), Name: unseen}))
		_, err := people.Add(ctx, d.Store, w, people.NewPerson{Kind: who.Crew, Name: unseen, Secret: "4096"})
		refuses("name", err)
	}
	_, err = people.Add(ctx, d.Store, w, people.NewPerson{Kind: who.Crew, Name: "PUNT", Secret: "4096"})
	refuses("name", err)
	// And where a writer does not look, the database does.
	for _, twin := range []string{"far bench", "Far be\u200bnch", "FAR\u00a0BENCH"} {
		err := d.Store.InSchool(ctx, w, func(tx *store.Tx) error {
			return tx.PutPlace(ctx, db.PutPlaceParams{SchoolID: w.School, ID: uuid.New(), Name: twin, Kind: "bench", TemperatureC: new(18.0)})
		})
		refuses("name", err)
	}
}

// A shelf of jars is filled in one go, each jar tied to its port; done twice it is filled once.
func TestAShelfOfJarsIsFilledOnce(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	shelf, jar := uuid.New(), uuid.New()
	require.NoError(t, site.AddPlace(ctx, f.Store, f.ines, site.PlaceSetup{
		ID: shelf, Name: "Jar shelf", Kind: "jars", Tiers: 2, Columns: 3, TemperatureC: new(19.0),
	}))
	require.NoError(t, site.AddTank(ctx, f.Store, f.ines, site.TankSetup{ID: jar, Place: shelf, Name: "Jar 2", Position: 2, Spec: plainSpec}))
	for _, more := range []int{5, 0} {
		n, err := site.FillShelf(ctx, f.Store, f.ines, jar)
		require.NoError(t, err)
		require.Equal(t, more, n)
	}
	all, err := site.TankKind.List(ctx, f.Store, f.ines)
	require.NoError(t, err)
	var names []string
	for _, n := range all {
		require.Equal(t, fmt.Sprint("Jar ", n.Position), n.Name)
		names = append(names, n.Name)
	}
	require.Len(t, names, 6)
	_, err = site.FillShelf(ctx, f.Store, f.ines, uuid.New())
	require.Error(t, err)
}

// A school begins with the made-up one's places and vessels, once.
func TestASchoolIsFurnished(t *testing.T) {
	t.Parallel()
	d := testdb.Empty(t)
	w := d.Person(t, d.School(t, "bare"), who.Coordinator, "ines")
	require.NoError(t, demo.Furnish(ctx, d.Store, w))
	places, err := site.All(ctx, d.Store, w)
	require.NoError(t, err)
	trays, tanks := 0, 0
	for _, p := range places {
		trays, tanks = trays+len(p.Trays), tanks+len(p.Tanks)
	}
	require.Equal(t, []int{8, 14, 15}, []int{len(places), trays, tanks})
	require.ErrorContains(t, demo.Furnish(ctx, d.Store, w), "are there already")
}
