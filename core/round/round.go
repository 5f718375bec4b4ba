// Package round works out today's walk: what is due at each place, why, and
// how long it takes. It stores nothing; what people decided comes in.
package round

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/harden"
	"ulpa/core/ready"
	"ulpa/core/seed"
	"ulpa/core/solution"
	"ulpa/core/unit"
)

// Urgency orders what is due.
type Urgency int

// Now loses something if it waits; Today belongs to today; Soon can wait.
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
	Key           string // the same on the same day for the same thing
	Kind          string // count, look, move, reading, treat, fill, harden, set_out, harvest, water
	Before, After string
	Code          string
	Why           string
	Urgency       Urgency
	Minutes       int
	Batch, Tray   string
	Tank, Planned string
}

// What is the task in one line.
func (t Task) What() string {
	s := t.Before
	if t.Code != "" {
		s += " " + t.Code
	}
	if t.After != "" {
		s += " " + t.After
	}
	return s
}

// Stop is one place of the walk.
type Stop struct {
	Place   string
	Name    string
	Tasks   []Task
	Minutes int
}

// Urgency of a stop is that of its most urgent task; ok is false when nothing is due.
func (s Stop) Urgency() (u Urgency, ok bool) {
	u = Soon
	for _, t := range s.Tasks {
		u = min(u, t.Urgency)
	}
	return u, len(s.Tasks) > 0
}

// Place is a place to walk by.
type Place struct {
	ID, Name, Kind string
	TemperatureC   float64
}

// Batch is what the walk needs to know of a batch. In counts its plants and
// waiting cells by place; trays say where its cells are.
type Batch struct {
	ID, Code          string
	Crop              crop.Crop
	Sown              calendar.Day
	Waiting           int // cells undecided
	Sprouted, Cells   int
	Standing          int
	Rate              float64 // share of cells expected to fill
	Counted, Cut      calendar.Day
	Whole             bool // plants were taken whole when it was cut
	Verdict           ready.Verdict
	LookedOn          calendar.Day
	InTray            map[string]string // place → tray
	InPorts, InStands map[string]int    // place → plants
	HardenStart       calendar.Day
	HardenDays        int
}

// Tank is a reservoir at a place.
type Tank struct {
	ID, Name, Place string
	Spec            solution.Spec
	State           solution.State
}

// Planned is a sowing that is meant to happen.
type Planned struct {
	ID, Crop       string // the crop by its name
	Wanted         int
	SowOn, ReadyBy calendar.Day
}

// Night is a forecast low.
type Night struct {
	Day  calendar.Day
	MinC float64
}

// School is everything the walk is worked out from.
type School struct {
	Today    calendar.Day
	Now      time.Time
	Zone     *time.Location
	Calendar calendar.School
	Places   []Place
	Batches  []Batch
	Tanks    []Tank
	Planned  []Planned
	Nights   []Night
	Prefs    unit.Prefs
	Settled  map[string]bool // keys done or put off today
}

// Plan is today's walk, in the order of the places.
func Plan(s School) []Stop {
	var stops []Stop
	for _, p := range s.Places {
		stop := Stop{Place: p.ID, Name: p.Name}
		for _, b := range s.Batches {
			stop.Tasks = append(stop.Tasks, s.batchTasks(p, b)...)
		}
		stop.Tasks = append(stop.Tasks, s.tankTasks(p)...)
		if p.ID == s.sowingPlace() {
			stop.Tasks = append(stop.Tasks, s.sowingTasks()...)
		}
		stop.Tasks = slices.DeleteFunc(stop.Tasks, func(t Task) bool { return s.Settled[t.Key] })
		slices.SortStableFunc(stop.Tasks, func(a, b Task) int { return cmp.Compare(a.Urgency, b.Urgency) })
		for _, t := range stop.Tasks {
			stop.Minutes += t.Minutes
		}
		stops = append(stops, stop)
	}
	return stops
}

// Absence is the run of closed days ahead: the last day somebody is there and the next.
func (s School) Absence() (from, back calendar.Day, days int) {
	from = s.Today
	for s.Calendar.Open(from + 1) {
		from++
	}
	back = s.Calendar.NextOpen(from)
	return from, back, int(back - from)
}

func (s School) key(kind, id string) string { return kind + ":" + id + ":" + s.Today.String() }

