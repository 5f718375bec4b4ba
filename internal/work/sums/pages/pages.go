// Package pages is the bench sums, as people
// see it: handlers that ask a verb and fill a view model, beside their templates.
package pages

import (
	"embed"

	"ulpa/internal/base/bound"
	"ulpa/internal/doors/face"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Link:   &face.Link{Name: "Calculators", Path: "/sums", Key: "u", Icon: "sum"},
	Views:  views,
	Routes: routes,
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /sums", Answer: p.sumsPage},
		{On: "GET /sums/:name", Line: bound.Sums, Answer: p.sumPage, Ask: "/sums/air"},
		{On: "POST /sums/:name", Line: bound.Sums, Answer: p.sumPage, Ask: "/sums/air"},
	}
}
