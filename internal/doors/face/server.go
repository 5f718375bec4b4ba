package face

import (
	"bytes"
	"context"
	"crypto/rand"
	"errors"
	"io"
	"io/fs"
	"log/slog"
	"net/http"
	"net/url"
	"strings"
	"sync/atomic"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"
	"github.com/klauspost/compress/gzip"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
)

// Config is what the face needs to know. What hangs on the areas is given to it: it knows none.
type Config struct {
	Store    *store.Store
	Log      *slog.Logger
	Secure   bool            // cookies only over HTTPS
	HSTS     bool            // served over HTTPS by what stands before it, and for good
	Notice   func() say.Text // one line above every page: the demo says what day it is; nil: none
	Letters  Letters         // nil: none are sent
	Address  string          // by which people reach this, for links in letters
	Clock    DemoClock       // nil: nobody moves it
	BeginKey string          // by which a first school begins, while there is none
	Proxies  []string        // whose word on where a request comes from is taken: addresses or networks

	Areas  []Area                                                                // in the order of the navigation, of the settings too
	Routes func(*Server, *gin.Engine)                                            // what is no area's
	Free   func(path string) bool                                                // answered without a session, and so also while the database is away
	Bodies []Bound                                                               // what may be larger than a form
	Slow   []string                                                              // paths whose answers may take long
	Moved  map[string]string                                                     // where earlier addresses lead; one that ends in / says it of all below
	Strip  func(context.Context, *store.Store, who.Who, *url.URL) (Strip, error) // what stands beside every page
	ToTell func(context.Context, *store.Store, who.Who) ([]Told, error)          // what a school still has to tell about itself
	// Nowhere answers what is no route in a way of its own, where it does not ask for a page; nil: it always does.
	Nowhere func(*gin.Context) bool
	// Unproved tells the paths that are open to who must set up two-step sign-in first.
	Unproved func(path string) bool
	Load     func(ctx context.Context, s *store.Store, person who.Who) (who.Who, error)
}

// Letters sends a letter of plain text.
type Letters interface {
	Send(ctx context.Context, to, subject, text string) error
}

// DemoClock is one that can be moved on.
type DemoClock interface {
	Now() time.Time
	Advance(to time.Time) error
}

// Server answers requests.
type Server struct {
	Store    *store.Store
	Log      *slog.Logger
	sessions *scs.SessionManager
	draw     func(w io.Writer, language, page, part string, data any) error
	prefix   string    // of the cookies' names
	sections []Section // of the settings
	links    []Link
	cfg      Config
}

// Bound is how large what is posted to paths that begin so may be.
type Bound struct {
	Path string
	Most int64
}

// maxBody bounds what a form may send; the import of a file has its own bound.
const maxBody = 1 << 20

// InMemory is how much of a posted file is; the rest waits on the disk.
const InMemory = 1 << 20

// Face is the handler for everything the application serves, and the routes it knows.
type Face struct {
	http.Handler
	Routes []string // as METHOD PATH
	server *Server
	views  *views
}

// OnDraw has tell told how to draw each page again that is drawn from now on; nil ends it.
// Benchmarks ask what drawing alone takes.
func (f *Face) OnDraw(tell func(again func(io.Writer) error)) {
	draw := f.views.draw
	f.server.draw = func(w io.Writer, language, page, part string, data any) error {
		if tell != nil {
			tell(func(w io.Writer) error { return draw(w, language, page, part, data) })
		}
		return draw(w, language, page, part, data)
	}
}

