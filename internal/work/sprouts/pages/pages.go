// Package pages is what is soaked and rinsed to be eaten young, as people see it: handlers that ask a verb and
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
		{On: "GET /sprouts", Answer: p.sproutsPage},
		{On: "POST /sprouts/answer", Answer: p.sproutsAnswer, Send: []string{"vessels", "2"}},
		{On: "POST /sprouts", Answer: p.soak, Send: []string{"lot", "{lot}", "place", "{place}", "vessels", "0", "grams", "20"}},
	}
}
