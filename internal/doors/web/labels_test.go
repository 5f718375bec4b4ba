package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/internal/doors/demo"
)

// labelThings prints what has no label, by the form as it is served, and says that it has one now.
func labelThings(t *testing.T, b browser) {
	_, page := b.get("/labels")
	f := served(t, page, "/labels.pdf")
	require.NotEmpty(t, f.values["of"], "what has no label is chosen at first")
	res, body := b.get("/labels.pdf?" + f.values.Encode())
	require.Equal(t, http.StatusOK, res.StatusCode)
	require.Equal(t, "application/pdf", res.Header.Get("Content-Type"))
	require.True(t, strings.HasPrefix(body, "%PDF-"))
	f.values.Set("sheet", "own")
	f.values.Set("page_w", "100")
	f.values.Set("page_h", "100")
	f.values.Set("w", "40")
	f.values.Set("h", "20")
	f.values.Set("columns", "3")
	res, body = b.get("/labels.pdf?" + f.values.Encode())
	require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode)
	require.Contains(t, said(body), "reach beyond the page")
	require.Contains(t, body, `name="page_w" inputmode="decimal" value="100"`, "what was typed stays")
	f.action = "/labels/printed"
	res, _ = b.send(f)
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	_, page = b.get("/labels")
	require.NotContains(t, page, f.values.Get("of"))
	res, _ = b.get("/b/LET-05")
	require.Equal(t, http.StatusSeeOther, res.StatusCode)
	require.True(t, strings.HasPrefix(res.Header.Get("Location"), "/batches/"))
}

func TestLabelsByTheirForm(t *testing.T) { labelThings(t, newHouse(t).adult(t, demo.People[0])) }

// A label that is read while nobody is signed in asks who it is, and leads there then, once; no
// other address does.
func TestALabelAsksWhoItIs(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	for path, leads := range map[string]string{"/b/LET-05": "/b/LET-05", "/b/LET-05x": "/", "/settings": "/"} {
		b := h.browser(t)
		res, _ := b.get(path)
		require.Equal(t, "/sign-in", res.Header.Get("Location"), path)
		for _, to := range []string{leads, "/"} {
			res, _ := b.post("/sign-in", "login", demo.People[0].Login, "password", demo.People[0].Secret)
			require.Equal(t, to, res.Header.Get("Location"), path)
		}
	}
}
