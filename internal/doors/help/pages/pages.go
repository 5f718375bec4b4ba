// Package pages is help, as people see it.
package pages

import (
	"embed"
	"net/http"

	"github.com/gin-gonic/gin"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/find"
	"ulpa/internal/doors/help"
)

//go:embed *.html
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{Views: views, Routes: routes}

// Pages answers for this area.
type Pages struct{ *face.Server }

func routes(s *face.Server) []face.Route {
	p := Pages{s}
	return []face.Route{{On: "GET /help", Answer: p.help}, {On: "GET /help/week", Answer: p.week}}
}

// helpView is every topic, and what is new.
type helpView struct {
	Chapters []help.Chapter
	News     []newsLine
}

// newsLine is something new in a release.
type newsLine struct {
	On   string
	Says say.Words
	Path string
}

func (helpView) Title() say.Text { return say.T("Help") }

func (s Pages) help(c *gin.Context) error {
	_, w := s.Me(c)
	v := helpView{Chapters: help.Chapters}
	for _, n := range help.All {
		v.News = append(v.News, newsLine{w.Prefs.Say(calendar.Of(n.On).Long()), n.Says, n.Path})
	}
	s.Render(c, http.StatusOK, "help", "", v)
	return nil
}

// weekView is a first week, day by day.
type weekView struct {
	Days []weekDay
	Demo bool // it runs here
}

// weekDay is a day of it.
type weekDay struct {
	Name, About say.Words
	Steps       []weekStep
}

// weekStep is something to do on that day.
type weekStep struct {
	Do, See say.Words
	Path    string
}

func (weekView) Title() say.Text { return say.T("A first week") }

func (s Pages) week(c *gin.Context) error {
	ctx, w := s.Me(c)
	v := weekView{Demo: s.Clock() != nil}
	for _, d := range firstWeek {
		shown := weekDay{Name: d.Name, About: d.About}
		for _, x := range d.Steps {
			line := weekStep{Do: x.Do, See: x.See, Path: x.Path}
			if x.Name != "" && v.Demo {
				hit, _, err := find.Named(ctx, s.Store, w, x.Kind, x.Name)
				if err != nil {
					return err
				}
				line.Path = hit.Path()
			}
			shown.Steps = append(shown.Steps, line)
		}
		v.Days = append(v.Days, shown)
	}
	s.Render(c, http.StatusOK, "week", "", v)
	return nil
}
