package recipe_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/recipe"
)

// Whatever is wanted: the quarters it says are the nearest, what they give is said, and a scale
// is asked for whenever they, or the doubt about a spoon, miss by more than a tenth.
func TestASpoonThatIsTooFarOffIsNotUsed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := recipe.SpoonInput{ScaleErrorG: recipe.ScaleErrorG}
		really := rapid.Float64Range(2, 8).Draw(t, "spoon")
		for range rapid.IntRange(1, 6).Draw(t, "weighings") {
			n := rapid.IntRange(1, 5).Draw(t, "spoons")
			off := rapid.Float64Range(0.9, 1.1).Draw(t, "off")
			in.Weighings = append(in.Weighings, recipe.Weighing{Spoons: n, Grams: really * off * float64(n)})
		}
		want := rapid.Float64Range(0.1, 200).Draw(t, "want")
		in.WantG = &want
		x, err := recipe.Spoon(in)
		require.NoError(t, err)
		require.InDelta(t, really, x.GramsPerSpoon, 0.1*really+1e-9)
		require.InDelta(t, want, *x.Spoons*x.GramsPerSpoon, 1e-9*want)
		require.LessOrEqual(t, math.Abs(*x.GivesG-want), x.GramsPerSpoon/8+1e-9, "no quarter is nearer")
		if !*x.WeighInstead {
			require.LessOrEqual(t, math.Abs(*x.GivesG-want), 0.1*want+1e-9)
			require.LessOrEqual(t, *x.GivesErrorG, 0.1*want+1e-9)
			require.Positive(t, *x.LevelQuarters)
		}
		in.Weighings = append(in.Weighings, in.Weighings...)
		again, err := recipe.Spoon(in)
		require.NoError(t, err)
		require.InDelta(t, x.GramsPerSpoon, again.GramsPerSpoon, 1e-9)
		if len(in.Weighings) > 2 {
			require.Less(t, again.ErrorG, x.ErrorG+1e-9, "weighed twice as often, it is surer")
		}
	})
}
