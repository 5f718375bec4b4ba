// Package pages is what grows, batch by batch, as people see it: handlers that ask a verb and
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
	Link:   &face.Link{Name: "Nursery", Path: "/nursery", Key: "n", Icon: "sprout"},
	Views:  views,
	Routes: routes,
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /nursery", Answer: p.nurseryPage},
		{On: "GET /batches/:id", Answer: p.batchPage, Ask: "/batches/{batch}"},
		{On: "GET /batches/:id/trouble", Answer: p.troublePage, Ask: "/batches/{batch}/trouble"},
		{On: "POST /batches/:id/trouble", Answer: p.noteTrouble, Ask: "/batches/{batch}/trouble", Send: []string{"sign", "webs", "cause", "ghosts"}},
		{On: "POST /batches/:id/look", Answer: p.look, Ask: "/batches/{batch}/look", Send: []string{"leaves", "4"}},
		{On: "POST /batches/:id/lose", Answer: p.lose, Ask: "/batches/{batch}/lose", Send: []string{"plants", "99", "where", "cell:{tray}"}},
		{
			On: "POST /batches/:id/hand-over", Answer: p.handOver, Ask: "/batches/{batch}/hand-over",
			Send: []string{"plants", "99", "where", "cell:{tray}", "way", "sold"},
		},
		{On: "POST /batches/:id/describe", Answer: p.describe, Ask: "/batches/{batch}/describe", Send: []string{"wanted", "0"}},
		{On: "POST /batches/:id/tend", Answer: p.tend, Ask: "/batches/{batch}/tend", Send: []string{"did", "rinsed"}},
		{On: "POST /batches/:id/close", Answer: p.closeBatch, Ask: "/batches/{batch}/close"},
		{On: "POST /batches/:id/harvest", Answer: p.harvest, Ask: "/batches/{batch}/harvest", Send: []string{"grams", "0"}},
		{On: "POST /batches/:id/rule", Answer: p.setRule, Ask: "/batches/{batch}/rule", Send: []string{"ready_leaves", "3"}},
		{On: "POST /planned", Answer: p.planSowing, Send: []string{"crop", "lettuce", "wanted", "0"}},
		{On: "POST /planned/:id/drop", Answer: p.dropPlanned, Ask: "/planned/{new}/drop"},
	}
}
