package web

import (
	"strconv"
	"strings"

	"ulpa/core/unit"
	"ulpa/core/working"
)

// stepView is a line of working as it is read.
type stepView struct{ Name, Formula, Value, Own, Source string }

// stepsOf shows a working. Formulas are metric; their results are said in the reader's
// units too.
func stepsOf(steps []working.Step, p unit.Prefs) (out []stepView) {
	for _, x := range steps {
		s := stepView{x.Name, x.Formula, unit.Prefs{}.Format(x.Value, x.Unit), p.Format(x.Value, x.Unit), x.Source}
		if s.Own == s.Value {
			s.Own = ""
		}
		out = append(out, s)
	}
	return out
}

// percent is a share, in whole percent.
func percent(share float64) string { return strconv.FormatFloat(100*share, 'f', 0, 64) + " %" }

// sentence begins with a capital letter.
func sentence(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