func (s School) batchTasks(p Place, b Batch) []Task {
	var out []Task
	add := func(kind, before, after, why string, u Urgency, minutes int) {
		out = append(out, Task{
			Key: s.key(kind, b.ID), Kind: kind, Before: before, Code: b.Code, After: after, Why: why,
			Urgency: u, Minutes: minutes, Batch: b.ID, Tray: b.InTray[p.ID],
		})
	}
	if _, here := b.InTray[p.ID]; here {
		s.trayTasks(p, b, add)
	}
	if n := b.InStands[p.ID]; n > 0 && p.Kind == "frame" {
		s.frameTasks(b, n, add)
	}
	if n := b.InPorts[p.ID] + b.InStands[p.ID]; n > 0 && p.Kind != "frame" {
		s.harvestTasks(b, n, add)
	}
	return out
}

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
	next := s.Calendar.NextOpen(s.Today)
	for _, p := range s.Planned {
		if p.SowOn >= next {
			continue
		}
		t := Task{Key: s.key("sow", p.ID), Kind: "sow", Before: "Sow " + strings.ToLower(p.Crop) + ", " + seed.Plural(p.Wanted, "plant") + " wanted", Planned: p.ID, Urgency: Today, Minutes: 12,
			Why: fmt.Sprintf("Planned, to be ready by %s.", p.ReadyBy.Long())}
		if p.SowOn < s.Today {
			t.Urgency, t.Why = Now, fmt.Sprintf("It was planned for %s: every day it waits is a day later than %s.", p.SowOn.Long(), p.ReadyBy.Long())
		}
		out = append(out, t)
	}
	return out
}

type adder func(kind, before, after, why string, u Urgency, minutes int)

func (s School) trayTasks(p Place, b Batch, add adder) {
	day := int(s.Today - b.Sown)
	if b.Waiting > 0 {
		g, err := seed.GerminationOf(b.Crop, p.TemperatureC)
		if err == nil && g.Germinates && float64(day) >= 0.5*g.DaysToHalf && (b.Counted == 0 || s.Today-b.Counted >= 2) && float64(day) < 2.5*g.DaysToHalf+7 {
			_, mid, _ := seed.Usual(b.Cells, b.Rate, float64(day), g.DaysToHalf)
			why := fmt.Sprintf("Day %d at %s: about %.0f of %d usual by now; %d when last counted.", day, s.Prefs.Format(p.TemperatureC, unit.Celsius), mid, b.Cells, b.Sprouted)
			// A count is judged by its own day: what came up since nobody knows.
			if low, _, _ := seed.Usual(b.Cells, b.Rate, float64(b.Counted-b.Sown), g.DaysToHalf); b.Counted > 0 && float64(b.Sprouted) < low {
				why += " It was behind then."
			}
			add("count", "Count sprouts in", "", why, Today, 2)
		}
	}
	if b.Sprouted == 0 || b.Standing == 0 {
		return
	}
	switch v := b.Verdict; v.Word {
	case ready.Late:
		add("move", "Move", fmt.Sprintf("on: late by %s", seed.Plural(-v.DaysLeft(s.Today), "day")), v.Why+". Roots circle and leaves yellow if it waits.", Now, 8)
	case ready.Ready:
		u := Today
		if v.DaysLeft(s.Today) <= 2 || !s.Calendar.Open(v.Until) {
			u = Now
		}
		add("move", "Move", "on: ready since "+v.Since.Short(), fmt.Sprintf("%s. It can wait until %s.", capital(v.Why), v.Until.Long()), u, 8)
	case ready.Early:
		if v.About-s.Today <= 4 && (b.LookedOn == 0 || s.Today-b.LookedOn >= 3) {
			add("look", "Look at", "and count true leaves", fmt.Sprintf("Should be ready about %s: %s.", v.About.Long(), v.Why), Soon, 2)
		}
	}
}

