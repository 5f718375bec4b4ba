package vessel

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
	"ulpa/core/zero"
)

// Refill is what a vessel took after so many days.
type Refill struct{ Days, Litres float64 }

// Use is how much a vessel loses a day: by its own refills, or known with its spread.
type Use struct {
	MeanLDay, SDLDay float64  // known, when there are no refills
	Past             []Refill // its own
	SpreadGuess      float64  // share of the mean, which counts as two refills more
}

// SpreadGuess is how much a day's use is taken to vary before refills tell.
const SpreadGuess = 0.3

// DryInput is what RunsDry needs: litres, hours.
type DryInput struct {
	CapacityL, LevelL, DryBelowL float64
	AirGapL                      *float64 // the highest level of a passive jar
	Hours                        float64  // until somebody comes
	Risk                         float64
	Use                          Use
	UseFactor                    float64 // heat or growth to come
}

// Dry tells whether a vessel lasts until somebody comes.
type Dry struct {
	Chance              float64  // that it is dry by then
	HoursTo5, HoursHalf *float64 // nil: never
	LevelNeededL        float64
	Possible            bool
	Why                 string // air_gap or capacity when not possible
	AddL, ChanceAfter   float64
	LongestHours        *float64
	MeanLDay, SDLDay    float64
	Freedom             int // of Student's t; 0 when mean and spread are known
	Steps               []working.Step
}

// demand is use over a stretch of time as a distribution.
type demand struct {
	Mean, sd, days float64 // days of record; 0 when known
	freedom        int
}

func (u Use) Demand(factor float64) demand {
	if len(u.Past) == 0 {
		return demand{Mean: u.MeanLDay * factor, sd: u.SDLDay * factor}
	}
	d := demand{freedom: len(u.Past) + 1}
	litres := 0.0
	for _, r := range u.Past {
		litres, d.days = litres+r.Litres, d.days+r.Days
	}
	mean := litres / d.days
	guess := u.SpreadGuess * mean
	squares := 2 * guess * guess
	for _, r := range u.Past {
		off := r.Litres - mean*r.Days
		squares += off * off / r.Days
	}
	d.Mean, d.sd = mean*factor, math.Sqrt(squares/float64(len(u.Past)+1))*factor
	return d
}

// Over is how much goes in so many days, with its standard deviation.
func (u Use) Over(days float64) (mean, sd float64) {
	d := u.Demand(1)
	if days <= 0 {
		return 0, 0
	}
	return d.Mean * days, d.spread(days)
}

// spread of the use over so many days.
func (d demand) spread(days float64) float64 {
	if d.freedom == 0 {
		return d.sd * math.Sqrt(days)
	}
	return d.sd * math.Sqrt(days+days*days/d.days)
}

func (d demand) survival(z float64) float64 {
	if d.freedom == 0 {
		return distuv.UnitNormal.Survival(z)
	}
	return distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(d.freedom)}.CDF(-z)
}

func (d demand) quantile(p float64) float64 {
	if d.freedom == 0 {
		return distuv.UnitNormal.Quantile(p)
	}
	return distuv.StudentsT{Mu: 0, Sigma: 1, Nu: float64(d.freedom)}.Quantile(p)
}

// dry is the chance that at least so many litres are gone after some days.
func (d demand) dry(litres, days float64) float64 {
	switch s := d.spread(days); {
	case litres <= 0:
		return 1
	case s > 0:
		return d.survival((litres - d.Mean*days) / s)
	case d.Mean*days >= litres:
		return 1
	}
	return 0
}

// hours until the chance to be dry comes to a share; nil when it never does.
func (d demand) hours(litres, share float64) *float64 {
	var h float64
	switch {
	case litres <= 0:
	case d.sd == 0:
		h = 24 * litres / d.Mean
	default:
		if d.freedom > 0 && d.survival(-d.Mean*math.Sqrt(d.days)/d.sd) <= share {
			return nil
		}
		days, ok := zero.Above(0, litres/d.Mean, 1e15, 0, func(t float64) float64 { return d.dry(litres, t) - share })
		if !ok {
			return nil
		}
		h = 24 * days
	}
	return &h
}

