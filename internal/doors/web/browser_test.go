package web_test

import (
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/bound"
	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
)

// browser is one person's browser: it keeps cookies and does not follow redirects.
type browser struct {
	t    testing.TB
	base string
	c    *http.Client
}

// house is the made-up school in a database of its own: long tests run side by side.
type house struct {
	testdb.DB
	server *httptest.Server
	routes []string
	ines   who.Who
}

func newHouse(t testing.TB) house {
	d := testdb.Demo(t)
	h, err := web.New(face.Config{Store: d.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
	require.NoError(t, err)
	s := httptest.NewServer(h)
	t.Cleanup(s.Close)
	return house{d, s, h.Routes, d.Ines(t)}
}

func (h house) browser(t testing.TB) browser {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	return browser{t, h.server.URL, &http.Client{Jar: jar, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}}
}

func (b browser) do(method, path string, form url.Values) (*http.Response, string) {
	b.t.Helper()
	req, err := http.NewRequest(method, b.base+path, strings.NewReader(form.Encode()))
	require.NoError(b.t, err)
	if method == http.MethodPost {
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	res, err := b.c.Do(req)
	require.NoError(b.t, err)
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	require.NoError(b.t, err)
	if full(string(body)) {
		// Every house has the same school, and so the same places in the lines: another test's work
		// stands in the way.
		time.Sleep(300 * time.Millisecond)
		return b.do(method, path, form)
	}
	require.NotRegexp(b.t, `value="[^"]*\x{a0}`, string(body), "what is sent back is as it was typed")
	return res, strings.ReplaceAll(string(body), "\u00a0", " ")
}

// full tells whether an answer says to come again later.
func full(body string) bool {
	return strings.Contains(body, bound.Full{}.Error()) || strings.Contains(body, bound.Full{Own: true}.Error())
}

func (b browser) get(path string) (*http.Response, string) { return b.do(http.MethodGet, path, nil) }

func (b browser) post(path string, pairs ...string) (*http.Response, string) {
	f := url.Values{}
	for i := 0; i+1 < len(pairs); i += 2 {
		f.Set(pairs[i], pairs[i+1])
	}
	return b.do(http.MethodPost, path, f)
}

func (h house) adult(t testing.TB, p demo.Person) browser {
	b := h.browser(t)
	res, _ := b.post("/sign-in", "login", p.Login, "password", p.Secret)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	return b
}

func (h house) crew(t testing.TB) browser {
	crews, err := h.Store.SignInCrews(t.Context(), "ferrywharf", "")
	require.NoError(t, err)
	b := h.browser(t)
	for _, c := range crews.List {
		if c.Name == "Skiff" {
			res, _ := b.post("/sign-in/crew", "school", "ferrywharf", "crew", c.ID.String(), "pin", "1302")
			require.Equal(t, http.StatusSeeOther, res.StatusCode)
		}
	}
	return b
}

// things are ids of one of each in the demo.
func (h house) things(t testing.TB) map[string]string {
	out := map[string]string{}
	require.NoError(t, h.Store.InSchool(t.Context(), h.ines, func(tx *store.Tx) error {
		for name, q := range map[string]string{
			"batch": "SELECT id FROM batch WHERE code = 'LET-05'", "tray": "SELECT id FROM tray WHERE name = 'Tray 7'",
			"place": "SELECT id FROM place WHERE name = 'North tower'",
			"tank":  "SELECT id FROM tank WHERE name = 'North tower'", "lot": "SELECT id FROM seed_lot LIMIT 1",
			"unsown":  "SELECT id FROM batch WHERE seed_lot_id IS NULL AND NOT closed ORDER BY code LIMIT 1",
			"meter":   "SELECT id FROM meter ORDER BY name LIMIT 1",
			"recipe":  "SELECT id FROM recipe ORDER BY name LIMIT 1",
			"water":   "SELECT id FROM water WHERE name = 'School tap'",
			"picture": "SELECT id FROM picture LIMIT 1",
			"trough":  "SELECT id FROM trough LIMIT 1",
			"raft":    "SELECT id FROM place WHERE boards > 1 LIMIT 1",
			"jars":    "SELECT id FROM place WHERE name = 'Jar shelf'",
			"jar":     "SELECT id FROM tank WHERE name = 'Jar 3'",
			"variety": "SELECT variety_id FROM batch WHERE crop <> 'tomato' ORDER BY code LIMIT 1",
			"entry":   "SELECT e.id FROM entry e JOIN about a ON a.entry_id = e.id JOIN batch b ON b.id = a.thing_id WHERE e.kind = 'note' LIMIT 1",
		} {
			var id uuid.UUID
			if err := tx.Conn().QueryRow(t.Context(), q).Scan(&id); err != nil {
				return err
			}
			out[name] = id.String()
		}
		return nil
	}))
	return out
}

// entry is the newest of a kind.
func (h house) entry(t testing.TB, kind string) (id string) {
	require.NoError(t, h.Store.Read(t.Context(), h.ines, func(tx *store.Tx) error {
		return tx.Conn().QueryRow(t.Context(), "SELECT id::text FROM entry WHERE kind = $1 ORDER BY seq DESC LIMIT 1", kind).Scan(&id)
	}))
	return id
}
