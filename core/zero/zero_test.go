package zero_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/zero"
)

// Rising functions as flat and as steep as those of the core are solved to what was asked.
func TestBetweenFindsTheZero(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		at := rapid.Float64Range(-50, 50).Draw(t, "zero")
		steep := math.Exp(rapid.Float64Range(-3, 5).Draw(t, "steep"))
		shape := rapid.SampledFrom([]func(float64) float64{math.Atan, math.Cbrt, math.Tanh, func(x float64) float64 { return x * x * x }}).Draw(t, "shape")
		asked := 0
		f := func(x float64) float64 { asked++; return shape(steep * (x - at)) }
		x := zero.Between(-60, 70, 1e-6, f)
		require.InDelta(t, at, x, 2e-6)
		require.Less(t, asked, 80)
		up, ok := zero.Above(-60, 0.5, 100, 1e-6, f)
		require.True(t, ok)
		require.InDelta(t, at, up, 2e-6)
	})
	_, ok := zero.Above(0, 1, 10, 1e-6, func(x float64) float64 { return x - 11 })
	require.False(t, ok)
}
