// Package pages is what can be cut and what has been, as people
// see it: handlers that ask a verb and fill a view model, beside their templates.
package pages

import (
	"embed"

	"ulpa/internal/doors/face"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Link:   &face.Link{Name: "Harvest", Path: "/harvest", Key: "h", Icon: "harvest"},
	Views:  views,
	Routes: routes,
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /harvest", Answer: p.harvestPage},
	}
}
