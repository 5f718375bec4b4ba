package seed

import (
	"fmt"
	"math"

	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// ExpectedInput is what Expected needs. Temperatures are of the medium, °C.
type ExpectedInput struct {
	Cells, SeedsPerCell int
	Germination         Germination
	LabelWorth          float64               // how many tested seeds a known rate is worth
	Pace                func(float64) float64 // progress a day at a temperature: 1 is half up
	Day                 float64               // since sowing
	TemperaturesC       []float64             // one a day from sowing; the last goes on
	Seen                *int                  // cells with a sprout, when counted
	Evenness            float64               // 5 uneven seed, 10 even
	TemperatureShare    float64               // of the good seed that comes at this temperature
	TemperatureErrorC   float64
	TimeError           float64
}

// Usual errors and how much a label is worth: starting values.
const (
	LabelWorth        = 20
	UsualEvenness     = 6
	TemperatureErrorC = 1
	TimeError         = 0.15
)

// CountVerdict is what a count says of a sowing.
type CountVerdict string

// The verdicts, in the order in which they are tried.
const (
	Ahead            CountVerdict = "ahead"
	WrongTemperature CountVerdict = "wrong_temperature"
	TooEarly         CountVerdict = "too_early"
	Behind           CountVerdict = "behind"
	OnCourse         CountVerdict = "on_course"
)

// Says is a verdict on a count, as people say it of what was seen.
func (v CountVerdict) Says(seen say.Text) say.Text {
	switch v {
	case Ahead:
		return say.T("%s: ahead.", seen)
	case TooEarly:
		return say.T("%s: too early to say anything.", seen)
	case Behind:
		return say.T("%s: behind.", seen)
	case WrongTemperature:
		return say.T("It cannot germinate at this temperature.")
	}
	return say.T("%s: on course.", seen)
}

// Alarms tells whether something is to be done about it.
func (v CountVerdict) Alarms() bool { return v == Behind || v == WrongTemperature }

// Expected is how many cells should have a sprout by now: nine sowings in ten like this
// one show Low to High.
type Expected struct {
	Progress          float64 // 1 when half of the sprouts are up
	ShareUp           float64
	CellChance        float64
	Expected          float64
	Low, High         int
	Verdict           CountVerdict // "" without a count
	ExpectedFinal     float64
	HalfDay, JudgeDay *float64 // nil: never
	Steps             []working.Step
}

// judgeFrom is the progress before which a count says nothing of a sowing's health.
const judgeFrom = 1.3

// Cardinal are the temperatures of a kind of seed, °C, and the warmth until half are up.
type Cardinal struct{ BaseC, OptimumC, PlateauC, CeilingC, ThermalCD float64 }

// Check refuses temperatures out of order, by field.
func (k Cardinal) Check(at string) error {
	var e field.Errors
	for _, x := range []struct {
		name string
		c    float64
	}{{"base_c", k.BaseC}, {"optimum_c", k.OptimumC}, {"plateau_c", k.PlateauC}, {"ceiling_c", k.CeilingC}} {
		e.Require(x.c >= -60 && x.c <= 60, at+x.name, "must be −60 to 60 °C")
	}
	e.Require(k.OptimumC > k.BaseC, at+"optimum_c", "must be above the base")
	e.Require(k.PlateauC >= k.OptimumC, at+"plateau_c", "must be at the optimum or above it")
	e.Require(k.CeilingC > k.PlateauC, at+"ceiling_c", "must be above the plateau")
	e.Require(k.ThermalCD > 0 && k.ThermalCD <= 1e6, at+"thermal_time_c_days", "must be above 0 °C·days")
	return e.Err()
}

// Pace is the progress a day at a temperature (Garcia-Huidobro, Monteith and Squire
// 1982): straight from nothing at the base to the optimum, level to the plateau, and
// straight down to nothing at the ceiling.
func (k Cardinal) Pace(c float64) float64 {
	switch {
	case c <= k.BaseC || c >= k.CeilingC:
		return 0
	case c < k.OptimumC:
		return (c - k.BaseC) / k.ThermalCD
	case c <= k.PlateauC:
		return (k.OptimumC - k.BaseC) / k.ThermalCD
	}
	return (k.OptimumC - k.BaseC) / k.ThermalCD * (k.CeilingC - c) / (k.CeilingC - k.PlateauC)
}

// PaceOf is the progress a day of a crop's seed: one over the days of GerminationOf.
func PaceOf(c crop.Crop) func(float64) float64 {
	return func(t float64) float64 {
		g, err := GerminationOf(c, t)
		if err != nil || !g.Germinates {
			return 0
		}
		return 1 / g.DaysToHalf
	}
}

// progress after so many days, each offset degrees warmer.
func (in ExpectedInput) progress(day, offset float64) float64 {
	sum := 0.0
	last := len(in.TemperaturesC) - 1
	for d, c := range in.TemperaturesC {
		if float64(d) >= day {
			return sum
		}
		part := min(1, day-float64(d))
		if d == last {
			part = day - float64(d)
		}
		sum += in.Pace(c+offset) * part
	}
	return sum
}

// reaches is the day on which the progress comes to so much; nil when it never does.
func (in ExpectedInput) reaches(progress float64) *float64 {
	sum, last := 0.0, len(in.TemperaturesC)-1
	for d, c := range in.TemperaturesC {
		pace := in.Pace(c)
		if at := float64(d) + (progress-sum)/pace; pace > 0 && (d == last || at <= float64(d+1)) {
			return &at
		}
		sum += pace
	}
	return nil
}

// shareUp is the share of those that come that are up (log-logistic).
func (in ExpectedInput) shareUp(progress float64) float64 {
	if progress <= 0 {
		return 0
	}
	return 1 / (1 + math.Pow(progress, -in.Evenness))
}

// cellChance is that of a cell to show a sprout: any of its seeds does.
func (in ExpectedInput) cellChance(p, up float64) float64 {
	return 1 - math.Pow(1-p*in.TemperatureShare*up, float64(in.SeedsPerCell))
}

// weighed is a value with its weight.
type weighed struct{ v, w float64 }

// rates are what the lot's germination may be, with weights that add up to one.
func (in ExpectedInput) rates() []weighed {
	g := in.Germination
	a, b := float64(g.Sprouted)+0.5, float64(g.Tested-g.Sprouted)+0.5
	if g.Tested == 0 {
		if g.Rate == 0 || g.Rate == 1 {
			return []weighed{{g.Rate, 1}}
		}
		a, b = in.LabelWorth*g.Rate, in.LabelWorth*(1-g.Rate)
	}
	out := make([]weighed, 100)
	most := math.Inf(-1)
	for i := range out {
		p := (float64(i) + 0.5) / 100
		out[i] = weighed{p, (a-1)*math.Log(p) + (b-1)*math.Log1p(-p)}
		most = max(most, out[i].w)
	}
	return settle(out, most)
}

// settle turns logarithms of weights into weights that add up to one.
func settle(x []weighed, most float64) []weighed {
	sum := 0.0
	for i := range x {
		x[i].w = math.Exp(x[i].w - most)
		sum += x[i].w
	}
	for i := range x {
		x[i].w /= sum
	}
	return x
}

// errors are seven sizes of an error, with the weights of a normal one.
func errorsOf(size float64) []weighed {
	out := make([]weighed, 7)
	for i := range out {
		z := -2.4 + 0.8*float64(i)
		out[i] = weighed{z * size, -z * z / 2}
	}
	return settle(out, 0)
}

// Count answers how many cells should show a sprout by now and what a count says. Each
// cell shows one when any of its seeds does; the lot's rate, the temperature and the
// thermal time are each known only so well, and are one and the same for the whole
// sowing. It refuses with field.Errors.
func Count(in ExpectedInput) (Expected, error) {
	if err := in.check(); err != nil {
		return Expected{}, err
	}
	out := Expected{Progress: in.progress(in.Day, 0), HalfDay: in.reaches(1), JudgeDay: in.reaches(judgeFrom)}
	out.ShareUp = in.shareUp(out.Progress)
	rates, final := in.rates(), 0.0
	for _, p := range rates {
		out.CellChance += p.w * in.cellChance(p.v, out.ShareUp)
		final += p.w * in.cellChance(p.v, 1)
	}
	out.Expected, out.ExpectedFinal = float64(in.Cells)*out.CellChance, float64(in.Cells)*final
	mix := newMixture(in.Cells)
	for _, warm := range errorsOf(in.TemperatureErrorC) {
		progress := in.progress(in.Day, warm.v)
		for _, slow := range errorsOf(in.TimeError) {
			up := in.shareUp(progress * math.Exp(-slow.v))
			for _, p := range rates {
				mix.add(in.cellChance(p.v, up), warm.w*slow.w*p.w)
			}
		}
	}
	out.Low, out.High = mix.least(0.05), mix.least(0.95)
	if in.Seen != nil {
		out.Verdict = in.verdict(out)
	}
	out.Steps = in.steps(out)
	return out, nil
}

func (in ExpectedInput) verdict(x Expected) CountVerdict {
	switch seen := *in.Seen; {
	case seen > x.High:
		return Ahead
	case x.Progress == 0 && in.Day >= 1:
		return WrongTemperature
	case x.Progress < judgeFrom || x.Low == 0 && x.High == in.Cells:
		return TooEarly
	case seen < x.Low:
		return Behind
	}
	return OnCourse
}

func (in ExpectedInput) check() error {
	var e field.Errors
	g := in.Germination
	e.Require(in.Cells >= 1 && in.Cells <= 10_000, "cells", "must be a whole number from 1 to 10,000")
	e.Require(in.SeedsPerCell >= 1 && in.SeedsPerCell <= 100, "seeds_per_cell", "must be a whole number from 1 to 100")
	if g.Tested == 0 {
		e.Require(g.Rate >= 0 && g.Rate <= 1, "germination.rate", "must be a share from 0 to 1")
		e.Require(in.LabelWorth >= 2 && in.LabelWorth <= 10_000, "germination.worth_seeds", "must be 2 to 10,000 seeds")
	} else {
		e.Require(g.Tested >= 1 && g.Tested <= 10_000, "germination.tested", "must be a whole number from 1 to 10,000")
		e.Require(g.Sprouted >= 0 && g.Sprouted <= g.Tested, "germination.sprouted", "must be 0 up to the number tested")
	}
	e.Require(in.Day >= 0 && in.Day <= 400, "day", "must be 0 to 400 days")
	e.Require(len(in.TemperaturesC) >= 1, "temperatures_c", "needs at least one")
	for i, c := range in.TemperaturesC {
		e.Require(c >= -60 && c <= 60, fmt.Sprintf("temperatures_c.%d", i), "must be −60 to 60 °C")
	}
	e.Require(in.Seen == nil || *in.Seen >= 0 && *in.Seen <= in.Cells, "seen", "must be 0 up to the cells")
	e.Require(in.Evenness >= 1 && in.Evenness <= 30, "evenness", "must be 1 to 30")
	e.Require(in.TemperatureShare >= 0 && in.TemperatureShare <= 1, "temperature_share", "must be a share from 0 to 1")
	e.Require(in.TemperatureErrorC >= 0 && in.TemperatureErrorC <= 10, "temperature_error_c", "must be 0 to 10 °C")
	e.Require(in.TimeError >= 0 && in.TimeError <= 1, "time_error", "must be a share from 0 to 1")
	return e.Err()
}

func (in ExpectedInput) steps(x Expected) []working.Step {
	return []working.Step{
		{
			Name:    say.T("Progress"),
			Formula: say.T("Σ progress a day at its temperature, %.4g days", in.Day),
			Value:   x.Progress,
			Source:  say.T("thermal time: Garcia-Huidobro, Monteith and Squire (1982)"),
		},
		{Name: say.T("Of those that come up, up by then"), Formula: say.T("1 ÷ (1 + %.3g^−%.3g)", x.Progress, in.Evenness), Value: 100 * x.ShareUp, Unit: "%"},
		{
			Name:    say.T("Chance that one comes up"),
			Formula: say.T("1 − (1 − rate × %.3g × %.3g)^%d, averaged over the likely germination rates", in.TemperatureShare, x.ShareUp, in.SeedsPerCell),
			Value:   100 * x.CellChance,
			Unit:    "%",
		},
		{
			Name:    say.T("Cells with a seedling"),
			Formula: say.T("%d × %.3g; nine in ten sowings show %d to %d", in.Cells, x.CellChance, x.Low, x.High),
			Value:   x.Expected,
		},
	}
}

// mixture is the chance of each count over binomials that are each so likely.
type mixture struct {
	n      int
	chance []float64
	lnFact []float64
}

func newMixture(n int) *mixture {
	m := &mixture{n: n, chance: make([]float64, n+1), lnFact: make([]float64, n+1)}
	for k := 2; k <= n; k++ {
		m.lnFact[k] = m.lnFact[k-1] + math.Log(float64(k))
	}
	return m
}

// add puts in a binomial with a chance q and a weight, from its middle outwards until
// what is left weighs nothing.
func (m *mixture) add(q, w float64) {
	if w < 1e-15 {
		return
	}
	if q <= 0 {
		m.chance[0] += w
		return
	}
	if q >= 1 {
		m.chance[m.n] += w
		return
	}
	n := float64(m.n)
	mid := min(int((n+1)*q), m.n)
	k := float64(mid)
	top := w * math.Exp(m.lnFact[m.n]-m.lnFact[mid]-m.lnFact[m.n-mid]+k*math.Log(q)+(n-k)*math.Log1p(-q))
	odds, floor := q/(1-q), 1e-15*w
	for c, i := top, mid; i >= 0 && c > floor; i-- {
		m.chance[i] += c
		c *= float64(i) / (float64(m.n-i+1) * odds)
	}
	for c, i := top, mid; i < m.n && c > floor; i++ {
		c *= float64(m.n-i) * odds / float64(i+1)
		m.chance[i+1] += c
	}
}

// least is the smallest count that is not passed with at least a chance.
func (m *mixture) least(chance float64) int {
	sum := 0.0
	for k, c := range m.chance {
		if sum += c; sum >= chance-slack {
			return k
		}
	}
	return m.n
}
