package face

import (
	"context"
	"crypto/rand"
	"errors"
	"net/http"
	"regexp"
	"strings"
	"time"
	"unicode"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/base/words"
)

// signedIn lets a request on when somebody is signed in, and otherwise shows
// the way to the sign-in page.
func (s *Server) signedIn(c *gin.Context) {
	ctx := c.Request.Context()
	school, err1 := uuid.Parse(s.sessions.GetString(ctx, "school"))
	person, err2 := uuid.Parse(s.sessions.GetString(ctx, "person"))
	if err1 != nil || err2 != nil {
		s.askWho(c)
		return
	}
	w, err := s.cfg.Load(ctx, s.Store, who.Who{School: school, Person: person})
	if errors.Is(err, store.ErrNotFound) {
		store.Release(ctx)
		_ = s.sessions.Destroy(ctx)
		s.askWho(c)
		return
	}
	if err != nil {
		s.fail(c, err)
		return
	}
	now := s.seconds()
	idle := now - s.sessions.GetInt64(ctx, "seen")
	if s.sessions.GetInt(ctx, "number") != w.Sessions || idle > idleSeconds {
		store.Release(ctx)
		_ = s.sessions.Destroy(ctx)
		s.askWho(c)
		return
	}
	if idle > seenEvery {
		s.sessions.Put(ctx, "seen", now)
	}
	w.Prefs.Lines = true
	c.Set("who", w)
	if w.MustProve && !s.cfg.Unproved(c.Request.URL.Path) {
		c.Redirect(http.StatusSeeOther, "/me")
		c.Abort()
	}
}

// wantedCookie remembers the label that a camera has read while nobody was signed in.
const wantedCookie = "ulpa-label"

// labelPath is an address that stands on labels, and nothing else: no sign-in leads anywhere
// that somebody else could have thought of.
var labelPath = regexp.MustCompile(`^/(?:b/[A-Z]{3}-\d{1,6}|s/[A-Za-z0-9_-]{22})$`)

// askWho shows the way to the sign-in page, which leads on to a label where one was read.
func (s *Server) askWho(c *gin.Context) {
	if path := c.Request.URL.Path; labelPath.MatchString(path) {
		s.SetCookie(c, wantedCookie, path)
	}
	c.Redirect(http.StatusSeeOther, "/sign-in")
	c.Abort()
}

// seconds is the time by which sessions are judged: where the clock can be moved on,
// the world's.
func (s *Server) seconds() int64 {
	if s.cfg.Clock != nil {
		return time.Now().Unix()
	}
	return s.Store.Now().Unix()
}

// A session ends when nobody has used it for four hours. That it was used is
// written down now and then, not with every page.
const idleSeconds, seenEvery = 4 * 3600, 300

func (s *Server) who(c *gin.Context) (who.Who, bool) {
	w, ok := c.Get("who")
	if !ok {
		return who.Who{}, false
	}
	return w.(who.Who), true
}

// Me is the person signed in; only for handlers behind signedIn.
func (s *Server) Me(c *gin.Context) (context.Context, who.Who) {
	w, _ := s.who(c)
	return c.Request.Context(), w
}

// LanguageCookie remembers in which language a device was read last, for its sign-in page.
const LanguageCookie = "ulpa-language"

// Reader is for whom an answer is written: whoever is signed in, or the language in which
// the device was read last, or the one that the browser asks for.
func (s *Server) Reader(c *gin.Context) say.Reader {
	if w, ok := s.who(c); ok {
		return w.Prefs
	}
	if tag := c.GetString(LanguageCookie); tag != "" { // learned while answering
		return say.Reader{Tongue: words.Find(tag)}
	}
	return s.spoken(c.Request)
}

func (s *Server) spoken(r *http.Request) say.Reader {
	tag := words.Wanted(r.Header.Get("Accept-Language"))
	if c, err := r.Cookie(s.prefix + LanguageCookie); err == nil && words.Known(c.Value) {
		tag = c.Value
	}
	return say.Reader{Tongue: words.Find(tag)}
}

// ShowOnce keeps something for the next page that asks for it; TakeOnce takes it.
func (s *Server) ShowOnce(c *gin.Context, name, value string) {
	s.sessions.Put(c.Request.Context(), "once "+name, value)
}

// TakeOnce takes what ShowOnce kept; "" when it was taken.
func (s *Server) TakeOnce(c *gin.Context, name string) string {
	return s.sessions.PopString(c.Request.Context(), "once "+name)
}

// TabletCookie remembers which school a shared tablet belongs to; deviceCookie tells one
// device from another, by a token that the database knows by its hash.
const TabletCookie, deviceCookie = "ulpa-school", "ulpa-device"

// Cookie reads one of the cookies that stay for a year.
func (s *Server) Cookie(c *gin.Context, name string) string {
	v, _ := c.Cookie(s.prefix + name)
	return v
}

