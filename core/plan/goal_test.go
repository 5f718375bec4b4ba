package plan_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/core/seed"
)

// Goals of every kind and every crop become batches that the season plans: ready when they
// are wanted, never over room or minutes beside what stands already; and what cannot be
// could be on the day that is said.
func TestGoalsComeTrue(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 4))
	today := calendar.Date(2027, 3, 18)
	school := calendar.School{Closures: []calendar.Closure{{From: today + 20, To: today + 31}}}
	places := []plan.GoalPlace{
		{Name: "bench", Raises: true, Room: 80, Systems: []string{"pot"}},
		{Name: "tower", Room: 24, Systems: []string{"tower"}},
		{Name: "bed", Room: 1e6, Systems: []string{"bed", "pot"}},
	}
	weeks := calendar.School{
		Closures: school.Closures, Periods: []calendar.Period{{Weekday: 2, Minutes: 60}, {Weekday: 4, Minutes: 30}, {Weekday: 6, Minutes: 20}},
		Specials: []calendar.Special{{Closure: calendar.Closure{From: today + 25, To: today + 25}, Minutes: 15}},
	}
	taken := []plan.Taken{{Place: "tower", Room: 20, Until: today + 30}, {Place: "bench", Room: 80, Until: today + 2}}
	var singly []plan.Taken // however many batches stand there
	for _, t := range taken {
		for range int(t.Room) {
			singly = append(singly, plan.Taken{Place: t.Place, Room: 1, Until: t.Until})
		}
	}
	require.Equal(t, plan.GoalSeason(nil, places, taken, today, school, 10).Batches, plan.GoalSeason(nil, places, singly, today, school, 10).Batches)
	all := crop.All()
	grown, impossible, ways, causes := 0, 0, map[string]int{}, map[string]int{}
	for range 40 {
		school := school
		if r.IntN(2) == 0 {
			school = weeks
		}
		var goals []plan.Goal
		for i := range 6 {
			g := plan.Goal{
				ID: fmt.Sprint("g", i), Crop: all[r.IntN(len(all))], Wanted: 1 + r.IntN(26), From: today + calendar.Day(r.IntN(150)), Sure: 0.9,
				Weekly: r.IntN(3) == 0, Harvest: r.IntN(2) == 0, Missing: []string{plan.Must, plan.Should, plan.Nice}[r.IntN(3)],
			}
			g.By = g.From + calendar.Day(r.IntN(30))
			if r.IntN(20) == 0 {
				g.Crop.Systems, g.Harvest = []string{"raft"}, true // which this school does not have
			}
			goals = append(goals, g)
		}
		batches := plan.BatchesFor(goals, places)
		in := plan.GoalSeason(batches, places, taken, today, school, 10)
		in.GoodEnough = 0.01
		s, err := plan.PlanSeason(in, looks(60))
		require.NoError(t, err)
		names := map[string]bool{}
		for i, b := range batches {
			g, line := goals[b.Goal], s.Batches[i]
			require.False(t, names[b.Name], "a batch has a name of its own")
			names[b.Name] = true
			require.GreaterOrEqual(t, b.Cells, g.Wanted)
			for _, s := range b.Stages {
				require.True(t, s.Days > s.InHand && s.Days > s.Haste, "%s: no stage is there for the days in hand alone", g.Crop.Name)
			}
			require.True(t, b.ReadyFrom >= g.From && (b.ReadyBy <= g.By || b.ReadyBy == b.ReadyFrom))
			if line.Grown {
				grown++
				require.True(t, line.Ready >= b.ReadyFrom && line.Ready <= b.ReadyBy)
				continue
			}
			if line.Why != plan.Impossible {
				continue
			}
			impossible++
			if _, later := b.Nearest(in.Open, today); later > 0 && len(b.Stages[len(b.Stages)-1].Where) > 0 {
				g.From, g.By, g.Weekly = later, later, false
				again := plan.BatchesFor([]plan.Goal{g}, places)
				alone, err := plan.PlanSeason(plan.GoalSeason(again, places, nil, today, school, 1e6), looks(20))
				require.NoError(t, err)
				if stands(again[0], places) {
					require.NotEqual(t, plan.Impossible, alone.Batches[0].Why, "%s on %s", g.Crop.Name, later)
				}
			}
		}
		load := in.LoadOf(s, today, int(in.To-today)+1)
		for p, days := range load.Rooms {
			for _, v := range days {
				require.LessOrEqual(t, v, in.Places[p].Room+1e-6)
			}
		}
		for d, v := range load.Minutes {
			require.LessOrEqual(t, v, float64(school.Minutes(today+calendar.Day(d), 10))+1e-6)
		}
		for i, line := range s.Batches[:len(batches)] {
			if line.Grown {
				heeded(t, r, batches[i], line, places, school)
				continue
			}
			c := plan.Because(in, s, i)
			causes[c.Kind]++
			require.Equal(t, line.Why == plan.Impossible, slices.Contains([]string{plan.CauseSoon, plan.CauseClosed, plan.CauseNowhere}, c.Kind) ||
				c.Kind == plan.CauseMinutes && c.From == 0, "%+v", c)
			if c.Kind == plan.CauseRoom {
				at := slices.IndexFunc(in.Places, func(p plan.SeasonPlace) bool { return p.Name == c.Place })
				stand := slices.IndexFunc(batches[i].Stages, func(s plan.SeasonStage) bool { return s.Name == c.Stage })
				for _, x := range batches[i].Stages[stand].Where {
					if x.Place == c.Place {
						require.Greater(t, load.Rooms[at][c.From-today]+x.RoomEach*float64(batches[i].Plants), in.Places[at].Room)
					}
				}
			}
			for _, w := range plan.Ways(in, s, i) {
				ways[w.Kind]++
				leads(t, w, batches, i, s, func(batches []plan.GoalBatch, extra ...calendar.Special) plan.SeasonInput {
					school := school
					school.Specials = append(slices.Clone(school.Specials), extra...)
					return plan.GoalSeason(batches, places, taken, today, school, 10)
				})
			}
		}
	}
	for _, kind := range []string{plan.CauseSoon, plan.CauseClosed, plan.CauseNowhere, plan.CauseRoom, plan.CauseMinutes} {
		require.Greater(t, causes[kind], 0, "%s: %v", kind, causes)
	}
	for _, kind := range []string{plan.WayLater, plan.WayEarlier, plan.WayFewer, plan.WayWait, plan.WayOpen, plan.WayOther} {
		require.Greater(t, ways[kind], 0, "%s: %v", kind, ways)
	}
	require.Greater(t, grown, 50)
	require.Greater(t, impossible, 10)
}

