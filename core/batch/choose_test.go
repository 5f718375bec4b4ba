package batch_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/batch"
)

// Whoever says only how many gets the first of those that live, row by row, never more than there
// are; what was named stays as it was named.
func TestChoosingTakesTheFirst(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := batch.New()
		var alive []batch.Spot
		rows := rapid.IntRange(1, 4).Draw(t, "rows")
		for row := range rows {
			for col := range 5 {
				state := rapid.SampledFrom([]batch.CellState{batch.Sown, batch.Sprouted, batch.Thinned, batch.Empty, batch.Lost}).Draw(t, "state")
				at := batch.Spot{Kind: batch.InCell, In: "t", Row: row, Col: col}
				s.Cells[at] = batch.Cell{State: state}
				if state == batch.Sprouted || state == batch.Thinned {
					alive = append(alive, at)
				}
			}
		}
		s.Cells[batch.Spot{Kind: batch.InCell, In: "other", Row: 0}] = batch.Cell{State: batch.Sprouted}
		s.Ports[batch.Spot{Kind: batch.InPort, In: "tower", Row: 1, Col: 2}] = true
		n := rapid.IntRange(0, 22).Draw(t, "n")
		out, err := s.Choose([]batch.Spot{{Kind: batch.InCell, In: "t", N: n}})
		switch {
		case n > len(alive):
			require.ErrorContains(t, err, "plants: only")
		case n == 0:
			require.Equal(t, []batch.Spot{{Kind: batch.InCell, In: "t"}}, out, "one cell that was named")
		default:
			require.NoError(t, err)
			require.Equal(t, alive[:n], out)
		}
		_, err = s.Choose([]batch.Spot{{Kind: batch.InCell, In: "t", N: -1}})
		require.Error(t, err)
		out, err = s.Choose([]batch.Spot{{Kind: batch.InPort, In: "tower", N: 1}})
		require.NoError(t, err)
		require.Equal(t, []batch.Spot{{Kind: batch.InPort, In: "tower", Row: 1, Col: 2}}, out)
	})
}

// Of a place, pots are named only where too few stand without one, and never another place's.
func TestChoosingFromPots(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s, all := batch.New(), 0
		for _, pot := range []string{"", "nine", "twelve"} {
			if n := rapid.IntRange(0, 6).Draw(t, "pots "+pot); n > 0 {
				s.Stands[batch.StandKey("bench", pot)] = n
				all += n
			}
		}
		s.Stands[batch.StandKey("bed", "")] = 9
		bare := s.Stands["bench"]
		n := rapid.IntRange(1, 20).Draw(t, "n")
		asked := batch.Spot{Kind: batch.InStand, In: "bench", N: n}
		out, err := s.Choose([]batch.Spot{asked})
		require.NoError(t, err)
		if n <= bare || n > all {
			require.Equal(t, []batch.Spot{asked}, out)
			return
		}
		taken := 0
		for i, x := range out {
			require.Equal(t, "bench", x.In)
			require.LessOrEqual(t, x.N, s.Stands[batch.StandKey(x.In, x.Pot)])
			require.Positive(t, x.N)
			if i == 0 && bare > 0 {
				require.Equal(t, batch.Spot{Kind: batch.InStand, In: "bench", N: bare}, x, "those without a pot first, all of them")
			}
			taken += x.N
		}
		require.Equal(t, n, taken)
	})
}
