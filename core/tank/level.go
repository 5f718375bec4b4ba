package tank

import (
	"math"
	"time"

	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/vessel"
	"ulpa/core/working"
)

// tank judges the level and the strength of a tank with a pump.
func (a *adviser) tank() {
	spec, s := a.t.Spec, a.t.State
	use := s.UsesBetween(spec, a.t.Plants, a.now, a.next.At)
	hours := min(max(a.next.At.Sub(a.now).Hours(), 1), 8760)
	in := vessel.DryInput{
		CapacityL: max(spec.CapacityL, a.level),
		LevelL:    a.level,
		DryBelowL: spec.DryBelowL,
		AirGapL:   &spec.FillToL,
		Hours:     hours,
		Risk:      dryRisk,
		Use:       use,
		UseFactor: 1,
	}
	if a.level > spec.FillToL {
		in.AirGapL = nil
	}
	dry, err := vessel.RunsDry(in)
	lasts := err != nil || dry.Chance <= dryRisk
	low := a.level < spec.DryBelowL+lowAt*(spec.FillToL-spec.DryBelowL)
	fill := max(spec.FillToL, a.level)
	room := fill - a.level
	if !lasts {
		a.Fills = room > 0.01*spec.FillToL
		factor, steps := s.weathered(spec, a.t.Plants, a.now, a.next.At)
		a.Steps = append(append(a.Steps, steps...), dry.Steps...)
		if a.next.Closed > 0 || dry.Chance > 0.5 {
			a.Now, a.Costs = true, say.T("it would be dry before %s with a chance of %s", a.next.On, say.Chance(dry.Chance))
		}
		a.say("They drink about %s a day; by %s it would be dry with a chance of %s.", say.Of(dry.MeanLDay, unit.Litre), a.next.On, say.Chance(dry.Chance))
		a.weather(factor)
		a.visit(dry)
	}
	strong, weak := *s.ECMS > spec.ECHigh+ECError, *s.ECMS < spec.ECLow-ECError
	if !a.Fills && !low && !strong && !weak {
		return
	}
	a.strength(fill, room, strong, weak)
	if len(a.Acts) > 0 && !a.Fills && low {
		a.say("The level is low.")
	}
}

// weather says when days to come draw otherwise than those of the record.
func (a *adviser) weather(factor float64) {
	switch more := math.Round(100 * (factor - 1)); {
	case more >= tellWeather:
		a.say("The days ahead look brighter or warmer than those on record, so %.0f %% more is counted.", more)
	case more <= -tellWeather:
		a.say("The days ahead look duller or cooler than those on record, so %.0f %% less is counted.", -more)
	}
}

const tellWeather = 8 // percent

// visit says who must come when even a full tank does not last.
func (a *adviser) visit(d vessel.Dry) {
	if d.Possible || d.LongestHours == nil {
		return
	}
	by := a.now.Add(time.Duration(*d.LongestHours * float64(time.Hour)))
	if a.next.Closed == 0 {
		a.say("Even full it may run dry before %s: look for a leak, or get a bigger tank.", a.next.On)
		return
	}
	a.Visit = say.T(
		"A full tank is not enough for %s with nobody here: somebody with a key must come by %s and fill it again.",
		say.Plural(a.next.Closed, "day"),
		say.Date(by, "Mon 2 January"),
	)
	a.Why = append(a.Why, a.Visit)
}

