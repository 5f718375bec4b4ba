// Package round reads what today's walk needs, and keeps what people decided
// about it.
//
//	walk, err := round.Today(ctx, store, who)
//	_, err = round.Tick(ctx, store, who, round.TickRequest{ID: id, Task: walk.Stops[0].Tasks[0].Key})
package round

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/tray"
	"ulpa/internal/crops"
	"ulpa/internal/ledger"
	"ulpa/internal/meters"
	"ulpa/internal/nursery"
	"ulpa/internal/rafts"
	"ulpa/internal/season"
	"ulpa/internal/seeds"
	"ulpa/internal/site"
	"ulpa/internal/solution"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/troughs"
	"ulpa/internal/who"
)

// Done is something that was done or put off at a place today.
type Done struct {
	Entry  uuid.UUID
	Says   say.Text
	Person string
	At     time.Time
	Skip   bool
}

// Walk is today's round.
type Walk struct {
	Period int // minutes that there are today
	Today  calendar.Day
	Now    time.Time
	Stops  []round.Stop
	Done   map[string][]Done // by place
	Lines  []nursery.Line
	Nights []cold.Night
	Away   away.Plan           // the next days without anybody
	Given  map[string]Somebody // by round.StopKey and by the tasks' keys
	People []Somebody          // to whom anything can be given
	fares  away.Input          // what it was worked out from
}

// Minutes is how long everything due takes together.
func (w Walk) Minutes() int {
	n := 0
	for _, s := range w.Stops {
		n += s.Minutes
	}
	return n
}

// Today works out the walk. It stands for everybody who reads in the same units
// until somebody writes, for a minute at most.
func Today(ctx context.Context, s *store.Store, w who.Who) (out Walk, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		key := fmt.Sprint("walk ", tx.Now.Unix()/60)
		out, err = store.Keep(ctx, tx, key, func() (Walk, error) { return today(ctx, tx) })
		return err
	})
	return out, err
}

