package vessel

import (
	"fmt"
	"math"

	"ulpa/core/calendar"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Drunk is what a jar's plants drank between two days, counted from now: −5 to 0 are
// the last five.
type Drunk struct{ FromDay, ToDay, Litres float64 }

// Thirst is what a jar drinks a day, and how that grows.
type Thirst struct {
	LDay       float64 // known, when there is no record
	Growth     float64 // share a day
	Record     []Drunk
	LeavesMeet bool    // they touch their neighbours: use grows no more
	Factor     float64 // heat to come
}

// Growth of use before a record tells, and how well it is known: starting values.
const (
	UsualGrowth   = 0.04
	growthSD      = 0.02
	recordSpread  = 0.2 // of the logarithm of one interval's use
	RootsHangFrom = 3.0 // cm below the pot's foot
	MarginOfNeed  = 1.2
	DryBelowCM    = 2
)

// JarInput is what Jar needs: cm from the floor, litres, days.
type JarInput struct {
	Vessel       Vessel
	PotFootCM    float64 // height of the net pot's foot
	DryBelowCM   float64
	LevelCM      float64 // now
	RootsCM      float64 // how far roots hang below the foot
	Highest3Days *float64
	MostCM       *float64 // never above, for another reason; nil: there is none
	Use          Thirst
	Days         float64 // until somebody comes
	Margin       float64
	Today        *calendar.Day
}

// JarAnswer is what to pour, and how long it lasts. A time is nil when it never ends.
type JarAnswer struct {
	Hang                                bool // roots hang: the second phase
	LevelCM, Litres                     float64
	UseLDay, Growth, NeedL              float64
	AllowedCM, AllowedL                 float64
	TooHigh                             bool
	PourL, LevelAfterCM, RiseCM, AirGap float64
	DryInDays, DryAfter                 *float64
	Lasts                               bool
	ComeByDays                          *float64
	ComeBy                              *calendar.Day
	Steps                               []working.Step
}

// now is what the jar drinks a day as it stands, and how that grows.
func (t Thirst) now() (lDay, growth float64) {
	lDay, growth = t.LDay, t.Growth
	if len(t.Record) > 0 {
		var days, logs, sumT, sumY float64
		n := float64(len(t.Record))
		at := func(r Drunk) (float64, float64) {
			return (r.FromDay + r.ToDay) / 2, math.Log(r.Litres / (r.ToDay - r.FromDay))
		}
		for _, r := range t.Record {
			x, y := at(r)
			sumT, sumY = sumT+x, sumY+y
		}
		meanT, meanY := sumT/n, sumY/n
		for _, r := range t.Record {
			x, y := at(r)
			logs += (x - meanT) * (y - meanY)
			days += (x - meanT) * (x - meanT)
		}
		record, prior := recordSpread*recordSpread, growthSD*growthSD
		growth = (logs/record + UsualGrowth/prior) / (days/record + 1/prior)
		if t.LeavesMeet {
			growth = 0
		}
		lDay = math.Exp(meanY - growth*meanT)
	}
	return lDay * t.Factor, growth
}

// drinks is how much goes in some days.
func drinks(lDay, growth, days float64) float64 {
	if growth == 0 {
		return lDay * days
	}
	return lDay / growth * math.Expm1(growth*days)
}

// lasts is how many days litres last; nil when they never end, for use that dies away.
func lasts(litres, lDay, growth float64) *float64 {
	days := 0.0
	switch {
	case litres <= 0:
	case growth == 0:
		days = litres / lDay
	case 1+growth*litres/lDay <= 0:
		return nil
	default:
		days = math.Log1p(growth*litres/lDay) / growth
	}
	return &days
}

// Jar answers what to pour into a vessel without a pump. Until roots hang the level
// stays at the pot's foot; from then on the upper roots breathe, so it never rises more
// than a centimetre above the highest of three days, nor into the upper third, and is
// brought to a quarter of the depth or what is needed until somebody comes (Kratky
// 2009, Acta Hort. 843:65). It refuses with field.Errors.
func Jar(in JarInput) (JarAnswer, error) {
	if err := in.check(); err != nil {
		return JarAnswer{}, err
	}
	v := in.Vessel
	out := JarAnswer{Hang: in.RootsCM >= RootsHangFrom, LevelCM: in.LevelCM, Litres: v.litres(in.LevelCM), AllowedCM: in.PotFootCM}
	out.UseLDay, out.Growth = in.Use.now()
	out.NeedL = drinks(out.UseLDay, out.Growth, in.Days)
	dry := v.litres(in.DryBelowCM)
	wanted := v.litres(in.PotFootCM)
	if out.Hang {
		highest := in.LevelCM
		if in.Highest3Days != nil {
			highest = *in.Highest3Days
		}
		out.AllowedCM = min(highest+1, in.PotFootCM*2/3)
		wanted = max(in.Margin*out.NeedL+dry, v.litres(in.PotFootCM/4))
	}
	if in.MostCM != nil {
		out.AllowedCM = min(out.AllowedCM, *in.MostCM)
	}
	out.AllowedL = v.litres(out.AllowedCM)
	out.TooHigh = in.LevelCM > out.AllowedCM
	out.PourL = max(0, min(wanted, out.AllowedL)-out.Litres)
	out.LevelAfterCM = in.LevelCM
	if out.PourL > 0 {
		out.LevelAfterCM = v.Depth(out.Litres + out.PourL)
	}
	out.RiseCM, out.AirGap = out.LevelAfterCM-in.LevelCM, in.PotFootCM-out.LevelAfterCM
	after := out.Litres + out.PourL - dry
	out.DryInDays = lasts(out.Litres-dry, out.UseLDay, out.Growth)
	out.DryAfter = lasts(after, out.UseLDay, out.Growth)
	come := lasts(after/in.Margin, out.UseLDay, out.Growth)
	if out.Lasts = come == nil || *come >= in.Days-1e-9; !out.Lasts {
		out.ComeByDays = come
		if in.Today != nil {
			day := *in.Today + calendar.Day(math.Floor(*come))
			out.ComeBy = &day
		}
	}
	out.Steps = in.steps(out, dry)
	return out, nil
}

func (in JarInput) check() error {
	var e field.Errors
	if err := in.Vessel.check(); err != nil {
		e.Join(err)
		for i := range e {
			e[i].Field = "vessel." + e[i].Field
		}
		return e.Err()
	}
	height := in.Vessel.height()
	e.Require(in.PotFootCM > 0 && in.PotFootCM <= height, "pot_foot_cm", "must be above 0 cm, up to the height of %.6g cm", height)
	e.Require(in.DryBelowCM > 0 && in.DryBelowCM < in.PotFootCM, "dry_below_cm", "must be above 0 cm and below the pot’s foot")
	e.Require(in.LevelCM >= 0 && in.LevelCM <= height, "level_cm", "must be 0 up to the height of %.6g cm", height)
	e.Require(in.RootsCM >= 0 && in.RootsCM <= 1e5, "roots_cm", "must be 0 cm or more")
	if in.Highest3Days != nil {
		e.Require(
			*in.Highest3Days >= in.LevelCM && *in.Highest3Days <= height,
			"highest_3_days_cm",
			"must be the level now or a higher one, within the vessel",
		)
	}
	e.Require(in.Days > 0 && in.Days <= 365, "days", "must be above 0, up to 365 days")
	e.Require(in.Margin >= 1 && in.Margin <= 5, "margin", "must be 1 to 5")
	u := in.Use
	e.Require(u.Factor > 0 && u.Factor <= 10, "use.factor", "must be a factor above 0, up to 10")
	if u.Record == nil {
		e.Require(u.LDay > 0 && u.LDay <= 1e6, "use.litres_day", "must be above 0 litres a day")
		e.Require(u.Growth >= -0.1 && u.Growth <= 0.3, "use.growth_per_day", "must be −0.1 to 0.3 a day")
		return e.Err()
	}
	e.Require(len(u.Record) > 0, "use.record", "needs at least one interval")
	before := math.Inf(-1)
	for i, r := range u.Record {
		at := fmt.Sprintf("use.record.%d.", i)
		e.Require(r.FromDay >= before && r.FromDay >= -1e5, at+"from_day", "begins before the interval above it ends")
		e.Require(r.ToDay > r.FromDay, at+"to_day", "must be a day later than from_day")
		e.Require(r.ToDay <= 0, at+"to_day", "must be now, so 0 or less days")
		e.Require(r.Litres > 0 && r.Litres <= 1e6, at+"litres", "must be above 0 litres")
		before = max(before, r.ToDay)
	}
	return e.Err()
}

func (in JarInput) steps(x JarAnswer, dry float64) []working.Step {
	const source say.Words = "air for the upper roots: Kratky (2009), Acta Hort. 843:65"
	steps := []working.Step{
		{Name: say.T("Drinks a day"), Formula: say.T("growing by %.3g %% a day", 100*x.Growth), Value: x.UseLDay, Unit: "L"},
		{
			Name:    say.T("Needed until somebody comes"),
			Formula: say.T("%.3g × (e^(%.3g × %.3g) − 1) ÷ %.3g", x.UseLDay, x.Growth, in.Days, x.Growth),
			Value:   x.NeedL,
			Unit:    "L",
		},
	}
	if x.Growth == 0 {
		steps[1].Formula = say.T("%.3g × %.3g days", x.UseLDay, in.Days)
	}
	if x.Hang {
		steps = append(
			steps,
			working.Step{
				Name:    say.T("Must never be above"),
				Formula: say.T("one centimetre above the highest level of three days; a third of the roots stays in air"),
				Value:   x.AllowedCM,
				Unit:    "cm",
				Source:  source,
			},
			working.Step{
				Name:    say.T("Pour"),
				Formula: say.T("%.3g × %.3g + %.3g − %.4g, no further than allowed", in.Margin, x.NeedL, dry, x.Litres),
				Value:   x.PourL,
				Unit:    "L",
			},
		)
	} else {
		steps = append(steps, working.Step{
			Name: say.T("To the bottom of the pot"), Formula: say.T("until roots hang 3 cm below the pot"), Value: x.AllowedCM,
			Unit: "cm", Source: source,
		},
			working.Step{Name: say.T("Pour"), Formula: say.T("%.4g − %.4g", x.AllowedL, x.Litres), Value: x.PourL, Unit: "L"})
	}
	return steps
}
