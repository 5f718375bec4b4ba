package web

import (
	"errors"
	"net/http"
	"net/netip"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/unit"
	"ulpa/internal/people"
	"ulpa/internal/store"
)

type signInView struct {
	Form   form
	Crews  store.Crews
	School string // the short name
	Chosen string
	Shut   bool // crews do not sign in on this device
}

func (signInView) Title() string { return "Sign in" }

func (s *Server) signInPage(c *gin.Context) error {
	v := signInView{Form: blankForm(unit.Prefs{})}
	return s.signInWith(c, http.StatusOK, v)
}

func (s *Server) signInWith(c *gin.Context, status int, v signInView) error {
	slug := strings.ToLower(strings.TrimSpace(c.Query("school")))
	if slug == "" {
		slug = s.cookie(c, tabletCookie)
	}
	if slug != "" {
		crews, err := s.store.SignInCrews(c.Request.Context(), slug, s.device(c))
		if err != nil {
			return err
		}
		switch {
		case crews.Shut:
			v.Shut = true
			s.setCookie(c, tabletCookie, slug)
		case len(crews.List) > 0:
			v.School, v.Crews = slug, crews
			s.setCookie(c, tabletCookie, slug)
		default:
			v.Form.errors["school"] = "no school with crews has this short name; ask your coordinator"
		}
	}
	s.render(c, status, "signin", "", v)
	return nil
}

func (s *Server) signIn(c *gin.Context) error {
	f := readForm(c, unit.Prefs{})
	w, err := people.SignIn(c.Request.Context(), s.store, from(s, c), f.Get("login"), f.Get("password"))
	if err != nil {
		return s.signInFailed(c, signInView{Form: f}, "password", err)
	}
	return s.enter(c, w)
}

func (s *Server) signInCrew(c *gin.Context) error {
	f := readForm(c, unit.Prefs{})
	crew, _ := uuid.Parse(f.Get("crew"))
	school := f.Text("school")
	w, err := people.SignInCrew(c.Request.Context(), s.store, from(s, c), school, crew, f.Get("pin"))
	if err != nil {
		return s.signInFailed(c, signInView{Form: f, Chosen: f.Get("crew")}, "pin", err)
	}
	return s.enter(c, w)
}

func (s *Server) signInFailed(c *gin.Context, v signInView, name string, err error) error {
	status := http.StatusUnprocessableEntity
	var soon people.TooSoon
	switch {
	case errors.As(err, &soon):
		status = http.StatusTooManyRequests
		c.Header("Retry-After", strconv.Itoa(int(soon.Wait.Seconds())+1))
	case errors.Is(err, store.ErrBusy):
		status = http.StatusServiceUnavailable
		c.Header("Retry-After", "2")
		err = errors.New("many sign in at this moment; wait two seconds, then try again")
	case errors.Is(err, people.ErrShut):
		status, v.Shut = http.StatusForbidden, true
	case !errors.Is(err, people.ErrWrong):
		return err
	}
	v.Form.errors[name] = err.Error()
	return s.signInWith(c, status, v)
}

// signOutEverywhere ends every session of this person, on every tablet.
func (s *Server) signOutEverywhere(c *gin.Context) error {
	ctx, w := s.me(c)
	if err := people.SignOutEverywhere(ctx, s.store, w); err != nil {
		return err
	}
	return s.signOut(c)
}

// setUnits chooses how this person reads figures, and returns to the page they came from.
func (s *Server) setUnits(c *gin.Context) error {
	ctx, w := s.me(c)
	f := readForm(c, w.Prefs)
	if err := people.SetUnits(ctx, s.store, w, unit.Parse(f.Get("system"), f.Get("scale"))); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, localPath(f.Get("back")))
	return nil
}

// from is where a request comes from.
func from(s *Server, c *gin.Context) people.From {
	return people.From{Address: network(c.ClientIP()), Device: s.mark(c)}
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
