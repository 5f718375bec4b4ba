package api_test

import (
	"encoding/json"
	"testing"

	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/doors/api"
)

// present is all that stands, is on shelves and in tanks now.
func (p program) present() map[string]any {
	out := map[string]any{}
	for _, kind := range []string{"lots", "trays", "pots", "mixes", "tanks", "places", "planned", "gaps", "batches", "stock-levels"} {
		var of []any
		for _, x := range p.list("/" + kind).Items {
			if kind == "batches" {
				var whole map[string]any
				require.NoError(p.t, json.Unmarshal(p.ask("GET", "/batches/"+x["id"].(string), nil).Body.Bytes(), &whole))
				x = whole
			}
			delete(x, "days_left") // which go with the hour
			delete(x, "litres_day")
			of = append(of, x)
		}
		out[kind] = of
	}
	return out
}

// An act and its undoing leave the present as it was: seed is in its packet again, pots are clean,
// compost is in its sack, and no batch is left that never was.
func TestAnUndoGivesEverythingBack(t *testing.T) {
	p, d := newProgram(t)
	often := gin.New() // more often than a key may
	api.Routes(often, api.School{Store: d.Store, Clock: d.Clock, PerSecond: 1e6, Address: func(*gin.Context) string { return "" }})
	p.g = often
	first := func(kind string, ok func(map[string]any) bool) map[string]any {
		for _, x := range p.list("/" + kind).Items {
			if ok == nil || ok(x) {
				return x
			}
		}
		require.Fail(t, "there is none", kind)
		return nil
	}
	was := p.present()
	where := func(kind string, states ...string) (batch string, spots []any) {
		for _, x := range was["batches"].([]any) {
			b := x.(map[string]any)
			batch, spots = b["id"].(string), nil
			for _, s := range b["where"].([]any) {
				at := s.(map[string]any)
				if at["kind"] == kind && (len(states) == 0 || at["state"] == states[0]) {
					spots = append(spots, map[string]any{"kind": kind, "in": at["in"], "name": at["name"]})
				}
			}
			if len(spots) > 2 {
				return batch, spots
			}
		}
		require.Fail(t, "nothing stands there", kind)
		return "", nil
	}
	lot := first("lots", func(x map[string]any) bool { n, _ := x["seeds_left"].(float64); return n > 100 })
	tray := uuid.NewString()
	require.Equal(t, 201, p.ask("PUT", "/trays/"+tray, map[string]any{
		"name": "Spare tray", "place": first("places", func(x map[string]any) bool { return x["kind"] == "bench" })["id"],
		"rows": 3, "columns": 4, "cell_ml": 40, "drains": true, "kind": "cells", "medium": "compost",
	}, "If-None-Match", "*").Code)
	was = p.present()
	up, cells := where("cell", "sprouted")
	waiting, sown := where("cell", "sown")
	ports, heads := where("port")
	bench := first("places", func(x map[string]any) bool { return x["kind"] == "bench" })["id"]
	tank := first("tanks", func(x map[string]any) bool { return x["spec"].(map[string]any)["passive"] != true })["id"].(string)
	mark := sown[0].(map[string]any)
	for name, act := range map[string]struct {
		path string
		body map[string]any
	}{
		"sow": {"/batches", map[string]any{"lot": lot["id"], "tray": tray, "cells": []string{"A1", "A2", "B1"}, "seeds_per_cell": 2, "wanted": 2}},
		"count": {"/batches/" + waiting + "/counts", map[string]any{"marks": []any{
			map[string]any{"tray": mark["in"], "cell": mark["name"], "state": "sprouted"},
		}}},
		"pot on": {"/batches/" + up + "/moves", map[string]any{
			"from": cells[:2], "to": bench, "pot": first("pots", nil)["id"], "mix": first("mixes", nil)["id"], "sure": true,
		}},
		"lose":      {"/batches/" + up + "/losses", map[string]any{"from": cells[:2], "cause": "eaten"}},
		"hand over": {"/batches/" + up + "/handovers", map[string]any{"from": cells[:2], "way": "sold"}},
		"harvest":   {"/batches/" + ports + "/harvests", map[string]any{"grams": 200, "from": heads[:2], "sure": true}},
		"treat":     {"/tanks/" + tank + "/treatments", map[string]any{"water_l": 3, "stock_ml": 10, "sure": true}},
		"read":      {"/tanks/" + tank + "/readings", map[string]any{"ph": 6, "ec_ms_cm": 1.4, "level_l": 40, "sure": true}},
		"care":      {"/trays/" + tray + "/care", map[string]any{"did": []string{"watered"}}},
	} {
		id := uuid.NewString()
		act.body["id"] = id
		res := p.ask("POST", act.path, act.body)
		require.Less(t, res.Code, 300, "%s: %s", name, res.Body)
		require.Equal(t, 204, p.ask("POST", "/entries/"+id+"/undo", map[string]any{"id": uuid.NewString()}).Code, name)
		require.Equal(t, was, p.present(), name)
	}
}
