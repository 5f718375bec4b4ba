package solution_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/solution"
)

// Equivalent conductivities at 25 °C, S·cm²/eq, as handbooks print them
// (Robinson and Stokes), at 0.05 eq/L unless said.
func TestConductivityOfSingleSalts(t *testing.T) {
	for name, c := range map[string]struct {
		ions solution.Ions
		ph   float64
		want float64 // mS/cm
	}{
		"KCl 0.1":   {solution.Ions{"K": 100, "Cl": 100}, 7, 128.90 * 0.1},
		"KCl 0.01":  {solution.Ions{"K": 10, "Cl": 10}, 7, 141.20 * 0.01},
		"NaCl":      {solution.Ions{"Na": 50, "Cl": 50}, 7, 111.01 * 0.05},
		"CaCl2":     {solution.Ions{"Ca": 25, "Cl": 50}, 7, 108.42 * 0.05},
		"MgCl2":     {solution.Ions{"Mg": 25, "Cl": 50}, 7, 103.03 * 0.05},
		"Na2SO4":    {solution.Ions{"Na": 50, "SO4": 25}, 7, 97.70 * 0.05},
		"KNO3":      {solution.Ions{"K": 50, "NO3": 50}, 7, 126.25 * 0.05},
		"NH4Cl":     {solution.Ions{"NH4": 50, "Cl": 50}, 6, 133.22 * 0.05},
		"KHCO3 .01": {solution.Ions{"K": 10, "HCO3": 10}, 8.3, 110.03 * 0.01},
	} {
		x, err := solution.Conduct(c.ions, c.ph, 25)
		require.NoError(t, err)
		require.InEpsilon(t, c.want, x.ECMScm, 0.04, name)
		require.InDelta(t, x.ECMScm, x.EC25MScm, 1e-12, "at 25 °C both are one")
	}
	pure, err := solution.Conduct(solution.Ions{}, 7, 25)
	require.NoError(t, err)
	require.InDelta(t, 5.5e-5, pure.ECMScm, 1e-6, "pure water is 0.055 µS/cm")
}

// Warmer water conducts better; more salt conducts more; pairs never take more
// than there is.
func TestConductivityBehaves(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ions := solution.Ions{}
		for _, n := range solution.IonNames {
			ions[n] = rapid.Float64Range(0, 12).Draw(t, n)
		}
		ph := rapid.Float64Range(4.5, 8).Draw(t, "ph")
		c := rapid.Float64Range(2, 35).Draw(t, "c")
		x, err := solution.Conduct(ions, ph, c)
		require.NoError(t, err)
		warm, err := solution.Conduct(ions, ph, c+5)
		require.NoError(t, err)
		require.Greater(t, warm.ECMScm, x.ECMScm)
		ions["K"] += 5
		ions["Cl"] += 5
		more, err := solution.Conduct(ions, ph, c)
		require.NoError(t, err)
		require.Greater(t, more.ECMScm, x.ECMScm)
		bound := 0.0
		for _, n := range []string{"CaSO4", "MgSO4", "KSO4", "NaSO4", "NH4SO4"} {
			bound += x.PairsMmolL[n]
		}
		require.LessOrEqual(t, bound, ions["SO4"]+1e-9)
		require.LessOrEqual(t, x.PairsMmolL["CaSO4"]+x.PairsMmolL["CaHPO4"], ions["Ca"]+1e-9)
	})
}

// Benson and Krause's table for fresh water at sea level, mg/L.
func TestOxygenAgainstThePublishedTable(t *testing.T) {
	for c, want := range map[float64]float64{0: 14.621, 5: 12.770, 10: 11.288, 15: 10.084, 20: 9.092, 25: 8.263, 30: 7.559, 40: 6.412} {
		s, _, err := solution.OxygenSaturation(c, 0)
		require.NoError(t, err)
		require.InDelta(t, want, s, 0.0015, "%v °C", c)
	}
	_, _, err := solution.OxygenSaturation(-1, 10000)
	require.ErrorContains(t, err, "temperature_c")
	require.ErrorContains(t, err, "altitude_m")
}

// Emerson et al. (1975), table 2: percent un-ionised.
func TestAmmoniaAgainstThePublishedTable(t *testing.T) {
	for _, c := range []struct{ t, ph, want float64 }{{20, 7, 0.396}, {20, 8, 3.82}, {10, 7.5, 0.586}, {25, 8.5, 15.2}, {25, 9, 36.3}, {5, 6.5, 0.0395}} {
		a, err := solution.UnionisedAmmonia(1, c.ph, c.t)
		require.NoError(t, err)
		require.InEpsilon(t, c.want, a.UnionisedPercent, 0.005, "%+v", c)
	}
}

