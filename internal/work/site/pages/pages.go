// Package pages is places and what moves between them, as people
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
	Link:     &face.Link{Name: "Places", Path: "/places", Key: "p", Icon: "place"},
	Views:    views,
	Routes:   routes,
	Settings: sections,
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /batches/:id/move", Answer: p.movePage, Ask: "/batches/{batch}/move"},
		{On: "POST /batches/:id/move", Answer: p.move, Ask: "/batches/{batch}/move", Send: []string{"to", "{place}"}},
		{On: "GET /places", Answer: p.placesPage},
		{On: "GET /places/:id", Answer: p.placePage, Ask: "/places/{place}"},
		{On: "POST /places/:id/air", Answer: p.readAir, Ask: "/places/{place}/air", Send: []string{"air_temp", "21", "humidity", "60"}},
		{On: "POST /places/:id/check", Answer: p.check, Ask: "/places/{place}/check", Send: []string{"list", "clean", "steps", "off"}},
	}
}
