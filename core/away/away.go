// Package away forecasts what stands in a school while nobody is there: what runs dry,
// freezes, leaves its band, overgrows or goes unrinsed, when, what to do about it on the
// last day and in which order, and what needs somebody nevertheless.
//
// Each thing fares by itself: OfTank, OfTrough, OfBatch, Tray.Fares and Pots.Fares say how;
// Foretell puts them together.
//
//	span := away.Ahead(day)
//	plan := away.Foretell(day, span, away.OfTank(day, span, tank))
package away

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Span is a stretch of days on which nobody is there.
type Span struct {
	From, Back    calendar.Day // the last day somebody is, and the first again
	Leave, Return time.Time
	Closed        int // days in between
}

// Hours that nobody is there.
func (s Span) Hours() float64 { return max(1, s.Return.Sub(s.Leave).Hours()) }

// Ahead is the next such stretch.
func Ahead(s round.Day) Span {
	from, _, _ := s.Absence()
	return From(s, from)
}

// From is the stretch that follows a day.
func From(s round.Day, from calendar.Day) Span {
	x := between(s, from)
	if s.Now.After(x.Leave) {
		x.Leave = s.Now
	}
	return x
}

// between is from the last bell of a day to the first of the next that is open.
func between(s round.Day, from calendar.Day) Span {
	back, closed := s.Calendar.Next(from)
	return Span{
		From: from, Back: back, Closed: closed,
		Leave: from.At(s.DayEnds/60, s.DayEnds%60, s.Zone), Return: back.At(s.DayBegins/60, s.DayBegins%60, s.Zone),
	}
}

// Coming are the stretches that begin within so many days, the next one first.
func Coming(s round.Day, days int) (out []Span) {
	for d := s.Today; d <= s.Today+calendar.Day(days); d++ {
		if s.Calendar.Open(d) && !s.Calendar.Open(d+1) {
			out = append(out, From(s, d))
		}
	}
	if len(out) == 0 {
		out = append(out, Ahead(s))
	}
	return out
}

// Past are the stretches that ended within so many days, the last one first.
func Past(s round.Day, days int) (out []Span) {
	for d := s.Today - 1; d >= s.Today-calendar.Day(days); d-- {
		if !s.Calendar.Open(d) || s.Calendar.Open(d+1) {
			continue
		}
		if x := between(s, d); x.Back <= s.Today {
			out = append(out, x)
		}
	}
	return out
}

// What happens to a thing.
const (
	Dry      = "dry"
	Band     = "band" // its pH or strength leaves what its plants tolerate
	Cold     = "cold"
	Late     = "late" // it outgrows where it stands
	Ripe     = "ripe"
	Unrinsed = "unrinsed"
	Unfed    = "unfed"
	Unknown  = "unknown" // nobody can say
)

// Thing is one tank, tray, batch of pots, frame or batch, and how it fares.
type Thing struct {
	Key                       string // the same for the same thing
	What                      string
	Name, Place               string // the place by its name
	Batch, Tray, Tank, Trough string // one of them: its id
	Says                      say.Text
	In5, In50                 *time.Time // when it has come to that with a chance of 5 %, and of 50 %; nil: not within a year
	Chance                    float64    // that it does before somebody is back, left as it is
	Bears                     float64    // so much chance is accepted before anything is done about it
	Act                       string     // of Acts: what to do on the last day; "": nothing
	Do                        say.Text
	Litres                    float64
	Minutes                   int
	After                     float64 // the chance once that is done
	Comes                     []calendar.Day
	Why                       say.Text // why somebody must come then
	Steps                     []working.Step
}

// The chances that are accepted: of a vessel to run dry; of what is worked out by usual figures
// alone, or harms slowly.
const (
	dryRisk  = 0.05
	slowRisk = 0.2
)

// Lasts tells whether it may be left as it is, once it was watered where that is usual.
func (t Thing) Lasts() bool { return t.Chance <= t.Bears && len(t.Comes) == 0 && t.What != Unknown }

// Safe tells whether it lasts once it was seen to.
func (t Thing) Safe() bool {
	return len(t.Comes) == 0 && (t.Lasts() || t.Act != "" && t.After <= t.Bears)
}

// Acts are what is done on the last day, in their order: what others must be asked first,
// what has to mix or drain, what is heavy, and last what is closed over the plants.
var Acts = []string{"ask", "read", "cut", "move", "treat", "fill", "pour", "water", "cover"}

// Plan is how everything fares.
type Plan struct {
	Span
	Things []Thing // what does not last first, in the order of time
}

// Day are the acts of the last day in their order.
func (p Plan) Day() (out []Thing) {
	for _, x := range p.Things {
		if x.Act != "" {
			out = append(out, x)
		}
	}
	rank := func(t Thing) int { return slices.Index(Acts, t.Act) }
	slices.SortStableFunc(out, func(a, b Thing) int {
		return cmp.Or(cmp.Compare(rank(a), rank(b)), cmp.Compare(a.Place, b.Place), byName(a, b))
	})
	return out
}

// byName orders by name, and those that are numbered alike by their number.
func byName(a, b Thing) int {
	word := func(t Thing) string { return strings.TrimRight(t.Name, "0123456789") }
	x, y := word(a), word(b)
	return cmp.Or(cmp.Compare(x, y), cmp.Compare(len(a.Name), len(b.Name)), cmp.Compare(a.Name, b.Name))
}

// Litres are those to carry on the last day, and Minutes how long it takes.
func (p Plan) Litres() (litres float64, minutes int) {
	for _, x := range p.Day() {
		litres += x.Litres
		minutes += x.Minutes
	}
	return litres, minutes
}

// Visits are the days on which somebody must come, with what for.
func (p Plan) Visits() (days []calendar.Day, what map[calendar.Day][]Thing) {
	what = map[calendar.Day][]Thing{}
	for _, x := range p.Things {
		for _, d := range x.Comes {
			if what[d] == nil {
				days = append(days, d)
			}
			what[d] = append(what[d], x)
		}
	}
	slices.Sort(days)
	return days, what
}

// Fails is what does not last, left as it is.
func (p Plan) Fails() (out []Thing) {
	for _, x := range p.Things {
		if !x.Lasts() {
			out = append(out, x)
		}
	}
	return out
}

// Foretell is how everything fares over a stretch of days.
func Foretell(d round.Day, s Span, things []Thing) Plan {
	p := Plan{Span: s}
	if s.Closed < 1 {
		return p
	}
	names := map[string]string{}
	for _, x := range d.Places {
		names[x.ID] = x.Name
	}
	for _, x := range things {
		x.Place = cmp.Or(names[x.Place], x.Place)
		p.Things = append(p.Things, x)
	}
	far := s.Return.AddDate(1, 0, 0)
	when := func(t Thing) time.Time {
		switch {
		case t.In5 != nil:
			return *t.In5
		case len(t.Comes) > 0:
			return t.Comes[0].UTC()
		}
		return far
	}
	slices.SortStableFunc(p.Things, func(a, b Thing) int {
		return cmp.Or(last(a)-last(b), when(a).Compare(when(b)), byName(a, b))
	})
	return p
}

// last orders what lasts behind what does not.
func last(t Thing) int {
	if t.Lasts() {
		return 1
	}
	return 0
}
