package web_test

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"io"
	"log/slog"
	"maps"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/people"
)

var (
	queryName = regexp.MustCompile(`-- name: (\w+)`)
	fullScan  = regexp.MustCompile(`Seq Scan on (\w+)`)
	// An access to one of them, with the rows it gave, how often, and those that a filter passed over.
	rowsRead = regexp.MustCompile(`(?:on|using \w+ on) (entry|about)\b[^\n]*\(actual rows=(\d+) loops=(\d+)\)` +
		`(?:\s+(?:(?:Index|Recheck) Cond|Filter|Heap Blocks|Heap Fetches|Rows Removed by Index Recheck): [^\n]*)*` +
		`(?:\s+Rows Removed by Filter: (\d+))?`)
)

// manyEntries are more than any page has use for.
const manyEntries = 600

// Every query in the code, run by the pages and verbs that use it over a school
// with years behind it: PostgreSQL's own account of how it ran shows no large
// table read from end to end.
func TestNoQueryReadsALargeTableFromEndToEnd(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	owner, err := pgx.Connect(t.Context(), d.RootURL(t))
	require.NoError(t, err)
	defer owner.Close(t.Context())
	require.NoError(
		t,
		demo.Grow(
			t.Context(),
			d.OwnerURL,
			d.Ines(t).School,
			demo.Day,
			demo.Size{Years: 2, Batches: 1300, Open: 50, Trays: 50, Tanks: 5, Entries: 20_000, Series: 2, Readings: 20_000},
		),
	)
	do := func(sql string) {
		_, err := owner.Exec(t.Context(), sql)
		require.NoError(t, err)
	}
	// The tower has 50,000 entries of its own, so that whatever reads all about a thing is seen.
	do(`WITH e AS (INSERT INTO entry (school_id, id, kind, happened_at, written_at, person_id, data)
		SELECT p.school_id, gen_random_uuid(), 'note', now() - n * interval '40 minutes', now(), (SELECT id FROM person LIMIT 1), '{"text": "x"}'
		  FROM place p, generate_series(3000, 53000) n WHERE p.name = 'North tower' RETURNING school_id, id, happened_at, seq, kind)
		INSERT INTO about (school_id, entry_id, thing_id, happened_at, seq, kind)
		SELECT e.school_id, e.id, p.id, e.happened_at, e.seq, e.kind FROM e, place p WHERE p.name = 'North tower'`)
	do("ANALYZE entry, about")
	for name, value := range map[string]string{
		"session_preload_libraries": "'auto_explain'", "auto_explain.log_min_duration": "0",
		"auto_explain.log_nested_statements": "on", "auto_explain.log_analyze": "on", "auto_explain.log_timing": "off",
	} {
		do("ALTER DATABASE " + owner.Config().Database + " SET " + name + " = " + value)
	}
	var log string
	var from int64
	require.NoError(t, owner.QueryRow(t.Context(), "SELECT current_setting('data_directory') || '/../log'").Scan(&log))
	require.NoError(t, owner.QueryRow(t.Context(), "SELECT size FROM pg_stat_file($1)", log).Scan(&from))

	explained, err := store.Open(t.Context(), d.AppURL, d.Clock.Now)
	require.NoError(t, err)
	t.Cleanup(explained.Close)
	face, err := web.New(face.Config{Store: explained, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	require.NoError(t, err)
	server := httptest.NewServer(face)
	t.Cleanup(server.Close)
	h := house{testdb.DB{Store: explained, OwnerURL: d.OwnerURL, AppURL: d.AppURL, Clock: d.Clock}, server, face.Routes, d.Ines(t)}
	useEverything(t, h, house{DB: d, ines: h.ines}.things(t))

	var said string
	require.NoError(t, owner.QueryRow(t.Context(), "SELECT convert_from(pg_read_binary_file($1, $2, 1 << 28), 'UTF8')", log, from).Scan(&said))
	plans := strings.Split(said, "duration: ")
	require.Greater(t, len(plans), 300, "nothing was explained")
	large := map[string]int{}
	rows, err := owner.Query(
		t.Context(),
		"SELECT relname, reltuples::int FROM pg_class WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace AND reltuples >= 1000",
	)
	require.NoError(t, err)
	var table string
	var size int
	_, err = pgx.ForEachRow(rows, []any{&table, &size}, func() error { large[table] = size; return nil })
	require.NoError(t, err)
	for _, table := range []string{"entry", "cell", "batch", "rollup"} {
		require.Contains(t, large, table, "the school is too small to prove anything")
	}
	seen, told := map[string]bool{}, map[string]bool{}
	for _, plan := range plans {
		name := ""
		if m := queryName.FindStringSubmatch(plan); m != nil {
			name = m[1]
			seen[name] = true
		}
		for _, m := range fullScan.FindAllStringSubmatch(plan, -1) {
			if n, ok := large[m[1]]; ok && !told[name+m[1]] {
				told[name+m[1]] = true
				t.Errorf("%s reads all %d rows of %s:\n%s", name, n, m[1], plan)
			}
		}
		if strings.Contains(plan, "words ~~") {
			continue // whoever looks for words looks at lines until there are enough
		}
		for _, m := range rowsRead.FindAllStringSubmatch(plan, -1) {
			rows, _ := strconv.Atoi(m[2])
			loops, _ := strconv.Atoi(m[3])
			passed, _ := strconv.Atoi(m[4]) // over, by a filter
			most := manyEntries
			if name == "Notebook" { // its file goes out in pieces of 500 lines, each about one thing or a few
				most = 2000
			}
			if (rows+passed)*loops > most && !told[name+"many"] {
				told[name+"many"] = true
				t.Errorf("%s reads %d rows of %s:\n%s", name, (rows+passed)*loops, m[1], plan)
			}
		}
	}
	files, err := filepath.Glob("../../base/store/queries/*.sql")
	require.NoError(t, err)
	var missed []string
	for _, f := range files {
		text, err := os.ReadFile(f)
		require.NoError(t, err)
		for _, m := range queryName.FindAllStringSubmatch(string(text), -1) {
			if !seen[m[1]] {
				missed = append(missed, m[1])
			}
		}
	}
	require.Empty(t, missed, "never run here: %v", slices.Sorted(maps.Keys(seen)))
}

// useEverything looks at every page and does everything once, so that every
// query of the program runs.
func useEverything(t *testing.T, h house, x map[string]string) {
	ines := h.adult(t, demo.People[0])
	// Another school's whole season, through the verbs. A login belongs to one person.
	owner, err := pgx.Connect(t.Context(), h.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	_, err = owner.Exec(t.Context(), "UPDATE person SET login = 'first.' || login")
	require.NoError(t, err)
	require.NoError(t, demo.Load(t.Context(), h.Store, h.Clock, h.School(t, "second"), demo.Day))
	pages := []string{ // beside every page as it is asked first
		"/batches/" + x["batch"] + "/move?to=" + x["place"], "/tanks/" + x["tank"] + "?days=1827", "/notebook?q=aphids",
		"/notebook?about=" + x["batch"], "/notebook.csv?about=" + x["batch"], "/sow?lot=" + x["lot"],
	}
	for _, r := range h.samples(t, x) {
		if strings.HasPrefix(r.On, "GET ") && !strings.HasPrefix(r.Ask, "/api/v1/") &&
			!slices.Contains([]string{
				"GET /static/*file", "GET /begin", "GET /calendar/:file", "GET /sign-in/proof",
				"GET /labels.pdf", "GET /b/:code", "GET /s/:short",
			}, r.On) {
			pages = append(pages, r.Ask)
		}
	}
	for _, path := range pages {
		res, _ := ines.get(path)
		require.Equal(t, http.StatusOK, res.StatusCode, path)
	}
	changeEverything(t, ines)
	changePeople(t, h)
	ines = h.adult(t, demo.Person{Login: h.login(t, demo.People[0]), Secret: demo.People[0].Secret})
	planned := uuid.NewString()
	for _, post := range [][]string{
		{"/sow/answer", "lot", x["lot"], "wanted", "8"},
		{"/planned", "id", planned, "crop", "lettuce", "wanted", "8", "sow_on", "2027-03-22", "ready_by", "2027-05-03"},
		{"/batches/" + x["batch"] + "/describe", "wanted", "5", "planned", planned},
		{"/batches/" + x["batch"] + "/describe", "wanted", "5"},
		{"/batches/" + x["unsown"] + "/describe", "wanted", "5", "crop", "kale"},
		{"/planned/" + planned + "/drop"},
		{"/crops/lettuce", "depth_cm", "0.4"},
		{"/crops/lettuce", "depth_cm", "0.3"},
		{"/crops/lettuce", "depth_cm", "0.5"},
		{"/settings/people", "kind", "crew", "name", "Gig", "secret", "4711"},
		{"/settings/units", "system", "metric", "scale", "ms"},
		{"/settings/language", "language", "es"},
		{"/settings/day", "begins", "8:30", "ends", "15:30"},
		{"/units", "system", "metric", "scale", "ms", "language", "en"},
		{"/entries/" + x["entry"] + "/correct", "text", "correct"},
		{"/settings/forget-night", "day", "2027-03-22"},
	} {
		res, body := ines.post(post[0], append([]string{"id", uuid.NewString()}, post[1:]...)...)
		require.Less(t, res.StatusCode, 400, "%v: %s", post, body)
	}
	note := uuid.NewString()
	_, _ = ines.post("/notebook", "id", note, "text", "written twice", "back", "/")
	undone, _ := ines.post("/entries/"+note+"/undo", "id", uuid.NewString(), "visit", "whole")
	require.Equal(t, http.StatusSeeOther, undone.StatusCode)
	planASeason(t, ines)
	tendSeed(t, ines)
	labelThings(t, ines)
	photograph(t, ines)
	potOn(t, ines)
	measure(t, ines, x)
	mix(t, ines, x)
	carry(t, ines, "/settings/trays?edit="+x["tray"], "Place", "Cold frame")
	carry(t, ines, "/settings/places?edit="+x["place"], "Or as warm as this meter says", "North tower temperature")
	carry(t, ines, "/settings/school", "A working period", "50")
	grown := x["variety"]
	_, page := ines.get("/settings/varieties?edit=" + grown)
	f := served(t, page, "/settings/varieties")
	f.values.Set("crop", "tomato")
	res, _ := ines.send(f)
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "batches of it were sown")
	key := uuid.New()
	require.NoError(t, people.AddKey(t.Context(), h.Store, h.ines, key, "Logger", who.ScopeRead, "a key"))
	req0, err := http.NewRequest(http.MethodGet, h.server.URL+"/api/v1/school", nil)
	require.NoError(t, err)
	req0.Header.Set("Authorization", "Bearer a key")
	answer0, err := ines.c.Do(req0)
	require.NoError(t, err)
	require.NoError(t, answer0.Body.Close())
	require.Equal(t, http.StatusOK, answer0.StatusCode)
	res, _ = ines.post("/settings/withdraw", "key", key.String())
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, walk := ines.get("/")
	tick := served(t, walk, "/round/tick")
	tick.values.Set("unwritten", "1")
	res, _ = ines.send(tick)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, walk = ines.get("/")
	give := served(t, walk, "/round/give")
	give.values["to"][0] = h.ines.Person.String()
	for range 2 { // given, and given back
		res, body := ines.send(give)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
		give.values["to"][0] = ""
	}
	keepSeason(t, ines)
	for _, what := range []string{"devices", "enrolled"} {
		res, _ := ines.post("/settings/"+what, "id", uuid.NewString(), "device", "Bench tablet")
		require.Equal(t, http.StatusSeeOther, res.StatusCode)
	}
	_, settings := ines.get("/settings/devices")
	enrolled := regexp.MustCompile(`name="device" value="([0-9a-f-]+)"`).FindStringSubmatch(settings)
	require.NotNil(t, enrolled)
	res, _ = ines.post("/settings/dismiss", "device", enrolled[1])
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	res, _ = ines.get("/sow?planned=" + planned)
	require.Equal(t, http.StatusOK, res.StatusCode)
	var file bytes.Buffer
	form := multipart.NewWriter(&file)
	part, err := form.CreateFormFile("file", "log.csv")
	require.NoError(t, err)
	fmt.Fprint(part, "time,series,value,unit\n2027-03-17T10:00:00Z,New logger,21.5,°C\n")
	require.NoError(t, form.Close())
	req, err := http.NewRequest(http.MethodPost, h.server.URL+"/import", &file)
	require.NoError(t, err)
	req.Header.Set("Content-Type", form.FormDataContentType())
	answer, err := ines.c.Do(req)
	require.NoError(t, err)
	preview, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	draft := regexp.MustCompile(`/import/[0-9a-f-]+/confirm`).FindString(string(preview))
	res, _ = ines.post(draft)
	require.Equal(t, http.StatusSeeOther, res.StatusCode, "%s", preview)
	res, _ = ines.post("/sign-out/everywhere")
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
}

// keepSeason keeps the season's plan, wants more of a goal and less of another, and keeps
// that.
func keepSeason(t *testing.T, b browser) {
	for _, wanted := range []string{"9", "5"} {
		_, page := b.get("/settings/goals")
		all := regexp.MustCompile(`\?edit=[0-9a-f-]+`).FindAllString(page, -1)
		for _, m := range all[len(all)-2:] {
			_, form := b.get("/settings/goals" + m)
			f := served(t, form, "/settings/goals")
			f.values.Set("wanted", wanted)
			if wanted == "5" {
				f.values.Set("from", "2027-03-19") // too soon for any sowing
				f.values.Set("by", "2027-03-19")
			}
			res, body := b.send(f)
			require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
		}
		_, page = b.get("/season")
		res, body := b.send(served(t, page, "/season/keep"))
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
		_, page = b.get("/season")
		require.NotContains(t, page, "/season/keep", "nothing is left to keep")
	}
}

// carry changes one field of a form as its page serves it.
func carry(t *testing.T, b browser, page, label, value string) {
	_, body := b.get(page)
	f := served(t, body, strings.Split(page, "?")[0])
	if label == "Place" || strings.HasSuffix(value, "temperature") { // picked by its name
		value = regexp.MustCompile(`value="([0-9a-f-]+)"[^>]*>` + value).FindStringSubmatch(body)[1]
	}
	res, body := b.send(f.fill(label, value))
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
}

// photograph keeps a picture and deletes it.
func photograph(t *testing.T, b browser) {
	var file, drawing bytes.Buffer
	require.NoError(t, png.Encode(&drawing, image.NewGray(image.Rect(0, 0, 60, 40))))
	_, page := b.get("/notebook")
	f := served(t, page, "/pictures")
	form := multipart.NewWriter(&file)
	for name := range f.values {
		require.NoError(t, form.WriteField(name, f.values.Get(name)))
	}
	part, err := form.CreateFormFile("file", "x.png")
	require.NoError(t, err)
	_, err = part.Write(drawing.Bytes())
	require.NoError(t, err)
	require.NoError(t, form.Close())
	req, err := http.NewRequest(http.MethodPost, b.base+"/pictures", &file)
	require.NoError(t, err)
	req.Header.Set("Content-Type", form.FormDataContentType())
	answer, err := b.c.Do(req)
	require.NoError(t, err)
	require.NoError(t, answer.Body.Close())
	require.Equal(t, http.StatusSeeOther, answer.StatusCode)
	at := "/pictures/" + f.values.Get("id")
	_, page = b.get(at)
	undo := served(t, page, "/entries/"+f.values.Get("id")+"/undo")
	res, _ := b.send(undo)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	for _, gone := range []string{at, at + "/large", at + "/small"} {
		res, _ := b.get(gone)
		require.Equal(t, http.StatusNotFound, res.StatusCode, gone)
	}
}

// potOn puts plants that stand in pots into larger ones: the others are to be washed then.
func potOn(t *testing.T, b browser) {
	_, list := b.get("/nursery?all=1&crop=strawberry")
	at := regexp.MustCompile(`href="(/batches/[0-9a-f-]+)"`).FindStringSubmatch(list)[1]
	_, page := b.get(at + "/move")
	bench := regexp.MustCompile(`value="([0-9a-f-]+)"[^>]*>Nursery bench`).FindStringSubmatch(page)
	require.NotNil(t, bench)
	_, page = b.get(at + "/move?to=" + bench[1])
	f := served(t, page, "/move")
	pots := regexp.MustCompile(`value="([0-9a-f-]+)"[^>]*>Large pots`).FindStringSubmatch(page)
	require.NotNil(t, pots)
	f.values.Set("to", bench[1])
	f.values.Set("pot", pots[1])
	f.values.Del("show")
	res, body := b.send(f)
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
}

// measure writes down what a water and a pen are worth, as their pages serve it.
func measure(t *testing.T, b browser, x map[string]string) {
	for path, typed := range map[string]map[string]string{
		"/waters/" + x["water"]: {"alkalinity": "10.6", "unit": "dh"},
		"/meters/" + x["meter"]: {"shown0": "7.05", "temp0": "21", "shown1": "4.1", "temp1": "21", "true0": "1.413", "ec0": "1.4"},
	} {
		_, page := b.get(path)
		f := served(t, page, path)
		for name, v := range typed {
			f.values.Set(name, v)
		}
		res, body := b.send(f)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	}
}

// mix mixes a solution as its sheet is served, and takes that back.
func mix(t *testing.T, b browser, x map[string]string) {
	_, page := b.get("/mix")
	made := regexp.MustCompile(`value="([0-9a-f-]+)"[^>]*>Leaf crops`).FindStringSubmatch(page)
	require.NotNil(t, made)
	_, page = b.get("/mix?litres=60&water=" + x["water"] + "&recipe=" + made[1])
	f := served(t, page, "/mix/done")
	res, body := b.send(f)
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "nobody said what was weighed")
	f = served(t, body, "/mix/done")
	f.values.Set("exact", "1")
	res, body = b.send(f)
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
}
