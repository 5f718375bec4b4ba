package goals

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/internal/base/memo"
	"ulpa/internal/base/store"
	"ulpa/internal/base/things"
	"ulpa/internal/base/timer"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/season"
	"ulpa/internal/work/seeds"
)

// Batch is a sowing for a goal: as it is planned, or why it cannot be.
type Batch struct {
	ID    uuid.UUID
	Moves []plan.Placed
	Ready calendar.Day
	From  calendar.Day // it is wanted from this day
	By    calendar.Day
	Short int        // days fewer than its certainty asks for
	Why   string     // why it is not grown; "": it is
	Cause plan.Cause // and what stands in its way
	// Of one that cannot be: the nearest days on which it could be ready; 0: none.
	Earlier, Later calendar.Day
	Sown           bool // it has begun already, as it was kept
	Real                // what has become of it, where it was sown
	Plants, Cells  int
	Seeds          int                // that it takes
	Again          int                // it makes up for what came of this many sowings before it
	Wish           plan.Wish          // what was said of it
	Stages         []plan.SeasonStage // as they suit it, whatever was said of it
	Heat           plan.Heat
}

// planned tells whether it is still to be sown, on days and in places that were found.
func (b Batch) planned() bool { return !b.Sown && b.Why == "" && !b.Wish.Skip }

// Line is a goal with its batches.
type Line struct {
	Goal    Setup
	Crop    crop.Crop         // as the school has changed it
	OutFrom calendar.Day      // set out not before, for the frost; 0: not known
	Plants  int               // of each batch, by what is wanted
	Raised  *seed.Germination // the share of cells that gave a plant here; nil: there is no record
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

// Late is by how many days the latest of its batches is behind.
func (l Line) Late() (days int) {
	for _, b := range l.Batches {
		days = max(days, b.Late)
	}
	return days
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
	There            []float64 // minutes that there are, by week
	School           calendar.School
	Frosts           cold.Frosts
	Cost, Bound, Gap float64
	Changes          []say.Text // what the plan would change of what was kept
	Tag              string     // of the plan
	kept             []kept
	question         question
}

// question is what was asked of the season, and what came of it: for ways out.
type question struct {
	in     plan.SeasonInput
	answer plan.Season
	ids    []uuid.UUID // of the batches that are still to be sown, as in the question
}

// kept is a sowing as it was kept.
type kept struct {
	ID, Goal   uuid.UUID
	Crop       string
	Wanted     int
	Moves      []plan.Placed
	Sow, Ready calendar.Day
	Sown       bool
	Batch      *uuid.UUID // that it became
	Closed     bool
	Came       int // plants, of a batch that is closed
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

// worthMoving are the points that must be gained for what is kept to be moved: about what one
// plant counts that is nice to have.
const worthMoving = 15

// Look works the season out. It holds until something that it was read from changes, or the day ends.
func Look(ctx context.Context, s *store.Store, w who.Who) (o Outlook, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		o, err = Ahead(ctx, tx)
		return err
	})
	return o, err
}

// Ahead is Look within a transaction that reads.
func Ahead(ctx context.Context, tx *store.Tx) (Outlook, error) {
	return store.Keep(ctx, tx, "season "+tx.Light(), func() (Outlook, error) { return look(ctx, tx) })
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
	if o.School, err = season.Calendar(ctx, tx); err != nil {
		return o, err
	}
	if err := o.readKept(ctx, tx); err != nil {
		return o, err
	}
	wishes, err := wishesOf(ctx, tx)
	if err != nil {
		return o, err
	}
	for _, g := range setups {
		if g.Retired || g.By < o.Today {
			continue
		}
		o.Lines = append(o.Lines, Line{Goal: g})
	}
	now, err := standing(ctx, tx, o.Today)
	if err != nil {
		return o, err
	}
	past, err := recordOf(ctx, tx)
	if err != nil {
		return o, err
	}
	if o.Frosts, err = season.Frosts(ctx, tx); err != nil {
		return o, err
	}
	made, err := o.goals(ctx, tx, book, now, past)
	if err != nil {
		return o, err
	}
	open := o.batches(made, wishes, now, o.openOn(tx.Who.Period))
	in := plan.GoalSeason(open, now.places, now.taken, o.Today, o.School, tx.Who.Period)
	in.GoodEnough, in.Stay = goodEnough, worthMoving
	result := plan.Season{}
	if len(in.Batches) > 0 && len(in.Places) > 0 {
		if result, err = search(ctx, in); err != nil {
			return o, err
		}
	}
	o.question.in, o.question.answer = in, result
	o.fill(open, result)
	o.measure(in, result, tx.Who.Period)
	o.Changes, o.Tag = o.compare(book), things.Tag(o.Lines)
	return o, nil
}

var searched = timer.Holding[plan.Season]()

