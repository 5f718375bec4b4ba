package recipe_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/recipe"
)

// No recipe is beaten by a small change of its own grams: the least sum is a
// valley, so a best point that no step can better is the best there is. And
// what is achieved follows from the grams.
func TestNoSmallChangeBettersARecipe(t *testing.T) {
	salts := []string{
		"calcium_nitrate_tetrahydrate",
		"potassium_nitrate",
		"monopotassium_phosphate",
		"magnesium_sulfate_heptahydrate",
		"potassium_sulfate",
		"ammonium_sulfate",
		"potassium_chloride",
	}
	rapid.Check(t, func(t *rapid.T) {
		in := recipe.RecipeInput{
			VolumeL:    100,
			WaterMgL:   map[string]float64{"Ca": rapid.Float64Range(0, 80).Draw(t, "ca")},
			TargetsMgL: map[string]float64{},
			MaxG:       map[string]float64{},
			Weights:    map[string]float64{},
		}
		for _, el := range []string{"N", "P", "K", "Ca", "Mg", "S"} {
			if rapid.Bool().Draw(t, "want "+el) || el == "N" {
				in.TargetsMgL[el] = rapid.Float64Range(10, 200).Draw(t, el)
				in.Weights[el] = rapid.Float64Range(0.2, 3).Draw(t, "w"+el)
			}
		}
		for _, s := range salts {
			if rapid.Bool().Draw(t, s) || s == salts[0] {
				in.Products = append(in.Products, recipe.ProductIn{Name: s})
				if rapid.IntRange(0, 3).Draw(t, "limit") == 0 {
					in.MaxG[s] = rapid.Float64Range(0, 60).Draw(t, "g")
				}
			}
		}
		out, err := recipe.Recipe(in)
		require.NoError(t, err)
		miss := func(change string, by float64) float64 {
			probe := recipe.RecipeInput{
				VolumeL:    in.VolumeL,
				WaterMgL:   map[string]float64{},
				TargetsMgL: in.TargetsMgL,
				Products:   []recipe.ProductIn{{Name: change}},
				MaxG:       map[string]float64{change: 1},
			}
			one, err := recipe.Recipe(probe) // what up to a gram of it brings
			require.NoError(t, err)
			sum := 0.0
			for el, target := range in.TargetsMgL {
				perGram := 0.0
				if g := one.Grams[change]; g > 0 {
					perGram = one.AchievedMgL[el] / g
				}
				d := (out.AchievedMgL[el] + by*perGram - target) / target
				sum += in.Weights[el] * d * d
			}
			return sum
		}
		for _, p := range in.Products {
			g := out.Grams[p.Name]
			limit, bounded := in.MaxG[p.Name]
			require.GreaterOrEqual(t, g, 0.0)
			if bounded {
				require.LessOrEqual(t, g, limit+1e-9)
			}
			now := miss(p.Name, 0)
			for _, step := range []float64{0.05, -0.05} {
				if g+step < 0 || (bounded && g+step > limit) {
					continue
				}
				require.GreaterOrEqual(t, miss(p.Name, step), now-1e-9, "%s by %v g", p.Name, step)
			}
		}
	})
}

func TestTwoStocks(t *testing.T) {
	out, err := recipe.Recipe(recipe.RecipeInput{
		VolumeL: 100, WaterMgL: map[string]float64{}, TargetsMgL: map[string]float64{"N": 100, "P": 30, "K": 300, "Ca": 100, "B": 0.3, "Fe": 1.5},
		Products: []recipe.ProductIn{
			{Name: "calcium_nitrate_tetrahydrate"},
			{Name: "monopotassium_phosphate"},
			{Name: "potassium_sulfate"},
			{Name: "boric_acid"},
			{Name: "iron_dtpa_11"},
			{Name: "gypsum", Label: recipe.Label{"Ca": 23, "S": 18}},
		},
		TankLitres: 10, TankRatio: 400,
	})
	require.NoError(t, err)
	require.Equal(t, []string{"calcium_nitrate_tetrahydrate", "iron_dtpa_11"}, out.TankA)
	require.Equal(t, []string{"monopotassium_phosphate", "potassium_sulfate", "boric_acid"}, out.TankB)
	require.InDelta(t, out.Grams["boric_acid"]/100*400*10, out.StockGrams["boric_acid"], 1e-9)
	require.Contains(t, out.Warnings[0].String(), "potassium sulfate does not dissolve")
	require.NotEmpty(t, out.Cautions)
}