// New makes the face.
func New(cfg Config) (*Face, error) {
	assets, err := loadAssets(cfg.Areas)
	if err != nil {
		return nil, err
	}
	var templates []fs.FS
	var links []Link
	for _, a := range cfg.Areas {
		templates = append(templates, a.Views)
		if a.Link != nil {
			links = append(links, *a.Link)
		}
	}
	views, err := loadViews(assets, templates)
	if err != nil {
		return nil, err
	}
	sessions := scs.New()
	sessions.Store = cfg.Store.Sessions()
	sessions.Lifetime = 12 * time.Hour
	prefix := ""
	if cfg.Secure {
		prefix = "__Host-" // no other host of the same domain can set one in its place
	}
	sessions.Cookie.Name = prefix + "ulpa"
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.SameSite = http.SameSiteLaxMode
	sessions.Cookie.Secure = cfg.Secure
	s := &Server{Store: cfg.Store, Log: cfg.Log, sessions: sessions, draw: views.draw, prefix: prefix, links: links, cfg: cfg}
	gin.SetMode(gin.ReleaseMode)
	g := gin.New()
	g.HandleMethodNotAllowed = true
	g.RemoteIPHeaders = []string{"X-Forwarded-For"}
	if err := g.SetTrustedProxies(cfg.Proxies); err != nil {
		return nil, err
	}
	g.MaxMultipartMemory = InMemory
	g.Use(s.observe, s.protect)
	g.GET("/static/*file", assets.serve)
	cfg.Routes(s, g)
	s.mount(g, s.open(cfg.Areas))
	in := g.Group("/", s.signedIn)
	in.POST("/sign-out", s.Handled(s.SignOut))
	s.mount(in, s.behind(cfg.Areas))
	if cfg.Clock != nil {
		in.POST("/clock", s.Handled(s.moveClock))
	}
	s.nowhere(g)
	withSession := s.withSession(g)
	f := &Face{server: s, views: views}
	for _, r := range g.Routes() {
		f.Routes = append(f.Routes, r.Method+" "+r.Path)
	}
	own := http.NewCrossOriginProtection()
	own.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		s.keepToItself(w.Header(), r)
		http.Error(w, s.spoken(r).T("This request came from another website."), http.StatusForbidden)
	}))
	pack, err := gzhttp.NewWrapper(gzhttp.MinSize(1400), gzhttp.CompressionLevel(gzip.BestSpeed), gzhttp.ContentTypes(packed))
	if err != nil {
		return nil, err
	}
	f.Handler = pack(own.Handler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		ctx, done := context.WithTimeout(r.Context(), s.timeFor(r.URL.Path))
		defer done()
		r = r.WithContext(ctx)
		if r.Method == http.MethodHead { // as GET; what carries the answer leaves its body out
			r.Method = http.MethodGet
		}
		if cfg.Free(r.URL.Path) {
			g.ServeHTTP(w, r)
			return
		}
		withSession.ServeHTTP(w, r)
	})))
	return f, nil
}

// notice is the line above every page.
func (s *Server) notice(r say.Reader) string {
	if s.cfg.Notice == nil {
		return ""
	}
	return r.Say(s.cfg.Notice())
}

// moveClock moves the demo's day on: by a day, or to a date.
func (s *Server) moveClock(c *gin.Context) error {
	_, w := s.Me(c)
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	f := ReadForm(c, w.Prefs)
	now := s.cfg.Clock.Now()
	to := now.AddDate(0, 0, 1)
	if f.Text("day") != "" {
		day := f.Day("day")
		if f.Any() {
			return field.Refuse("day", "must be a date")
		}
		to = now.AddDate(0, 0, int(day-w.Day(now)))
	}
	if err := s.cfg.Clock.Advance(to); err != nil {
		return err
	}
	return s.Lead(c, Outcome{Says: say.T("It is %s now.", w.Day(to).Long()), To: LocalPath(f.Get("back"))})
}

// packed are the answers that are compressed on their way; files are before.
var packed = []string{"text/html", "text/csv", "application/json", "application/problem+json"}

// timeFor is how long anybody waits before they are told to try again; files take longer.
func (s *Server) timeFor(path string) time.Duration {
	for _, p := range s.cfg.Slow {
		if strings.HasPrefix(path, p) {
			return 110 * time.Second
		}
	}
	return 20 * time.Second
}

