package play

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/sim"
)

func seasons(t testing.TB, s Scenario, p Player, n int) Score {
	out := NewScore(p.Name(), s.Name, 0)
	for seed := range n {
		x, err := Season(s, uint64(seed), p)
		require.NoError(t, err)
		out.Add(x)
	}
	return out
}

func (s Score) lostBy(cause string) (n int) {
	for k, v := range s.LostBy {
		if strings.HasPrefix(k, cause) {
			n += v
		}
	}
	return n
}

// Who knows what to do loses less and meets more than a wall chart, in every scenario, and what a
// season gives is the same each time.
func TestAGoodGrowerDoesBetterThanAWallChart(t *testing.T) {
	for _, s := range append(Tuned, Apart...) {
		chart, grower := seasons(t, s, Chart{}, 4), seasons(t, s, Grower{}, 4)
		require.Less(t, grower.LostShare(), chart.LostShare(), s.Name)
		require.Less(t, grower.OutShare(), chart.OutShare(), s.Name)
		for _, kind := range []string{Heads, Cuts, Plants} {
			require.GreaterOrEqual(t, grower.MetShare(kind), chart.MetShare(kind), "%s, %s", s.Name, kind)
		}
	}
	require.Equal(t, seasons(t, Tuned[0], Grower{}, 2), seasons(t, Tuned[0], Grower{}, 2))
}

// A rule that is broken shows, where it matters: doses doubled, frost ignored, jars filled to the
// top, nothing hardened off, nobody who counts.
func TestABrokenRuleShows(t *testing.T) {
	const n = 8
	usual := seasons(t, Tuned[0], Grower{}, n)
	require.Greater(t, seasons(t, Tuned[0], Grower{Doubles: true}, n).OutShare(), 1.3*usual.OutShare())
	require.Greater(t, seasons(t, Tuned[0], Grower{FillsJars: true}, n).LostShare(), 1.4*usual.LostShare())
	require.Less(t, seasons(t, Tuned[0], Grower{NoRamp: true}, n).MetShare(Plants), usual.MetShare(Plants)-0.1)

	cold := spring("tender plants in a cold April", func(s *Scenario) {
		s.Climate.MeanC, s.Climate.RangeC = 6, 14
		for i := range s.Wants {
			if s.Wants[i].Where == "bed" {
				s.Wants[i].From, s.Wants[i].By = day(5, 4), day(5, 6)
			}
		}
	})
	require.Greater(t, seasons(t, cold, Grower{NoFrost: true}, n).lostBy(sim.LostCold), 2*seasons(t, cold, Grower{}, n).lostBy(sim.LostCold)+20)

	old := spring("old packets", func(s *Scenario) { s.PoorLots = 1 })
	counted, blind := seasons(t, old, Grower{}, n), seasons(t, old, Grower{NoCounts: true}, n)
	require.Less(t, blind.Met[Heads]+blind.Met[Plants], counted.Met[Heads]+counted.Met[Plants]-0.3*n)
}
