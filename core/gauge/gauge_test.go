package gauge_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/gauge"
)

// Wherever a value truly lies, nine in ten of what is said of it by a few readings hold,
// and whoever acts on it is wrong no more often than was asked for.
func TestWhatReadingsSayHolds(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 7))
	low, high := 5.5, 6.3
	const tries = 20_000
	held, acted, wrong := 0, 0, 0
	for range tries {
		truth := 5 + 2*r.Float64()
		in := gauge.CombineInput{Low: &low, High: &high, ActAbove: gauge.ActAbove, ReadAbove: gauge.ReadAbove}
		for range 1 + r.IntN(4) {
			e := []float64{gauge.PenError, gauge.CardError}[r.IntN(2)]
			in.Readings = append(in.Readings, gauge.Reading{Value: truth + e*r.NormFloat64(), Error: e})
		}
		x, err := gauge.Combine(in)
		require.NoError(t, err)
		if math.Abs(x.Value-truth) < 1.645*x.Error {
			held++
		}
		if x.Advice == gauge.Lower || x.Advice == gauge.Raise {
			if acted++; x.Advice == gauge.Lower && truth < high || x.Advice == gauge.Raise && truth > low {
				wrong++
			}
		}
	}
	require.Greater(t, held, tries*88/100)
	require.Greater(t, acted, tries/4)
	require.Less(t, wrong, acted/20)
}

func TestReadingsTogether(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var in gauge.CombineInput
		low, high := math.Inf(1), math.Inf(-1)
		for range rapid.IntRange(1, 6).Draw(t, "n") {
			x := gauge.Reading{
				Value: rapid.Float64Range(-20, 20).Draw(t, "value"),
				Error: rapid.Float64Range(0.01, 3).Draw(t, "error"),
				Bias:  rapid.Float64Range(-1, 1).Draw(t, "bias"),
			}
			in.Readings = append(in.Readings, x)
			low, high = min(low, x.Value-x.Bias), max(high, x.Value-x.Bias)
		}
		in.ActAbove, in.ReadAbove = 0.8, 0.2
		one, err := gauge.Combine(in)
		require.NoError(t, err)
		require.True(t, one.Value >= low-1e-9 && one.Value <= high+1e-9, "between the readings")
		n := len(in.Readings)
		for i := range n { // said twice, and the other way round
			in.Readings = append(in.Readings, in.Readings[n-1-i])
		}
		two, err := gauge.Combine(in)
		require.NoError(t, err)
		require.InDelta(t, one.Value, two.Value, 1e-9)
		if one.Stretch == 1 && two.Stretch == 1 {
			require.InEpsilon(t, one.Error, two.Error*math.Sqrt2, 1e-9)
		}
		require.Equal(t, one.Disagree, two.Disagree)
	})
}
