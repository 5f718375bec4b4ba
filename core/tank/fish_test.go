package tank_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/say"
	"ulpa/core/tank"
)

// Whatever is read of a tank that fish share, nothing but a little water is offered.
func TestATankWithFish(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := func(low, high float64, name string) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		x := settled(tower, f(4, 8.5, "ph"), f(0.2, 5, "strength"), f(8, 58, "level"))
		x.Fish = tank.FishShare
		a := advise(x, morning.Add(time.Hour), rapid.IntRange(0, 12).Draw(t, "closed"))
		require.Zero(t, a.Plan.FedML()+a.Plan.Amount+a.Plan.DrainL)
		require.LessOrEqual(t, a.Plan.WaterL, *x.State.LevelL/3)
		for _, act := range a.Acts {
			require.Contains(t, []string{tank.DoWater, tank.DoCool, tank.DoRead}, act.Do)
		}
	})
}

// Roots that were seen not to hang stand with the bottom of their pot in the water, however far
// the level fell today; what was seen fades as roots grow. Words about jars know no pump.
func TestASightingOutranksTheLevel(t *testing.T) {
	jar := aJar()
	foot := jar.CapacityL * jar.PotFootCM / jar.HeightCM
	rapid.Check(t, func(t *rapid.T) {
		x := tank.Tank{Spec: jar, Plants: 1}
		under, none := rapid.Float64Range(2, 10).Draw(t, "under the foot"), 0.0
		r := read(rapid.Float64Range(3.5, 6.2).Draw(t, "ph"), rapid.Float64Range(0.4, 5).Draw(t, "strength"), foot*(1-under/jar.PotFootCM))
		r.RootsCM, r.Plants = &none, &x.Plants
		x.State.Read(jar, r, morning)
		a := advise(x, morning, 2)
		if !a.Alarm && len(a.Acts) > 0 && a.Acts[0].Do != tank.DoRead {
			require.InDelta(t, jar.PotFootCM, a.Jar.LevelAfterCM, 0.01)
			require.InDelta(t, foot-*r.LevelL, a.Plan.WaterL-a.Plan.DrainL, 0.02)
		}
		if a.Alarm {
			require.LessOrEqual(t, *r.LevelL-a.Plan.DrainL+a.Plan.WaterL, *r.LevelL+1e-6, "a jar is filled no further than it stood")
		}
		for _, act := range a.Acts {
			require.NotEqual(t, tank.DoPump, act.Do)
		}
		require.NotContains(t, say.Join(" ", append(a.Why, a.Cautions...)...).String(), "pump")
		if *r.ECMS > jar.ECHigh*1.3 || *r.ECMS < jar.ECLow*0.7 {
			require.NotEmpty(t, a.Acts, "a strength far out of its range is answered")
		}
	})
	x := tank.Tank{Spec: jar, Plants: 1}
	none := 0.0
	r := read(5.8, 1.4, foot/2)
	r.RootsCM = &none
	x.State.Read(jar, r, morning)
	require.False(t, advise(x, morning, 2).Jar.Hang)
	r.RootsCM = nil
	x.State.Read(jar, r, morning.AddDate(0, 0, 20))
	require.True(t, advise(x, morning.AddDate(0, 0, 20), 2).Jar.Hang, "roots grow")
}

// A jar that nobody can visit is offered the lesser evil with both chances: more water, and a
// smaller one that it runs dry.
func TestTheLesserEvil(t *testing.T) {
	jar := aJar()
	offered := 0
	rapid.Check(t, func(t *rapid.T) {
		x := tank.Tank{Spec: jar, Plants: 1}
		level, drinks := rapid.Float64Range(0.5, 2).Draw(t, "level"), rapid.Float64Range(0.05, 0.3).Draw(t, "a day")
		x.State.Read(jar, read(5.8, 1.4, min(jar.CapacityL, level+3*drinks)), morning.AddDate(0, 0, -3))
		x.State.Read(jar, read(5.8, 1.4, level), morning)
		a := advise(x, morning, rapid.IntRange(5, 20).Draw(t, "closed"))
		if a.Evil == nil {
			return
		}
		offered++
		require.NotNil(t, a.Visit)
		require.Greater(t, a.Evil.PourL, a.Plan.WaterL)
		require.Less(t, a.Evil.DryPoured, a.Evil.DryAsAdvised)
		require.LessOrEqual(t, a.Evil.LevelCM, jar.PotFootCM+1e-6)
		require.True(t, a.Evil.UnderWater > 0 && a.Evil.UnderWater <= 1)
	})
	require.Greater(t, offered, 0)
}
