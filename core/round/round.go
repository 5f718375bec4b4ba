package round

import (
	"cmp"
	"slices"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/cold"
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

// Day is what every rule goes by: the day, the hours, when somebody is there, where one walks by,
// and the nights.
type Day struct {
	Today     calendar.Day
	Now       time.Time
	Zone      *time.Location
	DayBegins int // of the school's day, minutes after midnight
	DayEnds   int
	Calendar  calendar.School
	Places    []Place
	Trays     map[string]string // what they are called, by their ids
	Cold      cold.Site
}

// Place is a place to walk by.
type Place struct {
	ID, Name, Kind string
	TemperatureC   float64
}

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

const stop = "stop"

// StopKey is the key of the stop at a place.
func StopKey(place string) Key { return Key{Kind: stop, Of: place} }

// OfStop tells whether a key is a stop's, and not a task's.
func (k Key) OfStop() bool { return k.Kind == stop }

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

// Decided is what people decided about the walk, and what was learned from them.
type Decided struct {
	Settled map[Key]bool    // done or put off today
	Given   map[Key]string  // to whom a stop or a task is given
	Took    map[string]Took // by Timing, as Learn gives it
}

// Join puts the tasks of all things at their stops, in the order of the places; at a stop what
// cannot wait comes first, and otherwise the order in which they come in.
func Join(d Day, tasks []Task, x Decided) []Stop {
	var stops []Stop
	for _, p := range d.Places {
		at := Stop{Place: p.ID, Name: p.Name, For: x.Given[StopKey(p.ID)]}
		for _, t := range d.together(tasks, p.ID, x.Settled) {
			if took, known := x.Took[t.Timing()]; known {
				t.Minutes, t.Times = took.Minutes, took.Times
			}
			t.For = cmp.Or(x.Given[t.Key], t.For, at.For)
			at.Minutes += t.Minutes
			at.Tasks = append(at.Tasks, t)
		}
		slices.SortStableFunc(at.Tasks, func(a, b Task) int { return cmp.Compare(a.Rank(), b.Rank()) })
		stops = append(stops, at)
	}
	return stops
}

// together are the tasks of a place that are not settled, those that are done in one go as one of
// them, where the first of them stands.
func (s Day) together(tasks []Task, place string, settled map[Key]bool) (out []Task) {
	var groups [][]Task
	at := map[Key]int{}
	for _, t := range tasks {
		if t.Place != place || settled[t.Key] {
			continue
		}
		key, whole := t.whole()
		if i, known := at[key]; whole && known {
			groups[i] = append(groups[i], t)
		} else if !whole || !settled[key] {
			at[key] = len(groups)
			groups = append(groups, []Task{t})
		}
	}
	for _, list := range groups {
		t := list[0]
		if key, whole := t.whole(); whole && (len(list) > 1 || t.Kind.As == nil) {
			kind := cmp.Or(t.Kind.As, t.Kind)
			t = t.Kind.Together(s, list)
			t.Key, t.Kind = key, kind
		}
		out = append(out, t)
	}
	return out
}

// whole is the key of what a task is done in one go with; false when it stands by itself.
func (t Task) whole() (Key, bool) {
	switch k := t.Kind; {
	case k.Together == nil:
		return t.Key, false
	case k.As != nil:
		of := k.By(t)
		return Key{Kind: k.As.Name, Of: of, Day: t.Day}, of != ""
	}
	return Key{Kind: t.Kind.Name, Of: t.Place, Day: t.Day}, true
}

// Absence is the run of closed days ahead: the last day somebody is there before it,
// the day somebody is back, and how many days nobody is.
func (s Day) Absence() (from, back calendar.Day, closed int) {
	from = s.Today
	for s.Calendar.Open(from + 1) {
		from++
	}
	back, closed = s.Calendar.Next(from)
	return from, back, closed
}

// visit is when somebody is next there.
func (s Day) visit() tank.Visit {
	back, closed := s.Calendar.Next(s.Today)
	return s.visitOn(back, closed)
}

func (s Day) visitOn(back calendar.Day, closed int) tank.Visit {
	return tank.Visit{At: back.At(s.DayBegins/60, s.DayBegins%60, s.Zone), On: back.Long(), Closed: closed}
}

// next is when somebody is there again after today, and how many days nobody is.
func (s Day) next() (back calendar.Day, closed int) { return s.Calendar.Next(s.Today) }

// sowingPlace is where sowing is done: the first bench of the walk, else its first place.
func (s Day) sowingPlace() string {
	i := max(0, slices.IndexFunc(s.Places, func(p Place) bool { return p.Kind == "bench" }))
	if len(s.Places) == 0 {
		return ""
	}
	return s.Places[i].ID
}
