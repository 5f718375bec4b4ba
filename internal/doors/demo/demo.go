// Package demo is the made-up school: Ferrywharf, a glasshouse on the roof of
// an old rope works. Everything in it is written through the verbs that people
// use, on a clock that walks from January to the day the demo stands on.
//
//	err := demo.Load(ctx, store, clock, school, demo.Day)
package demo

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/field"
	walk "ulpa/core/round"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/harvest"
	"ulpa/internal/work/jobs"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/people"
	"ulpa/internal/work/round"
	"ulpa/internal/work/site"
	"ulpa/internal/work/solution"
	"ulpa/internal/work/sowing"
	"ulpa/internal/work/trays"
)

// Day is where the demo stands unless told otherwise.
var Day = calendar.Date(2027, 3, 18)

// Zone of the made-up school.
const Zone = "Europe/London"

// School as it is made before anybody can sign in.
var School = store.NewSchool{Slug: "ferrywharf", Name: "Ferrywharf School", Zone: Zone, UnitSystem: "metric", Latitude: new(52.0), Longitude: new(1.0)}

// Person is somebody of the made-up school, with the secret that the demo prints.
type Person struct {
	Kind                who.Kind
	Name, Login, Secret string
}

// People of the made-up school.
var People = []Person{
	{who.Coordinator, "Ines Varrow", "ines@ferrywharf.example", "tide-and-trellis"},
	{who.Staff, "Tam Brill", "tam@ferrywharf.example", "rope-works-roof"},
	{who.Crew, "Punt", "", "1201"},
	{who.Crew, "Skiff", "", "1302"},
	{who.Crew, "Dory", "", "1403"},
	{who.Crew, "Coracle", "", "1504"},
}

// KeyName and Key are of a program that may try the API.
const KeyName, Key = "Try-out", "ulpa_ferrywharf-try-out"

// Prepare hashes everybody's secret, once. It needs no database: whoever still
// has to make one can have it done meanwhile.
var Prepare = sync.OnceValues(func() ([]people.Prepared, error) {
	var all []people.Prepared
	for _, p := range People {
		one, err := people.Prepare(context.Background(), people.NewPerson{Kind: p.Kind, Name: p.Name, Login: p.Login, Secret: p.Secret})
		if err != nil {
			return nil, fmt.Errorf("%s: %w", p.Name, err)
		}
		all = append(all, one)
	}
	return all, nil
})

// Clock is a clock that the demo sets. It runs on from there, or stands.
type Clock struct {
	mu          sync.Mutex
	base, since time.Time
	stands      bool
	moved       func(time.Time) error // told when somebody moves it on
}

// Set puts the clock to a time, from which it runs on.
func (c *Clock) Set(t time.Time) { c.put(t, false) }

// Stand puts the clock to a time and stops it there.
func (c *Clock) Stand(t time.Time) { c.put(t, true) }

func (c *Clock) put(t time.Time, stands bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.base, c.since, c.stands = t, time.Now(), stands
}

// Now is the clock's time.
func (c *Clock) Now() time.Time {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.stands {
		return c.base
	}
	return c.base.Add(time.Since(c.since))
}

// OnMove has keep told whenever somebody moves the clock on.
func (c *Clock) OnMove(keep func(time.Time) error) { c.moved = keep }

// Advance moves the clock on: never back, and and not for more than twelve years from the demo's day.
func (c *Clock) Advance(to time.Time) error {
	var e field.Errors
	e.Require(to.After(c.Now()), "now", "must not be before the demo’s time; the clock only moves forward")
	e.Require(to.Before(Day.UTC().AddDate(12, 0, 0)), "now", "is too far ahead")
	if err := e.Err(); err != nil {
		return err
	}
	c.Set(to)
	if c.moved != nil {
		return c.moved(to)
	}
	return nil
}

type builder struct {
	planned map[string]*uuid.UUID // sowings that were planned before they were sown
	ctx     context.Context
	store   *store.Store
	clock   *Clock
	zone    *time.Location
	people  map[string]who.Who
	me      who.Who
	n       int
	ids     map[string]uuid.UUID
	err     error
	shift   calendar.Day
}

