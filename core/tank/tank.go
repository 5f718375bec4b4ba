package tank

import (
	"time"

	"ulpa/core/chemistry"
	"ulpa/core/field"
	"ulpa/core/gauge"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/vessel"
)

// Spec is what is known about a tank and what it should hold.
type Spec struct {
	CapacityL float64 `json:"capacity_l"`
	FillToL   float64 `json:"fill_to_l"`
	DryBelowL float64 `json:"dry_below_l"`           // the pump, or the roots, run dry
	Passive   bool    `json:"passive,omitempty"`     // a jar without a pump: never filled to the top
	Filled    string  `json:"filled,omitempty"`      // of a jar: how it was when it was set up, "" for empty
	HeightCM  float64 `json:"height_cm,omitempty"`   // of a jar, inside; its walls are taken for straight
	PotFootCM float64 `json:"pot_foot_cm,omitempty"` // of a jar: the net pot's foot above the floor
	Stick     Stick   `json:"stick,omitzero"`

	PHLow    float64 `json:"ph_low"`
	PHTarget float64 `json:"ph_target"`
	PHHigh   float64 `json:"ph_high"`
	ECLow    float64 `json:"ec_low"`
	ECTarget float64 `json:"ec_target"`
	ECHigh   float64 `json:"ec_high"`

	WaterEC         float64           `json:"water_ec"`
	WaterAlkalinity float64           `json:"water_alkalinity"` // mg/L as CaCO3
	PhosphorusMgL   float64           `json:"phosphorus_mg_l"`
	StockRise       float64           `json:"stock_rise"`           // mS/cm for 1 mL of each part in 1 L
	Feed            string            `json:"feed,omitempty"`       // stocks, or BySpoon
	SpoonRise       float64           `json:"spoon_rise,omitempty"` // mS/cm for one level teaspoon in a bucket
	BucketL         float64           `json:"bucket_l,omitempty"`   // that holds so much
	StockName       string            `json:"stock_name"`
	Stocks          string            `json:"stocks,omitempty"` // the id of the pair of bottles it is fed from; "": nobody said
	Acid            chemistry.Product `json:"acid"`
	Base            chemistry.Product `json:"base"`
	ReadEveryDays   int               `json:"read_every_days"`
	PumpOnMin       float64           `json:"pump_on_min,omitempty"`    // its timer: so many minutes
	PumpEveryMin    float64           `json:"pump_every_min,omitempty"` // in every so many; 0: it always runs
	ChangeDays      int               `json:"change_days,omitempty"`    // 0: by what has built up, not by the calendar
}

// Usual is a spec with what nobody asks for on a first day filled in: a solution made of
// two parts, thirty milligrams of phosphorus in a litre (what leafy recipes hold, and what
// buffers little), and on the shelf the alkali that harms least (potassium bicarbonate).
func Usual(s Spec) Spec {
	if s.PhosphorusMgL == 0 {
		s.PhosphorusMgL = 30
	}
	if s.StockName == "" {
		s.StockName = string(usualStock)
	}
	if s.Base.Agent == "" {
		s.Base = chemistry.Product{Agent: chemistry.PotassiumBicarbonate, StrengthPercent: 99}
	}
	if s.PHLow == 0 && s.PHTarget == 0 && s.PHHigh == 0 { // what leafy crops are usually kept at
		s.PHLow, s.PHTarget, s.PHHigh = 5.5, 5.9, 6.3
	}
	if s.ECLow == 0 && s.ECTarget == 0 && s.ECHigh == 0 {
		s.ECLow, s.ECTarget, s.ECHigh = 0.8, 1.2, 1.6
	}
	if s.FillToL == 0 {
		s.FillToL = usualFill * s.CapacityL
		if s.Passive {
			shape, foot := s.jar()
			s.FillToL = s.CapacityL * foot / shape.HeightCM
		}
	}
	if s.DryBelowL == 0 && !s.Passive {
		s.DryBelowL = usualDry * s.FillToL
	}
	if s.ReadEveryDays == 0 {
		s.ReadEveryDays = 3
	}
	return s
}

// FilledFoot is a jar that was set up filled to the bottom of its net pot.
const FilledFoot = "foot"

// Where nobody says how far a tank is filled and where its pump runs dry: shares of what it
// holds, and of its fill.
const usualFill, usualDry = 0.9, 0.15