// heeded pins a batch as it was planned, or away from that, and it is so.
func heeded(t *testing.T, r *rand.Rand, b plan.GoalBatch, line plan.SeasonLine, places []plan.GoalPlace, school calendar.School) {
	at := line.Moves[r.IntN(len(line.Moves))]
	p := plan.Pin{Stage: at.Stage, Not: r.IntN(2) == 0}
	if r.IntN(2) == 0 {
		p.Day = at.Day
	} else {
		p.Place = at.Place
	}
	in := plan.GoalSeason([]plan.GoalBatch{b.Heed(plan.Wish{}.Set(p))}, places, nil, line.Moves[0].Day-3, school, 1e6)
	s, err := plan.PlanSeason(in, looks(20))
	require.NoError(t, err)
	if !p.Not {
		require.True(t, s.Batches[0].Grown)
	}
	for _, m := range s.Batches[0].Moves {
		only := slices.IndexFunc(b.Stages, func(s plan.SeasonStage) bool { return s.Name == m.Stage && len(s.Where) == 1 }) >= 0
		if m.Stage == p.Stage {
			require.True(t, p.Day == 0 || (m.Day == p.Day) != p.Not)
			require.True(t, p.Place == "" || (m.Place == p.Place) != p.Not || only)
		}
	}
}