// search looks for the best plan.
func search(ctx context.Context, in plan.SeasonInput) (plan.Season, error) {
	var open []bool // the answers of a question that cannot be told itself
	for d := in.From; in.Open != nil && d <= in.To; d++ {
		open = append(open, in.Open(d))
	}
	return searched.Search(ctx, []any{in, open}, effort, func(spent func() float64) (plan.Season, error) { return plan.PlanSeason(in, spent) })
}

// goals are the batches that the goals of the lines need.
func (o *Outlook) goals(ctx context.Context, tx *store.Tx, book crops.Book, now stand, past record) (all []plan.GoalBatch, err error) {
	raising := now.raising()
	shelf, err := seeds.Read(ctx, tx)
	if err != nil {
		return nil, err
	}
	pace := paceOf(now.lines, now.seen, raising.TemperatureC)
	for i, l := range o.Lines {
		g, c := l.Goal, book.Find(l.Goal.Crop)
		o.Lines[i].Crop, o.Lines[i].Plants, o.Lines[i].Raised = c, past.plants(g, c, now.all), past.raised(c)
		out, _ := o.Frosts.Safe(c, g.By)
		if o.Lines[i].OutFrom = out; g.Kind == "bed" {
			g.From = max(g.From, min(out, g.By))
		}
		growing := now.growing(c, raising)
		goal := plan.Goal{
			ID: g.ID.String(), Crop: c, Wanted: o.Lines[i].Plants, From: max(g.From, o.Today), By: g.By, OutFrom: out, InBy: o.inBy(c, g.By, out),
			Weekly: g.Kind == "weekly", Weekday: g.weekday(), Open: o.openOn(tx.Who.Period),
			Out: plan.GoesOut(g.Kind, g.Harvest), Harvest: g.Harvest, Sure: *g.Sure, Missing: g.Missing, Raised: o.Lines[i].Raised, Pace: pace,
			Seed:    now.seedOf(shelf, g),
			Last:    now.names[g.Place],
			Raising: weather(tx, raising), Growing: weather(tx, growing),
		}
		if g.PlantG != nil {
			goal.PlantG = *g.PlantG
		} else if g.Grams != nil {
			goal.PlantG = past.grams[c.ID].mean
		}
		if goal.Growing != nil {
			goal.Grows = plan.GrowsHere(c, past.weighed[c.ID], *goal.Growing)
		}
		of, err := batchesOf(goal, now.places, o.School, tx.Who.Period, tx.Who.Latitude, tx.Who.Zone.String(), raising.Weather(), growing.Weather())
		if err != nil {
			return nil, err
		}
		for _, b := range of {
			b.Goal = i
			all = append(all, b)
		}
	}
	return all, nil
}

// openOn tells on which days the group works.
func (o *Outlook) openOn(usual int) func(calendar.Day) bool {
	return func(d calendar.Day) bool { return o.School.Minutes(d, usual) > 0 }
}

// needed are the batches that goals need, by what they were worked out from.
var needed = memo.Memo[[sha256.Size]byte, []plan.GoalBatch]{Most: 1024}

// batchesOf are the batches that a goal needs; weather is what that of its places hangs on.
func batchesOf(g plan.Goal, places []plan.GoalPlace, weather ...any) ([]plan.GoalBatch, error) {
	from, err := json.Marshal([]any{g, places, weather})
	if err != nil {
		return nil, err
	}
	return needed.Get(sha256.Sum256(from), func() []plan.GoalBatch { return plan.BatchesFor([]plan.Goal{g}, places) }), nil
}

// batches puts the batches of the goals on their lines, as they were wished and kept, and gives
// those that are still to be sown.
func (o *Outlook) batches(all []plan.GoalBatch, wishes map[uuid.UUID]plan.Wish, now stand, there func(calendar.Day) bool) (open []plan.GoalBatch) {
	for _, b := range all {
		for _, x := range o.parts(b, now) {
			x.Wish, x.Heat = wishes[x.ID], b.Heat
			if !x.Sown {
				suits := b.Fewer(x.Plants)
				b := suits.Heed(x.Wish)
				b.Name = x.ID.String()
				k, _ := o.keptAs(x.ID)
				b.Kept, b.KeptReady = k.Moves, k.Ready
				x.From, x.By, x.Plants, x.Cells, x.Stages = b.ReadyFrom, b.ReadyBy, b.Plants, b.Cells, suits.Stages
				x.Seeds = b.Cells * b.SeedsPerCell
				if len(x.Wish.Pins) == 0 {
					b, x.Late = b.Late(there, o.Today, o.Lines[b.Goal].Goal.mayBeLate())
				}
				if !x.Wish.Skip {
					open, o.question.ids = append(open, b), append(o.question.ids, x.ID)
				}
			}
			o.Lines[b.Goal].Batches = append(o.Lines[b.Goal].Batches, x)
		}
	}
	return open
}

// How many days late a sowing is still worth it: an order of a week is met by what is ready before
// the next but one, and plants for a planting day are planted later. A class does not wait.
const lateWeekly, lateOnce = 12, 28

func (g Setup) mayBeLate() int {
	switch g.Kind {
	case "class":
		return 0
	case "weekly":
		return lateWeekly
	}
	return lateOnce
}

