package house_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/batches"
)

// A batch's story ends with what is in hand, never goes back in time, and names every loss.
func TestAStoryAddsUp(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	o, err := batches.ReadOverview(ctx, d.Store, ines)
	require.NoError(t, err)
	ahead := 0
	for _, l := range o.Lines {
		b, err := batches.Get(ctx, d.Store, ines, l.ID)
		require.NoError(t, err)
		s := b.Story
		require.NotEmpty(t, s.Points, b.Code)
		require.Equal(t, b.State.Waiting()+b.State.Standing(), s.Points[len(s.Points)-1].Alive, b.Code)
		day, lost := 0.0, 0
		for _, p := range s.Points {
			require.GreaterOrEqual(t, p.Day, day)
			day = p.Day
		}
		for _, e := range s.Events {
			lost += e.Lost
		}
		require.LessOrEqual(t, day, s.Now)
		require.Equal(t, b.State.Losses(), lost, b.Code)
		if s.Ahead > 0 {
			require.Greater(t, s.Ahead, s.Now-1)
			ahead++
		}
	}
	require.Positive(t, ahead)
}
