package face

import (
	"strconv"

	"ulpa/core/say"
	"ulpa/core/working"
)

// StepView is a line of working as it is read.
type StepView struct{ Name, Formula, Value, Own, Source string }

// StepsOf shows a working. Formulas are metric; their results are said in the reader's
// units too.
func StepsOf(steps []working.Step, p say.Reader) (out []StepView) {
	metric := say.Reader{Tongue: p.Tongue}
	for _, x := range steps {
		s := StepView{p.Say(x.Name), p.Say(x.Formula), metric.Format(x.Value, x.Unit), p.Format(x.Value, x.Unit), p.Say(x.Source)}
		if s.Own == s.Value {
			s.Own = ""
		}
		out = append(out, s)
	}
	return out
}

// Percent is a share, in whole percent.
func Percent(share float64) string { return strconv.FormatFloat(100*share, 'f', 0, 64) + " %" }
