package web_test

import (
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/who"
	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
)

const doors = "../../../docs/security.md"

var doorLine = regexp.MustCompile("(?m)^\\| `([A-Z]+ [^`]+)` \\| (\\d+) \\| (\\d+) \\| (\\d+) \\| (\\d+) \\| (\\d+) \\|$")

// samples are how every route is asked, with the demo's own things; a route without one fails.
func (h house) samples(t testing.TB, x map[string]string) map[string]face.Route {
	out := map[string]face.Route{}
	put := func(s string) string {
		for name, id := range x {
			s = strings.ReplaceAll(s, "{"+name+"}", id)
		}
		return strings.ReplaceAll(s, "{new}", uuid.NewString())
	}
	for _, r := range web.Samples() {
		if r.Ask == "" {
			_, r.Ask, _ = strings.Cut(r.On, " ")
		}
		r.Ask, r.Send = put(r.Ask), slices.Clone(r.Send)
		for i := range r.Send {
			r.Send[i] = put(r.Send[i])
		}
		require.NotContains(t, r.Ask, ":", r.On)
		out[r.On] = r
	}
	for _, route := range h.routes {
		require.Contains(t, out, route, "nobody says how it is asked")
	}
	return out
}

// Every route, asked by everybody, answers as the table in docs/security.md
// says; a route that is not in the table fails.
func TestEveryDoorIsAsTheTableSays(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	x := h.things(t)
	stranger := h.Person(t, h.School(t, "elsewhere"), who.Coordinator, "stranger")
	people := []browser{
		h.browser(t), h.crew(t), h.adult(t, demo.People[1]), h.adult(t, demo.People[0]),
		h.adult(t, demo.Person{Login: "stranger@" + stranger.School.String()[30:] + ".example", Secret: "long enough a secret"}),
	}
	owner, err := pgx.Connect(t.Context(), h.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	paper, err := os.ReadFile(doors)
	require.NoError(t, err)
	said := map[string][]string{}
	for _, m := range doorLine.FindAllStringSubmatch(string(paper), -1) {
		said[m[1]] = m[2:]
	}
	samples, routes := h.samples(t, x), slices.Sorted(slices.Values(h.routes))
	// Signing out ends what the other rows need: it comes last.
	last := []string{"POST /sign-out/everywhere", "POST /sign-out"}
	slices.SortStableFunc(routes, func(a, b string) int { return slices.Index(last, a) - slices.Index(last, b) })
	for _, route := range routes {
		var got []string
		for i, p := range people {
			method, _, _ := strings.Cut(route, " ")
			if method == "GET" {
				res, body := p.get(samples[route].Ask)
				got = append(got, strconv.Itoa(res.StatusCode))
				if i == 4 {
					require.NotContains(t, body, "PAK-01", "%s shows another school's batch", route)
					require.NotContains(t, body, "Ferrywharf", route)
				}
				continue
			}
			if i == 3 && strings.HasPrefix(route, "POST /sign-in") { // on a slow machine the first wait might be over
				_, err := owner.Exec(t.Context(), "UPDATE sign_in_attempt SET failures = 20, last_failed = now()")
				require.NoError(t, err)
			}
			if method != "POST" {
				res, _ := p.do(method, samples[route].Ask, nil)
				got = append(got, strconv.Itoa(res.StatusCode))
				continue
			}
			res, _ := p.post(samples[route].Ask, append([]string{"id", uuid.NewString()}, samples[route].Send...)...)
			got = append(got, strconv.Itoa(res.StatusCode))
		}
		if !slices.Equal(said[route], got) {
			t.Errorf("it should say\n| `%s` | %s |", route, strings.Join(got, " | "))
		}
		delete(said, route)
	}
	require.Empty(t, said, "the table names routes that are not there")
}

// Signing out everywhere ends the other tablet's session too, and the trail says
// who came, what was changed and what was taken out.
func TestTheTrailAndSigningOutEverywhere(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	here, there := h.adult(t, demo.People[0]), h.adult(t, demo.People[0])
	wrong := h.browser(t)
	res, _ := wrong.post("/sign-in", "login", demo.People[0].Login, "password", "not this one")
	require.Equal(t, 422, res.StatusCode)
	again := h.adult(t, demo.People[0])
	for secret, says := range map[string]string{
		"password123": "one of the first", "aaaaaaaaaaaa": "one of the first", "tamsin-tamsin": "one of the first",
		"short": "at least 10", "Ferrywharf-School 2027": "one of the first",
	} {
		res, body := here.post("/settings/people", "id", uuid.NewString(), "kind", "staff", "name", "Tamsin", "login", "tamsin", "secret", secret)
		require.Equal(t, 422, res.StatusCode)
		require.Contains(t, body, says)
	}
	res, _ = here.post("/settings/people", "id", uuid.NewString(), "kind", "staff", "name", "Tamsin", "login", "tamsin", "secret", "oyster lamp gravel")
	require.Equal(t, 303, res.StatusCode)
	_, _ = here.get("/notebook.csv")
	crew := h.crew(t)
	for range 120 { // which would bury what others did
		res, _ := crew.get("/notebook.csv?q=nothing-like-this")
		require.Equal(t, 200, res.StatusCode)
	}
	_, body := there.get("/trail")
	for _, says := range []string{
		"Wrong password or PIN, on a device that was not known", "Added Tamsin as staff", "Downloaded the notebook as a file",
		"Downloaded the notebook as a file, 120 times since",
	} {
		require.Contains(t, body, says)
	}
	res, _ = here.post("/sign-out/everywhere")
	require.Equal(t, 303, res.StatusCode)
	for _, b := range []browser{here, there, again} {
		res, _ := b.get("/")
		require.Equal(t, "/sign-in", res.Header.Get("Location"))
	}
	res, _ = h.adult(t, demo.People[0]).get("/")
	require.Equal(t, 200, res.StatusCode)
}

// Addresses of the last release lead on: printed codes, bookmarks, programs with a key.
func TestEarlierAddressesLeadOn(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	ines := h.adult(t, demo.People[0])
	tank := h.things(t)["tank"]
	for from, to := range map[string]string{
		"/solution": "/tanks", "/solution/" + tank + "?days=30": "/tanks/" + tank + "?days=30",
		"/api/v1/troughs?limit=1": "/api/v1/fish-water?limit=1", "/api/v1/troughs/" + tank + "/feeds": "/api/v1/fish/" + tank + "/feeds",
	} {
		res, _ := ines.get(from)
		require.Equal(t, 308, res.StatusCode, from)
		require.Equal(t, to, res.Header.Get("Location"))
	}
	res, _ := ines.get("/solutions")
	require.Equal(t, 404, res.StatusCode, "nothing else is led anywhere")
	res, _ = h.browser(t).get("/solution/" + tank)
	require.Equal(t, "/sign-in", res.Header.Get("Location"))
}
