// Package pages is signing in, settings and the trail, as people see it: handlers that ask a verb and fill a view model,
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

// Routes says who answers what; open are those for anybody, in those for whoever is signed in.
func Routes(s *face.Server, open, in gin.IRoutes) {
	p := Pages{s}
	open.GET("/sign-in", s.Handled(p.signInPage))
	open.POST("/sign-in", s.Handled(p.signIn))
	open.POST("/sign-in/crew", s.Handled(p.signInCrew))
	in.POST("/sign-out/everywhere", s.Handled(p.signOutEverywhere))
	in.GET("/trail", s.Handled(p.trailPage))
	in.POST("/units", s.Handled(p.setUnits))
	in.GET("/settings", s.Handled(p.settingsPage))
	in.POST("/settings/:what", s.Handled(p.settingsSave))
}
