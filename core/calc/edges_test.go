package calc_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calc"
)

// ask runs a calculator and returns its answer.
func ask(t *testing.T, name, body string) map[string]any {
	t.Helper()
	k, ok := calc.Find(name)
	require.True(t, ok)
	out, err := k.RunJSON([]byte(body))
	require.NoError(t, err, body)
	var m map[string]any
	require.NoError(t, json.Unmarshal(out, &m))
	return m
}

func options(t *testing.T, body string) []map[string]any {
	var out []map[string]any
	for _, o := range ask(t, "seed-rate", body)["options"].([]any) {
		out = append(out, o.(map[string]any))
	}
	return out
}

func TestSeedRateAtItsEdges(t *testing.T) {
	perfect := options(t, `{"plants_wanted": 50, "germination": {"rate": 1}, "cells_per_tray": 24}`)[0]
	require.InDelta(t, 50, perfect["cells"], 0)
	require.InDelta(t, 3, perfect["trays"], 0, "a part-filled tray counts whole")
	require.InDelta(t, 1, perfect["chance"], 1e-12)
	for _, dead := range []string{`{"rate": 0}`, `{"tested": 100000, "sprouted": 0}`} {
		o := options(t, `{"plants_wanted": 50, "germination": `+dead+`, "cells_per_tray": 24}`)[0]
		for _, k := range []string{"cells", "seeds", "trays", "chance", "expected_plants", "thinned"} {
			require.Nil(t, o[k], "%s of %s", k, dead)
		}
		require.Equal(t, false, o["enough_seed"])
		require.NotNil(t, o["cell_fill"])
	}
	none := ask(t, "seed-rate", `{"plants_wanted": 5, "germination": {"rate": 0.9}, "survival": 0, "cells_per_tray": 24}`)
	require.Nil(t, none["recommended"])
	require.NotEmpty(t, none["because"])
	twenty := options(t, `{"plants_wanted": 3, "germination": {"rate": 0.1}, "cells_per_tray": 1, "max_seeds_per_cell": 20}`)
	require.Len(t, twenty, 20)
}

// A test of ten seeds asks for more cells than a test of a thousand with the
// same share, and that for more than the share taken as known.
func TestFewSeedsTestedAreTrustedLess(t *testing.T) {
	cells := func(g string) float64 {
		return options(t, `{"plants_wanted": 100, "germination": `+g+`, "cells_per_tray": 24}`)[0]["cells"].(float64)
	}
	known, many, few := cells(`{"rate": 0.8}`), cells(`{"tested": 1000, "sprouted": 800}`), cells(`{"tested": 10, "sprouted": 8}`)
	require.Greater(t, few, many)
	require.GreaterOrEqual(t, many, known)
	require.InDelta(t, known, cells(`{"tested": 10000000, "sprouted": 8000000}`), 1, "a very large test is knowledge")
}

// The largest questions hold their own promise.
func TestTheLargestSeedQuestion(t *testing.T) {
	for _, g := range []string{`{"tested": 25, "sprouted": 20}`, `{"tested": 4000, "sprouted": 100}`, `{"rate": 0.11}`} {
		for _, o := range options(t, `{"plants_wanted": 100000, "confidence": 0.999, "germination": `+g+`, "cells_per_tray": 128}`) {
			if o["chance"] != nil {
				require.GreaterOrEqual(t, o["chance"].(float64), 0.999-1e-9)
			}
		}
	}
}

func TestEmergenceCountedOnDayNought(t *testing.T) {
	e := ask(t, "emergence", `{"sown": 10, "counts": [{"day": 0, "sprouted": 4}, {"day": 2, "sprouted": 8}]}`)
	require.InDelta(t, 0, e["t50_days"], 0, "half of eight were there on day 0")
	require.InDelta(t, 1, e["mean_days"], 1e-12, "four on day 0 and four on day 2")
	require.InDelta(t, 1.6, e["spread_days"], 1e-12)
	late := ask(t, "emergence", `{"sown": 10, "counts": [{"day": 0, "sprouted": 0}, {"day": 4, "sprouted": 0}, {"day": 8, "sprouted": 6}]}`)
	require.InDelta(t, 6, late["t50_days"], 1e-12)
}

func TestNothingToDoCostsNothing(t *testing.T) {
	for _, agent := range []string{
		"nitric_acid", "sulfuric_acid", "phosphoric_acid", "citric_acid", "potassium_hydroxide", "potassium_carbonate",
		"potassium_bicarbonate",
	} {
		d := ask(t, "ph-adjust", fmt.Sprintf(`{"volume_l": 80, "ph_now": 6.1, "ph_target": 6.1, "alkalinity_mg_l_caco3": 90, "agent": %q}`, agent))
		require.InDelta(t, 0, d["amount"], 0, agent)
		require.Equal(t, "g", d["unit"])
	}
	r := ask(
		t,
		"reservoir-adjust",
		`{"level_l": 50, "capacity_l": 60, "fill_to_l": 50, "ec_ms_cm": 1.6, "ec_target_ms_cm": 1.6, "water_ec_ms_cm": 0.4, "stock_ms_cm_per_ml_l": 0.25}`,
	)
	for _, k := range []string{"drain_l", "water_l", "stock_ml"} {
		require.InDelta(t, 0, r[k], 1e-12, k)
	}
}