// Doubtful are its figures that can be and seldom are, by field: they are asked about.
func (s Spec) Doubtful() (out field.Errors) {
	ask := func(name string, v, low, high float64, unit string) {
		if v != 0 && (v < low || v > high) {
			out.Tell(name, say.T("usually is %s to %s: is %s right?", say.Figure(low, unit), say.Of(high, unit), say.Of(v, unit)))
		}
	}
	ask("read_every_days", float64(s.ReadEveryDays), 1, 14, "days")
	ask("change_days", float64(s.ChangeDays), 7, 120, "days")
	ask("capacity_l", s.CapacityL, 0.2, 2000, unit.Litre)
	if s.Passive {
		shape, _ := s.jar()
		ask("height_cm", s.HeightCM, 5, 80, unit.Centimetre)
		ask("pot_foot_cm", s.PotFootCM, 0.5*shape.HeightCM, 0.97*shape.HeightCM, unit.Centimetre)
	} else {
		fill := Usual(s).FillToL
		ask("fill_to_l", s.FillToL, 0.5*s.CapacityL, s.CapacityL, unit.Litre)
		ask("dry_below_l", s.DryBelowL, 0.02*fill, 0.5*fill, unit.Litre)
		ask("pump_on_min", s.PumpOnMin, 1, 60, "minutes")
		ask("pump_every_min", s.PumpEveryMin, 5, 180, "minutes")
	}
	ask("ph_low", s.PHLow, 5, 6.5, "pH")
	ask("ph_target", s.PHTarget, 5.2, 6.8, "pH")
	ask("ph_high", s.PHHigh, 5.5, 7, "pH")
	ask("ec_low", s.ECLow, 0.2, 3, unit.MS)
	ask("ec_target", s.ECTarget, 0.3, 3.5, unit.MS)
	ask("ec_high", s.ECHigh, 0.5, 4, unit.MS)
	ask("water_ec", s.WaterEC, 0.01, 1.5, unit.MS)
	ask("water_alkalinity", s.WaterAlkalinity, 1, 400, "mg/L")
	if s.Feed == BySpoon {
		ask("spoon_rise", s.SpoonRise, 0.05, 5, unit.MS)
		ask("bucket_l", s.BucketL, 3, 20, unit.Litre)
	} else {
		ask("stock_rise", s.StockRise, 0.02, 0.6, unit.MS)
	}
	if most, told := usualStrength[s.Acid.Agent]; told {
		ask("acid.strength_percent", s.Acid.StrengthPercent, 1, most, "%")
		ask("acid.density_g_ml", s.Acid.DensityGML, 1, 1.75, "g/mL")
	}
	ask("base.strength_percent", s.Base.StrengthPercent, 5, 100, "%")
	return out
}

// usualStrength is how strong acids are sold to people who are no chemists, at most, % by mass.
var usualStrength = map[chemistry.Agent]float64{
	chemistry.NitricAcid: 60, chemistry.SulfuricAcid: 40, chemistry.PhosphoricAcid: 85, chemistry.CitricAcid: 100,
}

// BySpoon is the feed of a school that measures one powder by the level teaspoon.
const BySpoon = "spoon"

// Teaspoon is a level teaspoon, mL.
const Teaspoon = 5

// Rise is how much 1 mL of the feed, of each part or of the powder, raises 1 L, mS/cm.
func (s Spec) Rise() float64 {
	if s.Feed == BySpoon {
		return s.SpoonRise * s.BucketL / Teaspoon
	}
	return s.StockRise
}

// usualStock is what a solution of two parts is called.
const usualStock say.Words = "stock A and B"

// Stock is what the stock is called.
func (s Spec) Stock() say.Text {
	if s.Feed == BySpoon {
		return say.T("feed")
	}
	return say.Words(s.StockName)
}

// Usual sizes of a jar whose own are not known.
const (
	jarHeightCM = 25
	jarFoot     = 0.8 // of its height
)

// jar is the vessel of a jar without a pump, and where the net pot's foot is, cm.
func (s Spec) jar() (v vessel.Vessel, footCM float64) {
	height, foot := s.HeightCM, s.PotFootCM
	if height == 0 {
		height = jarHeightCM
	}
	if foot == 0 || foot > height {
		foot = jarFoot * height
	}
	side := 1000 * s.CapacityL / height // of the floor, cm²
	return vessel.Vessel{Shape: vessel.Box, LengthCM: side, WidthCM: 1, HeightCM: height}, foot
}

// What a pH was read with, and how far such readings are out (standard error).
const (
	ByPen        = ""
	ByCard       = "card"
	ByCardAtLamp = "lamp"
)

// Reading is what a person read; nil is not read.
type Reading struct {
	PH      *float64 `json:"ph,omitempty"`
	ECMS    *float64 `json:"ec_ms,omitempty"`
	TempC   *float64 `json:"temp_c,omitempty"`
	LevelL  *float64 `json:"level_l,omitempty"`
	RootsCM *float64 `json:"roots_cm,omitempty"` // of a jar: how far roots were seen to hang below the net pot
	With    string   `json:"with,omitempty"`     // what the pH was read with
	Meter   string   `json:"meter,omitempty"`    // the id of the meter, where it was one of the school's
	PHErr   float64  `json:"ph_err,omitempty"`   // how far its pH was out then; 0: as usual of With
	Plants  *int     `json:"plants,omitempty"`   // how many drank there then
}

// mostRoots is how far roots hang at most, cm.
const mostRoots = 100

