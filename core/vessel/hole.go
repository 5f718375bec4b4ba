package vessel

import (
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// NetPot is a net pot by its measures, cm: across under its rim, across its foot, and its
// height from there to the rim.
type NetPot struct{ RimCM, FootCM, HeightCM float64 }

// Hole is what to cut into a lid for a net pot, so that its rim rests on it: across, and how
// wide to open the compass.
type Hole struct {
	AcrossCM, CompassCM float64
	RestsCM             float64 // so far below the rim the lid holds it
	Steps               []working.Step
}

// restsBelow is how far below the rim a pot is held: tight enough that it does not tip.
const restsBelow = 0.3

// Cut answers the hole for a net pot. It refuses with field.Errors.
func Cut(p NetPot) (Hole, error) {
	var e field.Errors
	e.Require(p.RimCM >= 1 && p.RimCM <= 30, "rim_cm", "must be %s to %s", say.Figure(1, unit.Centimetre), say.Of(30, unit.Centimetre))
	e.Require(p.FootCM > 0 && p.FootCM <= p.RimCM, "foot_cm", "must be above 0, up to the rim")
	e.Require(p.HeightCM >= 1 && p.HeightCM <= 40, "height_cm", "must be %s to %s", say.Figure(1, unit.Centimetre), say.Of(40, unit.Centimetre))
	if err := e.Err(); err != nil {
		return Hole{}, err
	}
	h := Hole{RestsCM: restsBelow, AcrossCM: p.RimCM - (p.RimCM-p.FootCM)/p.HeightCM*restsBelow}
	h.CompassCM = h.AcrossCM / 2
	h.Steps = []working.Step{
		{
			Name:    say.T("Diameter where the lid holds it"),
			Formula: say.T("%.3g − (%.3g − %.3g) ÷ %.3g × %.2g", p.RimCM, p.RimCM, p.FootCM, p.HeightCM, restsBelow), Value: h.AcrossCM, Unit: unit.Centimetre,
		},
		{Name: say.T("Compass"), Formula: say.T("half of it"), Value: h.CompassCM, Unit: unit.Centimetre},
	}
	return h, nil
}
