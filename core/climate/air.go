package climate

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

const fao56 say.Words = "Allen et al. (1998), FAO Irrigation and Drainage Paper 56"

// Air is what the air does to a leaf.
type Air struct {
	VPDKPa, LeafVPDKPa, SaturationKPa float64
	DewPointC                         *float64 // nil in perfectly dry air
	Steps                             []working.Step
}

// Saturation is the vapour pressure of saturated air, kPa (Tetens, as in FAO-56).
func Saturation(c float64) float64 { return 0.6108 * math.Exp(17.27*c/(c+237.3)) }

// OfAir answers from temperature, relative humidity (%) and how much warmer the
// leaf is than the air.
func OfAir(temperatureC, humidityPercent, leafMinusAirC float64) (Air, error) {
	var e field.Errors
	e.Require(temperatureC >= -60 && temperatureC <= 80, "temperature_c", "must be −60 to 80 °C")
	e.Require(humidityPercent >= 0 && humidityPercent <= 100, "humidity_percent", "must be 0 to 100 %")
	e.Require(leafMinusAirC >= -40 && leafMinusAirC <= 40, "leaf_minus_air_c", "must be −40 to 40 °C")
	if err := e.Err(); err != nil {
		return Air{}, err
	}
	es := Saturation(temperatureC)
	ea := es * humidityPercent / 100
	a := Air{SaturationKPa: es, VPDKPa: es - ea, LeafVPDKPa: Saturation(temperatureC+leafMinusAirC) - ea}
	a.Steps = []working.Step{
		{
			Name:    say.T("Saturation"),
			Formula: say.T("0.6108 × e^(17.27 × %.4g ÷ (%.4g + 237.3))", temperatureC, temperatureC),
			Value:   es,
			Unit:    "kPa",
			Source:  fao56,
		},
		{Name: say.T("Vapour pressure of the air"), Formula: say.T("%.4g × %.4g %%", es, humidityPercent), Value: ea, Unit: "kPa"},
		{Name: say.T("Vapour pressure deficit (VPD) of the air"), Formula: say.T("%.4g − %.4g", es, ea), Value: a.VPDKPa, Unit: "kPa"},
		{Name: say.T("Vapour pressure deficit (VPD) at the leaf"), Formula: say.T("saturation at the leaf − vapour in the air"), Value: a.LeafVPDKPa, Unit: "kPa"},
	}
	if ea > 0 {
		x := math.Log(ea / 0.6108)
		dew := 237.3 * x / (17.27 - x)
		a.DewPointC = &dew
	}
	return a, nil
}

// LightInput is where, when, under what cover and with which lamps.
type LightInput struct {
	LatitudeDeg       float64
	Day               calendar.Day
	CoverTransmission float64 // 0 to 1
	LampUmolM2S       float64
	LampHours         float64
}

// Light is how long a day is and how much light it brings.
type Light struct {
	DayLengthH, ExtraterrestrialMJ, ClearSkyMJ float64
	SunDLI, LampDLI, DLI                       float64
	Steps                                      []working.Step
}

// OfDay answers by FAO-56's equations 21 to 25 and 34. Polar day is 24 h and
// polar night 0.
func OfDay(in LightInput) (Light, error) {
	var e field.Errors
	e.Require(in.LatitudeDeg >= -90 && in.LatitudeDeg <= 90, "latitude_deg", "must be −90 to 90°")
	e.Require(in.CoverTransmission >= 0 && in.CoverTransmission <= 1, "cover_transmission", "must be a share from 0 to 1")
	e.Require(in.LampUmolM2S >= 0 && in.LampUmolM2S <= 10000, "lamp_umol_m2_s", "must be 0 to 10,000 µmol/m²/s")
	e.Require(in.LampHours >= 0 && in.LampHours <= 24, "lamp_hours", "must be 0 to 24 hours")
	if err := e.Err(); err != nil {
		return Light{}, err
	}
	j := float64(in.Day.UTC().YearDay())
	phi := in.LatitudeDeg * math.Pi / 180
	dr := 1 + 0.033*math.Cos(2*math.Pi*j/365)
	delta := 0.409 * math.Sin(2*math.Pi*j/365-1.39)
	ws := math.Acos(min(1, max(-1, -math.Tan(phi)*math.Tan(delta))))
	ra := 24 * 60 / math.Pi * 0.0820 * dr * (ws*math.Sin(phi)*math.Sin(delta) + math.Cos(phi)*math.Cos(delta)*math.Sin(ws))
	l := Light{DayLengthH: 24 / math.Pi * ws, ExtraterrestrialMJ: max(0, ra)}
	l.ClearSkyMJ = 0.75 * l.ExtraterrestrialMJ
	l.SunDLI = l.ClearSkyMJ * 0.45 * 4.57 * in.CoverTransmission
	l.LampDLI = in.LampUmolM2S * 3600 * in.LampHours / 1e6
	l.DLI = l.SunDLI + l.LampDLI
	l.Steps = []working.Step{
		{Name: say.T("Day length"), Formula: say.T("24 ÷ π × sunset hour angle"), Value: l.DayLengthH, Unit: "h", Source: fao56},
		{Name: say.T("Outside the atmosphere"), Formula: say.T("FAO-56, equation 21"), Value: l.ExtraterrestrialMJ, Unit: "MJ/m²"},
		{Name: say.T("Under a clear sky"), Formula: say.T("0.75 × that"), Value: l.ClearSkyMJ, Unit: "MJ/m²"},
		{
			Name:    say.T("Sun through the cover"),
			Formula: say.T("%.4g × 0.45 × 4.57 × %.3g", l.ClearSkyMJ, in.CoverTransmission),
			Value:   l.SunDLI,
			Unit:    "mol/m²",
		},
		{Name: say.T("Lamps"), Formula: say.T("%.4g × 3600 × %.4g ÷ 10⁶", in.LampUmolM2S, in.LampHours), Value: l.LampDLI, Unit: "mol/m²"},
	}
	return l, nil
}
