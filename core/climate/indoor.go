package climate

import (
	"math"

	"ulpa/core/field"
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
	e.Require(x.SolarMJ >= 0 && x.SolarMJ <= 45, at+"solar_mj_m2", "takes 0 to 45 MJ/m² a day")
	e.Require(x.LampMol >= 0 && x.LampMol <= 80, at+"lamp_mol_m2", "takes 0 to 80 mol/m² a day")
	e.Require(x.LeafAreaIndex >= 0 && x.LeafAreaIndex <= 10, at+"leaf_area_index", "takes 0 to 10")
	e.Require(x.VPDKPa >= 0 && x.VPDKPa <= 8, at+"vpd_kpa", "takes 0 to 8 kPa")
	e.Require(x.LightHours >= 0 && x.LightHours <= 24, at+"light_hours", "takes 0 to 24 hours")
	return e.Err()
}

// Use is the water a m² of bench draws in a day, L, by light and by dry air.
func (x Indoors) Use() (byLight, byAir float64) {
	g := x.SolarMJ + x.LampMol/molPerSunMJ
	byLight = lightPart * (1 - math.Exp(-extinction*x.LeafAreaIndex)) * g / latentMJ
	byAir = airPart * x.LeafAreaIndex * x.VPDKPa * x.LightHours * 3600e-6 / latentMJ
	return byLight, byAir
}
