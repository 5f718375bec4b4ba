package tank_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/tank"
)

// A water that is made up: what its plants drink and eat a day, and how its pH creeps.
type course struct {
	drinks, eats, creep float64
	litres, ec, ph      float64
}

func (c *course) run(days float64) {
	drunk := c.drinks * days
	salts := c.ec*c.litres - c.eats*c.ec*drunk
	c.litres -= drunk
	c.ec, c.ph = salts/c.litres, c.ph+c.creep*days
}

// From reading to reading a tank's own course is learned: what was forecast holds nine of
// ten findings, and the share of salts that plants take and the creep of the pH come out.
func TestTheCourseOfATankIsLearned(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := course{
			drinks: rapid.Float64Range(0.5, 3).Draw(t, "drinks"), eats: rapid.Float64Range(0.2, 1.2).Draw(t, "eats"),
			creep: rapid.Float64Range(-0.03, 0.1).Draw(t, "creep"), litres: 58, ec: 1.5, ph: 5.6,
		}
		plants := 20
		var s tank.State
		look := func(at time.Time) {
			ph, ec, level := c.ph, c.ec, c.litres
			s.Read(tower, tank.Reading{PH: &ph, ECMS: &ec, LevelL: &level, Plants: &plants}, at)
		}
		at := morning
		look(at)
		inside, all := 0, 0
		for i := range 12 {
			days := float64(rapid.IntRange(2, 4).Draw(t, "days"))
			at = at.Add(time.Duration(days*24) * time.Hour)
			c.run(days)
			look(at)
			x := s.Course.Stretches[len(s.Course.Stretches)-1]
			for _, f := range []*tank.Found{x.Level, x.PH, x.EC} {
				if all++; f != nil && math.Abs(f.Off()) < 2.6 {
					inside++
				}
			}
			if i%3 == 2 { // topped up, and stock with it
				w := 58 - c.litres
				c.ec = (c.ec*c.litres + tower.WaterEC*w) / 58
				c.litres = 58
				s.Treat(tower, tank.Treatment{WaterL: w}, at)
				at = at.Add(time.Hour)
				look(at)
			}
		}
		require.Greater(t, float64(inside)/float64(all), 0.75, "first guesses may miss, not the learned ones")
		eats, sd := s.Eats()
		require.InDelta(t, c.eats, eats, 0.1+2.5*sd)
		require.Less(t, sd, 0.4, "readings make surer")
		creep, sd := s.Creep()
		require.InDelta(t, c.creep, creep, 0.01+2.5*sd)
	})
}

// Two readings within hours teach nothing: what changed is the error of the readings.
func TestAShortStretchTeachesNothing(t *testing.T) {
	x := settled(tower, 5.8, 1.5, 57)
	before, sd0 := x.State.Creep()
	x.State.Read(tower, read(6.1, 1.4, 56), morning.Add(2*time.Hour))
	after, sd := x.State.Creep()
	require.Equal(t, []float64{before, sd0}, []float64{after, sd})
	require.Empty(t, x.State.Course.Stretches)
}

// What was added, drained and drunk, and what is there, add up: water and salts of
// every treatment, and the salts that nobody takes.
func TestABookOfATankAddsUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := settled(tower, 5.8, rapid.Float64Range(0.5, 3).Draw(t, "ec"), rapid.Float64Range(20, 58).Draw(t, "level"))
		s := &x.State
		in, out := 0.0, 0.0
		first, tap := *s.LevelL, s.Piled.TapL
		require.InDelta(t, 1, s.Piled.Times(first), 1e-9, "freshly made")
		for range rapid.IntRange(1, 8).Draw(t, "acts") {
			level, salts := *s.LevelL, *s.ECMS**s.LevelL
			d := tank.Treatment{DrainL: rapid.Float64Range(0, 0.7).Draw(t, "drain") * level}
			d.WaterL = rapid.Float64Range(0, 1).Draw(t, "water") * (tower.CapacityL - level + d.DrainL)
			d.StockML = rapid.Float64Range(0, 200).Draw(t, "stock")
			s.Treat(tower, d, morning)
			in, out = in+d.WaterL, out+d.DrainL
			require.InDelta(t, first+in-out, *s.LevelL, 1e-6, "water")
			want := salts*(1-d.DrainL/level) + d.WaterL*tower.WaterEC + d.StockML*tower.Rise()
			require.InDelta(t, want, *s.ECMS**s.LevelL, 1e-6*(1+want), "salts")
			tap = tap*(1-d.DrainL/level) + d.WaterL
			require.InDelta(t, tap, s.Piled.TapL, 1e-6, "what nobody takes")
		}
		// Drinking leaves all of it behind.
		level := *s.LevelL / 2
		before := s.Piled.Times(*s.LevelL)
		s.Read(tower, tank.Reading{LevelL: &level}, morning.AddDate(0, 0, 5))
		require.InDelta(t, 2*before, s.Piled.Times(level), 1e-6)
		// A whole change begins anew.
		s.Treat(tower, tank.Treatment{DrainL: level, WaterL: 50}, morning.AddDate(0, 0, 5))
		require.InDelta(t, 1, s.Piled.Times(50), 1e-6)
		require.Zero(t, s.Piled.PouredL)
		require.NotNil(t, s.Piled.ChangedAt)
	})
}