func vessels(t *rapid.T) solution.Vessel {
	cm := func(name string) float64 { return rapid.Float64Range(1, 200).Draw(t, name) }
	switch rapid.IntRange(0, 4).Draw(t, "shape") {
	case 0:
		return solution.Vessel{Shape: solution.Box, LengthCM: cm("l"), WidthCM: cm("w"), HeightCM: cm("h")}
	case 1:
		return solution.Vessel{Shape: solution.Cylinder, DiameterCM: cm("d"), HeightCM: cm("h")}
	case 2:
		return solution.Vessel{Shape: solution.RoundTaper, TopDiameterCM: cm("t"), BottomDiameterCM: cm("b"), HeightCM: cm("h")}
	case 3:
		return solution.Vessel{Shape: solution.SquareTaper, TopLengthCM: cm("tl"), TopWidthCM: cm("tw"), BottomLengthCM: cm("bl"), BottomWidthCM: cm("bw"), HeightCM: cm("h")}
	}
	v := solution.Vessel{Shape: solution.Marks}
	d, l := 0.0, 0.0
	for range rapid.IntRange(1, 5).Draw(t, "marks") {
		d, l = d+cm("depth"), l+cm("litres")
		v.Marks = append(v.Marks, solution.Mark{DepthCM: d, Litres: l})
	}
	return v
}

// litres(depth(litres)) is where one began; more litres stand deeper.
func TestVesselsThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := vessels(t)
		full, err := v.AtDepth(0)
		require.NoError(t, err)
		litres := full.FullLitres * rapid.Float64Range(0, 1).Draw(t, "share")
		there, err := v.AtLitres(litres)
		require.NoError(t, err)
		back, err := v.AtDepth(there.DepthCM)
		require.NoError(t, err)
		require.InDelta(t, litres, back.Litres, 1e-6*full.FullLitres+1e-9)
		_, err = v.AtLitres(full.FullLitres*1.01 + 0.01)
		require.ErrorContains(t, err, "litres: takes")
	})
}

// A taper with straight walls is a box or a cylinder.
func TestTapersAgreeWithStraightWalls(t *testing.T) {
	box, err := solution.Vessel{Shape: solution.Box, LengthCM: 50, WidthCM: 30, HeightCM: 20}.AtDepth(7)
	require.NoError(t, err)
	taper, err := solution.Vessel{Shape: solution.SquareTaper, TopLengthCM: 50, BottomLengthCM: 50, TopWidthCM: 30, BottomWidthCM: 30, HeightCM: 20}.AtDepth(7)
	require.NoError(t, err)
	require.InDelta(t, box.Litres, taper.Litres, 1e-12)
	round, err := solution.Vessel{Shape: solution.RoundTaper, TopDiameterCM: 20, BottomDiameterCM: 20, HeightCM: 20}.AtDepth(10)
	require.NoError(t, err)
	require.InDelta(t, math.Pi, round.Litres, 1e-12)
}

