package chemistry_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/chemistry"
)

// Standing brings free chlorine exactly to what may be left; an agent is weighed by what there
// is, never less than that; chloramine leaves its ammonia behind and cannot be stood out.
func TestChlorineIsGoneWhenItSays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		half := rapid.Float64Range(0.5, 48).Draw(t, "half")
		in := chemistry.ChlorineInput{
			VolumeL: rapid.Float64Range(1, 2000).Draw(t, "litres"), Kind: chemistry.FreeChlorine, MgL: rapid.Float64Range(0, 5).Draw(t, "mg"),
			LimitMg: rapid.SampledFrom([]float64{chemistry.ChlorineForFish, chemistry.ChlorineForRoots}).Draw(t, "limit"),
			Agent:   rapid.SampledFrom([]string{chemistry.AscorbicAcid, chemistry.Thiosulfate}).Draw(t, "agent"),
			Excess:  rapid.Float64Range(1, 3).Draw(t, "excess"), HalfLifeH: &half, PH: 7.5, TemperatureC: 18,
		}
		x, err := chemistry.Dechlorinate(in)
		require.NoError(t, err)
		left := in.MgL * math.Exp2(-*x.StandingH/half)
		require.LessOrEqual(t, left, in.LimitMg*(1+1e-9))
		require.Equal(t, in.MgL > in.LimitMg, x.Needed)
		require.Equal(t, x.Needed, x.AgentMg > 0)
		require.GreaterOrEqual(t, x.AgentMg, x.ExactMg)
		require.Zero(t, x.AmmoniaMgL)

		in.Kind = chemistry.Chloramine
		_, err = chemistry.Dechlorinate(in)
		require.Error(t, err, "it does not leave by standing")
		in.HalfLifeH = nil
		y, err := chemistry.Dechlorinate(in)
		require.NoError(t, err)
		require.Equal(t, x.AgentMg, y.AgentMg, "chlorine is counted as Cl2 in both")
		require.InDelta(t, in.MgL*chemistry.WN/70.9, y.AmmoniaMgL, 1e-9)
		require.LessOrEqual(t, y.UnionisedL, y.AmmoniaMgL)
	})
}