// leads goes a way that was offered: the batch is grown, every other as it was, for no more
// than was said.
func leads(t *testing.T, w plan.Way, batches []plan.GoalBatch, i int, s plan.Season, season func([]plan.GoalBatch, ...calendar.Special) plan.SeasonInput) {
	batches = slices.Clone(batches)
	for n, line := range s.Batches[:len(batches)] {
		batches[n].Kept, batches[n].KeptReady = line.Moves, line.Ready
	}
	var extra []calendar.Special
	lost, was := 0.0, batches[i].Value
	switch w.Kind {
	case plan.WayOpen:
		extra = append(extra, calendar.Special{Closure: calendar.Closure{From: w.Open, To: w.Open}, Minutes: int(w.Minutes)})
	case plan.WayOther:
		lost = batches[w.Other].Value * float64(w.Fewer) / float64(batches[w.Other].Plants)
		if w.Plants == 0 {
			batches[w.Other].Value, batches[w.Other].ReadyFrom = 0, batches[w.Other].ReadyBy
		} else {
			batches[w.Other] = batches[w.Other].Heed(w.Wish(plan.Wish{}))
		}
	case plan.WayFewer:
		lost = batches[i].Value * float64(w.Fewer) / float64(batches[i].Plants)
		fallthrough
	default:
		batches[i] = batches[i].Heed(w.Wish(plan.Wish{}))
	}
	batches[i].Value += 1e7 // whatever it costs
	in := season(batches, extra...)
	in.GoodEnough, in.Stay = 0.5, 1
	now, err := plan.PlanSeason(in, looks(60))
	require.NoError(t, err)
	require.True(t, now.Batches[i].Grown, "%+v", w)
	require.LessOrEqual(t, now.Cost+lost, s.Cost-was+w.Cost+1e-6, "%+v", w)
}

// stands tells whether each stage of a batch has a place with room for all of it.
func stands(b plan.GoalBatch, places []plan.GoalPlace) bool {
	for _, s := range b.Stages {
		fits := false
		for _, w := range s.Where {
			for _, p := range places {
				fits = fits || p.Name == w.Place && w.RoomEach*float64(b.Plants) <= p.Room
			}
		}
		if !fits {
			return false
		}
	}
	return true
}

// What bolts in long warm days and seed that comes poorly where it is hot is said of a batch, and
// weighs in the plan; what stands cool, and what does not bolt, is worth all it is.
func TestHeatIsSaidAndWeighed(t *testing.T) {
	ready := calendar.Date(2027, 7, 10)
	places := []plan.GoalPlace{{Name: "bench", Raises: true, Room: 80, Systems: []string{"pot"}}}
	at := func(c, mol float64) *plan.Weather {
		return &plan.Weather{LightMol: func(calendar.Day) float64 { return mol }, WarmC: func(calendar.Day) float64 { return c }}
	}
	batch := func(id string, raising, growing *plan.Weather) plan.GoalBatch {
		c, ok := crop.Find(id)
		require.True(t, ok, id)
		g := plan.Goal{ID: id, Crop: c, Wanted: 10, From: ready, By: ready, Sure: 0.9, Harvest: true, Missing: plan.Must, Raising: raising, Growing: growing}
		return plan.BatchesFor([]plan.Goal{g}, places)[0]
	}
	cool, hot := at(15, 12), at(29, 38)
	for _, id := range []string{"spinach", "coriander", "lettuce"} {
		fresh, warm := batch(id, cool, cool), batch(id, cool, hot)
		require.False(t, fresh.Heat.Bolts, id)
		require.True(t, warm.Heat.Bolts, id)
		require.Less(t, warm.Value, fresh.Value, id)
	}
	require.False(t, batch("tomato", cool, hot).Heat.Bolts)
	poor := batch("lettuce", hot, cool)
	require.Greater(t, poor.Heat.Poor, 0.0, "lettuce does not come up in the heat")
	require.Less(t, poor.Heat.Poor, 0.5)
	require.Zero(t, batch("lettuce", cool, cool).Heat.Poor)
}

// What is grown in the open goes through a frame first, in its own time: it is ready no later.
func TestPlansHardenOff(t *testing.T) {
	c, _ := crop.Find("kale")
	g := plan.Goal{ID: "k", Crop: c, Wanted: 10, From: 700_000, By: 700_010, Sure: 0.9, Harvest: true, Missing: plan.Must}
	bench := plan.GoalPlace{Name: "bench", Raises: true, Room: 80, Systems: []string{"pot"}}
	bench.Systems = nil
	bed, frame := plan.GoalPlace{Name: "bed", Room: 100, Systems: []string{"bed"}, Outdoor: true}, plan.GoalPlace{Name: "frame", Room: 100, Hardens: true}
	days := func(b plan.GoalBatch) (n int, names []string) {
		for _, s := range b.Stages {
			n, names = n+s.Days, append(names, s.Name)
		}
		return n, names
	}
	bare, without := days(plan.BatchesFor([]plan.Goal{g}, []plan.GoalPlace{bench, bed})[0])
	n, with := days(plan.BatchesFor([]plan.Goal{g}, []plan.GoalPlace{bench, bed, frame})[0])
	require.NotContains(t, without, plan.StageHarden)
	require.Equal(t, []string{plan.StageHarden, plan.StageLast}, with[len(with)-2:])
	require.Equal(t, bare, n)
}