// A jar that was poured to its line is full: one pour does not allow the next.
func TestAJarIsPouredOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		spec := tower
		spec.Passive, spec.CapacityL, spec.FillToL, spec.DryBelowL, spec.HeightCM, spec.PotFootCM = true, 2.5, 2.2, 0.3, 25, 20
		x := settled(spec, 5.8, 1.2, rapid.Float64Range(0.4, 1).Draw(t, "level"))
		one := 1
		x.Plants, x.State.Plants = one, &one
		now, poured := morning, 0
		for range 4 {
			a := advise(x, now, 3)
			if a.Plan.WaterL > 0.01 {
				poured++
				x.State.Treat(spec, tank.Treatment{WaterL: a.Plan.WaterL}, now)
			}
			now = now.Add(time.Hour)
		}
		require.LessOrEqual(t, poured, 1)
	})
}

// Roots get used to what was poured within a day: until then no more than a finger above what they
// knew is poured on top, after it the usual bound holds again.
func TestRootsGetUsedToAPour(t *testing.T) {
	spec := tower
	spec.Passive, spec.CapacityL, spec.FillToL, spec.DryBelowL, spec.HeightCM, spec.PotFootCM = true, 2.5, 2.2, 0.3, 25, 20
	allowed := func(hours float64) float64 {
		x := settled(spec, 5.8, 1.2, 0.4)
		one, before := 1, 0.4
		x.Plants, x.State.Plants = one, &one
		x.State.Read(spec, tank.Reading{LevelL: &before, Plants: &one}, morning)
		x.State.Treat(spec, tank.Treatment{WaterL: 0.7}, morning)
		return advise(x, morning.Add(time.Duration(hours*float64(time.Hour))), 4).Jar.AllowedL
	}
	require.InDelta(t, allowed(1), allowed(23.9), 0.1)
	require.Greater(t, allowed(24.1), allowed(23.9)+0.05)
}

// A tank that runs as was forecast of it need not be read; one whose pH creeps to the edge of its
// range, or which surprised somebody, is.
func TestASteadyTank(t *testing.T) {
	for name, c := range map[string]struct {
		creep, jump float64
		steady      bool
	}{"steady": {0, 0, true}, "creeping": {0.04, 0, false}, "surprising": {0, 0.6, false}} {
		x := course{drinks: 0.5, eats: 0.9, creep: c.creep, litres: 58, ec: 1.5, ph: 5.8}
		var s tank.State
		at := morning
		for i := range 6 {
			ph, ec, level, plants := x.ph, x.ec, x.litres, 8
			if i == 4 {
				ph += c.jump
			}
			s.Read(tower, tank.Reading{PH: &ph, ECMS: &ec, LevelL: &level, Plants: &plants}, at)
			require.False(t, i < 4 && tank.Tank{Spec: tower, State: s, Plants: 8}.Steady(at.AddDate(0, 0, 1)), "%s: little is known yet", name)
			if i < 5 {
				at = at.AddDate(0, 0, 3)
				x.run(3)
			}
		}
		is := tank.Tank{Spec: tower, State: s, Plants: 8}
		require.Equal(t, c.steady, is.Steady(at.AddDate(0, 0, 4)), name)
		is.Fish = tank.FishShare
		require.False(t, is.Steady(at.AddDate(0, 0, 4)), "where fish swim, somebody looks")
	}
}
