package climate

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Usual figures of the weather where it was not measured (FAO-56).
const (
	UsualKrs  = 0.16 // inland; 0.19 by the coast
	UsualWind = 2.0  // m/s at two metres
)

// GrassInput is a day's weather, from which what the air draws from short grass is worked out. What is
// nil was not measured. Of humidity, and of light, at most one way of telling it is given.
type GrassInput struct {
	LatitudeDeg  float64 // −65 to 65
	Day          calendar.Day
	TMaxC, TMinC float64
	Simple       bool // by temperature alone (Hargreaves)

	AltitudeM  float64
	SoilHeatMJ float64 // a m² and day, into the soil

	VapourKPa    *float64 // actual vapour pressure
	DewC         *float64
	HumidityMax  *float64 // %
	HumidityMin  *float64 // %, with the greatest
	HumidityMean *float64 // %
	DewBelowMinC float64  // where none of them is told: the dew point lies so far below the least temperature

	SolarMJ   *float64 // a m² and day
	SunshineH *float64
	Krs       float64 // where neither is told

	WindMS      *float64
	WindHeightM float64
}

// Grass is the reference evapotranspiration of a day with its parts.
type Grass struct {
	MM                             float64
	ExtraterrestrialMJ, DayLengthH float64

	// Not by Hargreaves.
	RadiationMM, WindMM             float64 // its two terms
	SolarMJ, NetMJ, NetLongMJ       float64
	SaturationKPa, VapourKPa, Wind2 float64
	DeltaKPaC, GammaKPaC            float64
	NoHumidity, NoRadiation, NoWind bool // taken as usual
	Steps                           []working.Step
}

func (in GrassInput) check() error {
	var e field.Errors
	e.Require(in.LatitudeDeg >= -65 && in.LatitudeDeg <= 65, "latitude_deg", "must be −65 to 65°")
	e.Require(in.TMaxC >= -60 && in.TMaxC <= 60, "tmax_c", "must be −60 to 60 °C")
	e.Require(in.TMinC >= -60 && in.TMinC <= 60, "tmin_c", "must be −60 to 60 °C")
	e.Require(in.TMinC <= in.TMaxC, "tmin_c", "must not be above the highest of the day")
	if in.Simple {
		return e.Err()
	}
	e.Require(in.AltitudeM >= -400 && in.AltitudeM <= 6000, "altitude_m", "must be −400 to 6,000 m")
	e.Require(math.Abs(in.SoilHeatMJ) <= 100, "soil_heat_mj_m2", "must be −100 to 100 MJ/m²")
	within := func(name string, v *float64, low, high float64, says say.Words) {
		e.Require(v == nil || *v >= low && *v <= high, name, says)
	}
	within("actual_vapour_kpa", in.VapourKPa, 0, 20, "must be 0 to 20 kPa")
	within("dew_point_c", in.DewC, -60, 60, "must be −60 to 60 °C")
	within("humidity_max_percent", in.HumidityMax, 0, 100, "must be 0 to 100 %")
	within("humidity_min_percent", in.HumidityMin, 0, 100, "must be 0 to 100 %")
	within("humidity_mean_percent", in.HumidityMean, 0, 100, "must be 0 to 100 %")
	e.Require(in.HumidityMin == nil || in.HumidityMax != nil, "humidity_max_percent", "is missing: give it with the least")
	e.Require(in.HumidityMin == nil || in.HumidityMax == nil || *in.HumidityMin <= *in.HumidityMax, "humidity_min_percent", "must not be above the greatest")
	within("dew_below_min_c", &in.DewBelowMinC, 0, 10, "must be 0 to 10 °C")
	within("solar_mj_m2", in.SolarMJ, 0, 60, "must be 0 to 60 MJ/m²")
	within("wind_m_s", in.WindMS, 0, 100, "must be 0 to 100 m/s")
	e.Require(in.Krs > 0 && in.Krs <= 1, "krs", "must be above 0, up to 1")
	e.Require(in.WindHeightM >= 0.5 && in.WindHeightM <= 100, "wind_height_m", "must be 0.5 to 100 m")
	within("sunshine_h", in.SunshineH, 0, 24, "must be 0 or more hours, at most half an hour more than the day")
	return e.Err()
}

