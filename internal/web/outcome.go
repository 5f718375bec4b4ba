package web

import (
	"net/http"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
)

// outcome is what a form that was kept leads to: a sentence, with the entry that can be
// taken back, on a page.
type outcome struct {
	says string
	undo uuid.UUID
	to   string
}

// settle answers a posted form: the page again (status, with what was refused in the form),
// or what keeping it leads to.
func (s *Server) settle(c *gin.Context, f form, err error, again func(status int) error, kept func() outcome) error {
	if f.Any() || (err != nil && f.Refuse(err)) {
		return again(http.StatusUnprocessableEntity)
	}
	if err != nil {
		return err
	}
	return s.lead(c, kept())
}

// lead says what became of a form, and leads on.
func (s *Server) lead(c *gin.Context, o outcome) error {
	if o.says != "" {
		s.say(c, o.says, o.undo)
	}
	c.Redirect(http.StatusSeeOther, o.to)
	return nil
}
