// Package pages is what happened, and putting it right, as people
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
	Link:   &face.Link{Name: "Notebook", Path: "/notebook", Key: "b", Icon: "book"},
	Views:  views,
	Routes: routes,
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /notebook", Line: bound.Finding, LineFor: "q", Answer: p.notebookPage},
		{On: "GET /notebook.csv", Line: bound.Exports, Answer: p.notebookCSV},
		{On: "POST /notebook", Answer: p.addNote, Send: []string{"text", "seen"}},
		{On: "GET /entries/:id/correct", Answer: p.correctPage, Ask: "/entries/{entry}/correct"},
		{On: "POST /entries/:id/correct", Answer: p.correct, Ask: "/entries/{entry}/correct", Send: []string{"text", "x"}},
	}
}
