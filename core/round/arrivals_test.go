package round_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/round"
)

// Young plants that came in a bad way are looked after in their first week: each sign asks until
// something was done about it, once although they stand in two places, and after a week none does.
func TestTheFirstWeekOfADelivery(t *testing.T) {
	s := school()
	signs := func(day calendar.Day, change func(*round.Batch)) (out []string) {
		b := plants("tomato", int(day))
		b.InStands = map[string]int{"bench": 8, "tower": 4}
		for _, x := range batch.Signs {
			b.Delivered.Signs = append(b.Delivered.Signs, x.ID)
		}
		change(&b)
		for _, task := range s.OfBatch(b) {
			if task.Kind == round.Settle || task.Kind == round.PotOn {
				require.Equal(t, "bench", task.Place)
				require.NotEmpty(t, task.Why.String())
				out = append(out, task.Part)
			}
		}
		slices.Sort(out)
		require.Equal(t, out, slices.Compact(slices.Clone(out)))
		return out
	}
	nothing := func(*round.Batch) {}
	require.Equal(t, []string{"broken", "cold", "dry", "leggy", "pests", "pot-bound"}, signs(0, nothing))
	require.Equal(t, []string{"broken", "dry", "leggy", "pests", "pot-bound"}, signs(1, nothing), "not fed in the first days")
	require.Equal(t, []string{"yellow"}, signs(3, func(b *round.Batch) {
		b.Delivered.Wetted, b.Delivered.Moved, b.LookedOn = b.Sown, true, today-1
	}))
	require.Equal(t, []string{"pests"}, signs(5, func(b *round.Batch) {
		b.Delivered.Wetted, b.Delivered.Fed, b.Delivered.Moved, b.LookedOn = b.Sown, b.Sown+2, true, today-2
	}), "pests may come back")
	require.Empty(t, signs(8, nothing))
}
