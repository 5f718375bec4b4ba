package round_test

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"ulpa/core/round"
)

// Two people walk rounds of which the true minutes are known. They are called away, write
// several things down at once, and work side by side; what is learned stays near the truth.
func TestMinutesAreLearned(t *testing.T) {
	for seed := range uint64(50) {
		r := rand.New(rand.NewPCG(seed, 3))
		truth := map[string]float64{"count": 2, "reading": 4, "move": 11, "harvest": 7}
		kinds := []string{"count", "reading", "move", "harvest"}
		var acts []round.Act
		clock := time.Date(2026, 11, 2, 9, 0, 0, 0, time.UTC)
		times := map[string]int{}
		for range 40 { // days
			at := map[string]time.Time{"ann": clock, "ben": clock}
			for range 8 {
				who := []string{"ann", "ben"}[r.IntN(2)]
				what := kinds[r.IntN(len(kinds))]
				took := truth[what] * (0.8 + 0.4*r.Float64())
				switch r.IntN(10) {
				case 0:
					took += 45 // a visitor came
				case 1:
					took = 0.1 // written down together with the one before
				}
				at[who] = at[who].Add(time.Duration(took * float64(time.Minute)))
				acts = append(acts, round.Act{Who: who, What: what, At: at[who]})
				times[what]++
			}
			clock = clock.AddDate(0, 0, 1)
		}
		acts = append(acts, round.Act{Who: "ann", What: "rescue", At: clock}, round.Act{Who: "ann", What: "rescue", At: clock.Add(9 * time.Minute)})
		learned := round.Learn(acts)
		for what, minutes := range truth {
			require.InDelta(t, minutes, learned[what].Minutes, 1.5, "%s, seed %d", what, seed)
			require.LessOrEqual(t, learned[what].Times, times[what])
		}
		require.NotContains(t, learned, "rescue", "once is not enough to know")
	}
}
