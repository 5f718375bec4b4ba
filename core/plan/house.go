package plan

import (
	"slices"

	"ulpa/core/calendar"
)

// tolerance is how far a sum may pass a limit, for rounding.
const tolerance = 1e-7

// house is a season by days from its first, in numbers.
type house struct {
	days    int
	open    []bool
	minutes []float64 // of a day; +Inf: no limit
	rooms   []room
	jobs    []job
}

type room struct {
	size float64
	shut []int32 // by day: the first day from then on when it is closed; days: none
}

// job is a batch: its legs from the one that stands or is to be sown.
type job struct {
	value, early, readyMinutes float64
	by                         int
	legs                       []leg
	under                      bool  // its first leg stands already
	lo, hi                     []int // of each move, and of ready
	width                      int   // most days of a window
	kept                       *route
	never                      map[barred]bool // nil: every day will do
}

// barred is a move, and a day on which it may not be.
type barred struct{ move, day int }

// bar keeps a move from some days.
func (j *job) bar(move int, on []calendar.Day, first calendar.Day) {
	for _, d := range on {
		if j.never == nil {
			j.never = map[barred]bool{}
		}
		j.never[barred{move, int(d - first)}] = true
	}
}

// may tells whether a move can be made on a day, as far as its batch goes.
func (j *job) may(move, day int) bool { return j.never == nil || !j.never[barred{move, day}] }

// leg is a stage: the days it takes at least, those it is better given, and how many more it can
// wait then.
type leg struct {
	days, haste, hold    int
	wait, hurry, minutes float64
	stands               []stand
}

// full is how many days a leg is to have.
func (l *leg) full() int { return l.days + l.haste }

// most is how many days it can have.
func (l *leg) most() int { return l.days + l.haste + l.hold }

type stand struct {
	place      int
	from       int // the first day on which it is begun
	until      int // the last on which it ends
	room, cost float64
}

// route is a plan for a job: the day of each move and of ready, and the stand of each leg.
type route struct {
	at []int32
	in []int16
}

func (r *route) grown() bool { return r != nil }

// limit is +Inf where there is none.
func limit(v *float64) float64 {
	if v == nil {
		return inf
	}
	return *v
}

func (in SeasonInput) house() *house {
	h := &house{days: int(in.To-in.From) + 1}
	open := openDays(in.From, in.To, in.Workdays, in.Closed)
	open.only(in.Open)
	h.open, h.minutes = open.on, make([]float64, h.days)
	for d := range h.days {
		h.minutes[d] = limit(in.Minutes)
	}
	for _, m := range in.MinutesOn {
		if d := int(m.Day - in.From); d >= 0 && d < h.days {
			h.minutes[d] = limit(m.Minutes)
		}
	}
	index := map[string]int{}
	for i, p := range in.Places {
		index[p.Name] = i
		r := room{size: p.Room, shut: make([]int32, h.days+1)}
		closed := make([]bool, h.days)
		for _, c := range p.Closed {
			for d := max(0, int(c.From-in.From)); d <= min(h.days-1, int(c.To-in.From)); d++ {
				closed[d] = true
			}
		}
		next := int32(h.days)
		r.shut[h.days] = next
		for d := h.days - 1; d >= 0; d-- {
			if closed[d] {
				next = int32(d)
			}
			r.shut[d] = next
		}
		h.rooms = append(h.rooms, r)
	}
	for _, b := range in.Batches {
		h.jobs = append(h.jobs, h.job(in, b, index))
	}
	return h
}

func (h *house) job(in SeasonInput, b SeasonBatch, index map[string]int) job {
	n := float64(b.Plants)
	j := job{
		value: b.Value, early: b.EarlyCost * n, readyMinutes: b.ReadyMinutesFixed + b.ReadyMinutesEach*n, by: int(b.ReadyBy - in.From),
		under: len(b.Done) > 0,
	}
	first := max(0, len(b.Done)-1)
	for i, s := range b.Stages[first:] {
		l := leg{days: s.Days - s.Haste, haste: s.Haste, hold: s.HoldDays, wait: s.WaitCost * n, hurry: s.HasteCost * n, minutes: s.MinutesFixed + s.MinutesEach*n}
		for _, w := range s.Where {
			if i == 0 && j.under && w.Place != b.Done[first].Place {
				continue
			}
			x := stand{index[w.Place], max(0, int(w.From-in.From)), h.days, w.RoomEach * n, w.Cost * n}
			if w.Until > 0 {
				x.until = int(w.Until - in.From)
			}
			if x.room <= h.rooms[x.place].size+tolerance {
				l.stands = append(l.stands, x)
			}
		}
		j.legs = append(j.legs, l)
	}
	k := len(j.legs)
	j.lo, j.hi = make([]int, k+1), make([]int, k+1)
	j.lo[k], j.hi[k] = max(0, int(b.ReadyFrom-in.From)), min(h.days-1, j.by)
	for i := k - 1; i >= 0; i-- {
		j.lo[i], j.hi[i] = max(0, j.lo[i+1]-j.legs[i].most()), j.hi[i+1]-j.legs[i].days
		if on := b.Stages[first+i].On; on > 0 {
			j.lo[i], j.hi[i] = max(j.lo[i], int(on-in.From)), min(j.hi[i], int(on-in.From))
		}
	}
	for i := range k {
		j.bar(i, b.Stages[first+i].NotOn, in.From)
	}
	j.bar(k, b.ReadyNotOn, in.From)
	if j.under {
		j.lo[0] = int(b.Done[first].Day - in.From)
		j.hi[0] = j.lo[0]
	}
	for i, l := range j.legs {
		j.lo[i+1], j.hi[i+1] = max(j.lo[i+1], j.lo[i]+l.days), min(j.hi[i+1], j.hi[i]+l.most())
	}
	j.keep(h, in, b, index)
	for i := range j.lo {
		j.width = max(j.width, j.hi[i]-j.lo[i]+1)
		if i > 0 {
			j.width = max(j.width, j.hi[i]-max(0, j.lo[i-1])+2)
		}
	}
	return j
}

