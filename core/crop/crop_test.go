package crop_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/crop"
	"ulpa/core/seed"
)

// Every crop's figures lie in the range of the possible and agree with each
// other; the schema itself refuses a value outside its column's bounds.
func TestTheCatalogueMakesSense(t *testing.T) {
	all := crop.All()
	require.GreaterOrEqual(t, len(all), 120)
	letters, kinds, fruits := map[string]string{}, map[string]int{}, 0
	for _, c := range all {
		kinds[c.Kind]++
		if c.Kind == "fruiting" && c.EC.Cropping.High > c.EC.Seedling.High {
			fruits++
		}
		t.Run(c.ID, func(t *testing.T) {
			require.NoError(t, c.Check())
			require.Regexp(t, regexp.MustCompile(`^[A-Z]{3}$`), c.Letters)
			require.Empty(t, letters[c.Letters], "two crops with one code")
			letters[c.Letters] = c.ID
			for _, k := range crop.Columns {
				if k.Name != "hazard" && k.Name != "germinates_as" && k.Name != "shares" {
					require.NotEmpty(t, k.Of(c), k.Name)
				}
			}
			g, err := seed.GerminationOf(c, 18)
			require.NoError(t, err)
			require.True(t, g.Germinates, "nothing germinates at 18 °C")
			if c.Kind != "sprout" {
				require.Greater(t, c.NurseryDays, int(c.ThermalCD/(min(22, c.OptimumC)-c.BaseC)), "it moves on before it is up")
			}
			require.LessOrEqual(t, c.Ready.AgeDays, c.NurseryDays+3)
			require.LessOrEqual(t, c.SpacingCM, c.RowCM+10)
			for _, w := range []crop.Windows{c.PH, c.EC} {
				require.GreaterOrEqual(t, w.Growing.High, w.Seedling.High, "seedlings take the weakest solution")
				require.GreaterOrEqual(t, w.Cropping.High, w.Growing.High)
			}
			switch c.Tender {
			case crop.TenderCrop:
				require.Positive(t, c.SafeC)
			case crop.Hardy:
				require.Negative(t, c.SafeC)
			case crop.HalfHardy:
				require.InDelta(t, -2.5, c.SafeC, 2.5)
			}
			require.Equal(t, c.Cuts, c.HarvestEvery > 0, "what is harvested again has its days")
			require.GreaterOrEqual(t, c.UnhardenedC, c.SafeC)
			require.InDelta(t, 6.5, (c.SoilPH.Low+c.SoilPH.High)/2, 1)
			if c.Sprout() && c.FromSeed() {
				require.Positive(t, c.SowGM2, "sprouts are weighed out, not counted")
			}
			for _, x := range c.Shares {
				require.InDelta(t, 50, x.Percent, 50)
			}
			if c.Kind == "fruiting" && c.Family == "nightshade" {
				require.Regexp(t, "food|eat", c.Hazard)
			}
			if c.Kind == "sprout" && !strings.Contains(strings.Join(c.Systems, " "), "tray") {
				require.Contains(t, c.Hazard, "Raw sprouts")
			}
			if c.DepthCM == 0 && c.Kind != "sprout" {
				require.Equal(t, "light", c.Light, "seed on the surface is in the light")
			}
		})
	}
	require.Greater(t, fruits, 10)
	for _, k := range []string{"leaf", "herb", "fruiting", "root", "legume", "flower", "cutting", "sprout"} {
		require.GreaterOrEqual(t, kinds[k], 5, k)
	}
}

// The crops that have a row of their own in the published table carry its
// cardinal temperatures, and are not marked as guesses.
func TestMeasuredGerminationAgreesWithItsTable(t *testing.T) {
	measured := 0
	for _, c := range crop.All() {
		if c.GerminateAs != c.ID {
			require.True(t, c.Uncertain["thermal_cd"], "%s: a likeness or a guess is marked", c.ID)
			continue
		}
		measured++
		g, err := seed.GerminationOf(c, 20)
		require.NoError(t, err)
		require.InDelta(t, g.BaseC, c.BaseC, 0.01, c.ID)
		require.InDelta(t, g.OptimumC, c.OptimumC, 0.01, c.ID)
		require.InDelta(t, g.CeilingC, c.CeilingC, 0.01, c.ID)
		if g.OptimumC >= 20 {
			require.InEpsilon(t, g.DaysToHalf*(20-c.BaseC), c.ThermalCD, 0.02, c.ID)
		}
	}
	require.Equal(t, 24, measured)
}

