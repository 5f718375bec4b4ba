package fish_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/chemistry"
	"ulpa/core/fish"
)

func draw(t *rapid.T) fish.Input {
	f := func(low, high float64, name string) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
	return fish.Input{
		Fish: rapid.IntRange(1, 200).Draw(t, "fish"), MassG: f(1, 800, "mass"), FeedPercentDay: f(0.1, 5, "feed"), ProteinPercent: f(20, 50, "protein"),
		TemperatureC: f(10, 36, "temperature"), PH: f(5.5, 9, "ph"), WaterL: f(50, 5000, "water"), TANMgL: f(0, 8, "tan"),
		UnionisedLimit: chemistry.UnionisedForFish, SourceTANMgL: f(0, 0.2, "source"),
	}
}

func day(t require.TestingT, in fish.Input) fish.Answer {
	x, err := fish.Day(in)
	require.NoError(t, err)
	return x
}

var amount = map[string]int{fish.Nothing: 0, fish.Half: 1, fish.Normal: 2}

// What it advises never makes things worse: more ammonia, a higher pH or less oxygen never lead
// to more feed; water that is bad is not fed into; and the change it asks for is the one that
// brings ammonia to half of what fish tolerate.
func TestNothingWorseLeadsToMoreFeed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := draw(t)
		x := day(t, in)
		require.LessOrEqual(t, x.FeedTodayG, x.FeedG)
		if x.UnionisedMgL > in.UnionisedLimit*(1+1e-9) {
			require.Equal(t, fish.Nothing, x.Advice)
		}
		worse := in
		switch rapid.IntRange(0, 2).Draw(t, "worse") {
		case 0:
			worse.TANMgL += rapid.Float64Range(0, 5).Draw(t, "more")
		case 1:
			worse.PH = min(10, worse.PH+rapid.Float64Range(0, 1).Draw(t, "up"))
		case 2:
			oxygen := rapid.Float64Range(0, 12).Draw(t, "oxygen")
			worse.OxygenMgL = &oxygen
		}
		require.LessOrEqual(t, amount[day(t, worse).Advice], amount[x.Advice])
		if x.ChangeL == nil {
			require.GreaterOrEqual(t, in.SourceTANMgL, x.TANLimitMgL/2, "only where fresh water is no better")
			return
		}
		require.LessOrEqual(t, *x.ChangeL, in.WaterL*(1+1e-9))
		if *x.ChangeL > 0 {
			after := in.TANMgL + *x.ChangeShare*(in.SourceTANMgL-in.TANMgL)
			require.InDelta(t, x.TANLimitMgL/2, after, 1e-9)
		}
	})
}

// Nitrogen adds up: what a day's feed brings is what the filter of the asked size turns over,
// and twice the fish want twice of everything.
func TestTwiceTheFishWantTwiceOfEverything(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := draw(t)
		one := day(t, in)
		in.Fish *= 2
		two := day(t, in)
		for name, x := range map[string][2]float64{
			"feed": {one.FeedG, two.FeedG}, "ammonia": {one.TANG, two.TANG}, "rise": {one.TANRiseMgL, two.TANRiseMgL},
			"filter": {one.FilterM2Needed, two.FilterM2Needed}, "alkalinity": {one.AlkalinityG, two.AlkalinityG}, "oxygen": {one.OxygenG, two.OxygenG},
		} {
			require.InDelta(t, 2*x[0], x[1], 1e-9*(1+x[1]), name)
		}
		require.InDelta(t, one.TANG, one.TANRiseMgL*in.WaterL/1000, 1e-9)
		require.Equal(t, one.TANLimitMgL, two.TANLimitMgL, "what fish bear is of the water")
	})
}
