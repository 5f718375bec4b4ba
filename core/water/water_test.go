package water_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/chemistry"
	"ulpa/core/water"
)

// The same water in whatever unit people are given is the same water; by published tables
// 1 °dH is 1.78 °f, 1.25 °e and 0.178 mmol/L.
func TestDegreesAgree(t *testing.T) {
	dh, _ := water.CaCO3(10, "dh", false)
	for unit, v := range map[string]float64{"f": 17.848, "e": 12.521, "mmol": 1.7832, "caco3": 178.48, "gpg": 10.426} {
		got, ok := water.CaCO3(v, unit, false)
		require.True(t, ok)
		require.InEpsilon(t, dh, got, 1e-3, unit)
	}
	meq, _ := water.CaCO3(3.566, "mmol", true)
	hco3, _ := water.CaCO3(217.6, "hco3", true)
	require.InEpsilon(t, meq, hco3, 1e-3)
	_, ok := water.CaCO3(1, "hco3", false)
	require.False(t, ok, "hardness is no bicarbonate")
}

// Whatever is known of hardness, calcium and magnesium, what a recipe is given has the charge
// of the hardness; the latest figure of each stands.
func TestAWaterIsWhatWasMeasuredLast(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		hard := rapid.Float64Range(0, 600).Draw(t, "hardness")
		values := map[string]float64{"hardness": hard}
		share := rapid.Float64Range(0, 1).Draw(t, "calcium")
		ca, mg := share*hard/50.04*20.04, (1-share)*hard/50.04*12.15
		if rapid.Bool().Draw(t, "told ca") {
			values["ca"] = ca
		}
		if rapid.Bool().Draw(t, "told mg") {
			values["mg"] = mg
		}
		old := water.Dated{On: 1, Analysis: water.Analysis{By: water.Strip, Values: map[string]float64{"hardness": 1, "na": 33}}}
		f := water.Known([]water.Dated{old, {On: calendar.Day(9), Analysis: water.Analysis{By: water.Drops, Values: values}}})
		mgL, guessed := f.MgL()
		require.InDelta(t, hard, 50.04*(mgL["Ca"]/20.04+mgL["Mg"]/12.15), 1e-6+1e-6*hard)
		require.Equal(t, len(values) == 1, guessed)
		require.Equal(t, 33.0, mgL["Na"])
		require.Empty(t, water.Changed(f, f))
	})
}

// A usual hard tap water, as ions, conducts about what its meter says.
func TestAHardWaterConductsAsItShould(t *testing.T) {
	mgL, _ := water.Known([]water.Dated{{Analysis: water.Analysis{By: water.Report, Values: map[string]float64{
		"alkalinity": 220, "ca": 105, "mg": 8, "na": 22, "cl": 40, "so4": 45, "k": 2, "no3_n": 6,
	}}}}).MgL()
	c, err := chemistry.Conduct(chemistry.Ions{
		"Ca": mgL["Ca"] / 40.078, "Mg": mgL["Mg"] / 24.305, "Na": mgL["Na"] / 22.99, "K": mgL["K"] / 39.098, "Cl": mgL["Cl"] / 35.45,
		"SO4": mgL["S"] / 32.06, "NO3": mgL["NO3_N"] / 14.007, "HCO3": mgL["HCO3"] / 61.02,
	}, 7.4, 25)
	require.NoError(t, err)
	require.InDelta(t, 0.62, c.EC25MScm, 0.06)
	require.Less(t, c.ChargeImbalancePercent, 6.0)
	require.Error(t, water.Analysis{By: "guess", Values: map[string]float64{"ph": 7}}.Check())
	require.Error(t, water.Analysis{By: water.Drops, Values: map[string]float64{"gold": 1}}.Check())
}