// OfGrass is the reference evapotranspiration ET0 of a day, mm: by Penman and Monteith, or by
// Hargreaves (FAO-56, Allen et al. 1998, equations 6 to 52). It refuses with field.Errors.
func OfGrass(in GrassInput) (Grass, error) {
	if err := in.check(); err != nil {
		return Grass{}, err
	}
	sky, err := OfDay(LightInput{LatitudeDeg: in.LatitudeDeg, Day: in.Day})
	if err != nil {
		return Grass{}, err
	}
	if in.SunshineH != nil && *in.SunshineH > sky.DayLengthH+0.5 {
		return Grass{}, field.Refuse("sunshine_h", "must be 0 or more hours, at most half an hour more than the day")
	}
	g := Grass{ExtraterrestrialMJ: sky.ExtraterrestrialMJ, DayLengthH: sky.DayLengthH}
	mean, spread := (in.TMaxC+in.TMinC)/2, in.TMaxC-in.TMinC
	if in.Simple {
		g.MM = max(0, 0.0023*(mean+17.8)*math.Sqrt(spread)*0.408*g.ExtraterrestrialMJ)
		g.Steps = []working.Step{{
			Name:    say.T("Drawn from short grass"),
			Formula: say.T("0.0023 × (%.4g + 17.8) × √%.4g × 0.408 × %.4g", mean, spread, g.ExtraterrestrialMJ),
			Value:   g.MM, Unit: "mm", Source: fao56,
		}}
		return g, nil
	}
	g.air(in)
	g.sun(in, spread)
	g.wind(in)
	weight := g.DeltaKPaC + g.GammaKPaC*(1+0.34*g.Wind2)
	g.RadiationMM = 0.408 * g.DeltaKPaC * (g.NetMJ - in.SoilHeatMJ) / weight
	g.WindMM = g.GammaKPaC * 900 / (mean + 273) * g.Wind2 * (g.SaturationKPa - g.VapourKPa) / weight
	g.MM = max(0, g.RadiationMM+g.WindMM)
	g.Steps = []working.Step{
		{Name: say.T("Saturation"), Formula: say.T("mean of that at %.4g and at %.4g °C", in.TMaxC, in.TMinC), Value: g.SaturationKPa, Unit: "kPa", Source: fao56},
		{Name: say.T("Vapour pressure of the air"), Value: g.VapourKPa, Unit: "kPa"},
		{Name: say.T("Net radiation"), Formula: say.T("0.77 × %.4g − %.4g", g.SolarMJ, g.NetLongMJ), Value: g.NetMJ, Unit: "MJ/m²"},
		{Name: say.T("Drawn by the sun"), Formula: say.T("0.408 × Δ × net radiation ÷ (Δ + γ(1 + 0.34 × wind))"), Value: g.RadiationMM, Unit: "mm"},
		{Name: say.T("Drawn by dry wind"), Formula: say.T("γ × 900 ÷ (T + 273) × wind × deficit ÷ (Δ + γ(1 + 0.34 × wind))"), Value: g.WindMM, Unit: "mm"},
		{Name: say.T("Drawn from short grass"), Formula: say.T("%.4g + %.4g", g.RadiationMM, g.WindMM), Value: g.MM, Unit: "mm"},
	}
	return g, nil
}

// air is the humidity, by equations 7, 8 and 11 to 19.
func (g *Grass) air(in GrassInput) {
	high, low, mean := Saturation(in.TMaxC), Saturation(in.TMinC), (in.TMaxC+in.TMinC)/2
	g.SaturationKPa = (high + low) / 2
	g.DeltaKPaC = 4098 * Saturation(mean) / ((mean + 237.3) * (mean + 237.3))
	g.GammaKPaC = 0.665e-3 * 101.3 * math.Pow((293-0.0065*in.AltitudeM)/293, 5.26)
	switch {
	case in.VapourKPa != nil:
		g.VapourKPa = *in.VapourKPa
	case in.DewC != nil:
		g.VapourKPa = Saturation(*in.DewC)
	case in.HumidityMax != nil && in.HumidityMin != nil:
		g.VapourKPa = (low**in.HumidityMax + high**in.HumidityMin) / 200
	case in.HumidityMax != nil:
		g.VapourKPa = low * *in.HumidityMax / 100
	case in.HumidityMean != nil:
		g.VapourKPa = *in.HumidityMean / 100 * g.SaturationKPa
	default:
		g.NoHumidity, g.VapourKPa = true, Saturation(in.TMinC-in.DewBelowMinC)
	}
}

// sun is the radiation, by equations 35 to 40 and 50.
func (g *Grass) sun(in GrassInput, spread float64) {
	clear := (0.75 + 2e-5*in.AltitudeM) * g.ExtraterrestrialMJ
	switch {
	case in.SolarMJ != nil:
		g.SolarMJ = *in.SolarMJ
	case in.SunshineH != nil:
		g.SolarMJ = (0.25 + 0.50**in.SunshineH/g.DayLengthH) * g.ExtraterrestrialMJ
	default:
		g.NoRadiation, g.SolarMJ = true, min(clear, in.Krs*math.Sqrt(spread)*g.ExtraterrestrialMJ)
	}
	const boltzmann = 4.903e-9 // MJ/K⁴ m² day
	kelvin := func(c float64) float64 { return math.Pow(c+273.16, 4) }
	cloud := 1.35*min(1, g.SolarMJ/clear) - 0.35
	g.NetLongMJ = boltzmann * (kelvin(in.TMaxC) + kelvin(in.TMinC)) / 2 * (0.34 - 0.14*math.Sqrt(g.VapourKPa)) * cloud
	g.NetMJ = 0.77*g.SolarMJ - g.NetLongMJ
}

// wind is that at two metres, by equation 47.
func (g *Grass) wind(in GrassInput) {
	if in.WindMS == nil {
		g.NoWind, g.Wind2 = true, UsualWind
		return
	}
	g.Wind2 = *in.WindMS
	if in.WindHeightM != 2 {
		g.Wind2 *= 4.87 / math.Log(67.8*in.WindHeightM-5.42)
	}
}
