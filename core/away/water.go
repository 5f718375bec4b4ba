package away

import (
	"math"
	"time"

	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/round"
	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
	"ulpa/core/vessel"
	"ulpa/core/working"
)

// Tray is a tray in which something grows.
type Tray struct {
	ID, Name, Place string // the place's id
	Cells           int    // in use
	Up              int    // of those, with leaves
	All             int
	CellML          float64
	Drains          bool
	Air
}

// Pots are pots of one batch at a place.
type Pots struct {
	Batch, Code, Pot, Place string
	Plants                  int
	PotML, TopCM2           float64 // of each
	Air
}

// Air is what draws water from leaves where they stand.
type Air struct {
	TempC    float64
	LightMol float64  // sun and lamps, mol/m² a day; 0: not known
	Humidity *float64 // %; nil: not known
}

// How water is held and drawn where nothing was measured: starting values.
const (
	holdsShare  = 0.30 // of a peat-free medium, usable water
	mayGo       = 0.5  // of that, before plants suffer
	factorSD    = 0.5  // of the use that is computed
	trayM2      = 0.15 // the ground of a tray
	usualMol    = 8.0
	bareLeaf    = 0.4 // of a leaf area index: what bare medium loses
	fullLeaf    = 1.2
	pottedLeaf  = 2.0
	carryPerMin = 5.0 // litres poured a minute
)

// use is what a m² of leaves draws in a day, L.
func (a Air) use(leaf float64) float64 {
	mol := a.LightMol
	if mol == 0 {
		mol = usualMol
	}
	return climate.Draws(mol, a.TempC, a.Humidity, leaf)
}

// medium is how a medium that holds so much fares, watered well on the last day: when it
// is dry with a chance of 5 % and 50 %, how likely before somebody is back, and for how many
// days it lasts four times in five.
func medium(storeL, useL float64, s Span) (in5, in50 *time.Time, chance float64, careful float64) {
	at := func(days float64) *time.Time {
		t := s.Leave.Add(time.Duration(days * 24 * float64(time.Hour)))
		return &t
	}
	days := storeL / useL
	early := func(risk float64) float64 { return days / (1 + distuv.UnitNormal.Quantile(1-risk)*factorSD) }
	careful = early(slowRisk)
	chance = distuv.Normal{Mu: 1, Sigma: factorSD}.Survival(days / (s.Hours() / 24))
	return at(early(dryRisk)), at(days), chance, careful
}

// visits are days on which somebody must come, when what is full lasts so many days for
// sure: as late as may be.
func (s Span) visits(lasts float64) (out []calendar.Day) {
	step := max(1, int(lasts))
	for d := s.From + calendar.Day(step); d < s.Back; d += calendar.Day(step) {
		out = append(out, d)
		if len(out) >= 60 {
			break
		}
	}
	return out
}

// poured is how long carrying so many litres takes.
func poured(litres float64) int { return max(1, int(math.Ceil(litres/carryPerMin))) }

// wet completes a thing of which the medium dries.
func wet(t Thing, storeL, useL float64, s Span) Thing {
	var careful float64
	t.What = Dry
	t.In5, t.In50, t.Chance, careful = medium(storeL, useL, s)
	t.Act, t.Litres, t.After, t.Bears = "water", storeL, t.Chance, slowRisk
	t.Do = say.T("Water well, and let it drain")
	t.Minutes = 1 + poured(storeL)
	t.Says = say.T("Watered well: %s available, about %s used a day.", say.Of(1000*storeL, unit.Millilitre), say.Of(1000*useL, unit.Millilitre))
	t.Steps = []working.Step{
		{Name: say.T("Water available"), Formula: say.T("volume of the medium × %.2g × %.2g", holdsShare, mayGo), Value: storeL, Unit: unit.Litre},
		{Name: say.T("Used in a day"), Formula: say.T("± %.0f\u00a0%% if nothing was measured", 100*factorSD), Value: useL, Unit: unit.Litre},
		{Name: say.T("Chance of running dry"), Formula: say.T("within %.3g days", s.Hours()/24), Value: 100 * t.Chance, Unit: "%"},
	}
	if t.Chance > slowRisk {
		t.Comes = s.visits(careful)
		t.Why = say.T("Even watered well it may be dry before then. It lasts longer on capillary matting with one end in a full tray of water: try that " +
			"on a weekend first.")
	}
	return t
}

