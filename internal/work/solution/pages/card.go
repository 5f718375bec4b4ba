package pages

import (
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/gauge"
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/solution"
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

// readColour is the colour that was seen on a card; nil: none was.
func readColour(f *face.Form) *solution.Colour {
	card, low, _ := strings.Cut(f.Get("card"), " ")
	if card == "" {
		return nil
	}
	var c solution.Colour
	var err error
	if c.Card, err = uuid.Parse(card); err != nil {
		f.Wrong("card", "choose two neighbouring fields")
	}
	c.Low, _ = strconv.ParseFloat(low, 64)
	c.Near, _ = strconv.ParseFloat(f.Get("near"), 64)
	c.Lamp = f.Get("lamp") != ""
	return &c
}

// seen says what a card came to, and what that is good enough for.
func (s Pages) seen(c *gin.Context, colour solution.Colour) (say.Text, error) {
	ctx, w := s.Me(c)
	m, err := meters.Get(ctx, s.Store, w, colour.Card)
	if err != nil {
		return nil, err
	}
	x, err := colour.Judge(m.Fields())
	return say.T("Reading kept: pH %.1f ± %.1f, %s.", x.PH, x.Error, gauge.GoodFor(x.Error)), err
}
