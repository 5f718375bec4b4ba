package gauge

import (
	"fmt"
	"math"
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Pair is what a probe said and what a hand meter said of the same water, on a day.
type Pair struct{ Day, Probe, Hand float64 }

// Logged is what a probe wrote down on a day.
type Logged struct{ Day, Value float64 }

// DriftInput is what Drift needs. The usual values are UsualDrift.
type DriftInput struct {
	Pairs                 []Pair
	ProbeError, HandError float64
	Slack, Alarm          float64 // of the sums, in standard errors
	Series                []Logged
	HasSeries             bool // one was given, and may be empty
	NowDay                *float64
	SilentDays            float64
	Resolution, Spike     float64 // of the probe's figures
}

// UsualDrift are the usual values.
func UsualDrift() DriftInput {
	return DriftInput{ProbeError: 0.05, HandError: 0.1, Slack: 0.5, Alarm: 4, SilentDays: 0.25, Resolution: 0.01, Spike: 0.3}
}

// Drifted is whether a probe is to be believed.
type Drifted struct {
	Verdict             string // silent, stuck, spiky, drifting, too_few or fine
	Offset              *float64
	SlopePerWeek        *float64
	AlarmDay            *float64
	Direction           string // high or low; "" without an alarm
	CusumHigh, CusumLow []float64
	Spikes              []int
	StuckSince          *float64
	Steps               []working.Step
}

// How much of a series is looked at, and when it counts as stuck or spiky.
const (
	slopePairs  = 300
	stuckValues = 12
	stuckDays   = 1
	fewSpikes   = 3
	spikyShare  = 0.02
)

// Drift adds up how far a probe lies from a hand meter (Page 1954: cumulative sums), and looks
// at what it wrote down by itself. It refuses with field.Errors.
func Drift(in DriftInput) (Drifted, error) {
	if err := in.check(); err != nil {
		return Drifted{}, err
	}
	out := Drifted{CusumHigh: []float64{}, CusumLow: []float64{}, Spikes: []int{}}
	high, low, both := 0.0, 0.0, math.Hypot(in.ProbeError, in.HandError)
	var gaps []float64
	for _, p := range in.Pairs {
		z := (p.Probe - p.Hand) / both
		gaps = append(gaps, p.Probe-p.Hand)
		high, low = max(0, high+z-in.Slack), max(0, low-z-in.Slack)
		out.CusumHigh, out.CusumLow = append(out.CusumHigh, high), append(out.CusumLow, low)
		if out.AlarmDay == nil && max(high, low) >= in.Alarm-1e-9 {
			day := p.Day
			out.AlarmDay, out.Direction = &day, "low"
			if high >= low {
				out.Direction = "high"
			}
		}
	}
	if n := len(gaps); n > 0 {
		m := median(gaps[max(0, n-3):])
		out.Offset = &m
	}
	out.SlopePerWeek = in.slope()
	out.Spikes, out.StuckSince = in.spikes(), in.stuck()
	out.Verdict = in.verdict(out)
	if out.Offset != nil {
		out.Steps = append(out.Steps, working.Step{Name: say.T("The probe less the hand meter"), Formula: say.T("middle of the last three"), Value: *out.Offset})
	}
	out.Steps = append(out.Steps, working.Step{
		Name: say.T("The greater sum"), Formula: say.T("alarm at %.3g", in.Alarm), Value: max(high, low), Source: say.Words("Page (1954), Biometrika 41:100"),
	})
	return out, nil
}

func (in DriftInput) check() error {
	var e field.Errors
	e.Require(len(in.Pairs) <= 5000, "pairs", "must be at most 5,000")
	e.Require(len(in.Series) <= 100_000, "series", "must be at most 100,000")
	for name, v := range map[string]float64{
		"probe_error": in.ProbeError, "hand_error": in.HandError, "alarm": in.Alarm, "silent_days": in.SilentDays, "resolution": in.Resolution, "spike": in.Spike,
	} {
		e.Require(v > 0 && v <= 1e9, name, "must be a number above 0")
	}
	e.Require(in.Slack >= 0 && in.Slack <= 1e9, "slack", "must be 0 or more")
	for i := 1; i < len(in.Pairs); i++ {
		e.Require(in.Pairs[i].Day > in.Pairs[i-1].Day, fmt.Sprintf("pairs.%d.day", i), "must be later than the one before")
	}
	for i := 1; i < len(in.Series); i++ {
		e.Require(in.Series[i].Day > in.Series[i-1].Day, fmt.Sprintf("series.%d.day", i), "must be later than the one before")
	}
	return e.Err()
}

func median(list []float64) float64 {
	s := slices.Sorted(slices.Values(list))
	n := len(s)
	return (s[(n-1)/2] + s[n/2]) / 2
}

// slope is by how much the gap grows in a week: the middle of the slopes between all pairs.
func (in DriftInput) slope() *float64 {
	last := in.Pairs[max(0, len(in.Pairs)-slopePairs):]
	var all []float64
	for i, a := range last {
		for _, b := range last[i+1:] {
			all = append(all, (b.Probe-b.Hand-a.Probe+a.Hand)/(b.Day-a.Day))
		}
	}
	if len(all) == 0 {
		return nil
	}
	m := 7 * median(all)
	return &m
}

// spikes are values far from the middle of themselves and their two neighbours.
func (in DriftInput) spikes() []int {
	out := []int{}
	for i := 1; i+1 < len(in.Series); i++ {
		v := in.Series[i].Value
		if math.Abs(v-median([]float64{in.Series[i-1].Value, v, in.Series[i+1].Value})) > in.Spike {
			out = append(out, i)
		}
	}
	return out
}

// stuck is since when the figures do not move; nil: they do.
func (in DriftInput) stuck() *float64 {
	n := len(in.Series)
	if n == 0 {
		return nil
	}
	least, most, from := math.Inf(1), math.Inf(-1), n
	for i := n - 1; i >= 0; i-- {
		v := in.Series[i].Value
		if least, most = min(least, v), max(most, v); most-least >= in.Resolution/2 {
			break
		}
		from = i
	}
	if n-from < stuckValues || in.Series[n-1].Day-in.Series[from].Day < stuckDays {
		return nil
	}
	day := in.Series[from].Day
	return &day
}

func (in DriftInput) verdict(x Drifted) string {
	n := len(in.Series)
	switch {
	case in.HasSeries && in.NowDay != nil && (n == 0 || *in.NowDay-in.Series[n-1].Day > in.SilentDays+1e-9):
		return "silent"
	case x.StuckSince != nil:
		return "stuck"
	case len(x.Spikes) >= fewSpikes && float64(len(x.Spikes)) > spikyShare*float64(n):
		return "spiky"
	case x.AlarmDay != nil:
		return "drifting"
	case len(in.Pairs) < 3:
		return "too_few"
	}
	return "fine"
}
