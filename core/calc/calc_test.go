package calc_test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calc"
)

type contractCase struct {
	Calc      string
	Input     json.RawMessage
	Output    any
	Tolerance map[string]tolerance

	// Of a question too large for one right answer: the cost of the best plan known, how far
	// above it a plan may be, and the bounds by batches alone and by fractions of them.
	Best, G, Alone, Relaxed float64
	Proven                  bool
	BoundShare              float64 `json:"bound_share"`
}

// judge holds the answer to a question too large for one right answer.
func (c contractCase) judge(t *testing.T, got map[string]any) {
	cost := got["cost"].(float64)
	require.LessOrEqual(t, cost, (1+c.G)*c.Best+1e-6)
	if c.Proven {
		require.GreaterOrEqual(t, cost, c.Best-1e-6)
	}
	if bound, ok := got["bound"].(float64); ok {
		require.LessOrEqual(t, bound, c.Best+1e-6)
		require.GreaterOrEqual(t, bound, c.Alone+c.BoundShare*(c.Relaxed-c.Alone)-1e-6)
	}
}

// tolerance of a field: relative, or relative and absolute.
type tolerance struct{ Rel, Abs float64 }

func (t *tolerance) UnmarshalJSON(b []byte) error {
	if json.Unmarshal(b, &t.Rel) == nil {
		return nil
	}
	var both struct{ Rel, Abs float64 }
	err := json.Unmarshal(b, &both)
	*t = tolerance(both)
	return err
}

// Every example of the contract, as the command and the API would answer it.
func TestContract(t *testing.T) {
	files, err := filepath.Glob("testdata/*.json")
	require.NoError(t, err)
	require.Len(t, files, len(calc.All))
	for _, f := range files {
		b, err := os.ReadFile(f)
		require.NoError(t, err)
		var cases []contractCase
		require.NoError(t, json.Unmarshal(b, &cases))
		for i, c := range cases {
			t.Run(fmt.Sprintf("%s/%d", c.Calc, i), func(t *testing.T) {
				k, ok := calc.Find(c.Calc)
				require.True(t, ok)
				out, err := k.RunJSON(c.Input)
				require.NoError(t, err)
				var got any
				require.NoError(t, json.Unmarshal(out, &got))
				if c.Output == nil {
					c.judge(t, got.(map[string]any))
					return
				}
				same(t, "", c.Output, got, c.Tolerance)
			})
		}
	}
}

// same asks that everything wanted is there, numbers within the tolerance of
// their field or of the field they are in.
func same(t *testing.T, path string, want, got any, tolerances map[string]tolerance) {
	switch w := want.(type) {
	case map[string]any:
		g, ok := got.(map[string]any)
		require.True(t, ok, path)
		for k, v := range w {
			require.Contains(t, g, k, path)
			same(t, path+"."+k, v, g[k], tolerances)
		}
	case []any:
		g, ok := got.([]any)
		require.True(t, ok, path)
		require.Len(t, g, len(w), path)
		for i, v := range w {
			same(t, fmt.Sprintf("%s.%d", path, i), v, g[i], tolerances)
		}
	case float64:
		g, ok := got.(float64)
		require.True(t, ok, "%s: %v", path, got)
		allowed := tolerance{Rel: 1e-6, Abs: 1e-9}
		for _, part := range strings.Split(path, ".") {
			if x, ok := tolerances[part]; ok {
				allowed = x
			}
		}
		if math.Abs(g-w) > allowed.Rel*math.Abs(w)+max(allowed.Abs, 1e-9) {
			t.Errorf("%s: want %v, got %v", path, w, g)
		}
	default:
		require.Equal(t, want, got, path)
	}
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
						try(func(m map[string]any) { m[f.Name] = "12" }, f.Name+": takes a number, not a text")
						if !f.Null {
							try(func(m map[string]any) { m[f.Name] = nil }, f.Name+": takes a number, not null")
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
		{"air", `[]`, "body: takes one JSON object"},
		{"air", `{"temperature_c": 20, "humidity_percent": 50} {}`, "body: takes one JSON object and nothing after it"},
		{"air", `{"temperature_c": NaN}`, "body: is not JSON"},
		{"air", `{"temperature_c": 1e999, "humidity_percent": 50}`, "temperature_c: takes a finite number"},
		{"emergence", `{"sown": 10, "counts": [{"day": 3, "sprouted": 4}, {"day": 4, "sprouted": 11}]}`, "counts.1.sprouted: is more than were sown"},
		{"emergence", `{"sown": 10, "counts": [{"day": 3, "sprouted": 4}, {"day": 3, "sprouted": 4}]}`, "counts.1.day: must be later"},
		{"emergence", `{"sown": 10.5, "counts": []}`, "sown: takes a whole number"},
		{
			"seed-rate", `{"plants_wanted": 5, "cells_per_tray": 24, "germination": {"rate": 0.5, "tested": 5, "sprouted": 1}}`,
			"germination.rate: is given beside a test",
		},
		{"frost", `{"daily_minima": [{"date": "2024-01-01", "c": -99.9}], "hemisphere": "north"}`, "daily_minima.0.c: takes −90 to 60"},
		{"frost", `{"daily_minima": [{"date": "2024-01-01", "c": 1}, {"date": "2024-01-01", "c": 1}], "hemisphere": "north"}`, "daily_minima.1.date: is there twice"},
		{"vessel", `{"shape": "box", "length_cm": 1, "width_cm": 1, "height_cm": 1, "diameter_cm": 3, "litres": 0}`, "diameter_cm: is not a size of this shape"},
		{"vessel", `{"shape": "cylinder", "diameter_cm": 10, "height_cm": 10, "litres": 5}`, "litres: takes 0 up to the full"},
		{"recipe", `{"volume_l": 1, "water_mg_l": {}, "targets_mg_l": {"P2O5": 3}, "products": ["potassium_nitrate"]}`, "targets_mg_l.P2O5: takes one of"},
		{
			"recipe", `{"volume_l": 1, "water_mg_l": {}, "targets_mg_l": {"N": 3}, "products": ["potassium_nitrate", "potassium_nitrate"]}`,
			"products.1: is there twice",
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
		{"back-schedule", `{"ready_by": "2027-02-30", "stages": [], "workdays": [8], "closed": []}`, "ready_by: takes a date"},
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
