package plan

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"
)

// search looks for a plan: prices first, which prove a bound and say where room and hands
// are scarce; then a part of the plan after another is taken up and laid down anew.
type search struct {
	h     *house
	spent func() float64
	f     *finder
	rng   *rand.Rand
	alone []float64 // by batch: its least cost in an empty house
	bound float64
	dual  *dual
	// enough is the share that a plan may lose for the search to end.
	enough float64
	stay   float64 // what must be gained for a kept plan to be changed

	now     []*route
	used    *usage
	cost    float64
	costs   []float64
	best    []*route
	bestOf  float64
	removed []int
	old     []*route
	related []int
}

func newSearch(h *house, spent func() float64) *search {
	n := len(h.jobs)
	s := &search{
		h: h, spent: spent, f: newFinder(h), rng: rand.New(rand.NewPCG(7, 11)), alone: make([]float64, n),
		now: make([]*route, n), used: newUsage(h), costs: make([]float64, n), bestOf: inf,
	}
	for i := range h.jobs {
		j := &h.jobs[i]
		s.alone[i] = s.f.best(j, nil, 0, nil)
		s.bound += min(j.value, s.alone[i])
		s.costs[i] = j.value
		s.cost += j.value
	}
	s.keep()
	return s
}

func (s *search) keep() {
	if s.cost < s.bestOf-1e-9*max(1, math.Abs(s.cost)) {
		s.bestOf, s.best = s.cost, slices.Clone(s.now)
	}
}

func (s *search) proved() bool { return s.bestOf-s.bound <= s.enough*max(1, math.Abs(s.bestOf)) }

// share of the time in which prices are worked out at first.
const pricing = 0.3

func (s *search) run() {
	stays := false
	for i := range s.h.jobs {
		if j := &s.h.jobs[i]; j.kept != nil && s.used.fits(s.h, j, j.kept) && j.cost(j.kept) < j.value {
			s.lay(i, j.kept)
			stays = true
		}
	}
	s.fill(s.byWorth(), 0, nil)
	s.keep()
	if begun, cost := s.best, s.bestOf; stays {
		defer func() {
			if cost-s.bestOf <= s.stay { // too little to move anything for it
				s.best, s.bestOf = begun, cost
			}
		}()
	}
	s.dual = newDual(s)
	for n := 0; !s.proved() && s.dual.theta > 2e-3 && s.spent() < pricing; n++ {
		s.bound = max(s.bound, s.dual.round(s.bestOf))
		if n%8 == 7 {
			s.empty()
			s.fill(s.byPrice(), 1, s.dual.prices)
			s.keep()
		}
	}
	s.restore(s.best)
	s.improve()
}

// byWorth and byPrice are orders in which to lay batches down: those first that lose most.
func (s *search) byWorth() []int {
	return s.order(func(i int) float64 { return s.h.jobs[i].value - s.alone[i] })
}

func (s *search) byPrice() []int {
	return s.order(func(i int) float64 {
		if s.dual.routes[i] == nil {
			return -1
		}
		return (s.h.jobs[i].value - s.alone[i]) * (0.8 + 0.4*s.rng.Float64())
	})
}

func (s *search) order(worth func(i int) float64) []int {
	var list []int
	by := make([]float64, len(s.h.jobs))
	for i := range s.h.jobs {
		if s.alone[i] < s.h.jobs[i].value {
			by[i] = worth(i)
			list = append(list, i)
		}
	}
	slices.SortStableFunc(list, func(a, b int) int { return cmp.Compare(by[b], by[a]) })
	return list
}

func (s *search) empty() {
	for i := range s.now {
		s.lift(i)
	}
}

func (s *search) restore(plan []*route) {
	s.empty()
	for i, r := range plan {
		if r != nil {
			s.lay(i, r)
		}
	}
}

// fill lays batches down one after another, each as cheaply as what is left allows.
func (s *search) fill(list []int, scale float64, p *prices) {
	for _, i := range list {
		if s.now[i] == nil {
			s.place(i, scale, p)
		}
	}
}

// place lays a batch down where that costs less than to leave it.
func (s *search) place(i int, scale float64, p *prices) {
	j := &s.h.jobs[i]
	if scale == 0 {
		p = nil
	}
	if c := s.f.best(j, p, scale, s.used); c < inf && (p != nil || c < j.value) {
		if r := s.f.route(j); p == nil || j.cost(r) < j.value {
			s.lay(i, r)
		}
	}
}

func (s *search) lay(i int, r *route) {
	j := &s.h.jobs[i]
	s.now[i] = r
	s.used.add(j, r, 1)
	c := j.cost(r)
	s.cost += c - s.costs[i]
	s.costs[i] = c
}

func (s *search) lift(i int) {
	j := &s.h.jobs[i]
	if s.now[i] == nil {
		return
	}
	s.used.add(j, s.now[i], -1)
	s.now[i] = nil
	s.cost += j.value - s.costs[i]
	s.costs[i] = j.value
}
