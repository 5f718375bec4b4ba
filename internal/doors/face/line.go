package face

import (
	"errors"
	"io"
	"net/http"
	"time"

	"github.com/gin-gonic/gin"

	"ulpa/internal/base/bound"
	"ulpa/internal/base/store"
)

// inLine answers a route when the one who asks has a place in its line. Until then nothing of
// the body is read and nothing of the database held; but of a late line, where one is asked for
// only when the work begins, the page is begun without.
func (s *Server) inLine(r Route) func(*gin.Context) error {
	l, answer := r.Line, r.Answer
	if l == nil {
		return answer
	}
	return func(c *gin.Context) error {
		if r.LineFor != "" && c.Query(r.LineFor) == "" {
			return answer(c)
		}
		ctx, w := s.Me(c)
		if l.Late && c.Request.Method == http.MethodGet {
			asked := c.Request
			c.Request = asked.WithContext(bound.Late(ctx, l))
			if err := answer(c); !errors.Is(err, bound.ErrNoPlace) {
				return err
			}
			c.Request = asked
		}
		asker := bound.Asker{School: w.School, Person: w.Person}
		if in, done, ok := l.Try(ctx, asker); ok {
			defer done()
			return s.inPlace(c, l, c.Request.WithContext(in), answer)
		}
		store.Release(ctx)
		in, done, err := l.Enter(ctx, asker)
		if err != nil {
			passOver(c)
			return err
		}
		defer done()
		if c.Request.Method == http.MethodGet { // what was let go is read again, of one moment
			fresh, over := s.Store.Snapshot(in)
			defer over()
			in = fresh
		}
		return s.inPlace(c, l, c.Request.WithContext(in), answer)
	}
}

// inPlace answers in a place. What is sent has as long to arrive as the work has, and no longer.
func (s *Server) inPlace(c *gin.Context, l *bound.Line, r *http.Request, answer func(*gin.Context) error) error {
	c.Request = r
	if r.Method != http.MethodGet {
		_ = http.NewResponseController(c.Writer).SetReadDeadline(time.Now().Add(l.Lasts)) // none on what a test records into
	}
	return answer(c)
}

// passOver takes what is sent and keeps nothing of it, so that the answer arrives: who is still
// sending hears nothing.
func passOver(c *gin.Context) {
	if c.Request.Method != http.MethodGet {
		_ = http.NewResponseController(c.Writer).SetReadDeadline(time.Now().Add(5 * time.Second))
		_, _ = io.Copy(io.Discard, c.Request.Body)
	}
}

// Media types of the files that go out.
const (
	CSV      = "text/csv; charset=utf-8"
	PDF      = "application/pdf"
	Calendar = "text/calendar; charset=utf-8"
)

// File is a file that goes out.
type File struct {
	Type  string // its media type
	Name  string
	Shown bool // the browser shows it; otherwise it keeps it
}

// Send sends a file as it is written. Nothing of the database is held meanwhile, but what write
// itself reads. Whoever leaves a piece of it unread for too long gets no more of it; what breaks
// off ends the connection, so that half a file is never taken for a whole one.
func (s *Server) Send(c *gin.Context, f File, write func(to io.Writer) error) error {
	store.Release(c.Request.Context())
	how := "attachment"
	if f.Shown {
		how = "inline"
	}
	c.Header("Content-Type", f.Type)
	c.Header("Content-Disposition", how+`; filename="`+f.Name+`"`)
	err := write(&pieces{c.Writer, http.NewResponseController(c.Writer)})
	switch {
	case err == nil:
		c.Writer.WriteHeaderNow()
	case c.Writer.Written():
		s.Log.Warn("a file broke off", "request", c.GetString(RequestID), "error", err)
		panic(http.ErrAbortHandler)
	default:
		c.Writer.Header().Del("Content-Type")
		c.Writer.Header().Del("Content-Disposition")
	}
	return err
}

// chunkTime is how long whoever takes a file may leave one piece of it unread.
const chunkTime = 20 * time.Second

// pieces is an answer whose every piece must be taken in good time.
type pieces struct {
	http.ResponseWriter
	control *http.ResponseController
}

func (p *pieces) Write(b []byte) (int, error) {
	if err := p.control.SetWriteDeadline(time.Now().Add(chunkTime)); err != nil {
		return 0, err
	}
	return p.ResponseWriter.Write(b)
}
