package plan

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"sort"

	"ulpa/core/calendar"
)

// Kinds of ways out.
const (
	WayLater   = "later"   // it is ready so many days later
	WayEarlier = "earlier" // or earlier
	WayFewer   = "fewer"   // with so many plants
	WayWait    = "wait"    // a stage waits longer than it should
	WayOpen    = "open"    // somebody comes in on a closed day
	WayOther   = "other"   // so many plants of another batch make room for it
)

// Way is how a batch that is not grown could be, everything else staying as it is planned.
type Way struct {
	Kind    string
	Days    int          // by which it is later or earlier, or waits longer
	Stage   string       // that waits longer
	Plants  int          // that there are then, of it or of the other
	Fewer   int          // than were wanted, of it or of the other
	Other   int          // which batch makes room
	Open    calendar.Day // on which somebody comes in
	Minutes float64      // for so long, whole ones
	Cost    float64      // points: what is missing, waits, is early and in the way then
}

// Wish is what a batch is to be wished for, beside what was, to go this way; for WayOther it
// is a wish for the other batch. WayOpen is not a wish but a day of the school's.
func (w Way) Wish(was Wish) Wish {
	switch w.Kind {
	case WayLater:
		was.Shift += w.Days
	case WayEarlier:
		was.Shift -= w.Days
	case WayFewer, WayOther:
		was.Plants, was.Skip = w.Plants, w.Plants == 0
	case WayWait:
		wait := maps.Clone(was.Wait)
		if wait == nil {
			wait = map[string]int{}
		}
		wait[w.Stage] += w.Days
		was.Wait = wait
	}
	return was
}

// Bounds of what is looked for.
const (
	wayDays = 42 // later or earlier
	wayWait = 14 // days that a stage waits longer
)

// Ways finds how a batch that a plan does not grow could be grown beside all the others as
// they are planned, the cheapest first: each is a whole plan that keeps every rule but the
// one it names, and in which nothing else moves.
func Ways(in SeasonInput, s Season, batch int) []Way {
	w := newWayfinder(in, s, batch)
	var out []Way
	for _, way := range []func() (Way, bool){
		func() (Way, bool) { return w.shifted(1) }, func() (Way, bool) { return w.shifted(-1) }, w.fewer, w.wait, w.open, w.other,
	} {
		if found, ok := way(); ok {
			out = append(out, found)
		}
	}
	slices.SortStableFunc(out, func(a, b Way) int { return cmp.Compare(a.Cost, b.Cost) })
	return out
}

// wayfinder looks for days and places of one batch beside all the others.
type wayfinder struct {
	in     SeasonInput
	h      *house
	index  map[string]int
	used   *usage
	routes []*route
	at     int
}

func newWayfinder(in SeasonInput, s Season, batch int) *wayfinder {
	w := &wayfinder{in: in, h: in.house(), at: batch, index: map[string]int{}}
	for i, p := range in.Places {
		w.index[p.Name] = i
	}
	w.used = newUsage(w.h)
	w.routes = make([]*route, len(in.Batches))
	for i, line := range s.Batches {
		if !line.Grown {
			continue
		}
		b := in.Batches[i]
		b.Kept, b.KeptReady = line.Moves, line.Ready
		j := w.h.job(in, b, w.index)
		if w.routes[i] = j.kept; j.kept != nil && i != batch {
			w.used.add(&j, j.kept, 1)
		}
	}
	return w
}

// cost is what the batch costs as it is given, within what the others leave; +Inf: it cannot
// be.
func (w *wayfinder) cost(b SeasonBatch) (float64, *route) {
	b.Kept = nil
	j := w.h.job(w.in, b, w.index)
	one := &house{days: w.h.days, open: w.h.open, minutes: w.h.minutes, rooms: w.h.rooms, jobs: []job{j}}
	f := newFinder(one)
	c := f.best(&j, nil, 1, w.used)
	if math.IsInf(c, 1) {
		return c, nil
	}
	return c, f.route(&j)
}

func (w *wayfinder) batch() SeasonBatch { return w.in.Batches[w.at] }

