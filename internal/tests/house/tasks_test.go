package house_test

import (
	"errors"
	"maps"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/fish"
	"ulpa/core/gauge"
	core "ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/round"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sprouts"
	"ulpa/internal/work/trays"
	"ulpa/internal/work/troughs"
)

// Every kind of task is whole: it is about something of a known sort, what ends it is a kind of
// entry, who does it finds a page or needs none, and its key is read back as it was written.
func TestKindsOfTasksAreWhole(t *testing.T) {
	t.Parallel()
	require.Greater(t, len(core.Kinds()), 30)
	byATick := []*core.Kind{core.Own, core.Close} // which have no page
	for name, k := range core.Kinds() {
		require.Equal(t, name, k.Name)
		require.NotEmpty(t, k.Of, name)
		for _, e := range k.EndedBy {
			require.Contains(t, ledger.Kinds(), e, "%s is ended by entries of that kind", name)
		}
		require.False(t, k.Writes && len(k.EndedBy) == 0, "%s: its page writes what ends it", name)
		path, do := round.PageOf(core.Task{Kind: k})
		require.Equal(t, slices.Contains(byATick, k), path == "", "%s has a page, or a tick does it", name)
		require.Equal(t, path == "", do == say.Words(""), name)
		for _, part := range []string{"", "50 mm: square", "rinse"} {
			key := core.Key{Kind: name, Of: uuid.NewString(), Day: 20_000, Part: part}
			back, ok := core.ReadKey(key.String())
			require.True(t, ok, key)
			require.Equal(t, key, back)
		}
	}
	// As earlier releases kept it.
	id := uuid.NewString()
	key, ok := core.ReadKey("care:" + id + "cover_off:2027-03-18")
	require.True(t, ok)
	require.Equal(t, []string{id, "cover_off"}, []string{key.Of, key.Part})
	for _, odd := range []string{"", "stop", "job:x", "job:x:soon", ":::"} {
		_, ok := core.ReadKey(odd)
		require.False(t, ok, odd)
	}
}

// Whatever comes up on the demo's round in weeks, on working days and before closed ones: it says
// why, ticked off or put off it is gone, undone it is there again, and it is about something
// that is there.
func TestWhatComesUpOnTheRound(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Ines(t)
	seen := map[string]bool{}
	find := func(key string) (core.Task, bool) {
		walk, err := round.Today(ctx, d.Store, w)
		require.NoError(t, err)
		for _, stop := range walk.Stops {
			for _, x := range stop.Tasks {
				require.Equal(t, stop.Place, x.Place)
				if key == "" && !seen[x.Kind.Name] || x.Key.String() == key {
					return x, true
				}
			}
		}
		return core.Task{}, false
	}
	ended := map[string]bool{}
	for range 16 {
		for {
			x, ok := find("")
			if !ok {
				break
			}
			name, key := x.Kind.Name, x.Key.String()
			seen[name] = true
			require.NotEmpty(t, x.What().String(), name)
			require.NotEmpty(t, x.Why.String(), name)
			require.Positive(t, x.Minutes, name)
			_, err := uuid.Parse(x.Of)
			require.NoError(t, err, name)
			if of := x.Kind.Of; of != core.Plans && of != core.Reserved && of != core.Jobs {
				id, _ := uuid.Parse(x.Of)
				thing, err := notebook.Thing(ctx, d.Store, w, id)
				require.NoError(t, err, name)
				require.Equal(t, string(of), string(thing.Kind), name)
			}
			for _, skip := range []bool{false, true} {
				id := uuid.New()
				_, err := round.Tick(ctx, d.Store, w, round.TickRequest{ID: id, Task: key, Skip: skip, Unwritten: x.Acts() && !skip})
				require.NoError(t, err, name)
				_, there := find(key)
				require.False(t, there, "%s is still asked for", name)
				require.NoError(t, notebook.Undo(ctx, d.Store, w, ledger.Act{ID: uuid.New(), On: id}))
				_, there = find(key)
				require.True(t, there, "%s is not asked for again", name)
			}
			for _, entry := range x.Kind.EndedBy {
				act := enders[entry]
				if act == nil {
					continue
				}
				id := uuid.New()
				err := act(t, d, w, x, id)
				if errors.Is(err, errElsewhere) {
					continue
				}
				require.NoError(t, err, "%s is done", name)
				_, there := find(key)
				require.False(t, there, "%s was done (%s) and is still asked for", name, entry)
				undo := notebook.Undo
				if x.Kind == core.CountTray { // of each batch in it
					undo = notebook.UndoVisit
				}
				require.NoError(t, undo(ctx, d.Store, w, ledger.Act{ID: uuid.New(), On: id}), name)
				_, there = find(key)
				require.True(t, there, "%s was taken back and is not asked for again", name)
				ended[name] = true
			}
		}
		require.NoError(t, d.Clock.Advance(d.Clock.Now().AddDate(0, 0, 1)))
	}
	require.Greater(t, len(seen), 17, "seen: %v", slices.Sorted(maps.Keys(seen)))
	require.Greater(t, len(ended), 10, "done by their acts: %v", slices.Sorted(maps.Keys(ended)))
}

