package plan_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
)

// sowDay is when the first batch of a goal is sown at the latest, by its stages alone.
func sowDay(g plan.Goal) calendar.Day {
	b := plan.BatchesFor([]plan.Goal{g}, []plan.GoalPlace{{Name: "bench", Raises: true, Room: 500}, {Name: "tower", Systems: []string{"tower"}, Room: 60}})[0]
	day := b.ReadyBy
	for _, s := range b.Stages {
		day -= calendar.Day(s.Days)
	}
	return day
}

// The weight that is wanted and its certainty decide the days, and what was weighed here teaches
// how a crop grows: plants of 70 % of what the light should give are sown earlier.
func TestAGoalsWeightDecidesItsDays(t *testing.T) {
	c, _ := crop.Of("lettuce")
	w := steady(12, 18)
	goal := func(change func(*plan.Goal)) plan.Goal {
		g := plan.Goal{
			ID: "g", Crop: c, Wanted: 10, From: calendar.Date(2027, 5, 20), By: calendar.Date(2027, 5, 20), Harvest: true, Sure: 0.9, Missing: plan.Must,
			Raising: &w, Growing: &w, Pace: 1, PlantG: 150,
		}
		if change != nil {
			change(&g)
		}
		return g
	}
	usual := sowDay(goal(nil))
	require.Less(t, sowDay(goal(func(g *plan.Goal) { g.PlantG = 300; g.Grows.Times = 1 })), sowDay(goal(func(g *plan.Goal) { g.Grows.Times = 1 }))-5)
	require.Greater(t, sowDay(goal(func(g *plan.Goal) { g.Sure = 0.5 })), usual+2)
	var past []plan.Weighed
	for i := range 12 {
		sown := calendar.Date(2026, 9, 1) + calendar.Day(7*i)
		past = append(past, plan.Weighed{Sown: sown, Cut: sown + 60, PlantG: 0.7 * grams(c, 60)})
	}
	here := plan.GrowsHere(c, past, steady(12, 20))
	require.InDelta(t, 0.73, here.Times, 0.03)
	require.Equal(t, 12, here.Batches)
	require.Less(t, sowDay(goal(func(g *plan.Goal) { g.Grows = here })), sowDay(goal(func(g *plan.Goal) { g.Grows = plan.Grows{Times: 1, Batches: 12} }))-2)
	basil, _ := crop.Of("basil")
	require.Zero(t, plan.GrowsHere(basil, past, w), "what is cut again and again")
	require.InDelta(t, 1, plan.GrowsHere(c, nil, w).Times, 1e-9)
}

func grams(c crop.Crop, days int) float64 { return plan.UsualGrams(c, days) }

// A weekly order falls on its weekday, or on the last day before it on which somebody is there; a
// week without anybody wants nothing.
func TestAWeeklyOrderHasItsDay(t *testing.T) {
	c, _ := crop.Of("lettuce")
	holiday, thursday := calendar.Date(2027, 4, 5), calendar.Date(2027, 4, 15)
	open := func(d calendar.Day) bool {
		return d.Weekday() != time.Saturday && d.Weekday() != time.Sunday && d.Monday() != holiday && d != thursday
	}
	g := plan.Goal{
		ID: "g", Crop: c, Wanted: 10, From: calendar.Date(2027, 3, 29), By: calendar.Date(2027, 4, 30), Weekly: true, Harvest: true, Sure: 0.9,
		Missing: plan.Must, Weekday: 4, Open: open,
	}
	var days []string
	for _, b := range plan.BatchesFor([]plan.Goal{g}, nil) {
		require.Equal(t, b.ReadyFrom, b.ReadyBy)
		days = append(days, b.ReadyBy.String())
	}
	require.Equal(t, []string{"2027-04-01", "2027-04-14", "2027-04-22", "2027-04-29"}, days)
	g.Weekday = 0
	require.Len(t, plan.BatchesFor([]plan.Goal{g}, nil), 4, "any day of the week, and none of the holiday")
}
