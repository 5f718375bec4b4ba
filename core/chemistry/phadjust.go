package chemistry

import (
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Agent is an acid or base by its chemical name.
type Agent string

// The agents that can be dosed.
const (
	NitricAcid           Agent = "nitric_acid"
	SulfuricAcid         Agent = "sulfuric_acid"
	PhosphoricAcid       Agent = "phosphoric_acid"
	CitricAcid           Agent = "citric_acid"
	PotassiumHydroxide   Agent = "potassium_hydroxide"
	PotassiumCarbonate   Agent = "potassium_carbonate"
	PotassiumBicarbonate Agent = "potassium_bicarbonate"
)

// Acids are those that lower pH, the usual one first.
var Acids = []Agent{PhosphoricAcid, NitricAcid, CitricAcid, SulfuricAcid}

// Bases are those that raise it, the mildest first.
var Bases = []Agent{PotassiumBicarbonate, PotassiumCarbonate, PotassiumHydroxide}

type agentFacts struct {
	name      say.Words
	acid      bool
	molarMass float64 // g/mol
	Strong    float64 // equivalents of SID a mole changes it by, signed; 0 for phosphoric and citric
	Carbon    float64 // moles of carbon a mole brings
	Phosphate float64
	Citrate   float64
	Brings    string  // the element that feeds
	BringsG   float64 // g of it in a mole
}

// Agents are what is known of each.
var Agents = map[Agent]agentFacts{
	NitricAcid:           {name: "nitric acid", acid: true, molarMass: WH + WN + 3*WO, Strong: -1, Brings: "N", BringsG: WN},
	SulfuricAcid:         {name: "sulfuric acid", acid: true, molarMass: 2*WH + WS + 4*WO, Strong: -2, Brings: "S", BringsG: WS},
	PhosphoricAcid:       {name: "phosphoric acid", acid: true, molarMass: 3*WH + WP + 4*WO, Phosphate: 1, Brings: "P", BringsG: WP},
	CitricAcid:           {name: "citric acid", acid: true, molarMass: 6*WC + 8*WH + 7*WO, Citrate: 1},
	PotassiumHydroxide:   {name: "potassium hydroxide", molarMass: WK + WO + WH, Strong: 1, Brings: "K", BringsG: WK},
	PotassiumCarbonate:   {name: "potassium carbonate", molarMass: 2*WK + WC + 3*WO, Strong: 2, Carbon: 1, Brings: "K", BringsG: 2 * WK},
	PotassiumBicarbonate: {name: "potassium bicarbonate", molarMass: WK + WH + WC + 3*WO, Strong: 1, Carbon: 1, Brings: "K", BringsG: WK},
}

// Words is the agent's name as people say it; "" for an unknown agent.
func (a Agent) Words() say.Text { return Agents[a].name }

// Acid tells whether the agent lowers pH.
func (a Agent) Acid() bool { return Agents[a].acid }

// PHInput is what PHAdjust needs: litres, pH, mg/L as CaCO3, mg/L of phosphorus, mS/cm, °C, % by mass, g/mL.
type PHInput struct {
	VolumeL            float64
	PHNow, PHTarget    float64
	AlkalinityMgLCaCO3 float64
	PhosphorusMgL      float64
	ECMScm             float64
	TemperatureC       float64
	Agent              Agent
	StrengthPercent    float64
	DensityGML         float64 // 0 for a solid
}

// PHDose is how much of an agent brings a solution to its target.
type PHDose struct {
	Amount         float64 // mL of a liquid, g of a solid, with the gas kept in
	Unit           string  // "ml" or "g"
	MeqL           float64 // size of the change in strong-ion difference; strong agents only
	MmolL          float64 // of agent, for the others
	Strong         bool    // which of the two is meant
	DegassedAmount float64
	FirstAmount    float64
	WaitMinutes    int
	AddsMgL        map[string]float64
	Cautions       []say.Text
	Steps          []working.Step
}

func (in PHInput) check() error {
	var e field.Errors
	e.Require(in.VolumeL > 0 && in.VolumeL <= 1e7, "volume_l", "must be above 0, up to 10,000,000 litres")
	e.Require(in.PHNow >= 0 && in.PHNow <= 14, "ph_now", "must be a pH from 0 to 14")
	e.Require(in.PHTarget >= 0 && in.PHTarget <= 14, "ph_target", "must be a pH from 0 to 14")
	e.Require(in.AlkalinityMgLCaCO3 >= 0 && in.AlkalinityMgLCaCO3 <= 10000, "alkalinity_mg_l_caco3", "must be 0 to 10,000 mg/L as CaCO3")
	e.Require(in.PhosphorusMgL >= 0 && in.PhosphorusMgL <= 10000, "phosphorus_mg_l", "must be 0 to 10,000 mg/L")
	e.Require(in.ECMScm >= 0 && in.ECMScm <= 20, "ec_ms_cm", "must be 0 to 20 mS/cm")
	e.Require(in.TemperatureC >= 0 && in.TemperatureC <= 50, "temperature_c", "must be 0 to 50 °C")
	e.Require(in.StrengthPercent > 0 && in.StrengthPercent <= 100, "strength_percent", "must be a mass percentage above 0, up to 100")
	e.Require(in.DensityGML >= 0 && in.DensityGML <= 3, "density_g_ml", "must be above 0, up to 3 g/mL")
	f, known := Agents[in.Agent]
	e.Require(
		known,
		"agent",
		"must be nitric_acid, sulfuric_acid, phosphoric_acid, citric_acid, potassium_hydroxide, potassium_carbonate or potassium_bicarbonate",
	)
	if known && f.acid && in.PHTarget > in.PHNow {
		e.Add("agent", "an acid lowers pH, and the target is above the pH now: choose an alkali")
	}
	if known && !f.acid && in.PHTarget < in.PHNow {
		e.Add("agent", "an alkali raises pH, and the target is below the pH now: choose an acid")
	}
	return e.Err()
}

func (in PHInput) Start() (Medium, Makeup, float64) {
	m := NewMedium(in.ECMScm, in.TemperatureC)
	carbon := (in.AlkalinityMgLCaCO3/MgCaCO3PerEq - m.Hydroxide(in.PHNow)) / m.CarbonateCharge(in.PHNow)
	x := Makeup{Carbon: max(0, carbon), Phosphate: in.PhosphorusMgL / 1000 / WP}
	return m, x, m.Sid(in.PHNow, x)
}

// PHAdjust answers how much acid or base brings a solution to its target pH,
// by one charge balance for all agents. It refuses with field.Errors.
func PHAdjust(in PHInput) (PHDose, error) {
	if err := in.check(); err != nil {
		return PHDose{}, err
	}
	f := Agents[in.Agent]
	m, x, sidNow := in.Start()
	closed, err := molesNeeded(m, x, sidNow, in.PHTarget, f, false)
	if err != nil {
		return PHDose{}, err
	}
	if in.PHTarget == in.PHNow {
		closed = 0
	}
	open, err := molesNeeded(m, x, sidNow, in.PHTarget, f, true)
	if err != nil {
		return PHDose{}, err
	}
	toAmount := in.amountPerMolL()
	d := PHDose{
		Amount: closed * toAmount, Unit: "g", Strong: in.Agent == NitricAcid || in.Agent == SulfuricAcid || in.Agent == PotassiumHydroxide,
		DegassedAmount: max(0, open) * toAmount, WaitMinutes: 15, AddsMgL: map[string]float64{},
		Cautions: cautions(in.Agent),
	}
	if in.DensityGML > 0 {
		d.Unit = "ml"
	}
	d.FirstAmount = d.Amount / 2
	if d.Strong {
		d.MeqL = math.Abs(f.Strong) * closed * 1000
	} else {
		d.MmolL = closed * 1000
	}
	if f.Brings != "" {
		d.AddsMgL[f.Brings] = closed * f.BringsG * 1000
	}
	d.Steps = in.steps(m, x, f, d, closed)
	return d, nil
}

// amountPerMolL is the mL or g for the whole volume of one mol/L of agent.
func (in PHInput) amountPerMolL() float64 {
	grams := in.VolumeL * Agents[in.Agent].molarMass / (in.StrengthPercent / 100)
	if in.DensityGML > 0 {
		return grams / in.DensityGML
	}
	return grams
}

// molesNeeded solves the balance for the mol/L of agent; never negative.
func molesNeeded(m Medium, x Makeup, sidNow, target float64, f agentFacts, open bool) (float64, error) {
	gap := m.Sid(target, x) - sidNow // what the strong ions must make up
	if open {
		gap = m.openSID(target, x, airCO2*m.Henry) - sidNow
	}
	perMole := f.perMole(&m, target, open)
	if !f.acid && perMole <= 0 {
		return 0, field.Refuse(
			"ph_target",
			"potassium bicarbonate cannot reach this while the gas stays in; choose a target below about 8.3, or potassium carbonate",
		)
	}
	return max(0, gap/perMole), nil
}

// perMole is by how much a mole/L of the agent moves the strong-ion difference
// towards what the solution needs at a pH: less than nothing for an acid.
func (f agentFacts) perMole(m *Medium, ph float64, open bool) float64 {
	h := activity(ph)
	s := f.Strong - f.Phosphate*acidOf(h, m.phosphate).charge - f.Citrate*acidOf(h, m.citrate).charge
	if !open {
		s -= f.Carbon * m.CarbonateCharge(ph)
	}
	return s
}

// PHAfter forecasts the pH once an amount (mL or g) is mixed in, gas kept in.
func PHAfter(in PHInput, amount float64) (float64, error) {
	in.PHTarget = in.PHNow
	if err := in.check(); err != nil {
		return 0, err
	}
	f := Agents[in.Agent]
	m, x, sid := in.Start()
	moles := amount / in.amountPerMolL()
	x.Carbon += f.Carbon * moles
	x.Phosphate += f.Phosphate * moles
	x.Citrate += f.Citrate * moles
	return m.PhAt(sid+f.Strong*moles, x, in.PHNow), nil
}

// AlkalinityAfter is the carbonate and hydroxide part left, mg/L as CaCO3, once the amount is in.
func AlkalinityAfter(in PHInput, amount, phAfter float64) float64 {
	f := Agents[in.Agent]
	m, x, _ := in.Start()
	carbon := x.Carbon + f.Carbon*amount/in.amountPerMolL()
	return max(0, (carbon*m.CarbonateCharge(phAfter)+m.Hydroxide(phAfter))*MgCaCO3PerEq)
}

func (in PHInput) steps(m Medium, x Makeup, f agentFacts, d PHDose, moles float64) []working.Step {
	const source say.Words = "charge balance; Plummer and Busenberg (1982); Davies activities"
	unit := "mL"
	if d.Unit == "g" {
		unit = "g"
	}
	formula := say.T("%.4f mmol/L × %.4g L × %.4g g/mol ÷ %.4g %%", moles*1000, in.VolumeL, f.molarMass, in.StrengthPercent)
	if in.DensityGML > 0 {
		formula = say.T("%s ÷ %.4g g/mL", formula, in.DensityGML)
	}
	return []working.Step{
		{
			Name:    say.T("Dissolved inorganic carbon"),
			Formula: say.T("%.4g mg/L ÷ 50.04, by its charge at pH %.2f", in.AlkalinityMgLCaCO3, in.PHNow),
			Value:   x.Carbon * 1000,
			Unit:    "mmol/L",
			Source:  source,
		},
		{Name: say.T("Charge imbalance"), Formula: say.T("at pH %.2f, the gas kept in", in.PHNow), Value: m.Sid(in.PHNow, x) * 1000, Unit: "meq/L"},
		{
			Name:    say.T("Charge at the target"),
			Formula: say.T("at pH %.2f, the gas kept in", in.PHTarget),
			Value:   m.Sid(in.PHTarget, x) * 1000,
			Unit:    "meq/L",
		},
		{Name: say.T("Amount of %s", f.name), Formula: formula, Value: d.Amount, Unit: unit},
		{Name: say.T("Half of it first"), Formula: say.T("÷ 2, then wait and read again"), Value: d.FirstAmount, Unit: unit},
	}
}

func cautions(a Agent) []say.Text {
	switch a {
	case CitricAcid:
		return []say.Text{
			say.T("Adult only. Gloves and goggles; no dust."),
			say.T("Dissolve it in water first. Microbes feed on it, so the pH rises again within days."),
		}
	case PotassiumBicarbonate:
		return []say.Text{say.T("Adult only. Gloves and goggles; no dust."), say.T("Dissolve it in water first; it fizzes with acid.")}
	case PotassiumHydroxide, PotassiumCarbonate:
		return []say.Text{
			say.T(
				"Adult only. Goggles and gloves: alkali blinds.",
			), say.T("Pour alkali into water, never water into alkali; it gets hot. Never mix it with an acid."),
			say.T("Store and handle it as your local rules say."),
		}
	}
	return []say.Text{
		say.T(
			"Adult only. Goggles and gloves.",
		), say.T("Pour acid into water, never water into acid. Never mix it with bleach, with anything else that contains chlorine, or with another " +
			"acid or alkali."),
		say.T("Store and handle it as your local rules say."),
	}
}

// Product is an acid or base as it stands on the school's shelf.
type Product struct {
	Agent           Agent   `json:"agent"`
	StrengthPercent float64 `json:"strength_percent"`
	DensityGML      float64 `json:"density_g_ml,omitempty"`
}

// Unit is "mL" for a liquid and "g" for a solid.
func (p Product) Unit() string {
	if p.DensityGML > 0 {
		return "mL"
	}
	return "g"
}

// Name says what stands on the label: nitric acid 38 %.
func (p Product) Name() say.Text { return say.T("%s %.4g %%", p.Agent.Words(), p.StrengthPercent) }
