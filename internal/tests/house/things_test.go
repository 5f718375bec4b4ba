package house_test

import (
	"errors"
	"fmt"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/core/tank"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/find"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/people"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
)

// refusedAt tells that a verb refused a field.
func refusedAt(t *testing.T, name string, err error) {
	t.Helper()
	var refused field.Errors
	require.ErrorAs(t, err, &refused)
	require.Equal(t, name, refused[0].Field, err)
}

// Of all who change one thing at once, from the same page, one is kept and the others are
// told; what is sent twice is one.
func TestWhoChangesAThingAtOnce(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	was, err := site.PlaceKind.Get(ctx, f.Store, f.ines, f.bench)
	require.NoError(t, err)
	var kept, told atomic.Int64
	var wg sync.WaitGroup
	for i := range 8 {
		wg.Go(func() {
			p := was
			p.Name = fmt.Sprint("Bench ", i)
			for range 2 { // each sends it twice
				_, err := site.PlaceKind.Put(ctx, f.Store, f.ines, p, things.Tag(was))
				var stale things.Stale
				switch {
				case err == nil:
					kept.Add(1)
				case errors.As(err, &stale):
					told.Add(1)
				default:
					t.Error(err)
				}
			}
		})
	}
	wg.Wait()
	require.Equal(t, []int64{2, 14}, []int64{kept.Load(), told.Load()})
}

// What plants stand in cannot be taken from under them, and a tank that is measured anew is
// worked out anew.
func TestAChangeTakesNothingFromUnderPlants(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	b := f.sow(t, "D1-D6")
	require.NoError(t, f.mark(t, f.crew, "D1-D6", batch.Sprouted, batch.Sown))
	require.NoError(t, f.move(f.crew, uuid.New(), b, "D1-D2", "C4,B1"))
	tower, err := site.PlaceKind.Get(ctx, f.Store, f.ines, f.tower)
	require.NoError(t, err)
	put := func(change func(*site.PlaceSetup)) error {
		p := tower
		change(&p)
		_, err := site.PlaceKind.Put(ctx, f.Store, f.ines, p, things.Tag(tower))
		return err
	}
	refusedAt(t, "tiers", put(func(p *site.PlaceSetup) { p.Tiers = 2 }))
	refusedAt(t, "columns", put(func(p *site.PlaceSetup) { p.Columns = 3 }))
	refusedAt(t, "kind", put(func(p *site.PlaceSetup) { p.Kind = "raft" }))
	refusedAt(t, "retired", put(func(p *site.PlaceSetup) { p.Retired = true }))
	require.NoError(t, put(func(p *site.PlaceSetup) { p.Tiers = 5 }))

	one, err := site.TrayKind.Get(ctx, f.Store, f.ines, f.tray)
	require.NoError(t, err)
	for name, change := range map[string]func(*site.TraySetup){
		"rows": func(x *site.TraySetup) { x.Rows = 3 }, "columns": func(x *site.TraySetup) { x.Columns = 5 },
		"retired": func(x *site.TraySetup) { x.Retired = true },
	} {
		x := one
		change(&x)
		_, err := site.TrayKind.Put(ctx, f.Store, f.ines, x, things.Tag(one))
		refusedAt(t, name, err)
	}
	refusedAt(t, "id", site.TrayKind.Delete(ctx, f.Store, f.ines, f.tray, ""))

	// Carried to another place it takes its plants along, and the notebook says so.
	x := one
	x.Place = f.frame
	_, err = site.TrayKind.Put(ctx, f.Store, f.ines, x, things.Tag(one))
	require.NoError(t, err)
	got, err := batches.Get(ctx, f.Store, f.ines, b)
	require.NoError(t, err)
	require.Equal(t, 4, got.State.InTrays())
	for _, about := range []uuid.UUID{f.tray, f.bench, f.frame, b} {
		lines, err := notebook.Read(ctx, f.Store, f.ines, notebook.Filter{About: &about})
		require.NoError(t, err)
		require.Equal(t, "Carried T1 from Bench to Frame", lines[0].Says.String())
	}

	vat := uuid.New()
	require.NoError(t, site.AddTank(ctx, f.Store, f.ines, site.TankSetup{ID: vat, Place: f.tower, Name: "Vat", Spec: plainSpec}))
	require.NoError(t, solution.LogReading(ctx, f.Store, f.crew, solution.ReadingRequest{
		ID: uuid.New(), Tank: vat, Reading: tank.Reading{PH: new(6.0), LevelL: new(plainSpec.FillToL)}, Sure: true,
	}))
	setup, err := site.TankKind.Get(ctx, f.Store, f.ines, vat)
	require.NoError(t, err)
	larger := setup
	larger.Spec.CapacityL *= 3
	_, err = site.TankKind.Put(ctx, f.Store, f.ines, larger, things.Tag(setup))
	require.NoError(t, err)
	inStep(t, f.DB, f.ines)
}

