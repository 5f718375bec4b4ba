package climate

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Pair is one night's low at a place and at the station that the forecast is for, °C.
type Pair struct{ SiteC, StationC float64 }

// NightInput is what SiteNight needs, °C.
type NightInput struct {
	Nights                []Pair
	PriorMeanC, PriorSDC  float64 // site less station, before any night is known
	NightSDC              float64 // of one night about that
	ForecastC, ForecastSD float64
	FrameGainC            float64 // a closed frame, or fleece
	SafeC                 float64 // what the plants stand once hardened
	UnhardenedC           *float64
	GoodDays              float64 // outside so far, with UnhardenedC
	BringInAbove          float64 // chance of harm
}

// What a place is to its station before any night has been compared: a still clear
// night on the ground is colder. Starting values.
const (
	PriorMeanC   = -1.5
	PriorSDC     = 1.5
	NightSDC     = 1.4
	BringInAbove = 0.1
	// FrameGainC is what a closed frame usually holds.
	FrameGainC = 2
	// acclimation is the time constant of hardening, good days.
	acclimation = 6
)

// Night is what a forecast means at a place.
type Night struct {
	DifferenceC, DifferenceSDC, NightSDC float64
	ExpectedC, SpreadC, LowC, HighC      float64 // nine nights in ten lie from low to high
	ChanceFrost                          float64
	FloorC, ChanceBelowFloor             float64
	Protect                              bool
	Steps                                []working.Step
}

// Floor is the lowest night a plant stands after so many good days outside: from what it
// stands when not hardened off towards what it stands hardened off, two thirds of the way in six days
// (acclimation after Levitt 1980).
func Floor(unhardenedC, hardenedC, goodDays float64) float64 {
	return unhardenedC + (hardenedC-unhardenedC)*(1-math.Exp(-goodDays/acclimation))
}

// SiteNight answers what a station's forecast means at a place, from nights that were
// compared (normal, conjugate), and whether plants there must be protected (radiation
// nights: Snyder and de Melo-Abreu 2005). It refuses with field.Errors.
func SiteNight(in NightInput) (Night, error) {
	if err := in.check(); err != nil {
		return Night{}, err
	}
	n := float64(len(in.Nights))
	sum, squares := 0.0, 0.0
	for _, p := range in.Nights {
		sum += p.SiteC - p.StationC
	}
	for _, p := range in.Nights {
		off := p.SiteC - p.StationC - sum/n
		squares += off * off
	}
	var out Night
	variance := (4*in.NightSDC*in.NightSDC + squares) / (4 + max(0, n-1))
	precision := 1/(in.PriorSDC*in.PriorSDC) + n/variance
	out.DifferenceC = (in.PriorMeanC/(in.PriorSDC*in.PriorSDC) + sum/variance) / precision
	out.DifferenceSDC, out.NightSDC = 1/math.Sqrt(precision), math.Sqrt(variance)
	out.ExpectedC = in.ForecastC + out.DifferenceC + in.FrameGainC
	out.SpreadC = math.Sqrt(1/precision + variance + in.ForecastSD*in.ForecastSD)
	const nineInTen = 1.6448536
	out.LowC, out.HighC = out.ExpectedC-nineInTen*out.SpreadC, out.ExpectedC+nineInTen*out.SpreadC
	out.ChanceFrost = distuv.UnitNormal.CDF(-out.ExpectedC / out.SpreadC)
	if out.FloorC = in.SafeC; in.UnhardenedC != nil {
		out.FloorC = Floor(*in.UnhardenedC, in.SafeC, in.GoodDays)
	}
	out.ChanceBelowFloor = distuv.UnitNormal.CDF((out.FloorC - out.ExpectedC) / out.SpreadC)
	out.Protect = out.ChanceBelowFloor > in.BringInAbove
	out.Steps = in.steps(out)
	return out, nil
}

func (in NightInput) check() error {
	var e field.Errors
	e.Require(len(in.Nights) <= 5000, "nights", "must be at most 5,000 nights")
	warm := func(name string, c float64) { e.Require(c >= -60 && c <= 60, name, "must be −60 to 60 °C") }
	for i, p := range in.Nights {
		warm(fmt.Sprintf("nights.%d.site_c", i), p.SiteC)
		e.Require(p.StationC >= -90 && p.StationC <= 60, fmt.Sprintf("nights.%d.station_c", i), "must be −90 to 60 °C")
	}
	warm("prior_mean_c", in.PriorMeanC)
	e.Require(in.PriorSDC > 0 && in.PriorSDC <= 60, "prior_sd_c", "must be above 0 °C")
	e.Require(in.NightSDC > 0 && in.NightSDC <= 60, "night_sd_c", "must be above 0 °C")
	warm("forecast_c", in.ForecastC)
	e.Require(in.ForecastSD >= 0 && in.ForecastSD <= 60, "forecast_sd_c", "must be 0 °C or more")
	warm("frame_gain_c", in.FrameGainC)
	warm("safe_c", in.SafeC)
	if in.UnhardenedC != nil {
		warm("unhardened_c", *in.UnhardenedC)
		e.Require(*in.UnhardenedC >= in.SafeC, "unhardened_c", "must be at or above what it stands hardened off")
		e.Require(in.GoodDays >= 0 && in.GoodDays <= 1e5, "good_days", "must be 0 days or more")
	}
	e.Require(in.BringInAbove > 0 && in.BringInAbove < 1, "bring_in_above", "must be a share above 0 and below 1")
	return e.Err()
}

func (in NightInput) steps(x Night) []working.Step {
	return []working.Step{
		{
			Name:    say.T("Here minus the station"),
			Formula: say.T("%d nights compared, starting from %.3g ± %.3g", len(in.Nights), in.PriorMeanC, in.PriorSDC),
			Value:   x.DifferenceC,
			Unit:    "K",
			Source:  say.T("radiation nights: Snyder and de Melo-Abreu (2005)"),
		},
		{
			Name:    say.T("Expected here"),
			Formula: say.T("%.3g + %.3g + %.3g under cover", in.ForecastC, x.DifferenceC, in.FrameGainC),
			Value:   x.ExpectedC,
			Unit:    "°C",
		},
		{Name: say.T("Give or take"), Formula: say.T("√(%.3g² + %.3g² + %.3g²)", x.DifferenceSDC, x.NightSDC, in.ForecastSD), Value: x.SpreadC, Unit: "K"},
		{Name: say.T("They tolerate"), Formula: floorFormula(in), Value: x.FloorC, Unit: "°C", Source: say.T("acclimation: after Levitt (1980)")},
		{
			Name:    say.T("Chance of harm"),
			Formula: say.T("Φ((%.3g − %.3g) ÷ %.3g)", x.FloorC, x.ExpectedC, x.SpreadC),
			Value:   100 * x.ChanceBelowFloor,
			Unit:    "%",
		},
	}
}

func floorFormula(in NightInput) say.Text {
	if in.UnhardenedC == nil {
		return say.T("hardened")
	}
	return say.T("%.3g + (%.3g − %.3g) × (1 − e^(−%.3g ÷ 6)) after good days outside", *in.UnhardenedC, in.SafeC, *in.UnhardenedC, in.GoodDays)
}
