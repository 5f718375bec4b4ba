package api_test

import (
	"encoding/json"
	"net/http/httptest"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
)

// A program follows the boards of a raft: what is to be done is done as it is told, each act
// sent twice; what was seen before is not written over; and a board says what it bore.
func TestAProgramKeepsARaft(t *testing.T) {
	p, _ := newProgram(t)
	var at string
	for _, x := range p.list("/places").Items {
		if x["name"] == "Long table" {
			at = "/places/" + x["id"].(string) + "/boards"
		}
	}
	type do struct {
		Kind, Batch   string
		Board, Plants int
		Order         []int
	}
	var raft struct {
		Boards []struct {
			Board, Holes int
			Standing     []struct{ Batch string }
		}
		Do    []do
		Weeks []struct{ Plants int }
	}
	read := func(res *httptest.ResponseRecorder) {
		require.Equal(t, 200, res.Code, res.Body.String())
		require.NoError(t, json.Unmarshal(res.Body.Bytes(), &raft))
	}
	first := func(kind string) do {
		for _, d := range raft.Do {
			if d.Kind == kind {
				return d
			}
		}
		require.Fail(t, "nothing to "+kind, "%+v", raft.Do)
		return do{}
	}
	read(p.ask("GET", at, nil))
	was := []int{}
	for _, b := range raft.Boards {
		was = append(was, b.Board)
	}
	ripe := first("harvest")
	cut := map[string]any{"id": uuid.NewString(), "batch": ripe.Batch, "board": ripe.Board, "grams": 99_000}
	require.Equal(t, 409, p.ask("POST", at+"/harvest", cut).Code, "so much is asked about")
	cut["grams"] = 1100
	read(p.ask("POST", at+"/harvest", cut))
	read(p.ask("POST", at+"/harvest", cut))
	turn := map[string]any{"id": uuid.NewString(), "order": first("turn").Order, "was": was, "scrubbed": []int{ripe.Board}}
	read(p.ask("POST", at, turn))
	require.Equal(t, ripe.Board, raft.Boards[0].Board, "it came out and went in at the other end")
	turn["id"], turn["order"] = uuid.NewString(), was
	require.Equal(t, 422, p.ask("POST", at, turn).Code, "they float otherwise meanwhile")
	d := first("plant")
	plant := map[string]any{"id": uuid.NewString(), "batch": d.Batch, "board": d.Board, "plants": 100}
	require.Equal(t, 422, p.ask("POST", at+"/plant", plant).Code)
	plant["plants"] = d.Plants
	read(p.ask("POST", at+"/plant", plant))
	for _, b := range raft.Boards {
		if b.Board == d.Board {
			require.Equal(t, d.Batch, b.Standing[0].Batch)
		}
	}
	var board struct {
		Grams float64
		Stays []struct{ Harvested, Plants int }
	}
	res := p.ask("GET", at+"/"+string(rune('0'+ripe.Board)), nil)
	require.Equal(t, 200, res.Code)
	require.NoError(t, json.Unmarshal(res.Body.Bytes(), &board))
	require.InDelta(t, 1100, board.Grams, 1e-6)
	require.Equal(t, ripe.Plants, board.Stays[0].Harvested)
	require.Equal(t, 404, p.ask("GET", at+"/9", nil).Code)
}
