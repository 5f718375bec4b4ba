package solution

import (
	"fmt"
	"math"
	"strings"
	"time"

	"ulpa/core/gauge"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// Tank is all that an advice rests on.
type Tank struct {
	Spec   Spec
	State  State
	Judged Judgement // of Spec and State
	Plants int       // that drink there now
}

const (
	ecUncertain = 0.05 // mS/cm, of a reading
	ecLeave     = 0.1  // of the band's top: so much too strong is left to be topped up with water
	mixing      = 15 * time.Minute
	stale       = 3.0 // days
	warmC       = 24  // above it water holds too little oxygen
	hotC        = 28
	lowAt       = 0.35 // of the way from dry to full: top up
	dryRisk     = 0.05
)

// What an act is, in the order in which acts are done.
const (
	DoPump  = "pump"  // stop it
	DoLift  = "lift"  // plants out of the solution
	DoDrain = "drain" // so many litres
	DoWater = "water"
	DoStock = "stock" // of each part
	DoDose  = "dose"
	DoWait  = "wait" // minutes
	DoRead  = "read"
	DoCool  = "cool"
)

// Act is one thing to do, in order.
type Act struct {
	Do     string
	Amount float64 // in Unit
	Unit   string
	What   string // the stock, acid or base by name
}

// Advice is the judgement on a tank: what to do, why, and how sure.
type Advice struct {
	Needs    bool   // something is to be done
	Now      bool   // and waiting for the next open day costs something
	Costs    string // what it costs, when Now
	Alarm    bool   // plants are at risk as it stands
	Fills    bool   // water is to go in so that it lasts
	Acts     []Act
	Why      []string
	Sure     string // how far the figures can be trusted
	Expect   State  // once the acts are done
	ExpectPH *Band  // where the pH lies after a dose
	NowPH    *Band  // where it lies now, when it was dosed and not read since
	Plan     Treatment
	Brings   string // what a dose adds to the feed
	Jar      *JarAnswer
	Visit    string // who must come when, when it does not last even full
	Cautions []string
	Adult    bool
	Steps    []working.Step
}

// adviser works one advice out.
type adviser struct {
	Advice
	t     Tank
	now   time.Time
	next  Visit
	p     unit.Prefs
	level float64 // as reckoned now
}

// Advise says what to do about a tank before the next visit, in the reader's units: what
// cannot wait first, then level and strength, and pH only when no water goes in.
func Advise(t Tank, next Visit, now time.Time, p unit.Prefs) Advice {
	a := &adviser{t: t, now: now, next: next, p: p}
	s := t.State
	if s.ReadAt == nil || s.PH == nil || s.ECMS == nil || s.LevelL == nil {
		a.Needs, a.Acts = true, []Act{{Do: DoRead}}
		a.say("Nothing can be said before pH, strength, temperature and level have been read once.")
		return a.Advice
	}
	a.level = s.LevelOn(t.Spec, now)
	a.Sure = fmt.Sprintf("As sure as the readings: pH within %.2g, strength within %s.", a.phError(), p.Format(ecUncertain, unit.MS))
	if days := now.Sub(*s.ReadAt).Hours() / 24; days > stale {
		a.Sure = fmt.Sprintf("Not very: the last reading is %d days old. Read again first.", int(days))
	} else if s.LevelAt != nil && *s.LevelL-a.level > 0.02*t.Spec.FillToL {
		a.Sure += fmt.Sprintf(" The level is reckoned: about %s have been drunk since it was read.", p.Format(*s.LevelL-a.level, unit.Litre))
	}
	a.warmth()
	if a.alarm() {
		return a.done()
	}
	if t.Spec.Passive {
		a.jar()
	} else {
		a.tank()
	}
	a.ph()
	return a.done()
}

func (a *adviser) say(format string, args ...any) {
	a.Why = append(a.Why, fmt.Sprintf(format, args...))
}

func (a *adviser) phError() float64 {
	if e := a.t.State.Water.Events; len(e) > 0 && e[len(e)-1].Dose == nil {
		return e[len(e)-1].Error
	}
	return gauge.PenError
}

// done foretells what comes of the plan.
func (a *adviser) done() Advice {
	a.Expect = a.t.State.clone()
	if !a.Plan.Empty() {
		a.Expect.Treat(a.t.Spec, a.Plan, a.now)
	}
	a.Needs = a.Needs || len(a.Acts) > 0
	return a.Advice
}

// plan adds what is drained and poured, in order.
func (a *adviser) plan(drainL, waterL, stockML float64) {
	a.Plan.DrainL, a.Plan.WaterL, a.Plan.StockML = drainL, waterL, stockML
	for _, x := range []Act{
		{DoDrain, drainL, unit.Litre, "solution"}, {DoWater, waterL, unit.Litre, "tap water"}, {DoStock, stockML, unit.Millilitre, a.t.Spec.StockName},
	} {
		if x.Amount > 0.005 {
			a.Acts = append(a.Acts, x)
		}
	}
}

// warmth has a word about oxygen.
func (a *adviser) warmth() {
	c := a.t.State.TempC
	if c == nil || *c <= warmC {
		return
	}
	held, _, err := OxygenSaturation(min(*c, 50), 0)
	if err != nil {
		return
	}
	a.say("%s is warm: such water holds at most %.1f mg/L of oxygen, and roots brown above about %s. Shade it, cool it, keep it moving.", a.p.Format(*c, unit.Celsius), held, a.p.Format(warmC, unit.Celsius))
	if *c >= hotC {
		a.Needs, a.Acts = true, append(a.Acts, Act{Do: DoCool})
	}
}

// alarm says what to do at once about a tank that harms its plants as it stands.
func (a *adviser) alarm() bool {
	spec, s := a.t.Spec, a.t.State
	ph, foretold := a.t.phNow(), s.DosedAt != nil
	says := fmt.Sprintf("pH %.1f was read", ph)
	if foretold {
		says = fmt.Sprintf("What went in should bring it to about pH %.1f", ph)
	}
	switch {
	case ph < lastFloor:
		a.say("%s: below %.1f roots are burned within hours.", says, lastFloor)
		a.rescue(a.freshWater(ph))
		a.say("No alkali against the acid: it would swing too far the other way. Plain water takes it out.")
	case *s.ECMS > 2*spec.ECHigh:
		a.say("Strength %s is more than twice what it should be: roots lose water to it.", a.p.Format(*s.ECMS, unit.MS))
		adj, err := ReservoirAdjust(AdjustInput{LevelL: min(a.level, spec.CapacityL), CapacityL: spec.CapacityL, FillToL: spec.FillToL, ECMScm: *s.ECMS, ECTargetMScm: spec.ECTarget, WaterECMSc: spec.WaterEC, StockRise: spec.StockRise})
		if err != nil || !adj.Reachable {
			adj.DrainL, adj.WaterL = a.level, spec.FillToL
		}
		a.Steps = append(a.Steps, adj.Steps...)
		a.rescue(adj.DrainL, adj.WaterL)
	case ph > lastCeiling && !foretold:
		a.say("%s: above %.1f leaves go short of iron within days, not hours. Leave the pump on and the plants in.", says, lastCeiling)
		return false
	default:
		return false
	}
	a.Alarm, a.Now, a.Adult = true, true, true
	a.Costs = "roots die while it stands so"
	a.Cautions = append(a.Cautions, "Gloves and goggles: the solution is not what it was.", "Switch the pump off at the plug, with dry hands.", "A full can of ten litres weighs ten kilograms.")
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
		a.Acts = append(a.Acts, Act{Do: DoLift, What: "the pot into a cup of tap water"})
	default:
		a.Acts = append(a.Acts, Act{Do: DoPump}, Act{Do: DoLift, What: "plants whose roots stand in it; those in a tower bear half an hour without"})
	}
	a.plan(drainL, waterL, 0)
	a.Acts = append(a.Acts, Act{Do: DoWait, Amount: mixing.Minutes(), Unit: "min", What: "with the pump on again"}, Act{Do: DoRead})
}

