package irrigation

import (
	"fmt"
	"math"
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Caught is what so many cups caught under the emitters of a drip line.
type Caught struct {
	ML       []float64 // 4 to 10,000 cups
	Minutes  float64
	Emitters int      // of the line
	NeedL    *float64 // that all of them together are to give; nil: not told
}

// Emitters is whether a drip line gives alike everywhere. Clogged, Weak and Leaking are places in the
// list of cups.
type Emitters struct {
	MeanML, LowQuarterML, MedianML, FlowLH float64
	Uniformity, Christiansen               *float64 // nil when nothing was caught
	Clogged, Weak, Leaking                 []int
	Verdict                                string
	MinutesMean, MinutesLowQuarter         *float64 // nil without a need, or where nothing comes
	Steps                                  []working.Step
}

// Emitters that give so much of the middle one.
const (
	cloggedBelow, weakBelow, leakingAbove = 0.6, 0.8, 1.5
)

// OfEmitters judges a drip line by the low-quarter distribution uniformity and by Christiansen's
// coefficient (1942). It refuses with field.Errors.
func OfEmitters(in Caught) (Emitters, error) {
	var e field.Errors
	e.Require(len(in.ML) >= 4 && len(in.ML) <= 10_000, "caught_ml", "must be 4 to 10,000 cups")
	for i, c := range in.ML {
		e.Require(c >= 0 && c <= 1e6, fmt.Sprintf("caught_ml.%d", i), "must be 0 mL or more")
	}
	e.Require(in.Minutes > 0 && in.Minutes <= 1e5, "minutes", "must be above 0 minutes")
	e.Require(in.Emitters >= 1 && in.Emitters <= 1e7, "emitters", "must be 1 or more")
	e.Require(in.NeedL == nil || *in.NeedL > 0 && *in.NeedL <= 1e9, "need_l", "must be above 0 litres")
	if err := e.Err(); err != nil {
		return Emitters{}, err
	}
	sorted := slices.Sorted(slices.Values(in.ML))
	n := float64(len(sorted))
	x := Emitters{Clogged: []int{}, Weak: []int{}, Leaking: []int{}}
	sum := 0.0
	for _, c := range sorted {
		sum += c
	}
	x.MeanML = sum / n
	x.MedianML = (sorted[(len(sorted)-1)/2] + sorted[len(sorted)/2]) / 2
	quarter, low := n/4, 0.0
	for i, c := range sorted {
		low += c * math.Min(1, math.Max(0, quarter-float64(i)))
	}
	x.LowQuarterML = low / quarter
	x.FlowLH = x.MeanML / 1000 / in.Minutes * 60
	for i, c := range in.ML {
		switch {
		case c == 0 || c < cloggedBelow*x.MedianML:
			x.Clogged = append(x.Clogged, i)
		case c < weakBelow*x.MedianML:
			x.Weak = append(x.Weak, i)
		case c > leakingAbove*x.MedianML:
			x.Leaking = append(x.Leaking, i)
		}
	}
	if x.MeanML == 0 {
		x.Verdict = "dry"
		return x, nil
	}
	off := 0.0
	for _, c := range sorted {
		off += math.Abs(c - x.MeanML)
	}
	du, cu := x.LowQuarterML/x.MeanML, 100*(1-off/(n*x.MeanML))
	x.Uniformity, x.Christiansen = &du, &cu
	switch {
	case du >= 0.9:
		x.Verdict = "excellent"
	case du >= 0.8:
		x.Verdict = "good"
	case du >= 0.7:
		x.Verdict = "fair"
	default:
		x.Verdict = "poor"
	}
	x.Steps = []working.Step{
		{Name: say.T("Mean of all cups"), Formula: say.T("%.4g ÷ %d", sum, len(sorted)), Value: x.MeanML, Unit: "mL"},
		{Name: say.T("Mean of the lowest quarter"), Formula: say.T("%.4g ÷ %.4g", low, quarter), Value: x.LowQuarterML, Unit: "mL"},
		{Name: say.T("Distribution uniformity"), Formula: say.T("%.4g ÷ %.4g", x.LowQuarterML, x.MeanML), Value: du, Source: say.Words("Merriam and Keller (1978)")},
		{
			Name: say.T("Christiansen’s coefficient"), Formula: say.T("100 × (1 − %.4g ÷ (%d × %.4g))", off, len(sorted), x.MeanML), Value: cu,
			Unit: "%", Source: say.Words("Christiansen (1942)"),
		},
	}
	if in.NeedL != nil {
		mean := *in.NeedL / (float64(in.Emitters) * x.FlowLH) * 60
		x.MinutesMean = &mean
		if du > 0 {
			quarter := mean / du
			x.MinutesLowQuarter = &quarter
		}
	}
	return x, nil
}
