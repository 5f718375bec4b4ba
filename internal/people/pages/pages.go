// Package pages is signing in, settings and the trail, as people
// see it: handlers that ask a verb and fill a view model, beside their templates.
package pages

import (
	"embed"

	"ulpa/internal/face"
)

// Views are the templates, a file for each page.
//
//go:embed *.html
var Views embed.FS

// Pages answers for this area.
type Pages struct{ *face.Server }

// OpenRoutes are for anybody.
func OpenRoutes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /sign-in", Answer: p.signInPage},
		{On: "POST /sign-in", Answer: p.signIn, Send: []string{"login", "nobody", "password", "wrong"}},
		{On: "POST /sign-in/crew", Answer: p.signInCrew, Send: []string{"school", "ferrywharf", "pin", "0000"}},
	}
}

// Routes are for whoever is signed in.
func Routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "POST /sign-out/everywhere", Answer: p.signOutEverywhere},
		{On: "GET /trail", Answer: p.trailPage},
		{On: "POST /units", Answer: p.setUnits, Send: []string{"system", "metric", "scale", "ms", "language", "en"}},
		{On: "GET /settings", Answer: p.settingsPage},
		{On: "POST /settings/:what", Answer: p.settingsSave, Ask: "/settings/people", Send: []string{"kind", "crew", "name", "Gig", "secret", "12"}},
	}
}
