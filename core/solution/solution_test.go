package solution_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/solution"
	"ulpa/core/unit"
)

func cases(t *testing.T, name string) (out []struct{ Input, Output map[string]any }) {
	b, err := os.ReadFile("../calc/testdata/" + name + ".json")
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

func phInput(in map[string]any) solution.PHInput {
	return solution.PHInput{
		VolumeL: num(in, "volume_l", 0), PHNow: num(in, "ph_now", 0), PHTarget: num(in, "ph_target", 0),
		AlkalinityMgLCaCO3: num(in, "alkalinity_mg_l_caco3", 0), PhosphorusMgL: num(in, "phosphorus_mg_l", 0),
		ECMScm: num(in, "ec_ms_cm", 0.5), TemperatureC: num(in, "temperature_c", 25),
		Agent: solution.Agent(in["agent"].(string)), StrengthPercent: num(in, "strength_percent", 100), DensityGML: num(in, "density_g_ml", 0),
	}
}

// Beyond the contract: a dose, foretold forwards, lands on its own target.
func TestContractedDosesLand(t *testing.T) {
	for _, c := range cases(t, "ph-adjust") {
		in := phInput(c.Input)
		d, err := solution.PHAdjust(in)
		require.NoError(t, err)
		after, err := solution.PHAfter(in, d.Amount)
		require.NoError(t, err)
		require.InDelta(t, in.PHTarget, after, 1e-6, "a dose lands on its own target")
	}
}

func TestRefusalsNameTheField(t *testing.T) {
	ok := solution.PHInput{VolumeL: 10, PHNow: 7, PHTarget: 6, AlkalinityMgLCaCO3: 100, ECMScm: 1, TemperatureC: 20, Agent: solution.NitricAcid, StrengthPercent: 38, DensityGML: 1.23}
	for says, change := range map[string]func(*solution.PHInput){
		"agent: an acid lowers":                 func(i *solution.PHInput) { i.PHTarget = 7.5 },
		"agent: a base raises":                  func(i *solution.PHInput) { i.Agent = solution.PotassiumHydroxide },
		"ph_target: potassium bicarb":           func(i *solution.PHInput) { i.Agent, i.PHNow, i.PHTarget = solution.PotassiumBicarbonate, 6, 8.6 },
		"volume_l: takes litres":                func(i *solution.PHInput) { i.VolumeL = 0 },
		"strength_percent: takes a mass":        func(i *solution.PHInput) { i.StrengthPercent = 0 },
		"agent: takes nitric_acid, sulfuric_ac": func(i *solution.PHInput) { i.Agent = "vinegar" },
	} {
		in := ok
		change(&in)
		_, err := solution.PHAdjust(in)
		require.ErrorContains(t, err, says)
	}
}

var tower = solution.Spec{
	CapacityL: 60, FillToL: 58, DryBelowL: 12, PHLow: 5.5, PHTarget: 5.8, PHHigh: 6.3,
	ECLow: 1.2, ECTarget: 1.5, ECHigh: 1.8, WaterEC: 0.6, WaterAlkalinity: 180, PhosphorusMgL: 30, StockRise: 0.25,
	Acid: solution.Product{Agent: solution.PhosphoricAcid, StrengthPercent: 30, DensityGML: 1.18},
	Base: solution.Product{Agent: solution.PotassiumBicarbonate, StrengthPercent: 100},
}

func read(ph, ec, level float64) solution.Reading {
	temp := 20.0
	return solution.Reading{PH: &ph, ECMS: &ec, TempC: &temp, LevelL: &level}
}

func TestImplausibleReadingsAreAskedAbout(t *testing.T) {
	d := solution.Doubts(tower, solution.State{}, read(58, 1.5, 40), morning, unit.Prefs{})
	require.Len(t, d, 1)
	require.True(t, d[0].Refused)
	require.InDelta(t, 5.8, *d[0].Maybe, 1e-9)
	d = solution.Doubts(tower, solution.State{}, read(5.8, 15, 40), morning, unit.Prefs{})
	require.InDelta(t, 1.5, *d[0].Maybe, 1e-9)
	require.False(t, d[0].Refused)
	require.Empty(t, solution.Doubts(tower, solution.State{}, read(5.8, 1.5, 40), morning, unit.Prefs{}))
}

// A dose lands on its target, from wherever and with whatever agent; and
// adjusting to where a tank already is costs nothing.
func TestDosesLand(t *testing.T) {
	agents := []solution.Agent{solution.NitricAcid, solution.SulfuricAcid, solution.PhosphoricAcid, solution.CitricAcid, solution.PotassiumHydroxide, solution.PotassiumCarbonate}
	rapid.Check(t, func(t *rapid.T) {
		in := solution.PHInput{
			VolumeL: rapid.Float64Range(0.5, 2000).Draw(t, "volume"), PHNow: rapid.Float64Range(4, 8.5).Draw(t, "now"), PHTarget: rapid.Float64Range(4, 8.5).Draw(t, "target"),
			AlkalinityMgLCaCO3: rapid.Float64Range(0, 400).Draw(t, "alkalinity"), PhosphorusMgL: rapid.Float64Range(0, 60).Draw(t, "p"),
			ECMScm: rapid.Float64Range(0.1, 4).Draw(t, "ec"), TemperatureC: rapid.Float64Range(5, 35).Draw(t, "temp"),
			Agent: rapid.SampledFrom(agents).Draw(t, "agent"), StrengthPercent: rapid.Float64Range(5, 100).Draw(t, "strength"),
		}
		if in.Agent.Acid() != (in.PHTarget < in.PHNow) {
			in.PHNow, in.PHTarget = in.PHTarget, in.PHNow
		}
		d, err := solution.PHAdjust(in)
		require.NoError(t, err)
		after, err := solution.PHAfter(in, d.Amount)
		require.NoError(t, err)
		require.InDelta(t, in.PHTarget, after, 1e-5)
		in.PHTarget = in.PHNow
		none, err := solution.PHAdjust(in)
		require.NoError(t, err)
		require.Zero(t, none.Amount)
	})
}
