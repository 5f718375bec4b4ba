package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
)

// No page asks the database once a row: with four times the trays, batches and
// notes every page takes exactly as many statements as before.
//
// Not beside others: a page that waits in a line for its place reads once more who asks.
func TestStatementsDoNotGrowWithTheSchool(t *testing.T) {
	d := testdb.Demo(t)
	log, now := &logged{}, d.Clock.Now()
	still, err := store.Open(t.Context(), d.AppURL, func() time.Time { return now }) // no minute goes by in the middle of a page
	require.NoError(t, err)
	t.Cleanup(still.Close)
	face, err := web.New(face.Config{Store: still, Log: slog.New(slog.NewJSONHandler(log, nil))})
	require.NoError(t, err)
	server := httptest.NewServer(face)
	t.Cleanup(server.Close)
	h := house{d, server, face.Routes, d.Ines(t)}
	b, x := h.adult(t, demo.People[0]), h.things(t)
	owner, err := pgx.Connect(t.Context(), d.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	count := func(only string) map[string]int {
		out := map[string]int{}
		for _, r := range h.samples(t, x) {
			path := r.Ask
			if !strings.HasPrefix(r.On, "GET ") || !strings.HasPrefix(path, only) ||
				slices.Contains([]string{
					"/healthz", "/readyz", "/static/nothing.css", "/notebook.csv", "/begin",
					"/labels.pdf", "/b/LET-01", "/s/AAAAAAAAAAAAAAAAAAAAAA",
				}, path) ||
				strings.HasPrefix(path, "/api/") || strings.HasPrefix(path, "/calendar/") || strings.HasPrefix(path, "/sign-in") {
				continue
			}
			// As if somebody had just written: nothing that was worked out before holds.
			_, err := owner.Exec(t.Context(), "UPDATE stamp SET mark = gen_random_uuid()")
			require.NoError(t, err)
			log.Lock()
			log.Reset()
			log.Unlock()
			res, _ := b.get(path)
			require.Equal(t, 200, res.StatusCode, path)
			var line struct{ Statements int }
			require.Eventually(t, func() bool { // the log's line comes after the answer
				log.Lock()
				said := bytes.Clone(log.Bytes())
				log.Unlock()
				return json.Unmarshal(bytes.TrimSpace(said), &line) == nil
			}, 5*time.Second, time.Millisecond, path)
			require.Positive(t, line.Statements, path)
			require.Less(t, line.Statements, 80, path)
			out[path] = line.Statements
		}
		return out
	}
	count("") // the first visits also learn the statements' plans
	before := count("")
	fmt.Printf("# statements of each page when nothing holds: %v\n", before)
	require.NoError(
		t,
		demo.Grow(
			t.Context(),
			h.OwnerURL,
			h.ines.School,
			demo.Day,
			demo.Size{Years: 1, Batches: 60, Open: 30, Trays: 30, Tanks: 30, Entries: 3000, Series: 2, Readings: 500},
		),
	)
	count("/season") // a search is begun without a place in its line, and again in one
	require.Equal(t, before, count(""))
	// A tray that several batches share takes no more than one with a single batch.
	var shared, single string
	const q = "SELECT tray_id::text FROM cell GROUP BY 1 ORDER BY count(DISTINCT batch_id) "
	require.NoError(t, owner.QueryRow(t.Context(), q+"DESC LIMIT 1").Scan(&shared))
	require.NoError(t, owner.QueryRow(t.Context(), q+"LIMIT 1").Scan(&single))
	x["tray"] = shared
	several := count("/trays/")["/trays/"+shared]
	x["tray"] = single
	require.Equal(t, count("/trays/")["/trays/"+single], several)
}
