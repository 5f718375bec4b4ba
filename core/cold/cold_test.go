package cold_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
)

var today = calendar.Date(2027, 3, 18)

func find(t require.TestingT, id string) crop.Crop {
	c, ok := crop.Find(id)
	require.True(t, ok)
	return c
}

func TestWhatSpeaksAgainstSettingOut(t *testing.T) {
	week := cold.Site{Ahead: []cold.Night{{today, 4}, {today + 2, -1}, {today + 3, -2}, {today + 6, 6}}}
	tomato, kale := find(t, "tomato"), find(t, "kale")
	require.Contains(t, say.Join(" ", week.Against(tomato, 10, today)...).String(), "-2 °C is forecast for Sun 21 March")
	require.Contains(t, say.Join(" ", week.Against(kale, 0, today)...).String(), "not hardened off")
	require.Empty(t, week.Against(kale, 10, today), "hardened kale bears it")
	require.Contains(t, week.Against(tomato, 10, today)[0].In(say.Reader{Prefs: unit.Prefs{US: true}}), "28.4 °F")

	require.Contains(t, cold.Site{}.Against(tomato, 10, today)[0].String(), "No forecast is entered for tonight")
	require.Empty(t, cold.Site{}.Against(kale, 10, today))

	mild := cold.Site{Ahead: []cold.Night{{today, 15}, {today + 1, 16}}}
	require.Empty(t, mild.Against(tomato, 10, today))
	for year := 2020; year < 2027; year++ {
		for d := calendar.Date(year, 3, 1); d < calendar.Date(year, 6, 15); d++ {
			c := 6.0
			if d == calendar.Date(year, 4, 20) && year%2 == 0 {
				c = -1
			}
			mild.Record = append(mild.Record, cold.Night{Day: d, MinC: c})
		}
	}
	require.Contains(t, mild.Against(tomato, 10, today)[0].String(), "In 4 of 7 years")
	froze, _ := mild.FrostAfter(calendar.Date(2027, 4, 25))
	require.Zero(t, froze)
	require.Empty(t, mild.Against(kale, 10, today))
}

// More good days outside, a cover, or a milder forecast never make a night worse.
func TestHardinessAndCoverHelp(t *testing.T) {
	all := crop.All()
	rapid.Check(t, func(t *rapid.T) {
		c := rapid.SampledFrom(all).Draw(t, "crop")
		var s cold.Site
		s.Ahead = []cold.Night{{today, rapid.Float64Range(-15, 15).Draw(t, "forecast")}}
		for range rapid.IntRange(0, 8).Draw(t, "compared") {
			s.Compared = append(
				s.Compared,
				climate.Pair{SiteC: rapid.Float64Range(-8, 8).Draw(t, "here"), StationC: rapid.Float64Range(-8, 8).Draw(t, "there")},
			)
		}
		days := rapid.IntRange(0, 20).Draw(t, "days")
		at := func(days int, gain float64) float64 {
			r, known := s.Worst(c, days, gain, today, today+1)
			require.True(t, known)
			return r.ChanceBelowFloor
		}
		require.GreaterOrEqual(t, at(days, 0)+1e-12, at(days+1, 0))
		require.GreaterOrEqual(t, at(days, 0)+1e-12, at(days, cold.Cover))
		_, known := s.Worst(c, days, 0, today+1, today+9)
		require.False(t, known)
	})
}