// Load writes the made-up school's season up to the given day. It fails on the
// first verb that refuses.
func Load(ctx context.Context, s *store.Store, clock *Clock, school uuid.UUID, day calendar.Day) error {
	zone, err := time.LoadLocation(Zone)
	if err != nil {
		return err
	}
	b := &builder{ctx: ctx, store: s, clock: clock, zone: zone, people: map[string]who.Who{}, ids: map[string]uuid.UUID{}, planned: map[string]*uuid.UUID{}}
	b.shift = day - Day
	b.at(1, 4, 8, 0)
	everybody, err := Prepare()
	if err != nil {
		return err
	}
	for i, p := range People {
		// The command line adds people in the name of the school itself.
		id, err := everybody[i].Add(ctx, s, who.Who{School: school, Kind: who.Coordinator, Zone: zone})
		if err != nil {
			return fmt.Errorf("%s: %w", p.Name, err)
		}
		if b.people[p.Name], err = people.Load(ctx, s, who.Who{School: school, Person: id}); err != nil {
			return err
		}
	}
	b.as("Ines Varrow")
	b.places()
	b.seeds()
	b.run()
	b.as("Ines Varrow")
	b.do("job", func() error {
		_, err := jobs.Kind.Put(b.ctx, b.store, b.me, jobs.Setup{
			ID: b.id(), Name: "Sweep under the benches", Place: b.ids["Nursery bench"], From: Day + b.shift + 5, Every: 7, Minutes: 5,
			For: b.people["Coracle"].Person.String(),
		}, things.New)
		return err
	})
	b.seedTests()
	b.vessels()
	b.sprouts()
	b.photographs()
	b.caredFor()
	b.pens()
	b.shelf()
	b.filled()
	b.weeks()
	b.station()
	b.goals()
	b.beds()
	b.do("given", func() error {
		return round.Give(b.ctx, b.store, b.me, []round.Gift{{Key: walk.StopKey(b.ids["Jar shelf"].String()), To: b.people["Coracle"].Person}})
	})
	b.do("crop", func() error {
		_, err := crops.OwnKind.Put(b.ctx, b.store, b.me, crops.OwnSetup{ID: b.id(), Name: "Good King Henry", Like: "spinach"}, things.New)
		return err
	})
	return b.err
}

// LetPrograms makes the key by which a program may try the API.
func LetPrograms(ctx context.Context, s *store.Store, school uuid.UUID) error {
	w := who.Who{School: school, Kind: who.Coordinator, Zone: time.UTC}
	return people.AddKey(ctx, s, w, uuid.NewSHA1(uuid.NameSpaceOID, []byte(Key)), KeyName, who.ScopeDose, Key)
}

// do runs a step unless an earlier one failed.
func (b *builder) do(what string, f func() error) {
	if b.err != nil {
		return
	}
	if err := f(); err != nil {
		b.err = fmt.Errorf("demo, %s at %s: %w", what, b.clock.Now().Format(time.DateTime), err)
	}
}

func (b *builder) as(name string) { b.me = b.people[name] }

// id is the next id: the same ones on every run.
func (b *builder) id() uuid.UUID {
	b.n++
	return uuid.NewSHA1(uuid.NameSpaceOID, fmt.Appendf(nil, "ferrywharf %d", b.n))
}

// at sets the clock to a day of 2027 by the demo's own calendar.
func (b *builder) at(month time.Month, day, hour, minute int) {
	t := (calendar.Date(2027, month, day) + b.shift).At(hour, minute, b.zone)
	b.clock.Stand(t.Add(time.Duration(b.n) * time.Microsecond)) // so that one minute keeps its order
}

