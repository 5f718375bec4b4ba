package fish_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/fish"
)

var noon = time.Date(2027, 3, 18, 9, 0, 0, 0, time.UTC)

// Fish are neither made nor lost by the books: those that were put in are there, dead, or
// taken out; and they grow by what they eat.
func TestFishAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var events []fish.Event
		in, out, mass := 0, 0, 0.0
		for i := range rapid.IntRange(1, 30).Draw(t, "events") {
			at := noon.AddDate(0, 0, i)
			switch rapid.IntRange(0, 3).Draw(t, "what") {
			case 0:
				n, g := rapid.IntRange(1, 20).Draw(t, "n"), rapid.Float64Range(5, 300).Draw(t, "g")
				in, mass = in+n, mass+float64(n)*g
				events = append(events, fish.Event{At: at, Stock: &fish.Stock{Why: fish.PutIn, Fish: n, MassG: g}})
			case 1:
				n := min(in-out, rapid.IntRange(0, 3).Draw(t, "dead"))
				if in > out {
					mass -= mass / float64(in-out) * float64(n)
				}
				out += n
				events = append(events, fish.Event{At: at, Stock: &fish.Stock{Why: rapid.SampledFrom([]string{fish.Died, fish.Taken}).Draw(t, "why"), Fish: n}})
			case 2:
				g := rapid.Float64Range(0, 50).Draw(t, "fed")
				if in > out {
					mass += g / 1.5
				}
				events = append(events, fish.Event{At: at, Fed: &fish.Fed{Grams: g}})
			default:
				ph := 7.0
				events = append(events, fish.Event{At: at, Reading: &fish.Reading{PH: &ph}})
			}
		}
		s := fish.Fold(events)
		require.Equal(t, in-out, s.Fish)
		require.Equal(t, in, s.PutIn)
		if s.Fish > 0 {
			require.InDelta(t, mass, s.MassG*float64(s.Fish), 1e-6*(1+mass))
		}
	})
}

func water(tan, nitrite, ph, oxygen, temp float64) fish.State {
	s := fish.Fold([]fish.Event{{At: noon, Stock: &fish.Stock{Why: fish.PutIn, Fish: 20, MassG: 150}}})
	s.Last = fish.Reading{TAN: &tan, Nitrite: &nitrite, PH: &ph, Oxygen: &oxygen, TempC: &temp}
	return s
}

// Worse water never rings fewer alarms, and what must be now stands first; the same water
// that is safe at one pH is deadly at a higher one.
func TestAlarmsComeFirst(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := fish.Trough{Kind: rapid.SampledFrom(fish.Kinds).Draw(t, "kind").ID, WaterL: 800, FeedPercent: 1.5, ProteinPercent: 32}
		tan, nitrite := rapid.Float64Range(0, 3).Draw(t, "tan"), rapid.Float64Range(0, 3).Draw(t, "nitrite")
		oxygen := rapid.Float64Range(2, 9).Draw(t, "oxygen")
		now := x.Alarms(water(tan, nitrite, 7, oxygen, 17), noon)
		worse := x.Alarms(water(2*tan, 2*nitrite, 7, oxygen/2, 17), noon)
		require.GreaterOrEqual(t, len(worse), len(now))
		seen := false
		for _, a := range now {
			require.False(t, a.Now && seen, "what must be now stands first")
			seen = seen || !a.Now
		}
		d, known := x.Day(water(tan, nitrite, 7, oxygen, 17), noon)
		require.True(t, known)
		most := d.FeedG
		for _, a := range now {
			most = min(most, d.FeedG*map[string]float64{fish.Nothing: 0, fish.Half: 0.5, fish.Normal: 1}[a.Feed])
			require.True(t, !a.Now || a.Feed == fish.Nothing, "who cannot wait is not fed")
		}
		require.LessOrEqual(t, d.FeedTodayG, most+1e-9, "no more than each alarm allows")
		left := water(tan, nitrite, 7, oxygen, 17)
		left.Left = true
		less, _ := x.Day(left, noon)
		require.LessOrEqual(t, less.FeedTodayG, d.FeedTodayG)
		if d.Advice == fish.Normal && d.FeedG > 0 {
			require.Less(t, less.FeedTodayG, d.FeedTodayG, "what is left lying is not fed again")
		}
	})
	x := fish.Trough{Kind: "warm", WaterL: 800, FeedPercent: 1.5, ProteinPercent: 32}
	require.Empty(t, x.Alarms(water(0.9, 0.1, 7, 7, 24), noon))
	high := x.Alarms(water(0.9, 0.1, 8.2, 7, 24), noon)
	require.True(t, high[0].Now, "safe in the morning, deadly after a correction")
	example, _ := x.Day(water(0.2, 0.1, 7, 7, 26), noon)
	require.InDelta(t, 45, example.FeedG, 0.01)
	require.InDelta(t, 1.32, example.TANG, 0.01)
}

// A filter is ready when ammonia and then nitrite have come and gone, and not before; the
// steps come in their order whatever is read.
func TestAFilterIsBroughtIn(t *testing.T) {
	order := map[string]int{fish.CycleBegin: 0, fish.CycleAmmonia: 1, fish.CycleNitrite: 2, fish.CycleReady: 3}
	rapid.Check(t, func(t *rapid.T) {
		peak, length := rapid.Float64Range(1, 4).Draw(t, "peak"), rapid.Float64Range(20, 50).Draw(t, "length")
		var events []fish.Event
		before := 0
		for d := 0.0; d < 1.3*length; d += 2 {
			f := d / length
			tan := peak * math.Max(0, math.Min(1, 4*f)*math.Exp(-math.Pow(3*math.Max(0, f-0.2), 2)*3))
			nitrite := peak * math.Exp(-math.Pow((f-0.6)*5, 2))
			at := noon.AddDate(0, 0, int(d))
			events = append(events, fish.Event{At: at, Reading: &fish.Reading{TAN: &tan, Nitrite: &nitrite}})
			c := fish.Fold(events).Cycle(at)
			require.GreaterOrEqual(t, order[c.Step], before)
			before = order[c.Step]
			require.False(t, c.Step == fish.CycleReady && nitrite >= 0.5)
		}
		require.Equal(t, 3, before)
	})
	require.Equal(t, fish.CycleBegin, fish.State{}.Cycle(noon).Step)
}