// nowhere answers what is no route, to those who are signed in.
func (s *Server) nowhere(g *gin.Engine) {
	nothing := func(c *gin.Context) {
		if !s.moved(c) && (s.cfg.Nowhere == nil || !s.cfg.Nowhere(c)) {
			s.fail(c, store.ErrNotFound)
		}
	}
	behind := func(c *gin.Context) {
		if !s.cfg.Free(c.Request.URL.Path) { // those have no session to look into
			s.signedIn(c)
		}
	}
	g.NoRoute(behind, nothing)
	g.NoMethod(behind, nothing)
}

// moved leads from an address of an earlier release to the one it has now, whatever was asked or
// sent: printed codes, bookmarks and programs go on.
func (s *Server) moved(c *gin.Context) bool {
	for from, to := range s.cfg.Moved {
		rest, here := strings.CutPrefix(c.Request.URL.Path, from)
		if here && (rest == "") != strings.HasSuffix(from, "/") {
			at := *c.Request.URL
			at.Path = to + rest
			c.Redirect(http.StatusPermanentRedirect, at.RequestURI())
			return true
		}
	}
	return false
}

// Handled answers what a handler gives back: an error with a page that says what it means.
func (s *Server) Handled(h func(*gin.Context) error) gin.HandlerFunc {
	return func(c *gin.Context) {
		if err := h(c); err != nil {
			s.fail(c, err)
		}
	}
}

// RequestID is the key under which a request carries its id.
const RequestID = "request"

// observe gives each request an id, logs it, and turns a panic into a page.
func (s *Server) observe(c *gin.Context) {
	started := time.Now()
	id := rand.Text()[:12]
	c.Set(RequestID, id)
	c.Header("X-Request-Id", id)
	var statements atomic.Int64
	c.Request = c.Request.WithContext(store.Watch(c.Request.Context(), func(string, []any) { statements.Add(1) }))
	defer func() {
		if f := c.Request.MultipartForm; f != nil { // the server cleans up after the request it made, and this is a copy
			_ = f.RemoveAll()
		}
		if p := recover(); p == http.ErrAbortHandler { //nolint:errorlint // it is thrown as it is
			panic(p)
		} else if p != nil {
			s.Log.Error("panic", "request", id, "what", p, "path", loggedPath(c))
			if !c.Writer.Written() {
				s.fail(c, errors.New("panic"))
			}
			c.Abort()
		}
		s.Log.Info("request", "request", id, "method", c.Request.Method, "path", loggedPath(c),
			"status", c.Writer.Status(), "bytes", c.Writer.Size(), "statements", statements.Load(), "ms", float64(time.Since(started).Microseconds())/1000)
	}()
	c.Next()
}

// loggedPath is what the log says was asked for: of an address that is a secret, its route.
func loggedPath(c *gin.Context) string {
	if strings.HasPrefix(c.FullPath(), "/calendar/") {
		return c.FullPath()
	}
	return c.Request.URL.Path
}

// protect sets the headers that keep a page to itself, and bounds what is asked.
func (s *Server) protect(c *gin.Context) {
	s.keepToItself(c.Writer.Header(), c.Request)
	if asked, err := url.QueryUnescape(c.Request.URL.RawQuery); err != nil || printable(asked) != asked ||
		printable(c.Request.URL.Path) != c.Request.URL.Path {
		s.fail(c, store.ErrNotFound)
		return
	}
	limit := int64(maxBody)
	for _, b := range s.cfg.Bodies {
		if strings.HasPrefix(c.Request.URL.Path, b.Path) {
			limit = b.Most
		}
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, limit)
	c.Next()
}

// keepToItself sets the headers of every answer.
func (s *Server) keepToItself(h http.Header, r *http.Request) {
	h.Set(
		"Content-Security-Policy",
		"default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; form-action 'self'; "+
			"base-uri 'none'; frame-ancestors 'none'; manifest-src 'self'",
	)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cache-Control", "no-store")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=(), payment=(), usb=(), serial=(), display-capture=()")
	if s.cfg.HSTS || r.TLS != nil {
		h.Set("Strict-Transport-Security", "max-age=31536000")
	}
}

