package pages

import (
	"html/template"
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/people"
)

// meView is one's own page: units, language, password, two-step sign-in.
type meView struct {
	Form         *face.Form
	Crew         bool
	Proves, Must bool
	Secret       string       // of the two-step sign-in that is being set up
	Picture      template.URL // of the same, to scan
}

func (meView) Title() say.Text { return say.T("Your sign-in") }

func (s Pages) mePage(c *gin.Context) error {
	return s.showMe(c, http.StatusOK, face.BlankForm(s.Reader(c)))
}

func (s Pages) showMe(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	v := meView{Form: f, Crew: w.Kind == who.Crew, Must: w.MustProve}
	if !v.Crew {
		var err error
		if v.Proves, err = people.Proves(ctx, s.Store, w); err != nil {
			return err
		}
		begun, err := people.ProofBegun(ctx, s.Store, w)
		if err != nil {
			return err
		}
		if v.Secret = begun.Secret; v.Secret != "" {
			v.Picture = template.URL("data:image/png;base64," + begun.PNG) // #nosec G203 -- a picture of ours
		}
	}
	s.Render(c, status, "me", "", v)
	return nil
}

// settleMe shows what became of a form of one's own page.
func (s Pages) settleMe(c *gin.Context, f *face.Form, err error, kept face.Outcome) error {
	return s.Settle(c, f, err, func(status int) error { return s.showMe(c, status, f) }, func() face.Outcome { return kept })
}

func (s Pages) setOwnSecret(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	now, err := people.SetOwnSecret(ctx, s.Store, w, s.from(c), f.Get("old"), f.Get("secret"))
	if err == nil {
		if err := s.Resume(c, now); err != nil {
			return err
		}
	}
	return s.settleMe(c, f, err, face.Outcome{Says: say.T("Changed. You are signed out on every other tablet."), To: "/me"})
}

func (s Pages) beginProof(c *gin.Context) error {
	ctx, w := s.Me(c)
	_, err := people.BeginProof(ctx, s.Store, w)
	return s.settleMe(c, face.ReadForm(c, w.Prefs), err, face.Outcome{To: "/me"})
}

func (s Pages) proveOwn(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	err := people.Prove(ctx, s.Store, w, s.from(c), f.Get("figures"))
	if status, says := tried(c, err); err != nil && status != 0 {
		f.Errors["figures"] = f.Prefs.Say(say.Why(says))
		return s.showMe(c, status, f)
	}
	return s.settleMe(c, f, err, face.Outcome{Says: say.T("From now on you are asked for this code when you sign in."), To: "/me"})
}

func (s Pages) endOwnProof(c *gin.Context) error {
	ctx, w := s.Me(c)
	err := people.EndProof(ctx, s.Store, w, w.Person)
	return s.settleMe(c, face.ReadForm(c, w.Prefs), err, face.Outcome{Says: say.T("Two-step sign-in is off."), To: "/me"})
}

// codeView is the page of those who come with a code.
type codeView struct {
	Form    *face.Form
	Letters bool // a link can be sent
	Sent    bool
}

func (codeView) Title() say.Text { return say.T("Sign in with a code") }

func (s Pages) codePage(c *gin.Context) error {
	f := face.BlankForm(s.Reader(c), "code", c.Query("code"))
	return s.showCode(c, http.StatusOK, codeView{Form: f})
}

func (s Pages) showCode(c *gin.Context, status int, v codeView) error {
	letters, _ := s.Letters()
	v.Letters = letters != nil
	s.Render(c, status, "code", "", v)
	return nil
}

// forgotten sends a link, where letters are sent. The answer is the same whoever asks.
func (s Pages) forgotten(c *gin.Context) error {
	f := face.ReadForm(c, s.Reader(c))
	letters, address := s.Letters()
	if letters == nil {
		return store.ErrNotFound
	}
	err := people.Forgotten(c.Request.Context(), s.Store, letters, s.from(c), f.Get("login"), address,
		func(err error) { s.Log.Error("letter", "error", err) })
	if status, says := tried(c, err); err != nil && status != 0 {
		f.Errors["login"] = f.Prefs.Say(say.Why(says))
		return s.showCode(c, status, codeView{Form: f})
	}
	if err != nil {
		return err
	}
	return s.showCode(c, http.StatusOK, codeView{Form: f, Sent: true})
}

func (s Pages) returnBy(c *gin.Context) error {
	f := face.ReadForm(c, s.Reader(c))
	w, err := people.ReturnBy(c.Request.Context(), s.Store, f.Get("code"), f.Get("secret"))
	if err == nil {
		return s.enter(c, w)
	}
	status, says := tried(c, err)
	switch {
	case f.Refuse(err):
		status = http.StatusUnprocessableEntity
	case status == 0:
		return err
	default:
		f.Errors["code"] = f.Prefs.Say(say.Why(says))
	}
	return s.showCode(c, status, codeView{Form: f})
}

// proofView asks for the two-step sign-in.
type proofView struct{ Form *face.Form }

func (proofView) Title() say.Text { return say.T("Two-step sign-in") }

func (s Pages) proofPage(c *gin.Context) error {
	_, there, err := s.Half(c)
	if err != nil || !there {
		c.Redirect(http.StatusSeeOther, "/sign-in")
		return nil
	}
	s.Render(c, http.StatusOK, "proof", "", proofView{face.BlankForm(s.Reader(c))})
	return nil
}

func (s Pages) prove(c *gin.Context) error {
	w, there, err := s.Half(c)
	if err != nil || !there {
		c.Redirect(http.StatusSeeOther, "/sign-in")
		return nil
	}
	f := face.ReadForm(c, s.Reader(c))
	if err = people.Prove(c.Request.Context(), s.Store, w, s.from(c), f.Get("figures")); err == nil {
		return s.Enter(c, w)
	}
	status, says := tried(c, err)
	if status == 0 {
		return err
	}
	f.Errors["figures"] = f.Prefs.Say(say.Why(says))
	s.Render(c, status, "proof", "", proofView{f})
	return nil
}
