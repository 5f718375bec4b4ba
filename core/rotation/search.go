package rotation

import (
	"math"
	"math/rand/v2"
	"slices"
)

// none is an empty section.
const none = -1

var inf = math.Inf(1)

// beds are sections and crops by number.
type beds struct {
	points   [][]float64 // by section and crop; +Inf: forbidden
	room     []int       // sections wanted, by crop
	beside   [][]int
	apart    [][]bool
	near     [][]int
	w        Weights
	missing  float64 // what it costs when nothing is placed
	best     []int
	cost     float64
	proven   bool
	order    []int // in which sections are fixed
	rank     []int // of each section in it
	reached  map[string]float64
	scratch  matching
	assigned []int
	left     []int
}

func newBeds(in Input) *beds {
	n, m := len(in.Sections), len(in.Wants)
	b := &beds{w: in.Weights, beside: make([][]int, n), assigned: make([]int, n), cost: inf}
	section, crop := map[string]int{}, map[string]int{}
	for i, s := range in.Sections {
		section[s.Name] = i
	}
	for c, w := range in.Wants {
		crop[w.Crop] = c
		b.room = append(b.room, w.Sections)
		b.missing += in.Weights.Unplaced * float64(w.Sections)
		b.apart = append(b.apart, make([]bool, m))
	}
	link := func(a, z int) {
		if !slices.Contains(b.beside[a], z) {
			b.beside[a] = append(b.beside[a], z)
		}
	}
	for i, s := range in.Sections {
		row := make([]float64, m)
		for c, w := range in.Wants {
			rows, forbidden := in.own(s, w)
			for _, p := range rows {
				row[c] += p.Points
			}
			if forbidden {
				row[c] = inf
			}
		}
		b.points = append(b.points, row)
		for _, name := range s.Neighbours {
			link(i, section[name])
			link(section[name], i)
		}
		b.assigned[i] = none
	}
	for c, w := range in.Wants {
		for _, other := range w.Apart {
			if o, ok := crop[other]; ok {
				b.apart[c][o], b.apart[o][c] = true, true
			}
		}
		var near []int
		for _, other := range w.Near {
			if o, ok := crop[other]; ok {
				near = append(near, o)
			}
		}
		b.near = append(b.near, near)
	}
	return b
}

// lonely tells whether the crop of a section likes a neighbour and has none of them.
func (b *beds) lonely(plan []int, s int) bool {
	c := plan[s]
	if c == none || len(b.near[c]) == 0 {
		return false
	}
	for _, n := range b.beside[s] {
		if plan[n] != none && slices.Contains(b.near[c], plan[n]) {
			return false
		}
	}
	return true
}

// around is what sections, none twice, and those beside them cost by what stands in them:
// each pair and each section once.
func (b *beds) around(plan []int, sections ...int) float64 {
	sum := 0.0
	var alone []int // that may be lonely by it
	for i, s := range sections {
		alone = append(alone, s)
		c := plan[s]
		if c != none {
			sum += b.points[s][c] - b.w.Unplaced
		}
		for _, n := range b.beside[s] {
			alone = append(alone, n)
			if c != none && plan[n] != none && b.apart[c][plan[n]] && !slices.Contains(sections[:i], n) {
				sum += b.w.Apart
			}
		}
	}
	for i, s := range alone {
		if !slices.Contains(alone[:i], s) && b.lonely(plan, s) {
			sum += b.w.Near
		}
	}
	return sum
}

func (b *beds) total(plan []int) float64 {
	sum := b.missing
	for s, c := range plan {
		if c == none {
			continue
		}
		sum += b.points[s][c] - b.w.Unplaced
		for _, n := range b.beside[s] {
			if n > s && plan[n] != none && b.apart[c][plan[n]] {
				sum += b.w.Apart
			}
		}
		if b.lonely(plan, s) {
			sum += b.w.Near
		}
	}
	return sum
}

func (b *beds) keep(plan []int, cost float64) {
	if cost < b.cost-1e-12 {
		b.best, b.cost = slices.Clone(plan), cost
	}
}

// search warms plans up and cools them down; then, of few sections, it proves.
func (b *beds) search(spent func() float64) {
	n := len(b.points)
	few := n <= exactSections
	b.keep(b.assigned, b.total(b.assigned))
	rng := rand.New(rand.NewPCG(5, 17))
	root, plan := b.relaxed()
	b.keep(plan, b.total(plan))
	cycles, stale := 6, 0
	for cycle := 0; (few && cycle < cycles || !few && stale < 40 && spent() < 1) && b.cost > root+1e-9; cycle++ {
		was := b.cost
		b.cool(rng, 4000*n, spent, few)
		if stale++; b.cost < was-1e-9 {
			stale = 0
		}
	}
	if b.proven = b.cost <= root+1e-9; few && !b.proven {
		b.prove()
		b.proven = true
	}
}

// cool changes, swaps and clears sections, first freely and then only for the better.
func (b *beds) cool(rng *rand.Rand, tries int, spent func() float64, few bool) {
	n, m := len(b.points), len(b.room)
	plan, left := slices.Clone(b.best), slices.Clone(b.room)
	for _, c := range plan {
		if c != none {
			left[c]--
		}
	}
	cost := b.total(plan)
	for i := range tries {
		if i%4096 == 0 && !few && spent() >= 1 {
			return
		}
		heat := 8 * math.Pow(1-float64(i)/float64(tries), 3)
		s := rng.IntN(n)
		if rng.IntN(2) == 0 { // another crop, or none
			c := rng.IntN(m+1) - 1
			if c == plan[s] || c != none && (left[c] == 0 || math.IsInf(b.points[s][c], 1)) {
				continue
			}
			was, before := plan[s], b.around(plan, s)
			plan[s] = c
			if d := b.around(plan, s) - before; d <= 0 || rng.Float64() < math.Exp(-d/max(heat, 1e-9)) {
				cost += d
				if was != none {
					left[was]++
				}
				if c != none {
					left[c]--
				}
				b.keep(plan, cost)
			} else {
				plan[s] = was
			}
			continue
		}
		t := rng.IntN(n)
		x, y := plan[s], plan[t]
		if s == t || x == y || y != none && math.IsInf(b.points[s][y], 1) || x != none && math.IsInf(b.points[t][x], 1) {
			continue
		}
		before := b.around(plan, s, t)
		plan[s], plan[t] = y, x
		if d := b.around(plan, s, t) - before; d <= 0 || rng.Float64() < math.Exp(-d/max(heat, 1e-9)) {
			cost += d
			b.keep(plan, cost)
		} else {
			plan[s], plan[t] = x, y
		}
	}
	b.cost = b.total(b.best) // without the dust of adding
}
