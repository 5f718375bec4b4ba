package chemistry

import (
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// What waterworks put in, and what takes it out again.
const (
	FreeChlorine = "free_chlorine"
	Chloramine   = "chloramine"
	AscorbicAcid = "ascorbic_acid"
	Thiosulfate  = "sodium_thiosulfate_pentahydrate"
)

// ChlorineForFish and ChlorineForRoots are what may be left, mg/L as Cl2: the latter a
// starting value.
const (
	ChlorineForFish  = 0.02
	ChlorineForRoots = 0.5
)

// UnionisedForFish is what of un-ionised ammonia fish tolerate for long, mg/L as N.
const UnionisedForFish = 0.02

// ChlorineInput is water with chlorine in it. Concentrations are mg/L as Cl2.
type ChlorineInput struct {
	VolumeL      float64
	Kind         string // FreeChlorine or Chloramine
	MgL, LimitMg float64
	Agent        string
	Excess       float64  // 1 to 3
	HalfLifeH    *float64 // of free chlorine, standing or bubbling, as measured; nil: not known
	PH           float64
	TemperatureC float64
}

// Dechlorinated is what to do about it.
type Dechlorinated struct {
	Needed                 bool
	AgentMg, ExactMg       float64
	StandingH              *float64
	AmmoniaMgL, UnionisedL float64 // N that chloramine leaves, and what of it is un-ionised
	AmmoniaLimitMgL        float64
	Steps                  []working.Step
	Cautions               []say.Text
}

// Masses in g/mol.
const (
	chlorineMass    = 70.90
	ascorbicMass    = 176.124
	thiosulfateMass = 248.18
)

// Dechlorinate says how much of an agent takes the chlorine out of water, how long standing
// takes, and what chloramine leaves behind. It refuses with field.Errors.
func Dechlorinate(in ChlorineInput) (Dechlorinated, error) {
	var e field.Errors
	e.Require(in.VolumeL > 0 && in.VolumeL <= 1e9, "volume_l", "must be above 0 litres")
	e.Require(in.Kind == FreeChlorine || in.Kind == Chloramine, "kind", "must be free_chlorine or chloramine")
	e.Require(in.MgL >= 0 && in.MgL <= 20, "mg_l", "must be 0 to 20 mg/L as Cl2")
	e.Require(in.LimitMg > 0 && in.LimitMg <= 20, "limit_mg_l", "must be above 0 mg/L")
	e.Require(in.Agent == AscorbicAcid || in.Agent == Thiosulfate, "agent", "must be ascorbic_acid or sodium_thiosulfate_pentahydrate")
	e.Require(in.Excess >= 1 && in.Excess <= 3, "excess", "must be 1 to 3")
	e.Require(in.HalfLifeH == nil || in.Kind != Chloramine, "half_life_h", "does not work for chloramine, which does not go away by standing")
	e.Require(in.HalfLifeH == nil || *in.HalfLifeH > 0 && *in.HalfLifeH <= 1e6, "half_life_h", "must be above 0 hours")
	if err := e.Err(); err != nil {
		return Dechlorinated{}, err
	}
	ammonia := 0.0
	if in.Kind == Chloramine {
		ammonia = in.MgL * WN / chlorineMass
	}
	a, err := UnionisedAmmonia(ammonia, in.PH, in.TemperatureC)
	if err != nil {
		return Dechlorinated{}, err
	}
	out := Dechlorinated{
		Needed: in.MgL > in.LimitMg, AmmoniaMgL: ammonia, UnionisedL: a.UnionisedMgL, AmmoniaLimitMgL: UnionisedForFish * 100 / a.UnionisedPercent,
		Cautions: []say.Text{
			say.T("Weigh it. In the water it may meet chlorine; outside it, never mix it with anything that contains chlorine: no cleaner, no bleach."),
			say.T("Test the water again before fish or roots touch it."),
		},
	}
	per := ascorbicMass / chlorineMass
	if in.Agent == Thiosulfate {
		per = 2 * thiosulfateMass / chlorineMass
	}
	if out.Needed {
		out.ExactMg = in.VolumeL * in.MgL * per
		out.AgentMg = out.ExactMg * in.Excess
	}
	if in.HalfLifeH != nil {
		h := 0.0
		if in.MgL > 0 {
			h = max(0, *in.HalfLifeH*math.Log2(in.MgL/in.LimitMg))
		}
		out.StandingH = &h
	}
	out.Steps = []working.Step{
		{Name: say.T("Exact product"), Formula: say.T("%.4g × %.4g × %.4g", in.VolumeL, in.MgL, per), Value: out.ExactMg, Unit: "mg"},
		{Name: say.T("With some to spare"), Formula: say.T("× %.3g", in.Excess), Value: out.AgentMg, Unit: "mg"},
	}
	if in.Kind == Chloramine {
		out.Steps = append(out.Steps, working.Step{
			Name: say.T("Ammonia nitrogen that stays"), Formula: say.T("%.4g × 14.007 ÷ 70.90", in.MgL), Value: ammonia, Unit: "mg/L",
		})
	}
	return out, nil
}
