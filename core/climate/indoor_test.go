package climate_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/climate"
)

// A bench that really drinks some share more or less than computed is learned: the more days
// are written down the surer, and where nothing was, it says nothing of how sure it is. A store
// never lasts longer cautiously than on average.
func TestABenchIsLearned(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		really := rapid.Float64Range(0.5, 1.8).Draw(t, "really")
		store := rapid.Float64Range(5, 100).Draw(t, "store")
		in := climate.DrinkInput{
			Indoors: climate.Indoors{
				LampMol: rapid.Float64Range(5, 25).Draw(t, "light"), LeafAreaIndex: rapid.Float64Range(0.3, 4).Draw(t, "leaf"),
				VPDKPa: rapid.Float64Range(0.2, 2).Draw(t, "vpd"), LightHours: 14,
			},
			AreaM2: rapid.Float64Range(0.2, 5).Draw(t, "area"), Factor: 1, StoreL: &store,
		}
		plain, err := climate.Drink(in)
		require.NoError(t, err)
		require.Zero(t, plain.FactorSD)
		spread := 0.5
		for _, days := range []int{1, 4, 16, 200} {
			in.Record = nil
			for i := range days {
				noise := 1 + 0.05*float64(i%3-1)
				in.Record = append(in.Record, climate.Recorded{MeasuredL: plain.UseL * really * noise, ComputedL: plain.UseL, ErrorShare: climate.UsualErrorShare})
			}
			x, err := climate.Drink(in)
			require.NoError(t, err)
			require.Less(t, x.FactorSD, spread)
			spread = x.FactorSD
			require.InDelta(t, really, x.Factor, 0.05*really+3*x.FactorSD)
			require.InDelta(t, x.UseL, x.Factor*plain.UseL, 1e-9*(1+x.UseL))
			require.Less(t, *x.DryDaysCautious, *x.DryDays)
			require.InDelta(t, store, *x.DryDays*x.UseL, 1e-6)
		}
	})
}
