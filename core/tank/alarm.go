package tank

import (
	"ulpa/core/chemistry"
	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// alarm says what to do at once about a tank that harms its plants as it stands.
func (a *adviser) alarm() bool {
	spec, s := a.t.Spec, a.t.State
	ph, foretold := a.t.phNow(), s.DosedAt != nil
	says := say.T("pH %.1f was read", ph)
	if foretold {
		says = say.T("What went in should bring it to about pH %.1f", ph)
	}
	switch {
	case ph < chemistry.LastFloor:
		a.say("%s: below %.1f roots are burned within hours.", says, chemistry.LastFloor)
		a.rescue(a.freshWater(ph))
		a.say("No alkali against the acid: it would swing too far the other way. Plain water takes it out.")
	case *s.ECMS > 2*spec.ECHigh:
		a.say("Strength %s is more than twice what it should be: roots lose water to it.", say.Of(*s.ECMS, unit.MS))
		adj, err := recipe.ReservoirAdjust(
			recipe.AdjustInput{
				LevelL:       min(a.level, spec.CapacityL),
				CapacityL:    spec.CapacityL,
				FillToL:      spec.FillToL,
				ECMScm:       *s.ECMS,
				ECTargetMScm: spec.ECTarget,
				WaterECMSc:   spec.WaterEC,
				StockRise:    spec.Rise(),
			},
		)
		if err != nil || !adj.Reachable {
			adj.DrainL, adj.WaterL = a.level, spec.FillToL
		}
		a.Steps = append(a.Steps, adj.Steps...)
		a.rescue(adj.DrainL, adj.WaterL)
	case ph > chemistry.LastCeiling && !foretold:
		a.say("%s: above %.1f leaves go short of iron within days, not hours. Leave the pump on and the plants in.", says, chemistry.LastCeiling)
		return false
	default:
		return false
	}
	a.Alarm, a.Now, a.Adult = true, true, true
	a.Costs = say.T("roots die while it stands so")
	a.Cautions = append(
		a.Cautions,
		say.T("Gloves and goggles: the solution is not what it was."),
		say.T("Switch the pump off at the plug, with dry hands."),
		say.T("What is drained burns plants: thin it with much water, and pour it away where local rules allow."),
		say.T("A full can of ten litres weighs ten kilograms."),
	)
	return true
}

// phNow is the pH that was read, or that a dose not yet read should have led to.
func (t Tank) phNow() float64 {
	if d := t.Judged.Dose; t.State.DosedAt != nil && d != nil {
		return d.PHNow.P50
	}
	return *t.State.PH
}

// freshWater is the least share of the tank to change, a quarter at a time, that brings
// the pH back to where roots bear it.
func (a *adviser) freshWater(ph float64) (drainL, waterL float64) {
	spec, s := a.t.Spec, a.t.State.clone()
	*s.PH = ph
	for _, share := range []float64{0.25, 0.5, 0.75} {
		keep := a.level * (1 - share)
		if after := s.mixPH(spec, keep, max(spec.FillToL-keep, 0.01), a.now); after >= min(spec.PHLow, 5.5) {
			return a.level * share, max(0, spec.FillToL-keep)
		}
	}
	return a.level, spec.FillToL
}

func (a *adviser) rescue(drainL, waterL float64) {
	switch {
	case a.t.Spec.Passive:
		a.Acts = append(a.Acts, Act{Do: DoLift, What: say.T("the pot into a cup of tap water")})
	default:
		a.Acts = append(a.Acts, Act{Do: DoPump}, Act{Do: DoLift, What: say.T("plants whose roots stand in it; those in a tower bear half an hour without")})
	}
	a.plan(drainL, waterL, 0)
	a.Acts = append(a.Acts, Act{Do: DoWait, Amount: mixing.Minutes(), Unit: "min", What: say.T("with the pump on again")}, Act{Do: DoRead})
}
