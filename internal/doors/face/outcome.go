package face

import (
	"net/http"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"ulpa/core/say"
)

// Outcome is what a form that was kept leads to: a sentence, with the entry that can be
// undone, on a page.
type Outcome struct {
	Says say.Text
	Undo uuid.UUID
	To   string
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
		s.say(c, s.Reader(c).Say(o.Says), o.Undo)
	}
	c.Redirect(http.StatusSeeOther, o.To)
	return nil
}
