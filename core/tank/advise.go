package tank

import (
	"math"
	"time"

	"ulpa/core/chemistry"
	"ulpa/core/gauge"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/vessel"
	"ulpa/core/working"
)

// Tank is all that an advice rests on.
type Tank struct {
	Spec   Spec
	State  State
	Judged Judgement // of Spec and State
	Plants int       // that drink there now
	Fish   Fish      // whether any swim in it
	// Planted is when the plant of a jar came; zero: nobody knows.
	Planted time.Time
}

const (
	ecLeave = 0.1 // of the band's top: so much too strong is left to be topped up with water
	mixing  = 15 * time.Minute
	stale   = 3.0 // days
	warmC   = WarmC
	hotC    = 28
	lowAt   = 0.35 // of the way from dry to full: top up
	dryRisk = 0.05
)

// ECError is how far a strength that was read may be out, mS/cm.
const ECError = 0.05

// WarmC is the temperature above which water holds too little oxygen, °C.
const WarmC = 24

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
	What   say.Text // the stock, acid or base by name
}

// Advice is the judgement on a tank: what to do, why, and how sure.
type Advice struct {
	Needs    bool     // something is to be done
	Now      bool     // and waiting for the next open day costs something
	Costs    say.Text // what it costs, when Now
	Alarm    bool     // plants are at risk as it stands
	Fills    bool     // water is to go in so that it lasts
	Acts     []Act
	Why      []say.Text
	Sure     say.Text        // how far the figures can be trusted
	Expect   State           // once the acts are done
	ExpectPH *chemistry.Band // where the pH lies after a dose
	NowPH    *chemistry.Band // where it lies now, when it was dosed and not read since
	Plan     Treatment
	Brings   say.Text // what a dose adds to the feed
	Jar      *vessel.JarAnswer
	Evil     *Evil    // of a jar that does not last: what else could be done
	Visit    say.Text // who must come when, when it does not last even full
	Cautions []say.Text
	Adult    bool
	Steps    []working.Step
}

// adviser works one advice out.
type adviser struct {
	Advice
	t     Tank
	now   time.Time
	next  Visit
	level float64 // as worked out now
}

// Advise says what to do about a tank before the next visit, in the reader's units: what
// cannot wait first, then level and strength, and pH only when no water goes in.
func Advise(t Tank, next Visit, now time.Time) Advice {
	a := &adviser{t: t, now: now, next: next}
	s := t.State
	if t.Spec.Passive && t.Plants == 0 && s.ReadAt == nil {
		a.say("It is empty. Wash it before the next plant.")
		return a.Advice
	}
	if s.LevelL == nil && t.Spec.Passive {
		a.Needs, a.Acts = true, []Act{{Do: DoRead}}
		a.say("Look how high the water is and write that down; pH and strength may be left out where nobody has a meter.")
		return a.Advice
	}
	if days := s.unseen(now); days > unseenDays {
		a.Needs, a.Acts = true, []Act{{Do: DoRead}}
		a.say("Nobody has looked at its level for %s: look before anything is poured.", say.Plural(int(days), "day"))
		return a.Advice
	}
	known := s.ReadAt != nil && s.PH != nil && s.ECMS != nil
	if s.LevelL == nil || !known && !t.Spec.Passive {
		a.Needs, a.Acts = true, []Act{{Do: DoRead}}
		a.say("Nothing can be said until pH, strength, temperature and level have been read once.")
		return a.Advice
	}
	a.level = s.LevelOn(t.Spec, now)
	a.sure(known)
	a.warmth()
	if a.t.Fish == FishShare {
		a.fish()
		return a.done()
	}
	if known && a.alarm() {
		return a.done()
	}
	if t.Spec.Passive {
		a.jar()
	} else {
		a.tank()
	}
	if known {
		a.ph()
	}
	if len(a.Acts) == 0 && a.t.MayWait(a.now, a.next.At) {
		a.say("It runs as was forecast, so the next reading can wait until %s.",
			say.Date(s.ReadAt.AddDate(0, 0, longest*a.t.Spec.ReadEveryDays), "Mon 2 January"))
	}
	return a.done()
}

// unseenDays is how long what was worked out of a level is good enough to pour by.
const unseenDays = 10

// unseen is how many days ago its level was last known.
func (s State) unseen(now time.Time) float64 {
	if s.LevelL == nil || s.LevelAt == nil {
		return 0
	}
	return now.Sub(*s.LevelAt).Hours() / 24
}