// errElsewhere is the answer of what ends tasks of other things, and not this one.
var errElsewhere = errors.New("elsewhere")

// enders do what ends a task, by the kind of entry that they write.
var enders = map[string]func(*testing.T, testdb.DB, who.Who, core.Task, uuid.UUID) error{
	"look": func(_ *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		return batches.Look(ctx, d.Store, w, ledger.Act{ID: id, On: uuid.MustParse(x.Of)}, batches.Looks{Leaves: 1, HeightCM: 2})
	},
	"count": func(t *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		at, err := trays.Get(ctx, d.Store, w, uuid.MustParse(x.Tray))
		require.NoError(t, err)
		if x.Kind == core.CountTray {
			return trays.Count(ctx, d.Store, w, trays.CountRequest{ID: id, Tray: at.ID, Whole: true})
		}
		for _, c := range at.Cells {
			if c.Batch.String() == x.Of && c.State == batch.Sown {
				m := batch.Mark{Row: c.Row, Col: c.Col, State: batch.Sprouted, Was: batch.Sown}
				return trays.Count(ctx, d.Store, w, trays.CountRequest{ID: id, Tray: at.ID, Marks: []batch.Mark{m}})
			}
		}
		return nil
	},
	"lose": func(t *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		b, err := batches.Get(ctx, d.Store, w, uuid.MustParse(x.Of))
		require.NoError(t, err)
		return batches.Lose(ctx, d.Store, w, ledger.Act{ID: id, On: b.ID}, everyPlant(b), "composted")
	},
	"tend": func(_ *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		all := []string{batch.Rinsed, batch.Watered, batch.Lit}
		return sprouts.Tend(ctx, d.Store, w, sprouts.TendRequest{ID: id, Batch: uuid.MustParse(x.Of), Did: all, Sure: true})
	},
	"fish_fed": func(_ *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		return troughs.Feed(ctx, d.Store, w, ledger.Act{ID: id, On: uuid.MustParse(x.Of)}, fish.Fed{Grams: 5})
	},
	"fish_weigh": func(_ *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		return troughs.Weigh(ctx, d.Store, w, ledger.Act{ID: id, On: uuid.MustParse(x.Of)}, fish.Sample{Fish: 5, Grams: 400})
	},
	"fish_read": func(_ *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		r := fish.Reading{TAN: new(0.2), Nitrite: new(0.05), Nitrate: new(20.0), PH: new(7.2), TempC: new(20.0), Oxygen: new(8.0), Alkalinity: new(80.0)}
		return troughs.LogReading(ctx, d.Store, w, ledger.Act{ID: id, On: uuid.MustParse(x.Of)}, r)
	},
	"calibration": func(t *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		m, err := meters.Get(ctx, d.Store, w, uuid.MustParse(x.Of))
		require.NoError(t, err)
		b := meters.Buffers{}
		if m.Kind.ReadsPH() {
			b.Points = []gauge.Point{{PH: 7, Shown: 7, TemperatureC: 20}, {PH: 4, Shown: 4, TemperatureC: 20}}
		}
		if m.Kind != gauge.PHOnly {
			b.Standards = []gauge.Standard{{TrueMS: 1.413, ShownMS: 1.41, TemperatureC: 25}}
		}
		_, err = meters.Calibrate(ctx, d.Store, w, ledger.Act{ID: id, On: m.ID}, b)
		return err
	},
	"tray_care": func(_ *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		_, err := trays.Care(ctx, d.Store, w, ledger.Act{ID: id, On: uuid.MustParse(x.Of)}, tray.Done{Did: []string{x.Part}})
		return err
	},
	"reading": func(t *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		if x.Kind.Of != core.Tanks {
			return errElsewhere
		}
		p, err := solution.Get(ctx, d.Store, w, uuid.MustParse(x.Of))
		require.NoError(t, err)
		spec := p.Tank.Spec
		r := tank.Reading{PH: &spec.PHTarget, ECMS: &spec.ECTarget, LevelL: &spec.FillToL, TempC: new(19.0)}
		return solution.LogReading(ctx, d.Store, w, solution.ReadingRequest{ID: id, Tank: p.Tank.ID, Reading: r, Sure: true})
	},
	"harvest": func(t *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		b, err := batches.Get(ctx, d.Store, w, uuid.MustParse(x.Of))
		require.NoError(t, err)
		return harvest.Weigh(ctx, d.Store, w, harvest.Request{ID: id, Batch: b.ID, Grams: 80, From: everyPlant(b), Sure: true})
	},
	"seed_seen": func(t *testing.T, d testdb.DB, w who.Who, x core.Task, id uuid.UUID) error {
		lot, err := seeds.Get(ctx, d.Store, w, uuid.MustParse(x.Of))
		require.NoError(t, err)
		for _, test := range lot.Tests {
			if !test.Over {
				return seeds.CountTest(ctx, d.Store, w, seeds.SawTest{ID: id, Lot: lot.ID, Test: test.Test, Came: test.Came})
			}
		}
		return nil
	},
}

