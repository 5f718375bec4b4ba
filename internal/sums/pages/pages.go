// Package pages is the bench sums, as people
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
		{On: "GET /sums", Answer: p.sumsPage},
		{On: "GET /sums/:name", Answer: p.sumPage, Ask: "/sums/air"},
		{On: "POST /sums/:name", Answer: p.sumPage, Ask: "/sums/air"},
	}
}
