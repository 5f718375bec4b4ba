package web_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/crop"
	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
)

// A plant that nobody knows is entered, watched and named later, and is no food before that.
func TestAnUnknownPlantIsNamedLater(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	var place string
	require.NoError(t, h.Store.Read(t.Context(), h.ines, func(tx *store.Tx) error {
		return tx.Conn().QueryRow(t.Context(), "SELECT id::text FROM place WHERE kind = 'bench' LIMIT 1").Scan(&place)
	}))
	send := func(want int, page, action string, values ...string) (*http.Response, string) {
		t.Helper()
		_, body := b.get(page)
		f := served(t, body, action)
		for i := 0; i < len(values); i += 2 {
			f.values.Set(values[i], values[i+1])
		}
		res, body := b.send(f)
		require.Equal(t, want, res.StatusCode, said(body))
		return res, body
	}
	res, _ := send(http.StatusSeeOther, "/adopt", "/adopt",
		"crop", crop.Unknown, "variety", "third from the left", "plants", "2", "place", place, "since", "2026-11-01")
	path := res.Header.Get("Location")
	_, page := b.get(path)
	for _, says := range []string{"Unknown plant", "third from the left", "UNK-01", "Nobody knows what this is: never taste it"} {
		require.Contains(t, page, says)
	}
	_, page = b.get("/harvest")
	require.NotContains(t, page, "UNK-01", "in no list of what can be cut")
	_, said := send(http.StatusUnprocessableEntity, path, path+"/harvest", "grams", "80", "plants", "1", "how", "whole")
	require.Contains(t, said, "nobody knows what this plant is")
	_, page = b.get("/")
	require.NotContains(t, page, "Harvest UNK-01")

	send(http.StatusSeeOther, path, path+"/describe", "crop", "lettuce", "variety", "Harbour Frill")
	_, page = b.get(path)
	require.NotContains(t, page, "never taste it")
	require.Contains(t, page, "Harbour Frill")
	send(http.StatusSeeOther, path, path+"/harvest", "grams", "80", "plants", "1", "how", "whole")
}
