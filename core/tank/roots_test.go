package tank_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/tank"
)

// Roots that hung hang on: a jar that somebody fills back to its pot is let fall, and gets
// nothing until then, whether or not its solution was changed. A seedling that comes into a
// jar where another's roots hung stands with its foot in the water.
func TestRootsAreRemembered(t *testing.T) {
	jar := aJar()
	foot := jar.CapacityL * jar.PotFootCM / jar.HeightCM
	rapid.Check(t, func(t *rapid.T) {
		x := tank.Tank{Spec: jar, Plants: 1}
		came := morning.AddDate(0, 0, -rapid.IntRange(8, 60).Draw(t, "days there"))
		if rapid.Bool().Draw(t, "known when") {
			x.Planted = came
		}
		note := func(level float64, at time.Time) {
			r := read(5.8, 1.4, level)
			r.Plants = &x.Plants
			x.State.Read(jar, r, at)
		}
		low := foot * rapid.Float64Range(0.25, 0.8).Draw(t, "fell to")
		note(low, morning)
		filled := tank.Treatment{WaterL: foot - low}
		if !x.Planted.IsZero() && rapid.Bool().Draw(t, "changed whole") {
			filled = tank.Treatment{DrainL: low, WaterL: foot}
		}
		x.State.Treat(jar, filled, morning.Add(time.Hour))
		for day := range rapid.IntRange(1, 3).Draw(t, "days") {
			at := morning.AddDate(0, 0, 1+day)
			level := foot - 0.05*float64(1+day)
			note(level, at)
			a := advise(x, at, 2)
			require.NotNil(t, a.Jar)
			require.True(t, a.Jar.Hang)
			require.Zero(t, a.Plan.WaterL, "the upper roots drown")
			require.True(t, a.Jar.TooHigh)
		}
		// The next seedling, in the same jar, not a quarter full.
		x.Planted = morning.AddDate(0, 0, 5)
		at := x.Planted.Add(time.Hour)
		note(foot/4, at)
		a := advise(x, at, 2)
		require.False(t, a.Jar.Hang)
		require.InDelta(t, foot-foot/4, a.Plan.WaterL, 0.1)
		x.State.Treat(jar, a.Plan, at)
		saw := 6.0
		later := at.AddDate(0, 0, 20)
		r := read(5.8, 1.4, foot*0.9)
		r.RootsCM = &saw
		x.State.Read(jar, r, later)
		require.True(t, advise(x, later, 2).Jar.Hang, "what was seen counts")
	})
}

// A jar that is fed with powder gets its feed, however little: mixed in a can, of whole quarters of a
// teaspoon, as strong as what it is poured wants.
func TestAJarIsFedWithPowderOutOfACan(t *testing.T) {
	spec := aJar()
	spec.Feed, spec.StockRise, spec.SpoonRise, spec.BucketL = tank.BySpoon, 0, 0.6, 10
	x := settled(spec, 5.9, 0.9, 1.6*spec.DryBelowL)
	x.Plants = 1
	a := advise(x, morning.Add(time.Hour), 9)
	require.Positive(t, a.Plan.WaterL)
	require.Positive(t, a.Plan.Spoons, "and no plain water")
	require.Less(t, a.Plan.Spoons, 0.25)
	require.Equal(t, "water wait read", acts(a))
	require.Regexp(t, `out of a can, in which 0\.25 level teaspoons of feed are stirred into \d`, a.Acts[0].What.String())
	require.Empty(t, tank.DoubtsOfTreatment(x, a.Plan, a.Plan, morning.Add(time.Hour)), "what was advised is not questioned")
	x.State.Treat(spec, a.Plan, morning.Add(time.Hour))
	require.InDelta(t, spec.ECTarget, *x.State.ECMS, 0.1)
}
