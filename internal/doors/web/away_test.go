package web_test

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"sync/atomic"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
)

var refusals = regexp.MustCompile(`<p class="(says|alert)[^>]*>[^<]*`)

// housePulledFrom is a house whose database goes away at a statement of a request:
// the number until says, 0 for never. Cuts counts how often it did.
func housePulledFrom(t *testing.T) (h house, owner *pgx.Conn, until, cuts *atomic.Int64) {
	d := testdb.Demo(t)
	face, err := web.New(face.Config{Store: d.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	require.NoError(t, err)
	owner, err = pgx.Connect(t.Context(), d.OwnerURL)
	require.NoError(t, err)
	t.Cleanup(func() { _ = owner.Close(context.Background()) })
	until, cuts = new(atomic.Int64), new(atomic.Int64)
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		left := until.Load()
		face.ServeHTTP(w, r.WithContext(store.Watch(r.Context(), func(string, []any) {
			if left--; left == 0 {
				cuts.Add(1)
				for others := 1; others > 0 && !t.Failed(); {
					if err := owner.QueryRow(r.Context(),
						"SELECT count(pg_terminate_backend(pid)) FROM pg_stat_activity WHERE datname = current_database() AND usename = 'ulpa_app'").Scan(&others); err != nil {
						t.Error(err)
					}
				}
			}
		})))
	}))
	t.Cleanup(server.Close)
	return house{d, server, face.Routes, d.Ines(t)}, owner, until, cuts
}

// sent is a form of the demo's that is kept as it stands.
type sent struct {
	path  string
	pairs []string
}

// acts are one of each sort, on things of the demo.
func acts(t *testing.T, x map[string]string, owner *pgx.Conn) []sent {
	one := func(q string) (batch, place string, n int) {
		require.NoError(t, owner.QueryRow(t.Context(), q).Scan(&batch, &place, &n))
		return batch, place, n
	}
	inPorts, tower, ports := one("SELECT batch_id::text, place_id::text, count(*) FROM port GROUP BY 1, 2 ORDER BY 3, 1 LIMIT 1")
	inStand, bed, plants := one("SELECT batch_id::text, place_id::text, plants FROM stand ORDER BY plants, 1 LIMIT 1")
	return []sent{
		{"/notebook", []string{"text", "Roots white", "batch", x["batch"]}},
		{"/trays/" + x["tray"] + "/count", []string{"sprouted", "A12", "lost", "B9", "cause", "eaten"}},
		{"/batches/" + x["batch"] + "/look", []string{"leaves", "4", "height", "6"}},
		{"/batches/" + x["batch"] + "/move", []string{"to", x["place"], "from_cell_" + x["tray"], "A1-A3", "fill", "1"}},
		{"/batches/" + inPorts + "/harvest", []string{"grams", "120", "how", "whole", "where", "port:" + tower, "plants", fmt.Sprint(ports)}},
		{"/batches/" + inStand + "/lose", []string{"where", "stand:" + bed, "plants", fmt.Sprint(plants), "cause", "eaten"}},
		{"/sow", []string{"lot", x["lot"], "tray", x["tray"], "wanted", "2", "seeds", "1", "cells", "F11-F12"}},
		{"/tanks/" + x["tank"] + "/read", []string{"ph", "6.1", "ec", "1.4", "temp", "18", "level", "20", "sure", "1"}},
		{"/tanks/" + x["tank"] + "/treat", []string{"water", "1"}},
	}
}

// A record is sent again and again under one id while the database goes away at
// one statement after another, first until it is kept and then once more, when what
// it did would be refused to anybody else. Nobody is ever refused: it is kept, or
// the page says that the database does not answer; and it is there once.
func TestADatabaseThatGoesAwayRefusesNobody(t *testing.T) {
	t.Parallel()
	h, owner, until, cuts := housePulledFrom(t)
	b, x := h.adult(t, demo.People[0]), h.things(t)
	treated := ""
	for _, act := range append(acts(t, x, owner), sent{"/entries/:treated/undo", nil}) {
		id := uuid.NewString()
		if act.path == "/entries/:treated/undo" {
			act.path = "/entries/" + treated + "/undo"
		}
		for _, again := range []bool{false, true} {
			for k := int64(1); ; k++ {
				until.Store(k)
				before := cuts.Load()
				res, body := b.post(act.path, append([]string{"id", id}, act.pairs...)...)
				if cut := cuts.Load() > before; !cut {
					require.Equal(t, http.StatusSeeOther, res.StatusCode, "%s, sent again %v: %s", act.path, again, refusals.FindAllString(body, 5))
					break
				}
				require.Contains(
					t,
					[]int{http.StatusSeeOther, http.StatusServiceUnavailable},
					res.StatusCode,
					"%s, sent again %v, broken at statement %d: %s",
					act.path,
					again,
					k,
					refusals.FindAllString(body, 5),
				)
				require.NotContains(t, res.Header.Get("Location"), "sign-in", "%s at %d", act.path, k)
			}
			until.Store(0)
		}
		var kept int
		require.NoError(t, owner.QueryRow(t.Context(), "SELECT count(*) FROM entry WHERE id = $1", id).Scan(&kept))
		require.Equal(t, 1, kept, act.path)
		treated = id
	}
	require.Greater(t, cuts.Load(), int64(150))
}

// A page whose database goes away while it is made is whole, or says so instead.
func TestADatabaseThatGoesAwayLeavesNoHalfPage(t *testing.T) {
	t.Parallel()
	h, _, until, cuts := housePulledFrom(t)
	b := h.adult(t, demo.People[0])
	for k := int64(1); ; k++ {
		until.Store(0)
		res, _ := b.post(
			"/notebook",
			"id",
			uuid.NewString(),
			"text",
			"Swept",
			"back",
			"/nursery",
		) // leaves a sentence for the next page, which takes it out of the session
		require.Equal(t, http.StatusSeeOther, res.StatusCode)
		before := cuts.Load()
		until.Store(k)
		res, body := b.get("/nursery")
		require.Contains(t, []int{http.StatusOK, http.StatusServiceUnavailable}, res.StatusCode, k)
		require.Equal(t, []int{1, 1}, []int{strings.Count(body, "<!doctype html>"), strings.Count(body, "</html>")}, "at statement %d", k)
		require.Equal(t, res.StatusCode == http.StatusServiceUnavailable, strings.Contains(body, "The database does not answer"), k)
		if cuts.Load() == before {
			return
		}
	}
}
