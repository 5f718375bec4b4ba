// Package round works out today's walk: what is due at each place, why, and
// how long it takes. It stores nothing; what people decided comes in.
//
//	for _, stop := range round.Plan(school) {
//		for _, task := range stop.Tasks { ... }
//	}
package round

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/harden"
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/sprout"
	"ulpa/core/tank"
)

// Urgency orders what is due.
type Urgency int

// Now loses something if it waits for the next open day, and its reason says what;
// Today belongs to today; Soon can wait.
const (
	Now Urgency = iota
	Today
	Soon
)

// Word is how people say it.
func (u Urgency) Word() string { return [...]string{"now", "today", "soon"}[u] }

// Task is one thing to do at a stop. What reads with the batch's code between
// Before and After.
type Task struct {
	Key string // the same on the same day for the same thing
	// Kind is count, warmth, look, move, reading, dip, treat, rescue, fill, visit,
	// harden, close, forecast, bring_in, cover, take_out, set_out, harvest, sow, job, test, gap,
	// rinse, discard, attend, pot, care, calibrate, fish_alarm, fish_read, fish_feed, fish_weigh,
	// boards.
	Kind          string
	Before, After say.Text
	Code          string
	Why           say.Text
	Urgency       Urgency
	Minutes       int
	Batch, Tray   string
	Tank, Planned string
	Job           string // one of the school's own
	Packet        string // of seed
	Meter         string
	Trough        string
	Raft          string // the place of its boards
	Cells         string // of its tray
	Times         int    // so often it was done here for its minutes to be known; 0: the usual ones
	For           string // the crew or person it is given to; "": whoever comes
}

// What is the task in one line.
func (t Task) What() say.Text {
	list := []say.Text{t.Before}
	if t.Code != "" {
		list = append(list, say.Name(t.Code))
	}
	return say.Join(" ", append(list, t.After)...)
}

// weights order what cannot wait: plants that die first, then tonight's cold, then what
// runs dry.
var weights = map[string]int{"rescue": 0, "discard": 1, "attend": 1, "fish_alarm": 0, "bring_in": 1, "cover": 1, "close": 1, "fill": 2, "visit": 2}

// Rank orders tasks: by their urgency, and what cannot wait by what is lost.
func (t Task) Rank() int {
	w, ok := weights[t.Kind]
	if !ok || t.Urgency != Now {
		w = 3
	}
	return 10*int(t.Urgency) + w
}

// acts are the kinds of which a page writes down what was done; a tick alone writes
// nothing of it.
var acts = []string{
	"count", "look", "move", "set_out", "bring_in", "take_out", "harvest", "sow", "reading",
	"treat", "fill", "test", "gap", "rinse", "discard", "pot", "care", "calibrate", "fish_read", "fish_feed", "fish_weigh", "boards",
}

// Acts tells whether ticking the task off writes down less than doing it on its page.
func (t Task) Acts() bool { return slices.Contains(acts, t.Kind) }

// Stop is one place of the walk.
type Stop struct {
	Place   string
	Name    string
	Tasks   []Task
	Minutes int
	For     string // the crew or person who looks after it; "": whoever comes
}

// GivenTo counts the tasks that are given to a crew or person.
func (s Stop) GivenTo(name string) (n int) {
	for _, t := range s.Tasks {
		if name != "" && t.For == name {
			n++
		}
	}
	return n
}

const stopKey = "stop:"

// StopKey is the key of the stop at a place.
func StopKey(place string) string { return stopKey + place }

// OfStop tells whether a key is a stop's, and not a task's.
func OfStop(key string) bool { return strings.HasPrefix(key, stopKey) }

// Urgency of a stop is that of its most urgent task; ok is false when nothing is due.
func (s Stop) Urgency() (u Urgency, ok bool) {
	u = Soon
	for _, t := range s.Tasks {
		u = min(u, t.Urgency)
	}
	return u, len(s.Tasks) > 0
}

