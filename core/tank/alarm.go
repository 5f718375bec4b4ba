package tank

import (
	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/chemistry"
	"ulpa/core/gauge"
	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// From where on a tank harms its plants within hours: plants come out of it. Between these
// and what is only out of range, leaves suffer in days, and a part of the water is changed.
const (
	burningPH  = 4.0
	wiltingBy  = 4.0 // times the top of its range of strength
	tooStrong  = 2.0
	freshHours = chemistry.StaleMinutes / 60
)

// alarm says what to do at once about a tank that harms its plants as it stands. How sure a
// reading is counts as it does for a dose, and what is hours old is read again first.
func (a *adviser) alarm() bool {
	spec, s := a.t.Spec, a.t.State
	ph, chance := a.sour()
	hours := a.now.Sub(*s.ReadAt).Hours()
	switch strong := *s.ECMS > tooStrong*spec.ECHigh; {
	case chance < gauge.ReadAbove && !strong:
		if ph > chemistry.LastCeiling && s.DosedAt == nil {
			a.say("pH %.1f was read: above %.1f leaves go short of iron within days, not hours. Leave the pump on and the plants in.", ph, chemistry.LastCeiling)
		}
		return false
	case !strong && chance <= gauge.ActAbove && s.DosedAt == nil && (s.Together() < 2 || hours > freshHours):
		a.again(hours)
		a.say("pH %s may be below %.1f: a reading is only good to %.2g. Read it again before anything is done, best with another meter.",
			say.Figure(ph, "pH"), chemistry.LastFloor, a.phError())
		return true
	case !strong && chance < 0.5:
		return false // read twice, and more likely not
	case hours > freshHours && s.DosedAt == nil:
		a.again(hours)
		a.say("Strength %s and pH %.1f were read %.0f hours ago. Read again now: what to do depends on how it is today.", say.Of(*s.ECMS, unit.MS), ph, hours)
		return true
	case chance >= gauge.ReadAbove:
		a.tooSour(ph)
	default:
		a.tooSalty()
	}
	a.Alarm, a.Now, a.Adult = true, true, true
	a.Cautions = append(
		a.Cautions,
		say.T("Gloves and goggles: the solution may be strongly acid or alkaline."),
		say.T("What is drained harms plants: dilute it with much water, and pour it away where local rules allow."),
		heavyCan(),
	)
	return true
}

// sour is the pH as far as it is known, and the chance that it is below what roots tolerate.
func (a *adviser) sour() (ph, chance float64) {
	if s := a.t.State; s.DosedAt != nil {
		if ph = a.t.phNow(); ph < chemistry.LastFloor {
			return ph, 1
		}
		return ph, 0
	}
	ph, err := *a.t.State.PH, a.phError()
	if w := a.t.Judged.Whether; a.t.Judged.Known && w.Error > 0 {
		ph, err = w.Value, w.Error
	}
	return ph, distuv.UnitNormal.CDF((chemistry.LastFloor - ph) / err)
}

// again asks for another reading at once; the older the last one is, the less it rings.
func (a *adviser) again(hours float64) {
	a.Needs, a.Acts = true, append(a.Acts, Act{Do: DoRead})
	if hours <= stale*24 {
		a.Now, a.Costs = true, say.T("if it is so, leaves and roots suffer")
	}
}

// tooSour changes water until the pH is back where roots tolerate it.
func (a *adviser) tooSour(ph float64) {
	says := say.T("pH %.1f was read", ph)
	if a.t.State.DosedAt != nil {
		says = say.T("What went in should bring it to about pH %.1f", ph)
	}
	burning := ph < burningPH
	if burning {
		a.say("%s: below %.0f roots are burned within hours.", says, burningPH)
		a.Costs = say.T("roots die while it is so")
	} else {
		a.say("%s: below %.1f roots take up too little, and leaves suffer within days.", says, chemistry.LastFloor)
		a.Costs = say.T("roots and leaves suffer while it is so")
	}
	drain, water := a.freshWater(ph)
	a.rescue(drain, water, burning)
	a.say("Do not add alkali to undo the acid: the pH would swing too far the other way. Plain water dilutes it.")
}

// tooSalty changes water until the strength is back at its target.
func (a *adviser) tooSalty() {
	spec, s := a.t.Spec, a.t.State
	a.say("Strength %s is more than twice what it should be: roots lose water to it, and leaves suffer within days.", say.Of(*s.ECMS, unit.MS))
	a.Costs = say.T("leaves suffer while it is so")
	fill := a.fillTo()
	adj, err := recipe.ReservoirAdjust(recipe.AdjustInput{
		LevelL: min(a.level, spec.CapacityL), CapacityL: spec.CapacityL, FillToL: fill, ECMScm: *s.ECMS, ECTargetMScm: spec.ECTarget,
		WaterECMSc: spec.WaterEC, StockRise: spec.Rise(),
	})
	if err != nil || !adj.Reachable {
		adj.DrainL, adj.WaterL = a.level, fill
	}
	a.Steps = append(a.Steps, adj.Steps...)
	a.rescue(adj.DrainL, adj.WaterL, *s.ECMS > wiltingBy*spec.ECHigh)
}

// fillTo is how far it is filled when its water is changed: a jar as far as it stood, for above
// that its roots have grown used to air.
func (a *adviser) fillTo() float64 {
	if a.t.Spec.Passive {
		return max(a.level, 0.01)
	}
	return a.t.Spec.FillToL
}

// phNow is the pH that was read, or that a dose not yet read should have led to.
func (t Tank) phNow() float64 {
	if d := t.Judged.Dose; t.State.DosedAt != nil && d != nil {
		return d.PHNow.P50
	}
	return *t.State.PH
}

// freshWater is the least share of the tank to change, a quarter at a time, that brings
// the pH back to where roots tolerate it.
func (a *adviser) freshWater(ph float64) (drainL, waterL float64) {
	spec, s, fill := a.t.Spec, a.t.State.clone(), a.fillTo()
	*s.PH = ph
	for _, share := range []float64{0.25, 0.5, 0.75} {
		keep := a.level * (1 - share)
		if after := s.mixPH(spec, keep, max(fill-keep, 0.01), a.now); after >= min(spec.PHLow, 5.5) {
			return a.level * share, max(0, fill-keep)
		}
	}
	return a.level, fill
}

// rescue drains and fills; of what burns, plants are lifted out first.
func (a *adviser) rescue(drainL, waterL float64, lift bool) {
	pump := !a.t.Spec.Passive && lift
	switch {
	case pump:
		a.Acts = append(a.Acts, Act{Do: DoPump}, Act{Do: DoLift, What: say.T("plants whose roots are in it; those in a tower go half an hour without")})
		a.Cautions = append(a.Cautions, say.T("Switch the pump off at the plug, with dry hands."))
	case lift:
		a.Acts = append(a.Acts, Act{Do: DoLift, What: say.T("the pot into a cup of tap water")})
	}
	a.plan(drainL, waterL, 0)
	wait := Act{Do: DoWait, Amount: mixing.Minutes(), Unit: "min"}
	if pump {
		wait.What = say.T("with the pump on again")
	}
	a.Acts = append(a.Acts, wait, Act{Do: DoRead})
}

// heavyCan is the caution where water is carried.
func heavyCan() say.Text {
	return say.T("A full can of %s weighs %s.", say.Of(10, unit.Litre), say.Of(10, unit.Kilogram))
}