// SetCookie keeps a value on the device, out of reach of scripts.
func (s *Server) SetCookie(c *gin.Context, name, value string) {
	http.SetCookie(
		c.Writer,
		&http.Cookie{
			Name:     s.prefix + name,
			Value:    value,
			Path:     "/",
			MaxAge:   365 * 24 * 3600,
			HttpOnly: true,
			Secure:   s.sessions.Cookie.Secure,
			SameSite: http.SameSiteLaxMode,
		},
	) // #nosec G124 -- Secure follows the session's, off only for the demo on loopback
}

// Device is the token of the device that asks; "" when it has none.
func (s *Server) Device(c *gin.Context) string {
	if token := s.Cookie(c, deviceCookie); len(token) >= 20 && len(token) <= 64 {
		return token
	}
	return ""
}

// Mark is the token of the device that asks, which gets one when it has none: once
// somebody has signed in on it, it is known by that.
func (s *Server) Mark(c *gin.Context) string {
	token := s.Device(c)
	if token == "" {
		token = rand.Text()
	}
	s.SetCookie(c, deviceCookie, token)
	return token
}

// half is a sign-in of which the two-step sign-in is still to come: for some minutes.
const halfFor = 10 * 60

// EnterHalf remembers who gave the right password and has still to prove a second time.
func (s *Server) EnterHalf(c *gin.Context, w who.Who) error {
	ctx := c.Request.Context()
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	s.sessions.Put(ctx, "half school", w.School.String())
	s.sessions.Put(ctx, "half person", w.Person.String())
	s.sessions.Put(ctx, "half since", time.Now().Unix())
	return nil
}

// Half is who has still to prove a second time; false when nobody has.
func (s *Server) Half(c *gin.Context) (w who.Who, ok bool, err error) {
	ctx := c.Request.Context()
	school, err1 := uuid.Parse(s.sessions.GetString(ctx, "half school"))
	person, err2 := uuid.Parse(s.sessions.GetString(ctx, "half person"))
	if err1 != nil || err2 != nil || time.Now().Unix()-s.sessions.GetInt64(ctx, "half since") > halfFor {
		return w, false, nil
	}
	w, err = s.cfg.Load(ctx, s.Store, who.Who{School: school, Person: person})
	return w, err == nil, err
}

// Enter begins a session under a new token, so that one known before is worthless.
func (s *Server) Enter(c *gin.Context, w who.Who) error {
	path := "/"
	if wanted := s.Cookie(c, wantedCookie); labelPath.MatchString(wanted) {
		path = wanted
		s.SetCookie(c, wantedCookie, "")
	}
	return s.EnterAt(c, w, path)
}

// EnterAt is Enter that leads to a page.
func (s *Server) EnterAt(c *gin.Context, w who.Who, path string) error {
	ctx := c.Request.Context()
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	for _, over := range []string{"half school", "half person", "half since"} {
		s.sessions.Remove(ctx, over)
	}
	s.sessions.Put(ctx, "school", w.School.String())
	s.sessions.Put(ctx, "person", w.Person.String())
	s.sessions.Put(ctx, "number", w.Sessions)
	s.sessions.Put(ctx, "seen", s.seconds())
	s.SetCookie(c, LanguageCookie, w.Prefs.Language())
	c.Redirect(http.StatusSeeOther, path)
	return nil
}

// AddressOf is by which people reach this, as it was told or else as they asked.
func (s *Server) AddressOf(c *gin.Context) string {
	if s.cfg.Address != "" {
		return s.cfg.Address
	}
	scheme := "http://"
	if c.Request.TLS != nil || s.cfg.Secure {
		scheme = "https://"
	}
	return scheme + c.Request.Host
}

// Clock is the demo's, which can be moved on; nil elsewhere.
func (s *Server) Clock() DemoClock { return s.cfg.Clock }

// Letters sends letters, with the address for the links in them; nil where none are sent.
func (s *Server) Letters() (l Letters, address string) { return s.cfg.Letters, s.cfg.Address }

// BeginKey is the key by which a first school begins; "" where none may.
func (s *Server) BeginKey() string { return s.cfg.BeginKey }

// Resume goes on under a new token after the person's other sessions were ended.
func (s *Server) Resume(c *gin.Context, w who.Who) error {
	ctx := c.Request.Context()
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	s.sessions.Put(ctx, "number", w.Sessions)
	return nil
}

// SignOut ends the session.
func (s *Server) SignOut(c *gin.Context) error {
	if err := s.sessions.Destroy(c.Request.Context()); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/sign-in")
	return nil
}

// LocalPath is a path on this server, or the round. Browsers read a backslash as a
// stroke and leave out what cannot be printed.
func LocalPath(p string) string {
	odd := func(r rune) bool { return r == '\\' || !unicode.IsPrint(r) }
	if !strings.HasPrefix(p, "/") || strings.HasPrefix(p, "//") || strings.ContainsFunc(p, odd) {
		return "/"
	}
	return p
}

// Clock is the time of day at the school.
func Clock(t time.Time, w who.Who) string { return t.In(w.Zone).Format("15:04") }
