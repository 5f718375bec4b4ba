package api

import (
	"context"
	"encoding/json"
	"errors"
	"io"
	"log/slog"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/invopop/jsonschema"
	"golang.org/x/time/rate"

	"ulpa/core/field"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/store"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/people"
	"ulpa/internal/work/trays"
)

// School is what the school's part of the API needs.
type School struct {
	Store *store.Store
	Log   *slog.Logger
	Clock Clock // nil: the clock is the world's and is moved by nobody
	// PerSecond is how often a key may ask in the long run; 0: as usual.
	PerSecond float64
	// Address is by which people reach the pages, for links to them.
	Address func(*gin.Context) string
}

// Clock is one that can be moved on: the demo's.
type Clock interface {
	Now() time.Time
	Advance(time.Time) error
}

// operation is something that the school's part answers, declared once: its route, its
// description and the schemas of what goes in and out follow from it.
type operation struct {
	Method, Path string
	Summary      string
	Query        []param
	In           any         // what is sent, as an example of its type; nil: nothing
	Out          any         // what is answered; nil: nothing (204)
	Status       int         // of success; 0: 200, or 204 without an answer
	Tagged       bool        // what is answered has a tag, and is changed only by whoever names it
	Open         bool        // asked without a key
	Demo         bool        // there only where the clock can be moved
	Line         *bound.Line // in which one waits for what takes much; nil: it takes little
	LineFor      string      // what must be asked for it to take much; "": it always does
	Do           func(*call) (any, error)

	takes func() *jsonschema.Schema // what In is, as the description has it
}

type param struct{ Name, Says string }

// call is one request by a program.
type call struct {
	School
	ctx    context.Context
	w      who.Who
	gin    *gin.Context
	body   []byte
	status int
}

// id reads an id of the path.
func (c *call) id(name string) (uuid.UUID, error) {
	id, err := uuid.Parse(c.gin.Param(name))
	if err != nil {
		return id, store.ErrNotFound
	}
	return id, nil
}

// read reads the body strictly.
func (c *call) read(into any) error { return things.Decode(c.body, into) }

// errNeedsTag asks a program to say what it changes.
var errNeedsTag = errors.New("send If-Match with the tag of what you change, or If-None-Match: * for a new one")

// was is the tag that a program says it changes.
func (c *call) was() (string, error) {
	if tag := strings.Trim(strings.TrimPrefix(c.gin.GetHeader("If-Match"), "W/"), `"`); tag != "" {
		return tag, nil
	}
	if c.gin.GetHeader("If-None-Match") == "*" && c.gin.Request.Method != http.MethodDelete {
		return things.New, nil
	}
	return "", errNeedsTag
}

func (c *call) tag(tag string) { c.gin.Header("ETag", `"`+tag+`"`) }

// keys bounds how often each key asks.
type keys struct {
	sync.Mutex
	of        map[uuid.UUID]*rate.Limiter
	perSecond rate.Limit
}

// A key asks so often in a second in the long run, and so many at once.
const perSecond, atOnce = 10, 120

func (k *keys) wait(id uuid.UUID) (time.Duration, bool) {
	k.Lock()
	defer k.Unlock()
	l := k.of[id]
	if l == nil {
		if len(k.of) > 10_000 {
			k.of = map[uuid.UUID]*rate.Limiter{}
		}
		l = rate.NewLimiter(k.perSecond, atOnce)
		k.of[id] = l
	}
	r := l.Reserve()
	if d := r.Delay(); d > 0 {
		r.Cancel()
		return d, false
	}
	return 0, true
}

func (s School) mount(g gin.IRoutes) {
	often := &keys{of: map[uuid.UUID]*rate.Limiter{}, perSecond: perSecond}
	if s.PerSecond > 0 {
		often.perSecond = rate.Limit(s.PerSecond)
	}
	for _, o := range operations() {
		if o.Demo && s.Clock == nil {
			continue
		}
		o.takes = sync.OnceValue(func() *jsonschema.Schema { return reflected(o.In) })
		g.Handle(o.Method, "/api/v1"+o.Path, func(c *gin.Context) { s.answer(c, o, often) })
	}
}