// keep takes a batch's earlier plan as its route, where it still can be one.
func (j *job) keep(h *house, in SeasonInput, b SeasonBatch, index map[string]int) {
	first := max(0, len(b.Done)-1)
	if len(b.Kept) != len(b.Stages) || j.lo[0] > j.hi[0] {
		return
	}
	r := &route{}
	for i, m := range b.Kept[first:] {
		at, known := index[m.Place]
		n := slices.IndexFunc(j.legs[i].stands, func(s stand) bool { return s.place == at })
		if !known || n < 0 {
			return
		}
		r.at, r.in = append(r.at, int32(m.Day-in.From)), append(r.in, int16(n))
	}
	r.at = append(r.at, int32(b.KeptReady-in.From))
	for i, d := range r.at {
		if int(d) < j.lo[i] || int(d) > j.hi[i] || (i > 0 || !j.under) && !h.open[d] || !j.may(i, int(d)) {
			return
		}
		if i < len(j.legs) && int(d) < j.legs[i].stands[r.in[i]].from && (i > 0 || !j.under) {
			return
		}
		if i > 0 {
			if l, n := j.legs[i-1], int(d-r.at[i-1]); n < l.days || n > l.most() {
				return
			}
			if int(d) > j.legs[i-1].stands[r.in[i-1]].until {
				return
			}
			if h.rooms[j.legs[i-1].stands[r.in[i-1]].place].shut[max(0, r.at[i-1])] < d {
				return
			}
		}
	}
	j.kept = r
}

// cost is what a route costs, without prices.
func (j *job) cost(r *route) float64 {
	k := len(j.legs)
	c := j.early * float64(j.by-int(r.at[k]))
	for i, l := range j.legs {
		from, to := int(r.at[i]), int(r.at[i+1])
		held := to - from - l.full()
		c += l.wait*float64(max(0, held)) + l.hurry*float64(max(0, -held)) + l.stands[r.in[i]].cost*float64(to-max(0, from))
	}
	return c
}

// usage is what the routes of a plan take, by place and day and by day.
type usage struct {
	room    [][]float64
	minutes []float64
}

func newUsage(h *house) *usage {
	u := &usage{minutes: make([]float64, h.days)}
	for range h.rooms {
		u.room = append(u.room, make([]float64, h.days))
	}
	return u
}

func (u *usage) clear() {
	clear(u.minutes)
	for _, r := range u.room {
		clear(r)
	}
}

// fits tells whether there is room and time for a route beside what is used.
func (u *usage) fits(h *house, j *job, r *route) bool {
	for i, l := range j.legs {
		s := l.stands[r.in[i]]
		for d := max(0, int(r.at[i])); d < int(r.at[i+1]); d++ {
			if u.room[s.place][d]+s.room > h.rooms[s.place].size+tolerance {
				return false
			}
		}
		if (i > 0 || !j.under) && u.minutes[r.at[i]]+l.minutes > h.minutes[r.at[i]]+tolerance {
			return false
		}
	}
	end := r.at[len(j.legs)]
	return u.minutes[end]+j.readyMinutes <= h.minutes[end]+tolerance
}

// add lays a route down, with sign 1, or takes it up, with −1.
func (u *usage) add(j *job, r *route, sign float64) {
	for i, l := range j.legs {
		s := l.stands[r.in[i]]
		if s.room != 0 {
			row := u.room[s.place]
			for d := max(0, int(r.at[i])); d < int(r.at[i+1]); d++ {
				row[d] += sign * s.room
			}
		}
		if i > 0 || !j.under {
			u.minutes[r.at[i]] += sign * l.minutes
		}
	}
	u.minutes[r.at[len(j.legs)]] += sign * j.readyMinutes
}
