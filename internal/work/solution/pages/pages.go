// Package pages is tanks, their readings, and meters' files, as people
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
	Link:   &face.Link{Name: "Solution", Path: "/tanks", Key: "s", Icon: "drop"},
	Views:  views,
	Routes: routes,
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /tanks", Answer: p.solutionPage},
		{On: "GET /tanks/:id", Answer: p.tankPage, Ask: "/tanks/{tank}"},
		{On: "POST /tanks/:id/read", Answer: p.readTank, Ask: "/tanks/{tank}/read", Send: []string{"ph", "6.5"}},
		{On: "POST /tanks/:id/treat", Answer: p.treatTank, Ask: "/tanks/{tank}/treat", Send: []string{"amount", "1", "agent", "phosphoric_acid"}},
		{On: "GET /jars/:id", Answer: p.jarsPage, Ask: "/jars/{jars}"},
		{On: "POST /jars/:id/pour", Answer: p.pourJar, Ask: "/jars/{jars}/pour", Send: []string{"tank", "{jar}", "water", "0.2"}},
		{On: "GET /import", Answer: p.importPage},
		{On: "POST /import", Line: bound.Files, Answer: p.importExamine},
		{On: "POST /import/:id/confirm", Line: bound.Files, Answer: p.importConfirm, Ask: "/import/{new}/confirm"},
	}
}
