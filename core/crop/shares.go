package crop

import (
	"errors"
	"strconv"
	"strings"

	"ulpa/core/say"
	"ulpa/core/unit"
)

// Share is the percent of seed that comes at a temperature.
type Share struct{ C, Percent float64 }

// Shares are of rising temperatures; none when nothing is known.
type Shares []Share

// At is the share, from 0 to 1, of the seed that comes at its best temperature which
// comes at this one: straight between those known, and as at the last beyond them.
func (s Shares) At(c float64) float64 {
	if len(s) == 0 {
		return 1
	}
	best := 0.0
	for _, x := range s {
		best = max(best, x.Percent)
	}
	if best == 0 {
		return 1
	}
	at := s[len(s)-1].Percent
	for i, x := range s {
		if c > x.C {
			continue
		}
		if at = x.Percent; i > 0 {
			before := s[i-1]
			at = before.Percent + (x.Percent-before.Percent)*(c-before.C)/(x.C-before.C)
		}
		break
	}
	return at / best
}

// String is how the table writes them: 10:91 20:52.
func (s Shares) String() string {
	parts := make([]string, len(s))
	for i, x := range s {
		parts[i] = strconv.FormatFloat(x.C, 'f', -1, 64) + ":" + strconv.FormatFloat(x.Percent, 'f', -1, 64)
	}
	return strings.Join(parts, " ")
}

func readShares(value string) (out Shares, err error) {
	for _, w := range strings.Fields(value) {
		at, percent, ok := strings.Cut(w, ":")
		c, err1 := unit.Read(at)
		p, err2 := unit.Read(percent)
		if !ok || errors.Join(err1, err2) != nil || c < -10 || c > 60 || p < 0 || p > 100 || len(out) > 0 && c <= out[len(out)-1].C {
			return nil, say.Wrong("must be °C and percent, rising, like 10:91 20:52")
		}
		out = append(out, Share{c, p})
	}
	return out, nil
}
