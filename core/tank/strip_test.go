package tank_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/tank"
)

func aJar() tank.Spec {
	jar := tower
	jar.Passive, jar.CapacityL, jar.FillToL, jar.DryBelowL, jar.HeightCM, jar.PotFootCM = true, 3.8, 3, 0.31, 24.7, 20
	return jar
}

// Whatever is read of a jar and poured into it, what was there, came, went and was drunk
// adds up to what is there; its months follow one another, and its line goes on in time.
func TestAJarsMonthsAddUp(t *testing.T) {
	jar := aJar()
	zone, err := time.LoadLocation("Europe/London")
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		at := morning
		var events []tank.Event
		start := 0.0
		for i := range rapid.IntRange(1, 40).Draw(t, "events") {
			at = at.Add(time.Duration(rapid.IntRange(0, 24*50).Draw(t, "hours")) * time.Hour)
			e := tank.Event{At: at}
			if rapid.Bool().Draw(t, "read") {
				r := read(5.8, 1.4, rapid.Float64Range(0, jar.CapacityL).Draw(t, "level"))
				if e.Reading = &r; rapid.Bool().Draw(t, "no level") {
					r.LevelL = nil
				} else if i == 0 {
					start = *r.LevelL
				}
			} else {
				e.Treat = &tank.Treatment{WaterL: rapid.Float64Range(0.1, 3).Draw(t, "water"), DrainL: rapid.Float64Range(0, 3).Draw(t, "drain")}
			}
			if i > 0 && e.Reading != nil && e.Reading.LevelL != nil && !known(events) {
				start = *e.Reading.LevelL
			}
			events = append(events, e)
		}
		now := at.Add(time.Duration(rapid.IntRange(0, 24*40).Draw(t, "until")) * time.Hour)
		s := tank.StripOf(jar, events, nil, now, zone)
		sum := start
		for i, m := range s.Months {
			sum += m.Poured + m.Unwritten - m.Drained - m.Drunk
			require.GreaterOrEqual(t, m.Drunk, -1e-9)
			require.GreaterOrEqual(t, m.Unwritten, -1e-9)
			require.True(t, i == 0 || m.Begins.Equal(s.Months[i-1].Begins.AddDate(0, 1, 0)))
		}
		for i, m := range s.Marks {
			require.True(t, m.CM >= 0 && m.CM <= s.HeightCM+1e-9)
			require.False(t, i > 0 && m.At.Before(s.Marks[i-1].At))
		}
		if n := len(s.Marks); n > 0 {
			require.True(t, s.Marks[n-1].At.Equal(now))
			require.InDelta(t, s.Marks[n-1].Litre, sum, 1e-6)
		}
	})
}

func known(events []tank.Event) bool {
	for _, e := range events {
		if e.Treat != nil || e.Reading.LevelL != nil {
			return true
		}
	}
	return false
}

// A jar that is poured as it is advised for three months is never over its roots nor dry;
// one that is filled to its pot again is told so, once each time.
func TestAJarThatIsPouredAsAdvised(t *testing.T) {
	jar := aJar()
	rapid.Check(t, func(t *rapid.T) {
		x := tank.Tank{Spec: jar, Plants: 1}
		level, drinks := jar.CapacityL*20/24.7, rapid.Float64Range(0.02, 0.09).Draw(t, "a day")
		spoilt := rapid.Bool().Draw(t, "filled up again")
		filled := 0
		var events []tank.Event
		for day := range 90 {
			at := morning.AddDate(0, 0, day)
			if wd := at.Weekday(); wd == time.Saturday || wd == time.Sunday {
				level -= drinks
				continue
			}
			r := read(5.8, 1.4, level)
			r.Plants = &x.Plants
			events = append(events, tank.Event{At: at, Reading: &r})
			x.State.Read(jar, r, at)
			pour := advise(x, at, 2).Plan
			if spoilt && day%30 == 29 {
				pour, filled = tank.Treatment{WaterL: jar.CapacityL*20/24.7 - level}, filled+1
			}
			if pour.WaterL > 0 {
				events = append(events, tank.Event{At: at, Treat: &pour})
				x.State.Treat(jar, pour, at)
				level += pour.WaterL
			}
			level -= drinks
		}
		over, dry := 0, 0
		for _, m := range tank.StripOf(jar, events, nil, morning.AddDate(0, 0, 90), time.UTC).Months {
			over, dry = over+m.Over, dry+m.Dry
		}
		require.Equal(t, filled, over)
		require.Zero(t, dry)
	})
}
