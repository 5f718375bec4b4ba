// Package pages is tanks, their readings, and meters' files, as people see it: handlers that ask a verb and fill a view model,
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
	in.GET("/solution", s.Handled(p.solutionPage))
	in.GET("/solution/:id", s.Handled(p.tankPage))
	in.POST("/solution/:id/read", s.Handled(p.readTank))
	in.POST("/solution/:id/treat", s.Handled(p.treatTank))
	in.GET("/import", s.Handled(p.importPage))
	in.POST("/import", s.Handled(p.importExamine))
	in.POST("/import/:id/confirm", s.Handled(p.importConfirm))
}