// UseL is what a tray draws in a day, L.
func (x Tray) UseL() float64 {
	leaf := bareLeaf + (fullLeaf-bareLeaf)*float64(x.Up)/float64(max(1, x.Cells))
	return x.use(leaf) * trayM2 * float64(x.Cells) / float64(max(1, x.All))
}

func (x Tray) Fares(s Span) Thing {
	store := float64(x.Cells) * x.CellML / 1000 * holdsShare * mayGo
	t := Thing{Key: "tray:" + x.ID, Name: x.Name, Place: x.Place, Tray: x.ID}
	t = wet(t, store, x.UseL(), s)
	if !x.Drains {
		t.Do = say.T("Water with about %s and no more: it has no holes", say.Of(1000*store, unit.Millilitre))
	}
	return t
}

func (x Pots) Fares(s Span) Thing {
	n := float64(x.Plants)
	t := Thing{Key: "pots:" + x.Batch + ":" + x.Pot + ":" + x.Place, Name: x.Code + ", " + x.Pot, Place: x.Place, Batch: x.Batch}
	return wet(t, n*x.PotML/1000*holdsShare*mayGo, x.use(pottedLeaf)*n*x.TopCM2/1e4, s)
}

// standing is the level of a tank when the last one leaves: as it will be when nobody
// touches it before tomorrow is over; further off a tank is taken to be full by then, and a
// jar to stand as it does.
func standing(school round.Day, t round.Tank, s Span) float64 {
	switch {
	case s.From <= school.Today+1:
		return t.State.LevelOn(t.Spec, s.Leave)
	case t.Spec.Passive:
		return t.State.LevelOn(t.Spec, school.Now)
	}
	return t.Spec.FillToL
}

// OfTank is how a tank or a jar fares: its level, and its pH and strength.
func OfTank(school round.Day, s Span, t round.Tank) []Thing {
	spec, state := t.Spec, t.State
	if spec.Passive && t.Plants == 0 {
		return nil // nothing stands in it
	}
	x := Thing{Key: "tank:" + t.ID, What: Dry, Name: t.Name, Place: t.Place, Tank: t.ID, Bears: dryRisk}
	if state.LevelL == nil || state.LevelAt == nil {
		x.What, x.Chance, x.Act, x.Minutes = Unknown, 1, "read", 3
		x.Says, x.Do = say.T("Nobody has read its level, so nobody can say how long it lasts."), say.T("Read it, and look here again")
		return []Thing{x}
	}
	visit := tank.Visit{At: s.Return, On: s.Back.Long(), Closed: s.Closed}
	level, a := standing(school, t, s), tank.Advice{}
	if s.From == school.Today { // as its own page says it
		a = tank.Advise(t.Tank, visit, school.Now)
	}
	t.State.LevelL, t.State.LevelAt = &level, &s.Leave
	if state = t.State; s.From != school.Today {
		a = tank.Advise(t.Tank, visit, s.Leave)
	}
	highest, use := max(level, spec.FillToL), vessel.DryInput{}
	factor := 1.0
	if a.Jar != nil {
		highest = max(level, a.Jar.AllowedL)
		if mean, days := state.UsesBetween(spec, t.Plants, s.Leave, s.Return).Demand(1).Mean, s.Hours()/24; mean > 0 {
			factor = min(max(a.Jar.NeedL/(mean*days), 0.05), 20)
		}
	}
	use = vessel.DryInput{
		CapacityL: max(spec.CapacityL, level), LevelL: level, DryBelowL: spec.DryBelowL, AirGapL: &highest,
		Hours: min(s.Hours(), 8760), Risk: dryRisk, Use: state.UsesBetween(spec, t.Plants, s.Leave, s.Return), UseFactor: factor,
	}
	dry, err := vessel.RunsDry(use)
	if err != nil {
		return nil
	}
	at := func(h *float64) *time.Time {
		if h == nil || *h > 24*366 {
			return nil
		}
		v := s.Leave.Add(time.Duration(*h * float64(time.Hour)))
		return &v
	}
	x.In5, x.In50, x.Chance, x.Steps = at(dry.HoursTo5), at(dry.HoursHalf), dry.Chance, dry.Steps
	x.Says = say.T("%s in it, about %s drunk a day.", say.Of(level, unit.Litre), say.Of(dry.MeanLDay, unit.Litre))
	if x.Chance > dryRisk {
		x.Litres, x.After = dry.AddL, dry.ChanceAfter
		if a.Fills {
			x.Litres, use.LevelL = a.Plan.WaterL, min(level+a.Plan.WaterL-a.Plan.DrainL, use.CapacityL)
			if then, err := vessel.RunsDry(use); err == nil {
				x.After = then.Chance
			}
		}
		if x.Litres > leastPour*spec.CapacityL || x.Litres > 0 && x.After <= dryRisk {
			x.Act, x.Minutes = "fill", 1+poured(x.Litres)
			x.Do = say.T("Fill it to %s: %s", say.Of(level+x.Litres, unit.Litre), say.Of(x.Litres, unit.Litre))
			if spec.Passive {
				x.Act = "pour"
				x.Do = say.T("Pour %s and no more: the upper roots need air", say.Of(x.Litres, unit.Litre))
			}
		} else {
			x.Litres, x.After = 0, x.Chance
		}
		if !dry.Possible && dry.LongestHours != nil {
			x.Comes = s.visits(*dry.LongestHours / 24)
			x.Why = say.T("Even filled as far as is safe, you can rely on it for less than %s.", say.Plural(1+int(*dry.LongestHours/24), "day"))
		} else if x.Act == "" && dry.HoursTo5 != nil { // what is to be poured does not help, so somebody looks
			x.Comes = s.visits(*dry.HoursTo5 / 24)
		}
	}
	return append([]Thing{x}, solutionThing(t, a, x, s)...)
}

