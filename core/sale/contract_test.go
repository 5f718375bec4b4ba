package sale_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calc/calctest"
	"ulpa/core/sale"
)

func TestContract(t *testing.T) { calctest.Hold(t, "sale-stock") }

func TestFiguresEndWhereTheySay(t *testing.T) { calctest.Edges(t, "sale-stock") }

// However demand is known, nothing but what is grown is sold or left, and more is worth growing where
// more is wanted, dearer or safer to grow.
func TestASaleAddsUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := sale.Input{
			Price: rapid.Float64Range(0.5, 10).Draw(t, "price"), Cost: rapid.Float64Range(0.1, 5).Draw(t, "cost"),
			Most: rapid.IntRange(0, 300).Draw(t, "most"), Usable: rapid.Float64Range(0.2, 1).Draw(t, "usable"),
			DaySpread: rapid.SampledFrom([]float64{0, 0.3, 1}).Draw(t, "spread"),
			Mean:      rapid.Float64Range(0.1, 200).Draw(t, "mean"), SD: rapid.Float64Range(0, 100).Draw(t, "sd"),
		}
		for i := range rapid.IntRange(0, 4).Draw(t, "past") {
			in.Past = append(in.Past, sale.Past{Sold: rapid.IntRange(0, 400).Draw(t, "sold"), SoldOut: i%2 == 0})
		}
		s, err := sale.Grow(in)
		require.NoError(t, err)
		require.False(t, math.IsNaN(s.Result+s.DemandMean+s.DemandSD+s.ChanceSoldOut))
		require.InDelta(t, s.Usable, s.Sold+s.Left, 1e-6)
		require.InDelta(t, s.DemandMean, s.Sold+s.Missed, 1e-6)
		require.GreaterOrEqual(t, s.Left, -1e-9)
		require.GreaterOrEqual(t, s.Missed, -1e-6)
		dearer := in
		dearer.Price *= 1.5
		more, err := sale.Grow(dearer)
		require.NoError(t, err)
		require.GreaterOrEqual(t, more.Grow, s.Grow)
		require.GreaterOrEqual(t, s.Result+in.MissedCost*s.DemandMean, -1e-6, "nothing grown loses nothing")
	})
}
