// Package pages is closed days and nights ahead in the settings.
package pages

import (
	"embed"

	"github.com/gin-gonic/gin"

	"ulpa/core/calendar"
	"ulpa/core/cold"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/face"
	"ulpa/internal/season"
)

//go:embed *.html
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{Views: views, Settings: sections}

// Pages answers for this area.
type Pages struct{ *face.Server }

func sections(s *face.Server) []face.Section {
	p := Pages{s}
	return []face.Section{
		{Name: "closures", View: p.closures, Forms: []face.SettingsForm{
			{Name: "closures", Read: p.readClosure, Send: []string{"from", "2027-05-03", "to", "2027-05-01", "name", "Fair"}},
		}},
		{Name: "nights", Forms: []face.SettingsForm{
			{Name: "nights", Read: p.readForecast, Send: []string{"day", "2027-03-20", "min", "x"}},
			{Name: "site-nights", Read: p.readMeasured, Send: []string{"day", "2027-03-20", "site", "x"}},
		}},
	}
}

func (p Pages) closures(c *gin.Context) (any, error) {
	ctx, w := p.Me(c)
	return season.Closures(ctx, p.Store, w)
}

func (p Pages) readClosure(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	closed := calendar.Closure{From: f.Day("from"), To: f.Day("to"), Name: f.Text("name")}
	return func() error { return season.Close(ctx, p.Store, w, closed) }
}

func (p Pages) readForecast(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	night := readNight(f, "min", "takes the low that is forecast")
	return func() error { return season.PutNight(ctx, p.Store, w, night) }
}

func (p Pages) readMeasured(c *gin.Context, f face.Form) func() error {
	ctx, w := p.Me(c)
	night := readNight(f, "site", "takes the low that was measured")
	return func() error { return season.PutSiteNight(ctx, p.Store, w, night) }
}

func readNight(f face.Form, low string, missing say.Words) cold.Night {
	night := cold.Night{Day: f.Day("day")}
	if v := f.Number(low, unit.Celsius); v != nil {
		night.MinC = *v
	} else if f.Error(low) == "" {
		f.Wrong(low, missing)
	}
	return night
}