// tank judges the level and the strength of a tank with a pump.
func (a *adviser) tank() {
	spec, s := a.t.Spec, a.t.State
	use := s.Uses(spec, a.t.Plants)
	hours := min(max(a.next.At.Sub(a.now).Hours(), 1), 8760)
	in := DryInput{CapacityL: max(spec.CapacityL, a.level), LevelL: a.level, DryBelowL: spec.DryBelowL, AirGapL: &spec.FillToL, Hours: hours, Risk: dryRisk, Use: use, UseFactor: 1}
	if a.level > spec.FillToL {
		in.AirGapL = nil
	}
	dry, err := RunsDry(in)
	lasts := err != nil || dry.Chance <= dryRisk
	low := a.level < spec.DryBelowL+lowAt*(spec.FillToL-spec.DryBelowL)
	fill := max(spec.FillToL, a.level)
	room := fill - a.level
	if !lasts {
		a.Fills = room > 0.01*spec.FillToL
		a.Steps = append(a.Steps, dry.Steps...)
		if a.next.Closed > 0 || dry.Chance > 0.5 {
			a.Now, a.Costs = true, fmt.Sprintf("it would be dry before %s with a chance of %s", a.next.On, chance(dry.Chance))
		}
		a.say("They drink about %s a day; by %s it would be dry with a chance of %s.", a.p.Format(dry.MeanLDay, unit.Litre), a.next.On, chance(dry.Chance))
		a.visit(dry)
	}
	strong, weak := *s.ECMS > spec.ECHigh+ecUncertain, *s.ECMS < spec.ECLow-ecUncertain
	if !a.Fills && !low && !strong && !weak {
		return
	}
	a.strength(fill, room, strong, weak)
	if len(a.Acts) > 0 && !a.Fills && low {
		a.say("The level is down.")
	}
}

