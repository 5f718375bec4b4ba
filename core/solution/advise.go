package solution

import (
	"fmt"
	"math"
	"time"

	"ulpa/core/unit"
	"ulpa/core/working"
)

// What a school's meters can tell apart. Within these nothing is worth doing.
const (
	phUncertain = 0.1
	ecUncertain = 0.05
	// Of what the tank holds; drunk since it was read, it makes another sum.
	levelUncertain = 0.05
	mixing         = 15 * time.Minute
	stale          = 3.0 // days
)

// Act is one thing to do, in order.
type Act struct {
	Do     string  // "drain", "water", "stock", "dose", "wait", "read"
	Amount float64 // in Unit
	Unit   string
	What   string // the stock, acid or base by name
}

// Advice is the judgement on a tank: what to do, why, and how sure.
type Advice struct {
	Needs    bool // something is to be done
	Urgent   bool
	Acts     []Act
	Why      []string
	Sure     string // how far the figures can be trusted
	Expect   State  // once the acts are done
	Plan     Treatment
	Cautions []string
	Adult    bool
	Steps    []working.Step
}

// Advise says what to do about a tank. It never asks for more than half of an
// acid or base at a time; after the first half has been read, the second is
// worked out from what the first one really did. Its words are in the reader's units.
func Advise(spec Spec, s State, now time.Time, p unit.Prefs) Advice {
	var a Advice
	if s.ReadAt == nil || s.PH == nil || s.ECMS == nil || s.LevelL == nil {
		a.Needs, a.Acts = true, []Act{{Do: "read"}}
		a.Why = []string{"Nothing can be said before pH, strength, temperature and level have been read once."}
		return a
	}
	if s.DosedAt != nil && s.ExpectPH != nil {
		a.Needs = true
		if wait := mixing - now.Sub(*s.DosedAt); wait > 0 {
			a.Acts = append(a.Acts, Act{Do: "wait", Amount: math.Ceil(wait.Minutes()), Unit: "min"})
		}
		a.Acts = append(a.Acts, Act{Do: "read"})
		a.Why = []string{fmt.Sprintf("The dose should bring it to pH %.1f. Read it before anything more goes in: the rest is worked out from that.", *s.ExpectPH)}
		a.Expect = s
		return a
	}
	a.Sure = fmt.Sprintf("As sure as the reading: pH within %.1f, strength within %s.", phUncertain, p.Format(ecUncertain, unit.MS))
	a.adviseLevelAndStrength(spec, s, p)
	if days := now.Sub(*s.ReadAt).Hours() / 24; days > stale {
		a.Sure = fmt.Sprintf("Not very: the last reading is %d days old. Read again first.", int(days))
	} else if drunk := s.drunk(spec, now); a.Plan.WaterL > 0 && drunk > spec.FillToL*levelUncertain {
		a.Sure = fmt.Sprintf("For the level as it was read: about %s have been drunk since. Read it again before anything goes in.", p.Format(drunk, unit.Litre))
	}
	after := s.clone()
	if !a.Plan.Empty() {
		after.Treat(spec, a.Plan, now)
	}
	if inBand(spec, *s.PH) && !inBand(spec, *after.PH) {
		// Only foretold: read before anything goes in against it.
		a.Acts = append(a.Acts, Act{Do: "wait", Amount: mixing.Minutes(), Unit: "min"}, Act{Do: "read"})
		a.Why = append(a.Why, fmt.Sprintf("This much tap water will bring it to about pH %.1f. Read it once it has mixed, before any acid or alkali.", *after.PH))
	} else {
		a.advisePH(spec, *s.PH, after, now)
	}
	a.Expect = s.clone()
	if !a.Plan.Empty() {
		a.Expect.Treat(spec, a.Plan, now)
	}
	return a
}

func (a *Advice) adviseLevelAndStrength(spec Spec, s State, p unit.Prefs) {
	level, ec := *s.LevelL, *s.ECMS
	low := level < spec.FillToL*0.9
	if spec.Passive {
		low = level < spec.DryBelowL*1.5 // until then the falling level gives the roots air
	}
	weak, strong := ec < spec.ECLow-ecUncertain, ec > spec.ECHigh+ecUncertain
	if !low && !weak && !strong {
		return
	}
	fill := max(spec.FillToL, level) // in a jar the upper roots breathe above the fill line
	adj, err := ReservoirAdjust(AdjustInput{
		LevelL: level, CapacityL: spec.CapacityL, FillToL: fill,
		ECMScm: ec, ECTargetMScm: spec.ECTarget, WaterECMSc: spec.WaterEC, StockRise: spec.StockRise,
	})
	if err != nil || !adj.Reachable {
		a.Needs = true
		a.Why = append(a.Why, "The strength cannot be brought right with this water: "+adj.Why+".")
		return
	}
	a.Needs, a.Urgent = true, level < spec.DryBelowL*1.2
	switch {
	case strong:
		a.Why = append(a.Why, fmt.Sprintf("They drank more than they ate: strength %s is above %s.", p.Figure(ec, unit.MS), p.Format(spec.ECHigh, unit.MS)))
	case weak:
		a.Why = append(a.Why, fmt.Sprintf("They ate: strength %s is below %s.", p.Figure(ec, unit.MS), p.Format(spec.ECLow, unit.MS)))
	default:
		a.Why = append(a.Why, "The level is down; water goes in with just enough stock to hold the strength.")
	}
	a.Steps = append(a.Steps, adj.Steps...)
	a.Plan = Treatment{DrainL: adj.DrainL, WaterL: adj.WaterL, StockML: adj.StockML}
	for _, x := range []Act{
		{"drain", adj.DrainL, "L", "solution"}, {"water", adj.WaterL, "L", "tap water"}, {"stock", adj.StockML, "mL", spec.StockName},
	} {
		if x.Amount > 0.005 {
			a.Acts = append(a.Acts, x)
		}
	}
}

