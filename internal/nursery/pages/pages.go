// Package pages is seed, trays and batches, as people see it: handlers that ask a verb and fill a view model,
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
	in.GET("/nursery", s.Handled(p.nurseryPage))
	in.GET("/sow", s.Handled(p.sowPage))
	in.POST("/sow/answer", s.Handled(p.sowAnswer))
	in.POST("/sow", s.Handled(p.sow))
	in.GET("/trays/:id", s.Handled(p.trayPage))
	in.POST("/trays/:id/count", s.Handled(p.count))
	in.GET("/batches/:id", s.Handled(p.batchPage))
	in.POST("/batches/:id/look", s.Handled(p.look))
	in.POST("/batches/:id/lose", s.Handled(p.lose))
	in.POST("/batches/:id/close", s.Handled(p.closeBatch))
	in.POST("/batches/:id/harvest", s.Handled(p.harvest))
	in.POST("/batches/:id/rule", s.Handled(p.setRule))
	in.POST("/planned", s.Handled(p.planSowing))
	in.POST("/planned/:id/drop", s.Handled(p.dropPlanned))
}
