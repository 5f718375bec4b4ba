package cold_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/cold"
	"ulpa/core/crop"
)

// winters are the nights of so many made-up years, coldest in January, or in July in the south.
func winters(years int, south bool) (out []climate.Minimum) {
	r := rand.New(rand.NewPCG(4, 2))
	turn := 20.0
	if south {
		turn += 182
	}
	for d := calendar.Date(2027-years, 1, 1); d < calendar.Date(2027, 1, 1); d++ {
		c := 6.5 - 7.5*math.Cos(2*math.Pi*(float64(d.UTC().YearDay())-turn)/365) + 3*r.NormFloat64()
		out = append(out, climate.Minimum{Day: d, C: c})
	}
	return out
}

// After its day frost comes no more often than was accepted; who accepts more goes out no later,
// hardier plants before tender ones; the south is half a year off.
func TestPlantsGoOutByTheRisk(t *testing.T) {
	tomato, lettuce, kale := find(t, "tomato"), find(t, "lettuce"), find(t, "kale")
	tomato, err := tomato.With("safe_c", "1") // that only frost harms
	require.NoError(t, err)
	for _, south := range []bool{false, true} {
		nights := winters(25, south)
		near := calendar.Date(2027, 4, 15)
		if south {
			near = calendar.Date(2027, 10, 15)
		}
		var before calendar.Day
		for _, risk := range []float64{0.04, 0.1, 0.25, 0.5} {
			f := cold.FrostsOf(nights, cold.Rule{Way: cold.ByRisk, Risk: risk}, south)
			out, ok := f.Safe(tomato, near)
			require.True(t, ok)
			share, ok := f.Still(crop.TenderCrop, out)
			require.True(t, ok)
			require.LessOrEqual(t, share, risk)
			earlier, _ := f.Still(crop.TenderCrop, out-1)
			require.Greater(t, earlier, risk, "and a day before it comes more often")
			require.True(t, before == 0 || out <= before)
			before = out
			half, _ := f.Safe(lettuce, near)
			hardy, _ := f.Safe(kale, near)
			require.LessOrEqual(t, half, out)
			require.LessOrEqual(t, hardy, half)
			in, ok := f.InBy(tomato, near+180)
			require.True(t, ok)
			require.Greater(t, in, out)
			come, ok := f.Come(crop.TenderCrop, in-1)
			require.True(t, ok)
			require.LessOrEqual(t, come, risk, "while it stands outside it has seldom frozen yet")
			later, _ := f.Come(crop.TenderCrop, in+40)
			require.Greater(t, later, risk)
			_, ok = f.InBy(kale, near+180)
			require.False(t, ok, "what is hardy stays")
		}
	}
	none := cold.FrostsOf(nil, cold.Rule{Way: cold.ByRisk, Risk: 0.1}, false)
	_, ok := none.Safe(tomato, calendar.Date(2027, 4, 15))
	require.False(t, ok, "without nights nothing is known")
	chart := cold.Rule{Way: cold.ByChart, LastFrost: "04-28", Leeway: 1}
	out, ok := cold.FrostsOf(nil, chart, false).Safe(tomato, calendar.Date(2027, 4, 15))
	require.True(t, ok)
	require.Equal(t, calendar.Date(2027, 4, 28)+calendar.Day(7*(tomato.OutWeeks-1)), out)
}

// What suffers far above frost goes out when the nights of the date are warm enough for it, and
// comes in before they are not; where they never are it never goes out. By a chart it is no
// other, and what stands more goes out no later.
func TestTheNightsOfTheDateDecide(t *testing.T) {
	basil, cucumber, tomato := find(t, "basil"), find(t, "cucumber"), find(t, "tomato")
	for _, south := range []bool{false, true} {
		nights := winters(25, south)
		near := calendar.Date(2027, 4, 15)
		if south {
			near = calendar.Date(2027, 10, 15)
		}
		for _, way := range []string{cold.ByRisk, cold.ByChart} {
			f := cold.FrostsOf(nights, cold.Rule{Way: way, Risk: 0.1, LastFrost: fmt.Sprintf("%02d-01", near.UTC().Month())}, south)
			before := calendar.Day(0)
			for _, c := range []crop.Crop{tomato, cucumber, basil} {
				out, ok := f.Safe(c, near)
				require.True(t, ok)
				require.GreaterOrEqual(t, out, before, c.ID)
				before = out
				in, ok := f.InBy(c, out+60)
				require.True(t, ok)
				require.Greater(t, in, out, c.ID)
				require.False(t, f.NeverOut(c))
				for _, d := range []calendar.Day{out, in - 14} {
					cool, all := 0, 0
					for _, n := range nights {
						if since := (int(n.Day-d)%365 + 365) % 365; since < 14 {
							if all++; n.C < c.SafeC {
								cool++
							}
						}
					}
					require.LessOrEqual(t, float64(cool), 0.3*float64(all), "%s on %s", c.ID, d)
				}
			}
			require.Greater(t, before, near+30, "basil is not put out in the month of the last frost")
		}
		for i := range nights {
			nights[i].C -= 5
		}
		f := cold.FrostsOf(nights, cold.Rule{Way: cold.ByRisk, Risk: 0.1}, south)
		require.True(t, f.NeverOut(basil))
		out, ok := f.Safe(basil, near)
		require.True(t, ok)
		require.Greater(t, out, near+365)
	}
}
