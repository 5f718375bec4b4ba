package solution

import "math"

// Constants at 25 °C unless said: dissociation constants as −log10, activities.
// Carbonic acid and Henry's constant after Plummer and Busenberg (1982),
// Geochim. Cosmochim. Acta 46:1011; Davies activity coefficients.
const (
	pKw          = 13.995
	airCO2       = 420e-6 // atm
	ionicPerMS   = 0.013  // mol/L of ionic strength per mS/cm
	mgCaCO3PerEq = 50040. // mg CaCO3 to the equivalent
)

var (
	pKPhosphate = [3]float64{2.148, 7.198, 12.35}
	pKCitrate   = [3]float64{3.128, 4.761, 6.396}
)

// IUPAC abridged standard atomic weights, g/mol.
const (
	wH = 1.0080
	wC = 12.011
	wN = 14.007
	wO = 15.999
	wP = 30.974
	wS = 32.06
	wK = 39.098
)

// medium holds what stays the same while acid or base is added.
type medium struct {
	g1, g2, g3 float64 // activity coefficients of ions with one, two, three charges
	k1, k2     float64 // carbonic acid
	co2Air     float64 // mol/L of CO2 in balance with air
}

func newMedium(ecMScm, temperatureC float64) medium {
	i := ionicPerMS * ecMScm
	gamma := func(z float64) float64 {
		return math.Pow(10, -0.509*z*z*(math.Sqrt(i)/(1+math.Sqrt(i))-0.3*i))
	}
	t := temperatureC + 273.15
	log := math.Log10(t)
	return medium{
		g1: gamma(1), g2: gamma(2), g3: gamma(3),
		k1:     math.Pow(10, -356.3094-0.06091964*t+21834.37/t+126.8339*log-1684915/(t*t)),
		k2:     math.Pow(10, -107.8871-0.03252849*t+5151.79/t+38.92561*log-563713.9/(t*t)),
		co2Air: airCO2 * math.Pow(10, 108.3865+0.01985076*t-6919.53/t-40.45154*log+669365/(t*t)),
	}
}

// water is [OH−] − [H+], mol/L.
func (m medium) water(ph float64) float64 {
	h := math.Pow(10, -ph)
	return math.Pow(10, -pKw)/h/m.g1 - h/m.g1
}

func (m medium) hydroxide(ph float64) float64 { return math.Pow(10, ph-pKw) / m.g1 }

// carbonateCharge is the negative charge that a mole of dissolved carbon carries.
func (m medium) carbonateCharge(ph float64) float64 {
	h := math.Pow(10, -ph)
	bi, carb := m.k1/(h*m.g1), m.k1*m.k2/(h*h*m.g2)
	return (bi + 2*carb) / (1 + bi + carb)
}

// openCarbonate is the carbonate charge, eq/L, in balance with air.
func (m medium) openCarbonate(ph float64) float64 {
	h := math.Pow(10, -ph)
	return m.co2Air * (m.k1/(h*m.g1) + 2*m.k1*m.k2/(h*h*m.g2))
}

// triproticCharge is the negative charge that a mole of a three-step acid carries.
func (m medium) triproticCharge(ph float64, pk [3]float64) float64 {
	h := math.Pow(10, -ph)
	a := math.Pow(10, -pk[0]) / h
	b := a * math.Pow(10, -pk[1]) / h
	c := b * math.Pow(10, -pk[2]) / h
	one, two, three := a/m.g1, b/m.g2, c/m.g3
	return (one + 2*two + 3*three) / (1 + one + two + three)
}

// makeup is what a solution holds, mol/L.
type makeup struct{ carbon, phosphate, citrate float64 }

// sid is the strong-ion difference, eq/L, that the makeup needs to stand at a pH
// with its gas kept in; open, with the carbonate in balance with air instead.
func (m medium) sid(ph float64, x makeup, open bool) float64 {
	carbonate := x.carbon * m.carbonateCharge(ph)
	if open {
		carbonate = m.openCarbonate(ph)
	}
	return carbonate + m.water(ph) + x.phosphate*m.triproticCharge(ph, pKPhosphate) + x.citrate*m.triproticCharge(ph, pKCitrate)
}

// phAt is the pH at which the makeup carries the strong-ion difference. The
// charge rises with pH throughout, so bisection always finds it.
func (m medium) phAt(sid float64, x makeup, open bool) float64 {
	low, high := -1.0, 15.0
	for range 60 {
		mid := (low + high) / 2
		if m.sid(mid, x, open) < sid {
			low = mid
		} else {
			high = mid
		}
	}
	return (low + high) / 2
}
