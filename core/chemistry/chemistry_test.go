package chemistry_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/chemistry"
)

// Equivalent conductivities at 25 °C, S·cm²/eq, as handbooks print them
// (Robinson and Stokes), at 0.05 eq/L unless said.
func TestConductivityOfSingleSalts(t *testing.T) {
	for name, c := range map[string]struct {
		ions chemistry.Ions
		ph   float64
		want float64 // mS/cm
	}{
		"KCl 0.1":   {chemistry.Ions{"K": 100, "Cl": 100}, 7, 128.90 * 0.1},
		"KCl 0.01":  {chemistry.Ions{"K": 10, "Cl": 10}, 7, 141.20 * 0.01},
		"NaCl":      {chemistry.Ions{"Na": 50, "Cl": 50}, 7, 111.01 * 0.05},
		"CaCl2":     {chemistry.Ions{"Ca": 25, "Cl": 50}, 7, 108.42 * 0.05},
		"MgCl2":     {chemistry.Ions{"Mg": 25, "Cl": 50}, 7, 103.03 * 0.05},
		"Na2SO4":    {chemistry.Ions{"Na": 50, "SO4": 25}, 7, 97.70 * 0.05},
		"KNO3":      {chemistry.Ions{"K": 50, "NO3": 50}, 7, 126.25 * 0.05},
		"NH4Cl":     {chemistry.Ions{"NH4": 50, "Cl": 50}, 6, 133.22 * 0.05},
		"KHCO3 .01": {chemistry.Ions{"K": 10, "HCO3": 10}, 8.3, 110.03 * 0.01},
	} {
		x, err := chemistry.Conduct(c.ions, c.ph, 25)
		require.NoError(t, err)
		require.InEpsilon(t, c.want, x.ECMScm, 0.04, name)
		require.InDelta(t, x.ECMScm, x.EC25MScm, 1e-12, "at 25 °C both are one")
	}
	pure, err := chemistry.Conduct(chemistry.Ions{}, 7, 25)
	require.NoError(t, err)
	require.InDelta(t, 5.5e-5, pure.ECMScm, 1e-6, "pure water is 0.055 µS/cm")
}

// Warmer water conducts better; more salt conducts more; pairs never take more
// than there is.
func TestConductivityBehaves(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ions := chemistry.Ions{}
		for _, n := range chemistry.IonNames {
			ions[n] = rapid.Float64Range(0, 12).Draw(t, n)
		}
		ph := rapid.Float64Range(4.5, 8).Draw(t, "ph")
		c := rapid.Float64Range(2, 35).Draw(t, "c")
		x, err := chemistry.Conduct(ions, ph, c)
		require.NoError(t, err)
		warm, err := chemistry.Conduct(ions, ph, c+5)
		require.NoError(t, err)
		require.Greater(t, warm.ECMScm, x.ECMScm)
		ions["K"] += 5
		ions["Cl"] += 5
		more, err := chemistry.Conduct(ions, ph, c)
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
		s, _, err := chemistry.OxygenSaturation(c, 0)
		require.NoError(t, err)
		require.InDelta(t, want, s, 0.0015, "%v °C", c)
	}
	_, _, err := chemistry.OxygenSaturation(-1, 10000)
	require.ErrorContains(t, err, "temperature_c")
	require.ErrorContains(t, err, "altitude_m")
}

// Emerson et al. (1975), table 2: percent un-ionised.
func TestAmmoniaAgainstThePublishedTable(t *testing.T) {
	for _, c := range []struct{ t, ph, want float64 }{{20, 7, 0.396}, {20, 8, 3.82}, {10, 7.5, 0.586}, {25, 8.5, 15.2}, {25, 9, 36.3}, {5, 6.5, 0.0395}} {
		a, err := chemistry.UnionisedAmmonia(1, c.ph, c.t)
		require.NoError(t, err)
		require.InEpsilon(t, c.want, a.UnionisedPercent, 0.005, "%+v", c)
	}
}

