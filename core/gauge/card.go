package gauge

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"ulpa/core/field"
	"ulpa/core/say"
)

// Steps are the pH of the fields of a colour card, as somebody typed them off it, in order.
// It refuses, under "steps", fewer than two, more than thirty, and what is no pH.
func Steps(text string) (list []float64, err error) {
	for _, w := range strings.Fields(strings.NewReplacer(";", " ", ", ", " ").Replace(text)) {
		v, err := strconv.ParseFloat(strings.Replace(w, ",", ".", 1), 64)
		if err != nil || v < 0 || v > 14 {
			return nil, field.Refuse("steps", "enter the pH of each field, with a space between: 5 5.5 6")
		}
		list = append(list, v)
	}
	slices.Sort(list)
	list = slices.Compact(list)
	if len(list) < 2 || len(list) > 30 {
		return nil, field.Refuse("steps", "needs two fields at least, thirty at most")
	}
	return list, nil
}

// Seen is a colour between two neighbouring fields of a card.
type Seen struct {
	Low  float64 `json:"low"`  // the lower field
	Near float64 `json:"near"` // 0: like the lower one, 0.5: half-way, 1: like the one above
	Lamp bool    `json:"lamp"` // by lamplight, which changes colours
}

// Judged is a pH that was seen on a card.
type Judged struct{ PH, Error float64 }

// Judge is the pH of a colour, and how far that may be out: by the card, by the light, and
// by how far its fields lie apart. It refuses, under "card", what is no field of the card.
func (c Seen) Judge(steps []float64) (Judged, error) {
	i := slices.Index(steps, c.Low)
	if i < 0 || i+1 >= len(steps) || c.Near < 0 || c.Near > 1 {
		return Judged{}, field.Refuse("card", "choose two neighbouring fields")
	}
	gap := steps[i+1] - c.Low
	err := CardError
	if c.Lamp {
		err = CardUnderLamp
	}
	return Judged{c.Low + c.Near*gap, math.Hypot(err, math.Max(0, gap-usualGap)/2)}, nil
}

// usualGap is how far the fields of a usual card lie apart: its error is of such a one.
const usualGap = 0.5

// GoodFor is what a pH so far out is good enough for.
func GoodFor(err float64) say.Text {
	switch {
	case err <= 0.15:
		return say.T("good enough to dose by")
	case err <= CardError+0.05:
		return say.T("good enough to see whether it is in its range; dose half, and read again")
	}
	return say.T("good enough to see that something is far off; read it again by daylight, or with a pen, before anything goes in")
}
