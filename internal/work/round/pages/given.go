package pages

import (
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/field"
	core "ulpa/core/round"
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/round"
)

// giftView asks to whom a stop or a task is given.
type giftView struct {
	Key, What string
	Nobody    say.Words // what it means to choose nobody
	People    []giftTo
}

// giftTo is somebody to whom work can be given.
type giftTo struct {
	ID, Name string
	Chosen   bool
}

// gifts are the questions of a stop: all of it, and each task.
func gifts(walk round.Walk, stop core.Stop, most int, r say.Reader) (out []giftView) {
	ask := func(key core.Key, what say.Text, nobody say.Words) {
		g := giftView{Key: key.String(), What: r.Say(what), Nobody: nobody}
		for _, p := range walk.People {
			g.People = append(g.People, giftTo{p.ID.String(), p.Name, walk.Given[key].ID == p.ID})
		}
		out = append(out, g)
	}
	ask(core.StopKey(stop.Place), say.T("The whole of %s, until somebody changes this", say.Name(stop.Name)), "anybody")
	for _, t := range face.Cut(stop.Tasks, most, "").Shown {
		nobody := say.Words("as the whole stop")
		if t.Kind == core.Own {
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
		of, ok := core.ReadKey(key)
		if !ok {
			return field.Refuse("key", "is not one of today’s any more; load the round again")
		}
		g := round.Gift{Key: of}
		if i < len(to) && to[i] != "" {
			var err error
			if g.To, err = uuid.Parse(to[i]); err != nil {
				return field.Refuse("to", "choose a crew or a person")
			}
		}
		if of.OfStop() {
			place = of.Of
		}
		list = append(list, g)
	}
	if err := round.Give(ctx, s.Store, w, list); err != nil {
		return err
	}
	return s.Lead(c, face.Outcome{Says: say.T("Saved."), To: "/?stop=" + place})
}