func (b *builder) sow(name, lot, trayName, cells string, seeds, wanted int, purpose string) {
	b.do("sow "+name, func() error {
		id := b.id()
		list, err := tray.ParseList(cells, 40, 40)
		if err != nil {
			return err
		}
		_, err = sowing.Sow(b.ctx, b.store, b.me, sowing.SowRequest{
			ID: id, Lot: b.ids[lot], Wanted: wanted, Purpose: purpose, SeedsPerCell: seeds, Tray: b.ids[trayName], Cells: list,
			Planned: b.planned[name],
		})
		b.ids[name] = id
		return err
	})
}

// mark counts a tray: the cells of a batch that now show a state.
func (b *builder) mark(trayName string, state batch.CellState, cells string, cause batch.Cause) {
	b.do("count "+trayName, func() error {
		list, err := tray.ParseList(cells, 40, 40)
		if err != nil {
			return err
		}
		r := trays.CountRequest{ID: b.id(), Tray: b.ids[trayName]}
		for _, c := range list {
			r.Marks = append(r.Marks, batch.Mark{Row: c.Row, Col: c.Col, State: state, Cause: cause})
		}
		return trays.Count(b.ctx, b.store, b.me, r)
	})
}

func (b *builder) look(name string, leaves int, height float64) {
	b.do("look "+name, func() error {
		return batches.Look(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: b.ids[name]}, batches.Looks{Leaves: leaves, HeightCM: height})
	})
}

// spots turns cells of a tray or ports of a place into spots.
func (b *builder) spots(kind batch.SpotKind, in, cells string) (out []batch.Spot) {
	list, err := tray.ParseList(cells, 60, 60)
	b.do("cells "+cells, func() error { return err })
	for _, c := range list {
		out = append(out, batch.Spot{Kind: kind, In: b.ids[in].String(), Row: c.Row, Col: c.Col})
	}
	return out
}

// move takes the living plants of some cells to ports, a frame or a bed.
func (b *builder) move(name, trayName, cells, to, ports string) {
	b.do("move "+name, func() error {
		list, err := tray.ParseList(ports, 60, 60)
		if err != nil {
			return err
		}
		return site.Move(b.ctx, b.store, b.me, site.MoveRequest{
			ID: b.id(), Batch: b.ids[name], From: b.spots(batch.InCell, trayName, cells), To: b.ids[to], Ports: list, RampDays: 10, Sure: true,
		})
	})
}

func (b *builder) cut(name, place string, grams float64, whole string) {
	b.do("harvest "+name, func() error {
		id := b.ids[place]
		r := harvest.Request{ID: b.id(), Batch: b.ids[name], Place: &id, Grams: grams}
		if whole != "" {
			r.From = b.spots(batch.InPort, place, whole)
		}
		return harvest.Weigh(b.ctx, b.store, b.me, r)
	})
}

func (b *builder) closeBatch(name string) {
	b.do("close "+name, func() error {
		return batches.Close(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: b.ids[name]})
	})
}

func (b *builder) note(text, batchName, place string) {
	b.do("note", func() error {
		r := notebook.NoteRequest{ID: b.id(), Text: text}
		for _, name := range []string{batchName, place} {
			if id, ok := b.ids[name]; ok {
				r.About = append(r.About, id)
			}
		}
		return notebook.Note(b.ctx, b.store, b.me, r)
	})
}

// open ticks off that the frame was opened over a batch, on the days on which that is
// asked: standing on another day, some of them fall on weekends.
func (b *builder) open(name string) {
	b.do("open over "+name, func() error {
		day := b.me.Day(b.clock.Now())
		task := walk.Key{Kind: walk.OpenFrame.Name, Of: b.ids[name].String(), Day: day}
		_, err := round.Tick(b.ctx, b.store, b.me, round.TickRequest{ID: b.id(), Task: task.String()})
		if errors.As(err, new(field.Errors)) {
			return nil
		}
		return err
	})
}

func (b *builder) treat(tank string, t solution.TreatRequest) {
	b.do("treat "+tank, func() error {
		t.ID, t.Tank, t.Sure = b.id(), b.ids[tank], true
		return solution.Treat(b.ctx, b.store, b.me, t)
	})
}
