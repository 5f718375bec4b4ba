// Package pages is what is known of crops, as people
// see it: handlers that ask a verb and fill a view model, beside their templates.
package pages

import (
	"embed"

	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/crops"
)

//go:embed *.html *.css
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Views:  views,
	Routes: routes,
	Settings: func(*face.Server) []face.Section {
		return []face.Section{{Name: "own-crops", Title: crops.OwnKind.Title, About: crops.OwnKind.About, Sort: crops.OwnKind, May: who.Plan}}
	},
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /crops", Answer: p.cropsPage},
		{On: "GET /crops/:id", Answer: p.cropPage, Ask: "/crops/lettuce"},
		{On: "POST /crops/:id", Answer: p.cropSave, Ask: "/crops/lettuce", Send: []string{"depth_cm", "0.4"}},
	}
}
