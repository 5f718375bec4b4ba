package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/internal/trail"
)

type trailLine struct{ At, Person, Says string }

type trailView struct{ Lines []trailLine }

func (trailView) Title() string { return "The trail" }

// trailPage shows the coordinator who signed in, changed settings and took files out.
func (s *Server) trailPage(c *gin.Context) {
	ctx, w := s.me(c)
	lines, err := trail.Read(ctx, s.store, w)
	if err != nil {
		s.fail(c, err)
		return
	}
	var v trailView
	for _, l := range lines {
		v.Lines = append(v.Lines, trailLine{w.Day(l.At).Short() + ", " + clock(l.At, w), l.Person, l.Says})
	}
	s.render(c, http.StatusOK, "trail", "", v)
}
