package house_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/round"
	"ulpa/internal/work/solution"
)

// The round, the list of tanks and each tank's own page say one thing of a tank, and the
// same litres, whatever the day.
func TestWhatATankNeedsIsOneFigure(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	filled := 0
	for range 12 {
		walk, err := round.Today(ctx, d.Store, ines)
		require.NoError(t, err)
		fills := map[string]string{}
		for _, stop := range walk.Stops {
			for _, task := range stop.Tasks {
				if task.Kind.Name == "fill" {
					fills[task.Of] = task.What().String()
				}
			}
		}
		list, err := solution.All(ctx, d.Store, ines)
		require.NoError(t, err)
		for _, g := range list {
			page, err := solution.Get(ctx, d.Store, ines, g.Tank.ID)
			require.NoError(t, err)
			require.InDelta(t, page.Advice.Plan.WaterL, g.Advice.Plan.WaterL, 1e-3, g.Tank.Name)
			require.InDelta(t, page.Advice.Plan.StockML, g.Advice.Plan.StockML, 1e-2, g.Tank.Name)
			require.Equal(t, page.Advice.Fills, g.Advice.Fills, g.Tank.Name)
			said, asked := fills[g.Tank.ID.String()]
			require.True(t, asked || !g.Advice.Fills || g.Advice.Alarm, "%s is to be filled, and the round does not ask", g.Tank.Name)
			if asked {
				filled++
				litres := say.Of(page.Advice.Plan.WaterL, unit.Litre).In(say.Reader{})
				require.Contains(t, said, litres, g.Tank.Name)
			}
		}
		d.Clock.Set(d.Clock.Now().AddDate(0, 0, 1))
	}
	require.Greater(t, filled, 10)
}
