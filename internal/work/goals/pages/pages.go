// Package pages is the season, as people see it.
package pages

import (
	"cmp"
	"embed"
	"io"
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/calendar"
	"ulpa/core/plan"
	"ulpa/core/say"
	"ulpa/internal/base/bound"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/goals"
)

//go:embed *.html *.css
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
		{On: "GET /season", Line: bound.Plans, Answer: p.season},
		{On: "GET /season.ics", Line: bound.Plans, Answer: p.calendar},
		{On: "GET /season/indoors", Answer: p.indoors},
		{On: "GET /season/past", Answer: p.past},
		{On: "GET /season/seed", Line: bound.Plans, Answer: p.seed},
		{On: "GET /season/seed.csv", Line: bound.Plans, Answer: p.seedCSV},
		{On: "POST /season/keep", Line: bound.Plans, Answer: p.keep, Send: []string{"plan", "x"}},
		{On: "POST /season/wish", Line: bound.Plans, Answer: p.wish, Send: []string{"batch", "{new}", "stage", "tray", "day", "2027-04-20", "act", "pin-day"}},
	}
}

func (s Pages) season(c *gin.Context) error {
	return s.show(c, http.StatusOK, face.FormOf(nil, s.Reader(c)))
}

func (s Pages) show(c *gin.Context, status int, f *face.Form) error {
	ctx, w := s.Me(c)
	o, err := goals.Look(ctx, s.Store, w)
	if err != nil {
		return err
	}
	from, _ := calendar.ParseDay(c.Query("from"))
	ask := asked{zoom: c.Query("zoom"), from: from, goal: c.Query("goal"), place: c.Query("place"), crop: c.Query("crop")}
	v := viewOf(o, w, f, ask)
	if v.Batch = batchOf(o, w, f, cmp.Or(f.Get("batch"), c.Query("batch"))); v.Batch != nil {
		v.Wrong = nil
	}
	s.Render(c, status, "season", "Season", v)
	return nil
}

// calendar gives the plan as a file for calendars.
func (s Pages) calendar(c *gin.Context) error {
	ctx, w := s.Me(c)
	text, err := goals.ICalendar(ctx, s.Store, w, s.AddressOf(c))
	if err != nil {
		return err
	}
	return s.Send(c, face.File{Type: face.Calendar, Name: "season.ics"}, func(to io.Writer) error {
		_, err := io.WriteString(to, text)
		return err
	})
}

func (s Pages) keep(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	err := goals.Keep(ctx, s.Store, w, f.Get("plan"))
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Saved. Its sowings come up on the round on their days."), To: "/season"}
	})
}

// wish writes down what is said of one batch of the plan.
func (s Pages) wish(c *gin.Context) error {
	ctx, w := s.Me(c)
	f := face.ReadForm(c, w.Prefs)
	id, stage := f.ID("batch"), f.Get("stage")
	var err error
	switch act := f.Get("act"); act {
	case "pin-day", "not-day":
		err = goals.Say(ctx, s.Store, w, id, plan.Pin{Stage: stage, Day: f.Day("day"), Not: act == "not-day"})
	case "pin-place", "not-place":
		err = goals.Say(ctx, s.Store, w, id, plan.Pin{Stage: stage, Place: f.Text("place"), Not: act == "not-place"})
	case "free":
		err = goals.Free(ctx, s.Store, w, id, stage)
	case "skip":
		err = goals.Skip(ctx, s.Store, w, id)
	default:
		err = goals.Go(ctx, s.Store, w, id, act)
	}
	return s.Settle(c, f, err, func(status int) error { return s.show(c, status, f) }, func() face.Outcome {
		return face.Outcome{Says: say.T("Worked out again. Nothing moves until the plan is saved."), To: "/season?batch=" + id.String()}
	})
}
