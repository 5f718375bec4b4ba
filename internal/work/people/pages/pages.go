// Package pages is signing in, settings and the trail, as people
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
		{On: "GET /sign-in/code", Answer: p.codePage},
		{On: "POST /sign-in/code", Answer: p.returnBy, Send: []string{"code", "ABCD", "secret", "x"}},
		{On: "POST /sign-in/forgotten", Answer: p.forgotten, Send: []string{"login", "nobody"}},
		{On: "GET /sign-in/proof", Answer: p.proofPage},
		{On: "POST /sign-in/proof", Answer: p.prove, Send: []string{"figures", "000000"}},
		{On: "GET /begin", Answer: p.beginPage},
		{On: "POST /begin", Answer: p.begin, Send: []string{"key", "x"}},
		{On: "POST /sign-in/crew", Answer: p.signInCrew, Send: []string{"school", "ferrywharf", "pin", "0000"}},
	}
}

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "POST /sign-out/everywhere", Answer: p.signOutEverywhere},
		{On: "GET /me", Answer: p.mePage},
		{On: "POST /me/secret", Answer: p.setOwnSecret, Send: []string{"old", "not this one", "secret", "x"}},
		{On: "POST /me/proof", Answer: p.beginProof},
		{On: "POST /me/proof/prove", Answer: p.proveOwn, Send: []string{"figures", "000000"}},
		{On: "POST /me/proof/end", Answer: p.endOwnProof},
		{On: "GET /trail", Answer: p.trailPage},
		{On: "POST /units", Answer: p.setUnits, Send: []string{"system", "metric", "scale", "ms", "language", "en"}},
	}
}
