package pages

import (
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/field"
	core "ulpa/core/round"
	"ulpa/core/say"
	"ulpa/internal/face"
	"ulpa/internal/round"
)

// giftView asks to whom a stop or a task is given.
type giftView struct {
	Key, What string
	Nobody    say.Words // what it means to choose nobody
	People    []giftTo
}

type giftTo struct {
	ID, Name string
	Chosen   bool
}

// gifts are the questions of a stop: all of it, and each task.
func gifts(walk round.Walk, stop core.Stop, r say.Reader) (out []giftView) {
	ask := func(key string, what say.Text, nobody say.Words) {
		g := giftView{Key: key, What: r.Say(what), Nobody: nobody}
		for _, p := range walk.People {
			g.People = append(g.People, giftTo{p.ID.String(), p.Name, walk.Given[key].ID == p.ID})
		}
		out = append(out, g)
	}
	ask(core.StopKey(stop.Place), say.T("All of %s, until this is changed", say.Name(stop.Name)), "whoever comes")
	for _, t := range stop.Tasks {
		nobody := say.Words("as the whole stop")
		if t.Job != "" {
			nobody = "as the job says"
		}
		ask(t.Key, say.T("%s, today", t.What()), nobody)
	}
	return out
}

func (s Pages) give(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	to := f.Values["to"]
	var list []round.Gift
	place := ""
	for i, key := range f.Values["key"] {
		g := round.Gift{Key: key}
		if i < len(to) && to[i] != "" {
			var err error
			if g.To, err = uuid.Parse(to[i]); err != nil {
				return field.Refuse("to", "choose a crew or a person")
			}
		}
		if core.OfStop(key) {
			place = strings.TrimPrefix(key, core.StopKey(""))
		}
		list = append(list, g)
	}
	if err := round.Give(ctx, s.Store, w, list); err != nil {
		return err
	}
	return s.Lead(c, face.Outcome{Says: say.T("Kept."), To: "/?stop=" + place})
}