func today(ctx context.Context, tx *store.Tx) (Walk, error) {
	w := tx.Who
	walk := Walk{Today: w.Day(tx.Now), Now: tx.Now, Done: map[string][]Done{}}
	in := round.School{Today: walk.Today, Now: tx.Now, Zone: w.Zone, DayBegins: w.DayBegins, DayEnds: w.DayEnds, Settled: map[string]bool{}}
	var err error
	if in.Calendar, err = season.Calendar(ctx, tx); err != nil {
		return walk, err
	}
	if in.Cold, err = season.Cold(ctx, tx); err != nil {
		return walk, err
	}
	if walk.Period = in.Calendar.Minutes(walk.Today, w.Period); walk.Period == 0 {
		walk.Period = w.Period
	}
	walk.Nights = in.Cold.Ahead[:min(7, len(in.Cold.Ahead))]
	planned, err := season.Ahead(ctx, tx)
	if err != nil {
		return walk, err
	}
	for _, p := range planned {
		c, _ := crop.Of(p.Crop)
		in.Planned = append(in.Planned, round.Planned{ID: p.ID.String(), Crop: c.Name, Wanted: p.Wanted, SowOn: p.SowOn, ReadyBy: p.ReadyBy})
	}
	places, err := site.Places(ctx, tx)
	if err != nil {
		return walk, err
	}
	for _, p := range places {
		in.Places = append(in.Places, round.Place{ID: p.ID.String(), Name: p.Name, Kind: p.Kind, TemperatureC: p.TemperatureC})
	}
	if walk.Lines, err = nursery.Lines(ctx, tx); err != nil {
		return walk, err
	}
	trays, err := tx.TraysOfBatches(ctx)
	if err != nil {
		return walk, err
	}
	opened, err := season.Opened(ctx, tx)
	if err != nil {
		return walk, err
	}
	moves, err := season.PlannedMoves(ctx, tx)
	if err != nil {
		return walk, err
	}
	for _, l := range walk.Lines {
		b := lineToBatch(l, trays, in.Calendar, tx.Who, opened[l.ID], walk.Today)
		b.Planned = moves[l.ID]
		in.Batches = append(in.Batches, b)
	}
	tanks, err := ledger.Tanks(ctx, tx)
	if err != nil {
		return walk, err
	}
	stand, err := solution.Stand(ctx, tx, tanks)
	if err != nil {
		return walk, err
	}
	for i, t := range tanks {
		in.Tanks = append(in.Tanks, round.Tank{ID: t.ID.String(), Name: t.Name, Place: t.Place.String(), Tank: stand[i]})
	}
	if err := walk.settle(ctx, tx, in.Settled); err != nil {
		return walk, err
	}
	if in.Jobs, err = jobs(ctx, tx, walk.Today); err != nil {
		return walk, err
	}
	if in.Tests, err = seedTests(ctx, tx, in.Places); err != nil {
		return walk, err
	}
	gaps, err := nursery.Gaps(ctx, tx)
	if err != nil {
		return walk, err
	}
	for _, g := range gaps {
		in.Gaps = append(in.Gaps, round.Gap{
			ID: g.ID.String(), Tray: g.Tray.String(), Name: g.Called, Place: g.Place.String(), Cells: tray.Format(g.Cells), Crop: g.Crop.Name, On: g.On,
		})
	}
	pens, err := meters.Read(ctx, tx)
	if err != nil {
		return walk, err
	}
	for _, m := range pens {
		if m.Due == 0 {
			continue
		}
		x := round.Meter{ID: m.ID.String(), Name: m.Name, Place: m.Place.String(), Due: m.Due}
		if last, ok := m.Last(); ok {
			x.Last = last.On
		}
		in.Meters = append(in.Meters, x)
	}
	kept, err := troughs.InUse(ctx, tx)
	if err != nil {
		return walk, err
	}
	for _, t := range kept {
		in.Troughs = append(in.Troughs, round.Trough{ID: t.ID.String(), Name: t.Name, Place: t.Place.String(), Trough: t.Trough(), State: t.State})
	}
	if in.Rafts, err = rafts.Afloat(ctx, tx, places, walk.Lines); err != nil {
		return walk, err
	}
	cared, err := nursery.AdviseTrays(ctx, tx)
	if err != nil {
		return walk, err
	}
	for _, a := range cared {
		in.Trays = append(in.Trays, round.Tray{ID: a.Tray.String(), Name: a.Name, Place: a.Place.String(), Advice: a.Advice})
	}
	if in.Took, err = took(ctx, tx); err != nil {
		return walk, err
	}
	if err := walk.given(ctx, tx); err != nil {
		return walk, err
	}
	in.Given = map[string]string{}
	for key, p := range walk.Given {
		in.Given[key] = p.Name
	}
	walk.Stops = round.Plan(in)
	if walk.fares, err = fares(ctx, tx, in, places, walk.Lines, trays); err != nil {
		return walk, err
	}
	walk.Away = away.Foretell(walk.fares, away.Ahead(in))
	return walk, nil
}

func lineToBatch(
	l nursery.Line,
	trays []db.TraysOfBatchesRow,
	school calendar.School,
	w who.Who,
	opened map[calendar.Day]bool,
	today calendar.Day,
) round.Batch {
	b := round.Batch{
		ID: l.ID.String(), Code: l.Code, Crop: l.Crop, Sown: l.Sown, Sprouted: l.State.Sprouted, Sprouts: l.Sprouts, Rooting: l.State.Start != "",
		Cells: l.State.Sown, Counted: l.Counted, Cut: l.Cut, Whole: l.State.Taken > 0, GoodDays: l.GoodDays(opened, today),
		Verdict: l.Verdict, LookedOn: l.Seen.On, InTray: map[string]string{}, InPorts: map[string]int{}, InStands: map[string]int{},
		Sprouting: l.Care,
	}
	for _, t := range trays {
		if t.BatchID == l.ID {
			b.InTray[t.PlaceID.String()] = t.TrayID.String()
			b.Standing += t.Standing
			b.Waiting += t.Waiting
		}
	}
	for _, x := range l.Where {
		switch x.Kind {
		case "port":
			b.InPorts[x.Place.String()] += x.Plants
		case "stand":
			b.InStands[x.Place.String()] += x.Plants
		}
	}
	for _, x := range l.Potted {
		b.Potted = append(b.Potted, round.Potted{Place: x.Place.String(), Pot: x.Pot, Plants: x.Plants, Verdict: x.Verdict})
	}
	if b.Sprouting != nil {
		b.Standing = l.InStands()
	}
	if l.Harden != nil {
		plan := l.Harden.Plan(school, w, opened)
		b.Harden, b.Frame = &plan, l.Harden.Place.String()
	}
	return b
}

