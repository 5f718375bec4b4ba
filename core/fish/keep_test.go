package fish_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/chemistry"
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
	return fish.Fold([]fish.Event{
		{At: noon.AddDate(0, 0, -1), Stock: &fish.Stock{Why: fish.PutIn, Fish: 20, MassG: 150}},
		{At: noon, Reading: &fish.Reading{TAN: &tan, Nitrite: &nitrite, PH: &ph, Oxygen: &oxygen, TempC: &temp}},
	})
}

func trough(kind string) fish.Trough {
	return fish.Trough{Kind: kind, WaterL: 800, FeedPercent: 1.5, ProteinPercent: 32}
}

// Worse water never rings fewer alarms, and what must be now stands first; the same water
// that is safe at one pH is deadly at a higher one.
func TestAlarmsComeFirst(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := trough(rapid.SampledFrom(fish.Kinds).Draw(t, "kind").ID)
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
	x := trough("warm")
	require.Empty(t, x.Alarms(water(0.9, 0.1, 7, 7, 24), noon))
	high := x.Alarms(water(0.9, 0.1, 8.2, 7, 24), noon)
	require.True(t, high[0].Now, "safe in the morning, deadly after a correction")
	example, _ := x.Day(water(0.2, 0.1, 7, 7, 26), noon)
	require.InDelta(t, 45, example.FeedG, 0.01)
	require.InDelta(t, 1.32, example.TANG, 0.01)
	require.True(t, trough("cold").Alarms(water(0.1, 0.3, 7, 9, 14), noon)[0].Now, "trout at 0.3 of nitrite")
	carp, _ := trough("carp").Day(water(0.2, 0.1, 7, 7, 28), noon)
	require.Equal(t, 1.0, carp.Appetite, "carp grow best from 23 to 30 °C")
}

// How un-ionised ammonia really moves when a part is changed, by a chemistry that is not the
// advice's: alkalinity and bicarbonate of two waters in a constant of 10^-6.35, gas kept in or
// gone to what the fish breathe out.
func mixed(tan, ph, alkalinity, newPH, newAlkalinity, share, c float64) float64 {
	const k1 = 6.35
	gas := func(ph, alk float64) float64 { return alk * math.Pow(10, k1-ph) } // CO2 in mg/L of CaCO3
	alk := alkalinity + share*(newAlkalinity-alkalinity)
	co2 := gas(ph, alkalinity) + share*(gas(newPH, newAlkalinity)-gas(ph, alkalinity))
	after := k1 + math.Log10(alk/max(co2, 1e-9))
	a, err := chemistry.UnionisedAmmonia(tan*(1-share), after, c)
	if err != nil {
		panic(err)
	}
	return a.UnionisedMgL
}

// A change of water never brings more un-ionised ammonia than the fish had or than half of
// what they tolerate, is never more than a third, and is silent once some was changed and not
// read; nobody is told to raise the pH while ammonia waits for it, or when it is too high.
func TestAChangeOfWaterCannotHurt(t *testing.T) {
	refused, given := 0, 0
	rapid.Check(t, func(t *rapid.T) {
		f := func(low, high float64, name string) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		x := trough(rapid.SampledFrom(fish.Kinds).Draw(t, "kind").ID)
		tan, ph, c, alkalinity := f(0, 12, "tan"), f(5.5, 8.6, "ph"), f(4, 30, "c"), f(3, 200, "alkalinity")
		newPH, newAlkalinity := f(6.2, 8.6, "new ph"), f(3, 350, "new alkalinity")
		if rapid.Bool().Draw(t, "known") {
			x.Source = fish.Source{Name: "tap", PH: &newPH, Alkalinity: &newAlkalinity}
		} else {
			newPH, newAlkalinity = min(newPH, 8.2), min(newAlkalinity, 200)
		}
		s := water(tan, f(0, 6, "nitrite"), ph, f(3, 9, "oxygen"), c)
		s.Last.Alkalinity, s.When.Alkalinity = &alkalinity, &noon
		k := fish.KindOf(x.Kind)
		if change := x.Change(s); change != nil && !change.Refused {
			given++
			require.LessOrEqual(t, change.Share, 1.0/3)
			before := mixed(tan, ph, alkalinity, newPH, newAlkalinity, 0, c)
			for share := 0.0; share <= change.Share; share += 0.01 {
				after := mixed(tan, ph, alkalinity, newPH, newAlkalinity, share, c)
				require.LessOrEqual(t, after, max(before, k.UnionisedMost/2)*1.1+1e-4)
			}
		} else if change != nil {
			refused++
		}
		alarms, acts := x.Alarms(s, noon), ""
		for _, a := range x.Acts(s, noon) {
			acts += a.String() + "\n"
		}
		require.Equal(t, len(alarms) > 0, acts != "")
		limit, _ := chemistry.UnionisedAmmonia(tan, ph+0.3, c)
		if ph > k.PHHigh || limit.UnionisedMgL > k.UnionisedMost {
			require.NotContains(t, acts, "Potassium bicarbonate")
		}
		if c > k.WarmestC {
			require.NotContains(t, acts, "heater")
		}
		s.ChangedL, s.ChangedAt = 200, &noon
		require.Nil(t, x.Change(s), "nobody knows what is in it now")
		for _, a := range x.Acts(s, noon) {
			require.NotRegexp(t, "^(Change|Potassium)", a.String())
		}
	})
	require.Greater(t, refused, 0)
	require.Greater(t, given, 0)
}