func (o *Outlook) readKept(ctx context.Context, tx *store.Tx) error {
	rows, err := tx.PlannedForGoals(ctx, o.Today.UTC())
	if err != nil {
		return err
	}
	for _, r := range rows {
		k := kept{
			ID: r.ID, Crop: r.Crop, Wanted: r.Wanted, Sow: calendar.Of(r.SowOn), Ready: calendar.Of(r.ReadyBy), Sown: r.Sown,
			Batch: r.BatchID, Closed: r.Closed, Came: r.Came,
		}
		if r.GoalID != nil {
			k.Goal = *r.GoalID
		}
		if err := json.Unmarshal(r.Moves, &k.Moves); err != nil {
			return err
		}
		o.kept = append(o.kept, k)
	}
	return nil
}

// idOf is the id of a batch: of its goal, its week, and how often it was sown before; so
// that planned again it is the same.
func idOf(goal uuid.UUID, week calendar.Day, again int) uuid.UUID {
	called := week.String()
	if again > 0 {
		called = fmt.Sprint(called, " again ", again)
	}
	return uuid.NewSHA1(goal, []byte(called))
}

// inBy is until when a crop that is set out from a day on may stand outside: to the first
// frost of autumn after it; 0: it may.
func (o *Outlook) inBy(c crop.Crop, ready, out calendar.Day) calendar.Day {
	d, ok := o.Frosts.InBy(c, ready)
	switch {
	case !ok:
		return 0
	case d <= out: // that of the autumn before
		d, _ = o.Frosts.InBy(c, d+365)
	}
	return d
}

// parts are the sowings of a batch: those that were sown, as they are, and what is still to
// be sown, all of it or what has been lost.
func (o *Outlook) parts(b plan.GoalBatch, now stand) (out []Batch) {
	goal, missing := o.Lines[b.Goal].Goal, b.Plants
	for again := 0; ; again++ {
		x := Batch{ID: idOf(goal.ID, b.Week, again), From: b.ReadyFrom, By: b.ReadyBy, Plants: missing, Again: again}
		k, ok := o.keptAs(x.ID)
		if !ok || !k.Sown {
			if again == 0 || missing > worthSowing(b.Plants) {
				out = append(out, x)
			}
			return out
		}
		x.Sown, x.Plants, x.Ready, x.Moves = true, k.Wanted, k.Ready, k.Moves
		x.Real = now.real(k, goal, x.By)
		x.Ready = max(x.Ready, x.Expected)
		missing -= x.Have
		out = append(out, x)
	}
}

// worthSowing is how many plants may be missing without anything being sown for them.
func worthSowing(plants int) int { return max(1, plants*15/100) }

// mostExplained are the batches of which it is looked for what stands in their way.
const mostExplained = 40

// fill tells of each batch what comes of it; what stands already costs nothing, so cost and
// bound are of what is planned.
func (o *Outlook) fill(open []plan.GoalBatch, result plan.Season) {
	o.Cost, o.Bound, o.Gap = result.Cost, result.Bound, result.Gap
	at, explained := map[uuid.UUID]int{}, 0
	for i, id := range o.question.ids {
		at[id] = i
	}
	for i := range o.Lines {
		for k := range o.Lines[i].Batches {
			x := &o.Lines[i].Batches[k]
			n, asked := at[x.ID]
			switch {
			case !asked:
			case n < len(result.Batches):
				x.Why, x.Short, x.Ready, x.Moves = result.Batches[n].Why, result.Batches[n].Short, result.Batches[n].Ready, result.Batches[n].Moves
			default:
				x.Why = plan.Impossible
			}
			if x.Why != "" && n < len(result.Batches) && explained < mostExplained {
				x.Cause = plan.Because(o.question.in, result, n)
				explained++
			}
			if x.Why == plan.Impossible {
				x.Earlier, x.Later = open[n].Nearest(o.question.in.Open, o.Today)
			}
		}
	}
}

// measure says how full places are and how many minutes moves take, by week.
func (o *Outlook) measure(in plan.SeasonInput, result plan.Season, usual int) {
	o.First = o.Today.Monday()
	last := o.Today + 28
	for _, l := range o.Lines {
		for _, b := range l.Batches {
			last = max(last, b.By)
		}
	}
	o.Weeks = int(last-o.First)/7 + 1
	sum := func(a, b float64) float64 { return a + b }
	there := make([]float64, 7*o.Weeks)
	for i := range there {
		there[i] = float64(o.School.Minutes(o.First+calendar.Day(i), usual))
	}
	load := in.LoadOf(result, o.First, 7*o.Weeks)
	o.Minutes, o.There = plan.ByWeek(load.Minutes, sum), plan.ByWeek(there, sum)
	for i, p := range in.Places {
		if p.Room > 0 && p.Room < unlimited {
			o.Rooms = append(o.Rooms, Room{p.Name, p.Room, plan.ByWeek(load.Rooms[i], func(a, b float64) float64 { return max(a, b) })})
		}
	}
}
