package pages

import (
	"errors"
	"net/http"
	"net/netip"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/people"
)

// signInView is the way in, for crews by PIN and for adults by password.
type signInView struct {
	Form   *face.Form
	Crews  store.Crews
	School string // the short name
	Chosen string
	Shut   bool // crews do not sign in on this device
}

// Languages are those that can be chosen before anybody is known.
func (signInView) Languages() []words.Choice { return words.Choices() }

func (signInView) Title() say.Text { return say.T("Sign in") }

func (s Pages) signInPage(c *gin.Context) error {
	if there, err := s.Store.AnySchool(c.Request.Context()); err != nil {
		return err
	} else if !there {
		c.Redirect(http.StatusSeeOther, "/begin")
		return nil
	}
	v := signInView{Form: face.BlankForm(s.Reader(c))}
	return s.signInWith(c, http.StatusOK, v)
}

func (s Pages) signInWith(c *gin.Context, status int, v signInView) error {
	if tag := c.Query("language"); words.Known(tag) {
		s.SetCookie(c, face.LanguageCookie, tag)
		c.Redirect(http.StatusSeeOther, "/sign-in")
		return nil
	}
	slug := strings.ToLower(strings.TrimSpace(c.Query("school")))
	if slug == "" {
		slug = s.Cookie(c, face.TabletCookie)
	}
	if slug != "" {
		crews, err := s.Store.SignInCrews(c.Request.Context(), slug, s.Device(c))
		if err != nil {
			return err
		}
		if s.Cookie(c, face.LanguageCookie) == "" && words.Known(crews.Language) {
			s.SetCookie(c, face.LanguageCookie, crews.Language)
			c.Set(face.LanguageCookie, crews.Language)
			v.Form.Prefs = s.Reader(c)
		}
		switch {
		case crews.Shut:
			v.Shut = true
			s.SetCookie(c, face.TabletCookie, slug)
		case len(crews.List) > 0:
			v.School, v.Crews = slug, crews
			s.SetCookie(c, face.TabletCookie, slug)
		default:
			v.Form.Wrong("school", "no school with crews has this short name; ask your coordinator")
		}
	}
	s.Render(c, status, "signin", "", v)
	return nil
}

func (s Pages) signIn(c *gin.Context) error {
	f := face.ReadForm(c, s.Reader(c))
	w, err := people.SignIn(c.Request.Context(), s.Store, s.from(c), f.Get("login"), f.Get("password"))
	if err != nil {
		return s.signInFailed(c, signInView{Form: f}, "password", err)
	}
	return s.enter(c, w)
}

// enter begins a session, or asks for the two-step sign-in first.
func (s Pages) enter(c *gin.Context, w who.Who) error {
	twice, err := people.Proves(c.Request.Context(), s.Store, w)
	if err != nil {
		return err
	}
	if !twice {
		return s.Enter(c, w)
	}
	if err := s.EnterHalf(c, w); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/sign-in/proof")
	return nil
}

func (s Pages) signInCrew(c *gin.Context) error {
	f := face.ReadForm(c, s.Reader(c))
	crew, _ := uuid.Parse(f.Get("crew"))
	school := f.Text("school")
	w, err := people.SignInCrew(c.Request.Context(), s.Store, s.from(c), school, crew, f.Get("pin"))
	if err != nil {
		return s.signInFailed(c, signInView{Form: f, Chosen: f.Get("crew")}, "pin", err)
	}
	return s.Enter(c, w)
}

func (s Pages) signInFailed(c *gin.Context, v signInView, name string, err error) error {
	status, err := tried(c, err)
	if status == 0 {
		return err
	}
	v.Shut = v.Shut || errors.Is(err, people.ErrShut)
	v.Form.Errors[name] = v.Form.Prefs.Say(say.Why(err))
	return s.signInWith(c, status, v)
}

// tried is what a try to be let in is answered with: a status and what is said, or 0 and an
// error of another kind.
func tried(c *gin.Context, err error) (int, error) {
	var soon people.TooSoon
	var full bound.Full
	switch {
	case errors.As(err, &soon):
		c.Header("Retry-After", strconv.Itoa(int(soon.Wait.Seconds())+1))
		return http.StatusTooManyRequests, err
	case errors.As(err, &full):
		return full.Answer(c.Writer.Header()), say.Wrong("many sign in at this moment; wait some seconds, then try again")
	case errors.Is(err, people.ErrShut):
		return http.StatusForbidden, err
	case errors.Is(err, people.ErrWrong), errors.Is(err, people.ErrNoWay):
		return http.StatusUnprocessableEntity, err
	}
	return 0, err
}

// signOutEverywhere ends every session of this person, on every tablet.
func (s Pages) signOutEverywhere(c *gin.Context) error {
	ctx, w := s.Me(c)
	if err := people.SignOutEverywhere(ctx, s.Store, w); err != nil {
		return err
	}
	return s.SignOut(c)
}

// setUnits chooses how this person reads figures, and returns to the page they came from.
func (s Pages) setUnits(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	if err := people.SetUnits(ctx, s.Store, w, unit.Parse(f.Get("system"), f.Get("scale"))); err != nil {
		return err
	}
	if tag := f.Get("language"); tag != "" && tag != w.Prefs.Language() {
		if err := people.SetLanguage(ctx, s.Store, w, tag); err != nil {
			return err
		}
		s.SetCookie(c, face.LanguageCookie, tag)
	}
	c.Redirect(http.StatusSeeOther, face.LocalPath(f.Get("back")))
	return nil
}

// from is where a request comes from.
func (s Pages) from(c *gin.Context) people.From {
	return people.From{Address: network(c.ClientIP()), Device: s.Mark(c)}
}

// network is whose wrong tries count together: an address, or of the newer kind the
// network of one household or school.
func network(address string) string {
	ip, err := netip.ParseAddr(address)
	if err != nil {
		return address
	}
	if ip = ip.Unmap(); ip.Is6() {
		if p, err := ip.Prefix(64); err == nil {
			return p.String()
		}
	}
	return ip.String()
}
