package web_test

import (
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/internal/doors/demo"
	"ulpa/internal/doors/face"
	"ulpa/internal/doors/help"
	"ulpa/internal/doors/web"
)

// What help stands beside is a page, every answer is on the page of all help and is found,
// every piece of news leads somewhere, and each step of the first week opens in the demo.
func TestHelpLeadsSomewhere(t *testing.T) {
	t.Parallel()
	files, err := filepath.Glob("../../*/*/*/*.html")
	require.NoError(t, err)
	pages := map[string]bool{}
	for _, f := range files {
		pages[strings.TrimSuffix(filepath.Base(f), ".html")] = true
	}
	h := newHouse(t)
	ines := h.adult(t, demo.People[0])
	_, all := ines.get("/help")
	ids := map[string]bool{}
	for _, c := range help.Chapters {
		for _, topic := range c.Topics {
			require.False(t, ids[topic.ID], "%s is in the list twice", topic.ID)
			ids[topic.ID] = true
			require.Contains(t, all, `id="h-`+topic.ID+`"`)
			require.NotEmpty(t, topic.Beside, topic.ID)
			for _, page := range topic.Beside {
				require.True(t, pages[page], "%s stands beside %s, which is no page", topic.ID, page)
			}
		}
	}
	for path, status := range map[string]int{"/api/v1/nothing": 404, "/api/nothing": 404, "/api/v1/calc/air": 405} {
		res, _ := ines.get(path)
		require.Equal(t, status, res.StatusCode, path)
		require.Equal(t, "application/problem+json", res.Header.Get("Content-Type"), "programs are answered as programs")
	}
	_, found := ines.get("/find?q=mistake")
	require.Contains(t, found, "/help#h-right")
	for _, n := range help.All {
		res, _ := ines.get(n.Path)
		require.Equal(t, http.StatusOK, res.StatusCode, n.Path)
	}
	_, tank := ines.get("/tanks/" + h.things(t)["tank"])
	require.Contains(t, tank, `id="h-dose"`)
	_, week := ines.get("/help/week")
	require.NotContains(t, week, ">Open it<", "in a real school the steps are read")

	f, err := web.New(face.Config{Store: h.Store, Log: slog.New(slog.NewTextHandler(io.Discard, nil)), Clock: h.Clock})
	require.NoError(t, err)
	shown := httptest.NewServer(f)
	t.Cleanup(shown.Close)
	ines.base = shown.URL
	_, week = ines.get("/help/week")
	links := regexp.MustCompile(`href="([^"]*)">Open it<`).FindAllStringSubmatch(week, -1)
	require.Len(t, links, strings.Count(week, `<p class="do">`), "each step opens")
	for _, link := range links {
		res, _ := ines.get(link[1])
		require.Equal(t, http.StatusOK, res.StatusCode, link[1])
	}
}