// strength plans the water and what goes with it: water alone where that ends in the
// band, stock where it would end too weak, and drains only what topping up cannot mend.
func (a *adviser) strength(fill, room float64, strong, weak bool) {
	spec := a.t.Spec
	if a.t.State.ECMS == nil {
		a.plan(0, room, 0)
		a.say("Its strength was never read: pour water with half as much feed in it as when it was first filled.")
		return
	}
	ec := *a.t.State.ECMS
	watered := (ec*a.level + spec.WaterEC*room) / fill
	alone := working.Step{
		Name:    say.T("With water alone"),
		Formula: say.T("(%.4g × %.3g + %.4g × %.3g) ÷ %.4g", a.level, ec, room, spec.WaterEC, fill),
		Value:   watered,
		Unit:    unit.MS,
	}
	switch {
	case strong:
		a.say("They drank more water than feed: strength %s is above %s.", say.Figure(ec, unit.MS), say.Of(spec.ECHigh, unit.MS))
	case weak:
		a.say("They took up feed: strength %s is below %s.", say.Figure(ec, unit.MS), say.Of(spec.ECLow, unit.MS))
	}
	switch {
	case spec.Rise() <= 0 && (watered < spec.ECLow || watered > spec.ECHigh*(1+ecLeave)):
		a.unmeasured(fill, room, watered)
	case watered < spec.ECLow:
		stock := (spec.ECTarget - watered) / spec.Rise() * fill
		a.Steps = append(
			a.Steps,
			alone,
			spec.spooned(working.Step{
				Name:    say.T("Stock of each part"),
				Formula: say.T("(%.3g − %.3g) ÷ %.3g × %.4g", spec.ECTarget, watered, spec.Rise(), fill),
				Value:   stock,
				Unit:    unit.Millilitre,
			}),
		)
		a.plan(0, room, stock)
		if !weak {
			a.say("The water goes in with just enough stock to keep the strength.")
		}
	case watered <= spec.ECHigh*(1+ecLeave):
		a.Steps = append(a.Steps, alone)
		if room < 0.01*spec.FillToL {
			a.say("It is full and only a little too strong: leave it, and top up with plain water as they drink.")
			return
		}
		a.plan(0, room, 0)
		a.say("Plain water only: it ends at %s.", say.Of(watered, unit.MS))
	default:
		adj, err := recipe.ReservoirAdjust(
			recipe.AdjustInput{
				LevelL:       min(a.level, spec.CapacityL),
				CapacityL:    spec.CapacityL,
				FillToL:      fill,
				ECMScm:       ec,
				ECTargetMScm: spec.ECTarget,
				WaterECMSc:   spec.WaterEC,
				StockRise:    spec.Rise(),
			},
		)
		if err != nil || !adj.Reachable {
			a.Needs = true
			a.say("The strength cannot be corrected with this water: %s.", adj.Why)
			return
		}
		for _, step := range adj.Steps {
			a.Steps = append(a.Steps, spec.spooned(step))
		}
		a.plan(adj.DrainL, adj.WaterL, adj.StockML)
		if adj.DrainL > 0.005 {
			a.say("Use the drained solution on beds or a lawn, spread wide. Never pour it into a stream, pond or ditch.")
		}
	}
}

// unmeasured plans where nobody knows what the feed does: water alone, and a part changed where
// it is too strong.
func (a *adviser) unmeasured(fill, room, watered float64) {
	spec := a.t.Spec
	if drain := fill * (watered - spec.ECTarget) / (watered - spec.WaterEC); watered > spec.ECHigh && spec.WaterEC < spec.ECTarget {
		a.plan(drain, room+drain, 0)
		return
	}
	a.plan(0, room, 0)
	a.Needs = true
	a.say("It needs feed, and what this feed does was never measured: enter it in the tank’s settings. Until then add a little, stir, wait a quarter of " +
		"an hour and read again.")
}

// spooned is a step of the working in spoons, where a powder is the feed.
func (s Spec) spooned(step working.Step) working.Step {
	if s.Feed == BySpoon && step.Unit == unit.Millilitre {
		step.Name, step.Formula = say.T("Level teaspoons of feed"), say.T("(%s) ÷ %d mL", step.Formula, Teaspoon)
		step.Value, step.Unit = step.Value/Teaspoon, unit.Teaspoons
	}
	return step
}

// pouredHours is how long roots have not got used to what was poured.
const pouredHours = 24

