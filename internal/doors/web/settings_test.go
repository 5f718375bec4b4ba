package web_test

import (
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/require"

	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/web"
	"ulpa/internal/tests/testdb"
)

var (
	sectionLink = regexp.MustCompile(`class="section-link" href="(/settings/[a-z-]+)"`)
	likeLink    = regexp.MustCompile(`href="(/settings/[a-z-]+\?like=[0-9a-f-]+)#form"`)
)

// One of everything that the settings list is copied, changed, retired, undone and
// deleted, by the forms that the pages serve; what something hangs on cannot be deleted.
func TestOneOfEverythingIsChanged(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	changeEverything(t, h.adult(t, demo.People[0]))
	_, trail := h.adult(t, demo.People[0]).get("/trail")
	for _, says := range []string{
		"Added place: Spinnaker", "Changed place Spinnaker two: Name from Spinnaker to Spinnaker two", "Retired tray: Spinnaker two",
		"Restored packet: Spinnaker two", "Deleted tank: Spinnaker two", "Changed the order: Places",
	} {
		require.Contains(t, trail, says)
	}
}

// unused are the sections of which the demo has only such as nothing hangs on.
var unused = []string{
	"/settings/mixes", "/settings/salts", "/settings/recipes",
	"/settings/closures", "/settings/jobs", "/settings/own-crops", "/settings/goals",
	"/settings/terms", "/settings/special-days", "/settings/periods",
}

func changeEverything(t *testing.T, b browser) {
	ok := func(f servedForm) string {
		t.Helper()
		res, body := b.send(f)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, "%s\n%s", f.action, said(body))
		_, page := b.get(strings.Split(res.Header.Get("Location"), "#")[0])
		return page
	}
	_, index := b.get("/settings")
	seen := 0
	for _, m := range sectionLink.FindAllStringSubmatch(index, -1) {
		path := m[1]
		_, list := b.get(path)
		like := likeLink.FindStringSubmatch(list)
		if like == nil {
			continue
		}
		seen++
		_, page := b.get(like[1])
		f := served(t, page, path)
		name := "name"
		if path == "/settings/periods" { // called by who has it
			name = "whom"
		}
		f.values.Set(name, "Spinnaker")
		if path == "/settings/bed-sections" { // where nothing lies yet
			f.values.Set("x_cm", "302")
			f.values.Set("y_cm", "31")
		}
		if path == "/settings/closures" {
			f.values.Set("from", "2028-06-01")
			f.values.Set("to", "2028-06-02")
		}
		id := f.values.Get("id")
		list = ok(f)
		require.Contains(t, list, "<b>Spinnaker</b>", path)
		require.Equal(t, list, ok(f), "sent twice it is there once")

		_, page = b.get(path + "?edit=" + id)
		f = served(t, page, path)
		f.values.Set(name, "Spinnaker two")
		require.Contains(t, ok(f), "<b>Spinnaker two</b>", path)
		f.values.Set(name, "Spinnaker three")
		res, body := b.send(f)
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, path)
		require.Contains(t, body, "Somebody else changed", path)
		require.Contains(t, body, `value="Spinnaker three"`, path)

		if strings.Contains(list, path+"/retire") {
			b.post(path+"/retire", "id", id)
			_, list = b.get(path)
			in, retired, _ := strings.Cut(list, "<summary>Retired")
			require.NotContains(t, in, "<b>Spinnaker two</b>", path)
			require.Contains(t, retired, "<b>Spinnaker two</b>", path)
			f = served(t, list, path+"/back")
			require.Equal(t, id, f.values.Get("id"))
			ok(f)
		}
		if strings.Contains(list, path+"/move") {
			before := strings.Index(list, "<b>Spinnaker two</b>")
			res, _ := b.post(path+"/move", "id", id, "by", "-1")
			require.Equal(t, http.StatusSeeOther, res.StatusCode)
			_, list = b.get(path)
			require.Less(t, strings.Index(list, "<b>Spinnaker two</b>"), before)
			res, _ = b.post(path+"/order", "ids", id)
			require.Equal(t, http.StatusSeeOther, res.StatusCode)
			_, list = b.get(path)
			require.Equal(t, id, regexp.MustCompile(`<li data-id="([0-9a-f-]+)"`).FindStringSubmatch(list)[1], "first of all now")
		}
		_, page = b.get(path + "?edit=" + id)
		require.NotContains(t, ok(served(t, page, path+"/delete")), "Spinnaker two</b>", path)

		if !slices.Contains(unused, path) {
			for _, used := range regexp.MustCompile(`\?like=([0-9a-f-]+)`).FindAllStringSubmatch(list, -1) {
				if _, page = b.get(path + "?edit=" + used[1]); strings.Contains(page, `class="alters"`) {
					break
				}
			}
			require.Contains(t, page, `class="alters"`, "%s: a change says what it will alter", path)
			res, body := b.send(served(t, page, path+"/delete"))
			require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, path)
			require.Contains(t, body, "Retire it instead", path)
		}
	}
	require.GreaterOrEqual(t, seen, 9)
}

