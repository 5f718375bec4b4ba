package seed_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/seed"
)

// Before anybody counts all that is expected comes; half-way a good count leaves as many as are
// missing and a poor one few; in the end none.
func TestCellsThatWaitAreNotPlantsForEver(t *testing.T) {
	require.InDelta(t, 16, seed.StillComes(20, 0, 20, 0.8, 0), 1e-9)
	good, poor := seed.StillComes(20, 8, 12, 0.8, 0.5), seed.StillComes(20, 2, 18, 0.8, 0.5)
	require.InDelta(t, 8, good, 1)
	require.Less(t, poor, 7.0)
	require.InDelta(t, 0.3, seed.StillComes(20, 15, 5, 0.8, 0.98), 0.3)
	require.Zero(t, seed.StillComes(20, 3, 17, 0.8, 1))
	require.Zero(t, seed.StillComes(20, 20, 0, 0.8, 0.5))
	for by := 0.0; by <= 1; by += 0.1 {
		require.LessOrEqual(t, seed.StillComes(20, 10, 10, 0.9, by), 10.0)
	}
}
