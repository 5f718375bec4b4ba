package tank_test

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/tank"
	"ulpa/core/vessel"
)

// Without weather a record stands as it is; in weather that is always the same too; twice as
// much drawn ahead is twice as much drunk, and a place nobody could stand in is not believed.
func TestWeatherBesideARecord(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var s tank.State
		plants, level := 20, 55.0
		for i := range rapid.IntRange(2, 8).Draw(t, "readings") {
			r := read(5.8, 1.5, level)
			r.Plants = &plants
			s.Read(tower, r, morning.AddDate(0, 0, 3*i))
			level -= rapid.Float64Range(1, 5).Draw(t, "drunk")
		}
		from := *s.ReadAt
		to := from.AddDate(0, 0, rapid.IntRange(1, 14).Draw(t, "days"))
		is := func() float64 { return s.UsesBetween(tower, plants, from, to).Demand(1).Mean }
		plain := s.Uses(tower, plants).Demand(1).Mean
		require.InDelta(t, plain, is(), 1e-9)
		draws := rapid.Float64Range(0.2, 5).Draw(t, "draws")
		s.Weather = tank.Weather{From: morning, Daily: []float64{draws}}
		require.InDelta(t, plain, is(), 1e-9)
		ahead := rapid.Float64Range(0.1, 10).Draw(t, "ahead")
		w := tank.Weather{From: morning.AddDate(0, 0, -5)}
		for d := range 80 {
			if w.From.AddDate(0, 0, d).Before(from) {
				w.Daily = append(w.Daily, draws)
			} else {
				w.Daily = append(w.Daily, ahead*draws)
			}
		}
		s.Weather = w
		require.InDelta(t, plain*min(max(ahead, 1.0/3), 3), is(), 1e-6)
		mid := w.From.Add(100 * time.Hour)
		require.InDelta(t, (w.Mean(w.From, mid)*100+w.Mean(mid, to)*to.Sub(mid).Hours())/to.Sub(w.From).Hours(), w.Mean(w.From, to), 1e-9)
	})
}

// Tanks that drink with the light, recorded in a dull fortnight and left alone in a bright
// one: with the weather the chances of running dry are about as often right as they say,
// without it far too many run dry.
func TestABrightFortnightIsForeseen(t *testing.T) {
	rnd := rand.New(rand.NewPCG(7, 11))
	const runs, back, ahead = 1500, 15, 9
	var dryWith, dryWithout int
	for range runs {
		w := tank.Weather{From: morning.AddDate(0, 0, -back)}
		for d := range back + ahead {
			base := 0.8
			if d >= back {
				base = 1.5
			}
			w.Daily = append(w.Daily, base*(0.8+0.4*rnd.Float64()))
		}
		per := 1 + 2*rnd.Float64() // litres a day where one is drawn
		var s tank.State
		plants, level := 20, 58.0
		for d := 0; d <= back; d += 3 {
			r := read(5.8, 1.5, max(1, level))
			r.Plants = &plants
			s.Read(tower, r, w.From.AddDate(0, 0, d))
			for i := d; i < d+3; i++ {
				level -= per * w.Daily[min(i, back-1)] * (1 + 0.15*rnd.NormFloat64())
			}
		}
		until := morning.AddDate(0, 0, ahead)
		drunk := 0.0
		for d := back; d < back+ahead; d++ {
			drunk += per * w.Daily[d] * (1 + 0.15*rnd.NormFloat64())
		}
		need := func() float64 { // so much must be in it to be dry once in ten such times
			dry, err := vessel.RunsDry(vessel.DryInput{
				CapacityL: 500, LevelL: 1, Hours: until.Sub(morning).Hours(), Risk: 0.1, UseFactor: 1, Use: s.UsesBetween(tower, plants, morning, until),
			})
			require.NoError(t, err)
			return dry.LevelNeededL
		}
		if drunk > need() {
			dryWithout++
		}
		s.Weather = w
		if drunk > need() {
			dryWith++
		}
	}
	require.Less(t, float64(dryWith)/runs, 0.1)
	require.Greater(t, float64(dryWithout)/runs, 0.5)
}