// Hardening off takes days on which somebody opens the frame: it begins before a week in which nobody
// is there, not in it.
func TestHardeningOffTakesOpenDays(t *testing.T) {
	tomato, _ := crop.Find("tomato")
	by := calendar.Date(2027, 6, 7)
	places := []plan.GoalPlace{{Name: "bench", Raises: true, Room: 200, Systems: []string{"pot"}}, {Name: "frame", Hardens: true, Room: 1e6}}
	weekday := func(d calendar.Day) bool { return d.Weekday() != time.Saturday && d.Weekday() != time.Sunday }
	closed := func(d calendar.Day) bool { return weekday(d) && (d < by-7 || d >= by) }
	days := func(open func(calendar.Day) bool) int {
		g := plan.Goal{ID: "g", Crop: tomato, Wanted: 12, From: by, By: by, Out: true, Sure: 0.9, Missing: plan.Must, OutFrom: by + 5, Open: open}
		b := plan.BatchesFor([]plan.Goal{g}, places)[0]
		last := b.Stages[len(b.Stages)-1]
		require.Equal(t, plan.StageHarden, last.Name, "before frost is over too")
		require.LessOrEqual(t, last.Where[0].From, by-calendar.Day(last.Days))
		return last.Days
	}
	require.Equal(t, 12, days(weekday))
	require.Equal(t, 24, days(closed), "nine days indoors take three of them, which are done before")
}

// A packet of which little came up is sown thicker.
func TestAPoorPacketIsSownThicker(t *testing.T) {
	chard, _ := crop.Find("chard")
	g := plan.Goal{ID: "g", Crop: chard, Wanted: 12, From: 20600, By: 20604, Sure: 0.9, Missing: plan.Must}
	places := []plan.GoalPlace{{Name: "bench", Raises: true, Room: 200, Systems: []string{"pot"}}}
	usual := plan.BatchesFor([]plan.Goal{g}, places)[0]
	g.Seed = &seed.Germination{Rate: 0.25, Tested: 30, Sprouted: 8}
	poor := plan.BatchesFor([]plan.Goal{g}, places)[0]
	require.Greater(t, poor.Cells*poor.SeedsPerCell, 2*usual.Cells*usual.SeedsPerCell)
	require.Greater(t, poor.SeedsPerCell, usual.SeedsPerCell, "in the cells that there are")
}

// A goal that is begun late is planned for its day all the same for as long as plants may be large
// enough by then: first out of the days in hand, then shorter from day to day; only then is it late.
func TestALateSowingKeepsItsDay(t *testing.T) {
	lettuce, _ := crop.Find("lettuce")
	by := calendar.Date(2027, 5, 20)
	places := []plan.GoalPlace{{Name: "bench", Raises: true, Room: 200}, {Name: "tower", Room: 40, Systems: []string{"tower"}}}
	mild := &plan.Weather{LightMol: func(calendar.Day) float64 { return 12 }, WarmC: func(calendar.Day) float64 { return 18 }}
	g := plan.Goal{ID: "g", Crop: lettuce, Wanted: 12, From: by, By: by, Harvest: true, Sure: 0.9, Missing: plan.Must, Raising: mild, Growing: mild, Pace: 1}
	every := func(calendar.Day) bool { return true }
	at := func(today calendar.Day) (plan.SeasonLine, int) {
		b, late := plan.BatchesFor([]plan.Goal{g}, places)[0].Late(every, today, 28)
		in := plan.GoalSeason([]plan.GoalBatch{b}, places, nil, today, calendar.School{}, 60)
		in.Open = every
		s, err := plan.PlanSeason(in, looks(200))
		require.NoError(t, err)
		return s.Batches[0], late
	}
	early, _ := at(by - 120)
	require.Zero(t, early.Short)
	sow, short, behind := early.Moves[0].Day, 0, 0
	for today := sow - 2; today < sow+40; today++ {
		line, late := at(today)
		require.True(t, line.Grown, "%d days after its day", today-sow)
		require.GreaterOrEqual(t, line.Short, short)
		require.GreaterOrEqual(t, late, behind)
		if late == 0 {
			require.Equal(t, by, line.Ready)
			require.Equal(t, max(0, int(today-sow)-3), line.Short, "three days are in hand")
		}
		short, behind = line.Short, late
	}
	require.Greater(t, short, 5)
	require.Positive(t, behind)
}
