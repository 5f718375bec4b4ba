package solution

import (
	"fmt"
	"time"

	"ulpa/core/field"
	"ulpa/core/unit"
)

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
func (p Product) Name() string { return fmt.Sprintf("%s %.4g %%", p.Agent.Words(), p.StrengthPercent) }

// Spec is what is known about a tank and what it should hold.
type Spec struct {
	CapacityL  float64 `json:"capacity_l"`
	FillToL    float64 `json:"fill_to_l"`
	DryBelowL  float64 `json:"dry_below_l"` // the pump, or the roots, run dry
	UseLPerDay float64 `json:"use_l_per_day"`
	Passive    bool    `json:"passive,omitempty"` // a jar without a pump: never filled to the top

	PHLow    float64 `json:"ph_low"`
	PHTarget float64 `json:"ph_target"`
	PHHigh   float64 `json:"ph_high"`
	ECLow    float64 `json:"ec_low"`
	ECTarget float64 `json:"ec_target"`
	ECHigh   float64 `json:"ec_high"`

	WaterEC         float64 `json:"water_ec"`
	WaterAlkalinity float64 `json:"water_alkalinity"` // mg/L as CaCO3
	PhosphorusMgL   float64 `json:"phosphorus_mg_l"`
	StockRise       float64 `json:"stock_rise"` // mS/cm for 1 mL of each part in 1 L
	StockName       string  `json:"stock_name"`
	Acid            Product `json:"acid"`
	Base            Product `json:"base"`
	ReadEveryDays   int     `json:"read_every_days"`
}

// Reading is what a person read; nil is not read.
type Reading struct {
	PH     *float64 `json:"ph,omitempty"`
	ECMS   *float64 `json:"ec_ms,omitempty"`
	TempC  *float64 `json:"temp_c,omitempty"`
	LevelL *float64 `json:"level_l,omitempty"`
}

// Treatment is what was really done to a tank, in the order drain, water, stock, acid or base.
type Treatment struct {
	DrainL  float64 `json:"drain_l,omitempty"`
	WaterL  float64 `json:"water_l,omitempty"`
	StockML float64 `json:"stock_ml,omitempty"` // of each part
	Agent   Agent   `json:"agent,omitempty"`
	Amount  float64 `json:"amount,omitempty"` // mL or g of the shelf's product
}

// Empty tells whether nothing was done.
func (t Treatment) Empty() bool {
	return t.DrainL == 0 && t.WaterL == 0 && t.StockML == 0 && t.Amount == 0
}

// Check refuses impossible amounts, by field.
func (t Treatment) Check(s Spec) error {
	var e field.Errors
	e.Require(t.DrainL >= 0 && t.DrainL <= s.CapacityL, "drain", "takes 0 up to what the tank holds")
	e.Require(t.WaterL >= 0 && t.WaterL <= s.CapacityL, "water", "takes 0 up to what the tank holds")
	e.Require(t.StockML >= 0 && t.StockML <= 20*s.CapacityL, "stock", "takes 0 up to 20 mL for every litre the tank holds")
	e.Require(t.Amount >= 0 && t.Amount <= 5*s.CapacityL, "amount", "takes 0 up to 5 for every litre the tank holds")
	e.Require(t.Amount == 0 || t.Agent == s.Acid.Agent || t.Agent == s.Base.Agent, "agent", "is not on this tank's shelf")
	e.Require(!t.Empty(), "water", "say what was added or drained")
	return e.Err()
}

// Response is how the last dose of acid or base moved the pH, and how it should have.
type Response struct {
	Expected float64   `json:"expected"` // change of pH foretold
	Actual   float64   `json:"actual"`   // change of pH read afterwards
	At       time.Time `json:"at"`
}

// State is what a tank holds as far as anybody knows.
type State struct {
	LevelL     *float64   `json:"level_l,omitempty"`
	PH         *float64   `json:"ph,omitempty"`
	ECMS       *float64   `json:"ec_ms,omitempty"`
	TempC      *float64   `json:"temp_c,omitempty"`
	Alkalinity *float64   `json:"alkalinity,omitempty"` // mg/L as CaCO3, by balance
	ReadAt     *time.Time `json:"read_at,omitempty"`
	LevelAt    *time.Time `json:"level_at,omitempty"`
	TreatedAt  *time.Time `json:"treated_at,omitempty"` // not yet followed by a reading
	DosedAt    *time.Time `json:"dosed_at,omitempty"`   // acid or base, not yet followed by a pH reading
	ExpectPH   *float64   `json:"expect_ph,omitempty"`  // what the next reading should show
	ExpectEC   *float64   `json:"expect_ec,omitempty"`
	PHBefore   *float64   `json:"ph_before,omitempty"` // before the dose that is still to be read
	Seen       *Response  `json:"seen,omitempty"`
}

