package web_test

import (
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
)

func TestHeadersKeepAPageToItself(t *testing.T) {
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	res, body := b.get("/")
	csp := res.Header.Get("Content-Security-Policy")
	require.Contains(t, csp, "default-src 'none'")
	require.NotContains(t, csp, "unsafe")
	require.Equal(t, "nosniff", res.Header.Get("X-Content-Type-Options"))
	require.Equal(t, "no-store", res.Header.Get("Cache-Control"))
	require.NotEmpty(t, res.Header.Get("X-Request-Id"))
	require.NotRegexp(t, regexp.MustCompile(`<style|style="|<script>|onclick=|javascript:`), body)
	require.NotContains(t, body, "ZgotmplZ", "a template has put something where it does not belong")
	for _, m := range regexp.MustCompile(`(?:src|href)="(/static/[^"]+)"`).FindAllStringSubmatch(body, -1) {
		res, _ := b.get(m[1])
		require.Equal(t, http.StatusOK, res.StatusCode, m[1])
		require.Contains(t, res.Header.Get("Cache-Control"), "immutable")
	}
	res, _ = b.get("/static/app.css")
	require.Equal(t, http.StatusNotFound, res.StatusCode, "files answer to their hashed names only")
}

func TestCookiesAndSessions(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b := h.browser(t)
	res, _ := b.post("/sign-in", "login", demo.People[0].Login, "password", demo.People[0].Secret)
	var first string
	for _, c := range res.Cookies() {
		if c.Name == "ulpa" {
			first = c.Value
			require.True(t, c.HttpOnly)
			require.Equal(t, http.SameSiteLaxMode, c.SameSite)
		}
	}
	require.NotEmpty(t, first)
	res, _ = b.post("/sign-in", "login", demo.People[0].Login, "password", demo.People[0].Secret)
	for _, c := range res.Cookies() {
		require.NotEqual(t, first, c.Value, "signing in makes a new token")
	}
	req, err := http.NewRequest(http.MethodGet, h.server.URL+"/", nil)
	require.NoError(t, err)
	req.AddCookie(&http.Cookie{Name: "ulpa", Value: first})
	stale, err := h.browser(t).c.Do(req)
	require.NoError(t, err)
	stale.Body.Close()
	require.Equal(t, http.StatusSeeOther, stale.StatusCode, "the token known before is worthless")
	res, _ = b.post("/sign-out")
	require.Equal(t, "/sign-in", res.Header.Get("Location"))
	res, _ = b.get("/")
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	cross, err := http.NewRequest(http.MethodPost, h.server.URL+"/sign-in", strings.NewReader(""))
	require.NoError(t, err)
	cross.Header.Set("Origin", "https://elsewhere.example")
	answer, err := http.DefaultClient.Do(cross)
	require.NoError(t, err)
	answer.Body.Close()
	require.Equal(t, http.StatusForbidden, answer.StatusCode)
}