// rank is that of its first task; stops where nothing is due come last.
func (s Stop) rank() int {
	r := 1000
	for _, t := range s.Tasks {
		r = min(r, t.Rank())
	}
	return r
}

// Order is the stops in the order to walk: those where something cannot wait first, what
// dies before what is late, whatever the walk's own order; then those of today in that
// order, and those that can wait.
func Order(stops []Stop) []Stop {
	out := slices.Clone(stops)
	slices.SortStableFunc(out, func(a, b Stop) int {
		x, y := a.rank(), b.rank()
		return cmp.Or(cmp.Compare(x/10, y/10), cmp.Compare(min(x, 10), min(y, 10)))
	})
	return out
}

// Fits is how many of the stops in order fit into so many minutes; what cannot wait
// always does.
func Fits(ordered []Stop, minutes int) (n int) {
	spent := 0
	for _, s := range ordered {
		spent += s.Minutes
		if s.rank() >= 10*int(Today) && spent > minutes {
			break
		}
		n++
	}
	return n
}

// Place is a place to walk by.
type Place struct {
	ID, Name, Kind string
	TemperatureC   float64
}

// Sprouts is what to expect of a sowing, and what its last count said.
type Sprouts struct {
	ComesUp bool // it can, where it stands
	Share   float64
	Now     seed.Expected
	AtCount *seed.Expected // at the day of the last count, with what was seen; nil: never
}

// Batch is what the walk needs to know of a batch. In counts its plants and
// waiting cells by place; trays say where its cells are.
type Batch struct {
	ID, Code          string
	Crop              crop.Crop
	Sown              calendar.Day
	Waiting           int  // cells undecided
	Rooting           bool // and these are of cuttings and the like
	Sprouted, Cells   int
	Standing          int // in trays; of sprouts, their vessels
	Sprouts           Sprouts
	Counted, Cut      calendar.Day
	Whole             bool // plants were taken whole when it was cut
	Verdict           ready.Verdict
	LookedOn          calendar.Day
	InTray            map[string]string // place → tray
	InPorts, InStands map[string]int    // place → plants
	Harden            *harden.Plan      // when it was ever begun
	Frame             string            // the place where it hardens
	GoodDays          int               // outside so far
	Planned           *PlannedMove      // that out of its tray, as the season has it; nil: none
	Potted            []Potted
	Sprouting         *sprout.Care // what was done to it; nil: it is nothing that is rinsed
}

// Potted are plants of a batch that stand in pots at a place.
type Potted struct {
	Place, Pot string // the pot by its name
	Plants     int
	Verdict    ready.Verdict
}

// PlannedMove is a move of a batch as the season's plan has it.
type PlannedMove struct {
	Day      calendar.Day
	To, Goal string // the place, and what it is for
}

// Tank is a reservoir at a place.
type Tank struct {
	ID, Name, Place string
	tank.Tank
}

// Planned is a sowing that is meant to happen.
type Planned struct {
	ID             string
	Crop           say.Text // by its name
	Wanted         int
	SowOn, ReadyBy calendar.Day
}

// School is everything the walk is worked out from.
type School struct {
	Today     calendar.Day
	Now       time.Time
	Zone      *time.Location
	DayBegins int // of the school's day, minutes after midnight
	DayEnds   int
	Calendar  calendar.School
	Places    []Place
	Batches   []Batch
	Tanks     []Tank
	Planned   []Planned
	Jobs      []Job
	Tests     []SeedTest
	Gaps      []Gap
	Trays     []Tray
	Meters    []Meter
	Troughs   []Trough
	Rafts     []Raft
	Cold      cold.Site
	Took      map[string]Took   // by kind of task, as Learn gives it
	Given     map[string]string // to whom a stop or a task is given, by StopKey and by the task's key
	Settled   map[string]bool   // keys done or put off today
}