// fail answers an error with a page that says what it means.
func (s *Server) fail(c *gin.Context, err error) {
	status, title := http.StatusInternalServerError, say.T("Something went wrong here")
	says := say.T(
		"Nothing has been stored. Go back and try once more; if it happens again, tell whoever looks after Ulpa this number: %s",
		c.GetString(RequestID),
	)
	var refused field.Errors
	var shape store.ErrShape
	var full bound.Full
	switch {
	case errors.Is(err, store.ErrNotFound):
		status, title, says = http.StatusNotFound, say.T("There is nothing here"), say.T("It may have been closed, or the address is mistyped.")
	case errors.Is(err, who.ErrNotAllowed):
		status, title, says = http.StatusForbidden, say.T(
			"This needs a member of staff",
		), say.T(
			"A crew counts, reads, moves and writes notes. Acid, alkali, sowing, closing and settings are for adults.",
		)
	case errors.As(err, &shape):
		status, title, says = http.StatusServiceUnavailable, say.T(
			"Ulpa is being updated",
		), say.T(
			"Nothing has been stored. What you typed is still in the form: send it again in a few minutes. If it arrives twice it is stored only once.",
		)
		c.Header("Retry-After", "60")
	case errors.As(err, &refused):
		status, title, says = http.StatusUnprocessableEntity, say.T("That cannot be done"), refused[0].Message
	case errors.As(err, &full):
		status, title, says = full.Answer(c.Writer.Header()), say.T("Too much at once"), full.Why()
	case errors.Is(err, context.Canceled):
		c.AbortWithStatus(499)
		return
	case store.OutageOf(err) != store.None:
		status, title, says = outage(c.Writer, store.OutageOf(err))
	}
	if status >= 500 {
		s.Log.Error("answer", "request", c.GetString(RequestID), "error", err)
	}
	s.Render(c, status, "message", "", messageView{title, says})
	c.Abort()
}

// outage says what keeps the database from answering, and what to do about it.
func outage(w http.ResponseWriter, t store.Outage) (status int, title, says say.Text) {
	status = http.StatusServiceUnavailable
	w.Header().Set("Retry-After", "2")
	switch t {
	case store.Full:
		return http.StatusInsufficientStorage, say.T(
				"The server’s disk is full",
			), say.T(
				"Nothing has been stored. What you typed is still in the form; tell whoever looks after Ulpa that its disk is full.",
			)
	case store.Busy:
		return status, say.T(
				"Too much at once",
			), say.T(
				"Nothing you typed is lost: it is still in the form. Wait a moment, then send it again; if it arrives twice it is stored only once.",
			)
	}
	return status, say.T(
			"The database does not answer",
		), say.T(
			"Nothing you typed is lost: it is still in the form. Try again in a moment; if it arrives twice it is stored only once.",
		)
}

// noSession answers when the session cannot be read or kept.
func (s *Server) noSession(w http.ResponseWriter, r *http.Request, err error) {
	if errors.Is(err, context.Canceled) {
		return // nobody waits for the answer
	}
	s.Log.Error("session", "path", r.URL.Path, "error", err)
	status, title, says := outage(w, store.OutageOf(err))
	reader := s.spoken(r)
	var buf bytes.Buffer
	if err := s.draw(&buf, reader.Language(), "message", "layout", Page{
		Title: reader.Say(title), Notice: s.notice(reader), Path: "/", P: reader,
		V: messageView{title, says},
	}); err != nil {
		s.Log.Error("view", "name", "message", "error", err)
	}
	s.keepToItself(w.Header(), r)
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.WriteHeader(status)
	_, _ = w.Write(buf.Bytes())
}

// messageView is a page that only says something.
type messageView struct{ Heading, Says say.Text }
