package tank

import (
	"ulpa/core/field"
	"ulpa/core/vessel"
)

// Stick is what turns a depth read on a stick, or from the floor, into litres: the tank's
// shape and inner sizes, or marks that somebody found by filling it. Without a shape there
// is none.
type Stick struct {
	Shape    vessel.Shape `json:"shape,omitempty"` // box, cylinder, round_taper or marks
	LengthCM float64      `json:"length_cm,omitempty"`
	WidthCM  float64      `json:"width_cm,omitempty"`
	TopCM    float64      `json:"top_cm,omitempty"`    // diameter of a round one, above
	BottomCM float64      `json:"bottom_cm,omitempty"` // and below
	HeightCM float64      `json:"height_cm,omitempty"`
	Marks    [4]StickMark `json:"marks,omitzero"` // what is not used is zero
}

// StickMark is a mark: so many litres stand at that depth.
type StickMark struct {
	DepthCM float64 `json:"depth_cm"`
	Litres  float64 `json:"litres"`
}

// vessel is the shape that the stick stands in; ok is false without one.
func (s Stick) vessel() (v vessel.Vessel, ok bool) {
	v = vessel.Vessel{
		Shape: s.Shape, LengthCM: s.LengthCM, WidthCM: s.WidthCM, HeightCM: s.HeightCM,
		DiameterCM: s.TopCM, TopDiameterCM: s.TopCM, BottomDiameterCM: s.BottomCM,
	}
	if s.Shape == vessel.Marks {
		for _, m := range s.Marks {
			if m != (StickMark{}) {
				v.Marks = append(v.Marks, vessel.Mark(m))
			}
		}
	}
	return v, s.Shape != ""
}

// Full is how many litres the shape holds, or refuses sizes that make none; 0 without one.
func (s Stick) Full() (float64, error) {
	v, ok := s.vessel()
	if !ok {
		return 0, nil
	}
	f, err := v.AtDepth(0)
	return f.FullLitres, err
}

// ReadsDepth tells whether a depth can be typed instead of litres.
func (s Spec) ReadsDepth() bool { return s.Stick.Shape != "" || s.Passive && s.HeightCM > 0 }

// AtDepth is how many litres stand at a depth, cm.
func (s Spec) AtDepth(cm float64) (float64, error) {
	v, ok := s.Stick.vessel()
	if !ok {
		if !s.ReadsDepth() {
			return 0, field.Refuse("depth", "leave this empty: the shape of this tank is not known; type the level")
		}
		v, _ = s.jar()
	}
	f, err := v.AtDepth(cm)
	if err != nil {
		return 0, field.Refuse("depth", "must be 0 up to its height")
	}
	return f.Litres, nil
}

// DepthAt is how deep so many litres stand, cm; false where no depth is read.
func (s Spec) DepthAt(litres float64) (float64, bool) {
	v, ok := s.Stick.vessel()
	if !ok && s.ReadsDepth() {
		v, _ = s.jar()
	}
	if !s.ReadsDepth() {
		return 0, false
	}
	f, err := v.AtLitres(litres)
	return f.DepthCM, err == nil
}
