// Package pages is what is sown, and what grows already and is entered, as people see it: handlers that ask a verb and
// fill a view model, beside their templates.
package pages

import (
	"embed"

	"ulpa/internal/doors/face"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Views:  views,
	Routes: routes,
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /sow", Answer: p.sowPage},
		{On: "POST /sow/answer", Answer: p.sowAnswer, Send: []string{"wanted", "4"}},
		{On: "POST /sow", Answer: p.sow, Send: []string{"lot", "{lot}", "tray", "{tray}", "wanted", "4", "seeds", "1", "cells", "Z99"}},
		{On: "GET /adopt", Answer: p.adoptPage},
		{On: "POST /adopt", Answer: p.adopt, Send: []string{"crop", "lettuce", "variety", "x", "since", "2027-02-01", "plants", "0", "place", "{place}"}},
	}
}