// A tablet that lies about signs itself out after four hours without anybody,
// and at the latest after twelve; one that is used stays signed in.
func TestASessionThatNobodyUsesEnds(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	after := func(d time.Duration) int {
		h.Clock.Set(h.Clock.Now().Add(d))
		res, _ := b.get("/tanks")
		return res.StatusCode
	}
	require.Equal(t, http.StatusOK, after(3*time.Hour+50*time.Minute))
	require.Equal(t, http.StatusOK, after(3*time.Hour+50*time.Minute), "used meanwhile")
	require.Equal(t, http.StatusSeeOther, after(4*time.Hour+10*time.Minute))
	require.Equal(t, http.StatusSeeOther, after(0), "and stays over")
	b = h.adult(t, demo.People[0])
	owner, err := pgx.Connect(t.Context(), h.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	var longest time.Duration
	require.NoError(t, owner.QueryRow(t.Context(), "SELECT max(expiry) - now() FROM session").Scan(&longest))
	require.InDelta(t, 12, longest.Hours(), 0.1)
	_, err = owner.Exec(t.Context(), "UPDATE session SET expiry = now() - interval '1 second'")
	require.NoError(t, err)
	require.Equal(t, http.StatusSeeOther, after(0))
}

// What is typed wrongly comes back beside its field, with what was typed.
func TestWhatIsTypedStays(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	x := h.things(t)
	b := h.adult(t, demo.People[0])
	for _, c := range []struct {
		path string
		form []string
		says []string
	}{
		{"/tanks/" + x["tank"] + "/read", []string{"ph", "sour", "level", "40"}, []string{"is not a number", `value="sour"`, `value="40"`}},
		{"/tanks/" + x["tank"] + "/read", []string{"ph", "58"}, []string{"pH cannot be 58. Check the figure. Did you mean 5.8?", `value="58"`}},
		{"/tanks/" + x["tank"] + "/treat", []string{"water", "4000"}, []string{"must be 0 up to what the tank holds", `value="4000"`}},
		{"/tanks/" + x["tank"] + "/treat", []string{"water", "61"}, []string{"would overflow", `value="61"`}},
		{"/batches/" + x["batch"] + "/look", []string{"leaves", "many"}, []string{"is not a whole number", `value="many"`}},
		{"/batches/" + x["batch"] + "/harvest", []string{"grams", "0"}, []string{"weigh it"}},
		{"/batches/" + x["batch"] + "/lose", []string{"plants", "99", "where", "cell:" + x["tray"]}, []string{"only 22 are there", `value="99"`}},
		{
			"/batches/" + x["batch"] + "/move",
			[]string{"to", x["place"], "from_cell_" + x["tray"], "A1-A2", "ports", "I1"},
			[]string{"1 port chosen for 2 plants", `value="A1-A2"`, `value="I1"`},
		},
		{"/batches/" + x["batch"] + "/move", []string{"to", x["place"], "from_cell_" + x["tray"], "Z9", "ports", "I1"}, []string{"holds no plant"}},
		{"/batches/" + x["batch"] + "/rule", []string{"ready_leaves", "0", "ready_age", "0"}, []string{"one is enough"}},
		{"/trays/" + x["tray"] + "/count", []string{"sprouted", "A1-Q99"}, []string{"is outside", `value="A1-Q99"`}},
		{"/sow", []string{"wanted", "0", "purpose", "Soup & salad"}, []string{"choose a seed lot", "choose a tray", `value="Soup &amp; salad"`}},
		{"/notebook", []string{"text", "  "}, []string{"must be 1 to 4,000 letters"}},
		{"/settings/people", []string{"kind", "staff", "name", "Tam Two", "login", "x", "secret", "short"}, []string{"at least 10 characters", `value="Tam Two"`}},
		{"/settings/people", []string{"kind", "crew", "name", "Gig", "secret", "12"}, []string{"PIN of 4 to 8 digits"}},
		{"/settings/places", []string{"kind", "tower", "name", "Mast", "tiers", "0", "columns", "4"}, []string{"must be 1 to 60", `value="Mast"`}},
		{"/settings/closures", []string{"from", "2027-05-03", "to", "2027-05-01", "name", "Fair"}, []string{"is before the first closed day"}},
		{"/settings/trays", []string{"name", "T 9", "rows", "4", "columns", "6", "cell_ml", "40"}, []string{"choose where it is", `value="T 9"`}},
		{"/settings/lots", []string{"crop", "lettuce", "variety", "Skerry", "name", "SK", "packed", "1066"}, []string{"the year it was packed"}},
		{"/settings/tanks", []string{"name", "Vat", "place", x["place"], "spec.capacity_l", "50", "spec.fill_to_l", "80"}, []string{"a volume up to what it holds"}},
	} {
		res, body := b.post(c.path, append([]string{"id", uuid.NewString(), "units", "metric/ms"}, c.form...)...)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, c.path)
		for _, s := range c.says {
			require.Contains(t, body, s, "%s %v", c.path, c.form)
		}
	}
}

