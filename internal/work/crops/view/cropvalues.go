// Package view reads and shows a crop's own values in a form.
package view

import (
	"fmt"
	"strings"

	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/crops"
)

// ChangedValues are the columns in a form that say something else than the crop
// does, as the catalogue writes them.
func ChangedValues(f *face.Form, x crop.Crop) map[string]string {
	values := map[string]string{}
	for _, k := range crop.Columns {
		if _, asked := f.Values[k.Name]; !asked {
			continue
		}
		s := f.Text(k.Name)
		if s == TypedValue(k, k.Of(x), f.Prefs) {
			continue
		}
		values[k.Name] = metricValue(k, s, f.Prefs)
	}
	return values
}

// TypedValue is a value as a field holds it, in a person's units.
func TypedValue(k crop.Column, value string, p say.Reader) string {
	number, window := k.Measured()
	out := func(s string) string {
		v, err := unit.Read(s)
		if err != nil {
			return s
		}
		if x := p.Out(v, k.Unit); x != v {
			return p.Figure(v, k.Unit)
		}
		return p.Mark(s)
	}
	switch low, high, _ := strings.Cut(value, "-"); {
	case window:
		return out(low) + "-" + out(high)
	case number:
		return out(value)
	case k.Worded():
		return say.Words(value).In(p)
	}
	return value
}

// metricValue is what was typed as the catalogue writes it; what is no number
// goes on as it is, to be refused there.
func metricValue(k crop.Column, s string, p say.Reader) string {
	number, window := k.Measured()
	in := func(s string) string {
		v, err := unit.Read(s)
		if err != nil {
			return s
		}
		return fmt.Sprintf("%.6g", p.In(v, k.Unit))
	}
	low, high, two := strings.Cut(strings.Replace(strings.ReplaceAll(s, "–", "-"), " to ", "-", 1), "-")
	switch {
	case window && two:
		return in(low) + "-" + in(high)
	case number:
		return in(s)
	}
	return s
}

// ToName are the crops that plants may turn out to be, and last that nobody knows them.
func ToName(book crops.Book, r say.Reader) (out []face.ChoiceView) {
	for _, x := range book.Listed(r) {
		out = append(out, face.ChoiceView{Value: x.ID, Name: r.Say(x.Name)})
	}
	return append(out, face.ChoiceView{Value: crop.Unknown, Name: r.T("Unknown: nobody knows what it is")})
}