func cases(t *testing.T, name string) (out []struct{ Input, Output map[string]any }) {
	b, err := os.ReadFile("../calc/calctest/examples/" + name + ".json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(b, &out))
	require.NotEmpty(t, out)
	return out
}

func num(m map[string]any, key string, otherwise float64) float64 {
	if v, ok := m[key].(float64); ok {
		return v
	}
	return otherwise
}

func phInput(in map[string]any) chemistry.PHInput {
	return chemistry.PHInput{
		VolumeL: num(in, "volume_l", 0), PHNow: num(in, "ph_now", 0), PHTarget: num(in, "ph_target", 0),
		AlkalinityMgLCaCO3: num(in, "alkalinity_mg_l_caco3", 0), PhosphorusMgL: num(in, "phosphorus_mg_l", 0),
		ECMScm: num(in, "ec_ms_cm", 0.5), TemperatureC: num(in, "temperature_c", 25),
		Agent: chemistry.Agent(in["agent"].(string)), StrengthPercent: num(in, "strength_percent", 100), DensityGML: num(in, "density_g_ml", 0),
	}
}

// Beyond the contract: a dose, forecast forwards, lands on its own target.
func TestContractedDosesLand(t *testing.T) {
	for _, c := range cases(t, "ph-adjust") {
		in := phInput(c.Input)
		d, err := chemistry.PHAdjust(in)
		require.NoError(t, err)
		after, err := chemistry.PHAfter(in, d.Amount)
		require.NoError(t, err)
		require.InDelta(t, in.PHTarget, after, 1e-6, "a dose lands on its own target")
	}
}

func TestRefusalsNameTheField(t *testing.T) {
	ok := chemistry.PHInput{
		VolumeL:            10,
		PHNow:              7,
		PHTarget:           6,
		AlkalinityMgLCaCO3: 100,
		ECMScm:             1,
		TemperatureC:       20,
		Agent:              chemistry.NitricAcid,
		StrengthPercent:    38,
		DensityGML:         1.23,
	}
	for says, change := range map[string]func(*chemistry.PHInput){
		"agent: an acid lowers":                   func(i *chemistry.PHInput) { i.PHTarget = 7.5 },
		"agent: an alkali raises":                 func(i *chemistry.PHInput) { i.Agent = chemistry.PotassiumHydroxide },
		"ph_target: potassium bicarb":             func(i *chemistry.PHInput) { i.Agent, i.PHNow, i.PHTarget = chemistry.PotassiumBicarbonate, 6, 8.6 },
		"volume_l: must be above 0":               func(i *chemistry.PHInput) { i.VolumeL = 0 },
		"strength_percent: must be a mass":        func(i *chemistry.PHInput) { i.StrengthPercent = 0 },
		"agent: must be nitric_acid, sulfuric_ac": func(i *chemistry.PHInput) { i.Agent = "vinegar" },
	} {
		in := ok
		change(&in)
		_, err := chemistry.PHAdjust(in)
		require.ErrorContains(t, err, says)
	}
}

// A dose lands on its target, from wherever and with whatever agent; and
// adjusting to where a tank already is costs nothing.
func TestDosesLand(t *testing.T) {
	agents := []chemistry.Agent{
		chemistry.NitricAcid,
		chemistry.SulfuricAcid,
		chemistry.PhosphoricAcid,
		chemistry.CitricAcid,
		chemistry.PotassiumHydroxide,
		chemistry.PotassiumCarbonate,
	}
	rapid.Check(t, func(t *rapid.T) {
		in := chemistry.PHInput{
			VolumeL: rapid.Float64Range(0.5, 2000).
				Draw(t, "volume"),
			PHNow: rapid.Float64Range(4, 8.5).Draw(t, "now"), PHTarget: rapid.Float64Range(4, 8.5).Draw(t, "target"),
			AlkalinityMgLCaCO3: rapid.Float64Range(0, 400).Draw(t, "alkalinity"), PhosphorusMgL: rapid.Float64Range(0, 60).Draw(t, "p"),
			ECMScm: rapid.Float64Range(0.1, 4).Draw(t, "ec"), TemperatureC: rapid.Float64Range(5, 35).Draw(t, "temp"),
			Agent: rapid.SampledFrom(agents).Draw(t, "agent"), StrengthPercent: rapid.Float64Range(5, 100).Draw(t, "strength"),
		}
		if in.Agent.Acid() != (in.PHTarget < in.PHNow) {
			in.PHNow, in.PHTarget = in.PHTarget, in.PHNow
		}
		d, err := chemistry.PHAdjust(in)
		require.NoError(t, err)
		after, err := chemistry.PHAfter(in, d.Amount)
		require.NoError(t, err)
		require.InDelta(t, in.PHTarget, after, 1e-5)
		in.PHTarget = in.PHNow
		none, err := chemistry.PHAdjust(in)
		require.NoError(t, err)
		require.Zero(t, none.Amount)
	})
}