// Check refuses, by field, a reading without a figure, or with one that cannot be.
func (r Reading) Check(s Spec, at time.Time) error {
	var e field.Errors
	e.Require(r.PH != nil || r.ECMS != nil || r.TempC != nil || r.LevelL != nil || r.RootsCM != nil, "ph", "type at least one figure")
	e.Require(r.RootsCM == nil || *r.RootsCM >= 0 && *r.RootsCM <= mostRoots, "roots", "must be 0 up to %s", say.Of(mostRoots, unit.Centimetre))
	e.Require(r.RootsCM == nil || s.Passive, "roots", "are read only in jars without a pump")
	for _, d := range Doubts(s, State{}, r, at) {
		if !d.Refused {
			continue
		}
		says := d.Message()
		if d.Maybe != nil {
			says = say.T("%s Did you mean %s?", says, say.Figure(*d.Maybe, d.Unit))
		}
		e.Tell(d.Field, says)
	}
	return e.Err()
}

// PHError is how far its pH may be out.
func (r Reading) PHError() float64 {
	if r.PHErr > 0 {
		return r.PHErr
	}
	switch r.With {
	case ByCard:
		return gauge.CardError
	case ByCardAtLamp:
		return gauge.CardUnderLamp
	}
	return gauge.PenError
}

// Treatment is what was really done to a tank, in the order drain, water, stock, acid or base.
type Treatment struct {
	DrainL  float64         `json:"drain_l,omitempty"`
	WaterL  float64         `json:"water_l,omitempty"`
	StockML float64         `json:"stock_ml,omitempty"` // of each part
	Spoons  float64         `json:"spoons,omitempty"`   // level teaspoons of a powder, where that is the feed
	Agent   chemistry.Agent `json:"agent,omitempty"`
	Amount  float64         `json:"amount,omitempty"` // of the shelf's product
	Unit    string          `json:"unit,omitempty"`   // of the amount: mL, or g of a solid
}

// FedML is how much feed went in: of each part, or of the powder.
func (t Treatment) FedML() float64 { return t.StockML + Teaspoon*t.Spoons }

// Empty tells whether nothing was done.
func (t Treatment) Empty() bool {
	return t.DrainL == 0 && t.WaterL == 0 && t.FedML() == 0 && t.Amount == 0
}

// Check refuses, by field, what cannot have been added to a tank that stood like this at
// that time, in the reader's units.
func (t Treatment) Check(s Spec, before State, at time.Time) error {
	var e field.Errors
	e.Require(t.DrainL >= 0 && t.DrainL <= s.CapacityL, "drain", "must be 0 up to what the tank holds")
	e.Require(t.WaterL >= 0 && t.WaterL <= s.CapacityL, "water", "must be 0 up to what the tank holds")
	e.Require(t.StockML >= 0 && t.StockML <= 20*s.CapacityL, "stock", "must be 0 up to 20 mL for every litre the tank holds")
	e.Require(t.Spoons >= 0 && t.Spoons <= 4*s.CapacityL, "spoons", "must be 0 up to 4 for every litre the tank holds")
	e.Require(t.StockML == 0 || s.Feed != BySpoon, "stock", "does not fit this tank’s feed: enter the spoons instead")
	e.Require(t.Spoons == 0 || s.Feed == BySpoon, "spoons", "does not fit this tank’s feed: enter the stock instead")
	e.Require(t.Amount >= 0 && t.Amount <= 5*s.CapacityL, "amount", "must be 0 up to 5 for every litre the tank holds")
	e.Require(t.Amount == 0 || t.Agent == s.Acid.Agent || t.Agent == s.Base.Agent, "agent", "is not on this tank's shelf")
	e.Require(!t.Empty(), "water", "enter what was added or drained")
	if before.LevelL != nil && len(e) == 0 {
		// What was drunk since the level was read may be less than is worked out, or more.
		now := before.LevelOn(s, at)
		e.Require(t.DrainL <= *before.LevelL+0.01, "drain", "is more than the %s in it", say.Of(*before.LevelL, unit.Litre))
		e.Require(max(0, now-t.DrainL)+t.WaterL <= s.CapacityL*1.02+0.01, "water", "would overflow: it holds %s", say.Of(s.CapacityL, unit.Litre))
	}
	return e.Err()
}

// Shelf is the product of an agent that stands beside the tank.
func (s Spec) Shelf(a chemistry.Agent) chemistry.Product {
	if a == s.Base.Agent {
		return s.Base
	}
	return s.Acid
}

// Measured is a treatment with the unit of what was taken from the shelf.
func (s Spec) Measured(t Treatment) Treatment {
	if t.Unit = ""; t.Amount > 0 {
		t.Unit = s.Shelf(t.Agent).Unit()
	}
	return t
}

// Visit is when somebody is next there.
type Visit struct {
	At     time.Time
	On     say.Text // as people say the day
	Closed int      // days without anybody before it
}
