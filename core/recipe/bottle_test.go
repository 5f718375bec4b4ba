package recipe_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/recipe"
)

// What was mixed, taken and is there adds up, as long as a bottle is neither overfilled nor
// drawn from when empty; whatever the order in which it is told.
func TestAStockBottleAddsUp(t *testing.T) {
	now := time.Date(2027, 3, 18, 9, 0, 0, 0, time.UTC)
	rapid.Check(t, func(t *rapid.T) {
		holds := rapid.Float64Range(0.5, 10).Draw(t, "holds")
		left, taken := 0.0, 0.0
		var flows []recipe.Flow
		for i := range rapid.IntRange(1, 20).Draw(t, "n") {
			f := recipe.Flow{At: now.AddDate(0, 0, i-20)}
			if rapid.Bool().Draw(t, "mixed") {
				f.In = rapid.Float64Range(0.01, 1).Draw(t, "in") * (holds - left)
			} else {
				f.Out = rapid.Float64Range(0, 1).Draw(t, "out") * left
			}
			left, taken = left+f.In-f.Out, taken+f.Out
			flows = append(flows, f)
		}
		b := recipe.BottleOf(holds, rapid.Permutation(flows).Draw(t, "told"), now)
		require.InDelta(t, left, b.LeftL, 1e-9)
		require.True(t, b.LeftL >= 0 && b.LeftL <= holds+1e-9)
		if b.Days != nil {
			require.InDelta(t, b.LeftL, *b.Days*b.LDay, 1e-9)
		}
		require.LessOrEqual(t, 7*b.LDay, taken+1e-9)
		full := recipe.BottleOf(holds, append(flows, recipe.Flow{At: now, In: 2 * holds}), now)
		require.InDelta(t, holds, full.LeftL, 1e-9, "it does not overflow")
	})
}
