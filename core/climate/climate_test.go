package climate_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/climate"
)

// FAO-56, annex 2, table 2.3: saturation vapour pressure.
func TestSaturationAgainstThePublishedTable(t *testing.T) {
	for c, kpa := range map[float64]float64{1: 0.657, 5: 0.872, 10: 1.228, 15: 1.705, 20: 2.338, 25: 3.168, 30: 4.243, 35: 5.624} {
		require.InDelta(t, kpa, climate.Saturation(c), 0.0015, "%v °C", c)
	}
}

func TestAirAtItsEdges(t *testing.T) {
	wet, err := climate.OfAir(20, 100, 0)
	require.NoError(t, err)
	require.InDelta(t, 0, wet.VPDKPa, 1e-12)
	require.InDelta(t, 20, *wet.DewPointC, 1e-9, "in saturated air the dew point is the temperature")
	dry, err := climate.OfAir(20, 0, 0)
	require.NoError(t, err)
	require.Nil(t, dry.DewPointC)
	cool, err := climate.OfAir(20, 95, -4)
	require.NoError(t, err)
	require.Negative(t, cool.LeafVPDKPa, "water condenses on a cold leaf")
	_, err = climate.OfAir(200, 101, 50)
	for _, f := range []string{"temperature_c", "humidity_percent", "leaf_minus_air_c"} {
		require.ErrorContains(t, err, f)
	}
}

// FAO-56, examples 8 and 9: 20° S on 3 September; and the poles.
func TestDaylightAgainstPublishedExamples(t *testing.T) {
	l, err := climate.OfDay(climate.LightInput{LatitudeDeg: -20, Day: calendar.Date(2027, 9, 3), CoverTransmission: 1})
	require.NoError(t, err)
	require.InDelta(t, 32.2, l.ExtraterrestrialMJ, 0.1)
	require.InDelta(t, 11.7, l.DayLengthH, 0.05)
	for day, hours := range map[calendar.Day]float64{calendar.Date(2027, 6, 21): 24, calendar.Date(2027, 12, 21): 0} {
		l, err := climate.OfDay(climate.LightInput{LatitudeDeg: 80, Day: day, CoverTransmission: 1})
		require.NoError(t, err)
		require.InDelta(t, hours, l.DayLengthH, 1e-9)
	}
}

func TestNorthAndSouthMirror(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lat := rapid.Float64Range(-90, 90).Draw(t, "lat")
		day := calendar.Date(2027, 1, 1) + calendar.Day(rapid.IntRange(0, 364).Draw(t, "day"))
		cover := rapid.Float64Range(0, 1).Draw(t, "cover")
		ask := func(lat float64) climate.Light {
			l, err := climate.OfDay(climate.LightInput{LatitudeDeg: lat, Day: day, CoverTransmission: cover, LampUmolM2S: 100, LampHours: 10})
			require.NoError(t, err)
			return l
		}
		a, b := ask(lat), ask(-lat)
		require.InDelta(t, 24, a.DayLengthH+b.DayLengthH, 1e-6, "one's day is the other's night")
		require.GreaterOrEqual(t, a.ExtraterrestrialMJ, 0.0)
		require.InDelta(t, 3.6, a.DLI-a.SunDLI, 1e-9)
	})
}

// station makes whole years of mild nights with frost on some days.
func station(years []int, frosts ...string) []climate.Minimum {
	cold := map[string]bool{}
	for _, f := range frosts {
		cold[f] = true
	}
	var out []climate.Minimum
	for _, y := range years {
		for d := calendar.Date(y, 1, 1); d < calendar.Date(y+1, 1, 1); d++ {
			c := 6.0
			if cold[d.String()] {
				c = -0.5
			}
			out = append(out, climate.Minimum{Day: d, C: c})
		}
	}
	return out
}

