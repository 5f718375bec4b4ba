package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
)

// stands is all that is present in the school: what was written of it is not.
func (h house) stands(t *testing.T) map[string]string {
	out := map[string]string{}
	require.NoError(t, h.Store.Read(t.Context(), h.ines, func(tx *store.Tx) error {
		for what, q := range map[string]string{
			"batches": "SELECT code, purpose, wanted, ready_by, state FROM batch WHERE NOT closed", "cells": "SELECT * FROM cell", "ports": "SELECT * FROM port",
			"stands": "SELECT * FROM stand", "packets": "SELECT id, seeds_left, retired, gone FROM seed_lot",
			"gaps": "SELECT tray_id, cells, crop, on_day FROM tray_gap",
			"beds": "SELECT * FROM bed_crop", "planned": "SELECT crop, wanted, sow_on, ready_by FROM planned WHERE NOT settled",
		} {
			var text *string
			if err := tx.Conn().QueryRow(t.Context(), "SELECT string_agg(x::text, E'\\n' ORDER BY x::text) FROM ("+q+") x").Scan(&text); err != nil {
				return err
			}
			if text != nil {
				out[what] = *text
			}
		}
		return nil
	}))
	return out
}

// After every act there is an Undo, and pressing it leaves the school as it was.
func TestEveryActIsUndone(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b, x := h.adult(t, demo.People[0]), h.things(t)
	var several, free string // a tray with more than one batch, and one with room

	require.NoError(t, h.Store.Read(t.Context(), h.ines, func(tx *store.Tx) error {
		err := tx.Conn().QueryRow(t.Context(), "SELECT id::text FROM tray WHERE name = 'Tray 12'").Scan(&free)
		require.NoError(t, err)
		return tx.Conn().QueryRow(t.Context(),
			"SELECT tray_id::text FROM cell WHERE state = 'sown' GROUP BY tray_id HAVING count(DISTINCT batch_id) > 1 LIMIT 1").Scan(&several)
	}))
	batch, lot, tray := "/batches/"+x["batch"], "/seeds/"+x["lot"], "/trays/"+several
	free, planned := "/trays/"+free, uuid.NewString()
	_, page := b.get(free)
	res, body := b.send(served(t, page, free+"/keep").fill("Cells, such as A1-B6", "A1-A3", "On the day", "2027-03-30")) // and some of it is sown
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	res, body = b.post("/planned", "id", planned, "crop", "lettuce", "wanted", "6", "sow_on", "2027-03-29", "ready_by", "2027-05-10")
	require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	before := h.stands(t)
	for _, act := range []struct {
		page, action string
		pairs        []string
	}{
		{batch, "/describe", []string{"purpose", "the spring fair", "wanted", "7"}},
		{batch, "/describe", []string{"planned", planned}},
		{batch, "/hand-over", []string{"plants", "2", "way", "sold"}},
		{batch, "/lose", []string{"plants", "2"}},
		{batch, "/harvest", []string{"grams", "120", "plants", "1", "how", "whole"}},
		{tray, tray + "/count", nil},
		{lot, "/recount", []string{"seeds", "33"}},
		{lot, "/finish", []string{"why", "mice"}},
		{lot, "/test", []string{"seeds", "20", "on", "bag"}},
		{free, "/keep", []string{"cells", "B1", "on", "2027-03-30"}},
		{free, "/unkeep", nil},
		{"/sow?tray=" + free[len("/trays/"):], "/sow", []string{"cells", "A2-A3", "wanted", "1", "lot", x["lot"], "seeds", "2"}},
		{"/season/beds", "/season/beds/grew", []string{"crop", "kale", "year", "2025"}},
		{"/season/beds", "/season/beds/forget", nil},
		{"/nursery", "/drop", nil},
	} {
		_, page := b.get(act.page)
		f := served(t, page, act.action)
		for i := 0; i < len(act.pairs); i += 2 {
			f.values.Set(act.pairs[i], act.pairs[i+1])
		}
		if act.action == tray+"/count" {
			f.values.Set("sprouted", eachSown(f.values.Get("seen")))
		}
		res, body := b.send(f)
		require.Equal(t, http.StatusSeeOther, res.StatusCode, "%s: %s", act.action, said(body))
		if act.action != "/test" { // which writes entries alone
			require.NotEqual(t, before, h.stands(t), act.action)
		}
		_, page = b.get(res.Header.Get("Location"))
		undo, _, _ := strings.Cut(page[strings.Index(page, `class="flash"`):], "</div>")
		require.Contains(t, undo, "Undo", act.action)
		res, body = b.send(served(t, "<html><body>"+undo, ""))
		require.Equal(t, http.StatusSeeOther, res.StatusCode, "%s: %s", act.action, said(body))
		now := h.stands(t)
		for what := range before {
			require.Equal(t, before[what], now[what], "%s, undone: %s", act.action, what)
		}
	}
}

// One look over a tray counts every batch in it, also those that nothing was marked of; marks saved
// alone count only their own.
func TestOneLookCountsTheWholeTray(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	b := h.adult(t, demo.People[0])
	var tray, code string
	var in int
	require.NoError(t, h.Store.Read(t.Context(), h.ines, func(tx *store.Tx) error {
		return tx.Conn().QueryRow(t.Context(), "SELECT c.tray_id::text, min(b.code), count(DISTINCT batch_id) FROM cell c JOIN batch b ON b.id = c.batch_id "+
			"WHERE c.state = 'sown' GROUP BY 1 HAVING count(DISTINCT batch_id) > 1 LIMIT 1").Scan(&tray, &code, &in)
	}))
	counted := func() (n int) {
		require.NoError(t, h.Store.Read(t.Context(), h.ines, func(tx *store.Tx) error {
			return tx.Conn().QueryRow(t.Context(), "SELECT count(*) FROM entry WHERE kind = 'count'").Scan(&n)
		}))
		return n
	}
	counts := counted()
	for _, button := range []string{"Save only the batches I marked", "Save the count of the whole tray"} {
		_, page := b.get("/trays/" + tray)
		require.Contains(t, page, ">"+code+"</text>", "its code stands in the drawing")
		f := served(t, page, "/trays/"+tray+"/count")
		f.values.Set("sprouted", strings.Fields(eachSown(f.values.Get("seen")))[0])
		res, body := b.send(f.press(button))
		require.Equal(t, http.StatusSeeOther, res.StatusCode, said(body))
	}
	require.Equal(t, counts+1+in, counted())
}

// eachSown is the cells in which nothing has come up yet, of what a tray's page showed.
func eachSown(seen string) string {
	var out []string
	for _, x := range strings.Fields(seen) {
		if cell, state, _ := strings.Cut(x, ":"); state == "sown" {
			out = append(out, cell)
		}
	}
	return strings.Join(out, ", ")
}
