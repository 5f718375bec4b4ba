package vessel

import (
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// Settling is by how much mix usually settles when it is watered in, as a share.
const Settling = 0.15

// PotsInput is pots, flats or a bed to be filled with mix.
type PotsInput struct {
	Pot      Vessel   // a tube is a cylinder, a flat or a bed a box
	Count    int      // 0 or more
	FillCM   *float64 // nil: to its height
	Settling float64  // 0 to 0.6
	BagL     *float64 // of mix; nil: no bags are worked out
}

// Pots is what they take, in litres.
type Pots struct {
	PotL, FilledL float64  // one, to the brim and as it is filled
	MixL          float64  // loose, for all of them
	Bags          *int     // whole ones; nil: not worked out
	LeftL         *float64 // of the last bag
	Steps         []working.Step
}

// FillPots answers how much loose mix pots take, which settles by a share when it is watered
// in. It refuses with field.Errors: the pot's sizes as Vessel's.
func FillPots(in PotsInput) (Pots, error) {
	if err := in.Pot.check(); err != nil {
		return Pots{}, err
	}
	var e field.Errors
	height := in.Pot.height()
	e.Require(in.FillCM == nil || *in.FillCM > 0 && *in.FillCM <= height, "fill_cm", "must be above 0 cm, up to the height of %.6g cm", height)
	e.Require(in.Count >= 0 && in.Count <= 1_000_000, "count", "must be a whole number from 0 to 1,000,000")
	e.Require(in.Settling >= 0 && in.Settling <= 0.6, "settling", "must be a share from 0 to 0.6")
	e.Require(in.BagL == nil || *in.BagL > 0 && *in.BagL <= 1e6, "bag_l", "must be above 0 litres")
	if err := e.Err(); err != nil {
		return Pots{}, err
	}
	p := Pots{PotL: in.Pot.litres(height)}
	p.FilledL = p.PotL
	if in.FillCM != nil {
		p.FilledL = in.Pot.litres(*in.FillCM)
	}
	p.MixL = float64(in.Count) * p.FilledL / (1 - in.Settling)
	p.Steps = []working.Step{
		{Name: say.T("One, filled"), Formula: in.Pot.formula(), Value: p.FilledL, Unit: unit.Litre},
		{Name: say.T("Loose mix for all"), Formula: say.T("%d × %.4g ÷ (1 − %.3g)", in.Count, p.FilledL, in.Settling), Value: p.MixL, Unit: unit.Litre},
	}
	if in.BagL != nil {
		n := int(math.Ceil(p.MixL / *in.BagL - 1e-9))
		left := float64(n)**in.BagL - p.MixL
		p.Bags, p.LeftL = &n, &left
		p.Steps = append(p.Steps, working.Step{Name: say.T("Whole bags"), Formula: say.T("%.4g ÷ %.4g, rounded up", p.MixL, *in.BagL), Value: float64(n)})
	}
	return p, nil
}
