// Package web puts the areas' pages together behind one face.
package web

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"ulpa/core/calc"
	"ulpa/core/climate"
	"ulpa/core/picture"
	"ulpa/internal/base/ical"
	"ulpa/internal/base/store"
	"ulpa/internal/doors/api"
	"ulpa/internal/doors/face"
	findpages "ulpa/internal/doors/find/pages"
	helppages "ulpa/internal/doors/help/pages"
	labelspages "ulpa/internal/doors/labels/pages"
	batchespages "ulpa/internal/work/batches/pages"
	bedspages "ulpa/internal/work/beds/pages"
	cropspages "ulpa/internal/work/crops/pages"
	goalspages "ulpa/internal/work/goals/pages"
	harvestpages "ulpa/internal/work/harvest/pages"
	meterspages "ulpa/internal/work/meters/pages"
	mixingpages "ulpa/internal/work/mixing/pages"
	notebookpages "ulpa/internal/work/notebook/pages"
	"ulpa/internal/work/people"
	peoplepages "ulpa/internal/work/people/pages"
	picturespages "ulpa/internal/work/pictures/pages"
	raftspages "ulpa/internal/work/rafts/pages"
	roundpages "ulpa/internal/work/round/pages"
	seasonpages "ulpa/internal/work/season/pages"
	seedspages "ulpa/internal/work/seeds/pages"
	sitepages "ulpa/internal/work/site/pages"
	solutionpages "ulpa/internal/work/solution/pages"
	sowingpages "ulpa/internal/work/sowing/pages"
	sproutspages "ulpa/internal/work/sprouts/pages"
	sumspages "ulpa/internal/work/sums/pages"
	trayspages "ulpa/internal/work/trays/pages"
	troughspages "ulpa/internal/work/troughs/pages"
	waterspages "ulpa/internal/work/waters/pages"
)

// areas are all there are, in the order of the navigation and of the settings.
var areas = []face.Area{
	peoplepages.Area, seasonpages.Area, roundpages.Area, goalspages.Area, bedspages.Area, batchespages.Area,
	sowingpages.Area, sproutspages.Area, trayspages.Area, seedspages.Area, sitepages.Area, solutionpages.Area,
	waterspages.Area, meterspages.Area, mixingpages.Area, troughspages.Area, raftspages.Area, labelspages.Area,
	harvestpages.Area, notebookpages.Area, picturespages.Area, sumspages.Area, cropspages.Area, findpages.Area,
	helppages.Area,
}

// New makes the handler of everything the application serves.
func New(cfg face.Config) (*face.Face, error) {
	cfg.Areas, cfg.Free, cfg.Nowhere = areas, free, api.Nowhere
	cfg.Moved = map[string]string{
		"/solution": "/tanks", "/solution/": "/tanks/", // up to shape 37
		"/api/v1/troughs": "/api/v1/fish-water", "/api/v1/troughs/": "/api/v1/fish/",
	}
	cfg.Slow = []string{
		"/import", "/pictures", "/season/calendar", "/season/frost", "/seeds/file", "/notebook.csv", "/labels.pdf",
		"/api/v1/calc/season-plan", "/api/v1/calc/bed-plan",
	}
	cfg.Bodies = []face.Bound{
		{Path: "/import", Most: solutionpages.ImportBody},
		{Path: "/api/", Most: calc.MaxBody},
		{Path: "/season/calendar", Most: ical.MaxFile + 1<<16},
		{Path: "/pictures", Most: picture.MostBytes + 1<<16},
		{Path: "/season/frost", Most: climate.MaxStationFile + 1<<16},
	}
	cfg.Strip, cfg.Load, cfg.Routes = roundpages.StripOf, people.Load, routes
	cfg.Unproved, cfg.ToTell = unproved, toTell
	return face.New(cfg)
}

// free tells the paths that are answered without a session, and so also while the
// database is away.
func free(path string) bool {
	return path == "/healthz" || path == "/readyz" || strings.HasPrefix(path, "/static/") || strings.HasPrefix(path, "/api/v1/") ||
		strings.HasPrefix(path, "/calendar/")
}

// unproved tells the paths that are open to a coordinator who must set up two-step sign-in.
func unproved(path string) bool {
	return path == "/me" || strings.HasPrefix(path, "/me/") || strings.HasPrefix(path, "/sign-out") || path == "/units"
}

func routes(s *face.Server, g *gin.Engine) {
	g.GET("/healthz", func(c *gin.Context) { c.String(http.StatusOK, "ok\n") })
	g.GET("/readyz", func(c *gin.Context) { readyz(s, c) })
	api.Routes(g, api.School{Store: s.Store, Log: s.Log, Clock: s.Clock(), Address: s.AddressOf})
}

// Samples are how every route may be asked.
func Samples() []face.Route {
	all := []face.Route{
		{On: "GET /healthz"},
		{On: "GET /readyz"},
		{On: "GET /static/*file", Ask: "/static/nothing.css"},
		{On: "POST /sign-out"},
		{On: "GET /api/v1/openapi.json"},
		{On: "GET /calendar/:file", Ask: "/calendar/nobody.ics"},
		{On: "POST /api/v1/calc/:name", Ask: "/api/v1/calc/air"},
	}
	for _, on := range api.Asked() {
		_, path, _ := strings.Cut(on, " ")
		all = append(all, face.Route{On: on, Ask: strings.NewReplacer(":id", "{new}", ":day", "2027-03-20", ":board", "1").Replace(path)})
	}
	return append(all, face.Samples(areas)...)
}

// readyz says whether the database answers and has this release's shape.
func readyz(s *face.Server, c *gin.Context) {
	ctx, done := context.WithTimeout(c.Request.Context(), 2*time.Second)
	defer done()
	err := s.Store.Fits(ctx)
	var shape store.ErrShape
	switch {
	case errors.As(err, &shape):
		c.String(http.StatusServiceUnavailable, shape.Error()+"\n")
	case err != nil:
		c.String(http.StatusServiceUnavailable, "the database does not answer\n")
	default:
		c.String(http.StatusOK, "ready\n")
	}
}
