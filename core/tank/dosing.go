package tank

import (
	"math"

	"ulpa/core/chemistry"
	"ulpa/core/gauge"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// ph judges the pH, unless water goes in first: then it waits for a reading.
func (a *adviser) ph() {
	spec, s, j := a.t.Spec, a.t.State, a.t.Judged
	watered := a.Plan.WaterL > 0.05*spec.FillToL || a.Plan.FedML() > 0
	switch {
	case s.DosedAt != nil:
		a.dosed()
	case watered:
		after := s.clone()
		after.Treat(spec, a.Plan, a.now)
		a.Acts = append(a.Acts, Act{Do: DoWait, Amount: mixing.Minutes(), Unit: "min"}, Act{Do: DoRead})
		a.say("The water should bring it to about pH %.1f. Read it once it has mixed, before any acid or alkali.", *after.PH)
	case s.TreatedAt != nil:
		a.Acts = append(a.Acts, Act{Do: DoRead})
		a.say("Something was added and has not been read since.")
	case !j.Known:
	case j.Dose != nil:
		a.dose(*j.Dose)
	case j.Whether.Advice == gauge.Lower && spec.Acid.Agent == "" || j.Whether.Advice == gauge.Raise && spec.Base.Agent == "":
		a.say("pH %.1f is outside its range of %.1f to %.1f, and nothing that would change it is on this tank’s shelf. A part of it changed for softer or "+
			"harder water moves it slowly.",
			*s.PH, spec.PHLow, spec.PHHigh)
	case a.rises():
		a.dose(*j.Ahead)
	case j.Whether.Advice == gauge.ReadAgain && (s.Together() >= 2 && !j.Whether.Disagree || s.Together() >= 3):
		a.say("Read %d times, and it is still at the edge: that is near enough. Leave it until the next round.", s.Together())
	case j.Whether.Advice == gauge.ReadAgain && j.Whether.Beyond(spec.PHLow, spec.PHHigh) < worthReading:
		a.say("pH %.1f is at the edge of its range of %.1f to %.1f and cannot be far beyond it: another reading would change nothing. Leave it until the "+
			"next round.", *s.PH, spec.PHLow, spec.PHHigh)
	case j.Whether.Advice == gauge.ReadAgain:
		a.Acts = append(a.Acts, Act{Do: DoRead})
		a.say(
			"pH %s is near the edge of its range of %.1f to %.1f, and a reading is only accurate to %.2g: read once more before anything goes in.",
			say.Figure(*s.PH, "pH"),
			spec.PHLow,
			spec.PHHigh,
			a.phError(),
		)
	case len(a.Acts) > 0:
	case math.Abs(*s.PH-spec.PHTarget) > j.Whether.Error:
		a.say("pH %.1f is inside its range of %.1f to %.1f. Leave it alone: every correction adds salts.", *s.PH, spec.PHLow, spec.PHHigh)
	case len(a.Why) == 0:
		a.say("Level, strength and pH are where they should be.")
	}
}

// rises tells whether a pH inside its band will leave it at the top before the next visit, and a
// dose can be worked out by what was just read.
func (a *adviser) rises() bool {
	ahead := a.t.Judged.Ahead
	if ahead == nil || ahead.Advice != chemistry.LearnDosing || a.now.Sub(*a.t.State.ReadAt).Minutes() > chemistry.StaleMinutes {
		return false
	}
	return a.t.Leaves(min(14, max(0, a.next.At.Sub(a.now).Hours()/24))) > MayLeave
}

// MayLeave is the chance of a pH to leave its band that is taken as it comes.
const MayLeave = 0.6

// worthReading is how far beyond its range a pH must be expected to be, for the minutes of another
// reading to be worth it: what a few days at the edge cost roots is nothing that can be measured.
const worthReading = 0.1

// dosed waits for the last dose to be read.
func (a *adviser) dosed() {
	a.Needs = true
	if wait := mixing - a.now.Sub(*a.t.State.DosedAt); wait > 0 {
		a.Acts = append(a.Acts, Act{Do: DoWait, Amount: math.Ceil(wait.Minutes()), Unit: "min"})
	}
	a.Acts = append(a.Acts, Act{Do: DoRead})
	if d := a.t.Judged.Dose; d != nil {
		a.NowPH = &d.PHNow
		a.say(
			"The dose should have brought it to pH %.1f to %.1f. Read it before anything more goes in: the rest is worked out from that.",
			d.PHNow.P5,
			d.PHNow.P95,
		)
		return
	}
	a.say("Something to change the pH went in. Read the tank before anything else goes in: nothing is known about this water yet.")
}

// dose turns what was learned into what to do. A reading that is hours old is taken again.
func (a *adviser) dose(d chemistry.Learned) {
	spec, s, with := a.t.Spec, a.t.State, a.t.Judged.With
	a.Steps = append(a.Steps, d.Steps...)
	high := with.Agent.Acid()
	inside := a.t.Judged.Dose == nil
	if inside {
		a.say("pH %s is inside its range, but it will probably rise above %.1f before it is read again: gas leaves the water, and plants feed. A little "+
			"acid now prevents that.", say.Figure(*s.PH, "pH"), spec.PHHigh)
	} else if high {
		a.say("pH %s is above %.1f; leaves begin to run short of iron.", say.Figure(*s.PH, "pH"), spec.PHHigh)
	} else {
		a.say("pH %s is below %.1f; roots suffer.", say.Figure(*s.PH, "pH"), spec.PHLow)
	}
	switch {
	case a.t.Spec.Passive:
		a.say("Do not dose a jar: even a drop is too much. Change its solution the next time you fill it.")
		return
	case d.Advice == chemistry.LearnWait:
		a.Acts = append(a.Acts, Act{Do: DoWait, Amount: math.Ceil(*d.WaitMinutes), Unit: "min"}, Act{Do: DoRead})
		a.say("That was read before the last dose had mixed: it says nothing of the whole tank yet.")
		return
	case d.Advice == chemistry.LearnReadFirst || a.now.Sub(*s.ReadAt).Minutes() > chemistry.StaleMinutes:
		a.Acts = append(a.Acts, Act{Do: DoRead})
		a.say("That reading is hours old: read it again before anything goes in.")
		return
	case d.Advice == chemistry.LearnReadAgain:
		a.Acts = append(a.Acts, Act{Do: DoRead})
		a.say("The readings do not fit the doses, or no dose is safe on them: check the pen and what was poured, and read again.")
		return
	case d.Advice != chemistry.LearnDosing || d.Amount == nil || *d.Amount <= 0:
		a.say("That is too close to the target to be worth a dose.")
		return
	}
	if a.next.Closed > 1 {
		if a.Now, a.Costs = true, say.T("it would stay so for %s", say.Plural(a.next.Closed, "day")); inside {
			a.Costs = say.T("it would be out of its range before anybody is back")
		}
	}
	a.Adult, a.Cautions = true, append(a.Cautions, d.Cautions...)
	a.Plan.Agent, a.Plan.Amount = with.Agent, *d.Amount
	a.Acts = append(a.Acts, a.measured(with, *d.Amount), Act{Do: DoWait, Amount: mixing.Minutes(), Unit: "min"}, Act{Do: DoRead})
	a.ExpectPH = d.ForecastPH
	a.Why = append(a.Why, limit(d, high))
	a.say("First into a bucket of water from the tank, stirred; then slowly into the tank, away from the roots.")
	if len(d.Used) > 1 && !d.Learned {
		a.say("Two readings cannot tell yet what this water holds: the last dose was too small for the error of reading.")
	}
	var brings []say.Text
	for _, el := range []string{"N", "P", "S", "K"} {
		if v := d.AddsMgL[el]; v > 0.05 {
			brings = append(brings, say.T("%.2g mg/L of %s", v, el))
			if in := s.Brought[el]; in > 0.5 {
				brings[len(brings)-1] = say.T("%s, plus %.2g from earlier doses", brings[len(brings)-1], in)
			}
		}
	}
	if len(brings) > 0 {
		a.Brings = say.Join("; ", brings...)
		a.say("It adds %s.", a.Brings)
	}
	if high && s.Brought["P"]+d.AddsMgL["P"] > max(spec.PhosphorusMgL, 20) {
		a.say("That is more phosphorus than the feed holds: think of nitric acid, or of softer water.")
	}
	if high {
		a.say("pH creeps up again as the gas leaves; that is usual.")
	}
}

// leastML is the least of a liquid, and leastG of a powder, that is measured well enough; less
// is taken from a dilution that is weighed.
const (
	leastML = 2.0
	leastG  = 1.0
)

// measured is the act of a dose: by the pipette, and a small one as so much of a dilution that is
// weighed.
func (a *adviser) measured(with chemistry.Product, amount float64) Act {
	grams, least := amount, leastG
	if with.DensityGML > 0 {
		grams, least = amount*with.DensityGML, leastML
	}
	if amount >= least {
		return Act{DoDose, amount, with.Unit(), with.Name()}
	}
	parts := 10.0
	if amount < least/10 {
		parts = 100
	}
	a.say("So little cannot be measured well. Weigh %s of water into a bottle and %s of %s into that, never the water into it; stir it and label it. "+
		"The dose is taken from this dilution, on the scale.", say.Of(100-100/parts, unit.Gram), say.Of(100/parts, unit.Gram), with.Name())
	return Act{DoDose, math.Round(10*grams*parts) / 10, unit.Gram, say.T("the dilution of %s (%s of it)", with.Name(), say.Of(amount, with.Unit()))}
}

func limit(d chemistry.Learned, acid bool) say.Text {
	switch d.LimitedBy {
	case "first":
		return say.T("Until more has been read, a dose is only a part of what would be safe by the label: a bottle may be stronger than it says. The " +
			"rest is worked out from what the first part does.")
	case "half":
		return say.T("That is half of what it should need. The second half is worked out from what the first one does.")
	case "rest":
		return say.T("The readings are enough to advise the whole dose.")
	}
	if acid {
		return say.T(
			"It could take more, but no more is safe: one time in twenty the pH would end below %.1f, or one in %.0f below %.1f.",
			d.PHFloor,
			1/lastRisk,
			chemistry.LastFloor,
		)
	}
	return say.T(
		"It could take more, but no more is safe: one time in twenty the pH would end above %.1f, or one in %.0f above %.1f.",
		d.PHFloor,
		1/lastRisk,
		chemistry.LastCeiling,
	)
}
