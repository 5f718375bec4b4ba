package face

import (
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
	"ulpa/internal/store"
	"ulpa/internal/who"
)

// How many files are taken out at once: by one person, by one school, by all.
const exportsPerson, exportsSchool, exportsAll = 1, 2, 6

// chunkTime is how long whoever takes a file may leave one piece of it unread.
const chunkTime = 20 * time.Second

// exports counts the files that are being taken out.
type exports struct {
	mu  sync.Mutex
	now map[uuid.UUID]int // by person and by school; all under the zero id
}

// begin tells whether one more may begin; done ends it.
func (e *exports) begin(w who.Who) (done func(), ok bool) {
	e.mu.Lock()
	defer e.mu.Unlock()
	if e.now[w.Person] >= exportsPerson || e.now[w.School] >= exportsSchool || e.now[uuid.Nil] >= exportsAll {
		return nil, false
	}
	if e.now == nil {
		e.now = map[uuid.UUID]int{}
	}
	add := func(n int) {
		for _, id := range []uuid.UUID{w.Person, w.School, uuid.Nil} {
			if e.now[id] += n; e.now[id] == 0 {
				delete(e.now, id)
			}
		}
	}
	add(1)
	return func() {
		e.mu.Lock()
		defer e.mu.Unlock()
		add(-1)
	}, true
}

// Export lets one file go out, or says that others are going. Every answer that is made
// while it is read goes through here.
func (s *Server) Export(c *gin.Context, w who.Who) (to *pieces, done func(), ok bool) {
	store.Release(c.Request.Context()) // its pieces are read one by one
	done, ok = s.exports.begin(w)
	if !ok {
		c.Header("Retry-After", "10")
		s.Render(
			c,
			http.StatusTooManyRequests,
			"message",
			"",
			messageView{
				say.T("A file is on its way already"),
				say.T("One at a time for each person, two for a school. Wait until it has arrived, then take the next."),
			},
		)
		return nil, nil, false
	}
	return &pieces{c.Writer, http.NewResponseController(c.Writer)}, done, true
}

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
