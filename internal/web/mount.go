package web

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"ulpa/core/calc"
	"ulpa/internal/api"
	"ulpa/internal/people"
	"ulpa/internal/store"
)

var areas = []Area{
	{"Round", "/", "r", "round"}, {"Nursery", "/nursery", "n", "sprout"}, {"Places", "/places", "p", "place"},
	{"Solution", "/solution", "s", "drop"}, {"Harvest", "/harvest", "h", "harvest"}, {"Notebook", "/notebook", "b", "book"}, {"Sums", "/sums", "u", "sum"},
}

// needsNobody tells the paths that are answered without a session, and so also
// while the database is away.
func needsNobody(path string) bool {
	return path == "/healthz" || path == "/readyz" || strings.HasPrefix(path, "/static/") || strings.HasPrefix(path, "/api/v1/")
}

func mounted(cfg Config) Config {
	cfg.Areas, cfg.Free, cfg.Slow = areas, needsNobody, []string{"/import", "/notebook.csv"}
	cfg.Bodies = []Bound{{"/import", importBody}, {"/api/", calc.MaxBody}}
	cfg.Strip, cfg.Load = stripOf, people.Load
	cfg.Routes = func(s *Server, g *gin.Engine) { s.routes(g) }
	return cfg
}

func (s *Server) routes(g *gin.Engine) {
	g.GET("/healthz", func(c *gin.Context) { c.String(http.StatusOK, "ok\n") })
	g.GET("/readyz", func(c *gin.Context) {
		ctx, done := context.WithTimeout(c.Request.Context(), 2*time.Second)
		defer done()
		err := s.store.Fits(ctx)
		var shape store.ErrShape
		switch {
		case errors.As(err, &shape):
			c.String(http.StatusServiceUnavailable, shape.Error()+"\n")
			return
		case err != nil:
			c.String(http.StatusServiceUnavailable, "the database does not answer\n")
			return
		}
		c.String(http.StatusOK, "ready\n")
	})
	g.GET("/static/*file", s.assets.serve)
	api.Routes(g)
	g.GET("/sign-in", s.handled(s.signInPage))
	g.POST("/sign-in", s.handled(s.signIn))
	g.POST("/sign-in/crew", s.handled(s.signInCrew))

	in := g.Group("/", s.signedIn)
	in.POST("/sign-out", s.handled(s.signOut))
	in.POST("/sign-out/everywhere", s.handled(s.signOutEverywhere))
	in.GET("/trail", s.handled(s.trailPage))
	in.POST("/units", s.handled(s.setUnits))
	in.GET("/", s.handled(s.roundPage))
	in.POST("/round/tick", s.handled(s.tick))
	in.GET("/nursery", s.handled(s.nurseryPage))
	in.GET("/sow", s.handled(s.sowPage))
	in.POST("/sow/answer", s.handled(s.sowAnswer))
	in.POST("/sow", s.handled(s.sow))
	in.GET("/trays/:id", s.handled(s.trayPage))
	in.POST("/trays/:id/count", s.handled(s.count))
	in.GET("/batches/:id", s.handled(s.batchPage))
	in.POST("/batches/:id/look", s.handled(s.look))
	in.POST("/batches/:id/lose", s.handled(s.lose))
	in.POST("/batches/:id/close", s.handled(s.closeBatch))
	in.POST("/batches/:id/harvest", s.handled(s.harvest))
	in.POST("/batches/:id/rule", s.handled(s.setRule))
	in.GET("/batches/:id/move", s.handled(s.movePage))
	in.POST("/batches/:id/move", s.handled(s.move))
	in.GET("/places", s.handled(s.placesPage))
	in.GET("/places/:id", s.handled(s.placePage))
	in.GET("/solution", s.handled(s.solutionPage))
	in.GET("/solution/:id", s.handled(s.tankPage))
	in.POST("/solution/:id/read", s.handled(s.readTank))
	in.POST("/solution/:id/treat", s.handled(s.treatTank))
	in.GET("/sums", s.handled(s.sumsPage))
	in.GET("/sums/:name", s.handled(s.sumPage))
	in.POST("/sums/:name", s.handled(s.sumPage))
	in.POST("/planned", s.handled(s.planSowing))
	in.POST("/planned/:id/drop", s.handled(s.dropPlanned))
	in.GET("/crops", s.handled(s.cropsPage))
	in.GET("/crops/:id", s.handled(s.cropPage))
	in.POST("/crops/:id", s.handled(s.cropSave))
	in.GET("/import", s.handled(s.importPage))
	in.POST("/import", s.handled(s.importExamine))
	in.POST("/import/:id/confirm", s.handled(s.importConfirm))
	in.GET("/harvest", s.handled(s.harvestPage))
	in.GET("/notebook", s.handled(s.notebookPage))
	in.GET("/notebook.csv", s.handled(s.notebookCSV))
	in.POST("/notebook", s.handled(s.addNote))
	in.POST("/entries/:id/undo", s.handled(s.undo))
	in.GET("/entries/:id/correct", s.handled(s.correctPage))
	in.POST("/entries/:id/correct", s.handled(s.correct))
	in.GET("/settings", s.handled(s.settingsPage))
	in.POST("/settings/:what", s.handled(s.settingsSave))
	nothing := func(c *gin.Context) { s.fail(c, store.ErrNotFound) }
	behind := func(c *gin.Context) {
		if !needsNobody(c.Request.URL.Path) { // those have no session to look into
			s.signedIn(c)
		}
	}
	g.NoRoute(behind, nothing)
	g.NoMethod(behind, nothing)
}