// A form is read in the units it was shown in, whatever has been chosen since.
func TestFormsCarryTheirUnits(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	x := h.things(t)
	b := h.adult(t, demo.People[0])
	res, _ := b.post("/tanks/"+x["tank"]+"/read", "id", uuid.NewString(), "units", "us/ppm500", "temp", "68", "level", "11", "ec", "800")
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, body := b.get("/tanks/" + x["tank"])
	require.Contains(t, body, "Read 1.6 mS/cm, 20 °C, level 41.6 L")
	res, _ = b.post("/units", "system", "us", "scale", "ppm700", "back", "//evil.example")
	require.Equal(t, "/", res.Header.Get("Location"), "back leads nowhere else")
	_, body = b.get("/tanks/" + x["tank"])
	require.Contains(t, body, "Read 1120 ppm (700 scale), 68 °F, level 11 gal")
	res, body = b.post("/tanks/"+x["tank"]+"/read", "id", uuid.NewString(), "units", "metric/ms", "level", "999")
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, body, "A level cannot be 999 L.")
	require.Contains(t, body, `name="units" value="metric/ms"`)
	require.NotContains(t, body, " gal", "999 would be read as gallons the second time")
}

// A form that was kept while its answer got lost, and was changed before it was sent
// again, comes back with what was kept and what was typed, and under an id of its own.
func TestAChangedFormIsNotTheOneThatWasKept(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	x := h.things(t)
	b := h.adult(t, demo.People[0])
	id := uuid.NewString()
	res, _ := b.post("/tanks/"+x["tank"]+"/read", "id", id, "units", "metric/ms", "ph", "6.6")
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	res, body := b.post("/tanks/"+x["tank"]+"/read", "id", id, "units", "metric/ms", "ph", "6.4")
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, body, "Already saved, on 18 Mar at 10:05 by Ines Varrow: “Read pH 6.6”")
	require.Contains(t, body, `value="6.4"`)
	_, page := b.get("/tanks/" + x["tank"])
	require.NotContains(t, page, "Read pH 6.4")
	fresh := regexp.MustCompile(`action="/tanks/` + x["tank"] + `/read"(?s:.*?)name="id" value="([^"]+)"`).FindStringSubmatch(body)[1]
	require.NotEqual(t, id, fresh)
	res, _ = b.post("/tanks/"+x["tank"]+"/read", "id", fresh, "units", "metric/ms", "ph", "6.4")
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
}

