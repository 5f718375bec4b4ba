package chemistry

import (
	"fmt"
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// TestStep is a step of a jar test: how much acid had gone in, all together, and the pH then.
type TestStep struct {
	Amount float64 // mL or g; 0 before any
	PH     float64
}

// JarTest is measured acid, stirred into water little by little.
type JarTest struct {
	VolumeL      float64
	TemperatureC float64
	ECMScm       float64
	Acid         Product
	Steps        []TestStep // the first without acid
}

// JarTested is the alkalinity that fits, mg/L as CaCO3, and how well it does.
type JarTested struct {
	Alkalinity Band
	Misfit     float64 // root mean square of pH, between what was read and what would fit
	Fits       bool
	Steps      []working.Step
}

// The fit: what alkalinity is tried, how far a pH is out, and how far the fit may be.
const (
	testLow, testHigh = 2.0, 600.0
	testGrid          = 240
	testError         = 0.12
	testMisfit        = 0.35
)

// TestJar fits the alkalinity of a water to a jar test, by the same charge balance as doses
// are worked out with, gas kept in: stir gently, read within minutes. It refuses with
// field.Errors.
func TestJar(in JarTest) (JarTested, error) {
	if err := in.check(); err != nil {
		return JarTested{}, err
	}
	first := PHInput{
		VolumeL: in.VolumeL, PHNow: in.Steps[0].PH, ECMScm: in.ECMScm, TemperatureC: in.TemperatureC,
		Agent: in.Acid.Agent, StrengthPercent: in.Acid.StrengthPercent, DensityGML: in.Acid.DensityGML,
	}
	weights, best, least, sum := make([]float64, testGrid), 0, math.Inf(1), 0.0
	tried := func(i int) float64 { return testLow * math.Pow(testHigh/testLow, float64(i)/(testGrid-1)) }
	for i := range weights {
		first.AlkalinityMgLCaCO3 = tried(i)
		chi := 0.0
		for _, s := range in.Steps[1:] {
			ph, err := PHAfter(first, s.Amount)
			if err != nil {
				return JarTested{}, err
			}
			chi += (ph - s.PH) * (ph - s.PH)
		}
		if weights[i] = chi; chi < least {
			best, least = i, chi
		}
	}
	for i, chi := range weights {
		weights[i] = math.Exp(-(chi - least) / (2 * testError * testError))
		sum += weights[i]
	}
	out := JarTested{Alkalinity: Band{P50: tried(best)}, Misfit: math.Sqrt(least / float64(len(in.Steps)-1))}
	at := 0.0
	for i, w := range weights {
		before := at
		at += w / sum
		if before < 0.05 && at >= 0.05 {
			out.Alkalinity.P5 = tried(i)
		}
		if before < 0.95 && at >= 0.95 {
			out.Alkalinity.P95 = tried(i)
		}
	}
	out.Fits = out.Misfit <= testMisfit && best > 0 && best < testGrid-1
	out.Steps = []working.Step{
		{
			Name: say.T("Alkalinity that fits"), Formula: say.T("charge balance of %d readings, gas kept in", len(in.Steps)-1), Value: out.Alkalinity.P50,
			Unit: "mg/L", Source: say.Words("charge balance; Plummer and Busenberg (1982)"),
		},
		{Name: say.T("Left over"), Formula: say.T("root mean square of the differences from the fitted line"), Value: out.Misfit, Unit: "pH"},
	}
	return out, nil
}

func (in JarTest) check() error {
	var e field.Errors
	e.Require(in.VolumeL >= 0.05 && in.VolumeL <= 100, "jar_l", "must be %s to %s", say.Figure(0.05, unit.Litre), say.Of(100, unit.Litre))
	e.Require(in.Acid.Agent.Acid(), "jar_acid", "must be an acid")
	e.Require(in.Acid.StrengthPercent > 0 && in.Acid.StrengthPercent <= 100, "jar_strength", "must be above 0 up to 100")
	e.Require(len(in.Steps) >= 3, "jar_ph0", "must be a pH before any acid, and two after some at least")
	for i, s := range in.Steps {
		e.Require(s.PH >= 3 && s.PH <= 10, fmt.Sprint("jar_ph", i), "must be a pH from 3 to 10")
		if i > 0 {
			e.Require(s.Amount > in.Steps[i-1].Amount, fmt.Sprint("jar_ml", i), "must be all the acid so far: more than in the line above")
		}
	}
	return e.Err()
}
