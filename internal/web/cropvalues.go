package web

import (
	"strings"

	"ulpa/core/crop"
	"ulpa/core/unit"
)

// changedValues are the columns in a form that say something else than the crop
// does, as the catalogue writes them.
func changedValues(f form, x crop.Crop) map[string]string {
	values := map[string]string{}
	for _, k := range crop.Columns {
		if _, asked := f.values[k.Name]; !asked {
			continue
		}
		s := f.Text(k.Name)
		if s == typedValue(k, k.Of(x), f.prefs) {
			continue
		}
		values[k.Name] = metricValue(k, s, f.prefs)
	}
	return values
}

// typedValue is a value as a field holds it, in a person's units.
func typedValue(k crop.Column, value string, p unit.Prefs) string {
	number, window := k.Measured()
	out := func(s string) string {
		v, err := unit.Read(s)
		if err != nil {
			return s
		}
		if x := p.Out(v, k.Unit); x != v {
			return p.Figure(v, k.Unit)
		}
		return s
	}
	switch low, high, _ := strings.Cut(value, "-"); {
	case window:
		return out(low) + "-" + out(high)
	case number:
		return out(value)
	}
	return value
}