// settle reads what was done today: it is shown at its place, and what was
// ticked off or put off is not asked for again.
func (walk *Walk) settle(ctx context.Context, tx *store.Tx, settled map[string]bool) error {
	rows, err := tx.Decisions(ctx, db.DecisionsParams{Since: walk.Today.At(0, 0, tx.Who.Zone), Until: tx.Now.Add(time.Minute)})
	for _, r := range rows {
		d := Done{Entry: r.ID, Says: ledger.Said(tx, r.ID, r.Kind, r.Data), Person: r.Person, At: r.HappenedAt, Skip: r.Kind == PutOff.Name}
		if r.Code != "" {
			d.Says = say.T("%s: %s", r.Code, d.Says)
		}
		if r.Kind == TickedOff.Name || r.Kind == PutOff.Name {
			var t Decision
			if err := json.Unmarshal(r.Data, &t); err != nil {
				return err
			}
			settled[t.Task] = true
		}
		if r.Place != uuid.Nil {
			walk.Done[r.Place.String()] = append(walk.Done[r.Place.String()], d)
		}
	}
	return err
}

// TickRequest ticks a task of today's walk off, or puts it off for today.
type TickRequest struct {
	ID   uuid.UUID
	Task string // its key
	Skip bool
	// Unwritten says that what was done is written down nowhere else, of a task that has a
	// page for it.
	Unwritten bool `json:",omitempty"`
}

// Ticked is what a tick was about; nothing when it had been kept before and is settled.
type Ticked struct {
	What  say.Text
	Place uuid.UUID
}

// Tick stores what somebody decided about a task of today's walk, in the walk's own words.
// Any other task is refused.
func Tick(ctx context.Context, s *store.Store, w who.Who, r TickRequest) (said Ticked, err error) {
	if err := w.Must(who.Record); err != nil {
		return said, err
	}
	walk, err := Today(ctx, s, w)
	if err != nil {
		return said, err
	}
	acts := false
	for _, stop := range walk.Stops {
		for _, t := range stop.Tasks {
			if t.Key == r.Task {
				said.What, acts = t.What(), t.Acts()
				said.Place, err = uuid.Parse(stop.Place)
			}
		}
	}
	if err != nil {
		return said, err
	}
	kind := TickedOff.Name
	if r.Skip {
		kind = PutOff.Name
	}
	return said, ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "round.Tick", What: r}, func(tx *store.Tx) error {
		if said.What == nil {
			return field.Refuse("task", "is not one of today's any more; load the round again")
		}
		if acts && !r.Skip && !r.Unwritten {
			return field.Refuse("task", "is done on its own page, which writes it down; or say that it was done without")
		}
		_, err := ledger.Write(
			ctx,
			tx,
			ledger.Fact{ID: r.ID, Kind: kind, About: []uuid.UUID{said.Place}, Data: Decision{Task: r.Task, What: say.Kept{Text: said.What}, Unwritten: acts && !r.Skip}},
		)
		return err
	})
}

// seedTests are the tests of seed that have not ended.
func seedTests(ctx context.Context, tx *store.Tx, places []round.Place) (out []round.SeedTest, err error) {
	open, err := seeds.OpenTests(ctx, tx)
	if err != nil || len(open) == 0 {
		return nil, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return nil, err
	}
	for _, t := range open {
		x := round.SeedTest{ID: t.Begun.Test.String(), Packet: t.Lot.String(), Name: t.Name, Begun: tx.Who.Day(t.At)}
		if len(t.Counts) > 0 {
			x.Counted = tx.Who.Day(t.Last)
		}
		warm := 20.0
		if t.TempC != nil {
			warm = *t.TempC
		}
		if pace := seed.PaceOf(book.Find(t.Crop))(warm); pace > 0 {
			x.DaysUp = 1 / pace
		}
		if slices.ContainsFunc(places, func(p round.Place) bool { return p.ID == t.Place.String() }) {
			x.Place = t.Place.String()
		}
		out = append(out, x)
	}
	return out, nil
}
