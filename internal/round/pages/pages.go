// Package pages is the day's walk, as people see it: handlers that ask a verb and fill a view model,
// beside their templates.
package pages

import (
	"embed"

	"github.com/gin-gonic/gin"

	"ulpa/internal/face"
)

// Views are the templates, a file for each page.
//
//go:embed *.html
var Views embed.FS

// Pages answers for this area.
type Pages struct{ *face.Server }

// Routes says who answers what.
func Routes(s *face.Server, in gin.IRoutes) {
	p := Pages{s}
	in.GET("/", s.Handled(p.roundPage))
	in.POST("/round/tick", s.Handled(p.tick))
	in.POST("/entries/:id/undo", s.Handled(p.undo))
}
