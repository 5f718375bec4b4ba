// Package pages is what happened, and putting it right, as people see it: handlers that ask a verb and fill a view model,
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
	in.GET("/notebook", s.Handled(p.notebookPage))
	in.GET("/notebook.csv", s.Handled(p.notebookCSV))
	in.POST("/notebook", s.Handled(p.addNote))
	in.GET("/entries/:id/correct", s.Handled(p.correctPage))
	in.POST("/entries/:id/correct", s.Handled(p.correct))
}