// Whoever reads gallons, °F and ppm meets no litre, °C or mS/cm on any page, neither
// in advice nor in a refusal; only where one chooses units, and where a definition or
// a formula has its own.
func TestNobodyMeetsUnitsTheyDoNotRead(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b, x := h.adult(t, demo.People[0]), h.things(t)
	b.post("/units", "system", "us", "scale", "ppm500")
	paths := []string{
		"/", "/nursery", "/places", "/tanks", "/harvest", "/notebook", "/sow?lot=" + x["lot"], "/settings", "/import", "/sums",
		"/settings/places?add=1", "/settings/tanks?edit=" + x["tank"], "/settings/trays?edit=" + x["tray"], "/settings/lots", "/settings/nights",
	}
	require.NoError(t, h.Store.InSchool(t.Context(), h.ines, func(tx *store.Tx) error {
		for _, q := range []string{
			"'/batches/' || id FROM batch", "'/batches/' || id || '/move?to=' || $1 FROM batch", "'/trays/' || id FROM tray",
			"'/places/' || id FROM place", "'/tanks/' || id FROM tank",
		} {
			rows, err := tx.Conn().Query(t.Context(), "SELECT "+strings.ReplaceAll(q, "$1", "'"+x["place"]+"'"))
			if err != nil {
				return err
			}
			more, err := pgx.CollectRows(rows, pgx.RowTo[string])
			if err != nil {
				return err
			}
			paths = append(paths, more...)
		}
		return nil
	}))
	seen := func(path, body string) {
		for _, x := range [][2]string{
			{`action="/units"`, "</form>"},
			{`action="/settings/units"`, "</form>"},
			{"<option", "</option>"},
			{`<details class="working">`, "</details>"},
			{"1 mL ", "in 1 L"},
			{"at 25 °C", ""},
		} {
			for {
				before, rest, found := strings.Cut(body, x[0])
				if _, after, ends := strings.Cut(rest, x[1]); found && ends {
					body = before + after
				} else {
					break
				}
			}
		}
		for _, x := range []string{" L", " cm", " g", " kg", "°C", "mS/cm"} {
			for at, end := 0, 0; ; at = end {
				i := strings.Index(body[at:], x)
				if i < 0 {
					break
				}
				at += i
				end = at + len(x)
				if x[0] != ' ' || body[at-1] >= '0' && body[at-1] <= '9' && strings.ContainsAny(body[end:end+1], " <.,;:)") {
					t.Errorf("%s says %q", path, body[max(0, at-60):min(len(body), end+20)])
				}
			}
		}
	}
	_, sums := b.get("/sums")
	for _, m := range regexp.MustCompile(`href="(/sums/[^"]+)"`).FindAllStringSubmatch(sums, -1) {
		paths = append(paths, m[1])
	}
	for _, path := range paths {
		res, body := b.get(path)
		require.Equal(t, http.StatusOK, res.StatusCode, path)
		seen(path, body)
	}
	for _, post := range [][]string{
		{"/tanks/" + x["tank"] + "/read", "ph", "6", "ec", "99999", "temp", "200", "level", "900"},
		{"/tanks/" + x["tank"] + "/treat", "water", "400"},
		{"/tanks/" + x["tank"] + "/treat", "drain", "40"},
		{"/settings/places", "kind", "bed", "name", "Quay", "temperature_c", "400"},
		{"/settings/tanks", "name", "Vat", "place", x["place"], "spec.capacity_l", "50", "spec.fill_to_l", "80", "spec.ec_target", "99999"},
	} {
		res, body := b.post(post[0], append([]string{"id", uuid.NewString(), "units", "us/ppm500"}, post[1:]...)...)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, post)
		seen(strings.Join(post, " "), body)
	}
}

// While the database is away pages say so readably, and readiness tells the truth.
func TestWithoutADatabase(t *testing.T) {
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	h.Store.Close()
	res, _ := b.get("/readyz")
	require.Equal(t, http.StatusServiceUnavailable, res.StatusCode)
	res, _ = b.get("/healthz")
	require.Equal(t, http.StatusOK, res.StatusCode)
	res, body := b.get("/nursery")
	require.Equal(t, http.StatusServiceUnavailable, res.StatusCode)
	require.Contains(t, body, "Nothing you typed is lost")
	require.Contains(t, body, "<h1>The database does not answer</h1>")
}

