// Package gauge is what readings are worth: several of one thing taken together, and
// whether to act on them.
//
//	x, err := gauge.Combine(gauge.CombineInput{Readings: readings, High: &high, ActAbove: gauge.ActAbove})
package gauge

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Usual standard errors of a pH reading: starting values.
const (
	CardError     = 0.3
	CardUnderLamp = 0.4
	PenError      = 0.1
	PenPerWeek    = 0.02 // more each week since its buffers
	ForecastError = 0.2
)

// Reading is one reading of a thing. Errors are standard errors, in the reading's unit.
type Reading struct {
	Value, Error    float64
	Bias, BiasError float64 // known to be too high by so much, and how well that is known
	Weeks, PerWeek  float64 // since it was calibrated, and what its error grows by
}

// own is the reading's error with all that adds to it.
func (r Reading) own() float64 { return math.Hypot(r.Error+r.Weeks*r.PerWeek, r.BiasError) }

// CombineInput is what Combine needs. Low and High are a band; nil is no bound.
type CombineInput struct {
	Readings  []Reading
	Low, High *float64
	ActAbove  float64 // chance of being outside above which one acts
	ReadAbove float64 // and above which one reads again
}

// Usual chances: a needless dose costs four times what a day's delay does.
const (
	ActAbove  = 0.8
	ReadAbove = 0.2
)

// Advice on a value and its band; "" without a band.
type Advice string

// Leave it, read again, lower or raise it.
const (
	Leave     Advice = "leave"
	ReadAgain Advice = "read_again"
	Lower     Advice = "lower"
	Raise     Advice = "raise"
)

// Combined is what the readings come to.
type Combined struct {
	Value, Error             float64
	Stretch, Chi2            float64
	Disagree                 bool
	Doubts                   [][2]int // pairs that lie too far apart, the first hundred
	ChanceAbove, ChanceBelow *float64
	Advice                   Advice
	Steps                    []working.Step
}

// Beyond is by how much the value is to be expected outside a band: nothing where it is surely
// inside, and the mean distance to the nearer edge where it is surely outside.
func (c Combined) Beyond(low, high float64) float64 {
	over := func(by float64) float64 { // the mean of what is above 0 of a normal value around by
		if c.Error <= 0 {
			return max(0, by)
		}
		z := by / c.Error
		return by*distuv.UnitNormal.CDF(z) + c.Error*distuv.UnitNormal.Prob(z)
	}
	return over(c.Value-high) + over(low-c.Value)
}

// Combine weighs readings by their precision; readings that scatter more than their
// errors say stretch the error of the whole. Whether to act follows from the chance of
// being outside the band, not from the value alone. It refuses with field.Errors.
func Combine(in CombineInput) (Combined, error) {
	if err := in.check(); err != nil {
		return Combined{}, err
	}
	var out Combined
	sum, weights := 0.0, 0.0
	for _, r := range in.Readings {
		w := 1 / (r.own() * r.own())
		sum, weights = sum+w*(r.Value-r.Bias), weights+w
	}
	out.Value = sum / weights
	for i, r := range in.Readings {
		z := (r.Value - r.Bias - out.Value) / r.own()
		out.Chi2 += z * z
		for j := i + 1; j < len(in.Readings); j++ {
			o := in.Readings[j]
			if math.Abs(r.Value-r.Bias-o.Value+o.Bias) > 2*math.Hypot(r.own(), o.own()) {
				if out.Disagree = true; len(out.Doubts) < 100 {
					out.Doubts = append(out.Doubts, [2]int{i, j})
				}
			}
		}
	}
	out.Stretch = 1
	if n := len(in.Readings); n > 1 {
		out.Stretch = max(1, math.Sqrt(out.Chi2/float64(n-1)))
	}
	out.Error = out.Stretch / math.Sqrt(weights)
	if in.High != nil {
		c := distuv.UnitNormal.Survival((*in.High - out.Value) / out.Error)
		out.ChanceAbove = &c
	}
	if in.Low != nil {
		c := distuv.UnitNormal.CDF((*in.Low - out.Value) / out.Error)
		out.ChanceBelow = &c
	}
	out.Advice = in.advise(out)
	out.Steps = in.steps(out)
	return out, nil
}

func (in CombineInput) advise(x Combined) Advice {
	above, below := 0.0, 0.0
	if x.ChanceAbove != nil {
		above = *x.ChanceAbove
	}
	if x.ChanceBelow != nil {
		below = *x.ChanceBelow
	}
	switch {
	case in.Low == nil && in.High == nil:
		return ""
	case above < in.ReadAbove && below < in.ReadAbove:
		return Leave
	case x.Disagree:
		return ReadAgain
	case above > in.ActAbove:
		return Lower
	case below > in.ActAbove:
		return Raise
	}
	return ReadAgain
}

func (in CombineInput) check() error {
	var e field.Errors
	e.Require(len(in.Readings) >= 1 && len(in.Readings) <= 1000, "readings", "must be 1 to 1,000 readings")
	for i, r := range in.Readings {
		at := fmt.Sprintf("readings.%d.", i)
		e.Require(math.Abs(r.Value) <= 1e9, at+"value", "must be at most 1,000,000,000")
		e.Require(r.Error > 0 && r.Error <= 1e9, at+"error", "must be a standard error above 0")
		e.Require(math.Abs(r.Bias) <= 1e9, at+"bias", "must be at most 1,000,000,000")
		e.Require(r.BiasError >= 0 && r.BiasError <= 1e9, at+"bias_error", "must be 0 or more")
		e.Require(r.Weeks >= 0 && r.Weeks <= 1e5, at+"weeks", "must be 0 weeks or more")
		e.Require(r.PerWeek >= 0 && r.PerWeek <= 1e6, at+"error_per_week", "must be 0 or more")
	}
	if in.Low != nil && in.High != nil {
		e.Require(*in.Low < *in.High, "high", "must be above the low end of the range")
	}
	e.Require(in.ActAbove >= 0.5 && in.ActAbove < 1, "act_above", "must be a share from 0.5 to below 1")
	e.Require(in.ReadAbove > 0 && in.ReadAbove <= in.ActAbove, "read_above", "must be a share above 0, up to act_above")
	return e.Err()
}

func (in CombineInput) steps(x Combined) []working.Step {
	steps := []working.Step{
		{
			Name:    say.T("Combined"),
			Formula: say.T("Σ x ÷ s² ÷ Σ 1 ÷ s², of %d", len(in.Readings)),
			Value:   x.Value,
			Source:  say.T("weighting by precision"),
		},
		{Name: say.T("Give or take"), Formula: say.T("%.3g ÷ √Σ 1 ÷ s²", x.Stretch), Value: x.Error},
	}
	if x.ChanceAbove != nil {
		steps = append(
			steps,
			working.Step{
				Name:    say.T("Chance of being above"),
				Formula: say.T("1 − Φ((%.4g − %.4g) ÷ %.3g)", *in.High, x.Value, x.Error),
				Value:   100 * *x.ChanceAbove,
				Unit:    "%",
			},
		)
	}
	if x.ChanceBelow != nil {
		steps = append(
			steps,
			working.Step{
				Name:    say.T("Chance of being below"),
				Formula: say.T("Φ((%.4g − %.4g) ÷ %.3g)", *in.Low, x.Value, x.Error),
				Value:   100 * *x.ChanceBelow,
				Unit:    "%",
			},
		)
	}
	return steps
}
