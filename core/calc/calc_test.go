package calc_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calc"
	"ulpa/core/calc/calctest"
)

// Every example of the contract, as the command and the API would answer it.
func TestContract(t *testing.T) {
	var names []string
	for _, c := range calc.All {
		names = append(names, c.Name)
	}
	calctest.Hold(t, names...)
}

// The example that a calculator prints runs as printed, and what is left out,
// misspelt or of the wrong kind is refused by name.
func TestEveryFieldIsAskedForByName(t *testing.T) {
	for _, c := range calc.All {
		t.Run(c.Name, func(t *testing.T) {
			_, err := c.RunJSON([]byte(c.Example))
			require.NoError(t, err)
			var in map[string]any
			require.NoError(t, json.Unmarshal([]byte(c.Example), &in))
			try := func(change func(map[string]any), says string) {
				m := map[string]any{}
				for k, v := range in {
					m[k] = v
				}
				change(m)
				b, _ := json.Marshal(m)
				_, err := c.Run(b)
				require.Error(t, err)
				require.Contains(t, calc.OneLine(err), says)
			}
			for _, f := range c.Fields {
				if f.Needed {
					try(func(m map[string]any) { delete(m, f.Name) }, f.Name)
				}
				if f.Kind == "number" || f.Kind == "integer" {
					if _, given := in[f.Name]; given {
						try(func(m map[string]any) { m[f.Name] = "12" }, f.Name+": must be a number, not a text")
						if !f.Null {
							try(func(m map[string]any) { m[f.Name] = nil }, f.Name+": must be a number, not null")
						}
					}
				}
			}
			try(func(m map[string]any) { m["colour"] = "green" }, "colour: is not a field")
		})
	}
}

func TestRefusals(t *testing.T) {
	for _, c := range []struct{ calc, body, says string }{
		{"air", `[]`, "body: must be one JSON object"},
		{"air", `{"temperature_c": 20, "humidity_percent": 50} {}`, "body: must be one JSON object and nothing after it"},
		{"air", `{"temperature_c": NaN}`, "body: is not JSON"},
		{"air", `{"temperature_c": 1e999, "humidity_percent": 50}`, "temperature_c: must be a finite number"},
		{"emergence", `{"sown": 10, "counts": [{"day": 3, "sprouted": 4}, {"day": 4, "sprouted": 11}]}`, "counts.1.sprouted: is more than were sown"},
		{"emergence", `{"sown": 10, "counts": [{"day": 3, "sprouted": 4}, {"day": 3, "sprouted": 4}]}`, "counts.1.day: must be later"},
		{"emergence", `{"sown": 10.5, "counts": []}`, "sown: must be a whole number"},
		{
			"seed-rate", `{"plants_wanted": 5, "cells_per_tray": 24, "germination": {"rate": 0.5, "tested": 5, "sprouted": 1}}`,
			"germination.rate: is given as well as a test",
		},
		{"frost", `{"daily_minima": [{"date": "2024-01-01", "c": -99.9}], "hemisphere": "north"}`, "daily_minima.0.c: must be −90 to 60"},
		{
			"frost", `{"daily_minima": [{"date": "2024-01-01", "c": 1}, {"date": "2024-01-01", "c": 1}], "hemisphere": "north"}`,
			"daily_minima.1.date: is in the list twice",
		},
		{"vessel", `{"shape": "box", "length_cm": 1, "width_cm": 1, "height_cm": 1, "diameter_cm": 3, "litres": 0}`, "diameter_cm: is not a size of this shape"},
		{"vessel", `{"shape": "cylinder", "diameter_cm": 10, "height_cm": 10, "litres": 5}`, "litres: must be 0 up to the full"},
		{"recipe", `{"volume_l": 1, "water_mg_l": {}, "targets_mg_l": {"P2O5": 3}, "products": ["potassium_nitrate"]}`, "targets_mg_l.P2O5: must be one of"},
		{
			"recipe", `{"volume_l": 1, "water_mg_l": {}, "targets_mg_l": {"N": 3}, "products": ["potassium_nitrate", "potassium_nitrate"]}`,
			"products.1: is in the list twice",
		},
		{
			"recipe", `{"volume_l": 1, "water_mg_l": {}, "targets_mg_l": {"N": 3}, "products": [{"name": "x", "percent": {"N": 60, "K": 60}}]}`,
			"products.0.percent: adds up to more than 100",
		},
		{"ph-adjust", `{"volume_l": 10, "ph_now": 6, "ph_target": 7, "alkalinity_mg_l_caco3": 100, "agent": "citric_acid"}`, "agent: an acid lowers pH"},
		{
			"ph-adjust", `{"volume_l": 10, "ph_now": 6, "ph_target": 8.6, "alkalinity_mg_l_caco3": 100, "agent": "potassium_bicarbonate"}`,
			"ph_target: potassium bicarbonate cannot",
		},
		{"compare", `{"arms": [{"name": "a", "n": 5, "successes": 2}, {"name": "b", "values": [1]}]}`, "arms.1.values: mixes kinds"},
		{"back-schedule", `{"ready_by": "2027-02-30", "stages": [], "workdays": [8], "closed": []}`, "ready_by: must be a date"},
		{"germination-time", `{"crop": "dandelion clock", "temperature_c": 20}`, "crop: is not in the catalogue"},
	} {
		k, ok := calc.Find(c.calc)
		require.True(t, ok)
		_, err := k.Run([]byte(c.body))
		require.Error(t, err, c.body)
		require.Contains(t, calc.OneLine(err), c.says)
	}
}

// No input makes a calculator panic, or answer with something that is not JSON.
func FuzzRun(f *testing.F) {
	for i, c := range calc.All {
		f.Add(i, c.Example)
	}
	f.Add(0, `{"germination":{"tested":1e15,"sprouted":0},"plants_wanted":100000,"cells_per_tray":1}`)
	f.Fuzz(func(t *testing.T, i int, body string) {
		c := calc.All[((i%len(calc.All))+len(calc.All))%len(calc.All)]
		if out, err := c.RunJSON([]byte(body)); err == nil && !json.Valid(out) {
			t.Fatalf("%s answers %s", c.Name, out)
		}
	})
}

func BenchmarkCalculators(b *testing.B) {
	for _, c := range calc.All {
		b.Run(c.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := c.RunJSON([]byte(c.Example)); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
	b.Run("floor", func(b *testing.B) { // the same reading and writing, with no arithmetic
		b.ReportAllocs()
		for b.Loop() {
			var v any
			if err := json.Unmarshal([]byte(calc.All[0].Example), &v); err != nil {
				b.Fatal(err)
			}
			if _, err := json.Marshal(v); err != nil {
				b.Fatal(err)
			}
		}
	})
}

func TestFiguresEndWhereTheySay(t *testing.T) {
	var names []string
	for _, c := range calc.All {
		if c.Name != "season-plan" && c.Name != "bed-plan" { // which search as long as they are told
			names = append(names, c.Name)
		}
	}
	require.Greater(t, calctest.Edges(t, names...), 300)
}
