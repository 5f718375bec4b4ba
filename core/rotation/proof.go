package rotation

import (
	"cmp"
	"math"
	"slices"
)

// relaxed is the least that any plan can cost when neighbours do not matter, and a plan of
// that kind.
func (b *beds) relaxed() (float64, []int) {
	open := make([]int, len(b.points))
	for i := range open {
		open[i] = i
	}
	b.left = slices.Clone(b.room)
	cost, plan := b.assign(open, func(s, c int) float64 { return b.points[s][c] - b.w.Unplaced })
	return b.missing + cost, plan
}

// assign gives each open section a crop or none at least cost, no crop more often than it is
// left: the shortest augmenting paths of the Hungarian method. What it leaves in rest is how
// much dearer each choice would make it, at least.
func (b *beds) assign(open []int, cost func(s, c int) float64) (float64, []int) {
	n := len(open)
	a := &b.scratch
	a.crops = a.crops[:0]
	for c, left := range b.left {
		for range min(left, n) {
			a.crops = append(a.crops, c)
		}
	}
	for range n {
		a.crops = append(a.crops, none)
	}
	m := len(a.crops)
	a.size(n, m, len(b.room))
	for i, s := range open {
		for c, left := range b.left {
			if left > 0 {
				a.cost[i*len(b.room)+c] = min(cost(s, c), 1e15)
			}
		}
	}
	at := func(i, k int) float64 {
		if a.crops[k] == none {
			return 0
		}
		return a.cost[i*len(b.room)+a.crops[k]]
	}
	for i := 1; i <= n; i++ {
		a.match[0] = i
		k := 0
		for j := range m + 1 {
			a.least[j], a.seen[j] = inf, false
		}
		for {
			a.seen[k] = true
			row, delta, next := a.match[k], inf, 0
			for j := 1; j <= m; j++ {
				if a.seen[j] {
					continue
				}
				if c := at(row-1, j-1) - a.u[row] - a.v[j]; c < a.least[j] {
					a.least[j], a.way[j] = c, k
				}
				if a.least[j] < delta {
					delta, next = a.least[j], j
				}
			}
			for j := 0; j <= m; j++ {
				if a.seen[j] {
					a.u[a.match[j]] += delta
					a.v[j] -= delta
				} else {
					a.least[j] -= delta
				}
			}
			if k = next; a.match[k] == 0 {
				break
			}
		}
		for k != 0 {
			a.match[k] = a.match[a.way[k]]
			k = a.way[k]
		}
	}
	plan := a.plan[:len(b.points)]
	copy(plan, b.assigned)
	sum := 0.0
	for j := 1; j <= m; j++ {
		if a.match[j] > 0 {
			sum += at(a.match[j]-1, j-1)
			plan[open[a.match[j]-1]] = a.crops[j-1]
		}
	}
	return sum, plan
}

// dearer is how much more the last assignment would cost at least, were its first section
// given that crop.
func (b *beds) dearer(c int) float64 {
	a := &b.scratch
	least := inf
	for j, x := range a.crops {
		if x == c {
			cost := 0.0
			if c != none {
				cost = a.cost[c]
			}
			least = min(least, cost-a.u[1]-a.v[j+1])
		}
	}
	return max(0, least)
}

// matching is what assign works in.
type matching struct {
	crops       []int
	cost        []float64
	u, v, least []float64
	seen        []bool
	match, way  []int
	plan        []int
}

func (a *matching) size(n, m, crops int) {
	if len(a.v) < m+1 || len(a.u) < n+1 || len(a.cost) < n*crops {
		a.cost, a.u = make([]float64, n*crops), make([]float64, n+1)
		a.v, a.least, a.seen = make([]float64, m+1), make([]float64, m+1), make([]bool, m+1)
		a.match, a.way = make([]int, m+1), make([]int, m+1)
		a.plan = make([]int, max(n, MaxSections))
	}
	clear(a.u)
	clear(a.v)
	clear(a.match)
}

