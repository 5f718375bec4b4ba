package web_test

import (
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/work/site"
)

// An open flat through its forms, as the pages served them: sown by the section with as many seeds as
// was worked out, counted by typing, and pricked out into cells.
func TestAnOpenFlatThroughItsForms(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	flat, cells := uuid.New(), uuid.New()
	var lot, place string
	one := func(query string, into ...any) {
		require.NoError(t, h.Store.Read(t.Context(), h.ines, func(tx *store.Tx) error {
			return tx.Conn().QueryRow(t.Context(), query, into[:len(into)-1]...).Scan(into[len(into)-1])
		}))
	}
	one("SELECT id::text FROM seed_lot WHERE seeds_left > 400 AND NOT retired ORDER BY name LIMIT 1", &lot)
	one("SELECT id::text FROM place WHERE kind = 'bench' LIMIT 1", &place)
	for id, kind := range map[uuid.UUID]string{flat: "flat", cells: "cells"} {
		like := site.TraySetup{ID: id, Name: "Try " + kind, Place: uuid.MustParse(place), Rows: 4, Columns: 1, CellML: 1000, Kind: kind, Medium: "compost"}
		require.NoError(t, site.AddTray(t.Context(), h.Store, h.ines, like))
	}
	send := func(page, action string, values ...string) {
		t.Helper()
		f := served(t, page, action)
		for i := 0; i < len(values); i += 2 {
			f.values.Set(values[i], values[i+1])
		}
		res, body := b.send(f)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	}
	_, page := b.get("/sow?lot=" + lot + "&wanted=60&tray=" + flat.String() + "&cells=A1-B1")
	require.Contains(t, page, "Which sections?")
	send(page, "/sow")
	_, page = b.get("/trays/" + flat.String())
	send(page, "/trays/"+flat.String()+"/count", "n_A1", "31", "over_A1", "1")
	_, page = b.get("/trays/" + flat.String())
	require.Contains(t, page, "31 growing, no more will come up")
	refused, _ := b.send(func() servedForm {
		f := served(t, page, "/trays/"+flat.String()+"/count")
		f.values.Set("n_A1", "many")
		return f
	}())
	require.Equal(t, http.StatusUnprocessableEntity, refused.StatusCode)
	_, sheet := b.get("/trays/" + flat.String() + "/sheet")
	require.Contains(t, sheet, "2 sections, about")
	_, notes := b.get("/notebook")
	require.Contains(t, notes, "31 growing in A1, no more will come up")
	_, page = b.get("/trays/" + flat.String() + "/shift")
	send(page, "/trays/"+flat.String()+"/shift", "n_A1", "4", "into", cells.String())
	_, page = b.get("/trays/" + flat.String())
	require.Contains(t, page, "27 growing")
	var up int
	one("SELECT count(*) FROM cell WHERE tray_id = $1 AND state = 'sprouted'", cells, &up)
	require.Equal(t, 4, up)
}