// Every figure has its own day: what was bad stays bad until it is read again, what is a week
// old feeds nobody, a temperature alone is no reading, and who is not fed is asked about.
func TestFiguresGrowOld(t *testing.T) {
	x := trough("warm")
	s := water(0.2, 0.1, 7, 7, 26)
	_, known := x.Day(s, noon.AddDate(0, 0, 40))
	require.False(t, known, "fed by figures of forty days ago")
	c := 25.0
	later := noon.AddDate(0, 0, 40)
	tan, ph := 0.2, 7.0
	events := []fish.Event{
		{At: noon, Stock: &fish.Stock{Why: fish.PutIn, Fish: 20, MassG: 150}},
		{At: noon, Reading: &fish.Reading{TAN: &tan, PH: &ph, TempC: &c}},
		{At: noon.Add(time.Hour), Added: &fish.Added{ChangeL: 200}},
		{At: later, Reading: &fish.Reading{TempC: &c}},
	}
	s = fish.Fold(events)
	require.Equal(t, noon, *s.ReadAt)
	require.Equal(t, 200.0, s.ChangedL)
	require.Len(t, s.Missing(later), 2)
	hungry := x.Alarms(s, later)
	require.Equal(t, fish.WrongUnfed, hungry[0].What)
	require.True(t, hungry[0].Now)
	s = fish.Fold(append(events, fish.Event{At: later, Fed: &fish.Fed{Grams: 0}}))
	require.Equal(t, fish.WrongUnfed, x.Alarms(s, later)[0].What, "nothing is no food")
	s = fish.Fold(append(events, fish.Event{At: later, Fed: &fish.Fed{Grams: 20}}))
	require.Empty(t, x.Alarms(s, later))
}

// A filter is ready when a dose of ammonia is gone by the next day, and not before, whatever
// is read how often on one day; unfed, it is to be tried again.
func TestAFilterIsBroughtIn(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rate, grow := 0.02, rapid.Float64Range(0.08, 0.25).Draw(t, "grow") // mg/L a day, and how the bacteria grow
		second, lag := 0.01, rapid.Float64Range(4, 12).Draw(t, "lag")
		tan, nitrite := 2.5, 0.0
		var events []fish.Event
		for d := range 90 {
			at := noon.AddDate(0, 0, d)
			asked := fish.Fold(events).Cycle(at).Step
			if asked == fish.CycleReady {
				require.GreaterOrEqual(t, rate, 0.9*1.2, "a day's work of ammonia")
				require.GreaterOrEqual(t, second, 0.9*1.2, "a day's work of nitrite")
				return
			}
			if asked == fish.CycleTry || tan < 0.3 && d%3 == 0 {
				tan += 2
			}
			for range rapid.IntRange(1, 3).Draw(t, "readings") {
				a, n := tan, nitrite
				events = append(events, fish.Event{At: at, Reading: &fish.Reading{TAN: &a, Nitrite: &n}})
				at = at.Add(time.Hour)
			}
			eaten := min(tan, rate)
			tan, nitrite = tan-eaten, nitrite+eaten
			nitrite -= min(nitrite, second)
			if rate = min(rate*(1+grow), 4); float64(d) > lag {
				second = min(second*(1+grow), 4)
			}
		}
		t.Fatal("never ready")
	})
	require.Equal(t, fish.CycleBegin, fish.State{}.Cycle(noon).Step)
	high, none := 2.0, 0.1
	s := fish.Fold([]fish.Event{
		{At: noon, Reading: &fish.Reading{TAN: &high, Nitrite: &high}},
		{At: noon.AddDate(0, 0, 9), Reading: &fish.Reading{TAN: &high, Nitrite: &none}},
		{At: noon.AddDate(0, 0, 10), Reading: &fish.Reading{TAN: &none, Nitrite: &none}},
	})
	require.Equal(t, fish.CycleReady, s.Cycle(noon.AddDate(0, 0, 12)).Step)
	require.Equal(t, fish.CycleTry, s.Cycle(noon.AddDate(0, 0, 30)).Step)
}

// Where some of the last feed was left lying, the next day's is a fifth less.
func TestFeedThatWasLeft(t *testing.T) {
	s := water(0.1, 0.05, 7, 7.5, 24)
	full, known := trough("tilapia").Day(s, noon.Add(time.Hour))
	require.True(t, known)
	require.Equal(t, fish.Normal, full.Advice)
	s.Left = true
	less, known := trough("tilapia").Day(s, noon.Add(time.Hour))
	require.True(t, known)
	require.Positive(t, full.FeedTodayG)
	require.InDelta(t, 0.8*full.FeedTodayG, less.FeedTodayG, 1e-9)
}
