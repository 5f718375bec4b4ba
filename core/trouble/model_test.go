package trouble

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
)

// Troubles drawn as the tables have them, looked at and asked about as a person would: what is
// called likely is so that often, shares mean what they say, the two that are named hold the
// true cause more often than before anybody was asked.
func TestSharesMeanWhatTheySay(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 2))
	draw := func(n int, weight func(int) float64) int {
		sum := 0.0
		for i := range n {
			sum += weight(i)
		}
		at := r.Float64() * sum
		for i := range n {
			if at -= weight(i); at <= 0 {
				return i
			}
		}
		return n - 1
	}
	const cases = 6000
	var said, right [10]float64
	unasked, asked := 0, 0
	for range cases {
		// A cause and a sign together: how usual it is, and how often it shows the sign.
		both := draw(len(Causes)*len(Signs), func(i int) float64 {
			c := Causes[i/len(Signs)]
			return c.Usual * c.seen(Signs[i%len(Signs)].ID)
		})
		truth, sign := Causes[both/len(Signs)], Signs[both%len(Signs)].ID
		names := func(f Finding) bool {
			return slices.ContainsFunc(f.Likely(), func(g Guess) bool { return g.ID == truth.ID })
		}
		answers := map[string]bool{}
		f := Look(sign, answers, Known{})
		if names(f) {
			unasked++
		}
		for f.Ask != nil {
			answers[f.Ask.ID] = r.Float64() < f.Ask.yes(truth.ID)
			f = Look(sign, answers, Known{})
		}
		if names(f) {
			asked++
		}
		bin := min(9, int(10*f.Causes[0].Share))
		said[bin] += f.Causes[0].Share
		if f.Causes[0].ID == truth.ID {
			right[bin]++
		}
		if f.Causes[0].Share >= 0.75 {
			require.EqualValues(t, "likely", Sure(f.Causes[0].Share))
		}
	}
	sum, hits := 0.0, 0.0
	for i := range said {
		sum, hits = sum+said[i], hits+right[i]
		require.InDelta(t, said[i]/cases, right[i]/cases, 0.015, "shares of %d0 %%", i)
	}
	require.InDelta(t, sum, hits, 0.02*cases)
	require.Greater(t, asked, unasked)
	require.Greater(t, float64(asked)/cases, 0.85)
}
