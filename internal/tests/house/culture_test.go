package house_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/fish"
	"ulpa/core/gauge"
	core "ulpa/core/round"
	"ulpa/core/tank"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/things"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/mixing"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/round"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/troughs"
)

// the tank of a name, as its page has it.
func tankCalled(t *testing.T, d testdb.DB, name string) solution.Page {
	all, err := solution.All(ctx, d.Store, d.Ines(t))
	require.NoError(t, err)
	for _, g := range all {
		if g.Tank.Name == name {
			p, err := solution.Get(ctx, d.Store, d.Ines(t), g.Tank.ID)
			require.NoError(t, err)
			return p
		}
	}
	t.Fatalf("no %s", name)
	return solution.Page{}
}

// Fish that died are gone until the entry is undone, nobody loses more than swim there,
// what was changed asks to be read, and water that harms them is on the round at once.
func TestFishInTheBooks(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	all, err := troughs.All(ctx, d.Store, ines)
	require.NoError(t, err)
	at := all[0].ID
	now := func() fish.State {
		x, err := troughs.Get(ctx, d.Store, ines, at)
		require.NoError(t, err)
		return x.State
	}
	before := now()
	died := uuid.New()
	require.NoError(t, troughs.Restock(ctx, d.Store, ines, ledger.Act{ID: died, On: at}, fish.Stock{Why: fish.Died, Fish: 2}))
	require.NoError(t, troughs.Restock(ctx, d.Store, ines, ledger.Act{ID: died, On: at}, fish.Stock{Why: fish.Died, Fish: 2}), "the same again is one entry")
	require.Equal(t, []int{before.Fish - 2, before.Died + 2}, []int{now().Fish, now().Died})
	require.ErrorContains(t, troughs.Restock(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: at}, fish.Stock{Why: fish.Taken, Fish: before.Fish}), "fish")
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: died}))
	require.Equal(t, before.Fish, now().Fish)
	due := func() map[string]bool {
		walk, err := round.Today(ctx, d.Store, ines)
		require.NoError(t, err)
		out := map[string]bool{}
		for _, s := range walk.Stops {
			for _, task := range s.Tasks {
				if task.Kind.Of == core.Fish {
					out[task.Kind.Name] = true
				}
			}
		}
		return out
	}
	require.Equal(t, map[string]bool{"fish_feed": true}, due())
	require.NoError(t, troughs.Feed(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: at}, fish.Fed{Grams: 9}))
	require.Empty(t, due(), "fed, and read yesterday")
	require.NoError(t, troughs.Change(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: at}, fish.Added{ChangeL: 50}))
	require.Equal(t, map[string]bool{"fish_read": true}, due())
	tan, ph := 4.0, 8.1
	require.NoError(t, troughs.LogReading(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: at}, fish.Reading{TAN: &tan, PH: &ph}))
	require.Equal(t, map[string]bool{"fish_alarm": true}, due())
}

// Stock bottles empty by what tanks took and fill by what was mixed, and both come back with
// an entry that is undone; a solution is made to the strength that is asked, and no
// weaker than its water.
func TestStockBottlesAndStrength(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	left := func() float64 {
		all, err := mixing.Levels(ctx, d.Store, ines)
		require.NoError(t, err)
		return all[0].LeftL
	}
	begin, tower := left(), tankCalled(t, d, "North tower").Tank
	fed := uuid.New()
	require.NoError(t, solution.Treat(ctx, d.Store, ines, solution.TreatRequest{ID: fed, Tank: tower.ID, Sure: true, Done: tank.Treatment{StockML: 40}}))
	require.InDelta(t, begin-0.04, left(), 1e-9)
	shelf, err := mixing.GetShelf(ctx, d.Store, ines)
	require.NoError(t, err)
	q := mixing.Question{Recipe: shelf.Recipes[0].ID, Litres: 1, Ratio: 100}
	for _, w := range shelf.Waters {
		if w.Name == "School tap" {
			q.Water = w.ID
		}
	}
	levels, err := mixing.Levels(ctx, d.Store, ines)
	require.NoError(t, err)
	q.Stock = levels[0].ID
	mixed := uuid.New()
	require.NoError(t, mixing.Mix(ctx, d.Store, ines, mixing.Done{ID: mixed, Question: q}))
	require.InDelta(t, begin-0.04+1, left(), 1e-9)
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: mixed}))
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: fed}))
	require.InDelta(t, begin, left(), 1e-9)

	q.Ratio, q.Litres, q.Stock = 0, 60, uuid.Nil
	plain, err := mixing.Work(ctx, d.Store, ines, q)
	require.NoError(t, err)
	for _, ms := range []float64{1.1, 1.4, 2.2} {
		q.ECMS = ms
		x, err := mixing.Work(ctx, d.Store, ines, q)
		require.NoError(t, err)
		require.InDelta(t, ms, x.ECMS, 0.035)
		require.Equal(t, ms > plain.ECMS, x.Lines[0].Grams > plain.Lines[0].Grams)
	}
	q.ECMS = 0.3
	_, err = mixing.Work(ctx, d.Store, ines, q)
	require.ErrorContains(t, err, "less than this water")
}

