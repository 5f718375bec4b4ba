package pages

import (
	"strconv"

	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/meters"
)

// cardsOf are the pairs of neighbouring fields of a card.
func cardsOf(m meters.Meter, fields []float64, p say.Reader) (out []face.ChoiceView) {
	for i := 1; i < len(fields); i++ {
		low := fields[i-1]
		out = append(out, face.ChoiceView{
			Value: m.ID.String() + " " + strconv.FormatFloat(low, 'g', -1, 64),
			Name:  p.T("%s: %s and %s", say.Name(m.Name), say.Figure(low, "pH"), say.Figure(fields[i], "pH")),
		})
	}
	return out
}
