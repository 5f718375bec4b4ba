// Package pages is seed, trays and batches, as people
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
		{On: "GET /sow", Answer: p.sowPage},
		{On: "POST /sow/answer", Answer: p.sowAnswer, Send: []string{"wanted", "4"}},
		{On: "POST /sow", Answer: p.sow, Send: []string{"lot", "{lot}", "tray", "{tray}", "wanted", "4", "seeds", "1", "cells", "Z99"}},
		{On: "GET /adopt", Answer: p.adoptPage},
		{On: "POST /adopt", Answer: p.adopt, Send: []string{"crop", "lettuce", "variety", "x", "since", "2027-02-01", "plants", "0", "place", "{place}"}},
		{On: "GET /sprouts", Answer: p.sproutsPage},
		{On: "POST /sprouts/answer", Answer: p.sproutsAnswer, Send: []string{"vessels", "2"}},
		{On: "POST /sprouts", Answer: p.soak, Send: []string{"lot", "{lot}", "place", "{place}", "vessels", "0", "grams", "20"}},
		{On: "GET /trays", Answer: p.vessels},
		{On: "POST /trays", Answer: p.addTrays, Send: []string{"many", "0", "place", "{place}", "rows", "2", "columns", "3", "cell_ml", "40"}},
		{On: "GET /trays/:id/sheet", Answer: p.sheet, Ask: "/trays/{tray}/sheet"},
		{On: "POST /trays/:id/keep", Answer: p.keepGap, Ask: "/trays/{tray}/keep", Send: []string{"cells", "Z99", "crop", "lettuce", "on", "2027-03-25"}},
		{On: "POST /trays/:id/unkeep", Answer: p.dropGap, Ask: "/trays/{tray}/unkeep", Send: []string{"gap", "{new}"}},
		{On: "POST /trays/:id/care", Answer: p.care, Ask: "/trays/{tray}/care", Send: []string{"did", "sung to"}},
		{On: "GET /trays/:id", Answer: p.trayPage, Ask: "/trays/{tray}"},
		{On: "POST /trays/:id/count", Answer: p.count, Ask: "/trays/{tray}/count"},
		{On: "POST /trays/:id/wash", Answer: p.wash, Ask: "/trays/{tray}/wash"},
		{On: "GET /trays/:id/shift", Answer: p.shiftPage, Ask: "/trays/{tray}/shift"},
		{On: "POST /trays/:id/shift", Answer: p.shift, Ask: "/trays/{tray}/shift", Send: []string{"from", "Z99", "into", "{tray}"}},
		{On: "GET /batches/:id", Answer: p.batchPage, Ask: "/batches/{batch}"},
		{On: "GET /batches/:id/trouble", Answer: p.troublePage, Ask: "/batches/{batch}/trouble"},
		{On: "POST /batches/:id/trouble", Answer: p.noteTrouble, Ask: "/batches/{batch}/trouble", Send: []string{"sign", "webs", "cause", "ghosts"}},
		{On: "POST /batches/:id/look", Answer: p.look, Ask: "/batches/{batch}/look", Send: []string{"leaves", "4"}},
		{On: "POST /batches/:id/lose", Answer: p.lose, Ask: "/batches/{batch}/lose", Send: []string{"plants", "99", "where", "cell:{tray}"}},
		{On: "POST /batches/:id/tend", Answer: p.tend, Ask: "/batches/{batch}/tend", Send: []string{"did", "rinsed"}},
		{On: "POST /batches/:id/close", Answer: p.closeBatch, Ask: "/batches/{batch}/close"},
		{On: "POST /batches/:id/harvest", Answer: p.harvest, Ask: "/batches/{batch}/harvest", Send: []string{"grams", "0"}},
		{On: "POST /batches/:id/rule", Answer: p.setRule, Ask: "/batches/{batch}/rule", Send: []string{"ready_leaves", "3"}},
		{On: "POST /planned", Answer: p.planSowing, Send: []string{"crop", "lettuce", "wanted", "0"}},
		{On: "POST /planned/:id/drop", Answer: p.dropPlanned, Ask: "/planned/{new}/drop"},
	}
}
