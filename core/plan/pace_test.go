package plan_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/core/seed"
)

func steady(light, warm float64) plan.Weather {
	return plan.Weather{LightMol: func(calendar.Day) float64 { return light }, WarmC: func(calendar.Day) float64 { return warm }}
}

// Usual light and warmth give the usual days, less of either more of them, and a winter
// that becomes spring longer intervals between sowings than between harvests at first.
func TestStagesStretchWithTheSeason(t *testing.T) {
	end := calendar.Date(2027, 5, 1)
	lettuce, _ := crop.Of("lettuce")
	basil, _ := crop.Of("basil")
	require.Greater(t, plan.GrownDays(basil, 50, 1, end, steady(12, 16)), plan.GrownDays(lettuce, 50, 1, end, steady(12, 16))+10, "it wants warmth")
	require.Greater(t, plan.GrownDays(lettuce, 50, 2, end, steady(12, 20)), 60, "twice the weight")
	for _, usual := range []int{20, 35, 50, 65} {
		require.Equal(t, usual, plan.TrayDays(usual, 4, end, steady(12, 20), 1))
		require.InDelta(t, usual, plan.GrownDays(lettuce, usual, 1, end, steady(12, 20)), 1)
		require.Greater(t, plan.TrayDays(usual, 4, end, steady(12, 14), 1), usual)
		require.Greater(t, plan.TrayDays(usual, 4, end, steady(12, 20), 1.3), usual)
		require.Greater(t, plan.GrownDays(lettuce, usual, 1, end, steady(5, 20)), usual)
		require.Greater(t, plan.GrownDays(lettuce, usual, 1, end, steady(12, 13)), usual)
		require.Less(t, plan.GrownDays(lettuce, usual, 1, end, steady(20, 20)), usual)
		require.Equal(t, 3*usual, plan.TrayDays(usual, 4, end, steady(12, 0), 1), "no warmth: as long as is reckoned")
	}
	spring := plan.Weather{
		LightMol: func(d calendar.Day) float64 {
			return 8 + 6*math.Sin(2*math.Pi*float64(d-calendar.Date(2027, 3, 21))/365)
		},
		WarmC: func(calendar.Day) float64 { return 18 },
	}
	goal := plan.Goal{
		ID: "g", Crop: lettuce, Wanted: 12, From: calendar.Date(2027, 3, 1), By: calendar.Date(2027, 6, 25), Weekly: true, Harvest: true, Sure: 0.9,
		Missing: plan.Must, Raising: &spring, Growing: &spring, Pace: 1,
	}
	places := []plan.GoalPlace{{Name: "bench", Raises: true, Room: 500}, {Name: "tower", Room: 50, Systems: []string{"tower"}}}
	sow := func(b plan.GoalBatch) (d calendar.Day) {
		d = b.ReadyBy
		for _, s := range b.Stages {
			d -= calendar.Day(s.Days)
		}
		return d
	}
	all := plan.BatchesFor([]plan.Goal{goal}, places)
	first, last := all[0], all[len(all)-1]
	require.Greater(t, first.ReadyBy-sow(first), last.ReadyBy-sow(last), "it grows faster in summer")
	require.Greater(t, sow(last)-sow(first), last.ReadyBy-first.ReadyBy, "so sowings are further apart than harvests")
	for i := 1; i < len(all); i++ {
		require.GreaterOrEqual(t, sow(all[i]), sow(all[i-1]), "and never the other way round")
	}

	// What came of its own batches: few that differ ask for more cells than many alike.
	record := func(list ...seed.Came) int {
		g := goal
		raised, ok := seed.Pooled(list, 0.8)
		require.True(t, ok)
		g.Raised = &raised
		return plan.BatchesFor([]plan.Goal{g}, places)[0].Cells
	}
	alike := record(seed.Came{Cells: 40, Plants: 34}, seed.Came{Cells: 40, Plants: 34}, seed.Came{Cells: 40, Plants: 34})
	differ := record(seed.Came{Cells: 40, Plants: 40}, seed.Came{Cells: 40, Plants: 22}, seed.Came{Cells: 40, Plants: 40})
	require.Greater(t, differ, alike)
	require.GreaterOrEqual(t, alike, 14)
	unlike := record(seed.Came{Cells: 20, Plants: 20}, seed.Came{Cells: 20, Plants: 3})
	require.Greater(t, unlike, alike)
	require.Less(t, unlike, 3*goal.Wanted, "two batches say little about how much batches differ")
	_, ok := seed.Pooled([]seed.Came{{Cells: 40, Plants: 30}}, 0.8)
	require.False(t, ok, "one batch is no record")
}
