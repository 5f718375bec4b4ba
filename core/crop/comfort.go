package crop

import (
	"math"

	"ulpa/core/say"
)

// Comfort is the air and the light in which a crop grows well: the deficit of the air, kPa,
// hours of light, and mol/m² of it, a day.
type Comfort struct {
	VPD, Hours Range
	LightMol   float64
}

// What young leaves tolerate, and what older ones do, where nothing was measured: starting values.
const (
	youngShare = 0.6 // of the light, in the nursery
	leastShare = 0.5 // below it they stretch
)

// Comforts is what suits the crop at an age, days from sowing.
func (c Crop) Comforts(age int) Comfort {
	x := Comfort{VPD: Range{0.5, 1.1}, Hours: Range{12, 18}, LightMol: c.LightMol}
	switch {
	case c.Sprout():
		x.VPD, x.Hours = Range{0, 0.6}, Range{0, 16}
	case age < c.NurseryDays:
		x.VPD, x.Hours, x.LightMol = Range{0.2, 0.8}, Range{12, 18}, math.Round(youngShare*c.LightMol)
	case c.Kind == "fruiting":
		x.VPD = Range{0.6, 1.3}
	}
	return x
}

// Light says how light of so many mol/m² a day suits.
func (x Comfort) Light(mol float64) (says say.Words, suits bool) {
	switch {
	case mol < leastShare*x.LightMol:
		return "far too dark: it stretches", false
	case mol < 0.9*x.LightMol:
		return "grows more slowly than it could", true
	}
	return "light enough", true
}

// Air says how a deficit of the air of so many kPa suits.
func (x Comfort) Air(kPa float64) (says say.Words, suits bool) {
	switch {
	case kPa < x.VPD.Low:
		return "too humid for it: mould, and leaves that take up no calcium", false
	case kPa > x.VPD.High:
		return "too dry for it: leaf edges turn brown, it drinks more", false
	}
	return "suits it", true
}
