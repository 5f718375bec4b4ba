package plan_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
)

// Goals of every kind and every crop become batches that the season plans: ready when they
// are wanted, never over room or minutes beside what stands already; and what cannot be
// could be on the day that is said.
func TestGoalsComeTrue(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 4))
	today := calendar.Date(2027, 3, 18)
	closed := []calendar.Closure{{From: today + 20, To: today + 31}}
	places := []plan.GoalPlace{
		{Name: "bench", Raises: true, Room: 300, Systems: []string{"pot"}},
		{Name: "tower", Room: 36, Systems: []string{"tower"}},
		{Name: "bed", Room: 1e6, Systems: []string{"bed", "pot"}},
	}
	taken := []plan.Taken{{Place: "tower", Room: 20, Until: today + 30}, {Place: "bench", Room: 400, Until: today + 2}}
	all := crop.All()
	grown, impossible := 0, 0
	for range 25 {
		var goals []plan.Goal
		for i := range 6 {
			g := plan.Goal{
				ID: fmt.Sprint("g", i), Crop: all[r.IntN(len(all))], Wanted: 1 + r.IntN(20), From: today + calendar.Day(r.IntN(150)), Sure: 0.9,
				Weekly: r.IntN(3) == 0, Harvest: r.IntN(2) == 0, Missing: []string{plan.Must, plan.Should, plan.Nice}[r.IntN(3)],
			}
			g.By = g.From + calendar.Day(r.IntN(30))
			goals = append(goals, g)
		}
		batches := plan.BatchesFor(goals, places)
		in := plan.GoalSeason(batches, places, taken, today, closed, 45)
		in.GoodEnough = 0.01
		s, err := plan.PlanSeason(in, looks(60))
		require.NoError(t, err)
		names := map[string]bool{}
		for i, b := range batches {
			g, line := goals[b.Goal], s.Batches[i]
			require.False(t, names[b.Name], "a batch has a name of its own")
			names[b.Name] = true
			require.GreaterOrEqual(t, b.Cells, g.Wanted)
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
			if _, later := b.Nearest(closed, today); later > 0 && len(b.Stages[len(b.Stages)-1].Where) > 0 {
				g.From, g.By, g.Weekly = later, later, false
				again := plan.BatchesFor([]plan.Goal{g}, places)
				alone, err := plan.PlanSeason(plan.GoalSeason(again, places, nil, today, closed, 0), looks(20))
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
		for _, v := range load.Minutes {
			require.LessOrEqual(t, v, 45+1e-6)
		}
	}
	require.Greater(t, grown, 50)
	require.Greater(t, impossible, 10)
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