// refusals are what a page says is wrong.
func said(body string) string {
	return strings.Join(regexp.MustCompile(`(?s)class="(?:says|refused)[^>]*>[^<]*`).FindAllString(body, -1), "\n")
}

// Nobody is locked out, and whoever left is out.
func TestPeopleChangeAndComeBack(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	changePeople(t, h)
}

func changePeople(t *testing.T, h house) {
	ines := h.adult(t, demo.Person{Login: h.login(t, demo.People[0]), Secret: demo.People[0].Secret})
	tam := demo.Person{Login: h.login(t, demo.People[1]), Secret: demo.People[1].Secret}
	own := h.adult(t, tam)
	edit := func(name string) string {
		_, list := ines.get("/settings/people")
		m := regexp.MustCompile(`href="(/settings/people\?edit=[0-9a-f-]+)#form">Change<span\s+class="visually-hidden"> ` + name).FindStringSubmatch(list)
		require.NotNil(t, m, name)
		_, page := ines.get(m[1])
		return page
	}
	kept := func(res *http.Response, body string) {
		t.Helper()
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	}

	// The only coordinator cannot leave, nor become less.
	res, body := ines.send(served(t, edit("Ines Varrow"), "/leave"))
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, body, "is the only coordinator")

	// Two crews have no PIN in common, and nobody is told whose it is.
	res, body = ines.post("/settings/people", "id", uuid.NewString(), "kind", "crew", "name", "Yawl", "secret", "1302")
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, body, "is taken; roll dice for another")

	// One's own password: the old one is asked for, and other sessions are over.
	other := h.adult(t, tam)
	_, me := own.get("/me")
	res, body = own.send(served(t, me, "/me/secret").fill("Your password now", "not this", "The new password", "oyster lamp gravel"))
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, body, "that does not match")
	tam.Secret = "oyster lamp gravel"
	kept(own.send(served(t, me, "/me/secret").fill("Your password now", demo.People[1].Secret, "The new password", tam.Secret)))
	res, _ = other.get("/")
	require.Equal(t, "/sign-in", res.Header.Get("Location"))
	res, _ = own.get("/")
	require.Equal(t, http.StatusOK, res.StatusCode)

	// A second proof.
	kept(own.post("/me/proof"))
	_, me = own.get("/me")
	secret := regexp.MustCompile(`<p class="mono">([A-Z2-7]{32})</p>`).FindStringSubmatch(me)[1]
	res, _ = own.send(served(t, me, "/me/proof/prove").fill("The six-digit code", "000000"))
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	figures, err := totp.GenerateCode(secret, time.Now())
	require.NoError(t, err)
	kept(own.send(served(t, me, "/me/proof/prove").fill("The six-digit code", figures)))
	twice := h.browser(t)
	res, _ = twice.post("/sign-in", "login", tam.Login, "password", tam.Secret)
	require.Equal(t, "/sign-in/proof", res.Header.Get("Location"))
	res, _ = twice.get("/")
	require.Equal(t, "/sign-in", res.Header.Get("Location"), "half a sign-in opens nothing")
	_, page := twice.get("/sign-in/proof")
	res, _ = twice.send(served(t, page, "/sign-in/proof").fill("The six-digit code", figures))
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "figures open once")
	figures, err = totp.GenerateCode(secret, time.Now().Add(30*time.Second))
	require.NoError(t, err)
	res, _ = twice.send(served(t, page, "/sign-in/proof").fill("The six-digit code", figures))
	require.Equal(t, "/", res.Header.Get("Location"))

	// A forgotten password and a lost telephone.
	kept(ines.send(served(t, edit("Tam Brill"), "/end-proof")))
	res, _ = ines.send(served(t, edit("Tam Brill"), "/settings/code"))
	_, list := ines.get(res.Header.Get("Location"))
	code := regexp.MustCompile(`<b class="mono">([A-Z0-9-]{14})</b>`).FindStringSubmatch(list)[1]
	_, list = ines.get("/settings/people")
	require.NotContains(t, list, code, "shown once")
	back := h.browser(t)
	_, page = back.get("/sign-in/code")
	res, _ = back.send(served(t, page, "/sign-in/code").fill("The code", "ABCD-EFGH-JKMN", "Your new password", "kelp marrow trestle"))
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	res, _ = back.send(served(t, page, "/sign-in/code").fill("The code", strings.ToLower(code), "Your new password", "kelp marrow trestle"))
	require.Equal(t, "/", res.Header.Get("Location"))
	res, _ = back.send(served(t, page, "/sign-in/code").fill("The code", code, "Your new password", "kelp marrow trestle"))
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "it opens once")

	// Several coordinators; who leaves is out at once, and back when let in.
	kept(ines.send(served(t, edit("Tam Brill"), "/settings/person?edit="+editID(edit("Tam Brill"))).fill("Who", "coordinator", "Name", "Tam Brill-Oake")))
	kept(ines.send(served(t, edit("Tam Brill-Oake"), "/leave")))
	res, _ = back.get("/")
	require.Equal(t, "/sign-in", res.Header.Get("Location"))
	res, _ = back.post("/sign-in", "login", tam.Login, "password", "kelp marrow trestle")
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	_, list = ines.get("/settings/people")
	kept(ines.send(served(t, list, "/come-back")))
	h.adult(t, demo.Person{Login: tam.Login, Secret: "kelp marrow trestle"})

	// A crew's PIN, and what crews may do.
	kept(ines.send(served(t, edit("Punt"), "/settings/secret?edit="+editID(edit("Punt"))).fill("New PIN", "70518")))
	kept(ines.post("/settings/crews", "may", "plan"))
	kept(ines.post("/settings/prove-twice", "ask", "on"))
	res, _ = ines.get("/")
	require.Equal(t, "/me", res.Header.Get("Location"), "first the second proof")
	res, _ = ines.get("/me")
	require.Equal(t, http.StatusOK, res.StatusCode)
	kept(ines.post("/me/proof"))
	_, me = ines.get("/me")
	figures, err = totp.GenerateCode(regexp.MustCompile(`<p class="mono">([A-Z2-7]{32})</p>`).FindStringSubmatch(me)[1], time.Now())
	require.NoError(t, err)
	kept(ines.send(served(t, me, "/me/proof/prove").fill("The six-digit code", figures)))
	kept(ines.post("/settings/prove-twice"))
	kept(ines.post("/settings/crews", "may", "sow"))
	kept(ines.post("/me/proof/end"))
}

