// Package pages is signing in, settings and the trail, as people
// see it: handlers that ask a verb and fill a view model, beside their templates.
package pages

import (
	"embed"

	"ulpa/internal/face"
)

//go:embed *.html
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Views:    views,
	Open:     openRoutes,
	Routes:   routes,
	Settings: sections,
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func openRoutes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /sign-in", Answer: p.signInPage},
		{On: "POST /sign-in", Answer: p.signIn, Send: []string{"login", "nobody", "password", "wrong"}},
		{On: "POST /sign-in/crew", Answer: p.signInCrew, Send: []string{"school", "ferrywharf", "pin", "0000"}},
	}
}

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "POST /sign-out/everywhere", Answer: p.signOutEverywhere},
		{On: "GET /trail", Answer: p.trailPage},
		{On: "POST /units", Answer: p.setUnits, Send: []string{"system", "metric", "scale", "ms", "language", "en"}},
	}
}