// Verdict compares a reading with what the last treatment promised.
type Verdict struct{ PH, ExpectPH, EC, ExpectEC *float64 }

// Read takes a reading into the state, and tells what had been expected.
func (s *State) Read(spec Spec, r Reading, at time.Time) Verdict {
	v := Verdict{PH: r.PH, EC: r.ECMS}
	if r.PH != nil {
		v.ExpectPH = s.ExpectPH
		if s.DosedAt != nil && s.PHBefore != nil && s.ExpectPH != nil {
			s.Seen = &Response{Expected: *s.ExpectPH - *s.PHBefore, Actual: *r.PH - *s.PHBefore, At: at}
		}
		s.PH, s.ExpectPH, s.DosedAt, s.PHBefore = r.PH, nil, nil, nil
	}
	if r.ECMS != nil {
		v.ExpectEC = s.ExpectEC
		s.ECMS, s.ExpectEC = r.ECMS, nil
	}
	if r.TempC != nil {
		s.TempC = r.TempC
	}
	if r.LevelL != nil {
		s.LevelL, s.LevelAt = r.LevelL, &at
	}
	if s.Alkalinity == nil {
		a := spec.WaterAlkalinity
		s.Alkalinity = &a
	}
	s.ReadAt, s.TreatedAt = &at, nil
	return v
}

// Treat takes what was added into the state and foretells the next reading.
// Volumes mix linearly; alkalinity follows the water in and the acid out.
func (s *State) Treat(spec Spec, t Treatment, at time.Time) {
	level := spec.FillToL
	if s.LevelL != nil {
		level = *s.LevelL
	}
	keep := max(0, level-t.DrainL)
	total := keep + t.WaterL
	if total > 0 {
		if s.PH != nil && t.WaterL > 0 {
			ph := s.mixPH(spec, keep, t.WaterL)
			s.PH = &ph
		}
		mix := func(old *float64, water float64) *float64 {
			if old == nil {
				return nil
			}
			v := (*old*keep + water*t.WaterL) / total
			return &v
		}
		s.Alkalinity = mix(s.Alkalinity, spec.WaterAlkalinity)
		if s.ECMS = mix(s.ECMS, spec.WaterEC); s.ECMS != nil {
			*s.ECMS += t.StockML / total * spec.StockRise
			ec := *s.ECMS
			s.ExpectEC = &ec
		}
	}
	s.LevelL = &total
	s.LevelAt, s.TreatedAt = &at, &at
	if t.Amount > 0 && s.PH != nil && total > 0 {
		in := s.phInput(spec, spec.product(t.Agent), total)
		if after, err := PHAfter(in, t.Amount); err == nil {
			before, alk := *s.PH, alkalinityAfter(in, t.Amount, after)
			s.PHBefore, s.ExpectPH, s.Alkalinity, s.DosedAt = &before, &after, &alk, &at
			now := after
			s.PH = &now
		}
	}
}

func (s Spec) product(a Agent) Product {
	if a == s.Base.Agent {
		return s.Base
	}
	return s.Acid
}

func (s *State) phInput(spec Spec, p Product, volumeL float64) PHInput {
	in := PHInput{
		VolumeL: volumeL, PHNow: *s.PH, PHTarget: spec.PHTarget, PhosphorusMgL: spec.PhosphorusMgL,
		ECMScm: spec.ECTarget, TemperatureC: 20, Agent: p.Agent, StrengthPercent: p.StrengthPercent, DensityGML: p.DensityGML,
		AlkalinityMgLCaCO3: spec.WaterAlkalinity,
	}
	if s.ECMS != nil {
		in.ECMScm = *s.ECMS
	}
	if s.TempC != nil {
		in.TemperatureC = *s.TempC
	}
	if s.Alkalinity != nil {
		in.AlkalinityMgLCaCO3 = *s.Alkalinity
	}
	in.AlkalinityMgLCaCO3 = min(in.AlkalinityMgLCaCO3, in.mostAlkalinity(spec.WaterAlkalinity))
	return in
}