func (w *wayfinder) shifted(sign int) (Way, bool) {
	for n := 1; n <= wayDays; n++ {
		b := w.batch()
		days := calendar.Day(sign * n)
		b.ReadyFrom, b.ReadyBy = b.ReadyFrom+days, b.ReadyBy+days
		if c, r := w.cost(b); r != nil {
			kind := WayLater
			if sign < 0 {
				kind = WayEarlier
			}
			return Way{Kind: kind, Days: n, Plants: b.Plants, Cost: c}, true
		}
	}
	return Way{}, false
}

// fewer finds the most plants that can be grown: with fewer there is never less room.
func (w *wayfinder) fewer() (Way, bool) {
	all := w.batch()
	with := func(n int) SeasonBatch {
		b := all
		b.Plants, b.Value = n, all.Value*float64(n)/float64(all.Plants)
		return b
	}
	n := all.Plants - sort.Search(all.Plants, func(i int) bool {
		n := all.Plants - i
		_, r := w.cost(with(n))
		return r != nil
	})
	if n < 1 || n == all.Plants {
		return Way{}, false
	}
	c, _ := w.cost(with(n))
	missing := all.Plants - n
	return Way{Kind: WayFewer, Plants: n, Fewer: missing, Cost: c + all.Value*float64(missing)/float64(all.Plants)}, true
}

func (w *wayfinder) wait() (Way, bool) {
	for n := 1; n <= wayWait; n++ {
		best := Way{Cost: inf}
		for i, s := range w.batch().Stages {
			b := w.batch()
			b.Stages = slices.Clone(b.Stages)
			b.Stages[i].HoldDays += n
			if c, r := w.cost(b); r != nil && c < best.Cost {
				best = Way{Kind: WayWait, Days: n, Stage: s.Name, Plants: b.Plants, Cost: c}
			}
		}
		if best.Cost < inf {
			return best, true
		}
	}
	return Way{}, false
}

// open looks for the one closed day on which somebody would have to come in, and for how
// long.
func (w *wayfinder) open() (Way, bool) {
	best, b := Way{Cost: inf}, w.batch()
	j := w.h.job(w.in, b, w.index)
	for d := max(0, slices.Min(j.lo)); d <= min(w.h.days-1, slices.Max(j.hi)); d++ {
		if w.h.open[d] {
			continue
		}
		was := w.h.minutes[d]
		w.h.open[d], w.h.minutes[d] = true, inf
		if c, r := w.cost(b); r != nil && c < best.Cost {
			minutes := 0.0
			for i, at := range r.at {
				switch {
				case int(at) != d:
				case i == len(j.legs):
					minutes += j.readyMinutes
				default:
					minutes += j.legs[i].minutes
				}
			}
			best = Way{Kind: WayOpen, Open: w.in.From + calendar.Day(d), Minutes: math.Ceil(minutes), Plants: b.Plants, Cost: c}
		}
		w.h.open[d], w.h.minutes[d] = false, was
	}
	return best, best.Cost < inf
}

// other looks for the other batch of which the least has to go.
func (w *wayfinder) other() (Way, bool) {
	best := Way{Cost: inf}
	for i, r := range w.routes {
		b := w.in.Batches[i]
		if r == nil || i == w.at || len(b.Done) > 0 {
			continue
		}
		all := w.h.job(w.in, b, w.index)
		w.used.add(&all, r, -1)
		fits := func(left int) float64 {
			part := all
			if left > 0 {
				x := b
				x.Plants = left
				part = w.h.job(w.in, x, w.index)
				w.used.add(&part, r, 1)
				defer w.used.add(&part, r, -1)
			}
			c, _ := w.cost(w.batch())
			return c
		}
		fewer := 1 + sort.Search(b.Plants-1, func(n int) bool { return fits(b.Plants-n-1) < inf })
		if c := fits(b.Plants - fewer); c < inf {
			c += b.Value * float64(fewer) / float64(b.Plants)
			if c < best.Cost {
				best = Way{Kind: WayOther, Other: i, Plants: b.Plants - fewer, Fewer: fewer, Cost: c}
			}
		}
		w.used.add(&all, r, 1)
	}
	return best, best.Cost < inf
}