func chance(p float64) string {
	if p > 0.995 {
		return "99 %"
	}
	return fmt.Sprintf("%.0f %%", math.Max(1, 100*p))
}

// visit says who must come when even a full tank does not last.
func (a *adviser) visit(d Dry) {
	if d.Possible || d.LongestHours == nil {
		return
	}
	by := a.now.Add(time.Duration(*d.LongestHours * float64(time.Hour)))
	a.Visit = fmt.Sprintf("Full is not enough for %s without anybody: somebody with a key must come by %s and fill it again.", days(a.next.Closed), by.Format("Mon 2 January"))
	a.say("%s", a.Visit)
}

func days(n int) string {
	if n == 1 {
		return "1 day"
	}
	return fmt.Sprintf("%d days", n)
}

// strength plans the water and what goes with it: water alone where that ends in the
// band, stock where it would end too weak, and drains only what topping up cannot mend.
func (a *adviser) strength(fill, room float64, strong, weak bool) {
	spec, ec := a.t.Spec, *a.t.State.ECMS
	watered := (ec*a.level + spec.WaterEC*room) / fill
	switch {
	case strong:
		a.say("They drank more than they ate: strength %s is above %s.", a.p.Figure(ec, unit.MS), a.p.Format(spec.ECHigh, unit.MS))
	case weak:
		a.say("They ate: strength %s is below %s.", a.p.Figure(ec, unit.MS), a.p.Format(spec.ECLow, unit.MS))
	}
	switch {
	case watered < spec.ECLow:
		stock := (spec.ECTarget - watered) / spec.StockRise * fill
		a.Steps = append(a.Steps, working.Step{Name: "With water alone", Formula: fmt.Sprintf("(%.4g × %.3g + %.4g × %.3g) ÷ %.4g", a.level, ec, room, spec.WaterEC, fill), Value: watered, Unit: unit.MS},
			working.Step{Name: "Stock of each part", Formula: fmt.Sprintf("(%.3g − %.3g) ÷ %.3g × %.4g", spec.ECTarget, watered, spec.StockRise, fill), Value: stock, Unit: unit.Millilitre})
		a.plan(0, room, stock)
		if !weak {
			a.say("Water goes in with just enough stock to hold the strength.")
		}
	case watered <= spec.ECHigh*(1+ecLeave):
		a.Steps = append(a.Steps, working.Step{Name: "With water alone", Formula: fmt.Sprintf("(%.4g × %.3g + %.4g × %.3g) ÷ %.4g", a.level, ec, room, spec.WaterEC, fill), Value: watered, Unit: unit.MS})
		if room < 0.01*spec.FillToL {
			a.say("It is full and only a little too strong: leave it, and top up with water alone as they drink.")
			return
		}
		a.plan(0, room, 0)
		a.say("Water alone: it ends at %s.", a.p.Format(watered, unit.MS))
	default:
		adj, err := ReservoirAdjust(AdjustInput{LevelL: min(a.level, spec.CapacityL), CapacityL: spec.CapacityL, FillToL: fill, ECMScm: ec, ECTargetMScm: spec.ECTarget, WaterECMSc: spec.WaterEC, StockRise: spec.StockRise})
		if err != nil || !adj.Reachable {
			a.Needs = true
			a.say("The strength cannot be brought right with this water: %s.", adj.Why)
			return
		}
		a.Steps = append(a.Steps, adj.Steps...)
		a.plan(adj.DrainL, adj.WaterL, adj.StockML)
	}
}