// No recipe is beaten by a small change of its own grams: the least sum is a
// valley, so a best point that no step can better is the best there is. And
// what is achieved follows from the grams.
func TestNoSmallChangeBettersARecipe(t *testing.T) {
	salts := []string{"calcium_nitrate_tetrahydrate", "potassium_nitrate", "monopotassium_phosphate", "magnesium_sulfate_heptahydrate", "potassium_sulfate", "ammonium_sulfate", "potassium_chloride"}
	rapid.Check(t, func(t *rapid.T) {
		in := solution.RecipeInput{VolumeL: 100, WaterMgL: map[string]float64{"Ca": rapid.Float64Range(0, 80).Draw(t, "ca")}, TargetsMgL: map[string]float64{}, MaxG: map[string]float64{}, Weights: map[string]float64{}}
		for _, el := range []string{"N", "P", "K", "Ca", "Mg", "S"} {
			if rapid.Bool().Draw(t, "want "+el) || el == "N" {
				in.TargetsMgL[el] = rapid.Float64Range(10, 200).Draw(t, el)
				in.Weights[el] = rapid.Float64Range(0.2, 3).Draw(t, "w"+el)
			}
		}
		for _, s := range salts {
			if rapid.Bool().Draw(t, s) || s == salts[0] {
				in.Products = append(in.Products, solution.ProductIn{Name: s})
				if rapid.IntRange(0, 3).Draw(t, "limit") == 0 {
					in.MaxG[s] = rapid.Float64Range(0, 60).Draw(t, "g")
				}
			}
		}
		out, err := solution.Recipe(in)
		require.NoError(t, err)
		miss := func(change string, by float64) float64 {
			probe := solution.RecipeInput{VolumeL: in.VolumeL, WaterMgL: map[string]float64{}, TargetsMgL: in.TargetsMgL, Products: []solution.ProductIn{{Name: change}}, MaxG: map[string]float64{change: 1}}
			one, err := solution.Recipe(probe) // what up to a gram of it brings
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
	out, err := solution.Recipe(solution.RecipeInput{
		VolumeL: 100, WaterMgL: map[string]float64{}, TargetsMgL: map[string]float64{"N": 100, "P": 30, "K": 300, "Ca": 100, "B": 0.3, "Fe": 1.5},
		Products: []solution.ProductIn{
			{Name: "calcium_nitrate_tetrahydrate"},
			{Name: "monopotassium_phosphate"},
			{Name: "potassium_sulfate"},
			{Name: "boric_acid"},
			{Name: "iron_dtpa_11"},
			{Name: "gypsum", Label: solution.Label{"Ca": 23, "S": 18}},
		},
		TankLitres: 10, TankRatio: 400,
	})
	require.NoError(t, err)
	require.Equal(t, []string{"calcium_nitrate_tetrahydrate", "iron_dtpa_11"}, out.TankA)
	require.Equal(t, []string{"monopotassium_phosphate", "potassium_sulfate", "boric_acid"}, out.TankB)
	require.InDelta(t, out.Grams["boric_acid"]/100*400*10, out.StockGrams["boric_acid"], 1e-9)
	require.Contains(t, out.Warnings[0], "potassium_sulfate does not dissolve")
	require.NotEmpty(t, out.Cautions)
}

// A vessel filled to the level that is asked for falls dry as often as was risked, or
// less while its use has to be told from a few refills.
func TestFilledVesselsFallDryNoOftenerThanRisked(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 4))
	const tries = 20_000
	for _, refills := range []int{0, 2, 8} {
		dry := 0
		for range tries {
			mean := 1 + 9*r.Float64()
			sd := 0.2 * mean
			drank := func(days float64) float64 { return max(0, mean*days+sd*math.Sqrt(days)*r.NormFloat64()) }
			in := solution.DryInput{CapacityL: 1e4, LevelL: 20, DryBelowL: 10, Hours: 24 * (1 + 6*r.Float64()), Risk: 0.05, UseFactor: 1, Use: solution.Use{MeanLDay: mean, SDLDay: sd}}
			if refills > 0 {
				in.Use = solution.Use{SpreadGuess: 0.2}
			}
			for range refills {
				days := 1 + 3*r.Float64()
				in.Use.Past = append(in.Use.Past, solution.Refill{Days: days, Litres: drank(days)})
			}
			x, err := solution.RunsDry(in)
			require.NoError(t, err)
			if x.LevelNeededL-10 < drank(in.Hours/24) {
				dry++
			}
		}
		require.Less(t, float64(dry)/tries, 0.06, "%d refills", refills)
		require.Greater(t, float64(dry)/tries, 0.015, "%d refills", refills)
	}
}

// What is poured into a jar never drowns roots that breathe, and lasts as long as it says.
func TestWhatIsPouredLeavesRootsTheirAir(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		height := draw("height", 12, 40)
		foot := height * draw("foot", 0.6, 1)
		in := solution.JarInput{
			Vessel: solution.Vessel{Shape: solution.Cylinder, DiameterCM: draw("diameter", 8, 30), HeightCM: height}, PotFootCM: foot, DryBelowCM: 2,
			LevelCM: foot * draw("level", 0.05, 1), RootsCM: draw("roots", 0, 20), Days: draw("days", 0.5, 20), Margin: 1.2, Use: solution.Thirst{LDay: draw("use", 0.01, 0.5), Growth: draw("growth", -0.05, 0.15), Factor: 1},
		}
		highest := min(height, in.LevelCM+draw("fell", 0, 3))
		in.Highest3Days = &highest
		x, err := solution.Jar(in)
		require.NoError(t, err)
		require.GreaterOrEqual(t, x.PourL, 0.0)
		require.LessOrEqual(t, x.LevelAfterCM, max(in.LevelCM, x.AllowedCM)+1e-6)
		if x.Hang {
			require.LessOrEqual(t, x.AllowedCM, min(highest+1, foot*2/3)+1e-9)
		}
		if x.Lasts && x.DryAfter != nil {
			require.GreaterOrEqual(t, *x.DryAfter, in.Days-1e-6)
		}
		longer := in
		longer.Days++
		y, err := solution.Jar(longer)
		require.NoError(t, err)
		require.GreaterOrEqual(t, y.PourL, x.PourL-1e-9, "more days never ask for less")
	})
}