// A full disk and a server with too many callers are said for what they are, and
// when they pass everything goes on: nothing is half kept.
func TestADatabaseInTrouble(t *testing.T) {
	h := newHouse(t)
	b, x := h.adult(t, demo.People[0]), h.things(t)
	owner, err := pgx.Connect(t.Context(), h.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	do := func(sql string) {
		_, err := owner.Exec(t.Context(), sql)
		require.NoError(t, err)
	}
	note := func(id string) (*http.Response, string) {
		return b.post("/notebook", "id", id, "text", "Roots white", "batch", x["batch"])
	}
	do(
		"CREATE FUNCTION full_disk() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'could not extend file: No space left on device' " +
			"USING ERRCODE = 'disk_full'; END $$",
	)
	do("CREATE TRIGGER full_disk BEFORE INSERT ON entry FOR EACH ROW EXECUTE FUNCTION full_disk()")
	id := uuid.NewString()
	res, body := note(id)
	require.Equal(t, http.StatusInsufficientStorage, res.StatusCode)
	require.Contains(t, body, "disk is full")
	res, _ = b.get("/notebook")
	require.Equal(t, http.StatusOK, res.StatusCode, "what is there can still be read")
	do("DROP TRIGGER full_disk ON entry")

	// Each test has a database of its own, so only it is short of connections.
	name := owner.Config().Database
	do("ALTER DATABASE " + name + " CONNECTION LIMIT 1") // the owner's own; a superuser is not counted out
	do("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND usename = 'ulpa_app'")
	require.Eventually(t, func() bool {
		res, body = note(id)
		return strings.Contains(body, "Too much at once")
	}, 10*time.Second, 50*time.Millisecond)
	require.Equal(t, http.StatusServiceUnavailable, res.StatusCode)
	require.NotEmpty(t, res.Header.Get("Retry-After"))
	res, _ = b.get("/readyz")
	require.Equal(t, http.StatusServiceUnavailable, res.StatusCode)
	do("ALTER DATABASE " + name + " CONNECTION LIMIT -1")
	res, _ = note(id)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	var kept int
	require.NoError(t, owner.QueryRow(t.Context(), "SELECT count(*) FROM entry WHERE id = $1", id).Scan(&kept))
	require.Equal(t, 1, kept)
}

// Behind HTTPS cookies are this host's alone and browsers are told to stay there; every
// answer, also the one given while the database is away and the one to another site, has
// the same headers; and whatever can be looked at can be asked for without its body.
func TestHeadersOfEveryAnswer(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	face, err := web.New(face.Config{Store: h.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil)), Secure: true, HSTS: true})
	require.NoError(t, err)
	server := httptest.NewTLSServer(face)
	t.Cleanup(server.Close)
	b := browser{t, server.URL, server.Client()}
	b.c.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	b.c.Jar, err = cookiejar.New(nil)
	require.NoError(t, err)
	same := func(res *http.Response, what string) {
		t.Helper()
		for name, value := range map[string]string{
			"Strict-Transport-Security": "max-age=31536000", "Cross-Origin-Opener-Policy": "same-origin", "Cross-Origin-Resource-Policy": "same-origin",
			"X-Content-Type-Options": "nosniff", "Referrer-Policy": "same-origin",
		} {
			require.Equal(t, value, res.Header.Get(name), "%s: %s", what, name)
		}
		for _, name := range []string{"Content-Security-Policy", "Permissions-Policy"} {
			require.NotEmpty(t, res.Header.Get(name), "%s: %s", what, name)
		}
	}
	res, _ := b.post("/sign-in", "login", demo.People[0].Login, "password", demo.People[0].Secret)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	same(res, "sign-in")
	require.Len(t, res.Cookies(), 3)
	for _, c := range res.Cookies() {
		require.True(t, strings.HasPrefix(c.Name, "__Host-") && c.Secure && c.HttpOnly && c.Path == "/" && c.Domain == "", c.String())
	}
	samples := h.samples(t, h.things(t))
	for _, route := range face.Routes {
		if method, _, _ := strings.Cut(route, " "); method != http.MethodGet || strings.Contains(route, ":what") {
			continue
		}
		path := samples[route].Ask
		get, _ := b.get(path)
		head, body := b.do(http.MethodHead, path, nil)
		require.Equal(t, get.StatusCode, head.StatusCode, route)
		require.Empty(t, body, route)
		same(get, route)
		same(head, route)
	}
	cross, err := http.NewRequest(http.MethodPost, server.URL+"/notebook", strings.NewReader(""))
	require.NoError(t, err)
	cross.Header.Set("Origin", "https://elsewhere.example")
	res, err = b.c.Do(cross)
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	require.Equal(t, http.StatusForbidden, res.StatusCode)
	same(res, "another site's form")
	h.Store.Close()
	res, _ = b.get("/")
	require.GreaterOrEqual(t, res.StatusCode, 500)
	same(res, "without a database")
}
