package seed_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/seed"
)

// usable is the chance that u of n can be used, one after the other as they are drawn.
func usable(g seed.Usable, n int) []float64 {
	chance := []float64{1}
	for i := range n {
		next := make([]float64, i+2)
		for u, p := range chance {
			yes := g.Rate
			if g.Tested > 0 {
				yes = (float64(g.Sprouted) + 0.5 + float64(u)) / (float64(g.Tested) + 1 + float64(i))
			}
			next[u+1] += p * yes
			next[u] += p * (1 - yes)
		}
		chance = next
	}
	return chance
}

func meets(in seed.OrderInput, u int) float64 {
	if in.Plants > 0 {
		if u >= in.Plants {
			return 1
		}
		return 0
	}
	if u == 0 {
		return 0
	}
	z := (float64(u)*in.PlantG - in.WeightG) / (in.PlantSD * math.Sqrt(float64(u)))
	return 0.5 * math.Erfc(-z/math.Sqrt2)
}

func delivered(in seed.OrderInput, n int) (sum float64) {
	for u, p := range usable(in.Usable, n) {
		sum += p * meets(in, u)
	}
	return sum
}

// The fewest plants are the fewest, and their chance is what counting plant by plant gives;
// and so are the cells.
func TestOrdersAreCounted(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := seed.OrderInput{Confidence: rapid.Float64Range(0.3, 0.97).Draw(t, "confidence"), PlantsNow: new(rapid.IntRange(0, 40).Draw(t, "now"))}
		if rapid.Bool().Draw(t, "by weight") {
			in.WeightG, in.PlantG = rapid.Float64Range(100, 1500).Draw(t, "weight"), rapid.Float64Range(80, 200).Draw(t, "mean")
			in.PlantSD = in.PlantG * rapid.Float64Range(0.05, 0.5).Draw(t, "sd")
		} else {
			in.Plants = rapid.IntRange(1, 20).Draw(t, "plants")
		}
		in.Usable.Rate = rapid.Float64Range(0.4, 1).Draw(t, "rate")
		if rapid.Bool().Draw(t, "tried") {
			in.Usable = seed.Usable{Tested: 30, Sprouted: rapid.IntRange(20, 30).Draw(t, "usable")}
		}
		in.Sow = &seed.SowFor{
			Germination: seed.Germination{Rate: rapid.Float64Range(0.5, 1).Draw(t, "germination")}, SeedsPerCell: rapid.IntRange(1, 3).Draw(t, "seeds"),
			CellsPerTray: 24, Survival: rapid.Float64Range(0.8, 1).Draw(t, "survival"),
		}
		a, err := seed.Order(in)
		require.NoError(t, err)
		require.InDelta(t, delivered(in, a.Plants), a.Chance, 1e-9)
		require.InDelta(t, delivered(in, *in.PlantsNow), *a.ChanceNow, 1e-9)
		if a.Plants > max(1, in.Plants) {
			require.Less(t, delivered(in, a.Plants-1), in.Confidence)
		}

		r := (1 - math.Pow(1-in.Sow.Germination.Rate, float64(in.Sow.SeedsPerCell))) * in.Sow.Survival
		fromCells := func(cells int) (sum float64) {
			for plants, p := range usable(seed.Usable{Rate: r}, cells) {
				sum += p * delivered(in, plants)
			}
			return sum
		}
		require.InDelta(t, fromCells(a.Sow.Cells), a.Sow.Chance, 1e-8)
		require.Less(t, fromCells(a.Sow.Cells-1), in.Confidence)
		require.Equal(t, a.Sow.Cells*in.Sow.SeedsPerCell, a.Sow.Seeds)
	})
}

// An uncertain lot never asks for fewer cells than one that is known to be as good.
func TestDoubtfulSeedAsksForMore(t *testing.T) {
	in := seed.OrderInput{Plants: 40, Usable: seed.Usable{Rate: 0.9}, Confidence: 0.9}
	cells := func(g seed.Germination) int {
		in.Sow = &seed.SowFor{Germination: g, SeedsPerCell: 1, CellsPerTray: 24, Survival: 1}
		a, err := seed.Order(in)
		require.NoError(t, err)
		return a.Sow.Cells
	}
	known := cells(seed.Germination{Rate: 0.8})
	many := cells(seed.Germination{Tested: 100_000, Sprouted: 80_000})
	few := cells(seed.Germination{Tested: 20, Sprouted: 16})
	require.InDelta(t, known, many, 1)
	require.Greater(t, few, known)
}