// Everything the reservoir answers follows from mixing it.
func TestReservoirMixes(t *testing.T) {
	for _, level := range []float64{0, 10, 50, 60} {
		for _, fill := range []float64{5, 40, 60} {
			for _, ec := range []float64{0, 0.8, 1.6, 4} {
				r := ask(
					t,
					"reservoir-adjust",
					fmt.Sprintf(
						`{"level_l": %v, "capacity_l": 60, "fill_to_l": %v, "ec_ms_cm": %v, "ec_target_ms_cm": 1.4, "water_ec_ms_cm": 0.3, "stock_ms_cm_per_ml_l": 0.2}`,
						level,
						fill,
						ec,
					),
				)
				require.Equal(t, true, r["reachable"])
				drain, water, stock := r["drain_l"].(float64), r["water_l"].(float64), r["stock_ml"].(float64)
				require.True(t, drain >= 0 && drain <= level && water >= 0 && stock >= 0)
				require.InDelta(t, fill, level-drain+water, 1e-9)
				require.InDelta(t, 1.4, ((level-drain)*ec+water*0.3)/fill+stock*0.2/fill, 1e-9)
				require.True(t, drain == 0 || drain <= max(0, level-fill)+1e-9 || stock == 0, "nothing is thrown away to be fed again")
			}
		}
	}
}

func TestVesselMarksNeedNotBeginAtNothing(t *testing.T) {
	v := ask(t, "vessel", `{"shape": "marks", "marks": [{"depth_cm": 0, "litres": 5}, {"depth_cm": 10, "litres": 15}], "depth_cm": 5}`)
	require.InDelta(t, 10, v["litres"], 1e-12)
	v = ask(t, "vessel", `{"shape": "cylinder", "diameter_cm": 10, "height_cm": 10, "depth_cm": 10}`)
	require.InDelta(t, v["full_litres"], v["litres"], 1e-12)
}

func TestAListOfAHundredThousandIsRead(t *testing.T) {
	values := strings.Repeat("7.5,", 99_999) + "8"
	c := ask(t, "compare", `{"arms": [{"name": "a", "values": [`+values+`]}, {"name": "b", "values": [7, 8, 9, 7, 8]}]}`)
	require.Len(t, c["arms"], 2)
	k, _ := calc.Find("compare")
	_, err := k.Run([]byte(`{"arms": [{"name": "a", "values": [` + values + `, 8]}, {"name": "b", "values": [7]}]}`))
	require.ErrorContains(t, err, "arms.0.values: is longer than 100,000")
	_, err = k.Run([]byte(`{"arms": "` + strings.Repeat("x", calc.MaxBody) + `"}`))
	require.ErrorContains(t, err, "larger than 4 MB")
}

// A product that holds nothing wanted stays at nothing, and what the shelf
// cannot bring is missed and said so.
func TestRecipeAtItsEdges(t *testing.T) {
	r := ask(
		t,
		"recipe",
		`{"volume_l": 10, "water_mg_l": {}, "targets_mg_l": {"K": 100, "Fe": 2}, "products": ["potassium_nitrate", "boric_acid", {"name": "sand",
			"percent": {"Na": 1}}]}`,
	)
	grams := r["grams"].(map[string]any)
	require.InDelta(t, 0, grams["boric_acid"], 0)
	require.InDelta(t, 0, grams["sand"], 0)
	require.InDelta(t, 2.586, grams["potassium_nitrate"], 0.001, "1 g/L K is 2.586 g/L of the salt")
	require.InDelta(t, -100, r["deviation_percent"].(map[string]any)["Fe"], 1e-9)
	require.Nil(
		t,
		ask(t, "recipe", `{"volume_l": 10, "water_mg_l": {}, "targets_mg_l": {"K": 100}, "products": ["potassium_sulfate"]}`)["nh4_share_percent"],
	)
	label := ask(
		t,
		"recipe",
		`{"volume_l": 1, "water_mg_l": {}, "targets_mg_l": {"P": 10}, "products": [{"name": "x", "percent": {"N": 10, "NH4_N": 4, "P2O5": 20}}]}`,
	)
	a := label["achieved_mg_l"].(map[string]any)
	require.InDelta(t, 10, a["P"], 1e-9)
	require.InDelta(t, 1.5, a["NO3_N"].(float64)/a["NH4_N"].(float64), 1e-9, "what the total leaves counts as nitrate")
	require.InDelta(t, 0.43642, a["P"].(float64)/(label["grams"].(map[string]any)["x"].(float64)*200), 1e-4, "P2O5 is 43.6 % phosphorus")
	twins := ask(
		t,
		"recipe",
		`{"volume_l": 10, "water_mg_l": {}, "targets_mg_l": {"K": 100, "N": 36}, "products": ["potassium_nitrate", {"name": "the same",
			"percent": {"NO3_N": 13.854, "K": 38.672}}]}`,
	)
	require.InDelta(t, 0, twins["deviation_percent"].(map[string]any)["K"], 1, "two of the same salt are no trouble")
}

// Every crop that the calculator offers has an answer, the catalogue's among them.
func TestEveryCropOfferedGerminates(t *testing.T) {
	k, _ := calc.Find("germination-time")
	require.Greater(t, len(k.Fields[0].Offers()), 25)
	for _, name := range append(k.Fields[0].Offers(), "kale", "muskmelon") {
		g := ask(t, "germination-time", fmt.Sprintf(`{"crop": %q, "temperature_c": 21}`, name))
		require.Equal(t, true, g["germinates"], name)
		require.Less(t, g["base_c"], g["optimum_c"], name)
		cold := ask(t, "germination-time", fmt.Sprintf(`{"crop": %q, "temperature_c": -15}`, name))
		require.Nil(t, cold["days_to_half"], name)
	}
}
