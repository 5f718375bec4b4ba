package plan_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
)

// A goal that names its bed has its plants there at last, and nowhere else; without one, wherever they suit.
func TestAGoalNamesItsBed(t *testing.T) {
	places := []plan.GoalPlace{
		{Name: "Bench", Raises: true, Room: 200, Systems: []string{"pot"}},
		{Name: "Bed 1", Systems: []string{"bed"}, Outdoor: true, Room: 100},
		{Name: "Bed 2", Systems: []string{"bed"}, Outdoor: true, Room: 100},
	}
	kale, ok := crop.Find("kale")
	require.True(t, ok)
	goal := plan.Goal{
		ID: "g", Crop: kale, Wanted: 12, From: calendar.Date(2027, 7, 1), By: calendar.Date(2027, 7, 31), Harvest: true, Sure: 0.9, Missing: plan.Should,
	}
	for _, last := range []string{"Bed 2", ""} {
		goal.Last = last
		in := map[string]bool{}
		for _, b := range plan.BatchesFor([]plan.Goal{goal}, places) {
			stages := b.Stages
			for _, s := range stages[len(stages)-1].Where {
				in[s.Place] = true
			}
		}
		require.True(t, in["Bed 2"])
		require.Equal(t, last == "", in["Bed 1"])
	}
}
