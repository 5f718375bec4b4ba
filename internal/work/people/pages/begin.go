package pages

import (
	"crypto/subtle"
	"errors"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/base/words"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/people"
)

// beginView asks for the first school.
type beginView struct {
	Form *face.Form
	Rest []string
}

func (beginView) Title() say.Text { return say.T("A school begins") }

// Languages are those that can be chosen before anybody is known.
func (beginView) Languages() []words.Choice { return words.Choices() }

// Zones are some to choose from; any of the database of time zones may be typed.
func (beginView) Zones() []string {
	return strings.Fields(`Europe/London Europe/Dublin Europe/Lisbon Europe/Madrid Europe/Paris Europe/Brussels Europe/Amsterdam Europe/Berlin Europe/Zurich
		Europe/Vienna Europe/Rome Europe/Prague Europe/Warsaw Europe/Copenhagen Europe/Stockholm Europe/Oslo Europe/Helsinki Europe/Athens Europe/Bucharest
		Europe/Istanbul Africa/Casablanca Africa/Lagos Africa/Nairobi Africa/Johannesburg America/St_Johns America/Halifax America/New_York America/Chicago
		America/Denver America/Phoenix America/Los_Angeles America/Anchorage Pacific/Honolulu America/Mexico_City America/Bogota America/Lima America/Santiago
		America/Argentina/Buenos_Aires America/Sao_Paulo Asia/Kolkata Asia/Singapore Asia/Tokyo Australia/Perth Australia/Adelaide Australia/Brisbane
		Australia/Sydney Pacific/Auckland UTC`)
}

func (s Pages) beginPage(c *gin.Context) error {
	there, err := s.Store.AnySchool(c.Request.Context())
	if err != nil || there || s.BeginKey() == "" {
		c.Redirect(http.StatusSeeOther, "/sign-in")
		return err
	}
	if tag := c.Query("language"); words.Known(tag) {
		s.SetCookie(c, face.LanguageCookie, tag)
		c.Redirect(http.StatusSeeOther, "/begin")
		return nil
	}
	s.Render(c, http.StatusOK, "begin", "", beginView{Form: face.BlankForm(s.Reader(c))})
	return nil
}

func (s Pages) begin(c *gin.Context) error {
	f := face.ReadForm(c, s.Reader(c))
	again := func(status int) error {
		s.Render(c, status, "begin", "", beginView{f, f.Rest("key", "name", "slug", "zone", "latitude", "longitude", "person", "login", "secret")})
		return nil
	}
	key := strings.ToUpper(f.Text("key"))
	if s.BeginKey() == "" || subtle.ConstantTimeCompare([]byte(key), []byte(s.BeginKey())) != 1 {
		f.Wrong("key", "is not the one Ulpa printed")
		return again(http.StatusUnprocessableEntity)
	}
	facts := schoolFacts(f)
	b := people.Beginning{
		SchoolFacts: facts, Slug: f.Text("slug"), System: f.Get("system"), Language: f.Get("language"),
		Coordinator: people.NewPerson{Name: f.Get("person"), Login: f.Get("login"), Secret: f.Get("secret")},
	}
	if f.Any() {
		return again(http.StatusUnprocessableEntity)
	}
	w, err := people.Begin(c.Request.Context(), s.Store, b)
	switch {
	case errors.Is(err, people.ErrBegun):
		f.Errors["key"] = f.Prefs.Say(say.Why(err))
		return again(http.StatusUnprocessableEntity)
	case err != nil && f.Refuse(err):
		return again(http.StatusUnprocessableEntity)
	case err != nil:
		return err
	}
	if err := s.EnterAt(c, w, "/settings"); err != nil {
		return err
	}
	return nil
}
