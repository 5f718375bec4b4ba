// Package pages is places and what moves between them, as people
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
		{On: "GET /batches/:id/move", Answer: p.movePage, Ask: "/batches/{batch}/move"},
		{On: "POST /batches/:id/move", Answer: p.move, Ask: "/batches/{batch}/move", Send: []string{"to", "{place}"}},
		{On: "GET /places", Answer: p.placesPage},
		{On: "GET /places/:id", Answer: p.placePage, Ask: "/places/{place}"},
	}
}
