package view

import (
	"math"

	"ulpa/core/say"
	"ulpa/core/tank"
	"ulpa/core/unit"
)

// FoundRow is a figure of a tank as it was, as it was forecast, and as it was found.
type FoundRow struct{ Figure, Was, Foretold, Found, Says string }

// nineInTen findings lie within so many standard errors.
const nineInTen = 1.645

// FoundRows are the figures of a stretch between two readings.
func FoundRows(x tank.Stretch, p say.Reader) (out []FoundRow) {
	for _, f := range []struct {
		name, more, less say.Words
		unit             string
		*tank.Found
	}{
		{"Level", "they drank less", "they drank more", unit.Litre, x.Level},
		{"pH", "more than forecast", "less than forecast", "pH", x.PH},
		{"Strength", "more than forecast", "less than forecast", unit.MS, x.EC},
	} {
		if f.Found == nil {
			continue
		}
		low, high := tank.Guess{Mean: f.Foretold, Error: f.Error}.Range()
		r := FoundRow{
			Figure: p.Say(f.name), Was: p.Format(f.Was, f.unit), Found: p.Format(f.Read, f.unit),
			Foretold: p.T("%s to %s", say.Figure(math.Max(0, low), f.unit), say.Of(high, f.unit)), Says: p.T("as forecast"),
		}
		if off := f.Off(); off > nineInTen {
			r.Says = p.Say(f.more)
		} else if off < -nineInTen {
			r.Says = p.Say(f.less)
		}
		out = append(out, r)
	}
	return out
}