// What a colour is worth the house judges by its own card, whatever the sender says; and
// what has no neighbour on the card is refused.
func TestAColourIsJudgedByTheHouse(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	all, err := meters.All(ctx, d.Store, ines)
	require.NoError(t, err)
	var card uuid.UUID
	for _, m := range all {
		if m.Kind == gauge.Card {
			card = m.ID
		}
	}
	tower := tankCalled(t, d, "North tower").Tank.ID
	r := solution.ReadingRequest{
		ID: uuid.New(), Tank: tower, Sure: true, Reading: tank.Reading{PHErr: 0.01},
		Card: &solution.Colour{Card: card, Seen: gauge.Seen{Low: 6.5, Near: 0.5, Lamp: true}},
	}
	require.NoError(t, solution.LogReading(ctx, d.Store, ines, r))
	p := tankCalled(t, d, "North tower")
	require.InDelta(t, 6.75, *p.Tank.State.PH, 1e-9)
	require.InDelta(t, gauge.CardUnderLamp, p.Past[len(p.Past)-1].Reading.PHError(), 1e-9)
	r.ID, r.Card.Low = uuid.New(), 7.5
	require.ErrorContains(t, solution.LogReading(ctx, d.Store, ines, r), "neighbouring")
	six := 6.0
	r.ID, r.Card.Low, r.Reading.PH = uuid.New(), 6.5, &six
	require.ErrorContains(t, solution.LogReading(ctx, d.Store, ines, r), "replaces the pH")
}

// Over a long weekend: what was forecast when the last one left stands beside what is found,
// a reading corrected changes what was found and not what was forecast, and the last doses
// are looked back on with what was known before them.
func TestAfterAClosure(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	tower := tankCalled(t, d, "North tower")
	require.Len(t, tower.Doses, 2)
	for _, x := range tower.Doses {
		require.True(t, x.Foretold.P5 < x.Foretold.P50 && x.Foretold.P50 < x.Foretold.P95 && x.Found < x.Was, "%+v", x)
	}
	friday := calendar.Date(2027, 3, 19)
	ahead, err := round.Away(ctx, d.Store, ines, friday)
	require.NoError(t, err)
	require.Equal(t, friday, ahead.From)
	_, err = round.Away(ctx, d.Store, ines, friday-3)
	require.ErrorContains(t, err, "last day before")
	d.Clock.Set(calendar.Date(2027, 3, 23).At(9, 0, ines.Zone))
	stands := func(id uuid.UUID, litres float64) {
		r := tank.Reading{LevelL: &litres}
		require.NoError(t, solution.LogReading(ctx, d.Store, ines, solution.ReadingRequest{ID: id, Tank: tower.Tank.ID, Sure: true, Reading: r}))
	}
	read := uuid.New()
	stands(read, 38)
	found := func() *tank.Found {
		a, err := round.Away(ctx, d.Store, ines, 0)
		require.NoError(t, err)
		for _, came := range a.Past {
			for _, x := range came.Tanks {
				if came.From == friday && x.Name == "North tower" {
					return x.Level
				}
			}
		}
		return nil
	}
	x := found()
	require.NotNil(t, x)
	require.Equal(t, 38.0, x.Read)
	require.Less(t, x.Foretold, x.Was)
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: read}))
	require.Nil(t, found())
	stands(uuid.New(), 42)
	require.Equal(t, 42.0, found().Read)
	require.InDelta(t, x.Foretold, found().Foretold, 1e-3)
}

