package chemistry_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/chemistry"
)

// Whatever a water buffers, measured acid finds it out again, within what a pen's error
// leaves open; acid that was mistaken for another does not fit quietly.
func TestAJarTestFindsTheAlkalinity(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		alk := rapid.Float64Range(20, 300).Draw(t, "alkalinity")
		noise := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		acid := chemistry.Product{Agent: chemistry.PhosphoricAcid, StrengthPercent: 3, DensityGML: 1.015}
		in := chemistry.PHInput{
			VolumeL: 1, PHNow: 7.6, AlkalinityMgLCaCO3: alk, ECMScm: 0.5, TemperatureC: 18, Agent: acid.Agent, StrengthPercent: 3, DensityGML: 1.015,
		}
		whole := alk / 50.04 / 1000 / (1.015 * 1000 * 0.03 / 97.99) * 1000 // mL that would take all of it
		test := chemistry.JarTest{VolumeL: 1, TemperatureC: 18, ECMScm: 0.5, Acid: acid, Steps: []chemistry.TestStep{{PH: 7.6}}}
		for _, share := range []float64{0.25, 0.5, 0.75, 0.9} {
			ph, err := chemistry.PHAfter(in, share*whole)
			require.NoError(t, err)
			test.Steps = append(test.Steps, chemistry.TestStep{Amount: share * whole, PH: ph + 0.04*noise.NormFloat64()})
		}
		got, err := chemistry.TestJar(test)
		require.NoError(t, err)
		require.True(t, got.Fits)
		require.InEpsilon(t, alk, got.Alkalinity.P50, 0.15)
		require.True(t, got.Alkalinity.P5 <= got.Alkalinity.P50 && got.Alkalinity.P95 >= got.Alkalinity.P50)
	})
	nitric := chemistry.Product{Agent: chemistry.NitricAcid, StrengthPercent: 5}
	_, err := chemistry.TestJar(chemistry.JarTest{VolumeL: 1, Acid: nitric, Steps: []chemistry.TestStep{{PH: 7}}})
	require.ErrorContains(t, err, "two after some")
	rising := chemistry.JarTest{
		VolumeL: 1, TemperatureC: 18, ECMScm: 0.5, Acid: chemistry.Product{Agent: chemistry.PhosphoricAcid, StrengthPercent: 3, DensityGML: 1.015},
		Steps: []chemistry.TestStep{{PH: 7}, {Amount: 1, PH: 8}, {Amount: 2, PH: 8.5}},
	}
	got, err := chemistry.TestJar(rising)
	require.NoError(t, err)
	require.False(t, got.Fits, "acid does not raise a pH")
}