func TestFrost(t *testing.T) {
	years := []int{2020, 2021, 2022, 2023}
	m := station(years, "2020-02-29", "2021-04-10", "2022-04-20", "2022-03-01", "2020-10-20", "2021-11-02", "2023-12-31")
	f, err := climate.OfFrost(climate.FrostInput{Minima: m, Risks: []float64{0, 0.25, 0.5, 1}})
	require.NoError(t, err)
	dates := func(h climate.Half) (out []string) {
		for _, r := range h.ByRisk {
			out = append(out, r.Date)
		}
		return out
	}
	require.Equal(t, 4, f.Spring.Years)
	require.Equal(t, []string{"04-21", "04-11", "03-02", "01-01"}, dates(f.Spring), "29 February counts as 1 March; 2023 had no spring frost")
	require.Equal(t, []string{"10-19", "11-01", "12-30", "12-31"}, dates(f.Autumn))
	require.Equal(t, "2022-04-20", f.EachYear[2].LastSpring.String())
	require.Nil(t, f.EachYear[2].FirstAutumn)
	require.True(t, f.EachYear[2].AutumnCounted)
}

func TestAHalfYearCountsWithNineDaysInTen(t *testing.T) {
	all := station([]int{2021})
	spring := all[:181]
	for _, c := range []struct {
		days    int
		counted bool
	}{{163, true}, {162, false}} { // 90 % of 181 is 162.9
		f, err := climate.OfFrost(climate.FrostInput{Minima: spring[:c.days], Risks: []float64{0.5}})
		require.NoError(t, err)
		require.Equal(t, c.counted, f.EachYear[0].SpringCounted, "%d days", c.days)
		require.False(t, f.EachYear[0].AutumnCounted)
	}
}

// With more risk taken the spring date never comes later, nor the autumn date earlier.
func TestMoreRiskNeverCostsDays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var frosts []string
		years := []int{2020, 2021, 2022}
		for _, y := range years {
			for range rapid.IntRange(0, 3).Draw(t, "n") {
				frosts = append(frosts, (calendar.Date(y, 1, 1) + calendar.Day(rapid.IntRange(0, 364).Draw(t, "day"))).String())
			}
		}
		f, err := climate.OfFrost(
			climate.FrostInput{Minima: station(years, frosts...), South: rapid.Bool().Draw(t, "south"), Risks: []float64{0, 0.2, 0.4, 0.7, 1}},
		)
		require.NoError(t, err)
		for i := 1; i < 5; i++ {
			if f.Spring.ByRisk[i-1].Date != "" {
				require.LessOrEqual(t, f.Spring.ByRisk[i].Date, f.Spring.ByRisk[i-1].Date)
			}
			if f.Autumn.ByRisk[i-1].Date != "" {
				require.GreaterOrEqual(t, f.Autumn.ByRisk[i].Date, f.Autumn.ByRisk[i-1].Date)
			}
		}
	})
}

// Nine nights in ten lie where it says, whatever the place is to its station, and the
// more nights were compared the narrower it is said.
func TestNightsLieWhereTheyAreForetold(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 9))
	const tries = 20_000
	held, narrow := 0, [2]float64{}
	for i := range tries {
		place := climate.PriorMeanC + climate.PriorSDC*r.NormFloat64()
		night := func() (here, station float64) {
			station = -5 + 12*r.Float64()
			return station + place + climate.NightSDC*r.NormFloat64(), station
		}
		in := climate.NightInput{PriorMeanC: climate.PriorMeanC, PriorSDC: climate.PriorSDC, NightSDC: climate.NightSDC, BringInAbove: climate.BringInAbove}
		for range 12 * (i % 2) {
			here, station := night()
			in.Nights = append(in.Nights, climate.Pair{SiteC: here, StationC: station})
		}
		here, station := night()
		in.ForecastC = station
		x, err := climate.SiteNight(in)
		require.NoError(t, err)
		if here >= x.LowC && here <= x.HighC {
			held++
		}
		narrow[i%2] += x.SpreadC
	}
	require.InDelta(t, 0.9, float64(held)/tries, 0.02)
	require.Less(t, narrow[1], 0.8*narrow[0])
}

func TestHardeningLowersWhatIsBorne(t *testing.T) {
	before := climate.Floor(5, -3, 0)
	require.Equal(t, 5.0, before)
	for days := 1.0; days < 60; days++ {
		now := climate.Floor(5, -3, days)
		require.True(t, now < before && now > -3)
		before = now
	}
	require.InDelta(t, -3, before, 0.01)
}
