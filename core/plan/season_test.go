package plan_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/plan"
)

// looks is a clock that is over after so many looks at it.
func looks(n float64) func() float64 {
	seen := 0.0
	return func() float64 { seen++; return seen / n }
}

// houses are small ones of every kind, with closures, minutes, batches under way.
func houses(r *rand.Rand) plan.SeasonInput {
	from := calendar.Day(20820)
	in := plan.SeasonInput{From: from, To: from + 34, Workdays: []int{1, 2, 3, 4, 5}}
	if r.IntN(2) == 0 {
		in.Minutes = new(20 + 30*r.Float64())
		in.MinutesOn = []plan.DayMinutes{{Day: from + calendar.Day(r.IntN(12)), Minutes: new(8.0)}, {Day: from + 12}}
	}
	for range r.IntN(3) {
		d := from + calendar.Day(r.IntN(30))
		in.Closed = append(in.Closed, calendar.Closure{From: d, To: d + calendar.Day(r.IntN(4))})
	}
	for i := range 2 {
		in.Places = append(in.Places, plan.SeasonPlace{Name: fmt.Sprint("p", i), Room: 4 + 6*r.Float64()})
	}
	in.Places[1].Closed = []calendar.Closure{{From: from + 9, To: from + 10}}
	for i := range 2 + r.IntN(3) {
		b := plan.SeasonBatch{
			Name: fmt.Sprint("b", i), Plants: 2 + r.IntN(5), Value: 5 + 40*r.Float64(), EarlyCost: 0.3 * r.Float64(), ReadyMinutesFixed: 5,
			ReadyFrom: from + calendar.Day(14+r.IntN(8)),
		}
		b.ReadyBy = b.ReadyFrom + calendar.Day(r.IntN(4))
		for k := range 1 + r.IntN(2) {
			s := plan.SeasonStage{
				Name: fmt.Sprint("s", k), Days: 3 + r.IntN(4), HoldDays: r.IntN(4), WaitCost: r.Float64(), MinutesFixed: 4, MinutesEach: r.Float64(),
				Where: []plan.Stand{{Place: "p0", RoomEach: 1, Cost: 0.05}},
			}
			if r.IntN(2) == 0 {
				s.Where = append(s.Where, plan.Stand{Place: "p1", RoomEach: 1.2})
			}
			if r.IntN(3) == 0 {
				s.Haste, s.HasteCost = 1, r.Float64()
			}
			b.Stages = append(b.Stages, s)
		}
		if r.IntN(4) == 0 {
			b.Done = []plan.Placed{{Day: from - calendar.Day(1+r.IntN(3)), Place: "p0"}}
			b.ReadyFrom, b.ReadyBy = from+2, from+9
		}
		in.Batches = append(in.Batches, b)
	}
	return in
}

// taken is what a plan takes; judge holds it against every rule and says what it costs.
type taken struct {
	room    map[string]map[calendar.Day]float64
	minutes map[calendar.Day]float64
}

func open(in plan.SeasonInput, d calendar.Day) bool {
	day := int(d.Weekday()+6)%7 + 1
	return d >= in.From && d <= in.To && slices.Contains(in.Workdays, day) &&
		!slices.ContainsFunc(in.Closed, func(c calendar.Closure) bool { return c.From <= d && d <= c.To })
}

func (k taken) add(in plan.SeasonInput, b plan.SeasonBatch, moves []plan.Placed, ready calendar.Day) (cost float64, ok bool) {
	n := float64(b.Plants)
	if !open(in, ready) || ready < b.ReadyFrom || ready > b.ReadyBy {
		return 0, false
	}
	cost = b.EarlyCost * n * float64(b.ReadyBy-ready)
	k.minutes[ready] += b.ReadyMinutesFixed + b.ReadyMinutesEach*n
	for i, m := range moves {
		end := ready
		if i+1 < len(moves) {
			end = moves[i+1].Day
		}
		s, past := b.Stages[i], i+1 < len(b.Done)
		if length := int(end - m.Day); !past && (length < s.Days-s.Haste || length > s.Days+s.HoldDays) {
			return 0, false
		}
		at := slices.IndexFunc(s.Where, func(w plan.Stand) bool { return w.Place == m.Place })
		if i >= len(b.Done) {
			if !open(in, m.Day) {
				return 0, false
			}
			k.minutes[m.Day] += s.MinutesFixed + s.MinutesEach*n
		}
		if past {
			continue
		}
		held := int(end-m.Day) - s.Days
		cost += n * (s.WaitCost*float64(max(0, held)) + s.HasteCost*float64(max(0, -held)))
		place := in.Places[slices.IndexFunc(in.Places, func(p plan.SeasonPlace) bool { return p.Name == m.Place })]
		for d := max(m.Day, in.From); d < end; d++ {
			if slices.ContainsFunc(place.Closed, func(c calendar.Closure) bool { return c.From <= d && d <= c.To }) {
				return 0, false
			}
			if k.room[m.Place] == nil {
				k.room[m.Place] = map[calendar.Day]float64{}
			}
			k.room[m.Place][d] += n * s.Where[at].RoomEach
			cost += n * s.Where[at].Cost
		}
	}
	return cost, true
}

