package tank

import (
	"time"

	"ulpa/core/chemistry"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/vessel"
)

// Doubt is a figure that cannot be, or hardly can be.
type Doubt struct {
	Field   string
	What    say.Words // "A level"
	Value   float64
	Unit    string
	Last    *float64 // when it is far from this one only
	Maybe   *float64 // what was probably meant
	Refused bool     // cannot be stored even if insisted on
	Says    say.Text // the whole message, in the reader's units, where it is of another kind
}

// Message says what is doubtful in the reader's units.
func (d Doubt) Message() say.Text {
	if d.Says != nil {
		return d.Says
	}
	is := say.Close(d.Value, d.Unit)
	switch {
	case d.Refused:
		return say.T("%s cannot be %s. Check the figure.", d.What, is)
	case d.Last != nil:
		return say.T("It was %s when last known; that is a big change at once.", say.Figure(*d.Last, d.Unit))
	}
	return say.T("%s of %s is far from usual. Check it.", d.What, is)
}

// Doubts asks about figures that are out of the world, ten times off, or far from the
// last ones, in the reader's units.
func Doubts(spec Spec, s State, r Reading, at time.Time) []Doubt {
	var out []Doubt
	add := func(field string, v *float64, low, high, usualLow, usualHigh float64, what say.Words, in string) {
		if v == nil {
			return
		}
		d := Doubt{Field: field, What: what, Value: *v, Unit: in}
		for _, by := range []float64{10, 0.1, 1000, 0.001} {
			if x := *v / by; x >= usualLow && x <= usualHigh && (*v < usualLow || *v > usualHigh) {
				d.Maybe = &x
				break
			}
		}
		d.Refused = *v < low || *v > high
		if d.Refused || *v < usualLow || *v > usualHigh {
			out = append(out, d)
		}
	}
	add("ph", r.PH, 0, 14, 3.5, 9, "pH", "pH")
	add("ec", r.ECMS, 0, 20, spec.WaterEC*0.5, 5, "A strength", unit.MS)
	add("temp", r.TempC, -5, 60, 4, 36, "A temperature", unit.Celsius)
	add("level", r.LevelL, 0, spec.CapacityL, 0, spec.CapacityL, "A level", unit.Litre)
	if r.PH != nil && s.PH != nil && len(out) == 0 {
		if jump := *r.PH - *s.PH; jump > 1.8 || jump < -1.8 {
			out = append(out, Doubt{Field: "ph", What: "pH", Value: *r.PH, Unit: "pH", Last: s.PH})
		}
	}
	if r.ECMS != nil && s.ECMS != nil && len(out) == 0 && (*r.ECMS > 2*(*s.ECMS) || *r.ECMS < *s.ECMS/2) {
		out = append(out, Doubt{Field: "ec", What: "A strength", Value: *r.ECMS, Unit: unit.MS, Last: s.ECMS})
	}
	if r.LevelL != nil && s.LevelL != nil && len(out) == 0 {
		if says := s.levelDoubt(spec, *r.LevelL, at); says != nil {
			out = append(out, Doubt{Field: "level", What: "A level", Value: *r.LevelL, Unit: unit.Litre, Says: says})
		}
	}
	return out
}

// farLevel is the share of a tank by which a level may lie off what is worked out.
const farLevel = 0.2

// levelDoubt is what to ask about a level that neither what it drinks nor what was written
// down explains; nil for nothing.
func (s *State) levelDoubt(spec Spec, level float64, at time.Time) say.Text {
	last, should := *s.LevelL, s.LevelOn(spec, at)
	drunk, far := last-should, farLevel*spec.FillToL
	switch was := say.Of(last, unit.Litre); {
	case should-level > far+2*drunk:
		return say.T(
			"It was %s when last known, and should be about %s after what the plants drank: %s are missing. A leak, a spill or a slip?",
			was,
			say.Of(should, unit.Litre),
			say.Of(should-level, unit.Litre),
		)
	case level-last > far:
		return say.T(
			"It was %s when last known, and nobody wrote down that %s went in. Write that down first, or save the level anyway.",
			was,
			say.Of(level-should, unit.Litre),
		)
	}
	return nil
}

// DoubtsOfTreatment asks about what was added when it is far more than was advised, or
// more than the tank can take. What was done is done: it can always be insisted on.
func DoubtsOfTreatment(t Tank, advised Treatment, x Treatment, at time.Time) (out []Doubt) {
	ask := func(field string, w say.Words, args ...any) {
		out = append(out, Doubt{Field: field, Says: say.T(w, args...)})
	}
	after := t.State.clone()
	after.Treat(t.Spec, x, at)
	dosed := func(v float64) say.Text { return say.Of(v, t.Spec.Shelf(x.Agent).Unit()) }
	if x.Amount > 0 && after.PH != nil {
		switch ph := (Tank{State: after, Judged: Judge(t.Spec, after)}).phNow(); {
		case ph < chemistry.LastFloor || ph > chemistry.LastCeiling && !x.Agent.Acid():
			ask("amount", "%s of %s would bring it to about pH %.1f, which harms roots.", dosed(x.Amount), x.Agent.Words(), ph)
		case advised.Amount > 0 && advised.Agent == x.Agent && x.Amount > 2*advised.Amount:
			ask("amount", "It is more than twice the %s that was advised.", dosed(advised.Amount))
		}
	}
	if x.FedML() > 0 {
		fed, much := "stock", say.Of(advised.StockML, unit.Millilitre)
		if x.Spoons > 0 {
			fed, much = "spoons", say.Of(advised.Spoons, unit.Teaspoons)
		}
		switch ec := after.ECMS; {
		case ec != nil && *ec > 2*t.Spec.ECHigh:
			ask(fed, "This amount would bring it to %s, more than twice what it should be.", say.Of(*ec, unit.MS))
		case advised.FedML() > 0 && x.FedML() > 2*advised.FedML():
			ask(fed, "It is more than twice the %s that was advised.", much)
		}
	}
	if t.Spec.Passive && x.WaterL > 0 && after.LevelL != nil {
		if most := t.mostInJar(at); *after.LevelL > most+0.02*t.Spec.CapacityL {
			ask("water", "The water would be at %s; above %s the upper roots drown.", say.Of(*after.LevelL, unit.Litre), say.Of(most, unit.Litre))
		}
	}
	return out
}

// mostInJar is the highest level that leaves the roots of a jar their air.
func (t Tank) mostInJar(at time.Time) float64 {
	a := &adviser{t: t, now: at, next: Visit{At: at.Add(24 * time.Hour)}, level: t.State.LevelOn(t.Spec, at)}
	j, err := vessel.Jar(a.jarInput())
	if err != nil {
		return t.Spec.CapacityL
	}
	return max(j.AllowedL, a.level)
}