func TestASchoolsOwnValuesGoFirst(t *testing.T) {
	lettuce, ok := crop.Find("lettuce")
	require.True(t, ok)
	own, err := lettuce.With("base_c", "3")
	require.NoError(t, err)
	require.Equal(t, 3.0, own.BaseC)
	require.True(t, own.Own["base_c"])
	require.False(t, lettuce.Own["base_c"], "the catalogue stays as it is")
	theirs, _ := seed.GerminationOf(lettuce, 10)
	ours, _ := seed.GerminationOf(own, 10)
	require.InEpsilon(t, own.ThermalCD/7, ours.DaysToHalf, 1e-9, "the school's base, not the table's row")
	require.NotEqual(t, theirs.DaysToHalf, ours.DaysToHalf)

	for _, k := range crop.Columns { // what a column writes, it reads
		again, err := lettuce.With(k.Name, k.Of(lettuce))
		require.NoError(t, err, k.Name)
		require.Equal(t, k.Of(lettuce), k.Of(again))
	}
	for column, value := range map[string]string{
		"safe_c": "cold", "depth_cm": "50", "ph_growing": "6.5-5.5", "ec_growing": "1.2", "clump": "perhaps",
		"light": "moon", "shares": "20:52 10:91", "systems": "", "seeds_cell": "1.5", "letters": "XYZ", "colour": "red",
	} {
		_, err := lettuce.With(column, value)
		require.Error(t, err, column)
	}
	_, ok = crop.Find("tumbleweed")
	require.False(t, ok)
}

// What comes at a temperature is worked out from what comes at the best.
func TestSharesByTemperature(t *testing.T) {
	spinach, _ := crop.Find("spinach")
	require.InDelta(t, 0.376/0.96, spinach.Shares.At(23), 0.01)
	require.InDelta(t, 1, spinach.Shares.At(5), 1e-9)
	require.InDelta(t, 0, spinach.Shares.At(40), 1e-9)
	require.InDelta(t, 1, crop.Shares(nil).At(23), 1e-9)
}

// Every crop has air and light that suit it at every age: more light never suits worse, and
// what lies in its window of air suits.
func TestEveryCropHasItsComfort(t *testing.T) {
	for _, c := range crop.All() {
		for _, age := range []int{0, c.NurseryDays, c.NurseryDays + c.Growing.Days + 1} {
			x := c.Comforts(age)
			require.Greater(t, x.LightMol, 0.0, c.ID)
			require.Greater(t, x.VPD.High, x.VPD.Low, c.ID)
			_, dark := x.Light(0.4 * x.LightMol)
			_, enough := x.Light(x.LightMol)
			require.Equal(t, []bool{false, true}, []bool{dark, enough}, c.ID)
			_, suits := x.Air((x.VPD.Low + x.VPD.High) / 2)
			_, dry := x.Air(x.VPD.High + 0.1)
			require.Equal(t, []bool{true, false}, []bool{suits, dry}, c.ID)
		}
		require.LessOrEqual(t, c.Comforts(0).LightMol, c.LightMol+0.5, "young leaves want less")
	}
}

// What solutions share lies inside each of them; who stands outside pays something for it,
// and the tank that suits is one that shares its window.
func TestSolutionsThatAreShared(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		window := func(low, high float64) crop.Range {
			a := rapid.Float64Range(low, high).Draw(t, "low")
			return crop.Range{Low: a, High: a + rapid.Float64Range(0.1, (high-low)/2).Draw(t, "wide")}
		}
		var list []crop.Solution
		for range rapid.IntRange(1, 5).Draw(t, "n") {
			list = append(list, crop.Solution{PH: window(5, 7), EC: window(0.4, 3)})
		}
		both, ok := crop.Common(list)
		for _, x := range list {
			if ok {
				require.True(t, both.PH.Low >= x.PH.Low && both.PH.High <= x.PH.High && both.EC.Low >= x.EC.Low && both.EC.High <= x.EC.High)
				require.False(t, both.Apart(x))
			}
			require.Equal(t, list[0].Apart(x), len(x.Costs(list[0])) > 0)
			if i := x.Suits(list); i >= 0 {
				require.False(t, list[i].Apart(x))
			}
			require.GreaterOrEqual(t, x.Suits(list), 0, "its own at least")
		}
	})
}
