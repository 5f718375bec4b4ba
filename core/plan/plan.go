package plan

import (
	"cmp"
	"fmt"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Stage is one step: its shortest length and how much longer it can wait, in days.
type Stage struct {
	Name           string
	Days, HoldDays int
}

// Input is what BackSchedule needs. Workdays are 1 (Monday) to 7.
type Input struct {
	ReadyBy   calendar.Day
	EarlyDays int
	Stages    []Stage
	Workdays  []int
	Closed    []calendar.Closure
	from      *calendar.Day           // nothing is sown or moved before
	open      func(calendar.Day) bool // nil: workdays outside closures
}

// Move is what happens on a day: "sow", then each stage's name on the day it ends.
type Move struct {
	Name string
	Day  calendar.Day
}

// Schedule is the answer. When not feasible there are no moves, and Later and
// Earlier are the nearest days within sixty that would do.
type Schedule struct {
	Feasible       bool
	Moves          []Move
	HeldDays       int
	EarlyDays      int
	Why            say.Text
	Later, Earlier *calendar.Day
	Steps          []working.Step
}

const reach = 60 // how far another ready day is looked for

// Bounds of a schedule.
const (
	MaxStages = 50
	MaxDays   = 3660
)

// BackSchedule finds the plan with the latest sowing, and with every move as
// late as any plan allows. Moves fall on workdays outside closures. The days
// on which each move may happen are found backwards from the ready day, stage
// by stage; then each move takes its latest. It refuses with field.Errors.
func BackSchedule(in Input) (Schedule, error) {
	if err := in.check(); err != nil {
		return Schedule{}, err
	}
	open := in.openDays()
	if moves, ok := in.solve(open, in.ReadyBy); ok {
		return in.schedule(moves), nil
	}
	s := Schedule{Why: say.T("no plan fits the length and the longest wait of every stage with all moves on open days")}
	ends := in.reachable(open)
	ok := func(ready calendar.Day) bool {
		for t := ready - calendar.Day(in.EarlyDays); t <= ready; t++ {
			if ends.has(t) {
				return true
			}
		}
		return false
	}
	for i := calendar.Day(1); i <= reach && (s.Later == nil || s.Earlier == nil); i++ {
		if d := in.ReadyBy + i; s.Later == nil && ok(d) {
			s.Later = &d
		}
		if d := in.ReadyBy - i; s.Earlier == nil && ok(d) {
			s.Earlier = &d
		}
	}
	return s, nil
}

func (in Input) check() error {
	var e field.Errors
	e.Require(in.EarlyDays >= 0 && in.EarlyDays <= MaxDays, "early_days", "must be 0 to 3,660 days")
	e.Require(len(in.Stages) >= 1 && len(in.Stages) <= MaxStages, "stages", "must be 1 to 50 stages")
	for i, s := range in.Stages {
		e.Require(s.Days >= 0 && s.Days <= MaxDays, fmt.Sprintf("stages.%d.days", i), "must be 0 to 3,660 days")
		e.Require(s.HoldDays >= 0 && s.HoldDays <= MaxDays, fmt.Sprintf("stages.%d.hold_days", i), "must be 0 to 3,660 days")
	}
	e.Require(len(in.Workdays) > 0, "workdays", "needs at least one of 1 (Monday) to 7")
	for i, w := range in.Workdays {
		e.Require(w >= 1 && w <= 7, fmt.Sprintf("workdays.%d", i), "must be 1 (Monday) to 7")
	}
	for i, c := range in.Closed {
		e.Require(c.From <= c.To, fmt.Sprintf("closed.%d.to", i), "is before from")
	}
	return e.Err()
}

// days is a run of days with a mark on some, and how many are marked up to each.
type days struct {
	first calendar.Day
	on    []bool
	upTo  []int // marked before index i
}

func newDays(first, last calendar.Day) days {
	n := int(last-first) + 1
	return days{first: first, on: make([]bool, n), upTo: make([]int, n+1)}
}

func (d days) has(t calendar.Day) bool {
	i := int(t - d.first)
	return i >= 0 && i < len(d.on) && d.on[i]
}

func (d days) sum() {
	for i, on := range d.on {
		d.upTo[i+1] = d.upTo[i]
		if on {
			d.upTo[i+1]++
		}
	}
}

// any tells whether a day from a to b is marked.
func (d days) any(a, b calendar.Day) bool {
	i, j := max(0, int(a-d.first)), min(len(d.on), int(b-d.first)+1)
	return i < j && d.upTo[j] > d.upTo[i]
}

// last is the latest marked day from a to b.
func (d days) last(a, b calendar.Day) (calendar.Day, bool) {
	for t := min(b, d.first+calendar.Day(len(d.on)-1)); t >= max(a, d.first); t-- {
		if d.has(t) {
			return t, true
		}
	}
	return 0, false
}

// openDays marks every day on which a move may happen, as far back and forth as
// any plan can reach.
func (in Input) openDays() days {
	span := in.EarlyDays
	for _, s := range in.Stages {
		span += s.Days + s.HoldDays
	}
	first := in.ReadyBy - calendar.Day(span+reach)
	if in.from != nil {
		first = min(max(first, *in.from), in.ReadyBy+reach)
	}
	d := openDays(first, in.ReadyBy+reach, in.Workdays, in.Closed)
	d.only(in.open)
	return d
}

// only marks the days that open says instead, if it is there.
func (d days) only(open func(calendar.Day) bool) {
	for i := range d.on {
		if open != nil {
			d.on[i] = open(d.first + calendar.Day(i))
		}
	}
}

// openDays marks the workdays outside every closure.
func openDays(first, last calendar.Day, workdays []int, closures []calendar.Closure) days {
	d := newDays(first, last)
	var work [8]bool
	for _, w := range workdays {
		work[w] = true
	}
	for i := range d.on {
		t := d.first + calendar.Day(i)
		d.on[i] = work[t-t.Monday()+1]
	}
	closed := slices.Clone(closures)
	slices.SortFunc(closed, func(a, b calendar.Closure) int { return cmp.Compare(a.From, b.From) })
	done := d.first // every day before it has been looked at
	for _, c := range closed {
		for t := max(c.From, done); t <= min(c.To, d.first+calendar.Day(len(d.on)-1)); t++ {
			d.on[t-d.first] = false
		}
		done = max(done, c.To+1)
	}
	return d
}

// solve works backwards for one ready day, then forwards taking the latest of each.
func (in Input) solve(open days, ready calendar.Day) ([]calendar.Day, bool) {
	k := len(in.Stages)
	may := make([]days, k+1)
	may[k] = newDays(open.first, open.first+calendar.Day(len(open.on)-1))
	for t := ready - calendar.Day(in.EarlyDays); t <= ready; t++ {
		if open.has(t) {
			may[k].on[t-open.first] = true
		}
	}
	may[k].sum()
	for i := k - 1; i >= 0; i-- {
		may[i] = newDays(open.first, open.first+calendar.Day(len(open.on)-1))
		s := in.Stages[i]
		for j, on := range open.on {
			t := open.first + calendar.Day(j)
			may[i].on[j] = on && may[i+1].any(t+calendar.Day(s.Days), t+calendar.Day(s.Days+s.HoldDays))
		}
		may[i].sum()
	}
	t, ok := may[0].last(open.first, ready)
	if !ok {
		return nil, false
	}
	moves := []calendar.Day{t}
	for i, s := range in.Stages {
		t, ok = may[i+1].last(t+calendar.Day(s.Days), t+calendar.Day(s.Days+s.HoldDays))
		if !ok {
			return nil, false
		}
		moves = append(moves, t)
	}
	return moves, true
}

// reachable marks the days on which some plan's last move can fall.
func (in Input) reachable(open days) days {
	now := open
	now.sum()
	for _, s := range in.Stages {
		next := newDays(open.first, open.first+calendar.Day(len(open.on)-1))
		for j, on := range open.on {
			t := open.first + calendar.Day(j)
			next.on[j] = on && now.any(t-calendar.Day(s.Days+s.HoldDays), t-calendar.Day(s.Days))
		}
		next.sum()
		now = next
	}
	return now
}

func (in Input) schedule(moves []calendar.Day) Schedule {
	s := Schedule{Feasible: true, Moves: []Move{{"sow", moves[0]}}}
	for i, st := range in.Stages {
		held := int(moves[i+1]-moves[i]) - st.Days
		s.HeldDays += held
		s.Moves = append(s.Moves, Move{st.Name, moves[i+1]})
		s.Steps = append(
			s.Steps,
			working.Step{
				Name:    say.Name(st.Name),
				Formula: say.T("%s + %d days + %d held", moves[i].Short(), st.Days, held),
				Value:   float64(moves[i+1] - moves[i]),
				Unit:    "days",
			},
		)
	}
	s.EarlyDays = int(in.ReadyBy - moves[len(moves)-1])
	return s
}