// jarInput is the jar as it stands.
func (a *adviser) jarInput() JarInput {
	spec, s := a.t.Spec, a.t.State
	vessel, foot := spec.jar()
	depth := func(litres float64) float64 { return vessel.depth(min(litres, spec.CapacityL)) }
	level := depth(a.level)
	in := JarInput{Vessel: vessel, PotFootCM: foot, DryBelowCM: min(max(depth(spec.DryBelowL), 0.1), 0.9*foot), LevelCM: level, Margin: MarginOfNeed, Use: s.thirst(spec, a.t.Plants, a.now)}
	in.RootsCM = max(0, foot-level) // a plant that lives hangs in the water
	highest := level
	for _, x := range s.Thirst.Levels {
		if a.now.Sub(x.At).Hours() <= 72 {
			highest = max(highest, depth(x.Litres))
		}
	}
	in.Highest3Days = &highest
	in.Days = min(max(a.next.At.Sub(a.now).Hours()/24, 0.1), 365)
	return in
}

// jar judges a jar without a pump: how much to pour and how long that lasts.
func (a *adviser) jar() {
	spec, s := a.t.Spec, a.t.State
	in := a.jarInput()
	j, err := Jar(in)
	if err != nil {
		return
	}
	a.Jar = &j
	a.Steps = append(a.Steps, j.Steps...)
	if j.TooHigh {
		a.say("It stands high for its roots: pour nothing and let it fall, the upper ones want air.")
	}
	if j.DryInDays != nil && *j.DryInDays < in.Days*MarginOfNeed && j.PourL > 0.02*spec.CapacityL {
		a.Fills = true
		a.strength(a.level+j.PourL, j.PourL, *s.ECMS > spec.ECHigh+ecUncertain, false)
		a.say("It drinks about %s a day and would be dry in %.1f days. Pour to %s and no further: the upper roots breathe.", a.p.Format(j.UseLDay, unit.Litre), *j.DryInDays, a.p.Format(j.LevelAfterCM, unit.Centimetre))
		if *j.DryInDays < in.Days {
			a.Now, a.Costs = true, "it would be dry before "+a.next.On
		}
	}
	if !j.Lasts && j.ComeByDays != nil {
		by := a.now.Add(time.Duration(*j.ComeByDays * 24 * float64(time.Hour)))
		a.Needs = true
		a.Visit = fmt.Sprintf("It lasts no longer than %s, filled as far as it may be: somebody with a key must pour again by then, or it needs a bigger jar.", by.Format("Mon 2 January"))
		a.say("%s", a.Visit)
	}
	if len(a.Acts) == 0 && len(a.Why) == 0 {
		a.say("Let the level fall: the upper roots want moist air. Never fill it back to the top.")
	}
}