// sure says how far the figures can be trusted.
func (a *adviser) sure(known bool) {
	s := a.t.State
	if a.Sure = say.T("By looking alone: pH and strength were never read."); known {
		a.Sure = say.T("As sure as the readings: pH within %.2g, strength within %s.", a.phError(), say.Of(ECError, unit.MS))
	}
	if s.ReadAt == nil {
		return
	}
	if days := a.now.Sub(*s.ReadAt).Hours() / 24; days > stale && !a.t.MayWait(a.now, a.next.At) {
		a.Sure = say.T("Not very sure: the last reading is %d days old. Read again first.", int(days))
	} else if s.LevelAt != nil && *s.LevelL-a.level > 0.02*a.t.Spec.FillToL {
		a.Sure = say.T("%s The level is worked out: about %s has been drunk since the last reading.", a.Sure, say.Of(*s.LevelL-a.level, unit.Litre))
	}
}

func (a *adviser) say(w say.Words, args ...any) {
	a.Why = append(a.Why, say.T(w, args...))
}

func (a *adviser) phError() float64 {
	if e := a.t.State.Water.Events; len(e) > 0 && e[len(e)-1].Dose == nil {
		return e[len(e)-1].Error
	}
	return gauge.PenError
}

// done forecasts what comes of the plan.
func (a *adviser) done() Advice {
	a.Expect = a.t.State.clone()
	if !a.Plan.Empty() {
		a.Expect.Treat(a.t.Spec, a.Plan, a.now)
	}
	a.Needs = a.Needs || len(a.Acts) > 0
	if a.t.Fish == FishNear && a.Plan.FedML()+a.Plan.Amount > 0 {
		a.Cautions = append(a.Cautions,
			say.T("Fish are kept at this place. If they share this water, nothing of this goes in: say so in the settings of the fish."))
	}
	return a.Advice
}

// plan adds what is drained and poured, in order; of a powder whole quarters of a
// teaspoon, never more than it takes.
func (a *adviser) plan(drainL, waterL, stockML float64) {
	spec := a.t.Spec
	a.Plan.DrainL, a.Plan.WaterL, a.Plan.StockML = drainL, waterL, stockML
	water, feed := say.T("tap water"), Act{DoStock, stockML, unit.Millilitre, spec.Stock()}
	switch {
	case spec.Feed == BySpoon && spec.Passive && waterL > 0 && stockML > 0:
		spoons := stockML / Teaspoon
		quarters, canL := canFor(spoons, waterL)
		water = say.T("solution out of a can, in which %s of %s are stirred into %s of tap water", say.Of(quarters/4, unit.Teaspoons), spec.Stock(),
			say.Of(canL, unit.Litre))
		a.Plan.StockML, a.Plan.Spoons, feed.Amount = 0, spoons, 0
	case spec.Feed == BySpoon:
		a.Plan.StockML, a.Plan.Spoons = 0, math.Floor(4*stockML/Teaspoon)/4
		feed.Amount, feed.Unit = a.Plan.Spoons, unit.Teaspoons
	}
	for _, x := range []Act{
		{DoDrain, drainL, unit.Litre, say.T("solution")}, {DoWater, waterL, unit.Litre, water}, feed,
	} {
		if x.Amount > 0.005 {
			a.Acts = append(a.Acts, x)
		}
	}
}

// canFor is a can of solution for a jar that wants so many teaspoons in so many litres: whole
// quarters of a teaspoon in as much water as makes it as strong, and no less than is poured.
func canFor(spoons, litres float64) (quarters, canL float64) {
	quarters = max(1, math.Ceil(4*spoons-1e-9))
	return quarters, quarters / 4 / spoons * litres
}

// warmth has a word about oxygen.
func (a *adviser) warmth() {
	c := a.t.State.TempC
	if c == nil || *c <= warmC {
		return
	}
	held, _, err := chemistry.OxygenSaturation(min(*c, 50), 0)
	if err != nil {
		return
	}
	a.say(
		"Water at %s holds at most %.1f mg/L of oxygen, and roots brown above about %s. Shade the tank, cool it and keep the water moving.",
		say.Of(*c, unit.Celsius),
		held,
		say.Of(warmC, unit.Celsius),
	)
	if *c >= hotC {
		a.Needs, a.Acts = true, append(a.Acts, Act{Do: DoCool})
	}
}
