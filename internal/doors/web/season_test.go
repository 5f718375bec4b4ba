package web_test

import (
	"html"
	"net/http"
	"net/url"
	"regexp"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/internal/doors/demo"
)

// The season's forms as the page serves them: a sowing is pinned, freed and left out, a day
// that is closed is refused beside its field with what was typed, the plan is kept, and what
// grew in a bed is written down and undone.
func TestSeasonForms(t *testing.T) {
	t.Parallel()
	planASeason(t, newHouse(t).adult(t, demo.People[0]))
}

var barLink = regexp.MustCompile(`href="(/season\?batch=[0-9a-f-]+)#batch" class="barlink" data-batch`)

func planASeason(t *testing.T, b browser) {
	_, page := b.get("/season")
	bar := barLink.FindStringSubmatch(page)
	require.NotNil(t, bar, "bars lead to their batch")
	wish := func(act string, more ...string) (int, string) {
		t.Helper()
		_, page := b.get(html.UnescapeString(bar[1]))
		f := served(t, page, "/season/wish")
		if act == "skip" { // stands in a form of its own, without a day
			f.values = url.Values{"batch": f.values["batch"]}
		}
		f.values.Set("act", act)
		for i := 0; i < len(more); i += 2 {
			f.values.Set(more[i], more[i+1])
		}
		res, body := b.send(f)
		return res.StatusCode, body
	}
	status, _ := wish("pin-day")
	require.Equal(t, http.StatusSeeOther, status)
	_, page = b.get(bar[1])
	require.Contains(t, page, "as you said")
	status, body := wish("pin-day", "day", "2027-04-03") // a Saturday in the holidays
	require.Equal(t, http.StatusUnprocessableEntity, status)
	require.Contains(t, body, `value="2027-04-03"`)
	require.Contains(t, body, "is a day on which nobody works")
	for _, act := range []string{"not-day", "pin-place", "free", "skip"} {
		status, _ = wish(act)
		require.Equal(t, http.StatusSeeOther, status, act)
	}
	_, page = b.get(bar[1])
	require.Contains(t, page, "Left out")
	status, body = wish("free", "stage", "")
	require.Equal(t, http.StatusSeeOther, status, said(body))
	_, page = b.get("/season")
	res, body := b.send(served(t, page, "/season/keep"))
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	_, page = b.get("/season")
	require.NotContains(t, page, "Not saved yet")

	_, page = b.get("/season/beds")
	f := served(t, page, "/season/beds/forget")
	res, _ = b.send(f)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page = b.get("/season/beds")
	require.NotContains(t, page, f.values.Get("id"))
	res, _ = b.send(served(t, page, "/season/beds/grew"))
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	res, _ = b.send(served(t, page, "/season/beds/rule"))
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
}

// A station's file and a calendar are looked at before anything of them is kept; what cannot
// be read is refused by its line, and the columns chosen stay chosen.
func TestFilesOfTheSeason(t *testing.T) {
	t.Parallel()
	b := newHouse(t).adult(t, demo.People[0])
	look := func(path, text string) (int, string) {
		_, page := b.get(path)
		f := served(t, page, path)
		f.values.Set("text", text)
		res, body := b.send(f)
		return res.StatusCode, body
	}
	status, body := look("/season/frost", "no table")
	require.Equal(t, http.StatusUnprocessableEntity, status)
	require.Contains(t, body, "is not a table")
	status, body = look("/season/frost", "day,tmax,tmin\n2026-04-13,9,-1.5\n2026-04-14,8,cold\n")
	require.Equal(t, http.StatusOK, status)
	f := served(t, body, "/season/frost")
	require.Equal(t, "2", f.values.Get("low"), "the low is found by its name")
	res, body := b.send(f)
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, said(body), "line 3: “cold” is not a number")
	f = served(t, body, "/season/frost")
	f.values.Set("low", "1")
	res, _ = b.send(f)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)

	status, body = look("/season/calendar", "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:x\nBEGIN:VEVENT\nUID:1\nSUMMARY:Regatta\nDTSTART;VALUE=DATE:20270611\n"+
		"END:VEVENT\nBEGIN:VEVENT\nUID:2\nSUMMARY:Garden club\nDTSTART:20270414T130000\nDTEND:20270414T140000\nRRULE:FREQ=WEEKLY;COUNT=12\n"+
		"END:VEVENT\nEND:VCALENDAR\n")
	require.Equal(t, http.StatusOK, status)
	f = served(t, body, "/season/calendar/close")
	f.values["pick"], f.values["weekly"] = []string{"0"}, []string{"0"}
	f.values.Set("as", "special")
	res, _ = b.send(f)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page := b.get("/settings/special-days")
	require.Contains(t, page, "Regatta")
	_, page = b.get("/settings/periods")
	require.Contains(t, page, "Garden club")
}
