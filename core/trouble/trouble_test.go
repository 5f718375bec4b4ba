package trouble_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/trouble"
)

// Whatever is seen, answered and known: shares add up, nothing is asked twice, three questions
// at most, and what comes out can be done.
func TestAGuessIsAGuess(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		sign := rapid.SampledFrom(trouble.Signs).Draw(t, "sign")
		maybe := func(name string, low, high float64) *float64 {
			if rapid.Bool().Draw(t, name+" known") {
				v := rapid.Float64Range(low, high).Draw(t, name)
				return &v
			}
			return nil
		}
		k := trouble.Known{
			AgeDays: rapid.IntRange(0, 90).Draw(t, "age"), DaysLate: rapid.IntRange(0, 30).Draw(t, "late"), WarmC: maybe("warm", 0, 40),
			PH: maybe("ph", 4, 9), PHHigh: 6.3, ECMS: maybe("ec", 0, 4), ECLow: 1.2, ECHigh: 1.8, WaterC: maybe("water", 5, 35),
			InWater: rapid.Bool().Draw(t, "in"), NoHoles: rapid.Bool().Draw(t, "holes"), Outside: rapid.Bool().Draw(t, "out"), CutsBack: rapid.Bool().Draw(t,
				"cuts"), ColdNight: maybe("night", -5, 15),
		}
		answers := map[string]bool{}
		for asked := 0; ; asked++ {
			f := trouble.Look(sign.ID, answers, k)
			sum := 0.0
			for i, c := range f.Causes {
				sum += c.Share
				require.True(t, i == 0 || c.Share <= f.Causes[i-1].Share)
				require.NotEmpty(t, c.Today)
				require.True(t, c.Loss.Known(), c.ID)
			}
			require.InDelta(t, 1, sum, 1e-9)
			require.True(t, asked > 0 || f.Ask != nil, "it asks before it is sure")
			for _, c := range f.Causes {
				for _, do := range c.Does(k) {
					require.NotContains(t, do, "No feed for")
					require.True(t, k.CutsBack || c.Cut == "" || do != c.Cut, "only what bears it is cut back")
				}
			}
			if f.Ask == nil {
				return
			}
			require.Less(t, asked, 3)
			require.NotContains(t, answers, f.Ask.ID)
			answers[f.Ask.ID] = rapid.Bool().Draw(t, f.Ask.ID)
		}
	})
}

// Every cause, seen by its own sign and with its questions answered as it shows itself, is
// among the likeliest two; and what the books know moves it up, never down.
func TestEveryCauseIsFound(t *testing.T) {
	found := map[string]bool{}
	for _, c := range trouble.Causes {
		sign := c.Sign()
		answers := map[string]bool{}
		f := trouble.Look(sign, answers, trouble.Known{})
		for f.Ask != nil {
			answers[f.Ask.ID] = f.Ask.Shows(c.ID)
			f = trouble.Look(sign, answers, trouble.Known{})
		}
		at := slices.IndexFunc(f.Causes, func(g trouble.Guess) bool { return g.ID == c.ID })
		require.Less(t, at, 3, "%s by %s and %v comes after %s", c.ID, sign, answers, f.Causes[0].ID)
		found[c.ID] = at < 2
	}
	n := 0
	for _, ok := range found {
		if ok {
			n++
		}
	}
	require.GreaterOrEqual(t, n, len(found)*9/10, found)
	share := func(sign, cause string, k trouble.Known) float64 {
		f := trouble.Look(sign, nil, k)
		return f.Causes[slices.IndexFunc(f.Causes, func(g trouble.Guess) bool { return g.ID == cause })].Share
	}
	high, cold, hot := 7.2, 2.0, 27.0
	for cause, x := range map[string]struct {
		sign string
		k    trouble.Known
	}{
		"iron": {"yellow-new", trouble.Known{PH: &high, PHHigh: 6.3}}, "late": {"yellow-low", trouble.Known{DaysLate: 12}},
		"cold": {"purple", trouble.Known{ColdNight: &cold}}, "rot": {"wilted", trouble.Known{WaterC: &hot, InWater: true}},
		"drowned": {"wilted", trouble.Known{NoHoles: true}}, "warm": {"leggy", trouble.Known{WarmC: &hot}},
	} {
		require.Greater(t, share(x.sign, cause, x.k), share(x.sign, cause, trouble.Known{}), cause)
	}
}
