// Package irrigation says when a bed wants water and how much, and whether a drip line is sound.
//
//	w, err := irrigation.OfBed(irrigation.BedInput{AreaM2: 2, CanL: 5, Soil: irrigation.Soils["loam"], ...})
//	d, err := irrigation.OfEmitters(irrigation.Caught{ML: caught, Minutes: 10})
package irrigation

import (
	"fmt"
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

const fao56 say.Words = "Allen et al. (1998), FAO Irrigation and Drainage Paper 56"

// Soil is how much water a soil holds against draining away, and how much of it roots cannot take:
// shares by volume.
type Soil struct{ FieldCapacity, WiltingPoint float64 }

// Soils are by texture the middles of FAO-56, table 19.
var Soils = map[string]Soil{
	"sand": {0.12, 0.045}, "loamy_sand": {0.15, 0.065}, "sandy_loam": {0.23, 0.11}, "loam": {0.25, 0.12}, "silt_loam": {0.29, 0.15},
	"silt": {0.32, 0.17}, "silty_clay_loam": {0.335, 0.205}, "silty_clay": {0.36, 0.23}, "clay": {0.36, 0.22},
}

// Stages are how the coefficient of a crop changes over its four stages.
type Stages struct {
	Start, Mid, End float64
	Days            [4]float64
	DayNow          float64
}

// at is the coefficient on a day since planting.
func (s Stages) at(x float64) float64 {
	for i, length := range s.Days {
		if x < length {
			return [4]float64{s.Start, s.Start + (s.Mid-s.Start)*x/length, s.Mid, s.Mid + (s.End-s.Mid)*x/length}[i]
		}
		x -= length
	}
	return s.End
}

// Weather is what a day draws from short grass, and its rain.
type Weather struct{ ET0MM, RainMM float64 }

// Usual figures.
const (
	UsualCanL      = 5.0
	UsualGrowth    = 0.01 // m a day that roots reach deeper
	UsualDepletion = 0.5  // FAO-56, table 22
	mostDays       = 60
)

// BedInput is a bed with its crop, how dry it is, and the weather of the coming days, the first of
// which is today.
type BedInput struct {
	AreaM2, CanL                        float64
	Soil                                Soil
	RootNowM, RootFullM, RootGrowthM    float64
	Kc                                  float64 // 0: by Stages
	Stages                              *Stages
	DepletionP, DepletionMM, Efficiency float64
	Days                                []Weather
}

// BedDay is a day of a bed. Depletion is in the evening, before it is watered.
type BedDay struct {
	Kc, ETcMM, Ks, RootM, TAWMM, P, RAWMM float64
	DepletionMM, WaterMM, Litres          float64
	Cans, Times                           int
}

// Bed is when a bed wants water, and how much.
type Bed struct {
	Days           []BedDay
	First          *int     // the first day on which it is watered; nil: on none
	DaysLeft       *float64 // until then at today's rate; nil where nothing draws
	TotalL, RainMM float64
	TotalCans      int
	AfterMM        float64 // depletion after the last evening
	Steps          []working.Step
}

func (in BedInput) check() error {
	var e field.Errors
	e.Require(in.AreaM2 > 0 && in.AreaM2 <= 1e6, "area_m2", "must be above 0 m²")
	e.Require(in.CanL > 0 && in.CanL <= 1e5, "can_l", "must be above 0 litres")
	e.Require(in.Soil.FieldCapacity > 0 && in.Soil.FieldCapacity <= 1, "soil.field_capacity", "must be a share above 0, up to 1")
	e.Require(in.Soil.WiltingPoint >= 0 && in.Soil.WiltingPoint < in.Soil.FieldCapacity, "soil.wilting_point", "must be 0 or more, below the field capacity")
	e.Require(in.RootNowM >= 0.02 && in.RootNowM <= 3, "root_now_m", "must be 0.02 to 3 m")
	e.Require(in.RootFullM >= in.RootNowM && in.RootFullM <= 3, "root_full_m", "must be up to 3 m, and not below the depth now")
	e.Require(in.RootGrowthM >= 0 && in.RootGrowthM <= 0.1, "root_growth_m_day", "must be 0 to 0.1 m a day")
	if s := in.Stages; s != nil {
		for name, kc := range map[string]float64{"kc_start": s.Start, "kc_mid": s.Mid, "kc_end": s.End} {
			e.Require(kc > 0 && kc <= 2, "stages."+name, "must be above 0, up to 2")
		}
		for i, d := range s.Days {
			e.Require(d >= 0 && d <= 1000, fmt.Sprintf("stages.days.%d", i), "must be 0 to 1,000 days")
		}
		e.Require(s.DayNow >= 0 && s.DayNow <= 4000, "stages.day_now", "must be 0 or more days")
	} else {
		e.Require(in.Kc > 0 && in.Kc <= 2, "kc", "must be above 0, up to 2")
	}
	e.Require(in.DepletionP >= 0.1 && in.DepletionP <= 0.8, "depletion_p", "must be a share from 0.1 to 0.8")
	e.Require(in.Efficiency >= 0.2 && in.Efficiency <= 1, "efficiency", "must be a share from 0.2 to 1")
	e.Require(len(in.Days) >= 1 && len(in.Days) <= mostDays, "days", "must be 1 to 60 days")
	for i, d := range in.Days {
		e.Require(d.ET0MM >= 0 && d.ET0MM <= 100, fmt.Sprintf("days.%d.et0_mm", i), "must be 0 to 100 mm")
		e.Require(d.RainMM >= 0 && d.RainMM <= 2000, fmt.Sprintf("days.%d.rain_mm", i), "must be 0 to 2,000 mm")
	}
	e.Require(in.DepletionMM >= 0, "depletion_mm", "must be 0 or more")
	if err := e.Err(); err != nil {
		return err
	}
	taw := in.holds(0)
	e.Require(in.DepletionMM <= taw, "depletion_mm", "must be at most %.4g mm: the roots reach no more water", taw)
	return e.Err()
}

func (in BedInput) root(day int) float64 {
	return math.Min(in.RootFullM, in.RootNowM+float64(day)*in.RootGrowthM)
}

// holds is the water that roots can reach on a day when the soil is wet, mm (TAW).
func (in BedInput) holds(day int) float64 {
	return 1000 * (in.Soil.FieldCapacity - in.Soil.WiltingPoint) * in.root(day)
}

const nearly = 1e-9

// OfBed keeps the balance of a bed's water day by day (FAO-56, chapters 6 to 8): it is watered on the
// evening on which it is drier than its crop can stand. It refuses with field.Errors.
func OfBed(in BedInput) (Bed, error) {
	if err := in.check(); err != nil {
		return Bed{}, err
	}
	var out Bed
	dry := in.DepletionMM
	for i, w := range in.Days {
		d := BedDay{Kc: in.Kc, Ks: 1, RootM: in.root(i), TAWMM: in.holds(i)}
		if in.Stages != nil {
			d.Kc = in.Stages.at(in.Stages.DayNow + float64(i))
		}
		d.ETcMM = d.Kc * w.ET0MM
		d.P = math.Min(0.8, math.Max(0.1, in.DepletionP+0.04*(5-d.ETcMM)))
		d.RAWMM = d.P * d.TAWMM
		if dry > d.RAWMM {
			d.Ks = math.Max(0, (d.TAWMM-dry)/(d.TAWMM-d.RAWMM))
		}
		if i == 0 && d.ETcMM > 0 {
			left := math.Max(0, (d.RAWMM-dry)/d.ETcMM)
			out.DaysLeft = &left
		}
		dry = math.Min(d.TAWMM, math.Max(0, dry-w.RainMM+d.Ks*d.ETcMM))
		d.DepletionMM = dry
		if dry > d.RAWMM+nearly {
			d.WaterMM = dry
			d.Litres = d.WaterMM * in.AreaM2 / in.Efficiency
			d.Cans = int(math.Ceil(d.Litres/in.CanL - nearly))
			d.Times = max(1, int(math.Ceil(d.ETcMM/d.RAWMM-nearly)))
			if out.First == nil {
				out.First = &i
			}
			dry = 0
		}
		out.TotalL, out.TotalCans, out.RainMM = out.TotalL+d.Litres, out.TotalCans+d.Cans, out.RainMM+w.RainMM
		out.Days = append(out.Days, d)
	}
	out.AfterMM = dry
	first := out.Days[0]
	out.Steps = []working.Step{
		{
			Name:    say.T("Water that the roots can reach"),
			Formula: say.T("1000 × (%.4g − %.4g) × %.4g m", in.Soil.FieldCapacity, in.Soil.WiltingPoint, first.RootM),
			Value:   first.TAWMM, Unit: "mm", Source: fao56,
		},
		{Name: say.T("The crop draws today"), Formula: say.T("%.4g × %.4g", first.Kc, in.Days[0].ET0MM), Value: first.ETcMM, Unit: "mm"},
		{Name: say.T("Of it can be used before it is watered"), Formula: say.T("%.4g + 0.04 × (5 − %.4g)", in.DepletionP, first.ETcMM), Value: first.P},
		{Name: say.T("So many millimetres"), Formula: say.T("%.4g × %.4g", first.P, first.TAWMM), Value: first.RAWMM, Unit: "mm"},
		{Name: say.T("Missing this evening"), Value: first.DepletionMM, Unit: "mm"},
	}
	return out, nil
}