// jarInput is the jar as it stands.
func (a *adviser) jarInput() vessel.JarInput {
	spec, s := a.t.Spec, a.t.State
	shape, foot := spec.jar()
	depth := func(litres float64) float64 { return shape.Depth(min(litres, spec.CapacityL)) }
	level := depth(a.level)
	in := vessel.JarInput{
		Vessel:     shape,
		PotFootCM:  foot,
		DryBelowCM: min(max(depth(spec.DryBelowL), 0.1), 0.9*foot),
		LevelCM:    level,
		Margin:     vessel.MarginOfNeed,
		Use:        s.thirst(spec, a.t.Plants, a.now, a.next.At),
	}
	in.RootsCM = s.Roots(spec, level, a.t.Planted, a.now)
	highest, calm, just := level, 0.0, false
	for _, x := range s.Thirst.Levels {
		if a.now.Sub(x.At).Hours() > 72 {
			continue
		}
		highest = max(highest, depth(x.Litres))
		if x.Poured && a.now.Sub(x.At).Hours() < pouredHours {
			just = true
		} else {
			calm = max(calm, depth(x.Litres))
		}
	}
	if in.Highest3Days = &highest; just && calm > 0 { // else each pour would allow the next one
		most := max(level, calm+1)
		in.MostCM = &most
	}
	in.Days = min(max(a.next.At.Sub(a.now).Hours()/24, 0.1), 365)
	return in
}

// jar judges a jar without a pump: how much to pour and how long that lasts.
func (a *adviser) jar() {
	spec, s := a.t.Spec, a.t.State
	in := a.jarInput()
	j, err := vessel.Jar(in)
	if err != nil {
		return
	}
	a.Jar = &j
	if j.TooHigh {
		a.say("The level is high for its roots: pour nothing and let it fall, the upper ones need air.")
	}
	strong, weak := false, false
	if s.ECMS != nil {
		strong, weak = *s.ECMS > spec.ECHigh+ECError, *s.ECMS < spec.ECLow-ECError
	}
	switch tooDry := j.DryInDays != nil && *j.DryInDays < in.Days*vessel.MarginOfNeed; {
	case j.PourL <= 0.02*spec.CapacityL:
	case !j.Hang && a.t.rootsKnown(a.now):
		a.Fills = true
		a.strength(a.level+j.PourL, j.PourL, strong, weak)
		a.say("The roots do not hang in the water yet: pour up to the bottom of the pot, at %s.", say.Of(j.LevelAfterCM, unit.Centimetre))
	case tooDry:
		a.Fills = true
		a.strength(a.level+j.PourL, j.PourL, strong, weak)
		a.say(
			"It drinks about %s a day and would be dry in %.1f days. Pour to %s and no further: the upper roots need air.",
			say.Of(j.UseLDay, unit.Litre),
			*j.DryInDays,
			say.Of(j.LevelAfterCM, unit.Centimetre),
		)
		factor, steps := s.weathered(spec, a.t.Plants, a.now, a.next.At)
		a.Steps = append(a.Steps, steps...)
		a.weather(factor)
		if *j.DryInDays < in.Days {
			a.Now, a.Costs = true, say.T("it would run dry before %s", a.next.On)
		}
	}
	if a.Fills {
		a.Steps = append(a.Steps, j.Steps...)
	} else { // the drawing, the list and the words pour nothing either
		j.PourL, j.RiseCM, j.LevelAfterCM, j.AirGap = 0, 0, j.LevelCM, in.PotFootCM-j.LevelCM
	}
	if !a.Fills && (strong || weak) { // nothing is poured, so a part is changed, or feed stirred in
		a.strength(max(a.level, 0.01), 0, strong, weak)
	}
	if !j.Lasts && j.ComeByDays != nil {
		by := a.now.Add(time.Duration(*j.ComeByDays * 24 * float64(time.Hour)))
		a.Needs = true
		a.Visit = say.T(
			"It lasts no longer than %s, filled as far as it may be: somebody with a key must pour again by then, or it needs a bigger jar.",
			say.Date(by, "Mon 2 January"),
		)
		a.Why = append(a.Why, a.Visit)
		a.lesserEvil(in, j)
	}
	if len(a.Acts) == 0 && len(a.Why) == 0 {
		a.say("Let the level fall: the upper roots want moist air. Never fill it back to the top.")
	}
}

// Evil is what a jar comes to that nobody can visit, filled as far as its roots breathe or
// further.
type Evil struct {
	PourL, LevelCM          float64
	DryAsAdvised, DryPoured float64 // chances that it runs dry before somebody comes
	UnderWater              float64 // share of the roots in air that would stand under water
}

// useSpread is how far what a jar will drink may be out, of its logarithm.
const useSpread = 0.35

