package unit_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/unit"
)

func TestFigures(t *testing.T) {
	us := unit.Prefs{US: true}
	ppm := unit.Prefs{PPM: 700}
	for _, c := range []struct {
		prefs unit.Prefs
		value float64
		unit  string
		says  string
	}{
		{unit.Prefs{}, 58, unit.Litre, "58 L"},
		{us, 58, unit.Litre, "15.3 gal"},
		{unit.Prefs{}, 23, unit.Celsius, "23 °C"},
		{us, 23, unit.Celsius, "73.4 °F"},
		{us, -40, unit.Celsius, "-40 °F"},
		{us, 2.54, unit.Centimetre, "1 in"},
		{us, 453.59237, unit.Gram, "16 oz"},
		{us, 12, unit.Millilitre, "12 mL"},
		{unit.Prefs{}, 1.456, unit.MS, "1.46 mS/cm"},
		{ppm, 1.4, unit.MS, "980 ppm (700 scale)"},
		{unit.Prefs{}, 5.84, "pH", "pH 5.8"},
		{unit.Prefs{}, 92.3, "%", "92.3 %"},
		{unit.Prefs{}, 0.0234, unit.Gram, "0.0234 g"},
		{unit.Prefs{}, 1234.5, unit.Gram, "1234 g"},
		{unit.Prefs{}, 0, unit.Litre, "0 L"},
		{unit.Prefs{}, 4, "", "4"},
	} {
		require.Equal(t, c.says, c.prefs.Format(c.value, c.unit))
	}
}

func TestPrefsByName(t *testing.T) {
	for _, system := range []string{"metric", "us"} {
		for _, scale := range []string{"ms", "ppm500", "ppm700"} {
			p := unit.Parse(system, scale)
			require.Equal(t, []string{system, scale}, []string{p.System(), p.Scale()})
		}
	}
	require.Equal(t, unit.Prefs{}, unit.Parse("", "teaspoons"), "what is not known is metric and mS/cm")
}

// What is shown and typed back is the same figure.
func TestInUndoesOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := unit.Prefs{US: rapid.Bool().Draw(t, "us"), PPM: rapid.SampledFrom([]int{0, 500, 700}).Draw(t, "ppm")}
		u := rapid.SampledFrom([]string{unit.Litre, unit.Celsius, unit.Centimetre, unit.Gram, unit.MS, unit.Millilitre, "pH"}).Draw(t, "unit")
		v := rapid.Float64Range(-1000, 1000).Draw(t, "value")
		require.InDelta(t, v, p.In(p.Out(v, u), u), 1e-9)
	})
}

func TestRead(t *testing.T) {
	for typed, want := range map[string]float64{"6.4": 6.4, " 6,4 ": 6.4, "-3": -3, "1e2": 100, "0": 0, "12 500": 12500, "1\u00a0234\u202f567,5": 1234567.5} {
		v, err := unit.Read(typed)
		require.NoError(t, err, typed)
		require.InDelta(t, want, v, 1e-12)
	}
	for _, typed := range []string{"", "six", "6.4.1", "NaN", "Inf", "0x10", "1_000", "6 4", "12 50", "1234 567"} {
		_, err := unit.Read(typed)
		require.ErrorContains(t, err, "is not a number", typed)
	}
}

// Small amounts of a liquid are said in cups and fluid ounces to who reads gallons; in
// fields they stay gallons.
func TestSmallAmounts(t *testing.T) {
	us := unit.Prefs{US: true}
	for v, want := range map[float64]string{1.17: "4.9 cups", 0.1: "3.4 fl oz", 3: "0.79 gal", 0: "0 gal", -0.1: "-3.4 fl oz"} {
		require.Equal(t, want, us.Format(v, unit.Litre))
	}
	require.Equal(t, "0.31", us.Figure(1.17, unit.Litre))
	require.Equal(t, "0.1 L", unit.Prefs{}.Format(0.1, unit.Litre))
}
