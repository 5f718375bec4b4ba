package tower_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/tower"
)

// Every crop has every tier in some order, heavy ones are offered the bottom first and never
// the top before it, and there is a reason.
func TestEveryCropHasItsTier(t *testing.T) {
	for _, c := range crop.All() {
		for tiers := 1; tiers < 9; tiers++ {
			a := tower.Where(c, tiers)
			require.NotNil(t, a.Why, c.ID)
			sorted := slices.Sorted(slices.Values(a.Tiers))
			require.Len(t, sorted, tiers, c.ID)
			require.True(t, sorted[0] == 0 && sorted[tiers-1] == tiers-1 && len(slices.Compact(sorted)) == tiers)
			if c.Habit == "climbing" || c.Habit == "trailing" {
				require.Equal(t, tiers-1, a.Tiers[0], c.ID)
			}
		}
	}
	lettuce, _ := crop.Find("lettuce")
	basil, _ := crop.Find("basil")
	require.Equal(t, 0, tower.Where(lettuce, 5).Tiers[0])
	require.Equal(t, 2, tower.Where(basil, 5).Tiers[0], "where hands reach")
}

// Who drinks more has less time, nights are longer than days, and a timer that suits a
// thirsty plant suits one that drinks less.
func TestAPumpThatStops(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		drinks, cube := rapid.Float64Range(0.005, 0.5).Draw(t, "drinks"), rapid.Float64Range(10, 200).Draw(t, "cube")
		x, more := tower.PumpStops(drinks, cube), tower.PumpStops(2*drinks, cube)
		require.InDelta(t, x.DayHours/2, more.DayHours, 1e-9)
		require.GreaterOrEqual(t, x.NightHours, min(x.DayHours, 72))
		on, every := rapid.Float64Range(1, 30).Draw(t, "on"), rapid.Float64Range(31, 240).Draw(t, "every")
		_, thirsty := tower.Timer(on, every, more)
		_, other := tower.Timer(on, every, x)
		require.True(t, !thirsty || other)
	})
	require.Zero(t, tower.PumpStops(0, 40))
}

// A list is whole when every step was ticked, in whatever order and however often, and
// begins again with the next tick; a step that only an adult may tick is known as one.
func TestAListIsGoneThrough(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		all := tower.Run()
		r := &all[rapid.IntRange(0, len(all)-1).Draw(t, "list")]
		var ids []string
		for _, s := range r.Steps {
			ids = append(ids, s.ID)
		}
		for i, id := range rapid.Permutation(ids).Draw(t, "order") {
			require.False(t, r.Whole())
			ticks := tower.Ticks{List: r.ID, Steps: []string{id}}
			adult, err := ticks.Check()
			require.NoError(t, err)
			at := slices.IndexFunc(r.Steps, func(s tower.Step) bool { return s.ID == id })
			require.Equal(t, r.Steps[at].Adult, adult)
			r.Tick(ticks, calendar.Day(100+i))
			r.Tick(tower.Ticks{List: "another", Steps: ids}, 1)
			require.Len(t, r.Done, i+1)
		}
		require.True(t, r.Whole())
		require.Equal(t, calendar.Day(100+len(ids)-1), r.Ended)
		r.Tick(tower.Ticks{List: r.ID, Steps: ids[:1]}, 200)
		require.Len(t, r.Done, 1, "it is begun again")
		require.Less(t, r.Ended, calendar.Day(200))
	})
	for _, bad := range []tower.Ticks{{}, {List: "clean"}, {List: "clean", Steps: []string{"plant"}}, {List: "x", Steps: []string{"off"}}} {
		_, err := bad.Check()
		require.Error(t, err, "%v", bad)
	}
}