func (k taken) fits(in plan.SeasonInput) bool {
	for _, p := range in.Places {
		for _, v := range k.room[p.Name] {
			if v > p.Room+1e-6 {
				return false
			}
		}
	}
	for d, v := range k.minutes {
		limit := math.Inf(1)
		if in.Minutes != nil {
			limit = *in.Minutes
		}
		for _, m := range in.MinutesOn {
			if m.Day == d {
				if limit = math.Inf(1); m.Minutes != nil {
					limit = *m.Minutes
				}
			}
		}
		if v > limit+1e-6 {
			return false
		}
	}
	return true
}

func newTaken() taken {
	return taken{map[string]map[calendar.Day]float64{}, map[calendar.Day]float64{}}
}

// least tries every plan.
func least(in plan.SeasonInput) float64 {
	type route struct {
		moves []plan.Placed
		ready calendar.Day
	}
	var routes [][]route
	for _, b := range in.Batches {
		var list []route
		var walk func(moves []plan.Placed)
		walk = func(moves []plan.Placed) {
			s, last := b.Stages[len(moves)-1], moves[len(moves)-1].Day
			for end := last + calendar.Day(s.Days-s.Haste); end <= last+calendar.Day(s.Days+s.HoldDays); end++ {
				if len(moves) == len(b.Stages) {
					k := newTaken()
					if _, ok := k.add(in, b, moves, end); ok {
						list = append(list, route{slices.Clone(moves), end})
					}
					continue
				}
				for _, w := range b.Stages[len(moves)].Where {
					walk(append(slices.Clone(moves), plan.Placed{Day: end, Place: w.Place}))
				}
			}
		}
		if len(b.Done) > 0 {
			walk(b.Done)
		} else {
			for d := in.From; d <= b.ReadyBy; d++ {
				for _, w := range b.Stages[0].Where {
					walk([]plan.Placed{{Day: d, Place: w.Place}})
				}
			}
		}
		routes = append(routes, list)
	}
	best := math.Inf(1)
	var choose func(i int, cost float64, chosen []*route)
	choose = func(i int, cost float64, chosen []*route) {
		if cost >= best {
			return
		}
		if i == len(in.Batches) {
			best = cost
			return
		}
		for n := range routes[i] {
			k := newTaken()
			total := 0.0
			next := append(slices.Clone(chosen), &routes[i][n])
			for x, r := range next {
				if r != nil {
					c, _ := k.add(in, in.Batches[x], r.moves, r.ready)
					total += c
				} else {
					total += in.Batches[x].Value
				}
			}
			if k.fits(in) {
				choose(i+1, total, next)
			}
		}
		choose(i+1, cost+in.Batches[i].Value, append(slices.Clone(chosen), nil))
	}
	choose(0, 0, nil)
	return best
}

// Of small houses every plan holds every rule, none is better, and the bound is below it and
// not below what each batch would cost alone; another closure makes none cheaper.
func TestSeasonsAreTheBest(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 9))
	crowded := 0
	for i := range 90 {
		in := houses(r)
		s, err := plan.PlanSeason(in, looks(2000))
		require.NoError(t, err)
		k, cost, alone := newTaken(), 0.0, 0.0
		for n, line := range s.Batches {
			b := in.Batches[n]
			only := in
			only.Batches = []plan.SeasonBatch{b}
			one, err := plan.PlanSeason(only, looks(50))
			require.NoError(t, err)
			alone += one.Cost
			if !line.Grown {
				cost += b.Value
				if line.Why == plan.CrowdedOut {
					crowded++
					require.Less(t, one.Cost, b.Value)
				} else {
					require.Equal(t, one.Batches[0].Why, line.Why)
				}
				continue
			}
			require.Len(t, line.Moves, len(b.Stages))
			c, ok := k.add(in, b, line.Moves, line.Ready)
			require.True(t, ok, "house %d: %+v", i, line)
			cost += c
		}
		require.True(t, k.fits(in), "house %d is too small", i)
		require.InDelta(t, cost, s.Cost, 1e-6)
		best := least(in)
		require.InDelta(t, best, s.Cost, 1e-6*max(1, best), "house %d", i)
		require.LessOrEqual(t, s.Bound, best+1e-9)
		require.GreaterOrEqual(t, s.Bound, alone-1e-6)

		// Planned again as it was, it stays as it was.
		kept := in
		kept.Batches = slices.Clone(in.Batches)
		for n, line := range s.Batches {
			kept.Batches[n].Kept, kept.Batches[n].KeptReady = line.Moves, line.Ready
		}
		same, err := plan.PlanSeason(kept, looks(200))
		require.NoError(t, err)
		require.Equal(t, s.Batches, same.Batches, "house %d", i)

		closed := in
		d := in.From + calendar.Day(r.IntN(30))
		closed.Closed = append(slices.Clone(in.Closed), calendar.Closure{From: d, To: d})
		again, err := plan.PlanSeason(closed, looks(2000))
		require.NoError(t, err)
		require.GreaterOrEqual(t, again.Cost, s.Cost-1e-6)
	}
	require.Greater(t, crowded, 10)
}