// prove looks at every plan that could be better than the best: section by section, each
// beside those that are fixed where that is possible, as long as what is fixed and the least
// that the others can cost stays below it, and the same was not reached for less.
func (b *beds) prove() {
	n := len(b.points)
	b.rank = make([]int, n)
	for i := range b.rank {
		b.rank[i] = n
	}
	b.order = nil
	for len(b.order) < n {
		next, most := -1, -1
		for s := range n {
			if b.rank[s] < n {
				continue
			}
			ties := 0
			for _, x := range b.beside[s] {
				if b.rank[x] < n {
					ties += 100
				} else {
					ties++
				}
			}
			if ties > most {
				next, most = s, ties
			}
		}
		b.rank[next] = len(b.order)
		b.order = append(b.order, next)
	}
	for i := range b.assigned {
		b.assigned[i] = none
	}
	b.left = slices.Clone(b.room)
	b.reached = map[string]float64{}
	b.branch(0, b.missing, make([]bool, n))
}

// mostReached bounds what is remembered.
const mostReached = 2_000_000

// state is all of what is fixed that matters to what is not: what is left of each crop, and
// what stands beside open sections and whether it likes its neighbours.
func (b *beds) state(rank int, done []bool) string {
	key := []byte{byte(rank)}
	for _, left := range b.left {
		key = append(key, byte(min(left, 255)))
	}
	for s, fixed := range done {
		if !fixed {
			continue
		}
		for _, n := range b.beside[s] {
			if !done[n] {
				lonely := byte(0)
				if b.lonely(b.assigned, s) {
					lonely = 1
				}
				key = append(key, byte(s), byte(b.assigned[s]+1), lonely)
				break
			}
		}
	}
	return string(key)
}

// branch fixes the section of that rank; fixed is what those before cost, among themselves.
func (b *beds) branch(rank int, fixed float64, done []bool) {
	if rank == len(b.order) {
		b.keep(b.assigned, b.total(b.assigned))
		return
	}
	sure := b.surely(done)
	if rank > 1 {
		key := b.state(rank, done)
		if was, ok := b.reached[key]; ok && was <= fixed+sure+1e-12 {
			return
		}
		if len(b.reached) < mostReached {
			b.reached[key] = fixed + sure
		}
	}
	least, plan := b.assign(b.order[rank:], func(s, c int) float64 { return b.with(s, c, done) })
	if fixed+least+sure >= b.cost-1e-9 {
		return
	}
	b.keep(plan, b.total(plan))
	s := b.order[rank]
	type choice struct {
		crop        int
		cost, least float64
	}
	choices := []choice{{none, 0, b.dearer(none)}}
	for c, left := range b.left {
		if left > 0 && !math.IsInf(b.points[s][c], 1) {
			choices = append(choices, choice{c, b.with(s, c, done), b.dearer(c)})
		}
	}
	slices.SortStableFunc(choices, func(x, y choice) int { return cmp.Compare(x.least, y.least) })
	done[s] = true
	for _, x := range choices {
		if fixed+least+sure+x.least >= b.cost-1e-9 {
			break
		}
		b.assigned[s] = x.crop
		if x.crop != none {
			b.left[x.crop]--
		}
		b.branch(rank+1, fixed+x.cost, done)
		if x.crop != none {
			b.left[x.crop]++
		}
	}
	done[s], b.assigned[s] = false, none
}

// with is what a crop costs in a section, with the neighbours that are fixed.
func (b *beds) with(s, c int, done []bool) float64 {
	sum := b.points[s][c] - b.w.Unplaced
	likes, open := false, false
	for _, n := range b.beside[s] {
		if !done[n] {
			open = true
			continue
		}
		if o := b.assigned[n]; o != none {
			if b.apart[c][o] {
				sum += b.w.Apart
			}
			likes = likes || slices.Contains(b.near[c], o)
		}
	}
	if len(b.near[c]) > 0 && !likes && !open {
		sum += b.w.Near
	}
	return sum
}

// surely is what fixed sections cost that were not lonely while a neighbour was open, and
// are for good now.
func (b *beds) surely(done []bool) float64 {
	sum := 0.0
	for s, fixed := range done {
		if !fixed || !b.lonely(b.assigned, s) {
			continue
		}
		closed, last := true, 0
		for _, n := range b.beside[s] {
			closed = closed && done[n]
			last = max(last, b.rank[n])
		}
		// When the last of its neighbours was fixed before it, its own choice has counted this.
		if closed && last > b.rank[s] {
			sum += b.w.Near
		}
	}
	return sum
}