func inBand(spec Spec, ph float64) bool { return ph >= spec.PHLow-1e-9 && ph <= spec.PHHigh+1e-9 }

// advisePH judges the pH as it will stand once the water is in.
func (a *Advice) advisePH(spec Spec, read float64, after State, now time.Time) {
	ph := *after.PH
	says := fmt.Sprintf("pH %.1f", read)
	if math.Abs(ph-read) >= 0.05 {
		says += fmt.Sprintf(", about %.1f with this water in it,", ph)
	}
	var p Product
	switch {
	case ph > spec.PHHigh+1e-9:
		p = spec.Acid
		a.Why = append(a.Why, fmt.Sprintf("%s is above %.1f; from there leaves go short of iron.", says, spec.PHHigh))
	case ph < spec.PHLow-1e-9:
		p = spec.Base
		a.Why = append(a.Why, fmt.Sprintf("%s is below %.1f; roots suffer.", says, spec.PHLow))
	default:
		if math.Abs(ph-spec.PHTarget) > phUncertain && len(a.Acts) == 0 {
			a.Why = append(a.Why, fmt.Sprintf("pH %.1f is inside its band of %.1f to %.1f. Leave it alone: every correction adds salts.", ph, spec.PHLow, spec.PHHigh))
		} else if len(a.Acts) == 0 {
			a.Why = append(a.Why, "Level, strength and pH are where they should be.")
			if spec.Passive {
				a.Why = append(a.Why, "Let the level fall: the upper roots want moist air. Never fill it back to the top.")
			}
		}
		return
	}
	in := after.phInput(spec, p, *after.LevelL)
	d, err := PHAdjust(in)
	if err != nil || d.Amount <= 0 {
		a.Needs = true
		a.Why = append(a.Why, "No dose can be worked out from these figures: measure the alkalinity of the solution.")
		return
	}
	a.Needs, a.Urgent, a.Adult = true, true, true
	a.Cautions = d.Cautions
	a.Steps = append(a.Steps, d.Steps...)
	first := d.FirstAmount
	if f, ok := after.learned(now); ok {
		first = d.Amount * f
		a.Steps[len(a.Steps)-1] = working.Step{
			Name:    "Seen here: what the last dose did",
			Formula: fmt.Sprintf("%.2f expected ÷ %.2f read; %.4g × %.2f", after.Seen.Expected, after.Seen.Actual, d.Amount, f), Value: first, Unit: p.Unit(),
		}
	}
	a.Plan.Agent, a.Plan.Amount = p.Agent, first
	a.Acts = append(a.Acts, Act{"dose", first, p.Unit(), p.Name()}, Act{Do: "wait", Amount: float64(d.WaitMinutes), Unit: "min"}, Act{Do: "read"})
	a.Why = append(a.Why, "pH creeps up again as the gas leaves; that is usual.")
}

// learned is the factor the tank itself has taught: how much more agent it takes
// than was foretold. It counts for an hour, and only when the pH moved as it should.
func (s State) learned(now time.Time) (float64, bool) {
	if s.Seen == nil || now.Sub(s.Seen.At) > time.Hour || s.Seen.Actual*s.Seen.Expected <= 0 {
		return 1, false
	}
	return min(2, max(0.5, s.Seen.Expected/s.Seen.Actual)), true
}

// clone is a copy whose pointers can be written through.
func (s State) clone() State {
	dup := func(p *float64) *float64 {
		if p == nil {
			return nil
		}
		v := *p
		return &v
	}
	s.LevelL, s.PH, s.ECMS, s.TempC, s.Alkalinity = dup(s.LevelL), dup(s.PH), dup(s.ECMS), dup(s.TempC), dup(s.Alkalinity)
	s.ExpectPH, s.ExpectEC, s.PHBefore = dup(s.ExpectPH), dup(s.ExpectEC), dup(s.PHBefore)
	return s
}

// drunk is how much has probably gone since the level was last known.
func (s State) drunk(spec Spec, now time.Time) float64 {
	if s.LevelL == nil || s.LevelAt == nil {
		return 0
	}
	return *s.LevelL - LevelOn(spec, s, now.Sub(*s.LevelAt).Hours()/24)
}

// LevelOn foretells the level after some days of drinking; 0 when dry.
func LevelOn(spec Spec, s State, days float64) float64 {
	if s.LevelL == nil {
		return spec.FillToL
	}
	return max(0, *s.LevelL-spec.UseLPerDay*days)
}