// DoseInput is what bringing a tank to its target pH is worked out from, with the
// product of its shelf that leads there; false while pH or level are not known.
func (s State) DoseInput(spec Spec) (PHInput, bool) {
	if s.PH == nil || s.LevelL == nil {
		return PHInput{}, false
	}
	p := spec.Acid
	if *s.PH < spec.PHTarget {
		p = spec.Base
	}
	return s.phInput(spec, p, *s.LevelL), true
}

// tapPH is what hard tap water usually stands at.
const tapPH = 7.6

// mostAlkalinity is what the carbon that the tap water brought can carry at the
// pH now: a sour tank cannot hold the tap's alkalinity any more.
func (in PHInput) mostAlkalinity(waterMgL float64) float64 {
	m := newMedium(in.ECMScm, in.TemperatureC)
	carbon := waterMgL / mgCaCO3PerEq / m.carbonateCharge(tapPH)
	return (carbon*m.carbonateCharge(in.PHNow) + m.hydroxide(in.PHNow)) * mgCaCO3PerEq
}

// mixPH is the pH once water from the tap has been mixed in: charges and carbon
// add up, each with its share of the volume.
func (s *State) mixPH(spec Spec, keepL, waterL float64) float64 {
	old := s.phInput(spec, spec.Acid, keepL+waterL)
	m, x, sid := old.start()
	tap := old
	tap.PHNow, tap.AlkalinityMgLCaCO3, tap.PhosphorusMgL = tapPH, spec.WaterAlkalinity, 0
	_, y, tapSID := tap.start()
	blend := func(a, b float64) float64 { return (a*keepL + b*waterL) / (keepL + waterL) }
	return m.phAt(blend(sid, tapSID), makeup{carbon: blend(x.carbon, y.carbon), phosphate: blend(x.phosphate, y.phosphate)}, *s.PH)
}

// Doubt is a figure that cannot be, or hardly can be.
type Doubt struct {
	Field   string
	What    string // "A level"
	Value   float64
	Unit    string
	Last    *float64 // when it is far from this one only
	Maybe   *float64 // what was probably meant
	Refused bool     // cannot be stored even if insisted on
}

// Message says what is doubtful in the reader's units.
func (d Doubt) Message(p unit.Prefs) string {
	is := fmt.Sprintf("%.4g", p.Out(d.Value, d.Unit))
	if d.Unit != "pH" {
		is += " " + p.Name(d.Unit)
	}
	switch {
	case d.Refused:
		return d.What + " cannot be " + is + "."
	case d.Last != nil:
		return fmt.Sprintf("It was %s when last known; that is a long way in one go.", p.Figure(*d.Last, d.Unit))
	}
	return d.What + " of " + is + " is far from usual."
}

// Doubts asks about figures that are out of the world, ten times off, or far
// from the last ones.
func Doubts(spec Spec, s State, r Reading) []Doubt {
	var out []Doubt
	add := func(field string, v *float64, low, high, usualLow, usualHigh float64, what, in string) {
		if v == nil {
			return
		}
		d := Doubt{Field: field, What: what, Value: *v, Unit: in}
		for _, by := range []float64{10, 0.1, 1000, 0.001} {
			if x := *v / by; x >= usualLow && x <= usualHigh && (*v < usualLow || *v > usualHigh) {
				d.Maybe = &x
				break
			}
		}
		d.Refused = *v < low || *v > high
		if d.Refused || *v < usualLow || *v > usualHigh {
			out = append(out, d)
		}
	}
	add("ph", r.PH, 0, 14, 3.5, 9, "pH", "pH")
	add("ec", r.ECMS, 0, 20, spec.WaterEC*0.5, 5, "A strength", unit.MS)
	add("temp", r.TempC, -5, 60, 4, 36, "A temperature", unit.Celsius)
	add("level", r.LevelL, 0, spec.CapacityL, 0, spec.CapacityL, "A level", unit.Litre)
	if r.PH != nil && s.PH != nil && len(out) == 0 {
		if jump := *r.PH - *s.PH; jump > 1.8 || jump < -1.8 {
			out = append(out, Doubt{Field: "ph", What: "pH", Value: *r.PH, Unit: "pH", Last: s.PH})
		}
	}
	return out
}
