package goals

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/internal/crops"
	"ulpa/internal/season"
	"ulpa/internal/store"
	"ulpa/internal/things"
	"ulpa/internal/who"
)

// Batch is a sowing for a goal: as it is planned, or why it cannot be.
type Batch struct {
	ID    uuid.UUID
	Moves []plan.Placed
	Ready calendar.Day
	From  calendar.Day // it is wanted from this day
	By    calendar.Day
	Why   string // why it is not grown; "": it is
	// Of one that cannot be: the nearest days on which it could be ready; 0: none.
	Earlier, Later calendar.Day
	Sown           bool // it has begun already, as it was kept
	Plants, Cells  int
}

// planned tells whether it is still to be sown, on days and in places that were found.
func (b Batch) planned() bool { return !b.Sown && b.Why == "" }

// Line is a goal with its batches.
type Line struct {
	Goal    Setup
	Batches []Batch
}

// Missed tells how many of its batches cannot be grown.
func (l Line) Missed() (n int) {
	for _, b := range l.Batches {
		if b.Why != "" {
			n++
		}
	}
	return n
}

// Room is how full a place is in each week from the first.
type Room struct {
	Name  string
	Size  float64
	Weeks []float64 // the most that is in use on a day of it
}

// Outlook is the season as it is planned.
type Outlook struct {
	Today            calendar.Day
	First            calendar.Day // Monday of the first week
	Weeks            int
	Lines            []Line
	Rooms            []Room
	Minutes          []float64 // for moves, by week
	PerWeek          float64   // that there are, on open days of a whole week
	Closures         []calendar.Closure
	Cost, Bound, Gap float64
	Changes          []say.Text // what the plan would change of what was kept
	Tag              string     // of the plan
	kept             []kept
}

// kept is a sowing as it was kept.
type kept struct {
	ID         uuid.UUID
	Crop       string
	Wanted     int
	Moves      []plan.Placed
	Sow, Ready calendar.Day
	Sown       bool
}

func (o *Outlook) keptAs(id uuid.UUID) (kept, bool) {
	for _, k := range o.kept {
		if k.ID == id {
			return k, true
		}
	}
	return kept{}, false
}

// effort is how long the plan of a season is searched for: so many looks at the clock,
// so that the same season gives the same plan.
const effort = 500

// goodEnough is how much a plan may lose at most, for nobody to look for a better one.
const goodEnough = 0.002

// Look works the season out. It stands until somebody writes, or the day ends.
func Look(ctx context.Context, s *store.Store, w who.Who) (o Outlook, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		o, err = store.Keep(ctx, tx, "season "+w.Day(tx.Now).String(), func() (Outlook, error) { return look(ctx, tx) })
		return err
	})
	return o, err
}

func look(ctx context.Context, tx *store.Tx) (Outlook, error) {
	o := Outlook{Today: tx.Who.Day(tx.Now)}
	setups, err := all(ctx, tx)
	if err != nil {
		return o, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return o, err
	}
	school, err := season.Calendar(ctx, tx)
	if err != nil {
		return o, err
	}
	o.Closures = school.Closures
	if err := o.readKept(ctx, tx); err != nil {
		return o, err
	}
	var wanted []plan.Goal
	for _, g := range setups {
		if g.Retired || g.By < o.Today {
			continue
		}
		o.Lines = append(o.Lines, Line{Goal: g})
		wanted = append(wanted, plan.Goal{
			ID: g.ID.String(), Crop: book.Find(g.Crop), Wanted: g.Wanted, From: max(g.From, o.Today), By: g.By, Weekly: g.Kind == "weekly",
			Harvest: g.Harvest, Sure: *g.Sure, Missing: g.Missing,
		})
	}
	places, taken, err := standing(ctx, tx, o.Today)
	if err != nil {
		return o, err
	}
	batches := plan.BatchesFor(wanted, places)
	var open []plan.GoalBatch
	for _, b := range batches {
		k, ok := o.keptAs(o.idOf(b))
		if ok && k.Sown {
			continue
		}
		b.Kept, b.KeptReady = k.Moves, k.Ready
		open = append(open, b)
	}
	in := plan.GoalSeason(open, places, taken, o.Today, school.Closures, float64(tx.Who.Period))
	in.GoodEnough = goodEnough
	looks := 0
	result := plan.Season{}
	if len(in.Batches) > 0 && len(in.Places) > 0 {
		if result, err = plan.PlanSeason(in, func() float64 { looks++; return float64(looks) / effort }); err != nil {
			return o, err
		}
	}
	o.fill(batches, open, result)
	o.measure(in, result)
	o.Changes, o.Tag = o.compare(book), things.Tag(o.Lines)
	return o, nil
}

