// Package pages is trays and what is counted, cared for and kept free in them, as people see it: handlers that ask a verb and
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
	}
}
