package plan

import "math"

// prices are what room and minutes cost beside the plan's own costs: upTo are the prices of
// a unit of room of a place, summed up to each day.
type prices struct {
	upTo    [][]float64
	minutes []float64
}

// finder finds the cheapest route of a job.
type finder struct {
	h      *house
	toGo   [][]float64 // by move, from lo: the least cost from there on
	choice [][]step
	reach  []int32
	ahead  []float64
}

type step struct {
	to int32
	in int16
}

func newFinder(h *house) *finder {
	legs, width := 0, 0
	for i := range h.jobs {
		legs, width = max(legs, len(h.jobs[i].legs)), max(width, h.jobs[i].width)
	}
	f := &finder{h: h, reach: make([]int32, width+1), ahead: make([]float64, width+1)}
	for range legs + 1 {
		f.toGo = append(f.toGo, make([]float64, width+1))
		f.choice = append(f.choice, make([]step, width+1))
	}
	return f
}

var inf = math.Inf(1)

// best is the least cost of a job at these prices, times scale, within what the usage
// leaves; +Inf when there is no route. Without a usage the house is empty.
func (f *finder) best(j *job, p *prices, scale float64, used *usage) float64 {
	h, k := f.h, len(j.legs)
	if j.lo[k] > j.hi[k] {
		return inf
	}
	last := f.toGo[k]
	any := false
	for d := j.lo[k]; d <= j.hi[k]; d++ {
		c := inf
		if h.open[d] && j.may(k, d) && f.fits(j.readyMinutes, d, used) {
			c, any = j.early*float64(j.by-d), true
			if p != nil {
				c += scale * p.minutes[d] * j.readyMinutes
			}
		}
		last[d-j.lo[k]] = c
	}
	for i := k - 1; i >= 0; i-- {
		if !any {
			return inf
		}
		any = f.leg(j, i, p, scale, used)
	}
	c := inf
	for t := range j.hi[0] - j.lo[0] + 1 {
		c = min(c, f.toGo[0][t])
	}
	return c
}

func (f *finder) fits(minutes float64, day int, used *usage) bool {
	left := f.h.minutes[day] + tolerance
	if used != nil && minutes > 0 {
		left -= used.minutes[day]
	}
	return minutes <= left || minutes == 0
}

// leg works out the least cost from the beginning of a leg on, for each day on which it
// can begin, from that of the next.
func (f *finder) leg(j *job, i int, p *prices, scale float64, used *usage) (any bool) {
	l, here, next := &j.legs[i], f.toGo[i], f.toGo[i+1]
	lo, hi, from, to := j.lo[i], j.hi[i], j.lo[i+1], j.hi[i+1]
	if lo > hi || from > to {
		return false
	}
	for t := range hi - lo + 1 {
		here[t] = inf
	}
	first := max(0, lo)
	for n, s := range l.stands {
		f.reaches(s, first, to, used)
		// What it costs to go on at a day, with what had to be paid for by then.
		daily := l.wait + s.cost
		var upTo []float64
		if p != nil {
			upTo = p.upTo[s.place]
		}
		priced := scale * s.room
		for d := from; d <= to; d++ {
			c := next[d-from]
			if c < inf {
				c += daily * float64(d)
				if upTo != nil {
					c += priced * upTo[d]
				}
			}
			f.ahead[d-from] = c
		}
		for t := lo; t <= hi; t++ {
			begins := i > 0 || !j.under
			if begins && (t < s.from || !f.h.open[t] || !j.may(i, t) || !f.fits(l.minutes, t, used)) {
				continue
			}
			a, b := max(t+l.days, from), min(t+l.most(), to, s.until, int(f.reach[max(0, t)-first]))
			c, at := inf, -1
			for d := a; d <= b; d++ {
				x := f.ahead[d-from]
				if short := t + l.full() - d; short > 0 {
					x += (l.wait + l.hurry) * float64(short)
				}
				if x < c {
					c, at = x, d
				}
			}
			if at < 0 {
				continue
			}
			c -= l.wait*float64(t+l.full()) + s.cost*float64(max(0, t))
			if upTo != nil {
				c -= priced * upTo[max(0, t)]
				if begins {
					c += scale * p.minutes[t] * l.minutes
				}
			}
			if c < here[t-lo] {
				here[t-lo], f.choice[i][t-lo], any = c, step{int32(at), int16(n)}, true
			}
		}
	}
	return any
}

// reaches works out, for each day from first on, up to which day it can stay at a stand.
func (f *finder) reaches(s stand, first, to int, used *usage) {
	r := &f.h.rooms[s.place]
	if used == nil || s.room == 0 {
		for d := first; d <= to; d++ {
			f.reach[d-first] = r.shut[d]
		}
		return
	}
	row, left := used.room[s.place], r.size+tolerance-s.room
	end := r.shut[to]
	for d := to; d >= first; d-- {
		if d < to && row[d] > left {
			end = int32(d)
		}
		f.reach[d-first] = min(end, r.shut[d])
	}
}

// route is the route that best found last.
func (f *finder) route(j *job) *route {
	k := len(j.legs)
	r := &route{make([]int32, k+1), make([]int16, k)}
	c, at := inf, 0
	for t := range j.hi[0] - j.lo[0] + 1 {
		if x := f.toGo[0][t]; x < c {
			c, at = x, t
		}
	}
	r.at[0] = int32(j.lo[0] + at)
	for i := range j.legs {
		s := f.choice[i][int(r.at[i])-j.lo[i]]
		r.at[i+1], r.in[i] = s.to, s.in
	}
	return r
}