// solutionThing is how the solution in a tank fares when it is filled as it should be.
func solutionThing(t round.Tank, a tank.Advice, level Thing, s Span) []Thing {
	after := a.Expect
	if level.Act == "" && a.Plan.Empty() {
		after = t.State
	}
	o := after.Foretell(t.Spec, t.Plants, s.Return)
	x := Thing{Key: "solution:" + t.ID, What: Band, Name: t.Name, Place: t.Place, Tank: t.ID, Bears: slowRisk}
	out := func(o tank.Outlook) (chance float64) {
		if o.PH != nil {
			chance = o.PH.Outside(min(t.Spec.PHLow, t.Spec.PHTarget)-phLeeway, t.Spec.PHHigh+phLeeway)
		}
		if o.EC != nil {
			chance = max(chance, o.EC.Outside(t.Spec.ECLow*(1-ecLeeway), t.Spec.ECHigh*(1+ecLeeway)))
		}
		return chance
	}
	var says []say.Text
	if o.PH != nil {
		low, high := o.PH.Range()
		says = append(says, say.T("pH %.1f (%.1f to %.1f)", o.PH.Mean, low, high))
	}
	if o.EC != nil {
		says = append(says, say.T("strength %s", say.Of(o.EC.Mean, unit.MS)))
	}
	if len(says) == 0 || t.Spec.Passive {
		return nil
	}
	x.Says = say.T("When somebody is back: %s.", say.Join(", ", says...))
	x.Chance = out(o)
	for at := s.Leave; at.Before(s.Return) && x.In50 == nil; at = at.Add(bandStep) {
		chance, when := out(after.Foretell(t.Spec, t.Plants, at)), at
		if chance >= dryRisk && x.In5 == nil {
			x.In5 = &when
		}
		if chance >= 0.5 {
			x.In50 = &when
		}
	}
	x.After = x.Chance
	if x.Chance > slowRisk {
		right := after
		right.PH, right.Course.PHAt = &t.Spec.PHTarget, &s.Leave
		if right.ECMS != nil {
			right.ECMS, right.Course.ECAt = &t.Spec.ECTarget, &s.Leave
		}
		x.After = min(x.Chance, out(right.Foretell(t.Spec, t.Plants, s.Return)))
		x.Act, x.Minutes, x.Do = "treat", 10, say.T("Read it, correct it, and read it again a quarter of an hour later")
		if x.After > slowRisk {
			x.Comes = []calendar.Day{s.From + calendar.Day((s.Closed+1)/2)}
			x.Why = say.T("It does not stay in its range for that long: somebody has to read it in between.")
		}
	}
	return []Thing{x}
}

// So far beyond its band a solution may stand for some days before plants are hurt.
const (
	phLeeway = 0.5
	ecLeeway = 0.3
	bandStep = 6 * time.Hour

	leastPour = 0.03 // of what it holds: less is not worth the walk, where it does not make it last
)
