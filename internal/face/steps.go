package face

import (
	"strconv"
	"strings"

	"ulpa/core/unit"
	"ulpa/core/working"
)

// StepView is a line of working as it is read.
type StepView struct{ Name, Formula, Value, Own, Source string }

// StepsOf shows a working. Formulas are metric; their results are said in the reader's
// units too.
func StepsOf(steps []working.Step, p unit.Prefs) (out []StepView) {
	for _, x := range steps {
		s := StepView{x.Name, x.Formula, unit.Prefs{}.Format(x.Value, x.Unit), p.Format(x.Value, x.Unit), x.Source}
		if s.Own == s.Value {
			s.Own = ""
		}
		out = append(out, s)
	}
	return out
}

// Percent is a share, in whole percent.
func Percent(share float64) string { return strconv.FormatFloat(100*share, 'f', 0, 64) + " %" }

// Sentence begins with a capital letter.
func Sentence(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
