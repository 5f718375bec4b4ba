// Package pages is the day's walk, as people
// see it: handlers that ask a verb and fill a view model, beside their templates.
package pages

import (
	"embed"

	"ulpa/internal/face"
)

// Views are the templates, a file for each page.
//
//go:embed *.html
var Views embed.FS

// Pages answers for this area.
type Pages struct{ *face.Server }

// Routes are for whoever is signed in.
func Routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /", Answer: p.roundPage},
		{On: "POST /round/tick", Answer: p.tick, Send: []string{"task", "reading:{tank}:2027-03-18"}},
		{On: "POST /entries/:id/undo", Answer: p.undo, Ask: "/entries/{entry}/undo"},
	}
}