// everyPlant is where each plant of a batch is.
func everyPlant(b batches.Batch) (all []batch.Spot) {
	for at, n := range b.State.Stands {
		place, pot := batch.SplitStand(at)
		all = append(all, batch.Spot{Kind: batch.InStand, In: place, Pot: pot, N: n})
	}
	for at := range b.State.Ports {
		all = append(all, at)
	}
	for at, c := range b.State.Cells {
		if c.State.Alive() {
			all = append(all, at)
		}
	}
	return all
}

// Nothing is passed over in silence: with nothing written down for months, the round comes back to
// every batch that grows, within three weeks each time.
func TestNothingIsPassedOverInSilence(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Ines(t)
	o, err := batches.ReadOverview(ctx, d.Store, w)
	require.NoError(t, err)
	require.Greater(t, len(o.Lines), 10)
	said := map[string]calendar.Day{}
	for _, b := range o.Lines {
		said[b.ID.String()] = w.Day(d.Clock.Now())
	}
	for range 40 {
		d.Clock.Stand(d.Clock.Now().AddDate(0, 0, 3))
		walk, err := round.Today(ctx, d.Store, w)
		require.NoError(t, err)
		for _, stop := range walk.Stops {
			for _, task := range stop.Tasks {
				if id := task.About(core.Batches); id != "" {
					said[id] = walk.Today
				}
			}
		}
		for _, b := range o.Lines {
			require.LessOrEqual(t, walk.Today-said[b.ID.String()], calendar.Day(21), "%s, %s, on %s", b.Code, b.Crop.Name, walk.Today)
		}
	}
}