func (o *Outlook) readKept(ctx context.Context, tx *store.Tx) error {
	rows, err := tx.PlannedForGoals(ctx, o.Today.UTC())
	if err != nil {
		return err
	}
	for _, r := range rows {
		k := kept{ID: r.ID, Crop: r.Crop, Wanted: r.Wanted, Sow: calendar.Of(r.SowOn), Ready: calendar.Of(r.ReadyBy), Sown: r.Settled}
		if err := json.Unmarshal(r.Moves, &k.Moves); err != nil {
			return err
		}
		o.kept = append(o.kept, k)
	}
	return nil
}

// idOf is the id of a batch: of its goal and week, so that planned again it is the same.
func (o *Outlook) idOf(b plan.GoalBatch) uuid.UUID {
	return uuid.NewSHA1(o.Lines[b.Goal].Goal.ID, []byte(b.Week.String()))
}

// fill tells of each goal what comes of its batches; what stands already costs nothing, so
// cost and bound are of what is planned.
func (o *Outlook) fill(batches, open []plan.GoalBatch, result plan.Season) {
	o.Cost, o.Bound, o.Gap = result.Cost, result.Bound, result.Gap
	planned := map[uuid.UUID]plan.SeasonLine{}
	for i, line := range result.Batches[:min(len(open), len(result.Batches))] {
		planned[o.idOf(open[i])] = line
	}
	for _, b := range batches {
		x := Batch{ID: o.idOf(b), From: b.ReadyFrom, By: b.ReadyBy, Plants: b.Plants, Cells: b.Cells, Why: plan.Impossible}
		if k, ok := o.keptAs(x.ID); ok && k.Sown {
			x.Sown, x.Why, x.Ready, x.Moves = true, "", k.Ready, k.Moves
		} else if l, ok := planned[x.ID]; ok {
			x.Why, x.Ready, x.Moves = l.Why, l.Ready, l.Moves
		}
		if x.Why == plan.Impossible {
			x.Earlier, x.Later = b.Nearest(o.Closures, o.Today)
		}
		o.Lines[b.Goal].Batches = append(o.Lines[b.Goal].Batches, x)
	}
}

// measure says how full places are and how many minutes moves take, by week.
func (o *Outlook) measure(in plan.SeasonInput, result plan.Season) {
	o.First = o.Today.Monday()
	last := o.Today + 28
	for _, l := range o.Lines {
		for _, b := range l.Batches {
			last = max(last, b.By)
		}
	}
	o.Weeks = int(last-o.First)/7 + 1
	if in.Minutes != nil {
		o.PerWeek = 5 * *in.Minutes
	}
	load := in.LoadOf(result, o.First, 7*o.Weeks)
	o.Minutes = plan.ByWeek(load.Minutes, func(a, b float64) float64 { return a + b })
	for i, p := range in.Places {
		if p.Room > 0 && p.Room < unlimited {
			o.Rooms = append(o.Rooms, Room{p.Name, p.Room, plan.ByWeek(load.Rooms[i], func(a, b float64) float64 { return max(a, b) })})
		}
	}
}