// The weather of every place with a tank is told from weeks back to weeks ahead, by the
// light of each day: more is drawn in April than in February; and by a meter that is read
// there, a hot day more than its neighbours.
func TestTanksKnowTheWeather(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	hot := d.Store.Now().AddDate(0, 0, -20)
	weather := func() tank.Weather {
		return tankCalled(t, d, "North tower").Stand.State.Weather
	}
	before := weather()
	early, late := before.Mean(before.From, before.From.AddDate(0, 0, 7)), before.Mean(hot.AddDate(0, 0, 50), hot.AddDate(0, 0, 57))
	require.Greater(t, late, 1.1*early)
	var file strings.Builder
	file.WriteString("time,series,value,unit\n")
	noon := time.Date(hot.Year(), hot.Month(), hot.Day(), 0, 30, 0, 0, time.UTC)
	for h := range 23 {
		fmt.Fprintf(&file, "%s,Air of the towers,33,°C\n", noon.Add(time.Duration(h)*time.Hour).Format(time.RFC3339))
	}
	_, problems, err := solution.Import(ctx, d.Store, ines, "air.csv", strings.NewReader(file.String()))
	require.NoError(t, err)
	require.Empty(t, problems)
	at := tankCalled(t, d, "North tower").Place.ID
	p, err := site.PlaceKind.Get(ctx, d.Store, ines, at)
	require.NoError(t, err)
	look, err := site.PlaceKind.Look(ctx, d.Store, ines, at)
	require.NoError(t, err)
	p.Meter = look.Options["meter"][1].Value
	_, err = site.PlaceKind.Put(ctx, d.Store, ines, p, look.Tag)
	require.NoError(t, err)
	day := func(w tank.Weather, at time.Time) float64 {
		at = time.Date(at.Year(), at.Month(), at.Day(), 12, 0, 0, 0, at.Location())
		return w.Mean(at, at.Add(time.Minute))
	}
	now := weather()
	require.Greater(t, day(now, hot), 1.3*day(before, hot))
	require.InDelta(t, day(before, hot.AddDate(0, 0, 2)), day(now, hot.AddDate(0, 0, 2)), 1e-9)
}

// Water that fish share is offered nothing from bottles, whatever is read of it; a carton that
// was added as filled is known to be, needs no meter and no acid, and figures of a setting that
// seldom are so are asked about and kept when they are sure.
func TestWaterThatFishShareAndACarton(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	all, err := troughs.All(ctx, d.Store, ines)
	require.NoError(t, err)
	tower := tankCalled(t, d, "North tower")
	require.Positive(t, tower.Advice.Plan.Amount, "acid, as long as no fish are in it")
	setup := all[0].Setup
	look, err := troughs.Kind.Look(ctx, d.Store, ines, setup.ID)
	require.NoError(t, err)
	setup.Tank = tower.Tank.ID.String()
	_, err = troughs.Kind.Put(ctx, d.Store, ines, setup, look.Tag)
	require.NoError(t, err)
	shared := tankCalled(t, d, "North tower").Advice
	require.Zero(t, shared.Plan.Amount+shared.Plan.FedML())
	require.NotEmpty(t, shared.Why)
	setup.Tank = uuid.NewString()
	_, err = troughs.Kind.Put(ctx, d.Store, ines, setup, look.Tag)
	require.ErrorContains(t, err, "tank")

	carton := site.TankSetup{
		ID: uuid.New(), Name: "Carton", Place: tower.Tank.Place, Spec: tank.Usual(tank.Spec{CapacityL: 1, Passive: true, Filled: tank.FilledFoot}),
	}
	_, err = site.TankKind.Put(ctx, d.Store, ines, carton, things.New)
	require.NoError(t, err)
	_, err = site.TankKind.Put(ctx, d.Store, ines, carton, things.New)
	require.NoError(t, err, "sent twice it is one")
	c := tankCalled(t, d, "Carton")
	require.InDelta(t, 0.8, *c.Tank.State.LevelL, 1e-9)
	require.Nil(t, c.Tank.State.PH)
	require.NotEqual(t, "read", func() string {
		if len(c.Advice.Acts) > 0 {
			return c.Advice.Acts[0].Do
		}
		return ""
	}(), "its level is known")

	change := func(sure bool, rise float64) error {
		look, err := site.TankKind.Look(ctx, d.Store, ines, tower.Tank.ID)
		require.NoError(t, err)
		return site.TankKind.Change(ctx, d.Store, ines, tower.Tank.ID, look.Tag, sure, func(values map[string]any) map[string]any {
			values["spec.stock_rise"] = &rise
			return values
		})
	}
	require.ErrorAs(t, change(false, 2), new(things.Asked), "it can be, and seldom is")
	require.InDelta(t, 0.22, tankCalled(t, d, "North tower").Tank.Spec.StockRise, 1e-9, "and was not kept")
	require.NoError(t, change(true, 2))
	require.NoError(t, change(false, 2), "what stays is not asked about again")
	require.ErrorContains(t, change(true, 50), "stock_rise")
	require.ErrorContains(t, change(true, -1), "stock_rise")
}

