// Package pages is closed days and nights ahead in the settings.
package pages

import (
	"embed"

	"github.com/gin-gonic/gin"

	"ulpa/core/cold"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/season"
)

//go:embed *.html
var views embed.FS

// Area is what this one gives to the house.
var Area = face.Area{Views: views, Routes: routes, Settings: sections}

// Pages answers for this area.
type Pages struct{ *face.Server }

func sections(s *face.Server) []face.Section {
	p := Pages{s}
	return []face.Section{
		{Name: "closures", Title: season.ClosureKind.Title, About: season.ClosureKind.About, Sort: season.ClosureKind},
		{Name: "terms", Title: season.TermKind.Title, About: season.TermKind.About, Sort: season.TermKind},
		{Name: "special-days", Title: season.SpecialKind.Title, About: season.SpecialKind.About, Sort: season.SpecialKind},
		{Name: "periods", Title: season.PeriodKind.Title, About: season.PeriodKind.About, Sort: season.PeriodKind},
		{
			Name: "nights", Title: "Nights ahead", About: "The forecast lows, and how cold it really got here.",
			View: p.nights, Forms: []face.SettingsForm{
				{Name: "nights", Read: p.readForecast, Send: []string{"day", "2027-03-20", "min", "x"}},
				{Name: "site-nights", Read: p.readMeasured, Send: []string{"day", "2027-03-20", "site", "x"}},
				{Name: "forget-night", Read: p.readForgotten, Send: []string{"day", "x"}},
			},
		},
	}
}

// nightView is a night that is written down.
type nightView struct {
	Day, Shown, Forecast, Here string
}

func (p Pages) nights(c *gin.Context) (any, error) {
	ctx, w := p.Me(c)
	list, err := season.Nights(ctx, p.Store, w)
	var out []nightView
	for _, n := range list {
		v := nightView{Day: n.Day.String(), Shown: w.Prefs.Say(say.Date(n.Day.UTC(), "Mon 2 Jan 2006")), Forecast: w.Prefs.Format(n.MinC, unit.Celsius)}
		if n.SiteC != nil {
			v.Here = w.Prefs.Format(*n.SiteC, unit.Celsius)
		}
		out = append(out, v)
	}
	return out, err
}

func (p Pages) readForgotten(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	day := f.Day("day")
	return func() error { return season.ForgetNight(ctx, p.Store, w, day) }
}

func (p Pages) readForecast(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	night := readNight(f, "min", "enter the lowest temperature forecast")
	return func() error { return season.PutNight(ctx, p.Store, w, night) }
}

func (p Pages) readMeasured(c *gin.Context, f *face.Form) func() error {
	ctx, w := p.Me(c)
	night := readNight(f, "site", "enter the lowest temperature measured")
	return func() error { return season.PutSiteNight(ctx, p.Store, w, night) }
}

func readNight(f *face.Form, low string, missing say.Words) cold.Night {
	night := cold.Night{Day: f.Day("day")}
	if v := f.Number(low, unit.Celsius); v != nil {
		night.MinC = *v
	} else if f.Error(low) == "" {
		f.Wrong(low, missing)
	}
	return night
}
