// Package chemistry is what water does: its acids and bases in balance with the air, what it
// conducts, the oxygen and ammonia in it, and what a measured acid teaches about it.
// Conductivities are mS/cm at 25 °C, alkalinities mg/L as CaCO₃, volumes litres.
//
//	dose, err := chemistry.PHAdjust(chemistry.PHInput{VolumeL: 58, PHNow: 6.8, PHTarget: 5.8, Agent: chemistry.CitricAcid, ...})
package chemistry

import "math"

// Constants at 25 °C unless said: dissociation constants as −log10, activities.
// Carbonic acid and Henry's constant after Plummer and Busenberg (1982),
// Geochim. Cosmochim. Acta 46:1011; Davies activity coefficients.
const (
	pKw          = 13.995
	airCO2       = 420e-6 // atm
	ionicPerMS   = 0.013  // mol/L of ionic strength per mS/cm
	MgCaCO3PerEq = 50040. // mg CaCO3 to the equivalent
)

var (
	pKPhosphate = [3]float64{2.148, 7.198, 12.35}
	pKCitrate   = [3]float64{3.128, 4.761, 6.396}
)

// IUPAC abridged standard atomic weights, g/mol.
const (
	WH = 1.0080
	WC = 12.011
	WN = 14.007
	WO = 15.999
	WP = 30.974
	WS = 32.06
	WK = 39.098
)

// Medium holds what stays the same while acid or base is added: the dissociation
// constants divided by the activity coefficients, so that they give concentrations
// from the activity of the hydrogen ion.
type Medium struct {
	g1, g2, g3         float64    // activity coefficients of ions with one, two, three charges
	water              float64    // [OH−] times the activity of H+
	bi, carb           float64    // [HCO3−]/[CO2] times it, [CO3²−]/[CO2] times its square
	phosphate, citrate [3]float64 // the same for the steps of the two
	Henry              float64    // mol/L of CO2 for an atmosphere of it
}

// NewMedium is a solution by its conductivity in mS/cm and its temperature in °C: activity
// coefficients after Davies (1962), carbonate constants of Plummer and Busenberg (1982).
func NewMedium(ecMScm, temperatureC float64) Medium {
	i := ionicPerMS * ecMScm
	gamma := func(z float64) float64 {
		return math.Pow(10, -0.509*z*z*(math.Sqrt(i)/(1+math.Sqrt(i))-0.3*i))
	}
	t := temperatureC + 273.15
	log := math.Log10(t)
	m := Medium{g1: gamma(1), g2: gamma(2), g3: gamma(3)}
	k1 := math.Pow(10, -356.3094-0.06091964*t+21834.37/t+126.8339*log-1684915/(t*t))
	k2 := math.Pow(10, -107.8871-0.03252849*t+5151.79/t+38.92561*log-563713.9/(t*t))
	m.water, m.bi, m.carb = math.Pow(10, -pKw)/m.g1, k1/m.g1, k1*k2/m.g2
	m.Henry = math.Pow(10, 108.3865+0.01985076*t-6919.53/t-40.45154*log+669365/(t*t))
	m.phosphate, m.citrate = m.steps(pKPhosphate), m.steps(pKCitrate)
	return m
}

func (m Medium) steps(pk [3]float64) [3]float64 {
	a := math.Pow(10, -pk[0])
	b := a * math.Pow(10, -pk[1])
	c := b * math.Pow(10, -pk[2])
	return [3]float64{a / m.g1, b / m.g2, c / m.g3}
}

// activity is that of the hydrogen ion at a pH.
func activity(ph float64) float64 { return math.Exp(-math.Ln10 * ph) }

// Hydroxide is the concentration of OH⁻ in mol/L at a pH.
func (m Medium) Hydroxide(ph float64) float64 { return m.water / activity(ph) }

// acid is how an acid of up to three steps stands at a hydrogen ion activity: the
// negative charge that a mole carries, and how that rises with ln(1/h).
type acid struct{ charge, slope float64 }

func acidOf(h float64, k [3]float64) acid {
	r := 1 / h
	one, two, three := k[0]*r, k[1]*r*r, k[2]*r*r*r
	all := 1 / (1 + one + two + three)
	charge := (one + 2*two + 3*three) * all
	return acid{charge, (one+4*two+9*three)*all - charge*charge}
}

