package web_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/internal/doors/demo"
)

// tendSeed does what the pages of seed and trays offer, by their own forms.
func tendSeed(t *testing.T, b browser) {
	path := func(page, link string) string {
		m := regexp.MustCompile(`href="(/(?:seeds|trays)/[0-9a-f-]{36})"><b>` + link + `</b>`).FindStringSubmatch(page)
		require.NotNil(t, m, link)
		return m[1]
	}
	_, shelf := b.get("/seeds")
	lot := path(shelf, "TR-25")
	send := func(page, action string, status int, pairs ...string) string {
		t.Helper()
		_, body := b.get(page)
		f := served(t, body, action)
		for i := 0; i < len(pairs); i += 2 {
			f.values.Set(pairs[i], pairs[i+1])
		}
		res, body := b.send(f)
		require.Equal(t, status, res.StatusCode, said(body))
		return body
	}
	kept, refused := http.StatusSeeOther, http.StatusUnprocessableEntity
	body := send(lot, lot+"/test", refused, "seeds", "3")
	require.Contains(t, body, "enter 5 to 400 seeds")
	require.Equal(t, "3", served(t, body, lot+"/test").values.Get("seeds"), "what was typed stays")
	send(lot, lot+"/test", kept, "seeds", "20", "on", "bag")
	require.Contains(t, send(lot, lot+"/seen", refused, "came", "21"), "so many were laid out")
	send(lot, lot+"/seen", kept, "came", "17", "bad", "1", "over", "1")
	_, page := b.get(lot)
	require.Contains(t, page, "17 of 20 came")
	send(lot, lot+"/recount", kept, "seeds", "", "grams", "0.5")
	send(lot, lot+"/finish", kept, "why", "used-up")
	_, page = b.get(lot)
	require.Contains(t, page, "Not on the shelf any more")

	_, trays := b.get("/trays?all=1")
	tray := path(trays, "Tray 12")
	require.Contains(t, send(tray, tray+"/keep", refused, "cells", "C6-C9", "on", "2027-03-30"), "outside this tray")
	send(tray, tray+"/keep", kept, "cells", "A1-A3", "on", "2027-03-30")
	counted := path(trays, "Tray 7")
	require.Contains(t, send(counted, counted+"/count", refused, "sprouted", "Z9"), "outside")
	require.Contains(t, send(counted, counted+"/count", refused, "sprouted", "A1-A2", "empty", "A2"), "A2 cannot be both up and empty")
	send(tray, tray+"/unkeep", kept)
	send("/trays", "/trays", kept, "many", "2", "rows", "4", "columns", "6", "cell_ml", "90")
	_, page = b.get("/trays?all=1")
	require.Equal(t, strings.Count(trays, `<a href="/trays/`)+2, strings.Count(page, `<a href="/trays/`))
}

func TestSeedAndTraysByTheirForms(t *testing.T) {
	t.Parallel()
	tendSeed(t, newHouse(t).adult(t, demo.People[0]))
}

// A file of packets is looked at line by line, with the columns that were chosen, before any
// of it is kept.
func TestPacketsFromAFile(t *testing.T) {
	t.Parallel()
	b := newHouse(t).adult(t, demo.People[0])
	_, page := b.get("/seeds/file")
	f := served(t, page, "/seeds/file")
	f.values.Set("text", "What,Sort,When\nLettuce,Ebb,2026\nMoss,Flow,2026\n")
	res, body := b.send(f)
	require.Equal(t, http.StatusOK, res.StatusCode)
	require.Contains(t, body, "choose a column", "no heading tells which is the crop")
	f = served(t, body, "/seeds/file")
	f.values.Set("crop", "0")
	f.values.Set("packed", "2")
	_, body = b.send(f)
	require.Contains(t, body, "no crop is called “Moss” here")
	require.NotContains(t, body, "Save these packets", "all or nothing")
	f = served(t, body, "/seeds/file")
	f.values.Set("text", "What,Sort,When\nLettuce,Ebb,2026\n")
	_, body = b.send(f)
	f = served(t, body, "/seeds/file")
	f.values.Set("keep", "1")
	res, body = b.send(f)
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	_, page = b.get("/seeds?crop=lettuce")
	require.Contains(t, page, "Ebb 2026")
}
