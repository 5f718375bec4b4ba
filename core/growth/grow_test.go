package growth_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/field"
	"ulpa/core/growth"
)

func lettuce(light, warmth float64) growth.Input {
	return growth.Input{
		EmergenceDays: 3, LightMol: []float64{light}, TemperatureC: []float64{warmth}, LightError: growth.LightError, Parameters: growth.Lettuce,
		Spacing: []growth.Spacing{{FromDay: 0, PlantsM2: 500}, {FromDay: 11, PlantsM2: 97}, {FromDay: 21, PlantsM2: 38}}, TargetG: new(100.0), OnDay: new(35),
	}
}

// The one published figure: 17 mol a day make a head of about 150 g in 35 days.
func TestAHeadOfLettuce(t *testing.T) {
	a, err := growth.Grow(lettuce(17, 22))
	require.NoError(t, err)
	require.InDelta(t, 150, a.On.FreshG, 25)
}

// More light never makes less, nor does a day more; warmth off the optimum never makes more;
// what it weighs on the day that it is said to be ready is enough, and the day before it is not.
func TestGrowthIsSound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		light, warmth := rapid.Float64Range(3, 40).Draw(t, "light"), rapid.Float64Range(6, 34).Draw(t, "warmth")
		in := lettuce(light, warmth)
		grown := func(in growth.Input) growth.Answer {
			a, err := growth.Grow(in)
			require.NoError(t, err)
			return a
		}
		a := grown(in)
		require.LessOrEqual(t, *a.LowG, a.On.FreshG)
		require.GreaterOrEqual(t, *a.HighG, a.On.FreshG)
		require.GreaterOrEqual(t, grown(lettuce(light*1.2, warmth)).On.FreshG, a.On.FreshG)
		require.LessOrEqual(t, a.On.FreshG, grown(lettuce(light, 22)).On.FreshG+1e-12)
		if a.Days != nil {
			require.LessOrEqual(t, *a.Fast, *a.Days)
			in.OnDay = a.Days
			require.GreaterOrEqual(t, grown(in).On.FreshG, *in.TargetG*(1-1e-9))
			in.OnDay = new(*a.Days - 1)
			require.Less(t, grown(in).On.FreshG, *in.TargetG)
		}
		in.OnDay = new(2)
		require.Equal(t, growth.Size{}, *grown(in).On, "it is not up yet")
	})
}

func TestGrowthRefuses(t *testing.T) {
	for name, change := range map[string]func(*growth.Input){
		"spacing.0.from_day": func(in *growth.Input) { in.Spacing[0].FromDay = 1 }, "spacing.1.from_day": func(in *growth.Input) { in.Spacing[1].FromDay = 0 },
		"target_g": func(in *growth.Input) { in.TargetG, in.OnDay = nil, nil }, "on_day": func(in *growth.Input) { in.OnDay = new(401) },
		"light_mol_m2.1":           func(in *growth.Input) { in.LightMol = []float64{17, -1} },
		"parameters.optimum_low_c": func(in *growth.Input) { in.OptimumLowC = in.BaseC }, "parameters.start_g": func(in *growth.Input) { in.StartG = 0 },
	} {
		in := lettuce(17, 22)
		change(&in)
		_, err := growth.Grow(in)
		var refused field.Errors
		require.ErrorAs(t, err, &refused, name)
		require.Equal(t, name, refused[0].Field)
	}
}