// thirst is what a jar drinks, by its own intervals where there are any.
func (s *State) thirst(spec Spec, plants int, now time.Time) Thirst {
	t := Thirst{Factor: 1, Growth: UsualGrowth}
	for _, x := range s.Thirst.Intervals {
		to := -now.Sub(x.To).Hours() / 24
		if x.Litres > 0 && to <= 0 {
			t.Record = append(t.Record, Drunk{FromDay: to - x.Days, ToDay: to, Litres: x.Litres})
		}
	}
	for i := 1; i < len(t.Record); i++ { // days are reckoned back from now and rounded
		t.Record[i].FromDay = max(t.Record[i].FromDay, t.Record[i-1].ToDay)
	}
	if len(t.Record) == 0 {
		t.LDay = max(float64(plants)*StartPerPlantL, leastLDay*spec.CapacityL)
	}
	return t
}

// ph judges the pH, unless water goes in first: then it waits for a reading.
func (a *adviser) ph() {
	spec, s, j := a.t.Spec, a.t.State, a.t.Judged
	watered := a.Plan.WaterL > 0.05*spec.FillToL || a.Plan.StockML > 0
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
	case j.Whether.Advice == gauge.ReadAgain:
		a.Acts = append(a.Acts, Act{Do: DoRead})
		a.say("pH %s is near the edge of its band of %.1f to %.1f, and a reading is only good to %.2g: read once more before anything goes in.", a.p.Figure(*s.PH, "pH"), spec.PHLow, spec.PHHigh, a.phError())
	case len(a.Acts) > 0:
	case math.Abs(*s.PH-spec.PHTarget) > j.Whether.Error:
		a.say("pH %.1f is inside its band of %.1f to %.1f. Leave it alone: every correction adds salts.", *s.PH, spec.PHLow, spec.PHHigh)
	case len(a.Why) == 0:
		a.say("Level, strength and pH are where they should be.")
	}
}

// dosed waits for the last dose to be read.
func (a *adviser) dosed() {
	a.Needs = true
	if wait := mixing - a.now.Sub(*a.t.State.DosedAt); wait > 0 {
		a.Acts = append(a.Acts, Act{Do: DoWait, Amount: math.Ceil(wait.Minutes()), Unit: "min"})
	}
	a.Acts = append(a.Acts, Act{Do: DoRead})
	if d := a.t.Judged.Dose; d != nil {
		a.NowPH = &d.PHNow
		a.say("The dose should have brought it to pH %.1f to %.1f. Read it before anything more goes in: the rest is worked out from that.", d.PHNow.P5, d.PHNow.P95)
		return
	}
	a.say("Something to move the pH went in. Read it before anything more does: nothing is known of this water yet.")
}