// RunsDry answers whether a vessel lasts until somebody comes, and what must go in. Use
// is normal when its mean and spread are known; from refills it is Student's t, so that
// few refills say little. It refuses with field.Errors.
func RunsDry(in DryInput) (Dry, error) {
	if err := in.check(); err != nil {
		return Dry{}, err
	}
	d, days := in.Use.Demand(in.UseFactor), in.Hours/24
	usable := in.LevelL - in.DryBelowL
	out := Dry{
		Chance:    d.dry(usable, days),
		HoursTo5:  d.hours(usable, 0.05),
		HoursHalf: d.hours(usable, 0.5),
		MeanLDay:  d.Mean,
		SDLDay:    d.sd,
		Freedom:   d.freedom,
	}
	out.LevelNeededL = in.DryBelowL + max(0, d.Mean*days+d.quantile(1-in.Risk)*d.spread(days))
	highest := in.CapacityL
	if in.AirGapL != nil {
		highest = *in.AirGapL
	}
	switch {
	case out.LevelNeededL <= highest+1e-9:
		out.Possible = true
	case out.LevelNeededL <= in.CapacityL+1e-9:
		out.Why = "air_gap"
	default:
		out.Why = "capacity"
	}
	out.AddL = max(0, min(out.LevelNeededL, highest)-in.LevelL)
	out.ChanceAfter = d.dry(usable+out.AddL, days)
	out.LongestHours = d.hours(highest-in.DryBelowL, in.Risk)
	out.Steps = in.steps(d, out)
	return out, nil
}

func (in DryInput) check() error {
	var e field.Errors
	e.Require(in.CapacityL > 0 && in.CapacityL <= 1e7, "capacity_l", "must be above 0 litres")
	e.Require(in.LevelL >= 0 && in.LevelL <= in.CapacityL, "level_l", "must be 0 up to the brim")
	e.Require(in.DryBelowL >= 0 && in.DryBelowL < in.CapacityL, "dry_below_l", "must be 0 up to under the brim")
	if in.AirGapL != nil {
		e.Require(*in.AirGapL >= in.DryBelowL && *in.AirGapL <= in.CapacityL, "air_gap_l", "must be a level from where it falls dry up to the brim")
	}
	e.Require(in.Hours > 0 && in.Hours <= 8760, "hours", "must be above 0, up to 8,760 hours")
	e.Require(in.Risk > 0 && in.Risk < 1, "risk", "must be a share above 0 and below 1")
	e.Require(in.UseFactor > 0 && in.UseFactor <= 20, "use_factor", "must be a factor above 0, up to 20")
	u := in.Use
	if u.Past == nil {
		e.Require(u.MeanLDay > 0 && u.MeanLDay <= 1e7, "use.mean_l_day", "must be above 0 litres a day")
		e.Require(u.SDLDay >= 0 && u.SDLDay <= 1e7, "use.sd_l_day", "must be 0 litres a day or more")
		return e.Err()
	}
	e.Require(u.SpreadGuess > 0 && u.SpreadGuess <= 2, "use.spread_guess", "must be a share above 0, up to 2")
	litres := 0.0
	for i, r := range u.Past {
		e.Require(r.Days > 0 && r.Days <= 1e5, fmt.Sprintf("use.past.%d.days", i), "must be above 0 days")
		e.Require(r.Litres >= 0 && r.Litres <= 1e7, fmt.Sprintf("use.past.%d.litres", i), "must be 0 litres or more")
		litres += r.Litres
	}
	e.Require(litres > 0, "use.past", "needs at least one refill, and not all of 0 L")
	return e.Err()
}

func (in DryInput) steps(d demand, x Dry) []working.Step {
	source := say.T("use as normal")
	if d.freedom > 0 {
		source = say.T("Student’s t with %d degrees, from its own refills", d.freedom)
	}
	return []working.Step{
		{Name: say.T("Drinks a day"), Formula: say.T("± %.3g from day to day", d.sd), Value: d.Mean, Unit: "L", Source: source},
		{
			Name:    say.T("Until somebody comes"),
			Formula: say.T("%.3g days × %.3g ± %.3g", in.Hours/24, d.Mean, d.spread(in.Hours/24)),
			Value:   d.Mean * in.Hours / 24,
			Unit:    "L",
		},
		{Name: say.T("Chance of running dry"), Formula: say.T("with %.4g L above the dry line", in.LevelL-in.DryBelowL), Value: 100 * x.Chance, Unit: "%"},
		{Name: say.T("Level needed"), Formula: say.T("for a risk of %.3g %%", 100*in.Risk), Value: x.LevelNeededL, Unit: "L"},
	}
}
