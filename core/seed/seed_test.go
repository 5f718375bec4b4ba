package seed_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/seed"
)

func load(t *testing.T, name string, into any) {
	b, err := os.ReadFile("testdata/" + name + ".json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(b, into))
}

func TestRateAsContracted(t *testing.T) {
	var cases []struct {
		Input struct {
			PlantsWanted int `json:"plants_wanted"`
			Germination  struct {
				Rate             float64
				Tested, Sprouted int
			}
			Confidence, Survival *float64
			MaxSeedsPerCell      *int `json:"max_seeds_per_cell"`
			CellsPerTray         int  `json:"cells_per_tray"`
			SeedsOnHand          *int `json:"seeds_on_hand"`
		}
		Output struct {
			Options []struct {
				Cells, Seeds, Trays *int
				CellFill            float64 `json:"cell_fill"`
				Chance, Thinned     *float64
				ExpectedPlants      *float64 `json:"expected_plants"`
				EnoughSeed          *bool    `json:"enough_seed"`
			}
			Recommended *int
		}
	}
	load(t, "seed-rate", &cases)
	or := func(p *float64, v float64) float64 {
		if p != nil {
			return *p
		}
		return v
	}
	for _, c := range cases {
		in := seed.RateInput{
			PlantsWanted: c.Input.PlantsWanted, Confidence: or(c.Input.Confidence, 0.9), Survival: or(c.Input.Survival, 1),
			Germination: seed.Germination(c.Input.Germination), MaxSeedsPerCell: 3, CellsPerTray: c.Input.CellsPerTray, SeedsOnHand: c.Input.SeedsOnHand,
		}
		if c.Input.MaxSeedsPerCell != nil {
			in.MaxSeedsPerCell = *c.Input.MaxSeedsPerCell
		}
		got, err := seed.Rate(in)
		require.NoError(t, err)
		require.Len(t, got.Options, len(c.Output.Options))
		for i, want := range c.Output.Options {
			o := got.Options[i]
			require.InEpsilon(t, want.CellFill, o.CellFill, 1e-6)
			require.Equal(t, want.Cells == nil, o.OutOfReach)
			if want.EnoughSeed != nil {
				require.Equal(t, *want.EnoughSeed, o.EnoughSeed)
			}
			if want.Cells == nil {
				continue
			}
			require.Equal(t, []int{*want.Cells, *want.Seeds, *want.Trays}, []int{o.Cells, o.Seeds, o.Trays})
			require.InEpsilon(t, *want.Chance, o.Chance, 1e-6)
			require.InEpsilon(t, *want.ExpectedPlants, o.ExpectedPlants, 1e-6)
			if want.Thinned != nil {
				require.InEpsilon(t, *want.Thinned, o.Thinned, 1e-6)
			}
		}
		if c.Output.Recommended == nil {
			require.Zero(t, got.Recommended)
		} else {
			require.Equal(t, *c.Output.Recommended, got.Recommended)
		}
	}
}

func TestOnePlantAtItsOwnChanceIsOneCell(t *testing.T) {
	a, err := seed.Rate(seed.RateInput{PlantsWanted: 1, Confidence: 0.9, Germination: seed.Germination{Rate: 0.9}, Survival: 1, MaxSeedsPerCell: 1, CellsPerTray: 24})
	require.NoError(t, err)
	require.Equal(t, 1, a.Options[0].Cells)
}

func TestRateRefusesByField(t *testing.T) {
	_, err := seed.Rate(seed.RateInput{PlantsWanted: 0, Confidence: 1, Germination: seed.Germination{Tested: 5, Sprouted: 6}, Survival: 2, CellsPerTray: 0})
	for _, f := range []string{"plants_wanted", "confidence", "germination.sprouted", "survival", "max_seeds_per_cell", "cells_per_tray"} {
		require.ErrorContains(t, err, f+": takes")
	}
}

// More seeds in a cell never ask for more cells; a tested lot never promises
// more than its own average would.
func TestMoreSeedsNeverLowerTheChance(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := seed.RateInput{
			PlantsWanted: rapid.IntRange(1, 200).Draw(t, "wanted"), Confidence: rapid.Float64Range(0.05, 0.99).Draw(t, "confidence"),
			Survival: rapid.Float64Range(0.3, 1).Draw(t, "survival"), MaxSeedsPerCell: 4, CellsPerTray: 24,
		}
		if in.Germination.Tested = rapid.IntRange(0, 100).Draw(t, "tested"); in.Germination.Tested > 0 {
			in.Germination.Sprouted = rapid.IntRange(in.Germination.Tested/3, in.Germination.Tested).Draw(t, "sprouted")
		} else {
			in.Germination.Rate = rapid.Float64Range(0.2, 1).Draw(t, "rate")
		}
		a, err := seed.Rate(in)
		require.NoError(t, err)
		for i := 1; i < len(a.Options); i++ {
			if a.Options[i-1].OutOfReach {
				continue
			}
			require.LessOrEqual(t, a.Options[i].Cells, a.Options[i-1].Cells)
			require.GreaterOrEqual(t, a.Options[i].Chance, in.Confidence-1e-9)
		}
	})
}

func TestGerminationAsContracted(t *testing.T) {
	var cases []struct {
		Input struct {
			Crop string
			C    float64 `json:"temperature_c"`
		}
		Output struct {
			Germinates bool
			Days       float64 `json:"days_to_half"`
			Base       float64 `json:"base_c"`
			Optimum    float64 `json:"optimum_c"`
			Ceiling    float64 `json:"ceiling_c"`
		}
	}
	load(t, "germination-time", &cases)
	for _, c := range cases {
		g, err := seed.GerminationTime(c.Input.Crop, c.Input.C)
		require.NoError(t, err)
		require.Equal(t, c.Output.Germinates, g.Germinates)
		require.InDelta(t, c.Output.Days, g.DaysToHalf, 0.25*c.Output.Days)
		require.InEpsilon(t, c.Output.Base, g.BaseC, 0.2)
		require.InEpsilon(t, c.Output.Optimum, g.OptimumC, 0.18)
		require.InEpsilon(t, c.Output.Ceiling, g.CeilingC, 0.067)
	}
}

func BenchmarkRateOf5000FromATest(b *testing.B) {
	in := seed.RateInput{PlantsWanted: 5000, Confidence: 0.9, Germination: seed.Germination{Tested: 25, Sprouted: 20}, Survival: 0.95, MaxSeedsPerCell: 3, CellsPerTray: 128}
	for b.Loop() {
		if _, err := seed.Rate(in); err != nil {
			b.Fatal(err)
		}
	}
}
