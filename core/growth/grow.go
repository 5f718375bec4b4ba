// Package growth works out leaves and weight of plants from the light and the warmth that
// they get.
//
//	a, err := growth.Grow(growth.Input{EmergenceDays: 3, LightMol: []float64{17}, TemperatureC: []float64{22}, ...})
package growth

import (
	"fmt"
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// Parameters are a crop's: how it makes leaf of light, and what warmth does to it. The
// light that a canopy takes up follows Monsi and Saeki (1953), what it makes of it
// Monteith (1977), the pace of its leaves degree-days.
type Parameters struct {
	UseGMol      float64 // g of dry matter from a mol of light taken up
	Extinction   float64 // of light in the canopy
	LeafM2G      float64 // m² of leaf from a g of dry shoot
	DryShare     float64 // of the fresh shoot
	ShootShare   float64 // of the plant
	StartG       float64 // dry, the whole plant, at emergence
	BaseC        float64 // no growth at or below
	OptimumLowC  float64 // full growth from
	OptimumHighC float64 // to
	CeilingC     float64 // none at or above
	LeafBaseC    float64
	LeafCDays    float64 // °C·days from one leaf to the next
}

// Lettuce is a plant like loose lettuce; another crop needs its own.
var Lettuce = Parameters{
	UseGMol: 1, Extinction: 0.66, LeafM2G: 0.055, DryShare: 0.043, ShootShare: 0.87, StartG: 0.002,
	BaseC: 3, OptimumLowC: 20, OptimumHighC: 26, CeilingC: 36, LeafBaseC: 4, LeafCDays: 68,
}

// Bounds of what is asked.
const (
	LastDay    = 400
	LightError = 0.2 // usual, as a share
)

// Spacing is how densely plants stand from a day on.
type Spacing struct {
	FromDay  int
	PlantsM2 float64
}

// Input is what Grow needs. Light and temperature are by day from sowing; the last goes on.
type Input struct {
	EmergenceDays float64   // from sowing, 0 to 100
	LightMol      []float64 // mol/m² and day, 0 to 200
	TemperatureC  []float64 // −30 to 60
	Spacing       []Spacing
	TargetG       *float64 // fresh shoot of a plant
	OnDay         *int     // 0 to 400
	LightError    float64  // 0 to 0.9
	Parameters
}

// Size is what a plant has come to at the start of a day.
type Size struct {
	FreshG, Leaves, LeafAreaIndex float64
}

// Answer is what Grow gives; a day is nil when it is not reached by day 400, or not asked for.
type Answer struct {
	On               *Size
	LowG, HighG      *float64 // fresh, with less and more light
	Days, Slow, Fast *int     // to the target
	Steps            []working.Step
}

// Grow works out fresh weight and leaves on a day, and the day of a weight. It refuses with
// field.Errors.
func Grow(in Input) (Answer, error) {
	if err := in.check(); err != nil {
		return Answer{}, err
	}
	var a Answer
	a.On, a.Days = in.run(in.UseGMol)
	low, slow := in.run(in.UseGMol * (1 - in.LightError))
	high, fast := in.run(in.UseGMol * (1 + in.LightError))
	a.Slow, a.Fast = slow, fast
	if a.On != nil {
		a.LowG, a.HighG = &low.FreshG, &high.FreshG
	}
	a.Steps = in.steps(a)
	return a, nil
}

func (in Input) check() error {
	var e field.Errors
	e.Require(in.EmergenceDays >= 0 && in.EmergenceDays <= 100, "emergence_days", "must be 0 to 100 days")
	list := func(name string, values []float64, low, high float64, takes say.Words) {
		e.Require(len(values) > 0 && len(values) <= 5000, name, "must be a number, or one for each day")
		for i, v := range values {
			at := name
			if len(values) > 1 {
				at = fmt.Sprintf("%s.%d", name, i)
			}
			e.Require(v >= low && v <= high, at, takes)
		}
	}
	list("light_mol_m2", in.LightMol, 0, 200, "must be 0 to 200 mol/m² a day")
	list("temperature_c", in.TemperatureC, -30, 60, "must be −30 to 60 °C")
	e.Require(len(in.Spacing) > 0 && len(in.Spacing) <= 1000, "spacing", "must be 1 to 1,000 spacings")
	for i, s := range in.Spacing {
		at := fmt.Sprintf("spacing.%d.", i)
		e.Require(i > 0 || s.FromDay == 0, at+"from_day", "must begin with day 0")
		e.Require(i == 0 || s.FromDay > in.Spacing[i-1].FromDay, at+"from_day", "must be later than the one before")
		e.Require(s.PlantsM2 > 0 && s.PlantsM2 <= 1e6, at+"plants_m2", "must be above 0 plants")
	}
	e.Require(in.TargetG != nil || in.OnDay != nil, "target_g", "is missing: give a weight, a day, or both")
	e.Require(in.TargetG == nil || *in.TargetG > 0, "target_g", "must be above 0 grams")
	e.Require(in.OnDay == nil || *in.OnDay >= 0 && *in.OnDay <= LastDay, "on_day", "must be a whole number from 0 to 400")
	e.Require(in.LightError >= 0 && in.LightError <= 0.9, "light_error", "must be a share from 0 to 0.9")
	p := in.Parameters
	for name, v := range map[string]float64{
		"use_g_mol": p.UseGMol, "extinction": p.Extinction, "leaf_m2_g": p.LeafM2G, "start_g": p.StartG, "leaf_c_days": p.LeafCDays,
	} {
		e.Require(v > 0 && v <= 1e6, "parameters."+name, "must be a number above 0")
	}
	e.Require(p.DryShare > 0 && p.DryShare <= 1, "parameters.dry_share", "must be a share above 0, up to 1")
	e.Require(p.ShootShare > 0 && p.ShootShare <= 1, "parameters.shoot_share", "must be a share above 0, up to 1")
	e.Require(p.OptimumLowC > p.BaseC, "parameters.optimum_low_c", "must be above the base")
	e.Require(p.OptimumHighC >= p.OptimumLowC, "parameters.optimum_high_c", "must not be below the lower optimum")
	e.Require(p.CeilingC > p.OptimumHighC, "parameters.ceiling_c", "must be above the upper optimum")
	return e.Err()
}

// at is the value of a day; the last goes on.
func at(values []float64, day int) float64 { return values[min(day, len(values)-1)] }

func (in Input) plants(day int) float64 {
	n := in.Spacing[0].PlantsM2
	for _, s := range in.Spacing {
		if s.FromDay <= day {
			n = s.PlantsM2
		}
	}
	return n
}

// Pace is how fast plants grow at a temperature, as a share of the fastest.
func (p Parameters) Pace(c float64) float64 {
	return max(0, min(1, (c-p.BaseC)/(p.OptimumLowC-p.BaseC), (p.CeilingC-c)/(p.CeilingC-p.OptimumHighC)))
}

// run grows a plant with that use of light: its size on the day that is asked about, and
// the first day on which it weighs enough.
func (in Input) run(use float64) (on *Size, reached *int) {
	first := int(math.Ceil(in.EmergenceDays))
	weight, leaves := in.StartG, 0.0
	if in.OnDay != nil && *in.OnDay < first {
		on = &Size{}
	}
	for day := first; day <= LastDay; day++ {
		n := in.plants(day)
		shoot := in.ShootShare * weight
		area := in.LeafM2G * shoot * n
		fresh := shoot / in.DryShare
		if in.OnDay != nil && day == *in.OnDay {
			on = &Size{fresh, leaves, area}
		}
		if in.TargetG != nil && reached == nil && fresh >= *in.TargetG*(1-1e-12) {
			reached = &day
		}
		c := at(in.TemperatureC, day)
		weight += use * at(in.LightMol, day) * -math.Expm1(-in.Extinction*area) / n * in.Pace(c)
		leaves += max(0, c-in.LeafBaseC) / in.LeafCDays
	}
	return on, reached
}

func (in Input) steps(a Answer) []working.Step {
	first := int(math.Ceil(in.EmergenceDays))
	n := in.plants(first)
	c := at(in.TemperatureC, first)
	area := in.LeafM2G * in.ShootShare * in.StartG * n
	out := []working.Step{
		{
			Name: say.T("Rate at %s", say.Of(c, unit.Celsius)), Formula: say.T("least of 1, (T − %.3g) ÷ %.3g, (%.3g − T) ÷ %.3g",
				in.BaseC, in.OptimumLowC-in.BaseC, in.CeilingC, in.CeilingC-in.OptimumHighC), Value: in.Pace(c), Unit: "share",
		},
		{
			Name: say.T("Light absorbed on the first day"), Formula: say.T("%.3g mol/m² × (1 − e^(−%.3g × %.3g))", at(in.LightMol, first), in.Extinction, area),
			Value: at(in.LightMol, first) * -math.Expm1(-in.Extinction*area), Unit: "mol/m²", Source: say.Words("Monsi and Saeki (1953), Jpn. J. Bot. 14:22"),
		},
	}
	if a.On != nil {
		out = append(out, working.Step{
			Name: say.T("Fresh shoot on day %d", *in.OnDay), Formula: say.T("%.3g of the plant’s dry weight ÷ %.3g", in.ShootShare, in.DryShare),
			Value: a.On.FreshG, Unit: unit.Gram, Source: say.Words("Monteith (1977), Phil. Trans. R. Soc. B 281:277"),
		})
	}
	return out
}
