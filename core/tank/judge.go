package tank

import (
	"math"
	"slices"

	"ulpa/core/chemistry"
	"ulpa/core/gauge"
)

// Judgement is what the readings and doses of a tank's water say of its pH. It hangs
// on what was written down, not on the hour, and takes milliseconds: whoever shows it
// often keeps it.
type Judgement struct {
	Known   bool
	Whether gauge.Combined     // of the readings since the last dose: act on them, or not
	With    chemistry.Product  // of the shelf, which leads back to the band
	Dose    *chemistry.Learned // of With, where there is something to bring back or to await
	Settled *Guess             // the pH once the gas of fresh or dosed water has left; nil: it has, or nobody knows
	Ahead   *chemistry.Learned // of acid, for a pH inside the band that may rise out of it before it is read again
}

// A reading counts beside the last one when it was taken within the hour.
const together = 60.0 // minutes

// Together is how many of the last readings of pH were taken within an hour of the last,
// without a dose between them.
func (s State) Together() (n int) {
	events := s.Water.Events
	for i := len(events) - 1; i >= 0 && events[i].Dose == nil && events[len(events)-1].At.Sub(events[i].At).Minutes() <= together; i-- {
		n++
	}
	return n
}

// needlessDays is how many days of delay a needless dose is as dear as.
const needlessDays = 4.0

// actAbove is the chance of being out of its range above which a dose costs less than to wait: what
// is left stays so until the tank is read the next time.
func (s Spec) actAbove() float64 {
	return min(gauge.ActAbove, max(0.5, needlessDays/(needlessDays+float64(max(1, s.ReadEveryDays)))))
}

// Judge works out what is known of a tank's pH.
func Judge(spec Spec, s State) Judgement {
	events := s.Water.Events
	if len(events) == 0 || s.LevelL == nil || spec.PHTarget < 5.2 || spec.PHTarget > 8.5 {
		return Judgement{}
	}
	last := events[len(events)-1]
	j := Judgement{Known: true, With: spec.Acid}
	if last.Dose != nil {
		j.With = *last.Dose
		j.Dose = s.learn(spec, j.With)
		return j
	}
	low, high := spec.PHLow, spec.PHHigh
	in := gauge.CombineInput{Low: &low, High: &high, ActAbove: spec.actAbove(), ReadAbove: gauge.ReadAbove}
	for _, e := range events[len(events)-s.Together():] {
		in.Readings = append(in.Readings, gauge.Reading{Value: e.PH, Error: e.Error})
	}
	var err error
	if j.Whether, err = gauge.Combine(in); err != nil {
		return Judgement{} // a band of nothing
	}
	switch j.Whether.Advice {
	case gauge.Raise:
		j.With = spec.Base
		j.Dose = s.learn(spec, j.With)
	case gauge.Lower:
		j.Dose = s.learn(spec, j.With)
	}
	if j.Dose == nil && !spec.Passive && spec.Acid.Agent != "" && last.PH > spec.PHLow+lowest {
		j.Settled, j.Ahead = s.ahead(spec, last)
	}
	return j
}

// lowest is how far over the bottom of its band a water is brought that will rise again.
const lowest = 0.2

// ahead is where the pH of a water inside its band goes as its gas leaves, once water or a dose
// went in, and the dose of acid for one that will rise out of it.
func (s State) ahead(spec Spec, last Dated) (settled *Guess, dose *chemistry.Learned) {
	highest := last.PH + 7*max(0, s.creep().mean)
	if s.Water.dosed() || s.Water.unsettled(last.At) {
		in := s.learnInput(spec, s.Water, spec.Acid)
		in.Prior, in.Settle = s.priorOf(spec, s.Water), true
		if s.Water.unsettled(s.Water.Events[0].At) {
			in.AirPPM, _ = spec.co2()
		}
		x, err := chemistry.LearnDose(in)
		if err != nil || x.Misfit {
			return nil, nil
		}
		settled = new(Guess{x.Settled.P50, (x.Settled.P95 - x.Settled.P5) / (2 * 1.645)})
		highest = max(highest, settled.Mean)
	}
	if highest < spec.PHHigh+worthReading {
		return settled, nil
	}
	spec.PHTarget = max(5.2, min(spec.PHTarget, spec.PHLow+lowest))
	spec.PHHigh = spec.PHTarget
	return settled, s.learn(spec, spec.Acid)
}