// Asked are the routes of the school's part, without those of the demo alone.
func Asked() (all []string) {
	for _, o := range operations() {
		if !o.Demo {
			all = append(all, o.Method+" /api/v1"+o.Path)
		}
	}
	return all
}

func (s School) answer(c *gin.Context, o operation, often *keys) {
	x := &call{School: s, ctx: c.Request.Context(), gin: c}
	if !o.Open {
		w, err := s.holder(x.ctx, c.GetHeader("Authorization"))
		if err == nil && w.Scope == who.ScopeCalendar {
			err = who.ErrNotAllowed
		}
		if err != nil {
			s.refuse(c, err)
			return
		}
		if d, ok := often.wait(w.Person); !ok {
			c.Header("Retry-After", strconv.Itoa(int(d.Seconds())+1))
			refuse(c, problem{Title: "This key asks too often: wait, then try again", Status: http.StatusTooManyRequests})
			return
		}
		x.w = w
	}
	out, err := x.inLine(o)
	if err != nil {
		s.refuse(c, err)
		return
	}
	status := o.Status
	switch {
	case x.status != 0:
		status = x.status
	case status == 0 && out == nil:
		status = http.StatusNoContent
	case status == 0:
		status = http.StatusOK
	}
	if out == nil {
		c.Status(status)
		c.Writer.WriteHeaderNow()
		return
	}
	b, err := json.Marshal(out)
	if err != nil {
		s.refuse(c, err)
		return
	}
	if tag := c.GetHeader("If-None-Match"); o.Method == http.MethodGet && tag != "" && tag == c.Writer.Header().Get("ETag") {
		c.Status(http.StatusNotModified)
		c.Writer.WriteHeaderNow()
		return
	}
	c.Data(status, "application/json", b)
}

// inLine does an operation when the key has a place in its line; in a late line, where the work
// itself asks for one, it is begun without.
func (x *call) inLine(o operation) (any, error) {
	if o.Line == nil || o.LineFor != "" && x.gin.Query(o.LineFor) == "" {
		return x.do(o)
	}
	if o.Line.Late && o.Method == http.MethodGet {
		in := x.ctx
		x.ctx = bound.Late(in, o.Line)
		if out, err := o.Do(x); !errors.Is(err, bound.ErrNoPlace) {
			return out, err
		}
		x.ctx = in
	}
	in, done, err := o.Line.Enter(x.ctx, bound.Asker{School: x.w.School, Person: x.w.Person})
	if err != nil {
		return nil, err
	}
	defer done()
	x.ctx, x.gin.Request = in, x.gin.Request.WithContext(in)
	return x.do(o)
}

// do takes what was sent, and does an operation.
func (x *call) do(o operation) (any, error) {
	if x.gin.Request.Body != nil && o.Method != http.MethodGet {
		body, err := io.ReadAll(x.gin.Request.Body)
		if err != nil {
			return nil, errors.Join(errNoBody, err)
		}
		x.body = body
	}
	if o.In != nil {
		if err := fits(o.takes(), x.body, o.Method == http.MethodPost); err != nil {
			return nil, err
		}
	}
	return o.Do(x)
}

// errNoBody is the answer to what did not arrive, or was too long.
var errNoBody = errors.New("the body did not arrive")

// errNoKey is the answer without a key that holds.
var errNoKey = errors.New("send a valid key: Authorization: Bearer KEY")

// holder is the program whose key it is.
func (s School) holder(ctx context.Context, header string) (w who.Who, err error) {
	key, ok := strings.CutPrefix(header, "Bearer ")
	if !ok || key == "" {
		return w, errNoKey
	}
	k, err := s.Store.KeyOf(ctx, people.KeyHash(strings.TrimSpace(key)))
	if errors.Is(err, store.ErrNotFound) {
		return w, errNoKey
	} else if err != nil {
		return w, err
	}
	if w, err = people.Load(ctx, s.Store, who.Who{School: k.School, Person: k.Program}); err != nil {
		return w, err
	}
	if w.Scope = k.Scope; k.UsedAt == nil || s.Store.Now().Sub(*k.UsedAt).Abs() > time.Minute {
		err = people.KeyUsed(ctx, s.Store, w)
	}
	return w, err
}

