package plan

import (
	"math"
	"slices"

	"ulpa/core/calendar"
)

// Kinds of causes.
const (
	CauseSoon    = "soon"    // there are not days enough from now on
	CauseClosed  = "closed"  // a run of closed days is longer than a stage can wait
	CauseNowhere = "nowhere" // no place has room for all of it, even empty
	CauseFrost   = "frost"   // it may not stand outside yet
	CausePinned  = "pinned"  // as it is wished for it cannot be
	CauseRoom    = "room"    // a place is full of others
	CauseMinutes = "minutes" // a day's minutes are taken by others, or are never enough
	CauseCost    = "cost"    // waiting would cost more than it is worth
)

// Cause is why a batch is not grown, by name.
type Cause struct {
	Kind     string
	Stage    string       // that has nowhere to stand, or waits
	Place    string       // that is full
	From, To calendar.Day // while it is closed or full; for CauseMinutes the day
	Days     int          // that the batch takes at least
}

// Because finds why a plan does not grow a batch: what alone is in its way, looked at on the
// days that would suit it best.
func Because(in SeasonInput, s Season, batch int) Cause {
	w := newWayfinder(in, s, batch)
	b := w.batch()
	j := w.h.job(in, b, w.index)
	c := Cause{}
	for i, l := range j.legs {
		c.Days += l.days
		if len(l.stands) == 0 {
			c.Kind, c.Stage = CauseNowhere, b.Stages[len(b.Stages)-len(j.legs)+i].Name
			return c
		}
	}
	used := w.used
	w.used = newUsage(w.h)
	cost, r := w.cost(b)
	switch {
	case r == nil:
		w.alone(&c, b, j)
	case cost >= b.Value:
		c.Kind = CauseCost
	default:
		w.used = used
		w.crowd(&c, b, j, r)
	}
	return c
}

// alone finds why it cannot be even in an empty house.
func (w *wayfinder) alone(c *Cause, b SeasonBatch, j job) {
	free := b
	free.Stages, free.ReadyNotOn = slices.Clone(b.Stages), nil
	pinned := len(b.ReadyNotOn) > 0
	for i := range free.Stages {
		s := &free.Stages[i]
		pinned = pinned || s.On > 0 || len(s.NotOn) > 0
		s.On, s.NotOn = 0, nil
	}
	if _, r := w.cost(free); r != nil && pinned {
		c.Kind = CausePinned
		return
	}
	free = b
	free.Stages = slices.Clone(b.Stages)
	for i := range free.Stages {
		s := &free.Stages[i]
		s.Where = slices.Clone(s.Where)
		for k := range s.Where {
			c.From = max(c.From, s.Where[k].From)
			s.Where[k].From = 0
			s.Where[k].Until = 0
		}
	}
	if _, r := w.cost(free); r != nil {
		if c.Kind = CauseFrost; c.From > b.ReadyBy {
			c.From = 0
		}
		return
	}
	c.From = 0
	first, last := max(0, slices.Min(j.lo)-wayDays), min(w.h.days-1, slices.Max(j.hi)+wayDays)
	open, minutes := slices.Clone(w.h.open), slices.Clone(w.h.minutes)
	defer func() { copy(w.h.open, open); copy(w.h.minutes, minutes) }()
	for d := range w.h.minutes {
		w.h.minutes[d] = inf
	}
	if _, r := w.cost(b); r != nil {
		c.Kind = CauseMinutes
		return
	}
	for d := first; d <= last; d++ { // the longest runs first would be no better: one is enough
		end := d
		for end <= last && !open[end] {
			end++
		}
		if end > d+2 {
			for x := d; x < end; x++ {
				w.h.open[x] = true
			}
			_, r := w.cost(b)
			for x := d; x < end; x++ {
				w.h.open[x] = open[x]
			}
			if r != nil {
				c.Kind, c.From, c.To = CauseClosed, w.in.From+calendar.Day(d), w.in.From+calendar.Day(end-1)
				return
			}
		}
		d = end
	}
	for d := first; d <= last; d++ {
		w.h.open[d] = true
	}
	if _, r := w.cost(b); r != nil {
		c.Kind = CauseClosed
		return
	}
	c.Kind = CauseSoon
}

// crowd finds what of others is in the way of the route that would suit it best.
func (w *wayfinder) crowd(c *Cause, b SeasonBatch, j job, r *route) {
	first := len(b.Stages) - len(j.legs)
	for i, l := range j.legs {
		s := l.stands[r.in[i]]
		from, to := -1, -1
		for d := max(0, int(r.at[i])); d < int(r.at[i+1]); d++ {
			if w.used.room[s.place][d]+s.room > w.h.rooms[s.place].size+tolerance {
				if from < 0 {
					from = d
				}
				to = d
			}
		}
		if from >= 0 {
			c.Kind, c.Stage, c.Place = CauseRoom, b.Stages[first+i].Name, w.in.Places[s.place].Name
			c.From, c.To = w.in.From+calendar.Day(from), w.in.From+calendar.Day(to)
			return
		}
	}
	c.Kind = CauseMinutes
	for i, at := range r.at {
		need := j.readyMinutes
		if i < len(j.legs) {
			need = j.legs[i].minutes
		}
		if (i > 0 || !j.under) && !math.IsInf(w.h.minutes[at], 1) && w.used.minutes[at]+need > w.h.minutes[at]+tolerance {
			c.From = w.in.From + calendar.Day(at)
			return
		}
	}
}