// Leaves is the chance that a pH is above its band, by more than is of no matter, after so many days
// without a reading: as the gas leaves the water, and as plants eat.
func (t Tank) Leaves(days float64) float64 {
	if t.Spec.Passive || t.State.PH == nil || t.State.DosedAt != nil || t.State.TreatedAt != nil {
		return 0
	}
	b := t.State.creep()
	at := Guess{*t.State.PH, t.State.Course.PHError}
	if t.Judged.Settled != nil {
		at = *t.Judged.Settled
	}
	at.Mean, at.Error = at.Mean+max(0, b.mean)*days, math.Hypot(at.Error, b.sd*days)
	return at.Above(t.Spec.PHHigh + worthReading)
}

// What nobody knows of a tank beside its alkalinity: how much of the feed's phosphorus
// the plants have left, and how fast gas leaves. A dose must be safe whichever it is.
// Plants strip phosphorus to a few milligrams, and then nothing but carbonate buffers.
// The first dose of a visit is worked out by the first of these; that it is but a share of
// what is safe makes up for stripped phosphorus, and for a bottle that is four times as
// strong as its label.
var firstWays, laterWays = []way{{1.2, 0.4}, {0.4, 0}, {0.4, 0.4}}, []way{{1.2, 0.4}, {0, 0}, {0, 0.4}}

type way struct{ phosphorus, gasHalfLifeH float64 }

// The share of what is safe that a first dose is. It doubles with every bit that readings
// tell: a card tells little, and a strong bottle has then been poured for long enough.
const firstShare, provenShare = 0.25, 0.5

// firstShare is that of a product: more of one whose doses were read in this tank not long ago.
func (s State) firstShare(with chemistry.Product) float64 {
	now := s.Water.Events[len(s.Water.Events)-1].At
	if slices.ContainsFunc(s.Shown, func(x Shown) bool { return x.Product == with && now.Sub(x.At).Hours() < 24*shownDays }) {
		return provenShare
	}
	return firstShare
}

// lastRisk is the chance to harm roots that is allowed of a dose, each way.
const lastRisk = 0.002

// learn asks LearnDose with the spell's readings and doses, every way the tank may be,
// and takes the least dose; nil when there is none it can answer. When the readings
// fit a way no more, only the last dose counts, and nothing is thought before it.
func (s State) learn(spec Spec, with chemistry.Product) *chemistry.Learned {
	prior := s.priorOf(spec, s.Water)
	if s.Before != nil {
		prior = s.carried(spec, prior)
	}
	least, misfit := s.leastOf(spec, s.Water, prior, with)
	if last := s.Water.lastDose(*s.LevelL); misfit && last != nil {
		least, misfit = s.leastOf(spec, *last, chemistry.Prior{Doubt: 1}, with)
	}
	if misfit && least.Amount != nil {
		again := *least // nothing fits: what was poured, or what was read, was not as it is written
		again.Advice, again.Amount, again.Misfit = chemistry.LearnReadAgain, nil, true
		return &again
	}
	return least
}

func (s State) leastOf(spec Spec, w Spell, prior chemistry.Prior, with chemistry.Product) (least *chemistry.Learned, misfit bool) {
	tried := firstWays
	if slices.ContainsFunc(w.Events, func(e Dated) bool { return e.Dose != nil }) {
		tried = laterWays
	}
	for _, way := range tried {
		in := s.learnInput(spec, w, with)
		in.Prior, in.LastRisk, in.FirstShare = prior, lastRisk, s.firstShare(with)
		in.PhosphorusMgL, in.GasHalfLifeH = in.PhosphorusMgL*way.phosphorus, way.gasHalfLifeH
		out, err := chemistry.LearnDose(in)
		if err != nil {
			return nil, false
		}
		misfit = misfit || out.Misfit
		if least == nil || least.Advice == chemistry.LearnDosing && (out.Advice != chemistry.LearnDosing || *out.Amount < *least.Amount) {
			least = &out
		}
	}
	return least, misfit
}

// lastDose is the spell from the last reading before its last dose on; nil without one.
func (w Spell) lastDose(litres float64) *Spell {
	for i := len(w.Events) - 1; i > 0; i-- {
		if w.Events[i].Dose == nil || w.Events[i-1].Dose != nil {
			continue
		}
		for _, e := range w.Events[:i-1] { // what they brought is in it from the beginning
			if e.Dose != nil && chemistry.Agents[e.Dose.Agent].Brings == "P" {
				w.Brought += e.Amount / e.Dose.PerMolL(litres) * chemistry.WP * 1000
			}
		}
		w.Events = w.Events[i-1:]
		return &w
	}
	return nil
}

