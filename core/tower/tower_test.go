package tower_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

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