func (s School) frameTasks(b Batch, n int, add adder) {
	coldest, night := math.Inf(1), calendar.Day(0)
	until := s.Calendar.NextOpen(s.Today)
	for _, x := range s.Nights {
		if x.Day >= s.Today && x.Day < until && x.MinC < coldest {
			coldest, night = x.MinC, x.Day
		}
	}
	if night != 0 && coldest < b.Crop.SafeC {
		when := "before " + night.Long()
		if night == s.Today {
			when = "before tonight"
		}
		add("harden", "Bring in", fmt.Sprintf("%s: %s", when, seed.Plural(n, "plant")),
			fmt.Sprintf("%s forecast, and %s bears no less than %s.", s.Prefs.Format(coldest, unit.Celsius), b.Crop.Name, s.Prefs.Format(b.Crop.SafeC, unit.Celsius)), Now, 6)
		return
	}
	if b.HardenDays == 0 {
		return
	}
	ramp := harden.Ramp(s.Calendar, b.HardenStart, b.HardenDays)
	d, on := harden.On(ramp, s.Today)
	switch {
	case on && !d.Closed:
		last := ramp[len(ramp)-1].Step
		why := fmt.Sprintf("Day %d of %d.", d.Step, last)
		if d.Night {
			why += " The lid may stay off tonight."
		}
		if !s.Calendar.Open(s.Today + 1) {
			why += " Nobody is here tomorrow: prop the lid, water well."
		}
		add("harden", "Open the frame over", fmt.Sprintf("for %.3g hours", d.Hours), why, Today, 2)
	case !on && s.Today > ramp[len(ramp)-1].Day:
		add("set_out", "Set out", seed.Plural(n, "plant"), "Hardened. A dull, still afternoon is best; water well first.", Today, 15)
	}
}

func (s School) harvestTasks(b Batch, n int, add adder) {
	due := b.Crop.HarvestDue(b.Sown, b.Cut, b.Whole)
	if s.Today < due {
		return
	}
	u := Soon
	if s.Today >= due+7 {
		u = Today
	}
	add("harvest", "Harvest", "", fmt.Sprintf("%s, day %d; usual from day %d. Cut in the cool and weigh.", seed.Plural(n, "plant"), s.Today-b.Sown, due-b.Sown), u, 6)
}

func (s School) tankTasks(p Place) []Task {
	var out []Task
	from, back, days := s.Absence()
	for _, t := range s.Tanks {
		if t.Place != p.ID {
			continue
		}
		add := func(kind, before, why string, u Urgency, minutes int) {
			out = append(out, Task{Key: s.key(kind, t.ID), Kind: kind, Before: before, Why: why, Urgency: u, Minutes: minutes, Tank: t.ID})
		}
		until := float64(back-s.Today) + 0.3
		if t.State.LevelAt != nil {
			until += s.Now.Sub(*t.State.LevelAt).Hours() / 24
		}
		left := solution.LevelOn(t.Spec, t.State, until)
		low := t.State.LevelL != nil && left < t.Spec.DryBelowL
		if low {
			fill := t.Spec.FillToL - solution.LevelOn(t.Spec, t.State, until-float64(back-s.Today)-0.3)
			u := Today
			if from == s.Today {
				u = Now
			}
			what := fmt.Sprintf("Fill %s: %s", t.Name, s.Prefs.Format(max(fill, 0), unit.Litre))
			why := fmt.Sprintf("It would be dry before %s", back.Long())
			if left > 0 {
				why = fmt.Sprintf("Down to %s by %s", s.Prefs.Format(left, unit.Litre), back.Long())
			}
			add("fill", what, fmt.Sprintf("%s; nobody is here for %s.", why, seed.Plural(days, "day")), u, 2)
		}
		read := t.State.ReadAt
		if read == nil {
			add("reading", "Read "+t.Name, "Nothing is known of it yet.", Today, 3)
			continue
		}
		if t.Spec.Passive {
			continue
		}
		ago := int(s.Today - calendar.Of(read.In(s.Zone)))
		if a := solution.Advise(t.Spec, t.State, s.Now, s.Prefs); a.Needs && a.Adult && ago < t.Spec.ReadEveryDays+2 {
			add("treat", fmt.Sprintf("Bring %s right: pH %s", t.Name, s.Prefs.Figure(*t.State.PH, "pH")), a.Why[len(a.Why)-2], Now, 10)
		} else if t.State.TreatedAt != nil {
			add("reading", "Read "+t.Name+" again", "Something was added and has not been read since.", Now, 3)
		} else if ago >= t.Spec.ReadEveryDays {
			add("reading", "Read "+t.Name, fmt.Sprintf("Last read %s.", calendar.Of(read.In(s.Zone)).Long()), Today, 3)
		}
	}
	return out
}

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
