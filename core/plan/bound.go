package plan

import "math"

// dual works out prices for room and minutes at which the batches, each for itself, would
// want no more than there is: what they then cost, less what the room and the minutes are
// worth, is less than any plan costs.
type dual struct {
	s       *search
	prices  *prices
	room    [][]float64 // the price of a unit of room by place and day
	drift   [][]float64 // where prices were heading
	minutes []float64
	driftM  []float64
	wants   *usage
	routes  []*route
	theta   float64
	stale   int
	best    float64
	kept    *prices // at the best bound
}

func newDual(s *search) *dual {
	h := s.h
	d := &dual{
		s: s, theta: 1, best: s.bound, wants: newUsage(h), routes: make([]*route, len(h.jobs)),
		minutes: make([]float64, h.days), driftM: make([]float64, h.days),
	}
	d.prices = newPrices(h)
	for range h.rooms {
		d.room = append(d.room, make([]float64, h.days))
		d.drift = append(d.drift, make([]float64, h.days))
	}
	return d
}

func newPrices(h *house) *prices {
	p := &prices{minutes: make([]float64, h.days)}
	for range h.rooms {
		p.upTo = append(p.upTo, make([]float64, h.days+1))
	}
	return p
}

func (p *prices) copyOf(h *house) *prices {
	c := newPrices(h)
	copy(c.minutes, p.minutes)
	for i := range p.upTo {
		copy(c.upTo[i], p.upTo[i])
	}
	return c
}

// round asks every batch what it wants at these prices, and changes them. It returns the
// bound that they prove.
func (d *dual) round(upper float64) float64 {
	h, p := d.s.h, d.prices
	worth := 0.0
	for i, row := range d.room {
		sum, size := 0.0, h.rooms[i].size+1e-6
		upTo := p.upTo[i]
		for t, v := range row {
			upTo[t] = sum
			sum += v
		}
		upTo[h.days] = sum
		worth += sum * size
	}
	for t, v := range d.minutes {
		p.minutes[t] = v
		if v > 0 {
			worth += v * (h.minutes[t] + 1e-6)
		}
	}
	d.wants.clear()
	bound := -worth
	for i := range h.jobs {
		j := &h.jobs[i]
		d.routes[i] = nil
		if d.s.alone[i] >= j.value { // never grown
			bound += j.value
			continue
		}
		c := d.s.f.best(j, p, 1, nil)
		if c >= j.value {
			bound += j.value
			continue
		}
		bound += c
		d.routes[i] = d.s.f.route(j)
		d.wants.add(j, d.routes[i], 1)
	}
	if bound > d.best+1e-9*math.Abs(d.best) {
		d.best, d.stale = bound, 0
		d.kept = p.copyOf(h)
	} else if d.stale++; d.stale >= 12 {
		d.theta, d.stale = d.theta*0.6, 0
		d.goBack()
	}
	d.move(upper - bound)
	return bound
}

// goBack takes the prices of the best bound once more, for smaller steps from there.
func (d *dual) goBack() {
	if d.kept == nil {
		return
	}
	copy(d.minutes, d.kept.minutes)
	clear(d.driftM)
	for i, upTo := range d.kept.upTo {
		clear(d.drift[i])
		for t := range d.room[i] {
			d.room[i][t] = max(0, upTo[t+1]-upTo[t])
		}
	}
}

// fade is how much of its last direction a price keeps.
const fade = 0.3

// move changes the prices along what was wanted too much or too little, as a share of what
// there is.
func (d *dual) move(gap float64) {
	each := func(visit func(size, wants float64, price, drift *float64)) {
		for i, row := range d.room {
			if size := d.s.h.rooms[i].size; size > 0 {
				for t := range row {
					visit(size, d.wants.room[i][t], &row[t], &d.drift[i][t])
				}
			}
		}
		for t, size := range d.s.h.minutes {
			if size > 0 && !math.IsInf(size, 1) {
				visit(size, d.wants.minutes[t], &d.minutes[t], &d.driftM[t])
			}
		}
	}
	norm, over := 0.0, false
	each(func(size, wants float64, price, drift *float64) {
		g := wants/size - 1
		over = over || g > 0
		if *price == 0 && g < 0 {
			*drift = 0
			return
		}
		if *drift = fade**drift + (1-fade)*g; *price == 0 {
			*drift = max(0, *drift)
		}
		norm += *drift * *drift
	})
	if norm == 0 {
		if !over { // at no price nobody wants too much
			d.theta = 0
		}
		return
	}
	step := d.theta * max(gap, 1e-9) / norm
	each(func(size, _ float64, price, drift *float64) {
		if *drift != 0 {
			*price = max(0, *price+step**drift/size)
		}
	})
}