// Plan is today's walk, in the order of the places.
func Plan(s School) []Stop {
	var stops []Stop
	for _, p := range s.Places {
		stop := Stop{Place: p.ID, Name: p.Name, For: s.Given[StopKey(p.ID)]}
		for _, b := range s.Batches {
			stop.Tasks = append(stop.Tasks, s.batchTasks(p, b)...)
		}
		stop.Tasks = append(stop.Tasks, s.frameTasks(p)...)
		stop.Tasks = append(stop.Tasks, s.forecastTasks(p)...)
		stop.Tasks = append(stop.Tasks, s.tankTasks(p)...)
		stop.Tasks = append(stop.Tasks, s.jobTasks(p)...)
		stop.Tasks = append(stop.Tasks, s.testTasks(p)...)
		stop.Tasks = append(stop.Tasks, s.gapTasks(p)...)
		stop.Tasks = append(stop.Tasks, s.trayCare(p)...)
		stop.Tasks = append(stop.Tasks, s.meterTasks(p)...)
		stop.Tasks = append(stop.Tasks, s.fishTasks(p)...)
		stop.Tasks = append(stop.Tasks, s.raftTasks(p)...)
		if p.ID == s.sowingPlace() {
			stop.Tasks = append(stop.Tasks, s.sowingTasks()...)
		}
		stop.Tasks = slices.DeleteFunc(stop.Tasks, func(t Task) bool { return s.Settled[t.Key] })
		slices.SortStableFunc(stop.Tasks, func(a, b Task) int { return cmp.Compare(a.Rank(), b.Rank()) })
		for i := range stop.Tasks {
			t := &stop.Tasks[i]
			if took, known := s.Took[t.Timing()]; known {
				t.Minutes, t.Times = took.Minutes, took.Times
			}
			t.For = cmp.Or(s.Given[t.Key], t.For, stop.For)
			stop.Minutes += t.Minutes
		}
		stops = append(stops, stop)
	}
	return stops
}

// Absence is the run of closed days ahead: the last day somebody is there before it,
// the day somebody is back, and how many days nobody is.
func (s School) Absence() (from, back calendar.Day, closed int) {
	from = s.Today
	for s.Calendar.Open(from + 1) {
		from++
	}
	back, closed = s.Calendar.Next(from)
	return from, back, closed
}

// visit is when somebody is next there.
func (s School) visit() tank.Visit {
	back, closed := s.Calendar.Next(s.Today)
	return s.visitOn(back, closed)
}

func (s School) visitOn(back calendar.Day, closed int) tank.Visit {
	return tank.Visit{At: back.At(s.DayBegins/60, s.DayBegins%60, s.Zone), On: back.Long(), Closed: closed}
}

func (s School) key(kind, id string) string { return kind + ":" + id + ":" + s.Today.String() }

// sowingPlace is where sowing is done: the first bench of the walk, else its first place.
func (s School) sowingPlace() string {
	i := max(0, slices.IndexFunc(s.Places, func(p Place) bool { return p.Kind == "bench" }))
	if len(s.Places) == 0 {
		return ""
	}
	return s.Places[i].ID
}

// sowingTasks are the planned sowings of today, of before, and of the closed
// days that follow.
func (s School) sowingTasks() (out []Task) {
	next, closed := s.Calendar.Next(s.Today)
	for _, p := range s.Planned {
		if p.SowOn >= next {
			continue
		}
		t := Task{
			Key: s.key(
				"sow",
				p.ID,
			), Kind: "sow", Before: say.T("Sow %s, %s wanted", say.Lower(p.Crop), say.Plural(p.Wanted, "plant")), Planned: p.ID, Urgency: Today, Minutes: 12,
			Why: say.T("Planned, to be ready by %s.", p.ReadyBy.Long()),
		}
		if p.SowOn < s.Today {
			t.Why = say.T("It was planned for %s: every day it waits is a day later than %s.", p.SowOn.Long(), p.ReadyBy.Long())
		}
		out = append(out, t.before(next, closed))
	}
	return out
}

// before is a sowing that cannot wait where nobody is there for some days.
func (t Task) before(next calendar.Day, closed int) Task {
	if closed > 1 {
		t.Urgency = Now
		t.Why = say.T("%s Nobody can before %s.", t.Why, next.Long())
	}
	return t
}