func (s State) learnInput(spec Spec, w Spell, with chemistry.Product) chemistry.LearnInput {
	in := chemistry.LearnInput{
		VolumeL: *s.LevelL, PHTarget: spec.PHTarget, PhosphorusMgL: spec.PhosphorusMgL + w.Brought, ECMScm: s.ec(spec), TemperatureC: s.temp(),
		MixingMinutes: mixing.Minutes(), ForecastError: 0.05, Next: with,
	}
	if with.Agent.Acid() {
		in.PHFloor, in.PHHigh = max(chemistry.LastFloor, min(spec.PHLow, spec.PHTarget-0.1)), max(spec.PHHigh, spec.PHTarget+0.1)
	} else {
		in.PHFloor, in.PHHigh = min(chemistry.LastCeiling, max(spec.PHHigh, spec.PHTarget+0.1)), min(spec.PHLow, spec.PHTarget-0.1)
	}
	for _, e := range w.Events {
		x := chemistry.Event{Minute: e.At.Sub(w.Events[0].At).Minutes(), PH: e.PH, Error: e.Error, Amount: e.Amount}
		if e.Dose != nil {
			x.Dose = *e.Dose
		} else if e.Error >= gauge.CardError {
			in.ForecastError = gauge.ForecastError
		}
		in.History = append(in.History, x)
	}
	in.NowMinute = in.History[len(in.History)-1].Minute
	first, m := w.Events[0], chemistry.NewMedium(in.ECMScm, in.TemperatureC)
	in.Least = max(m.InAir(first.PH-2*first.Error, thinnestCO2), leastAlkalinity)
	in.Most = min(max(m.InAir(first.PH+2*first.Error, thickestCO2), 2*in.Least), mostAlkalinity)
	return in
}

// What a water can hold at all, whatever anybody thinks of it: no tank stands in air with less
// carbon dioxide, ppm, than the first of these, or with more than the second.
const (
	thinnestCO2, thickestCO2        = 200, 50_000
	leastAlkalinity, mostAlkalinity = 0.05, 400 // mg/L as CaCO3
)

// How well the alkalinity of fresh water is known, as a factor, and the chance that
// nothing of what is thought of a water is so.
const (
	freshFactor = 1.4
	mixedFactor = 1.8
	usualDoubt  = 0.2
)

// priorOf is what is thought of a spell's water at its first reading: fresh from the
// tap by its alkalinity; after a day by the air it stands in.
func (s State) priorOf(spec Spec, w Spell) chemistry.Prior {
	p := chemistry.Prior{Doubt: usualDoubt}
	if at := w.Events[0].At; w.unsettled(at) {
		p.AlkalinityMgL, p.Factor = min(max(w.Alkalinity, 1), mostAlkalinity), mixedFactor
		if w.Fresh > 0.9 {
			p.Factor = freshFactor
		}
		return p
	}
	p.CO2Low, p.CO2High = spec.co2()
	return p
}

// carried joins what the doses of the spell before told to a prior: the alkalinity
// they left, which drifts as plants eat and water goes in.
func (s State) carried(spec Spec, p chemistry.Prior) chemistry.Prior {
	before := s.learnInput(spec, *s.Before, spec.Acid)
	before.Prior = s.priorOf(spec, *s.Before)
	x, err := chemistry.LearnDose(before)
	if err != nil || !x.Learned || x.Misfit {
		return p
	}
	m := chemistry.NewMedium(s.ec(spec), s.temp())
	mean, sd := p.Normal(m, s.Water.Events[0].PH)
	const drift = 0.7 // of ln alkalinity, from one spell to the next
	spread := math.Log(x.Alkalinity.P95/x.Alkalinity.P5) / (2 * 1.645)
	left := x.AlkalinityNow
	if end := s.Before.Events[len(s.Before.Events)-1].At; s.Water.Begun != nil && s.Water.Begun.After(end) {
		left = left*(1-s.Water.Fresh) + spec.WaterAlkalinity*s.Water.Fresh
	}
	told, toldSD := math.Log(max(left, leastAlkalinity)), math.Hypot(spread, drift)
	precision := 1/(sd*sd) + 1/(toldSD*toldSD)
	joint := (mean/(sd*sd) + told/(toldSD*toldSD)) / precision
	return chemistry.Prior{
		AlkalinityMgL: min(max(math.Exp(joint), 1), 400),
		Factor:        min(max(math.Exp(1/math.Sqrt(precision)), 1.05), 20),
		Doubt:         p.Doubt,
	}
}
