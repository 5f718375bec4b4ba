package seed

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// viability is how a crop's seed loses life: probits a day by moisture and temperature.
type viability struct{ ke, cw, ch, cq float64 }

// viabilities are those that were measured for whole ranges of storage (Ellis and Roberts
// 1980, Annals of Botany 45:13, and later papers of theirs and co-workers).
var viabilities = map[string]viability{
	"barley":   {9.983, 5.896, 0.040, 0.000428},
	"onion":    {6.975, 3.470, 0.040, 0.000428},
	"lettuce":  {8.218, 4.797, 0.0489, 0.000365},
	"chickpea": {9.070, 4.820, 0.045, 0.000324},
	"cowpea":   {8.690, 4.715, 0.026, 0.000498},
	"soybean":  {7.748, 3.979, 0.053, 0.000228},
}

// AgeCrops are the crops of which it is known how their seed ages.
func AgeCrops() []string { return slices.Sorted(maps.Keys(viabilities)) }

// Stored is a time in one place: so warm, and the seed so moist.
type Stored struct {
	Days         float64 // 0 or more
	TemperatureC float64 // −20 to 60
	MoisturePct  float64 // of the fresh mass, 3 to 18
}

// AgeInput is a lot of seed and how it was kept.
type AgeInput struct {
	Crop        string
	Germination float64 // when it was stored, 0.01 to 0.999
	Storage     []Stored
	Below       float64 // 0.001 to 0.998
}

// AgeStep is one time of storage: the days in which the lot loses a probit, and what is left
// of it after.
type AgeStep struct {
	working.Step
	SigmaDays   float64 `json:"sigma_days"`
	Germination float64 `json:"germination"`
}

// AgeSteps are the times one by one.
type AgeSteps []AgeStep

// Working is how the answer was reached.
func (s AgeSteps) Working() (out []working.Step) {
	for _, x := range s {
		out = append(out, x.Step)
	}
	return out
}

// AgeAnswer is what is left of the lot, and for how many more days, kept as at last, it stays
// above what was asked; 0: it is not above.
type AgeAnswer struct {
	Germination float64
	DaysToBelow float64
	Steps       AgeSteps
}

// Age answers how seed has aged, by the viability equation of Ellis and Roberts: each time of
// storage takes days ÷ σ probits, lg σ = KE − CW·lg m − CH·t − CQ·t². It refuses with
// field.Errors.
func Age(in AgeInput) (AgeAnswer, error) {
	var e field.Errors
	v, known := viabilities[in.Crop]
	e.Require(known, "crop", "is not known; use one of %s", say.Name(strings.Join(AgeCrops(), ", ")))
	e.Require(in.Germination >= 0.01 && in.Germination <= 0.999, "germination", "must be a share from 0.01 to 0.999")
	e.Require(in.Below >= 0.001 && in.Below <= 0.998, "germination_below", "must be a share from 0.001 to 0.998")
	e.Require(len(in.Storage) > 0, "storage", "needs at least one time")
	for i, s := range in.Storage {
		at := fmt.Sprintf("storage.%d.", i)
		e.Require(s.Days >= 0 && s.Days <= 1e12, at+"days", "must be 0 days or more")
		e.Require(s.TemperatureC >= -20 && s.TemperatureC <= 60, at+"temperature_c", "must be −20 to 60 °C")
		e.Require(s.MoisturePct >= 3 && s.MoisturePct <= 18, at+"moisture_percent", "must be 3 to 18 %")
	}
	if err := e.Err(); err != nil {
		return AgeAnswer{}, err
	}
	left := probit(in.Germination)
	var a AgeAnswer
	sigma := 0.0
	for _, s := range in.Storage {
		t := s.TemperatureC
		sigma = math.Pow(10, v.ke-v.cw*math.Log10(s.MoisturePct)-v.ch*t-v.cq*t*t)
		before := left
		left -= s.Days / sigma
		a.Steps = append(a.Steps, AgeStep{
			Step: working.Step{
				Name: say.T("After %.4g days at %.3g °C and %.3g %%", s.Days, t, s.MoisturePct), Formula: say.T("Φ(%.4g − %.4g ÷ %.4g)", before, s.Days, sigma),
				Value: normal(left), Unit: "share", Source: say.Words("Ellis and Roberts (1980), Ann. Bot. 45:13"),
			},
			SigmaDays: sigma, Germination: normal(left),
		})
	}
	a.Germination = normal(left)
	a.DaysToBelow = math.Max(0, (left-probit(in.Below))*sigma)
	return a, nil
}

func probit(p float64) float64 { return math.Sqrt2 * math.Erfinv(2*p-1) }

func normal(x float64) float64 { return math.Erfc(-x/math.Sqrt2) / 2 }