// CarbonateCharge is the negative charge that a mole of dissolved carbon carries.
func (m Medium) CarbonateCharge(ph float64) float64 {
	return acidOf(activity(ph), [3]float64{m.bi, m.carb}).charge
}

// Dissolved is the carbon, mol/L, that a mole/L of free carbon dioxide comes with.
func (m Medium) Dissolved(ph float64) float64 {
	h := activity(ph)
	return 1 + m.bi/h + m.carb/(h*h)
}

// Makeup is what a solution holds, mol/L.
type Makeup struct{ Carbon, Phosphate, Citrate float64 }

// Sid is the strong-ion difference, eq/L, that the makeup needs to stand at a pH
// with its gas kept in.
func (m Medium) Sid(ph float64, x Makeup) float64 {
	s, _ := m.charge(activity(ph), x)
	return s
}

// openSID is sid with the carbonate in balance with a free carbon dioxide, mol/L.
func (m Medium) openSID(ph float64, x Makeup, co2 float64) float64 {
	s, _ := m.openCharge(activity(ph), x, co2)
	return s
}

// charge is the strong-ion difference of a makeup with its gas kept in, and how it
// rises with ln(1/h).
func (m *Medium) charge(h float64, x Makeup) (sid, slope float64) {
	sid, slope = m.rest(h, x)
	r := 1 / h
	one, two := m.bi*r, m.carb*r*r
	all := 1 / (1 + one + two)
	z := (one + 2*two) * all
	return sid + x.Carbon*z, slope + x.Carbon*((one+4*two)*all-z*z)
}

func (m *Medium) openCharge(h float64, x Makeup, co2 float64) (sid, slope float64) {
	sid, slope = m.rest(h, x)
	one, two := co2*m.bi/h, co2*m.carb/(h*h)
	return sid + one + 2*two, slope + one + 4*two
}

// rest is what water, phosphate and citrate carry.
func (m *Medium) rest(h float64, x Makeup) (sid, slope float64) {
	oh, hydrogen := m.water/h, h/m.g1
	sid, slope = oh-hydrogen, oh+hydrogen
	if x.Phosphate != 0 {
		a := acidOf(h, m.phosphate)
		sid, slope = sid+x.Phosphate*a.charge, slope+x.Phosphate*a.slope
	}
	if x.Citrate != 0 {
		a := acidOf(h, m.citrate)
		sid, slope = sid+x.Citrate*a.charge, slope+x.Citrate*a.slope
	}
	return sid, slope
}

// PhAt is the pH from 0 to 14 at which the makeup carries the strong-ion difference
// with its gas kept in.
func (m *Medium) PhAt(sid float64, x Makeup, guess float64) float64 {
	n := newton{low: 1e-14, high: 1, h: activity(guess)}
	for n.steps < 100 && !n.done {
		s, slope := m.charge(n.h, x)
		n.step(s-sid, slope)
	}
	return n.ph()
}

// OpenPH is phAt in balance with a free carbon dioxide, mol/L.
func (m *Medium) OpenPH(sid float64, x Makeup, co2, guess float64) float64 {
	n := newton{low: 1e-14, high: 1, h: activity(guess)}
	for n.steps < 100 && !n.done {
		s, slope := m.openCharge(n.h, x, co2)
		n.step(s-sid, slope)
	}
	return n.ph()
}

// newton looks for a hydrogen ion activity from 1e-14 to 1. The charge falls as it
// rises, throughout: Newton's steps in its logarithm, and a halving where one would
// leave what is known to hold the answer.
type newton struct {
	low, high, h float64
	steps        int
	done         bool
}

// step goes on by the charge that is too much, and how that rises with ln(1/h).
func (n *newton) step(over, slope float64) {
	n.steps++
	if over > 0 {
		n.low = max(n.low, n.h) // too little of it
	} else {
		n.high = min(n.high, n.h)
	}
	y := over / slope // of ln h
	if n.done = math.Abs(y) < 1e-8; n.done {
		n.h *= 1 + y
		return
	}
	next := -1.0
	if math.Abs(y) < 1.9 {
		next = n.h * (2 + y) / (2 - y) // near enough e^y, and nearer as it shrinks
	}
	if !(next > n.low && next < n.high) {
		next = math.Sqrt(n.low * n.high)
	}
	n.done = n.high <= n.low*(1+1e-12)
	n.h = next
}

func (n *newton) ph() float64 { return -math.Log10(min(max(n.h, 1e-14), 1)) }