// lesserEvil says what could be done where nobody can come: more water than the upper roots
// tolerate, beside what drying would cost.
func (a *adviser) lesserEvil(in vessel.JarInput, j vessel.JarAnswer) {
	_, foot := a.t.Spec.jar()
	litres := func(cm float64) float64 { return a.t.Spec.CapacityL * cm / in.Vessel.HeightCM }
	dryL := litres(in.DryBelowCM)
	have := j.Litres + j.PourL
	more := min(in.Margin*j.NeedL+dryL, litres(foot)) // never into the pot
	if !j.Hang || more <= have+0.02*a.t.Spec.CapacityL || j.NeedL <= 0 {
		return
	}
	dry := func(l float64) float64 {
		return distuv.UnitNormal.CDF(math.Log(j.NeedL/max(l-dryL, 1e-6)) / useSpread)
	}
	level := in.Vessel.Depth(more)
	breathing := max(foot-j.LevelAfterCM, 0.1)
	e := Evil{more - j.Litres, level, dry(have), dry(more), min(1, (level-j.LevelAfterCM)/breathing)}
	if e.DryAsAdvised-e.DryPoured < 0.2 {
		return
	}
	a.Evil = &e
	a.say("If nobody can come, the lesser evil: pour %s on the last day, to %s. About %.0f %% of the roots in air would be under water and may die; but "+
		"the chance that it runs dry falls from %s to %s.",
		say.Of(e.PourL, unit.Litre), say.Of(e.LevelCM, unit.Centimetre), 100*e.UnderWater, say.Chance(e.DryAsAdvised), say.Chance(e.DryPoured))
}

// thirst is what a jar drinks until a time, by its own intervals where there are any, each
// brought to the weather of then.
func (s *State) thirst(spec Spec, plants int, now, until time.Time) vessel.Thirst {
	t := vessel.Thirst{Factor: 1, Growth: vessel.UsualGrowth}
	for _, x := range s.Thirst.Intervals {
		to := -now.Sub(x.To).Hours() / 24
		if x.Litres > 0 && to <= 0 {
			litres := x.Litres * s.Weather.Beside(x, now, until)
			t.Record = append(t.Record, vessel.Drunk{FromDay: to - x.Days, ToDay: to, Litres: litres})
		}
	}
	for i := 1; i < len(t.Record); i++ { // days are worked out back from now and rounded
		t.Record[i].FromDay = max(t.Record[i].FromDay, t.Record[i-1].ToDay)
	}
	if len(t.Record) == 0 {
		t.LDay = max(float64(plants)*StartPerPlantL, leastLDay*spec.CapacityL)
	}
	return t
}

// Shape is a jar as it is cut open, cm: its height, where its net pot's foot is, and how
// far it is across if it is round.
func (s Spec) Shape() (heightCM, footCM, acrossCM float64) {
	v, foot := s.jar()
	return v.HeightCM, foot, 2 * math.Sqrt(v.LengthCM/math.Pi)
}

// Mixed is what went in with so much of a feed that was mixed to the tank's strength.
func (s Spec) Mixed(litres float64) Treatment {
	t := Treatment{WaterL: litres}
	if rise := s.Rise(); rise > 0 {
		ml := max(0, s.ECTarget-s.WaterEC) / rise * litres
		if s.Feed == BySpoon {
			t.Spoons = ml / Teaspoon
		} else {
			t.StockML = ml
		}
	}
	return t
}

// How a jar fares until somebody comes.
const (
	JarDry    = "dry"    // before that
	JarHigh   = "high"   // it stands too high for its roots
	JarBarely = "barely" // it lasts, with nothing to spare
	JarLasts  = "lasts"
)

// JarFares is how a jar fares as it stands over so many days, and for how many it lasts: nil
// for ever.
func (a Advice) JarFares(days float64) (how string, lasts *float64) {
	if a.Jar == nil {
		return JarLasts, nil
	}
	lasts = a.Jar.DryInDays
	switch {
	case lasts != nil && *lasts < days:
		return JarDry, lasts
	case a.Jar.TooHigh:
		return JarHigh, lasts
	case lasts != nil && *lasts < days*vessel.MarginOfNeed:
		return JarBarely, lasts
	}
	return JarLasts, lasts
}
