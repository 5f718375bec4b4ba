package climate

import (
	"fmt"
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// Indoors is what draws water from leaves under a cover: light at the plants, the
// dryness of the air, and how much leaf there is.
type Indoors struct {
	SolarMJ, LampMol float64 // a m² and day, at the plants
	LeafAreaIndex    float64
	VPDKPa           float64
	LightHours       float64
}

// The parts of use by light and by dry air, and the share of light that a canopy
// takes: starting values (Baille, Baille and Laury 1994, Sci. Hort. 59:309).
const (
	lightPart   = 0.4
	extinction  = 0.7
	airPart     = 15.0 // W/m² and kPa
	latentMJ    = 2.45 // MJ/kg
	molPerSunMJ = 4.57
)

// Check refuses what is out of range, by field under a path.
func (x Indoors) Check(at string) error {
	var e field.Errors
	e.Require(x.SolarMJ >= 0 && x.SolarMJ <= 45, at+"solar_mj_m2", "must be 0 to 45 MJ/m² a day")
	e.Require(x.LampMol >= 0 && x.LampMol <= 80, at+"lamp_mol_m2", "must be 0 to 80 mol/m² a day")
	e.Require(x.LeafAreaIndex >= 0 && x.LeafAreaIndex <= 10, at+"leaf_area_index", "must be 0 to 10")
	e.Require(x.VPDKPa >= 0 && x.VPDKPa <= 8, at+"vpd_kpa", "must be 0 to 8 kPa")
	e.Require(x.LightHours >= 0 && x.LightHours <= 24, at+"light_hours", "must be 0 to 24 hours")
	return e.Err()
}

// Use is the water a m² of bench draws in a day, L, by light and by dry air.
func (x Indoors) Use() (byLight, byAir float64) {
	g := x.SolarMJ + x.LampMol/molPerSunMJ
	byLight = lightPart * (1 - math.Exp(-extinction*x.LeafAreaIndex)) * g / latentMJ
	byAir = airPart * x.LeafAreaIndex * x.VPDKPa * x.LightHours * 3600e-6 / latentMJ
	return byLight, byAir
}

// What a place of which nothing else is known is taken for: starting values.
const (
	usualHumidity   = 60.0 // %
	usualLightHours = 12.0
	molPerMJ        = 2.06 // of the sun's light, between 400 and 700 nm
)

// Draws is the water that a m² with so much leaf draws in a day, L, from light of so many
// mol/m² and air so warm, so humid (%; nil: as is usual).
func Draws(mol, tempC float64, humidity *float64, leaf float64) float64 {
	humid := usualHumidity
	if humidity != nil {
		humid = min(max(*humidity, 0), 100)
	}
	x := Indoors{SolarMJ: mol / molPerMJ, LeafAreaIndex: leaf, VPDKPa: (1 - humid/100) * Saturation(tempC), LightHours: usualLightHours}
	light, air := x.Use()
	return light + air
}

// Recorded is what a bench really drank beside what was computed for it.
type Recorded struct{ MeasuredL, ComputedL, ErrorShare float64 }

// UsualErrorShare is how far a measured use usually lies off, as a share.
const UsualErrorShare = 0.15

// DrinkInput is what Drink needs: the leaves, how many, what was recorded, and what they
// drink from.
type DrinkInput struct {
	Indoors
	AreaM2 float64
	Plants *float64 // whose areas AreaM2 is; nil: it is an area
	Factor float64  // where nothing was recorded
	Record []Recorded
	StoreL *float64 // nil: none is told
}

// Drunk is what they draw in a day, and how long a store lasts.
type Drunk struct {
	ByLightLM2, ByAirLM2 float64 // before the factor
	UseLM2, UseL         float64
	PerPlantML           *float64
	Factor, FactorSD     float64
	StoreL               *float64
	DryDays              *float64 // nil without a store, or without use
	DryDaysCautious      *float64 // four times in five it lasts longer
	Steps                []working.Step
}

const (
	factorDoubt = 4.0    // 1/0.5²: the factor is thought to be 1 ± 0.5 at first
	cautious    = 0.8416 // normal quantile of 0.8
)

// Drink answers what a bench or a tower drinks. It refuses with field.Errors.
func Drink(in DrinkInput) (Drunk, error) {
	var e field.Errors
	e.Join(in.Check(""))
	e.Require(in.AreaM2 > 0 && in.AreaM2 <= 1e9, "area_m2", "must be above 0 m²")
	e.Require(in.Factor > 0 && in.Factor <= 20, "factor", "must be a number above 0, up to 20")
	e.Require(in.StoreL == nil || *in.StoreL >= 0 && *in.StoreL <= 1e9, "store_l", "must be 0 litres or more")
	for i, r := range in.Record {
		at := fmt.Sprintf("record.%d.", i)
		e.Require(r.MeasuredL > 0 && r.MeasuredL <= 1e9, at+"measured_l", "must be above 0 litres")
		e.Require(r.ComputedL > 0 && r.ComputedL <= 1e9, at+"computed_l", "must be above 0 litres")
		e.Require(r.ErrorShare >= 0.01 && r.ErrorShare <= 2, at+"error_share", "must be a share from 0.01 to 2")
	}
	if err := e.Err(); err != nil {
		return Drunk{}, err
	}
	x := Drunk{Factor: in.Factor, StoreL: in.StoreL}
	x.ByLightLM2, x.ByAirLM2 = in.Use()
	if in.Record != nil {
		sum, weight := factorDoubt, factorDoubt
		for _, r := range in.Record {
			f := r.MeasuredL / r.ComputedL
			w := 1 / (r.ErrorShare * f * r.ErrorShare * f)
			sum, weight = sum+w*f, weight+w
		}
		x.Factor, x.FactorSD = sum/weight, 1/math.Sqrt(weight)
	}
	plain := x.ByLightLM2 + x.ByAirLM2
	x.UseLM2 = x.Factor * plain
	x.UseL = x.UseLM2 * in.AreaM2
	if in.Plants != nil {
		ml := 1000 * x.UseL / *in.Plants
		x.PerPlantML = &ml
	}
	if in.StoreL != nil && x.UseL > 0 {
		days, careful := *in.StoreL/x.UseL, *in.StoreL/((x.Factor+cautious*x.FactorSD)*plain*in.AreaM2)
		x.DryDays, x.DryDaysCautious = &days, &careful
	}
	const source say.Words = "Baille, Baille and Laury (1994), Sci. Hort. 59:309"
	x.Steps = []working.Step{
		{Name: say.T("Because of light"), Formula: say.T("0.4 × share that leaves take × light ÷ 2.45"), Value: x.ByLightLM2, Unit: "L/m²", Source: source},
		{Name: say.T("Because of dry air"), Formula: say.T("15 × leaf area × deficit × %.3g h", in.LightHours), Value: x.ByAirLM2, Unit: "L/m²", Source: source},
		{Name: say.T("In a day"), Formula: say.T("× %.4g × %.4g m²", x.Factor, in.AreaM2), Value: x.UseL, Unit: unit.Litre},
	}
	return x, nil
}