func (s School) refuse(c *gin.Context, err error) {
	var refused field.Errors
	var stale things.Stale
	var question field.Question
	var clash trays.Clashes
	var full bound.Full
	var shape store.ErrShape
	var large *http.MaxBytesError
	p := problem{Title: "Something went wrong here", Status: http.StatusInternalServerError}
	switch {
	case errors.Is(err, errNoKey):
		c.Header("WWW-Authenticate", "Bearer")
		p = problem{Title: err.Error(), Status: http.StatusUnauthorized}
	case errors.As(err, &large):
		p = problem{Title: "The body is larger than 4 MB", Status: http.StatusRequestEntityTooLarge}
	case errors.Is(err, errNoBody):
		p = problem{Title: "The body did not arrive", Status: http.StatusBadRequest}
	case errors.Is(err, errNeedsTag):
		p = problem{Title: err.Error(), Status: http.StatusPreconditionRequired}
	case errors.Is(err, store.ErrNotFound):
		p = problem{Title: "There is no such thing in this school", Status: http.StatusNotFound}
	case errors.Is(err, who.ErrNotAllowed):
		p = problem{Title: "This key may not do this", Status: http.StatusForbidden}
	case errors.As(err, &stale):
		p = problem{Title: "It was changed meanwhile", Status: http.StatusPreconditionFailed, Errors: stale.Errors}
	case errors.As(err, &question):
		p = problem{
			Title: "This is asked about before it is saved; send it again with \"sure\": true", Status: http.StatusConflict,
			Detail: question.Why().String(), Asks: true,
		}
	case errors.As(err, &clash):
		p = problem{Title: "Somebody else marked these cells meanwhile", Status: http.StatusConflict, Detail: clash.Error()}
	case errors.As(err, &refused):
		p = problem{Title: "The input cannot be used", Status: http.StatusUnprocessableEntity, Errors: refused}
		for _, x := range refused {
			if x.Field == "sent" {
				p = problem{Title: "Other content is stored under this id", Status: http.StatusConflict, Errors: refused}
			}
		}
	case errors.As(err, &shape):
		c.Header("Retry-After", "60")
		p = problem{Title: "Ulpa is being brought up to date; send it again in some minutes", Status: http.StatusServiceUnavailable, Detail: shape.Error()}
	case errors.As(err, &full):
		p = problem{Title: "Too much at once", Status: full.Answer(c.Writer.Header()), Detail: full.Why().String()}
	case errors.Is(err, context.Canceled):
		c.AbortWithStatus(499)
		return
	case store.OutageOf(err) == store.Full:
		p = problem{Title: "The server has no room left; nothing was stored", Status: http.StatusInsufficientStorage}
	case store.OutageOf(err) != store.None:
		c.Header("Retry-After", "2")
		p = problem{Title: "The database does not answer; send it again in a moment: what arrives twice is stored once", Status: http.StatusServiceUnavailable}
	}
	if p.Status >= http.StatusInternalServerError && s.Log != nil {
		s.Log.Error("api", "path", c.FullPath(), "error", err)
	}
	refuse(c, p)
}

// onThing reads an act on the thing of the path, does it, and answers.
func onThing[T any](act func(c *call, id uuid.UUID, in T) error, answer func(c *call, id uuid.UUID) (any, error)) func(*call) (any, error) {
	return func(c *call) (any, error) {
		id, err := c.id("id")
		if err != nil {
			return nil, err
		}
		var in T
		if err := c.read(&in); err != nil {
			return nil, err
		}
		if err := act(c, id, in); err != nil {
			return nil, err
		}
		return answer(c, id)
	}
}
