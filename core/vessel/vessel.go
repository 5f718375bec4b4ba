// Package vessel is how much stands in a jar, a bucket or a tank, how long it lasts, and how
// much may be poured so that roots still breathe. Lengths are centimetres, volumes litres.
//
//	box := vessel.Vessel{Shape: vessel.Box, LengthCM: 60, WidthCM: 40, HeightCM: 30}
//	f, err := box.AtDepth(20)
package vessel

import (
	"fmt"
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
	"ulpa/core/zero"
)

// Shape of a vessel.
type Shape string

// The shapes; tapers run straight from bottom to top.
const (
	Box         Shape = "box"
	Cylinder    Shape = "cylinder"
	RoundTaper  Shape = "round_taper"
	SquareTaper Shape = "square_taper"
	Marks       Shape = "marks"
)

// Mark is a line on a vessel: so many litres at that depth.
type Mark struct{ DepthCM, Litres float64 }

// Vessel is a shape with its sizes in cm. Which count follows from Shape.
type Vessel struct {
	Shape                                                  Shape
	LengthCM, WidthCM, HeightCM, DiameterCM                float64
	TopDiameterCM, BottomDiameterCM                        float64
	TopLengthCM, TopWidthCM, BottomLengthCM, BottomWidthCM float64
	Marks                                                  []Mark
}

// Filled is a vessel filled to a depth.
type Filled struct {
	Litres, DepthCM, FullLitres float64
	Steps                       []working.Step
}

// AtDepth answers how many litres stand at a depth.
func (v Vessel) AtDepth(depthCM float64) (Filled, error) {
	if err := v.check(); err != nil {
		return Filled{}, err
	}
	if !(depthCM >= 0 && depthCM <= v.height()) {
		return Filled{}, field.Refuse("depth_cm", "must be 0 up to the height of %.6g cm", v.height())
	}
	return v.filled(v.litres(depthCM), depthCM), nil
}

// AtLitres answers how deep so many litres stand.
func (v Vessel) AtLitres(litres float64) (Filled, error) {
	if err := v.check(); err != nil {
		return Filled{}, err
	}
	empty, full := v.litres(0), v.litres(v.height())
	if !(litres >= empty && litres <= full) {
		return Filled{}, field.Refuse("litres", "must be %.6g up to the full %.6g L", empty, full)
	}
	return v.filled(litres, v.Depth(litres)), nil
}

// Depth at which so many litres stand, within the vessel.
func (v Vessel) Depth(litres float64) float64 {
	return zero.Between(0, v.height(), 1e-12, func(d float64) float64 { return v.litres(d) - litres })
}

func (v Vessel) filled(litres, depth float64) Filled {
	f := Filled{Litres: litres, DepthCM: depth, FullLitres: v.litres(v.height())}
	f.Steps = []working.Step{
		{Name: say.T("Litres at the depth"), Formula: say.T("%s, %.4g cm deep", v.formula(), depth), Value: litres, Unit: "L"},
		{Name: say.T("When full"), Formula: say.T("%.4g cm deep", v.height()), Value: f.FullLitres, Unit: "L"},
	}
	return f
}

func (v Vessel) formula() say.Text {
	switch v.Shape {
	case Box:
		return say.T("length × width × depth ÷ 1000")
	case Cylinder:
		return say.T("π ÷ 4 × diameter² × depth ÷ 1000")
	case RoundTaper:
		return say.T("truncated cone: π ÷ 3 × depth × (r² + r·R + R²) ÷ 1000")
	case SquareTaper:
		return say.T("prismoid: the area summed over the depth ÷ 1000")
	}
	return say.T("straight between the marks")
}

func (v Vessel) check() error {
	var e field.Errors
	size := func(name string, x float64) {
		e.Require(x > 0 && x <= 1e5, name, "must be above 0, up to 100,000 cm")
	}
	switch v.Shape {
	case Box:
		size("length_cm", v.LengthCM)
		size("width_cm", v.WidthCM)
		size("height_cm", v.HeightCM)
	case Cylinder:
		size("diameter_cm", v.DiameterCM)
		size("height_cm", v.HeightCM)
	case RoundTaper:
		size("top_diameter_cm", v.TopDiameterCM)
		size("bottom_diameter_cm", v.BottomDiameterCM)
		size("height_cm", v.HeightCM)
	case SquareTaper:
		size("top_length_cm", v.TopLengthCM)
		size("top_width_cm", v.TopWidthCM)
		size("bottom_length_cm", v.BottomLengthCM)
		size("bottom_width_cm", v.BottomWidthCM)
		size("height_cm", v.HeightCM)
	case Marks:
		v.checkMarks(&e)
	default:
		e.Add("shape", "must be box, cylinder, round_taper, square_taper or marks")
	}
	return e.Err()
}

func (v Vessel) checkMarks(e *field.Errors) {
	e.Require(len(v.Marks) > 0, "marks", "needs at least one mark")
	for i, m := range v.Marks {
		at := fmt.Sprintf("marks.%d.", i)
		e.Require(m.DepthCM >= 0 && m.DepthCM <= 1e5, at+"depth_cm", "must be 0 to 100,000 cm")
		e.Require(m.Litres >= 0 && m.Litres <= 1e9, at+"litres", "must be 0 litres or more")
		switch {
		case i > 0:
			e.Require(m.DepthCM > v.Marks[i-1].DepthCM, at+"depth_cm", "must be deeper than the mark before")
			e.Require(m.Litres > v.Marks[i-1].Litres, at+"litres", "must be more than at the mark before")
		case m.DepthCM > 0:
			e.Require(m.Litres > 0, at+"litres", "must be more than the 0 L at 0 cm")
		case len(v.Marks) == 1:
			e.Add("marks", "must be a mark above 0 cm")
		}
	}
}

func (v Vessel) height() float64 {
	if v.Shape == Marks {
		return v.Marks[len(v.Marks)-1].DepthCM
	}
	return v.HeightCM
}

// litres at a depth within the height; 1 L is 1000 cm³.
func (v Vessel) litres(d float64) float64 {
	share := 0.0
	if v.Shape != Marks {
		share = d / v.HeightCM
	}
	switch v.Shape {
	case Box:
		return v.LengthCM * v.WidthCM * d / 1000
	case Cylinder:
		return math.Pi / 4 * v.DiameterCM * v.DiameterCM * d / 1000
	case RoundTaper:
		r := v.BottomDiameterCM / 2
		top := r + (v.TopDiameterCM/2-r)*share
		return math.Pi / 3 * d * (r*r + r*top + top*top) / 1000
	case SquareTaper:
		dl, dw := (v.TopLengthCM-v.BottomLengthCM)*share, (v.TopWidthCM-v.BottomWidthCM)*share
		return d * (v.BottomLengthCM*v.BottomWidthCM + (v.BottomLengthCM*dw+v.BottomWidthCM*dl)/2 + dl*dw/3) / 1000
	}
	depth, have := 0.0, 0.0
	for i, m := range v.Marks {
		if i == 0 && m.DepthCM == 0 {
			have = m.Litres
			continue
		}
		if d <= m.DepthCM {
			return have + (m.Litres-have)*(d-depth)/(m.DepthCM-depth)
		}
		depth, have = m.DepthCM, m.Litres
	}
	return have
}
