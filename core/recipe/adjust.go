package recipe

import (
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// AdjustInput is what ReservoirAdjust needs.
type AdjustInput struct {
	LevelL, CapacityL, FillToL       float64
	ECMScm, ECTargetMScm, WaterECMSc float64
	StockRise                        float64 // mS/cm when 1 mL (of each part) goes into 1 L
}

// Adjustment is drain, water, stock: in that order.
type Adjustment struct {
	DrainL, WaterL, StockML  float64
	LevelAfterL, ECAfterMScm float64
	Reachable                bool
	Why                      say.Text // when not reachable
	Steps                    []working.Step
}

// ReservoirAdjust answers what to drain, how much water and how much stock
// bring a tank to its level and strength, throwing away as little as possible.
// Linear mixing; the stock's own volume is left out.
func ReservoirAdjust(in AdjustInput) (Adjustment, error) {
	var e field.Errors
	e.Require(in.CapacityL > 0 && in.CapacityL <= 1e7, "capacity_l", "must be above 0 litres")
	e.Require(in.LevelL >= 0, "level_l", "must be 0 litres or more")
	e.Require(in.LevelL <= in.CapacityL || in.CapacityL <= 0, "level_l", "is more than the vessel holds")
	e.Require(in.FillToL > 0 && in.FillToL <= 1e7, "fill_to_l", "must be above 0 litres")
	e.Require(in.ECMScm >= 0 && in.ECMScm <= 100, "ec_ms_cm", "must be 0 to 100 mS/cm")
	e.Require(in.ECTargetMScm > 0 && in.ECTargetMScm <= 100, "ec_target_ms_cm", "must be above 0, up to 100 mS/cm")
	e.Require(in.WaterECMSc >= 0 && in.WaterECMSc <= 100, "water_ec_ms_cm", "must be 0 to 100 mS/cm")
	e.Require(in.StockRise > 0 && in.StockRise <= 100, "stock_ms_cm_per_ml_l", "must be above 0 mS/cm per mL/L")
	if err := e.Err(); err != nil {
		return Adjustment{}, err
	}
	if in.FillToL > in.CapacityL {
		return Adjustment{Why: say.T("the fill line is above what the vessel holds")}, nil
	}
	keep := min(in.LevelL, in.FillToL) // what of the old solution may stay
	mixed := (keep*in.ECMScm + (in.FillToL-keep)*in.WaterECMSc) / in.FillToL
	if mixed > in.ECTargetMScm {
		if in.WaterECMSc >= in.ECTargetMScm {
			return Adjustment{Why: say.T("the mix would stay above the target, and the water itself is too strong to bring it down")}, nil
		}
		keep = in.FillToL * (in.ECTargetMScm - in.WaterECMSc) / (in.ECMScm - in.WaterECMSc)
		mixed = in.ECTargetMScm
	}
	a := Adjustment{DrainL: in.LevelL - keep, WaterL: in.FillToL - keep, LevelAfterL: in.FillToL, ECAfterMScm: in.ECTargetMScm, Reachable: true}
	a.StockML = (in.ECTargetMScm - mixed) / in.StockRise * in.FillToL
	a.Steps = []working.Step{
		{Name: say.T("Old solution left in the tank"), Formula: say.T("%.4g L − %.4g L drained", in.LevelL, a.DrainL), Value: keep, Unit: "L"},
		{
			Name:    say.T("Mixed with water"),
			Formula: say.T("(%.4g × %.3g + %.4g × %.3g) ÷ %.4g", keep, in.ECMScm, a.WaterL, in.WaterECMSc, in.FillToL),
			Value:   mixed,
			Unit:    "mS/cm",
		},
		{
			Name:    say.T("Stock of each part"),
			Formula: say.T("(%.3g − %.3g) ÷ %.3g × %.4g", in.ECTargetMScm, mixed, in.StockRise, in.FillToL),
			Value:   a.StockML,
			Unit:    "mL",
		},
	}
	return a, nil
}