// dose turns what was learned into what to do. A reading that is hours old is taken again.
func (a *adviser) dose(d Learned) {
	spec, s, with := a.t.Spec, a.t.State, a.t.Judged.With
	a.Steps = append(a.Steps, d.Steps...)
	high := with.Agent.Acid()
	if high {
		a.say("pH %s is above %.1f; from there leaves go short of iron.", a.p.Figure(*s.PH, "pH"), spec.PHHigh)
	} else {
		a.say("pH %s is below %.1f; roots suffer.", a.p.Figure(*s.PH, "pH"), spec.PHLow)
	}
	switch {
	case a.t.Spec.Passive:
		a.say("A jar is not dosed: a drop is too much. Change its solution when it is next poured.")
		return
	case d.Advice == LearnWait:
		a.Acts = append(a.Acts, Act{Do: DoWait, Amount: math.Ceil(*d.WaitMinutes), Unit: "min"}, Act{Do: DoRead})
		a.say("That was read before the last dose had mixed: it says nothing of the whole tank yet.")
		return
	case d.Advice == LearnReadFirst || a.now.Sub(*s.ReadAt).Minutes() > staleMinutes:
		a.Acts = append(a.Acts, Act{Do: DoRead})
		a.say("That reading is hours old: read it again before anything goes in.")
		return
	case d.Advice == LearnReadAgain:
		a.Acts = append(a.Acts, Act{Do: DoRead})
		a.say("What was read does not fit what was dosed, or no dose is safe by it: look at the pen and at what was poured, and read again.")
		return
	case d.Advice != LearnDosing || d.Amount == nil || *d.Amount <= 0:
		a.say("That is too near to be worth a dose.")
		return
	}
	if a.next.Closed > 1 {
		a.Now, a.Costs = true, fmt.Sprintf("it would stand so for %s", days(a.next.Closed))
	}
	a.Adult, a.Cautions = true, append(a.Cautions, d.Cautions...)
	a.Plan.Agent, a.Plan.Amount = with.Agent, *d.Amount
	a.Acts = append(a.Acts, Act{DoDose, *d.Amount, with.Unit(), with.Name()}, Act{Do: DoWait, Amount: mixing.Minutes(), Unit: "min"}, Act{Do: DoRead})
	a.ExpectPH = d.ForecastPH
	a.say("%s", limit(d, high))
	if len(d.Used) > 1 && !d.Learned {
		a.say("Two readings cannot tell yet what this water holds: the last dose was too small for the error of reading.")
	}
	var brings []string
	for _, el := range []string{"N", "P", "S", "K"} {
		if v := d.AddsMgL[el]; v > 0.05 {
			brings = append(brings, fmt.Sprintf("%.2g mg/L of %s", v, el))
			if in := s.Brought[el]; in > 0.5 {
				brings[len(brings)-1] += fmt.Sprintf(", beside %.2g from doses before", in)
			}
		}
	}
	if a.Brings = strings.Join(brings, "; "); a.Brings != "" {
		a.say("It brings %s.", a.Brings)
	}
	if high && s.Brought["P"]+d.AddsMgL["P"] > max(spec.PhosphorusMgL, 20) {
		a.say("That is more phosphorus than the feed holds: think of nitric acid, or of softer water.")
	}
	if high {
		a.say("pH creeps up again as the gas leaves; that is usual.")
	}
}

func limit(d Learned, acid bool) string {
	side, last := "below", lastFloor
	if !acid {
		side, last = "above", lastCeiling
	}
	switch d.LimitedBy {
	case "half":
		return "It is half of what it should take; the rest is worked out from what it does."
	case "rest":
		return "The readings have told enough for all that it takes."
	}
	return fmt.Sprintf("It could take more, but no more is safe: one time in twenty it would end %s pH %.1f, or one in %.0f %s %.1f.", side, d.PHFloor, 1/lastRisk, side, last)
}

// clone is a copy whose figures can be written through.
func (s State) clone() State {
	dup := func(p *float64) *float64 {
		if p == nil {
			return nil
		}
		v := *p
		return &v
	}
	s.LevelL, s.PH, s.ECMS, s.TempC, s.Alkalinity = dup(s.LevelL), dup(s.PH), dup(s.ECMS), dup(s.TempC), dup(s.Alkalinity)
	s.Water.Events = append([]Dated(nil), s.Water.Events...)
	s.Thirst.Intervals = append([]Interval(nil), s.Thirst.Intervals...)
	return s
}