func editID(page string) string {
	return regexp.MustCompile(`name="person" value="([0-9a-f-]+)"`).FindStringSubmatch(page)[1]
}

// login is what somebody of the demo signs in with: another test may have changed it.
func (h house) login(t *testing.T, p demo.Person) (login string) {
	_, person, err := h.Store.PersonByLogin(t.Context(), "first."+p.Login)
	if err == nil && person == h.ines.Person || err == nil && p.Name != demo.People[0].Name {
		return "first." + p.Login
	}
	return p.Login
}

// A school begins in the browser with the key that was printed, once, and from nothing to
// its first round.
func TestASchoolBegins(t *testing.T) {
	t.Parallel()
	d := testdb.Empty(t)
	f, err := web.New(face.Config{Store: d.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil)), BeginKey: "OPENSESAME"})
	require.NoError(t, err)
	server := httptest.NewServer(f)
	t.Cleanup(server.Close)
	h := house{DB: d, server: server}
	b := h.browser(t)
	res, _ := b.get("/sign-in")
	require.Equal(t, "/begin", res.Header.Get("Location"))
	_, page := b.get("/begin")
	form := served(t, page, "/begin").fill("What it is called", "Slackwater School", "Its short name", "slackwater", "Its time zone", "Europe/Lisbon",
		"Latitude", "41.2", "Longitude", "-8.6", "Your name", "Rui", "What you sign in with", "rui", "Your password", "kelp marrow trestle")
	res, page = b.send(form.fill("The key", "GUESS"))
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, page, `value="Slackwater School"`)
	for label, says := range map[string]string{"Its time zone": "must be a time zone", "Latitude": "must be −90 to 90", "Your password": "at least 10"} {
		was := form.at(label)
		res, page = b.send(form.fill("The key", "opensesame", label, "99"))
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, label)
		require.Contains(t, page, says)
		form.fill(label, was)
	}
	res, page = b.send(form)
	require.Equal(t, "/settings", res.Header.Get("Location"), said(page))
	res, _ = h.browser(t).send(form)
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "it begins once")

	// What is still to be told, told: each step's form is where the list leads.
	step := func(path, action string, pairs ...string) {
		t.Helper()
		_, index := b.get("/settings")
		require.Contains(t, index, `href="`+path+`"`)
		_, page := b.get(path)
		res, page := b.send(served(t, page, action).fill(pairs...))
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(page))
	}
	step("/settings/people", "/settings/people", "Who", "crew", "Name", "Bosun", "Password, or PIN of a crew", "70518")
	step("/settings/school#day", "/settings/day", "Begins", "08:00", "Last bell", "16:00")
	step("/settings/closures?add=1#form", "/settings/closures", "First day", "2027-04-01", "Last day", "2027-04-05", "Why", "Spring fair")
	step("/settings/places?add=1#form", "/settings/places", "Name", "Sunny sill", "Kind", "sill", "Usual temperature", "20")
	step("/settings/trays?add=1#form", "/settings/trays", "Name", "Egg box", "Rows", "2", "Columns", "6", "Volume of a cell", "35")
	step("/settings/lots?add=1#form", "/settings/lots", "Crop", "lettuce", "Variety", "Spindrift", "Lot number, as on the packet", "SD", "Year packed", "2026")
	crew := h.browser(t)
	_, page = crew.get("/sign-in?school=slackwater")
	res, _ = crew.send(served(t, page, "/sign-in/crew").fill("PIN", "70518"))
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page = crew.get("/sow")
	f2 := served(t, page, "/sow").fill("Plants wanted", "4")
	f2.values.Set("cells", "A1-A5")
	f2.values.Set("seeds", "1")
	for _, name := range []string{"lot", "tray"} {
		f2.values.Set(name, regexp.MustCompile(`(?s)name="` + name + `".*?<option value="([0-9a-f-]{36})"`).FindStringSubmatch(page)[1])
	}
	res, page = crew.send(f2)
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(page))
	_, page = crew.get("/nursery")
	require.Contains(t, page, "LET-01", "a crew sows")
	_, index := b.get("/settings")
	require.NotContains(t, index, "Still to be entered")
}
