package seed_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/seed"
)

// Seed ages faster warm and moist, the same in one go as bit by bit, and is exactly as poor
// as was asked after the days that are told.
func TestSeedAges(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := seed.AgeInput{
			Crop: rapid.SampledFrom(seed.AgeCrops()).Draw(t, "crop"), Germination: rapid.Float64Range(0.5, 0.99).Draw(t, "g"),
			Below: rapid.Float64Range(0.1, 0.49).Draw(t, "below"),
			Storage: []seed.Stored{{
				Days: rapid.Float64Range(0, 900).Draw(t, "days"), TemperatureC: rapid.Float64Range(0, 30).Draw(t, "c"),
				MoisturePct: rapid.Float64Range(4, 11).Draw(t, "m"),
			}},
		}
		age := func(change func(*seed.Stored)) seed.AgeAnswer {
			x := in
			x.Storage = []seed.Stored{in.Storage[0]}
			change(&x.Storage[0])
			a, err := seed.Age(x)
			require.NoError(t, err)
			return a
		}
		a := age(func(*seed.Stored) {})
		require.LessOrEqual(t, a.Germination, in.Germination+1e-9)
		require.LessOrEqual(t, age(func(s *seed.Stored) { s.TemperatureC += 5 }).Germination, a.Germination+1e-12)
		require.LessOrEqual(t, age(func(s *seed.Stored) { s.MoisturePct += 2 }).Germination, a.Germination+1e-12)
		halves := in
		half := in.Storage[0]
		half.Days /= 2
		halves.Storage = []seed.Stored{half, half}
		b, err := seed.Age(halves)
		require.NoError(t, err)
		require.InDelta(t, a.Germination, b.Germination, 1e-9)
		if a.DaysToBelow > 0 {
			require.InDelta(t, in.Below, age(func(s *seed.Stored) { s.Days += a.DaysToBelow }).Germination, 1e-6)
		} else {
			require.LessOrEqual(t, a.Germination, in.Below+1e-9)
		}
	})
	_, err := seed.Age(seed.AgeInput{Crop: "basil", Germination: 0.9, Below: 0.5, Storage: []seed.Stored{{Days: 1, TemperatureC: 5, MoisturePct: 7}}})
	require.ErrorContains(t, err, "crop")
}
