// Package pages is places and what moves between them, as people see it: handlers that ask a verb and fill a view model,
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
	in.GET("/batches/:id/move", s.Handled(p.movePage))
	in.POST("/batches/:id/move", s.Handled(p.move))
	in.GET("/places", s.Handled(p.placesPage))
	in.GET("/places/:id", s.Handled(p.placePage))
}
