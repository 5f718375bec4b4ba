package chemistry

import (
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// OxygenSaturation is how much oxygen fresh water holds in balance with air,
// mg/L: Benson and Krause (1984) with their correction for pressure, which
// falls with altitude. 0 to 50 °C, −500 to 9,000 m.
func OxygenSaturation(temperatureC, altitudeM float64) (float64, []working.Step, error) {
	var e field.Errors
	e.Require(temperatureC >= 0 && temperatureC <= 50, "temperature_c", "must be 0 to 50 °C")
	e.Require(altitudeM >= -500 && altitudeM <= 9000, "altitude_m", "must be −500 to 9,000 m")
	if err := e.Err(); err != nil {
		return 0, nil, err
	}
	t := temperatureC + 273.15
	sea := math.Exp(-139.34411 + 1.575701e5/t - 6.642308e7/(t*t) + 1.243800e10/(t*t*t) - 8.621949e11/(t*t*t*t))
	p := math.Pow(1-2.25577e-5*altitudeM, 5.25588)
	vapour := math.Exp(11.8571 - 3840.70/t - 216961/(t*t))
	theta := 0.000975 - 1.426e-5*temperatureC + 6.436e-8*temperatureC*temperatureC
	s := sea * p * (1 - vapour/p) * (1 - theta*p) / ((1 - vapour) * (1 - theta))
	const source say.Words = "Benson and Krause (1984), Limnol. Oceanogr. 29:620"
	return s, []working.Step{
		{Name: say.T("At sea level"), Formula: say.T("at %.4g °C", temperatureC), Value: sea, Unit: "mg/L", Source: source},
		{Name: say.T("Pressure"), Formula: say.T("(1 − 2.25577·10⁻⁵ × %.4g)^5.25588", altitudeM), Value: p, Unit: "atm"},
		{Name: say.T("Saturation"), Formula: say.T("corrected for vapour and pressure"), Value: s, Unit: "mg/L"},
	}, nil
}

// Ammonia is the part of total ammonia that harms fish.
type Ammonia struct {
	UnionisedMgL, UnionisedPercent float64
	Steps                          []working.Step
	Cautions                       []say.Text
}

// UnionisedAmmonia answers by Emerson et al. (1975) how much of the total
// ammonia nitrogen (mg/L) is un-ionised.
func UnionisedAmmonia(totalMgL, ph, temperatureC float64) (Ammonia, error) {
	var e field.Errors
	e.Require(totalMgL >= 0 && totalMgL <= 10000, "total_ammonia_n_mg_l", "must be 0 to 10,000 mg/L")
	e.Require(ph >= 0 && ph <= 14, "ph", "must be a pH from 0 to 14")
	e.Require(temperatureC >= 0 && temperatureC <= 50, "temperature_c", "must be 0 to 50 °C")
	if err := e.Err(); err != nil {
		return Ammonia{}, err
	}
	pka := 0.09018 + 2729.92/(273.2+temperatureC)
	share := 1 / (1 + math.Pow(10, pka-ph))
	a := Ammonia{
		UnionisedMgL:     totalMgL * share,
		UnionisedPercent: 100 * share,
		Cautions:         []say.Text{say.T("Wash hands after work at a fish tank, and cover cuts.")},
	}
	a.Steps = []working.Step{
		{
			Name:    say.T("pKa"),
			Formula: say.T("0.09018 + 2729.92 ÷ (273.2 + %.4g)", temperatureC),
			Value:   pka,
			Source:  say.T("Emerson et al. (1975), J. Fish. Res. Board Can. 32:2379"),
		},
		{Name: say.T("Un-ionised share"), Formula: say.T("1 ÷ (1 + 10^(pKa − %.4g))", ph), Value: 100 * share, Unit: "%"},
		{Name: say.T("Un-ionised"), Formula: say.T("%.4g × share", totalMgL), Value: a.UnionisedMgL, Unit: "mg/L"},
	}
	return a, nil
}
