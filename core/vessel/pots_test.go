package vessel_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/vessel"
)

// Bags hold the mix and never a whole one too many; what settles is made up for.
func TestPotsAreFilled(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		height, fill, bag := rapid.Float64Range(2, 60).Draw(t, "height"), rapid.Float64Range(0.1, 1).Draw(t, "fill"), rapid.Float64Range(1, 80).Draw(t, "bag")
		in := vessel.PotsInput{
			Pot:   vessel.Vessel{Shape: vessel.RoundTaper, TopDiameterCM: rapid.Float64Range(3, 40).Draw(t, "top"), BottomDiameterCM: 3, HeightCM: height},
			Count: rapid.IntRange(0, 400).Draw(t, "count"), Settling: rapid.Float64Range(0, 0.6).Draw(t, "settling"), BagL: &bag,
		}
		whole, err := vessel.FillPots(in)
		require.NoError(t, err)
		cm := fill * height
		in.FillCM = &cm
		p, err := vessel.FillPots(in)
		require.NoError(t, err)
		require.LessOrEqual(t, p.FilledL, whole.FilledL+1e-12)
		require.InDelta(t, float64(in.Count)*p.FilledL, p.MixL*(1-in.Settling), 1e-9*max(1, p.MixL))
		require.GreaterOrEqual(t, *p.LeftL, -1e-6)
		require.Less(t, *p.LeftL, bag)
		cm = height * 1.01
		_, err = vessel.FillPots(in)
		require.ErrorContains(t, err, "fill_cm")
	})
}
