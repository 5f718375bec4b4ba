package plan_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
)

// For every crop: sown on an open day that leaves its days in the nursery, hardened off on enough days on
// which somebody is there, and not so late that the cold comes before its first harvest.
func TestWhatIsBegunIndoorsIsReadyForItsDay(t *testing.T) {
	school := calendar.School{Closures: []calendar.Closure{{Name: "Spring holiday", From: calendar.Date(2027, 3, 26), To: calendar.Date(2027, 4, 11)}}}
	out, cold := calendar.Date(2027, 5, 22), calendar.Date(2027, 10, 6)
	for _, c := range crop.All() {
		x := plan.StartIndoors(c, out, cold, school)
		if c.InPlace {
			require.Equal(t, out, x.Sow, c.ID)
			continue
		}
		require.True(t, school.Open(x.Sow), "%s: %s", c.ID, x.Sow)
		require.GreaterOrEqual(t, int(x.Harden-x.Sow), c.NurseryDays, c.ID)
		require.LessOrEqual(t, int(x.Harden-x.Sow), c.NurseryDays+17, "%s: no earlier than the holiday makes it", c.ID)
		open := 0
		for d := x.Harden; d < out; d++ {
			if school.Open(d) {
				open++
			}
		}
		require.GreaterOrEqual(t, open, 8, c.ID)
		require.True(t, x.Until == x.Sow || x.Until+calendar.Day(c.HarvestDays()) == cold, c.ID)
		require.Zero(t, plan.StartIndoors(c, out, 0, school).Until, c.ID)
		for _, late := range []calendar.Day{0, 3, 50} {
			y := x.SownOn(x.Sow+late, c, school)
			require.True(t, y.Out >= x.Out && y.Harvest >= x.Harvest, "%s: later is no sooner", c.ID)
			require.GreaterOrEqual(t, int(y.Harden-y.Sow), c.NurseryDays, c.ID)
		}
	}
}
