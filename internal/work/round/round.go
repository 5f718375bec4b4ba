// Package round joins what the areas give to today's walk, and keeps what people decided about
// it. It knows no area: each declares its part (Part), as a variable of its own.
//
//	walk, err := round.Today(ctx, store, who)
//	_, err = round.Tick(ctx, store, who, round.TickRequest{ID: id, Task: walk.Stops[0].Tasks[0].Key.String()})
package round

import (
	"context"
	"sync"
	"time"

	"github.com/google/uuid"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/cold"
	"ulpa/core/field"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/memo"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
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
	Nights []cold.Night
	Away   func() away.Plan       // how the next days go on which nobody is there
	Given  map[round.Key]Somebody // stops, and tasks
	People []Somebody             // to whom anything can be given
	day    round.Day              // what it was worked out from
	held   []held
}

// Minutes is how long everything due takes together.
func (w Walk) Minutes() int {
	n := 0
	for _, s := range w.Stops {
		n += s.Minutes
	}
	return n
}

// Today works out the walk. It holds for everybody until something that it was read from changes,
// for a minute at most.
func Today(ctx context.Context, s *store.Store, w who.Who) (out Walk, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = store.Keep(ctx, tx, "walk "+tx.Minute(), func() (Walk, error) { return today(ctx, tx) })
		return err
	})
	return out, err
}

// today joins what the areas give.
func today(ctx context.Context, tx *store.Tx) (Walk, error) {
	w := tx.Who
	walk := Walk{Today: w.Day(tx.Now), Now: tx.Now, Done: map[string][]Done{}}
	var err error
	if walk.day, err = DayOf(ctx, tx); err != nil {
		return walk, err
	}
	if walk.Period = walk.day.Calendar.Minutes(walk.Today, w.Period); walk.Period == 0 {
		walk.Period = w.Period
	}
	walk.Nights = walk.day.Cold.Ahead[:min(7, len(walk.day.Cold.Ahead))]
	var tasks []round.Task
	for _, p := range parts {
		x, err := p.held(ctx, tx)
		if err != nil {
			return walk, err
		}
		walk.held, tasks = append(walk.held, x), append(tasks, x.due...)
	}
	decided := round.Decided{Settled: map[round.Key]bool{}, Given: map[round.Key]string{}}
	if err := walk.settle(ctx, tx, decided.Settled); err != nil {
		return walk, err
	}
	if decided.Took, err = took(ctx, tx); err != nil {
		return walk, err
	}
	if err := walk.given(ctx, tx); err != nil {
		return walk, err
	}
	for key, p := range walk.Given {
		decided.Given[key] = p.Name
	}
	walk.Stops = round.Join(walk.day, tasks, decided)
	walk.Away = sync.OnceValue(func() away.Plan { return walk.foretell(away.Ahead(walk.day)) })
	return walk, nil
}

// DayOf is what every part goes by.
func DayOf(ctx context.Context, tx *store.Tx) (round.Day, error) {
	return store.Keep(ctx, tx, "ground "+tx.Minute(), func() (round.Day, error) {
		w := tx.Who
		day := round.Day{Today: w.Day(tx.Now), Now: tx.Now, Zone: w.Zone, DayBegins: w.DayBegins, DayEnds: w.DayEnds}
		for _, lay := range grounds {
			if err := lay(ctx, tx, &day); err != nil {
				return day, err
			}
		}
		return day, nil
	})
}

// settle reads what was done today: it is shown at its place, and what was
// ticked off or put off is not asked for again.
func (walk *Walk) settle(ctx context.Context, tx *store.Tx, settled map[round.Key]bool) error {
	since, until := walk.Today.At(0, 0, tx.Who.Zone), tx.Now.Add(time.Minute)
	tasks, err := tx.Decided(ctx, db.DecidedParams{Since: since, Until: until})
	if err != nil {
		return err
	}
	for _, t := range tasks {
		if key, ok := round.ReadKey(t); ok {
			settled[key] = true
		}
	}
	done, err := doneSince(ctx, tx, since)
	for place, all := range done {
		for _, d := range all {
			if !d.At.After(until) {
				walk.Done[place.String()] = append(walk.Done[place.String()], d)
			}
		}
	}
	return err
}

// doneSince is what was written at each place since a moment, in the order it happened.
func doneSince(ctx context.Context, tx *store.Tx, since time.Time) (store.Each[[]Done], error) {
	return store.KeepEach(ctx, tx, "done since "+since.String(), []string{memo.AnyEntry}, func(of []uuid.UUID) (store.Each[[]Done], error) {
		rows, err := tx.DoneAt(ctx, db.DoneAtParams{Places: of, Since: since})
		out := store.Each[[]Done]{}
		for _, r := range rows {
			d := Done{Entry: r.ID, Says: ledger.Said(tx, r.ID, r.Kind, r.Data), Person: r.Person, At: r.HappenedAt, Skip: r.Kind == PutOff.Name}
			if r.Code != "" {
				d.Says = say.T("%s: %s", r.Code, d.Says)
			}
			out[r.PlaceID] = append(out[r.PlaceID], d)
		}
		return out, err
	})
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
	var task round.Task
	for _, stop := range walk.Stops {
		for _, t := range stop.Tasks {
			if t.Key.String() == r.Task {
				said.What, task = t.What(), t
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
		acts := task.Acts()
		if acts && !r.Skip && !r.Unwritten {
			return field.Refuse("task", "is done on its own page, which writes it down; or say that it was done without that")
		}
		_, err := ledger.Write(
			ctx,
			tx,
			ledger.Fact{ID: r.ID, Kind: kind, About: []uuid.UUID{said.Place}, Data: Decision{
				Task: r.Task, Kind: task.Key.Kind, What: say.Kept{Text: said.What}, Unwritten: acts && !r.Skip,
			}},
		)
		return err
	})
}

// TickOf is a task that was ticked off, and when.
type TickOf struct {
	round.Key
	At time.Time
}

// Ticks are those of a kind since a moment, in the order of time.
func Ticks(ctx context.Context, tx *store.Tx, kind *round.Kind, since time.Time) (out []TickOf, err error) {
	rows, err := tx.TicksOf(ctx, db.TicksOfParams{Kind: kind.Name, Since: since})
	for _, r := range rows {
		// Ticks of earlier releases say their kind in the key alone.
		if key, ok := round.ReadKey(r.Task); ok && key.Kind == kind.Name {
			out = append(out, TickOf{key, r.HappenedAt})
		}
	}
	return out, err
}