// A packet that nobody counted stays uncounted when seed is taken from it, and plants that are
// entered straight into a bed are asked about like those that are moved there.
func TestWhatNobodyCountedAndWhatIsEnteredIntoABed(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	lot := seeds.LotSetup{ID: uuid.New(), Crop: "lettuce", Variety: "Wherry Red", Name: "WR-1", Packed: 2026}
	require.NoError(t, seeds.AddLot(ctx, f.Store, f.ines, lot))
	require.Nil(t, f.packet(t, lot.ID).SeedsLeft)
	cells, err := tray.ParseList("A1-A4", 4, 6)
	require.NoError(t, err)
	_, err = sowing.Sow(ctx, f.Store, f.ines, sowing.SowRequest{ID: uuid.New(), Lot: lot.ID, Wanted: 3, SeedsPerCell: 1, Tray: f.tray, Cells: cells})
	require.NoError(t, err)
	require.Nil(t, f.packet(t, lot.ID).SeedsLeft, "not nothing")

	bed := site.PlaceSetup{ID: uuid.New(), Name: "Dune bed", Kind: "bed", LengthCM: 200, WidthCM: 60, TemperatureC: new(9.0)}
	_, err = site.PlaceKind.Put(ctx, f.Store, f.ines, bed, things.New)
	require.NoError(t, err)
	r := sowing.AdoptRequest{
		ID: uuid.New(), Crop: "basil", Variety: "Lamplighter", Since: f.ines.Day(f.Clock.Now()) - 40, Plants: 6, Place: bed.ID, Start: "bought",
	}
	_, err = sowing.Adopt(ctx, f.Store, f.ines, r)
	require.ErrorAs(t, err, new(ledger.Doubted))
	r.Sure = true
	_, err = sowing.Adopt(ctx, f.Store, f.ines, r)
	require.NoError(t, err)
	for _, x := range []struct{ month, more, less float64 }{{7, 14, 18}, {1, 0, 4}} {
		f.Clock.Stand(calendar.Date(2027, time.Month(x.month), 15).At(12, 0, f.ines.Zone))
		p, err := read1(t, f, bed.ID)
		require.NoError(t, err)
		require.True(t, p.TemperatureC > x.more && p.TemperatureC < x.less, "%v °C in month %v", p.TemperatureC, x.month)
	}
}

func read1(t *testing.T, f fixture, id uuid.UUID) (p site.Place, err error) {
	t.Helper()
	err = f.Store.Read(ctx, f.ines, func(tx *store.Tx) error {
		p, err = site.GetPlace(ctx, tx, id)
		return err
	})
	return p, err
}
