// Package pages is the day's walk, as people
// see it: handlers that ask a verb and fill a view model, beside their templates.
package pages

import (
	"embed"

	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/jobs"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Link:   &face.Link{Name: "Round", Path: "/", Key: "r", Icon: "round"},
	Views:  views,
	Routes: routes,
	Settings: func(*face.Server) []face.Section {
		return []face.Section{{Name: "jobs", Title: jobs.Kind.Title, About: jobs.Kind.About, Sort: jobs.Kind, May: who.Plan}}
	},
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /", Answer: p.roundPage},
		{On: "GET /away", Answer: p.awayPage, Ask: "/away?from=2027-03-26"},
		{On: "POST /round/tick", Answer: p.tick, Send: []string{"task", "reading:{tank}:2027-03-18"}},
		{On: "POST /round/give", Answer: p.give},
		{On: "POST /entries/:id/undo", Answer: p.undo, Ask: "/entries/{entry}/undo"},
	}
}
