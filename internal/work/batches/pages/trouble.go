package pages

import (
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/core/trouble"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
)

// troubleView is the guide: the signs to choose from, or what one comes to.
type troubleView struct {
	Code, Crop, Path string
	Signs            []signChoice
	Sign, Said       string // which was chosen, and what it is called
	Ask              *askView
	Answers          []answerGiven
	Causes           []causeView
	Own              []string
	Show             string // where to go with no answer to the first question
	None             string // where to go with what is none of the signs
	Unknown          bool
}

func (v troubleView) Title() say.Text { return say.T("What is wrong with %s?", say.Name(v.Code)) }

// signChoice is a sign that can be chosen.
type signChoice struct{ ID, Name, Path string }

// askView is the next question, with where each answer leads.
type askView struct{ Asks, Yes, No string }

// answerGiven is a question that was answered.
type answerGiven struct{ Asks, Says string }

// causeView is a cause that is likely, and what to do about it.
type causeView struct {
	ID, Name, Sure, Why string
	Because             []string
	Today               []string
	Write, Throw, Lose  string
	Adult               bool
	First               bool
}

func (s Pages) troublePage(c *gin.Context) error {
	return s.showTrouble(c, http.StatusOK, face.FormOf(c.Request.URL.Query(), s.Reader(c)))
}

func (s Pages) showTrouble(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	id, err := face.PathID(c)
	if err != nil {
		return err
	}
	b, known, err := batches.KnownOf(ctx, s.Store, w, id)
	if err != nil {
		return err
	}
	r := w.Prefs
	v := troubleView{Code: b.Code, Crop: r.Say(b.Crop.Name), Path: "/batches/" + id.String(), Own: f.Rest()}
	q := url.Values{}
	for _, x := range trouble.Signs {
		v.Signs = append(v.Signs, signChoice{x.ID, r.Say(x.Name), v.Path + "/trouble?sign=" + x.ID})
		if x.ID == f.Get("sign") {
			v.Sign, v.Said = x.ID, r.Say(x.Name)
			q.Set("sign", x.ID)
		}
	}
	v.None = v.Path + "/trouble?sign=" + trouble.None
	if v.Unknown = f.Get("sign") == trouble.None; v.Unknown {
		v.Sign, v.Said = trouble.None, r.T("something the guide does not know")
	} else if v.Sign != "" {
		answers := map[string]bool{}
		for _, x := range trouble.Questions {
			if a := f.Get(x.ID); a == "yes" || a == "no" {
				answers[x.ID] = a == "yes"
				q.Set(x.ID, a)
				given := answerGiven{Asks: r.Say(x.Asks), Says: r.T("no")}
				if a == "yes" {
					given.Says = r.T("yes")
				}
				v.Answers = append(v.Answers, given)
			}
		}
		v.fill(trouble.Look(v.Sign, answers, known), known, q, r)
		if v.Ask != nil && len(answers) == 0 && f.Get("show") == "" {
			v.Causes, v.Show = nil, v.Path+"/trouble?"+q.Encode()+"&show=1"
		}
	}
	s.Render(c, status, "trouble", "Nursery", v)
	return nil
}

func (v *troubleView) fill(f trouble.Finding, known trouble.Known, q url.Values, r say.Reader) {
	if f.Ask != nil {
		answer := func(a string) string {
			with := url.Values{}
			for name, x := range q {
				with[name] = x
			}
			with.Set(f.Ask.ID, a)
			return v.Path + "/trouble?" + with.Encode()
		}
		v.Ask = &askView{r.Say(f.Ask.Asks), answer("yes"), answer("no")}
	}
	for i, g := range f.Likely() {
		x := causeView{
			ID: g.ID, Name: r.Say(say.Capital(g.Name)), Sure: r.Say(trouble.Sure(g.Share)), Why: r.Say(g.Why), Because: r.All(g.Because), Write: r.Say(g.Write),
			Throw: r.Say(g.Throw), Adult: g.Adult, First: i == 0, Lose: v.Path + "?cause=" + url.QueryEscape(string(g.Loss)) + "#lose",
		}
		for _, t := range g.Does(known) {
			x.Today = append(x.Today, r.Say(t))
		}
		v.Causes = append(v.Causes, x)
	}
}

func (s Pages) noteTrouble(c *gin.Context) error {
	ctx, w := s.Me(c)
	f, act, err := s.ReadAct(c)
	if err != nil {
		return err
	}
	if !f.Any() {
		err = batches.NoteAilment(ctx, s.Store, w, act, batches.Ailment{Sign: f.Get("sign"), Cause: f.Get("cause")})
	}
	return s.Settle(c, f, err, func(status int) error { return s.showTrouble(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Written down. Look again in three days."), Undo: act.ID, To: "/batches/" + act.On.String()}
	})
}
