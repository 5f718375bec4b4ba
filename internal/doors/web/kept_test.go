package web_test

import (
	"io"
	"log/slog"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"regexp"
	"slices"
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

// fresh are ids that a page makes for what may be written next.
var fresh = regexp.MustCompile(`[0-9a-f]{8}-[0-9a-f]{4}-[47][0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}`)

// Whatever is written, in any order, and by whichever process: each page is the same to somebody who
// has held what was worked out before as to somebody who works everything out from what there is.
func TestWhatIsHeldIsWhatThereIs(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	x := h.things(t)
	of := func(s *store.Store) (house, browser) {
		f, err := web.New(face.Config{Store: s, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
		require.NoError(t, err)
		server := httptest.NewServer(f)
		t.Cleanup(server.Close)
		other := h
		other.server = server
		return other, other.adult(t, demo.People[0])
	}
	now := h.Clock.Now()
	open := func() *store.Store {
		s, err := store.Open(t.Context(), h.AppURL, func() time.Time { return now })
		require.NoError(t, err)
		t.Cleanup(s.Close)
		return s
	}
	forgets := open()
	holds, holder := of(open())
	_, writer := of(open())
	doubts, doubter := of(forgets)
	owner, err := pgx.Connect(t.Context(), h.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	var pages, places []string
	require.NoError(t, owner.QueryRow(t.Context(), "SELECT array_agg(id::text ORDER BY walk_order) FROM place").Scan(&places))
	for _, r := range h.samples(t, x) {
		if strings.HasPrefix(r.On, "GET ") &&
			!regexp.MustCompile(`/(api|static|healthz|readyz|begin|sign-in|calendar|b/|s/|labels.pdf|trail)|\.(ics|pdf|csv)`).MatchString(r.Ask) {
			pages = append(pages, r.Ask)
		}
	}
	slices.Sort(pages)
	look := func(b browser, path string) string {
		_, body := b.get(path)
		return strings.ReplaceAll(fresh.ReplaceAllString(body, "an id"), h.server.URL, "")
	}
	for _, path := range pages { // all is held
		_, _ = holder.get(path)
	}
	rng := rand.New(rand.NewPCG(3, 5)) // #nosec G404 -- an order
	compare := func(after string, paths ...string) {
		forgets.Forget()
		for _, path := range paths {
			want := look(doubter, path)
			if got := look(holder, path); got != want {
				t.Fatalf("after %s, %s differs from what there is:\n%s", after, path, difference(got, want))
			}
		}
	}
	same := func(after string, also ...string) {
		compare(after, append(also, "/", pages[rng.IntN(len(pages))], pages[rng.IntN(len(pages))])...)
	}
	write := func(path string, pairs ...string) {
		res, body := writer.post(path, pairs...)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, "%s: %s", path, said(body))
		about := regexp.MustCompile(`^/(batches|trays|tanks)/[0-9a-f-]+`).FindString(path)
		same(path, slices.DeleteFunc([]string{about, "/nursery", "/season"}, func(s string) bool { return s == "" || s == "/season" && rng.IntN(4) > 0 })...)
	}
	// What a list says of it hangs on the row of the batch alone.
	write("/batches/"+x["batch"]+"/look", "id", uuid.NewString(), "leaves", "14", "height", "30", "sure", "1")
	all := acts(t, x, owner)
	rng.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	var ids []string
	for _, act := range all {
		ids = append(ids, uuid.NewString())
		write(act.path, append([]string{"id", ids[len(ids)-1]}, act.pairs...)...)
	}
	undone := 0
	for _, i := range rng.Perm(len(ids)) { // what others rest on stays
		if res, _ := writer.post("/entries/"+ids[i]+"/undo", "id", uuid.NewString()); res.StatusCode == http.StatusSeeOther {
			undone++
		}
		same("undoing "+all[i].path, "/nursery")
	}
	require.Greater(t, undone, 4)
	planned := uuid.NewString()
	write("/planned", "id", planned, "crop", "lettuce", "wanted", "8", "sow_on", "2027-03-18", "ready_by", "2027-05-03")
	write("/planned/"+planned+"/drop", "id", uuid.NewString())
	write("/crops/lettuce", "depth_cm", "0.4")
	carry(t, writer, "/settings/trays?edit="+x["tray"], "Place", "Cold frame")
	same("a tray was set elsewhere", "/trays", "/places", "/nursery")
	carry(t, writer, "/settings/school", "A working period", "50")
	same("the period is another")
	// What all batches go by changes, and no batch does.
	for _, low := range []string{"-9", "11"} {
		_, page := writer.get("/settings/nights")
		f := served(t, page, "/settings/nights")
		f.values.Set("day", "2027-03-18")
		f.values.Set("min", low)
		res, body := writer.send(f)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
		for _, place := range places {
			compare("a night of "+low, "/?stop="+place)
		}
	}
	for _, path := range []string{"/round/tick", "/round/give"} {
		_, walk := writer.get("/")
		f := served(t, walk, path)
		if path == "/round/tick" {
			f.values.Set("unwritten", "1")
		} else {
			f.values["to"][0] = h.ines.Person.String()
		}
		res, body := writer.send(f)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
		same(path)
	}
	for _, later := range []time.Duration{0, time.Hour, 7 * 24 * time.Hour} { // and nothing is written meanwhile
		now = now.Add(later)
		holder, doubter = holds.adult(t, demo.People[0]), doubts.adult(t, demo.People[0])
		compare("everything, "+later.String()+" later", pages...)
	}
}

// difference shows where two pages part.
func difference(got, want string) string {
	a, b := strings.Split(got, "\n"), strings.Split(want, "\n")
	for i := range min(len(a), len(b)) {
		if a[i] != b[i] {
			return "held:     " + strings.TrimSpace(a[i]) + "\nthere is: " + strings.TrimSpace(b[i])
		}
	}
	return "one of them ends before the other"
}
