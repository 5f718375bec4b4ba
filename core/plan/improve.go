package plan

import "math"

// Of the search by taking up and laying down.

const (
	mostLifted = 14
	patience   = 8000 // tries for each batch without a better plan, and at least
	leastTries = 20_000
)

// improve takes up a batch that loses and some that stand in its way, and lays them down in
// another order and at prices for what is scarce; what is a little worse is sometimes
// kept, less and less.
func (s *search) improve() {
	var losing []int
	for i := range s.h.jobs {
		if s.alone[i] < s.h.jobs[i].value {
			losing = append(losing, i)
		}
	}
	if len(losing) == 0 {
		return
	}
	warm := 2 * max(s.bestOf-s.bound, 0) / float64(len(losing))
	begun := s.spent()
	heat, tries, last := warm, 0, max(leastTries, patience*len(losing))
	for ; !s.proved() && tries < last; tries++ {
		if tries%16 == 0 {
			spent := s.spent()
			if spent >= 1 {
				break
			}
			done := max((spent-begun)/max(1-begun, 1e-9), float64(tries)/float64(last))
			heat = warm * (1 - done) * (1 - done)
			if tries%8192 == 8191 {
				s.again()
			}
		}
		before := s.bestOf
		s.try(losing, heat)
		if s.bestOf < before-1e-9 {
			last = max(last, tries+max(leastTries, patience*len(losing)))
		}
	}
}

// again begins from the best once more, and clears the dust that adding and taking leaves.
func (s *search) again() {
	s.restore(s.best)
	s.used.clear()
	s.cost = 0
	for i, r := range s.now {
		if r != nil {
			s.used.add(&s.h.jobs[i], r, 1)
		}
		s.cost += s.costs[i]
	}
}

func (s *search) try(list []int, heat float64) {
	seed := s.pick(list)
	s.chooseRelated(seed, list)
	was := s.cost
	s.removed, s.old = append(s.removed[:0], seed), s.old[:0]
	s.removed = append(s.removed, s.related...)
	for _, i := range s.removed {
		s.old = append(s.old, s.now[i])
		s.lift(i)
	}
	scale := [...]float64{0, 0, 0.3, 1}[s.rng.IntN(4)]
	if s.dual.kept == nil {
		scale = 0
	}
	first := 0
	if s.rng.IntN(4) > 0 {
		first = 1 // the one that loses goes first
	}
	order := append([]int(nil), s.removed...)
	s.rng.Shuffle(len(order)-first, func(a, b int) { order[a+first], order[b+first] = order[b+first], order[a+first] })
	for _, i := range order {
		s.place(i, scale, s.dual.kept)
	}
	if s.cost <= was || heat > 0 && s.rng.Float64() < math.Exp((was-s.cost)/heat) {
		s.keep()
		return
	}
	for _, i := range s.removed {
		s.lift(i)
	}
	for n, i := range s.removed {
		if s.old[n] != nil {
			s.lay(i, s.old[n])
		}
	}
	s.cost = was
}

// pick draws a batch, those more often that lose more than they would alone.
func (s *search) pick(list []int) int {
	if s.rng.IntN(5) == 0 {
		return list[s.rng.IntN(len(list))]
	}
	sum := 0.0
	for _, i := range list {
		sum += s.costs[i] - s.alone[i]
	}
	at := s.rng.Float64() * sum
	for _, i := range list {
		if at -= s.costs[i] - s.alone[i]; at <= 0 {
			return i
		}
	}
	return list[len(list)-1]
}

// chooseRelated chooses batches that stand where a batch would like to, or are moved when
// it would like to be.
func (s *search) chooseRelated(seed int, list []int) {
	j := &s.h.jobs[seed]
	s.related = s.related[:0]
	var r *route
	if s.rng.IntN(2) == 0 && s.dual.kept != nil {
		s.f.best(j, s.dual.kept, s.rng.Float64(), nil)
	} else {
		s.f.best(j, nil, 0, nil)
	}
	r = s.f.route(j)
	for _, i := range list {
		if i != seed && s.now[i] != nil && s.meet(j, r, &s.h.jobs[i], s.now[i]) {
			s.related = append(s.related, i)
		}
	}
	most := 1 + s.rng.IntN(mostLifted)
	s.rng.Shuffle(len(s.related), func(a, b int) { s.related[a], s.related[b] = s.related[b], s.related[a] })
	s.related = s.related[:min(len(s.related), most)]
	if s.rng.IntN(3) == 0 { // one that is not grown may take their room
		for range 4 {
			if i := list[s.rng.IntN(len(list))]; i != seed && s.now[i] == nil {
				s.related = append(s.related, i)
				break
			}
		}
	}
}

// meet tells whether two routes share a place on a day, or a day of moves.
func (s *search) meet(a *job, r *route, b *job, q *route) bool {
	for i := range a.legs {
		p := a.legs[i].stands[r.in[i]].place
		for k := range b.legs {
			if b.legs[k].stands[q.in[k]].place == p && r.at[i] < q.at[k+1] && q.at[k] < r.at[i+1] {
				return true
			}
		}
	}
	for _, x := range r.at {
		for _, y := range q.at {
			if x == y && !math.IsInf(s.h.minutes[max(0, int(x))], 1) {
				return true
			}
		}
	}
	return false
}
