// Package pages is the season, as people see it.
package pages

import (
	"embed"
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/say"
	"ulpa/internal/face"
	"ulpa/internal/goals"
	"ulpa/internal/who"
)

//go:embed *.html
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{
	Link:   &face.Link{Name: "Season", Path: "/season", Key: "e", Icon: "season"},
	Views:  views,
	Routes: routes,
	Settings: func(*face.Server) []face.Section {
		return []face.Section{{Name: "goals", Title: goals.Kind.Title, About: goals.Kind.About, Sort: goals.Kind, May: who.Plan}}
	},
}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{
		{On: "GET /season", Answer: p.season},
		{On: "GET /season.ics", Answer: p.calendar},
		{On: "POST /season/keep", Answer: p.keep, Send: []string{"plan", "x"}},
	}
}

func (s Pages) season(c *gin.Context) error {
	return s.show(c, http.StatusOK, face.FormOf(nil, s.Reader(c)))
}

func (s Pages) show(c *gin.Context, status int, f face.Form) error {
	ctx, w := s.Me(c)
	o, err := goals.Look(ctx, s.Store, w)
	if err != nil {
		return err
	}
	s.Render(c, status, "season", "Season", viewOf(o, w, f))
	return nil
}

// calendar gives the plan as a file for calendars.
func (s Pages) calendar(c *gin.Context) error {
	ctx, w := s.Me(c)
	text, err := goals.ICalendar(ctx, s.Store, w, s.AddressOf(c))
	if err != nil {
		return err
	}
	c.Header("Content-Disposition", `attachment; filename="season.ics"`)
	c.Data(http.StatusOK, "text/calendar; charset=utf-8", []byte(text))
	return nil
}

func (s Pages) keep(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	err := goals.Keep(ctx, s.Store, w, f.Get("plan"))
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Kept. Its sowings come up on the round on their days."), To: "/season"}
	})
}
