package face

import (
	"net/http"
	"time"

	"github.com/alexedwards/scs/v2"

	"ulpa/internal/base/store"
)

// withSession reads a request's session and keeps what became of it, before the
// first byte of the answer. What cannot be kept is an answer of its own, in place of
// the page: the library's middleware would write one after the other.
func (s *Server) withSession(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Add("Vary", "Cookie")
		token := ""
		if c, err := r.Cookie(s.sessions.Cookie.Name); err == nil {
			token = c.Value
		}
		ctx, err := s.sessions.Load(r.Context(), token)
		if err != nil {
			s.noSession(w, r, err)
			return
		}
		if r.Method == http.MethodGet {
			var done func()
			ctx, done = s.Store.Snapshot(ctx) // a page is of one moment
			defer done()
		}
		r = r.WithContext(ctx)
		sw := &sessionWriter{ResponseWriter: w, server: s, request: r}
		next.ServeHTTP(sw, r)
		sw.keep()
	})
}

// sessionWriter keeps the session when the answer begins.
type sessionWriter struct {
	http.ResponseWriter
	server       *Server
	request      *http.Request
	kept, failed bool
}

// keep tells whether the answer may go out.
func (w *sessionWriter) keep() bool {
	if w.kept {
		return !w.failed
	}
	w.kept = true
	ctx, sessions := w.request.Context(), w.server.sessions
	store.Release(ctx) // whoever takes the answer in slowly holds nothing of the database
	switch sessions.Status(ctx) {
	case scs.Modified:
		token, expiry, err := sessions.Commit(ctx)
		if err != nil {
			w.failed = true
			for _, name := range []string{"Content-Encoding", "Content-Length", "Content-Disposition", "Location"} {
				w.Header().Del(name)
			}
			w.server.noSession(w.ResponseWriter, w.request, err)
			return false
		}
		sessions.WriteSessionCookie(ctx, w.ResponseWriter, token, expiry)
	case scs.Destroyed:
		sessions.WriteSessionCookie(ctx, w.ResponseWriter, "", time.Time{})
	}
	return true
}

func (w *sessionWriter) WriteHeader(code int) {
	if w.keep() {
		w.ResponseWriter.WriteHeader(code)
	}
}

func (w *sessionWriter) Write(b []byte) (int, error) {
	if !w.keep() {
		return len(b), nil
	}
	return w.ResponseWriter.Write(b)
}

// Unwrap lets the standard library reach what this stands before.
func (w *sessionWriter) Unwrap() http.ResponseWriter { return w.ResponseWriter }
