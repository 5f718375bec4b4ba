// Package compost works out whether a heap is mixed as it should be: carbon beside nitrogen, and how
// damp it is.
//
//	h, err := compost.Mix(compost.Input{Materials: list, TargetCN: compost.UsualCN, Adjust: "grass"})
package compost

import (
	"fmt"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Material is one of what goes onto a heap. Carbon and nitrogen are percent of dry mass.
type Material struct {
	Name                                string
	FreshKG, Moisture, Carbon, Nitrogen float64
}

func (m Material) dry() float64 { return m.FreshKG * m.dryShare() }

func (m Material) dryShare() float64 { return 1 - m.Moisture/100 }

// UsualCN is the ratio that a heap is usually mixed for, by mass.
const UsualCN = 28.0

// Limits within which a heap works (Rynk 1992, On-Farm Composting Handbook).
const (
	greenBelow, brownAbove = 25.0, 35.0
	dryBelow, wetAbove     = 45.0, 65.0 // % of fresh mass
)

// Input is what goes onto a heap; Adjust names the material of which the right amount is asked, "" for
// none.
type Input struct {
	Materials []Material
	TargetCN  float64
	Adjust    string
}

// Heap is a mix as it is.
type Heap struct {
	CN, Moisture, FreshKG float64
	CNVerdict             string   // too_green, too_brown, good
	MoistureVerdict       string   // too_dry, too_wet, good
	AdjustToKG            *float64 // nil: no amount does, or none was asked
	Steps                 []working.Step
}

func (in Input) check() error {
	var e field.Errors
	e.Require(len(in.Materials) >= 1 && len(in.Materials) <= 1000, "materials", "must be 1 to 1,000 materials")
	seen := map[string]bool{}
	fresh := 0.0
	for i, m := range in.Materials {
		at := fmt.Sprintf("materials.%d.", i)
		e.Require(m.Name != "", at+"name", "is missing: give it a name")
		e.Require(!seen[m.Name], at+"name", "is there twice")
		seen[m.Name] = true
		e.Require(m.FreshKG >= 0 && m.FreshKG <= 1e9, at+"fresh_kg", "must be 0 kg or more")
		e.Require(m.Moisture >= 0 && m.Moisture < 100, at+"moisture_percent", "must be 0 % or more, below 100 %")
		e.Require(m.Carbon >= 0 && m.Carbon <= 100, at+"carbon_percent", "must be 0 to 100 %")
		e.Require(m.Nitrogen > 0 && m.Nitrogen <= 100, at+"nitrogen_percent", "must be above 0 %, up to 100 %")
		fresh += m.FreshKG
	}
	e.Require(len(in.Materials) == 0 || fresh > 0, "materials", "weigh nothing: enter what goes onto the heap")
	e.Require(in.TargetCN >= 10 && in.TargetCN <= 80, "target_cn", "must be 10 to 80")
	e.Require(in.Adjust == "" || seen[in.Adjust], "adjust", "is none of the materials")
	return e.Err()
}

// Mix judges a heap. It refuses with field.Errors.
func Mix(in Input) (Heap, error) {
	if err := in.check(); err != nil {
		return Heap{}, err
	}
	var h Heap
	carbon, nitrogen, water := 0.0, 0.0, 0.0
	for _, m := range in.Materials {
		carbon, nitrogen = carbon+m.dry()*m.Carbon/100, nitrogen+m.dry()*m.Nitrogen/100
		h.FreshKG, water = h.FreshKG+m.FreshKG, water+m.FreshKG*m.Moisture/100
	}
	h.CN, h.Moisture = carbon/nitrogen, 100*water/h.FreshKG
	h.CNVerdict, h.MoistureVerdict = "good", "good"
	switch {
	case h.CN < greenBelow:
		h.CNVerdict = "too_green"
	case h.CN > brownAbove:
		h.CNVerdict = "too_brown"
	}
	switch {
	case h.Moisture < dryBelow:
		h.MoistureVerdict = "too_dry"
	case h.Moisture > wetAbove:
		h.MoistureVerdict = "too_wet"
	}
	h.Steps = []working.Step{
		{Name: say.T("Carbon in it"), Formula: say.T("dry mass × carbon of each, added up"), Value: carbon, Unit: "kg"},
		{Name: say.T("Nitrogen in it"), Formula: say.T("dry mass × nitrogen of each, added up"), Value: nitrogen, Unit: "kg"},
		{
			Name: say.T("Carbon to nitrogen"), Formula: say.T("%.4g ÷ %.4g", carbon, nitrogen), Value: h.CN,
			Source: say.Words("Rynk (1992), On-Farm Composting Handbook"),
		},
		{Name: say.T("Water in it"), Formula: say.T("100 × %.4g ÷ %.4g", water, h.FreshKG), Value: h.Moisture, Unit: "%"},
	}
	h.AdjustToKG = in.amount()
	return h, nil
}

// amount is how much of the material to adjust makes the mix as it is wanted; nil: none does.
func (in Input) amount() *float64 {
	carbon, nitrogen := 0.0, 0.0
	var it *Material
	for i, m := range in.Materials {
		if m.Name == in.Adjust {
			it = &in.Materials[i]
			continue
		}
		carbon, nitrogen = carbon+m.dry()*m.Carbon, nitrogen+m.dry()*m.Nitrogen
	}
	if it == nil {
		return nil
	}
	lacks, gives := in.TargetCN*nitrogen-carbon, it.dryShare()*(it.Carbon-in.TargetCN*it.Nitrogen)
	switch {
	case gives == 0 && lacks == 0:
		return &it.FreshKG // it has the ratio already, however much of it there is
	case gives == 0 || nitrogen == 0:
		return nil
	}
	x := lacks / gives
	if x < 0 {
		return nil
	}
	return &x
}