// However two coordinators leave or step down at once, one always stays; who left is out,
// and who comes back signs in as before.
func TestACoordinatorAlwaysStays(t *testing.T) {
	t.Parallel()
	d := testdb.Empty(t)
	school := d.School(t, "pair")
	a, b := d.Person(t, school, who.Coordinator, "ann"), d.Person(t, school, who.Coordinator, "bea")
	for range 12 {
		var wg sync.WaitGroup
		wg.Go(func() { _ = people.Leave(ctx, d.Store, a, b.Person) })
		wg.Go(func() {
			_ = people.Change(ctx, d.Store, b, people.Member{ID: a.Person, Kind: who.Staff, Name: "ann", Login: "ann@" + school.String()[30:] + ".example"})
		})
		wg.Wait()
		list, err := people.Members(ctx, d.Store, a)
		require.NoError(t, err)
		coordinators := 0
		for _, m := range list {
			if m.Active && m.Kind == who.Coordinator {
				coordinators++
			}
		}
		require.Positive(t, coordinators)
		for _, m := range list { // as they were
			m.Kind = who.Coordinator
			require.NoError(t, people.ComeBack(ctx, d.Store, a, m.ID))
			require.NoError(t, people.Change(ctx, d.Store, a, m))
		}
	}
	_, err := people.Load(ctx, d.Store, who.Who{School: school, Person: b.Person})
	require.NoError(t, err)
}

// A place is as warm as its season says, north and south of the equator.
func TestAPlaceHasSeasons(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	bench, err := site.PlaceKind.Get(ctx, f.Store, f.ines, f.bench)
	require.NoError(t, err)
	cold := bench
	cold.WinterC, cold.SummerC = new(9.0), new(27.0)
	_, err = site.PlaceKind.Put(ctx, f.Store, f.ines, cold, things.Tag(bench))
	require.NoError(t, err)
	for _, south := range []bool{false, true} {
		w := f.ines
		if w.Latitude = new(54.0); south {
			w.Latitude = new(-54.0)
		}
		for month, want := range map[time.Month]float64{time.January: 9, time.April: 20, time.July: 27, time.October: 20} {
			f.Clock.Set(time.Date(2028, month, 10, 10, 0, 0, 0, time.UTC))
			if south {
				want = map[float64]float64{9: 27, 27: 9, 20: 20}[want]
			}
			places, err := site.ReadPlaces(ctx, f.Store, w)
			require.NoError(t, err)
			for _, p := range places {
				if p.ID == f.bench {
					require.InDelta(t, want, p.TemperatureC, 0, "%s, south %t", month, south)
				}
			}
		}
	}
}

// Whatever has a name is found by a part of it, in the reader's language; nobody finds what
// another school has.
func TestEverythingIsFound(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	kinds := func(w who.Who, asked string) map[find.Kind]int {
		hits, err := find.Everything(ctx, d.Store, w, asked)
		require.NoError(t, err)
		n := map[find.Kind]int{}
		for _, h := range hits {
			n[h.Kind]++
		}
		return n
	}
	for asked, kind := range map[string]find.Kind{
		"let-05": find.Batch, "LANDING": find.Place, "tray 1": find.Tray, "jar 7": find.Tank, "hf-26": find.Lot, "basil": find.Crop, "frost": find.Sum,
		"damping off": find.Entry, "harbour frill": find.Batch,
		// In other people's words, in another language, and without its accents.
		"zucchini": find.Crop, "frijol": find.Crop, "columna": find.Place, "lechuga": find.Batch, "sembro": find.Entry,
	} {
		require.Positive(t, kinds(ines, asked)[kind], asked)
	}
	require.Empty(t, kinds(ines, "   "))
	require.Empty(t, kinds(ines, "no such thing anywhere"))
	require.NoError(t, people.SetLanguage(ctx, d.Store, ines, "es"))
	spanish, err := people.Load(ctx, d.Store, who.Who{School: ines.School, Person: ines.Person})
	require.NoError(t, err)
	require.Positive(t, kinds(spanish, "albahaca")[find.Batch])
	stranger := d.Person(t, d.School(t, "elsewhere"), who.Coordinator, "stranger")
	theirs := kinds(stranger, "let")
	for _, kind := range []find.Kind{find.Batch, find.Place, find.Tray, find.Tank, find.Lot, find.Entry} {
		require.Zero(t, theirs[kind], kind)
	}
}

// What a new thing must be given is marked, and nothing else: with just that it is kept. How warm a bed
// is may stay unknown; a bench says it.
func TestWhatMustBeGivenIsMarked(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	look, err := site.PlaceKind.Look(ctx, f.Store, f.ines, uuid.Nil)
	require.NoError(t, err)
	require.Equal(t, map[string]bool{"name": true, "temperature_c": true}, look.Needed)
	bed := site.PlaceSetup{ID: uuid.New(), Name: "Bed 9", Kind: "bed"}
	_, err = site.PlaceKind.Put(ctx, f.Store, f.ines, bed, things.New)
	require.NoError(t, err)
	kept, err := site.PlaceKind.Get(ctx, f.Store, f.ines, bed.ID)
	require.NoError(t, err)
	require.Nil(t, kept.TemperatureC)
	at, err := site.Get(ctx, f.Store, f.ines, bed.ID)
	require.NoError(t, err)
	require.True(t, at.Guessed)
	bed.ID, bed.Kind = uuid.New(), "bench"
	_, err = site.PlaceKind.Put(ctx, f.Store, f.ines, bed, things.New)
	refusedAt(t, "temperature_c", err)
}
