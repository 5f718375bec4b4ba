// Package seasontrial plays seasons of a made-up school (core/sim) by Ulpa's advice alone, through
// the operations of /api/v1, beside players who go by rules, and says what came of them.
//
//	t, err := seasontrial.New(ctx, postgres, seasontrial.Options{Seasons: 30, Seed: 1})
//	err = t.Run(ctx, os.Stdout)
package seasontrial

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"slices"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/jackc/pgx/v5"

	"ulpa/core/sim/play"
	"ulpa/internal/base/store"
	"ulpa/internal/doors/api"
	"ulpa/internal/doors/demo"
	"ulpa/internal/work/upkeep"
)

// Options are what a trial is about.
type Options struct {
	Seasons  int
	Seed     uint64
	OverHTTP bool         // ask a server on loopback, instead of its operations in this process
	Workers  int          // seasons at once; 0: two
	Only     string       // the name of one scenario; "": all
	Log      func(string) // what Ulpa refused, or nil
}

// Server is the PostgreSQL on which seasons get databases of their own.
type Server interface {
	URL(database string) string    // as its owner
	AppURL(database string) string // as the application
	Password() string              // of the application
}

// Trial is ready to run.
type Trial struct {
	Options
	pg Server
}

// template is the database that each season's is copied from.
const template = "season_template"

// New makes what seasons are copied from.
func New(ctx context.Context, pg Server, o Options) (*Trial, error) {
	t := &Trial{o, pg}
	if t.Workers == 0 {
		t.Workers = 2
	}
	err := t.admin(ctx, "DROP DATABASE IF EXISTS "+template+" WITH (FORCE)", "CREATE DATABASE "+template)
	if err == nil {
		err = upkeep.Migrate(ctx, pg.URL(template), pg.Password())
	}
	return t, err
}

func (t *Trial) admin(ctx context.Context, statements ...string) error {
	conn, err := pgx.Connect(ctx, t.pg.URL("postgres"))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	for _, q := range statements {
		if _, err := conn.Exec(ctx, q); err != nil {
			return err
		}
	}
	return nil
}

// Run plays all seasons and writes the tables: of the scenarios that advice was tuned on, and
// apart from them those that were chosen before.
func (t *Trial) Run(ctx context.Context, out io.Writer) error {
	played := false
	for _, part := range []struct {
		title     string
		scenarios []play.Scenario
	}{
		{"Scenarios used while advice was improved", play.Tuned},
		{"Scenarios chosen before, and only looked at", play.Apart},
	} {
		chosen := slices.DeleteFunc(slices.Clone(part.scenarios), func(s play.Scenario) bool { return t.Only != "" && t.Only != s.Name })
		var scores []play.Score
		for i, s := range chosen {
			n := t.Seasons / len(chosen)
			if i < t.Seasons%len(chosen) {
				n++
			}
			got, err := t.seasons(ctx, s, n)
			if err != nil {
				return err
			}
			scores = append(scores, got...)
		}
		if len(scores) > 0 {
			played = true
			report(out, part.title, scores)
		}
	}
	if !played {
		return fmt.Errorf("no season is played: there is no scenario “%s”, or --seasons is 0", t.Only)
	}
	return nil
}

// seasons plays so many seasons of a scenario by each player.
func (t *Trial) seasons(ctx context.Context, s play.Scenario, n int) (out []play.Score, err error) {
	var wait sync.WaitGroup
	var held sync.Mutex
	room := make(chan struct{}, t.Workers)
	for i := range n {
		wait.Go(func() {
			room <- struct{}{}
			defer func() { <-room }()
			seed := t.Seed + uint64(i) // #nosec G115 -- a small number
			for _, p := range []play.Player{nil, play.Chart{}, play.Grower{}} {
				score, failed := t.season(ctx, s, seed, p)
				held.Lock()
				out, err = append(out, score), errors.Join(err, failed)
				held.Unlock()
			}
		})
	}
	wait.Wait()
	return out, err
}

// season plays one season; without a player by Ulpa, on a database of its own.
func (t *Trial) season(ctx context.Context, s play.Scenario, seed uint64, p play.Player) (score play.Score, err error) {
	if p != nil {
		return play.Season(s, seed, p)
	}
	name := fmt.Sprint("season_", seed) // scenarios are played one after the other
	if err := t.admin(ctx, "DROP DATABASE IF EXISTS "+name+" WITH (FORCE)",
		"CREATE DATABASE "+name+" TEMPLATE "+template, "REVOKE TEMPORARY ON DATABASE "+name+" FROM PUBLIC"); err != nil {
		return score, err
	}
	defer func() { err = errors.Join(err, t.admin(ctx, "DROP DATABASE IF EXISTS "+name+" WITH (FORCE)")) }()
	clock := &demo.Clock{}
	zone, err := time.LoadLocation(demo.Zone)
	if err != nil {
		return score, err
	}
	clock.Stand(s.From.At(9, 0, zone))
	school, err := store.EnsureSchool(ctx, t.pg.URL(name), store.NewSchool{
		Slug: "trial", Name: "A made-up school", Zone: demo.Zone, UnitSystem: "metric", Latitude: &s.Climate.LatitudeDeg, Longitude: new(1.0),
	})
	if err != nil {
		return score, err
	}
	db, err := store.Open(ctx, t.pg.AppURL(name), clock.Now)
	if err != nil {
		return score, err
	}
	defer db.Close()
	if err := demo.LetPrograms(ctx, db, school); err != nil {
		return score, err
	}
	gin.SetMode(gin.ReleaseMode)
	engine := gin.New()
	api.Routes(engine, api.School{Store: db, Clock: clock, PerSecond: 1e6, Address: func(*gin.Context) string { return "" }})
	ulpa := &Ulpa{ask: asker{trip: within{engine}, base: "http://school"}, clock: clock, zone: zone, log: t.Log}
	if t.OverHTTP {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			return score, err
		}
		server := &http.Server{Handler: engine, ReadHeaderTimeout: time.Minute}
		go func() { _ = server.Serve(l) }()
		defer server.Close()
		ulpa.ask = asker{trip: http.DefaultTransport, base: "http://" + l.Addr().String()}
	}
	return play.Season(s, seed, ulpa)
}

// within answers requests in this process.
type within struct{ http.Handler }

// RoundTrip is how a client asks.
func (w within) RoundTrip(r *http.Request) (*http.Response, error) {
	rec := httptest.NewRecorder()
	w.ServeHTTP(rec, r)
	return rec.Result(), nil
}
