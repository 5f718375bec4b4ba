package pages

import (
	"cmp"
	"maps"
	"net/http"
	"slices"

	"github.com/gin-gonic/gin"

	"ulpa/core/batch"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/work/goals"
)

// pastView is the goals that are over, and what came of each.
type pastView struct {
	Lead  string
	Goals []pastGoal
}

// pastGoal is one of them.
type pastGoal struct {
	Name, Says, Came, Lost, Path string
	Met                          bool
	Batches                      []pastBatch
}

// pastBatch is what was sown for it.
type pastBatch struct{ Code, Path, Says string }

func (pastView) Title() say.Text { return say.T("Past goals") }

func (s Pages) past(c *gin.Context) error {
	ctx, w := s.Me(c)
	list, err := goals.PastGoals(ctx, s.Store, w)
	if err != nil {
		return err
	}
	r, v := w.Prefs, pastView{}
	met := 0
	for _, p := range list {
		g := pastOf(p, r)
		if g.Met {
			met++
		}
		v.Goals = append(v.Goals, g)
	}
	v.Lead = r.T("No goal is past yet.")
	if n := len(list); n > 0 {
		v.Lead = r.T("%d of %s were met.", met, say.Plural(n, "goal"))
	}
	s.Render(c, http.StatusOK, "past", "Season", v)
	return nil
}

func pastOf(p goals.Past, r say.Reader) pastGoal {
	g := pastGoal{Name: p.Goal.Name, Met: p.Met(), Says: r.T("%s, %s to %s", p.Goal.Wants(), p.Goal.From.Short(), say.Date(p.Goal.By.UTC(), "Mon 2 Jan 2006"))}
	plants, grams := p.Came()
	switch {
	case len(p.Batches) == 0:
		g.Came = r.T("Nothing was sown for it.")
	case grams > 0:
		g.Came = r.T("%s came of it, and %s was harvested.", say.Plural(plants, "plant"), say.Of(grams, unit.Gram))
	default:
		g.Came = r.T("%s came of it.", say.Plural(plants, "plant"))
	}
	var lost []say.Text
	by := p.Lost()
	causes := slices.SortedFunc(maps.Keys(by), func(a, b batch.Cause) int { return cmp.Or(by[b]-by[a], cmp.Compare(a, b)) })
	for _, c := range causes {
		lost = append(lost, say.T("%d %s", by[c], c.Name()))
	}
	if lost != nil {
		g.Lost = r.T("Lost: %s.", say.Join(", ", lost...))
	}
	for _, b := range p.Batches {
		says := r.T("sown %s, %d of %d up, %s", b.Sown.Short(), b.State.Sprouted, b.State.Sown, say.Plural(b.Plants(), "plant"))
		g.Batches = append(g.Batches, pastBatch{b.Code, "/batches/" + b.ID.String(), says})
	}
	return g
}
