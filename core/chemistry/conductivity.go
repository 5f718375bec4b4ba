package chemistry

import (
	"maps"
	"math"
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Ions are totals in mmol/L by name: K Ca Mg Na NH4 NO3 H2PO4 SO4 Cl HCO3.
// H2PO4 is all phosphate, HCO3 all dissolved inorganic carbon, NH4 all ammonia
// nitrogen, part of which is gas at a high pH.
type Ions map[string]float64

// IonNames in the order they are told.
var IonNames = []string{"K", "Ca", "Mg", "Na", "NH4", "NO3", "H2PO4", "SO4", "Cl", "HCO3"}

// Conductivity is what a meter should read.
type Conductivity struct {
	ECMScm, EC25MScm       float64
	IonicStrength          float64 // mol/L, after pairing
	ChargeImbalancePercent float64
	PairsMmolL             map[string]float64
	Steps                  []working.Step
}

// mobility gives an ion's molar conductivity, S·cm²/mol, as λ°(t) − A(t)·√I/(1 + B·√I)
// with λ° and A quadratic in °C: McCleskey, Nordstrom and Ryan (2012),
// Geochim. Cosmochim. Acta 77:369. For Mg and SO4 the limiting part is theirs
// and the rest was fitted again to measured single salts.
type mobility struct {
	charge     float64
	limit, red [3]float64 // t², t, 1
	b          float64
}

var mobilities = map[string]mobility{
	"K":    {1, [3]float64{0.003046, 1.261, 40.70}, [3]float64{0.00535, 0.9316, 22.59}, 1.5},
	"Na":   {1, [3]float64{0.003763, 0.8770, 26.23}, [3]float64{0.00027, 1.141, 32.07}, 1.7},
	"NH4":  {1, [3]float64{0.003341, 1.285, 39.04}, [3]float64{0.00132, 0.6070, 11.19}, 0.3},
	"Ca":   {2, [3]float64{0.009645, 1.984, 62.28}, [3]float64{0.03174, 2.334, 132.3}, 2.8},
	"Mg":   {2, [3]float64{0.01068, 1.695, 57.16}, scale(1.75, [3]float64{0.02453, 1.915, 80.50}), 3.5},
	"H":    {1, [3]float64{-0.01414, 5.355, 224.2}, [3]float64{-0.00918, 1.842, 39.23}, 0.3},
	"Cl":   {-1, [3]float64{0.003817, 1.337, 40.99}, [3]float64{0.00613, 0.9469, 22.01}, 1.5},
	"NO3":  {-1, [3]float64{0.001925, 1.214, 39.90}, [3]float64{0.00118, 0.5045, 23.31}, 0.1},
	"SO4":  {-2, [3]float64{0.01037, 2.838, 82.37}, scale(0.73, [3]float64{0.03324, 5.889, 193.5}), 4.2},
	"HCO3": {-1, [3]float64{0.000614, 0.9048, 21.14}, [3]float64{-0.00503, 0.8957, 10.97}, 0.1},
	"CO3":  {-2, [3]float64{-0.000326, 2.998, 64.03}, [3]float64{-0.00181, 5.542, 120.2}, 2.3},
	"OH":   {-1, [3]float64{0.003396, 2.925, 121.3}, [3]float64{0.00933, 0.1086, 35.90}, 0.01},
	// Limiting values at 25 °C with the usual two per cent a degree; Onsager's slope.
	"H2PO4":  limiting(-1, 36),
	"HPO4":   limiting(-2, 114),
	"PO4":    limiting(-3, 207),
	"KSO4":   limiting(-1, 40),
	"NaSO4":  limiting(-1, 40),
	"NH4SO4": limiting(-1, 40),
}

// charged are the species that carry current, always summed in one order so
// that the same water gives the same figure to the last digit.
var charged = slices.Sorted(maps.Keys(mobilities))

func scale(by float64, x [3]float64) [3]float64 { return [3]float64{by * x[0], by * x[1], by * x[2]} }

// limiting makes a mobility from a limiting molar conductivity at 25 °C.
func limiting(charge, at25 float64) mobility {
	slope := 0.02 * at25
	z := math.Abs(charge)
	red := 0.229*z*at25 + 30.1*z*z*z
	return mobility{charge, [3]float64{0, slope, at25 - 25*slope}, [3]float64{0, 0.02 * red, red - 25*0.02*red}, 1.5}
}

func (m mobility) at(t, i float64) float64 {
	quad := func(c [3]float64) float64 { return c[0]*t*t + c[1]*t + c[2] }
	r := math.Sqrt(i)
	return max(0, quad(m.limit)-quad(m.red)*r/(1+m.b*r))
}

// pairing is an ion pair, its log K at 25 °C and zero ionic strength, and the
// heat of pairing, kJ/mol, by which log K follows the temperature (van 't Hoff).
type pairing struct {
	name, cation, anion string
	logK, heat          float64
}

var pairings = []pairing{
	{"CaSO4", "Ca", "SO4", 2.30, 6.9},
	{"MgSO4", "Mg", "SO4", 2.30, 19.0},
	{"CaHPO4", "Ca", "HPO4", 2.74, 13.8},
	{"MgHPO4", "Mg", "HPO4", 2.87, 13.8},
	{"KSO4", "K", "SO4", 0.85, 9.4},
	{"NaSO4", "Na", "SO4", 0.70, 4.7},
	{"NH4SO4", "NH4", "SO4", 1.03, 0},
}

// Conduct answers what an EC meter should read: speciation with ion pairs and
// Davies activities, then ionic molar conductivities. 0 to 90 °C, pH 0 to 14.
// It refuses with field.Errors.
func Conduct(ions Ions, ph, temperatureC float64) (Conductivity, error) {
	var e field.Errors
	e.Require(ph >= 0 && ph <= 14, "ph", "must be a pH from 0 to 14")
	e.Require(temperatureC >= 0 && temperatureC <= 90, "temperature_c", "must be 0 to 90 °C")
	known := map[string]bool{}
	for _, n := range IonNames {
		known[n] = true
	}
	for _, n := range slices.Sorted(maps.Keys(ions)) {
		v := ions[n]
		e.Require(known[n], "ions_mmol_l."+n, "is not one of K Ca Mg Na NH4 NO3 H2PO4 SO4 Cl HCO3")
		e.Require(v >= 0 && v <= 10000, "ions_mmol_l."+n, "must be 0 to 10,000 mmol/L")
	}
	if err := e.Err(); err != nil {
		return Conductivity{}, err
	}
	s := speciate(ions, ph, temperatureC)
	at25 := s
	if temperatureC != 25 {
		at25 = speciate(ions, ph, 25)
	}
	c := Conductivity{
		ECMScm:                 s.conduct(temperatureC),
		EC25MScm:               at25.conduct(25),
		IonicStrength:          s.strength,
		PairsMmolL:             map[string]float64{},
		ChargeImbalancePercent: s.imbalance,
	}
	for _, p := range pairings {
		if v := s.free[p.name]; v > 0 {
			c.PairsMmolL[p.name] = v * 1000
		}
	}
	const source say.Words = "McCleskey, Nordstrom and Ryan (2012); Davies activities"
	c.Steps = []working.Step{
		{Name: say.T("Ionic strength after pairing"), Formula: say.T("½ Σ c·z²"), Value: c.IonicStrength * 1000, Unit: "mmol/L", Source: source},
		{Name: say.T("Charges out of balance"), Formula: say.T("100 × (Σ⁺ − Σ⁻) ÷ (Σ⁺ + Σ⁻)"), Value: c.ChargeImbalancePercent, Unit: "%"},
		{Name: say.T("At %.4g °C", temperatureC), Formula: say.T("Σ λ·c"), Value: c.ECMScm, Unit: "mS/cm"},
		{Name: say.T("At 25 °C"), Formula: say.T("the same, computed at 25 °C"), Value: c.EC25MScm, Unit: "mS/cm"},
	}
	return c, nil
}

// species are what stands free in the water, mol/L, with pairs by their names.
type species struct {
	free      map[string]float64
	strength  float64
	imbalance float64
}

func (s species) conduct(t float64) float64 {
	ec := 0.0
	for _, name := range charged {
		ec += mobilities[name].at(t, s.strength) * s.free[name]
	}
	return ec
}

// paired are the ions that enter pairs with sulfate or hydrogen phosphate.
var paired = []string{"K", "Ca", "Mg", "Na", "NH4"}

// speciate finds what stands free. Given the cations, each anion's free part
// follows from its total, and the other way round; the two are asked in turn
// until neither moves, the ionic strength with them.
func speciate(ions Ions, ph, t float64) species {
	s := species{free: map[string]float64{}}
	total := map[string]float64{}
	for _, n := range IonNames {
		total[n] = ions[n] / 1000
		s.free[n] = total[n]
	}
	for range 500 {
		m := davies(s.strength, t)
		phosphate := total["H2PO4"] / (1 + m.phosphateShares(activity(ph))[1]*s.pull("HPO4", m, t))
		s.split(m, ph, phosphate, total["HCO3"])
		s.free["SO4"] = total["SO4"] / (1 + s.pull("SO4", m, t))
		moved := 0.0
		for _, n := range paired {
			apart := 1 + s.pull(n, m, t)
			if n == "NH4" {
				apart += m.gas(activity(ph), t)
			}
			next := total[n] / apart
			next = (s.free[n] + next) / 2
			moved += math.Abs(next - s.free[n])
			s.free[n] = next
		}
		for _, p := range pairings {
			s.free[p.name] = p.constant(m, t) * s.free[p.cation] * s.free[p.anion]
		}
		before := s.strength
		s.strength = s.ionic()
		if moved+math.Abs(s.strength-before) < 1e-14 {
			break
		}
	}
	// The imbalance is of the totals split by pH, before any pairing.
	plain := species{free: map[string]float64{}}
	for _, n := range IonNames {
		plain.free[n] = total[n]
	}
	m := davies(s.strength, t)
	plain.free["NH4"] /= 1 + m.gas(activity(ph), t)
	plain.split(m, ph, total["H2PO4"], total["HCO3"])
	s.imbalance = plain.balance()
	return s
}

// pull is how many moles of an ion stand in pairs for each that is free.
func (s species) pull(ion string, m Medium, t float64) float64 {
	sum := 0.0
	for _, p := range pairings {
		switch ion {
		case p.anion:
			sum += p.constant(m, t) * s.free[p.cation]
		case p.cation:
			sum += p.constant(m, t) * s.free[p.anion]
		}
	}
	return sum
}

// constant is the pairing constant for concentrations at a temperature.
func (p pairing) constant(m Medium, t float64) float64 {
	k := math.Pow(10, p.logK) * math.Exp(p.heat*1000/8.314463*(1/298.15-1/(t+273.15))) * m.g2
	if mobilities[p.cation].charge == 2 {
		return k * m.g2 // a neutral pair
	}
	return k // the pair carries one charge, as its cation did: those cancel
}

// davies is a medium at an ionic strength instead of a conductivity.
func davies(i, t float64) Medium { return NewMedium(i/ionicPerMS, t) }

// phosphateShares are the shares of H2PO4, HPO4 and PO4 in the free phosphate.
func (m Medium) phosphateShares(h float64) [3]float64 {
	one, two, three := m.phosphate[0]/h, m.phosphate[1]/(h*h), m.phosphate[2]/(h*h*h)
	all := 1 + one + two + three
	return [3]float64{one / all, two / all, three / all}
}

// gas is how much of the ammonia nitrogen stands as NH3 for each that is free as
// NH4+. It carries no current and takes part in no pair.
func (m Medium) gas(h, t float64) float64 {
	const pKa, heat = 9.245, 52100 // at 25 °C; J/mol
	return math.Pow(10, -pKa) * math.Exp(heat/8.314463*(1/298.15-1/(t+273.15))) * m.g1 / h
}

// split divides phosphate, carbon and water by pH.
func (s species) split(m Medium, ph, phosphate, carbon float64) {
	h := activity(ph)
	s.free["H"], s.free["OH"] = h/m.g1, m.water/h
	shares := m.phosphateShares(h)
	s.free["H2PO4"], s.free["HPO4"], s.free["PO4"] = phosphate*shares[0], phosphate*shares[1], phosphate*shares[2]
	bi, carb := m.bi/h, m.carb/(h*h)
	s.free["HCO3"], s.free["CO3"] = carbon*bi/(1+bi+carb), carbon*carb/(1+bi+carb)
}

func (s species) ionic() float64 {
	i := 0.0
	for _, n := range charged {
		z := mobilities[n].charge
		i += s.free[n] * z * z / 2
	}
	return i
}

func (s species) balance() float64 {
	plus, minus := 0.0, 0.0
	for _, n := range charged {
		if q := mobilities[n].charge * s.free[n]; q > 0 {
			plus += q
		} else {
			minus -= q
		}
	}
	if plus+minus == 0 {
		return 0
	}
	return 100 * (plus - minus) / (plus + minus)
}
