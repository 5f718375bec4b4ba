package gauge

import (
	"fmt"
	"math"
	"slices"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// bufferPH is the pH of each usual buffer at 0, 5, … 40 °C, by its maker's table (NIST and DIN
// 19266 for 4.01, 6.86, 9.18 and 10.01).
var bufferPH = map[string][9]float64{
	"4.01":  {4.003, 3.999, 3.998, 3.999, 4.002, 4.008, 4.015, 4.024, 4.035},
	"6.86":  {6.984, 6.951, 6.923, 6.900, 6.881, 6.865, 6.853, 6.844, 6.838},
	"7.00":  {7.12, 7.09, 7.06, 7.04, 7.02, 7.00, 6.99, 6.98, 6.97},
	"9.18":  {9.464, 9.395, 9.332, 9.276, 9.225, 9.180, 9.139, 9.102, 9.068},
	"10.01": {10.317, 10.245, 10.179, 10.118, 10.062, 10.012, 9.966, 9.925, 9.889},
}

// Buffers are those whose pH at each temperature is known, weakest first.
func Buffers() []string { return []string{"4.01", "6.86", "7.00", "9.18", "10.01"} }

// BufferPH is a buffer's pH at a temperature of 0 to 40 °C; ok is false for one that is not known.
func BufferPH(buffer string, temperatureC float64) (ph float64, ok bool) {
	t, ok := bufferPH[buffer]
	x := min(max(temperatureC, 0), 40) / 5
	i := min(int(x), len(t)-2)
	return t[i] + (t[i+1]-t[i])*(x-float64(i)), ok
}

// idealMV is what a good pen gives for one pH at a temperature (the Nernst slope), mV.
func idealMV(temperatureC float64) float64 { return 0.1984159 * (temperatureC + 273.15) }

// Point is what a pen showed in a buffer.
type Point struct {
	Buffer       string  `json:"buffer,omitempty"` // one of Buffers; "": PH says it
	PH           float64 `json:"ph,omitempty"`     // 1 to 13, where no Buffer is named
	Shown        float64 `json:"shown"`            // mV, or the pH that it shows
	TemperatureC float64 `json:"temperature_c"`    // 0 to 40
}

// PenInput is what CalibratePen needs.
type PenInput struct {
	Points        []Point // two or three
	ShowsPH       bool    // Shown is a pH: it is taken for an ideal pen
	Reading       *Point  // of which Shown and TemperatureC count; nil: none
	SettleSeconds float64
}

// What a pen is worth.
const (
	Repeat  = "repeat"  // buffers spoiled, or mixed up
	Replace = "replace" // it is worn out
	Clean   = "clean"   // clean it, and let it stand in storage solution
	Good    = "good"
	Adjust  = "adjust" // of a conductivity pen: set it to its standard
)

// Pen is what a calibration comes to.
type Pen struct {
	SlopePercent, OffsetMV float64
	WorstPH                *float64 // how far a point lies off the line; nil with two
	Verdict                string
	PH, UncorrectedPH      *float64 // of the reading; PH is nil where the line falls
	Steps                  []working.Step
}

// CalibratePen lays a line through what a pen showed in buffers, each at its own temperature.
// It refuses with field.Errors.
func CalibratePen(in PenInput) (Pen, error) {
	if err := in.check(); err != nil {
		return Pen{}, err
	}
	mv := func(p Point) float64 {
		if in.ShowsPH {
			return -idealMV(p.TemperatureC) * (p.Shown - 7)
		}
		return p.Shown
	}
	var xs, es []float64
	for _, p := range in.Points {
		xs, es = append(xs, -idealMV(p.TemperatureC)*(p.ph()-7)), append(es, mv(p))
	}
	offset, k := leastSquares(xs, es)
	out := Pen{SlopePercent: 100 * k, OffsetMV: offset}
	worst := 0.0
	if len(in.Points) == 3 && k > 0 {
		for i, p := range in.Points {
			worst = max(worst, math.Abs(es[i]-offset-k*xs[i])/(k*idealMV(p.TemperatureC)))
		}
		out.WorstPH = &worst
	}
	switch slope, off := out.SlopePercent, math.Abs(offset); {
	case slope < 70 || slope > 102 || worst > 0.05:
		out.Verdict = Repeat
	case slope < 85 || off > 30:
		out.Verdict = Replace
	case slope < 95 || off > 15 || in.SettleSeconds > 60:
		out.Verdict = Clean
	default:
		out.Verdict = Good
	}
	if r := in.Reading; r != nil {
		s, e := idealMV(r.TemperatureC), mv(*r)
		raw := 7 - e/s
		out.UncorrectedPH = &raw
		if k > 0 {
			ph := 7 - (e-offset)/(k*s)
			out.PH = &ph
		}
	}
	out.Steps = []working.Step{
		{
			Name: say.T("Slope"), Formula: say.T("of a line through %d points, 100 is ideal", len(in.Points)), Value: out.SlopePercent, Unit: "%",
			Source: say.Words("the Nernst slope, 0.1984159 mV a kelvin"),
		},
		{Name: say.T("Offset"), Formula: say.T("what it gives at pH 7"), Value: offset, Unit: "mV"},
	}
	if out.PH != nil {
		out.Steps = append(out.Steps, working.Step{
			Name: say.T("The corrected reading"), Formula: say.T("7 − (E − offset) ÷ (slope · S)"), Value: *out.PH, Unit: "pH",
		})
	}
	return out, nil
}

func (p Point) ph() float64 {
	if ph, ok := BufferPH(p.Buffer, p.TemperatureC); ok {
		return ph
	}
	return p.PH
}

func (in PenInput) check() error {
	var e field.Errors
	e.Require(len(in.Points) == 2 || len(in.Points) == 3, "points", "needs two or three buffers")
	e.Require(in.SettleSeconds >= 0 && in.SettleSeconds <= 1e6, "settle_seconds", "must be 0 seconds or more")
	warm := func(at string, t float64) { e.Require(t >= 0 && t <= 40, at, "must be 0 to 40 °C") }
	for i, p := range in.Points {
		at := fmt.Sprintf("points.%d.", i)
		warm(at+"temperature_c", p.TemperatureC)
		if p.Buffer != "" {
			e.Require(slices.Contains(Buffers(), p.Buffer), at+"buffer", "must be one of these")
		} else {
			e.Require(p.PH >= 1 && p.PH <= 13, at+"ph", "must be a pH from 1 to 13")
		}
	}
	if in.Reading != nil {
		warm("reading.temperature_c", in.Reading.TemperatureC)
	}
	if e.Err() != nil {
		return e.Err()
	}
	for i, p := range in.Points {
		for _, q := range in.Points[:i] {
			if math.Abs(p.ph()-q.ph()) < 1 {
				name := "ph"
				if p.Buffer != "" {
					name = "buffer"
				}
				return field.Refuse(fmt.Sprintf("points.%d.%s", i, name), "is less than 1 pH from another: use buffers further apart")
			}
		}
	}
	return nil
}

// leastSquares is the line y = a + b·x nearest to points.
func leastSquares(xs, ys []float64) (a, b float64) {
	n, sx, sy, sxx, sxy := float64(len(xs)), 0.0, 0.0, 0.0, 0.0
	for i := range xs {
		sx, sy = sx+xs[i], sy+ys[i]
	}
	for i := range xs {
		sxx += (xs[i] - sx/n) * (xs[i] - sx/n)
		sxy += (xs[i] - sx/n) * (ys[i] - sy/n)
	}
	b = sxy / sxx
	return sy/n - b*sx/n, b
}

// Standard is what a conductivity pen showed in a solution of known conductivity at 25 °C.
type Standard struct {
	TrueMS       float64 `json:"true_ms"`
	ShownMS      float64 `json:"shown_ms"`
	TemperatureC float64 `json:"temperature_c"`
}

// ECPenInput is what CalibrateEC needs.
type ECPenInput struct {
	Standards   []Standard // one or two
	Reading     *Standard  // of which ShownMS and TemperatureC count; nil: none
	Compensated bool       // the pen brings its figure to 25 °C itself
	PerC        float64    // share by which conductivity rises a °C, 0 to 0.05
}

// UsualPerC is by how much conductivity rises a °C, as a share of that at 25 °C.
const UsualPerC = 0.0191

// ECPen is what that comes to: what is shown, times Factor, and ZeroMS more.
type ECPen struct {
	Factor, ZeroMS, WorstPercent float64
	Verdict                      string // good, adjust or repeat
	EC25MS                       *float64
	Steps                        []working.Step
}

// CalibrateEC is what a conductivity pen is worth. It refuses with field.Errors.
func CalibrateEC(in ECPenInput) (ECPen, error) {
	if err := in.checkEC(); err != nil {
		return ECPen{}, err
	}
	at25 := func(s Standard) float64 {
		if in.Compensated {
			return s.ShownMS
		}
		return s.ShownMS / (1 + in.PerC*(s.TemperatureC-25))
	}
	first := in.Standards[0]
	out := ECPen{Factor: first.TrueMS / at25(first)}
	if len(in.Standards) == 2 {
		second := in.Standards[1]
		out.Factor = (second.TrueMS - first.TrueMS) / (at25(second) - at25(first))
		out.ZeroMS = first.TrueMS - out.Factor*at25(first)
	}
	for _, s := range in.Standards {
		out.WorstPercent = max(out.WorstPercent, 100*math.Abs(at25(s)/s.TrueMS-1))
	}
	switch {
	case out.WorstPercent <= 5:
		out.Verdict = Good
	case out.WorstPercent <= 25:
		out.Verdict = Adjust
	default:
		out.Verdict = Repeat
	}
	out.Steps = []working.Step{
		{Name: say.T("Factor"), Formula: say.T("true value ÷ shown value, at 25 °C"), Value: out.Factor},
		{Name: say.T("Furthest off"), Formula: say.T("of %d standards", len(in.Standards)), Value: out.WorstPercent, Unit: "%"},
	}
	if in.Reading != nil {
		v := max(0, out.Factor*at25(*in.Reading)+out.ZeroMS)
		out.EC25MS = &v
		out.Steps = append(out.Steps, working.Step{
			Name: say.T("The corrected reading"), Formula: say.T("factor × shown + %.4g", out.ZeroMS), Value: v, Unit: "mS/cm",
		})
	}
	return out, nil
}

func (in ECPenInput) checkEC() error {
	var e field.Errors
	e.Require(len(in.Standards) == 1 || len(in.Standards) == 2, "standards", "needs one or two standards")
	e.Require(in.PerC >= 0 && in.PerC <= 0.05, "per_c", "must be a share from 0 to 0.05")
	warm := func(at string, t float64) {
		e.Require(in.Compensated || t >= 0 && t <= 45, at, "must be 0 to 45 °C")
	}
	for i, s := range in.Standards {
		at := fmt.Sprintf("standards.%d.", i)
		e.Require(s.TrueMS > 0 && s.TrueMS <= 1000, at+"true25_ms_cm", "must be above 0 mS/cm")
		e.Require(s.ShownMS > 0 && s.ShownMS <= 1000, at+"shown_ms_cm", "must be above 0 mS/cm")
		warm(at+"temperature_c", s.TemperatureC)
	}
	if r := in.Reading; r != nil {
		e.Require(r.ShownMS >= 0 && r.ShownMS <= 1000, "reading.shown_ms_cm", "must be 0 mS/cm or more")
		warm("reading.temperature_c", r.TemperatureC)
	}
	if len(in.Standards) == 2 && e.Err() == nil {
		a, b := in.Standards[0], in.Standards[1]
		weak, strong := a, b
		if a.TrueMS > b.TrueMS {
			weak, strong = b, a
		}
		shown := func(s Standard) float64 {
			if in.Compensated {
				return s.ShownMS
			}
			return s.ShownMS / (1 + in.PerC*(s.TemperatureC-25))
		}
		e.Require(strong.TrueMS > 1.5*weak.TrueMS, "standards.1.true25_ms_cm", "must differ from the first by more than half")
		e.Require(shown(strong) > shown(weak), "standards.1.shown_ms_cm", "reads higher in the stronger one")
	}
	return e.Err()
}
