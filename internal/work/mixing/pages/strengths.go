package pages

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"

	"github.com/gin-gonic/gin"

	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/site"
)

// strengths are what a solution can be made to: what each tank is kept at, what all that
// drink from it share, and what each crop that stands somewhere wants at its stage.
func (s Pages) strengths(c *gin.Context) (out []face.ChoiceView, err error) {
	ctx, w := s.Me(c)
	places, err := site.All(ctx, s.Store, w)
	if err != nil {
		return nil, err
	}
	p, today := w.Prefs, w.Day(s.Store.Now())
	whom := map[string][]say.Text{} // whom each strength is for
	add := func(ms float64, says say.Text) {
		value := fmt.Sprintf("%.2f", ms)
		if whom[value] == nil {
			out = append(out, face.ChoiceView{Value: value})
		}
		whom[value] = append(whom[value], says)
	}
	middle := func(r crop.Range) float64 { return math.Round(50*(r.Low+r.High)) / 100 }
	var crops []say.Text
	var wants []crop.Range
	seen := map[string]bool{}
	for _, place := range places {
		var all []crop.Solution
		for _, x := range place.Standing {
			age := int(today - w.Day(x.Sown))
			want := x.Crop.Wants(age)
			if want.EC.High == 0 {
				continue
			}
			all = append(all, want)
			if key := x.Crop.ID + string(x.Crop.Stage(age)); !seen[key] {
				seen[key] = true
				crops, wants = append(crops, say.T("%s, %s", x.Crop.Name, x.Crop.Stage(age))), append(wants, want.EC)
			}
		}
		for _, t := range place.Tanks {
			if t.Spec.Passive {
				continue
			}
			add(t.Spec.ECTarget, say.Name(t.Name))
			if both, ok := crop.Common(all); ok && len(all) > 1 {
				add(middle(both.EC), say.T("all that drink at %s", say.Name(t.Name)))
			}
		}
	}
	for i, r := range wants {
		add(middle(r), crops[i])
	}
	for i, x := range out {
		ms, _ := strconv.ParseFloat(x.Value, 64)
		out[i].Name = p.T("%s: %s", say.Of(ms, unit.MS), say.Join("; ", whom[x.Value]...))
	}
	slices.SortFunc(out, func(a, b face.ChoiceView) int { return cmp.Compare(a.Value, b.Value) })
	return out, nil
}
