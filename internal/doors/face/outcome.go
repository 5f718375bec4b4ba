package face

import (
	"encoding/json"
	"net/http"
	"net/url"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
)

// Outcome is what a form that was kept leads to: a sentence, with how it is undone, on a page.
type Outcome struct {
	Says say.Text
	Undo uuid.UUID // the entry that was written
	Back *Back     // or the form that gives back what was before
	To   string
}

// Back is a form that is sent to undo an act. Fields with the name "back" say where it leads
// afterwards; without one it leads to the page that offers it.
type Back struct {
	Path   string
	Fields url.Values
}

// BackTo is such a form, with names and values of its fields in turn.
func BackTo(path string, fields ...string) *Back {
	b := &Back{Path: path, Fields: url.Values{}}
	for i := 0; i+1 < len(fields); i += 2 {
		b.Fields.Add(fields[i], fields[i+1])
	}
	return b
}

// UndoThen undoes an entry and then leads somewhere else, as when its own page is gone with it.
func UndoThen(entry uuid.UUID, to string) *Back {
	return BackTo("/entries/"+entry.String()+"/undo", "back", to)
}

func (o Outcome) back() *Back {
	if o.Back == nil && o.Undo != uuid.Nil {
		return BackTo("/entries/" + o.Undo.String() + "/undo")
	}
	return o.Back
}

// Settle answers a posted form: the page again (status, with what was refused in the form),
// or what keeping it leads to.
func (s *Server) Settle(c *gin.Context, f *Form, err error, again func(status int) error, kept func() Outcome) error {
	if f.Any() || (err != nil && f.Refuse(err)) {
		return again(http.StatusUnprocessableEntity)
	}
	if err != nil {
		return err
	}
	return s.Lead(c, kept())
}

// Lead says what became of a form, and leads on.
func (s *Server) Lead(c *gin.Context, o Outcome) error {
	if o.Says != nil {
		ctx := c.Request.Context()
		s.sessions.Put(ctx, "flash", s.Reader(c).Say(o.Says))
		if b := o.back(); b != nil {
			text, err := json.Marshal(b)
			if err != nil {
				return err
			}
			s.sessions.Put(ctx, "undo", string(text))
		}
	}
	c.Redirect(http.StatusSeeOther, o.To)
	return nil
}

// undoOf is how the act of before is undone, kept for one page; nil: nothing is offered.
func (s *Server) undoOf(c *gin.Context, path string) *Back {
	var b Back
	text := s.sessions.PopString(c.Request.Context(), "undo")
	if text == "" || json.Unmarshal([]byte(text), &b) != nil || b.Path == "" {
		return nil
	}
	if b.Fields == nil {
		b.Fields = url.Values{}
	}
	if !b.Fields.Has("back") {
		b.Fields.Set("back", path)
	}
	return &b
}
