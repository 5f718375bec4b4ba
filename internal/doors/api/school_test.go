package api_test

import (
	"bytes"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"strconv"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"
	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/require"

	"ulpa/core/plan"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/api"
	"ulpa/internal/doors/demo"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/people"
)

// program is somebody who comes with a key, and holds every answer against the description.
type program struct {
	t    *testing.T
	g    http.Handler
	key  string
	desc *jsonschema.Compiler
	doc  map[string]any
}

func newProgram(t *testing.T) (program, testdb.DB) {
	d := testdb.Demo(t)
	gin.SetMode(gin.ReleaseMode)
	g := gin.New()
	api.Routes(g, api.School{Store: d.Store, Clock: d.Clock, Address: func(*gin.Context) string { return "https://school.example" }})
	p := program{t: t, g: g, key: demo.Key, desc: jsonschema.NewCompiler()}
	res := p.ask("GET", "/openapi.json", nil)
	require.Equal(t, 200, res.Code)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(res.Body.Bytes()))
	require.NoError(t, err)
	p.doc = doc.(map[string]any)
	p.desc.DefaultDraft(jsonschema.Draft2020)
	p.desc.AssertFormat()
	require.NoError(t, p.desc.AddResource("http://ulpa/openapi.json", doc))
	return p, d
}

func (p program) ask(method, path string, body any, headers ...string) *httptest.ResponseRecorder {
	var in bytes.Buffer
	if s, ok := body.(string); ok {
		in.WriteString(s)
	} else if body != nil {
		require.NoError(p.t, json.NewEncoder(&in).Encode(body))
	}
	r := httptest.NewRequest(method, "/api/v1"+path, &in)
	if p.key != "" {
		r.Header.Set("Authorization", "Bearer "+p.key)
	}
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	w := httptest.NewRecorder()
	p.g.ServeHTTP(w, r)
	if p.doc != nil {
		p.holds(method, strings.Split(path, "?")[0], w)
	}
	return w
}

// holds compares an answer with its description.
func (p program) holds(method, path string, w *httptest.ResponseRecorder) {
	p.t.Helper()
	for at, x := range p.doc["paths"].(map[string]any) {
		if !like(at, "/api/v1"+path) {
			continue
		}
		one, ok := x.(map[string]any)[strings.ToLower(method)].(map[string]any)
		if !ok {
			continue
		}
		responses := one["responses"].(map[string]any)
		code := strconv.Itoa(w.Code)
		require.Contains(p.t, responses, code, "%s %s: %s", method, path, w.Body.String())
		content, ok := responses[code].(map[string]any)["content"].(map[string]any)
		if !ok {
			require.Empty(p.t, w.Body.String())
			return
		}
		kind := strings.Split(w.Header().Get("Content-Type"), ";")[0]
		require.Contains(p.t, content, kind, path)
		pointer := "http://ulpa/openapi.json#/paths/" + strings.ReplaceAll(strings.ReplaceAll(at, "~", "~0"), "/", "~1") + "/" + strings.ToLower(method) +
			"/responses/" + code + "/content/" + strings.ReplaceAll(kind, "/", "~1") + "/schema"
		schema, err := p.desc.Compile(strings.NewReplacer("{", "%7B", "}", "%7D").Replace(pointer))
		require.NoError(p.t, err)
		said, err := jsonschema.UnmarshalJSON(bytes.NewReader(w.Body.Bytes()))
		require.NoError(p.t, err)
		require.NoError(p.t, schema.Validate(said), "%s %s\n%s", method, path, w.Body.String())
		return
	}
	p.t.Errorf("%s %s is not described", method, path)
}

func like(pattern, path string) bool {
	a, b := strings.Split(pattern, "/"), strings.Split(path, "/")
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i] != b[i] && !strings.HasPrefix(a[i], "{") {
			return false
		}
	}
	return true
}

type list struct {
	Items []map[string]any
	Next  *string
}

func (p program) list(path string) (out list) {
	res := p.ask("GET", path, nil)
	require.Equal(p.t, 200, res.Code, "%s: %s", path, res.Body.String())
	require.NoError(p.t, json.Unmarshal(res.Body.Bytes(), &out))
	return out
}

// A program does a school's day: reads everything, sets things up, sows, counts, moves,
// reads and treats, cuts, notes, ticks; every answer is as it is described. What is sent
// twice is kept once, another content under the id is a conflict.
func TestAProgramDoesADay(t *testing.T) {
	p, d := newProgram(t)
	for _, path := range []string{
		"/school", "/round", "/nights", "/planned", "/trail", "/batches", "/entries", "/water", "/places", "/trays", "/tanks", "/lots", "/varieties",
		"/closures", "/jobs", "/own-crops", "/goals", "/season", "/clock",
	} {
		res := p.ask("GET", path, nil)
		require.Equal(t, 200, res.Code, "%s: %s", path, res.Body.String())
	}

	// Lists come in pages, and every page is another.
	seen := map[any]bool{}
	for cursor := ""; ; {
		page := p.list("/entries?limit=40" + cursor)
		for _, e := range page.Items {
			require.False(t, seen[e["id"]])
			seen[e["id"]] = true
		}
		if page.Next == nil {
			break
		}
		cursor = "&cursor=" + *page.Next
	}
	require.Greater(t, len(seen), 100)
	require.Len(t, p.list("/trays?limit=5").Items, 5)

	// A tray is set up, changed by its tag, and not by another's.
	bench := p.list("/places").Items[0]["id"]
	tray := uuid.NewString()
	body := map[string]any{"name": "Slate 1", "place": bench, "rows": 2, "columns": 6, "cell_ml": 40}
	require.Equal(t, 428, p.ask("PUT", "/trays/"+tray, body).Code)
	made := p.ask("PUT", "/trays/"+tray, body, "If-None-Match", "*")
	require.Equal(t, 201, made.Code, made.Body.String())
	require.Equal(t, 201, p.ask("PUT", "/trays/"+tray, body, "If-None-Match", "*").Code, "sent twice")
	tag := made.Header().Get("ETag")
	require.Equal(t, 304, rawGet(p, "/trays/"+tray, tag))
	body["columns"] = 7
	require.Equal(t, 412, p.ask("PUT", "/trays/"+tray, body, "If-Match", `"another"`).Code)
	require.Equal(t, 200, p.ask("PUT", "/trays/"+tray, body, "If-Match", tag).Code)
	body["columns"] = 9
	require.Equal(t, 412, p.ask("PUT", "/trays/"+tray, body, "If-Match", tag).Code)
	require.Equal(t, 422, p.ask("PUT", "/trays/"+uuid.NewString(), map[string]any{"name": "x", "cells": 4}, "If-None-Match", "*").Code)

	// A batch from seed to harvest.
	lot := ""
	for _, l := range p.list("/lots").Items {
		if l["crop"] == "pakchoi" {
			lot = l["id"].(string)
		}
	}
	sowing := map[string]any{"id": uuid.NewString(), "lot": lot, "tray": tray, "cells": []string{"A1", "A2", "A3"}, "seeds_per_cell": 1, "wanted": 3}
	res := p.ask("POST", "/batches", sowing)
	require.Equal(t, 201, res.Code, res.Body.String())
	require.Equal(t, 201, p.ask("POST", "/batches", sowing).Code, "sent twice is kept once")
	sowing["wanted"] = 2
	require.Equal(t, 409, p.ask("POST", "/batches", sowing).Code)
	batch := "/batches/" + sowing["id"].(string)
	do := func(path string, in map[string]any) map[string]any {
		t.Helper()
		in["id"] = uuid.NewString()
		res := p.ask("POST", path, in)
		require.Equal(t, 200, res.Code, "%s: %s", path, res.Body.String())
		var out map[string]any
		require.NoError(t, json.Unmarshal(res.Body.Bytes(), &out))
		return out
	}
	var marks []map[string]any
	for _, cell := range []string{"A1", "A2", "A3"} {
		marks = append(marks, map[string]any{"tray": tray, "cell": cell, "state": "sprouted"})
	}
	require.EqualValues(t, 3, do(batch+"/counts", map[string]any{"marks": marks})["standing"])
	do(batch+"/looks", map[string]any{"leaves": 3, "height_cm": 4})
	do(batch+"/losses", map[string]any{"from": []any{map[string]any{"kind": "cell", "in": tray, "name": "A3"}}, "cause": "eaten"})
	free := map[string]any{"id": uuid.NewString()}
	require.Equal(t, 422, p.ask("POST", "/trays/"+tray+"/wash", free).Code, "the lost plant was taken off: nothing failed")
	marks = []map[string]any{{"tray": tray, "cell": "A2", "state": "lost", "cause": "eaten"}}
	do(batch+"/counts", map[string]any{"marks": marks})
	require.Equal(t, 204, p.ask("POST", "/trays/"+tray+"/wash", free).Code)
	require.Equal(t, 204, p.ask("POST", "/trays/"+tray+"/wash", free).Code, "sent twice is kept once")
	tower := ""
	for _, x := range p.list("/places").Items {
		if x["name"] == "South tower" {
			tower = x["id"].(string)
		}
	}
	moved := do(batch+"/moves", map[string]any{
		"from": []any{map[string]any{"kind": "cell", "in": tray, "name": "A1"}}, "to": tower, "fill": true,
	})
	var ports []any
	for _, x := range moved["where"].([]any) {
		if s := x.(map[string]any); s["kind"] == "port" {
			ports = append(ports, map[string]any{"kind": "port", "in": s["in"], "name": s["name"]})
		}
	}
	require.Len(t, ports, 1)
	do(batch+"/harvests", map[string]any{"grams": 180, "from": ports})
	require.Equal(t, true, do(batch+"/close", map[string]any{})["closed"])

	old := map[string]any{"id": uuid.NewString(), "crop": "basil", "variety": "Lamplighter", "since": "2027-01-10", "plants": 2, "place": tower}
	require.Equal(t, 201, p.ask("POST", "/batches/adopted", old).Code, "what grows already")

	// Water: a slip is asked about, what cannot be is refused.
	tank := ""
	for _, x := range p.list("/water").Items {
		if x["name"] == "South tower" {
			tank = "/tanks/" + x["tank"].(string)
		}
	}
	require.Equal(t, 200, p.ask("GET", tank+"/advice", nil).Code)
	require.Equal(t, 422, p.ask("POST", tank+"/readings", map[string]any{"id": uuid.NewString(), "ph": 58}).Code)
	asked := p.ask("POST", tank+"/readings", map[string]any{"id": uuid.NewString(), "ph": 4.4})
	require.Equal(t, 409, asked.Code)
	require.Contains(t, asked.Body.String(), `"asks":true`)
	do(tank+"/readings", map[string]any{"ph": 4.4, "ec_ms_cm": 1.4, "temperature_c": 19, "level_l": 50, "sure": true})
	do(tank+"/treatments", map[string]any{"water_l": 2})
	require.Equal(t, 200, p.ask("GET", tank+"/past?limit=3", nil).Code)

	// A box is told by its sizes; then its level is read as a depth.
	require.Equal(t, 422, p.ask("POST", tank+"/readings", map[string]any{"id": uuid.NewString(), "depth_cm": 10}).Code, "no shape is told")
	var box map[string]any
	res = p.ask("GET", tank, nil)
	require.NoError(t, json.Unmarshal(res.Body.Bytes(), &box))
	spec := box["spec"].(map[string]any)
	spec["stick"] = map[string]any{"shape": "box", "length_cm": 60, "width_cm": 40, "height_cm": 0}
	tag = res.Header().Get("ETag")
	require.Contains(t, p.ask("PUT", tank, box, "If-Match", tag).Body.String(), "spec.stick.height_cm")
	spec["stick"] = map[string]any{"shape": "box", "length_cm": 60, "width_cm": 40, "height_cm": 50}
	require.Equal(t, 200, p.ask("PUT", tank, box, "If-Match", tag).Code)
	require.EqualValues(t, 48, do(tank+"/readings", map[string]any{"depth_cm": 20, "sure": true})["level_l"])
	require.Equal(t, 422, p.ask("POST", tank+"/readings", map[string]any{"id": uuid.NewString(), "depth_cm": 20, "level_l": 48}).Code, "one of them")

	// Notes, the round, nights, plans.
	note := p.ask("POST", "/entries", map[string]any{"id": uuid.NewString(), "text": "Slugs on the sill", "about": []any{bench}})
	require.Equal(t, 201, note.Code)
	var written struct{ ID string }
	require.NoError(t, json.Unmarshal(note.Body.Bytes(), &written))
	require.Len(t, p.list("/entries?find=slugs+on").Items, 1)
	right := map[string]any{"id": uuid.NewString(), "values": map[string]any{"text": "Snails on the sill"}}
	require.Equal(t, 204, p.ask("POST", "/entries/"+written.ID+"/correct", right).Code)
	require.Equal(t, 204, p.ask("POST", "/entries/"+written.ID+"/correct", right).Code, "sent twice is kept once")
	written.ID = right["id"].(string)
	for _, wrong := range []any{map[string]any{"text": 7}, map[string]any{"smell": "bad"}} {
		res := p.ask("POST", "/entries/"+written.ID+"/correct", map[string]any{"id": uuid.NewString(), "values": wrong})
		require.Equal(t, 422, res.Code, res.Body.String())
	}
	require.Contains(t, p.ask("GET", "/entries/"+written.ID+"/values", nil).Body.String(), "Snails")
	require.Equal(t, 204, p.ask("POST", "/entries/"+written.ID+"/undo", map[string]any{"id": uuid.NewString()}).Code)
	var walk struct {
		Stops []struct {
			Place string
			Tasks []struct{ Key string }
		}
	}
	require.NoError(t, json.Unmarshal(p.ask("GET", "/round", nil).Body.Bytes(), &walk))
	tick := map[string]any{"id": uuid.NewString(), "task": walk.Stops[0].Tasks[0].Key}
	require.Equal(t, 422, p.ask("POST", "/round/ticks", tick).Code, "ticking is not doing")
	tick["unwritten"] = true
	require.Equal(t, 204, p.ask("POST", "/round/ticks", tick).Code)

	var kept struct{ Plan string }
	require.NoError(t, json.Unmarshal(p.ask("GET", "/season", nil).Body.Bytes(), &kept))
	require.Equal(t, 422, p.ask("POST", "/season/keep", map[string]any{"plan": "another"}).Code)
	var planned struct {
		Goals []struct{ Batches []struct{ ID, Why string } }
	}
	require.NoError(t, json.Unmarshal(p.ask("GET", "/season", nil).Body.Bytes(), &planned))
	for _, g := range planned.Goals {
		for _, b := range g.Batches {
			if b.Why == plan.Impossible {
				require.Equal(t, 422, p.ask("POST", "/season/wish", map[string]any{"batch": b.ID, "act": "pin", "stage": "tray", "on": "2027-03-20"}).Code)
				require.Equal(t, 204, p.ask("POST", "/season/wish", map[string]any{"batch": b.ID, "act": "skip"}).Code)
				require.Equal(t, 204, p.ask("POST", "/season/wish", map[string]any{"batch": b.ID, "act": "free"}).Code)
			}
		}
	}
	require.Equal(t, 204, p.ask("POST", "/season/keep", map[string]any{"plan": kept.Plan}).Code)
	subscribe(t, p, d)
	require.Equal(t, 204, p.ask("PUT", "/round/given", map[string]any{"place": walk.Stops[0].Place}).Code)
	// A job of one's own comes due, is done, and comes again.
	job := map[string]any{"name": "Sweep the floor", "place": bench, "from": "2027-03-17", "every_days": 3, "minutes": 5}
	require.Equal(t, 201, p.ask("PUT", "/jobs/"+uuid.NewString(), job, "If-None-Match", "*").Code)
	due := func() (key string) {
		var walk struct {
			Stops []struct{ Tasks []struct{ Key, Kind string } }
		}
		require.NoError(t, json.Unmarshal(p.ask("GET", "/round", nil).Body.Bytes(), &walk))
		for _, s := range walk.Stops {
			for _, task := range s.Tasks {
				if task.Kind == "job" {
					key = task.Key
				}
			}
		}
		return key
	}
	require.NotEmpty(t, due())
	require.Equal(t, 204, p.ask("POST", "/round/ticks", map[string]any{"id": uuid.NewString(), "task": due()}).Code)
	require.Empty(t, due())
	d.Clock.Set(d.Clock.Now().AddDate(0, 0, 3))
	require.NotEmpty(t, due())
	require.Equal(t, 204, p.ask("PUT", "/nights/2027-03-21", map[string]any{"forecast_c": -3}).Code)
	require.Equal(t, 422, p.ask("PUT", "/nights/tomorrow", map[string]any{"forecast_c": -3}).Code)
	plan := map[string]any{"id": uuid.NewString(), "crop": "basil", "wanted": 12, "sow_on": "2027-03-20", "ready_by": "2027-05-10"}
	require.Equal(t, 201, p.ask("POST", "/planned", plan).Code)
	require.Equal(t, 204, p.ask("DELETE", "/planned/"+plan["id"].(string), nil).Code)
}

// What a key may is what its maker chose; a key that is withdrawn, or none, opens nothing,
// and none learns of another school or of people.
func TestKeysAreBounded(t *testing.T) {
	p, d := newProgram(t)
	ines := d.Ines(t)
	key := func(scope string) (program, uuid.UUID) {
		x, id := p, uuid.New()
		x.key = people.NewKeyText()
		require.NoError(t, people.AddKey(t.Context(), d.Store, ines, id, "Logger "+scope, scope, x.key))
		return x, id
	}
	note := func() map[string]any { return map[string]any{"id": uuid.NewString(), "text": "x"} }
	tank := "/tanks/" + p.list("/water").Items[1]["tank"].(string) + "/readings"
	reading := func() map[string]any {
		return map[string]any{"id": uuid.NewString(), "temperature_c": 19, "sure": true}
	}
	reads, _ := key(who.ScopeRead)
	measures, id := key(who.ScopeMeasure)
	tries := func(x program) []int {
		return []int{x.ask("GET", "/round", nil).Code, x.ask("POST", tank, reading()).Code, x.ask("POST", "/entries", note()).Code}
	}
	require.Equal(t, []int{200, 403, 403}, tries(reads))
	require.Equal(t, []int{200, 200, 403}, tries(measures))
	require.Equal(t, 201, p.ask("POST", "/entries", note()).Code)
	require.NoError(t, people.WithdrawKey(t.Context(), d.Store, ines, id))
	require.Equal(t, 401, measures.ask("GET", "/round", nil).Code)
	nobody := p
	nobody.key = ""
	require.Equal(t, 401, nobody.ask("GET", "/batches", nil).Code)
	other := d.Person(t, d.School(t, "elsewhere"), who.Coordinator, "stranger")
	strange := p
	strange.key = people.NewKeyText()
	require.NoError(t, people.AddKey(t.Context(), d.Store, other, uuid.New(), "Spy", who.ScopeAll, strange.key))
	require.Empty(t, strange.list("/batches").Items)
	require.Equal(t, 404, strange.ask("GET", "/batches/"+p.list("/batches").Items[0]["id"].(string), nil).Code)

	codes := map[int]int{}
	for range 200 {
		codes[strange.ask("GET", "/school", nil).Code]++
	}
	require.NotZero(t, codes[200])
	require.NotZero(t, codes[429], "a key that asks too often is told to wait")
}

// The demo's day moves on, and what is due comes due; under serve there is no such clock.
func TestTheDemosClockMovesOn(t *testing.T) {
	p, d := newProgram(t)
	p.key = ""
	require.Equal(t, 422, p.ask("PUT", "/clock", map[string]any{"day": "2027-03-01"}).Code, "it never goes back")
	res := p.ask("PUT", "/clock", map[string]any{"day": "2027-03-25"})
	require.Equal(t, 200, res.Code, res.Body.String())
	require.Equal(t, "2027-03-25", d.Clock.Now().Format(time.DateOnly))
	require.Equal(t, 200, p.ask("PUT", "/clock", map[string]any{"days": 1}).Code)
	p.key = demo.Key
	var walk struct{ Today string }
	require.NoError(t, json.Unmarshal(p.ask("GET", "/round", nil).Body.Bytes(), &walk))
	require.Equal(t, "2027-03-26", walk.Today)
	g := gin.New()
	api.Routes(g, api.School{Store: d.Store})
	w := httptest.NewRecorder()
	g.ServeHTTP(w, httptest.NewRequest("PUT", "/api/v1/clock", strings.NewReader(`{"days":1}`)))
	require.Equal(t, 404, w.Code)
}

// rawGet asks with a tag; an answer of nothing new has no body to hold against anything.
func rawGet(p program, path, tag string) int {
	p.doc = nil
	return p.ask("GET", path, nil, "If-None-Match", tag).Code
}

// One of every kind of thing is copied, changed, retired, undone and deleted by a
// program, each time under its tag; what something hangs on stays.
func TestThingsOfEveryKind(t *testing.T) {
	p, d := newProgram(t)
	for _, path := range []string{"/places", "/trays", "/tanks", "/lots", "/varieties", "/closures", "/jobs", "/own-crops", "/goals"} {
		g := gin.New() // with bounds of its own
		api.Routes(g, api.School{Store: d.Store, Clock: d.Clock})
		p.g = g
		one := p.list(path).Items[0]
		id := one["id"].(string)
		res := p.ask("GET", path+"/"+id, nil)
		require.Equal(t, 200, res.Code, path)
		require.Equal(t, 200, p.ask("PUT", path+"/"+id, one, "If-Match", res.Header().Get("ETag")).Code, "%s: as it is", path)
		require.Equal(t, res.Header().Get("ETag"), p.ask("GET", path+"/"+id, nil).Header().Get("ETag"), "nothing was changed")

		fresh := uuid.NewString()
		one["id"], one["name"] = fresh, "Slate"
		if path == "/closures" {
			one["from"], one["to"] = "2029-01-05", "2029-01-06"
		}
		made := p.ask("PUT", path+"/"+fresh, one, "If-None-Match", "*")
		require.Equal(t, 201, made.Code, "%s: %s", path, made.Body.String())
		one["name"] = "Slate two"
		require.Equal(t, 412, p.ask("PUT", path+"/"+fresh, one, "If-None-Match", "*").Code, "%s: it is there", path)
		changed := p.ask("PUT", path+"/"+fresh, one, "If-Match", made.Header().Get("ETag"))
		require.Equal(t, 200, changed.Code, "%s: %s", path, changed.Body.String())
		tag := changed.Header().Get("ETag")
		if path != "/closures" {
			for _, retired := range []bool{true, false} {
				one["retired"] = retired
				res := p.ask("PUT", path+"/"+fresh, one, "If-Match", tag)
				require.Equal(t, 200, res.Code, "%s: %s", path, res.Body.String())
				tag = res.Header().Get("ETag")
			}
		}
		require.Equal(t, 412, p.ask("DELETE", path+"/"+fresh, nil, "If-Match", made.Header().Get("ETag")).Code, path)
		require.Equal(t, 204, p.ask("DELETE", path+"/"+fresh, nil, "If-Match", tag).Code, path)
		require.Equal(t, 404, p.ask("GET", path+"/"+fresh, nil).Code, path)
		one["id"] = id
		require.Equal(t, 422, p.ask("PUT", path+"/"+fresh, one, "If-None-Match", "*").Code, "%s: another id than in the address", path)
		one["colour"] = "blue"
		require.Equal(t, 422, p.ask("PUT", path+"/"+id, one, "If-Match", tag).Code, "%s: an unknown field", path)
	}
	lot := p.list("/lots").Items[0]["id"].(string)
	used := p.ask("GET", "/varieties/"+p.list("/varieties").Items[0]["id"].(string), nil)
	require.Equal(t, 200, used.Code)
	require.Equal(t, 428, p.ask("DELETE", "/lots/"+lot, nil).Code, "say which")
	for _, body := range []string{"", "[]", "{", `{"name": 5}`, `{"name": "x"} {"name": "y"}`} {
		require.Equal(t, 422, p.ask("PUT", "/lots/"+uuid.NewString(), body, "If-None-Match", "*").Code, body)
	}
}

// subscribe opens the season's calendar by its own key, which opens nothing else, until it
// is withdrawn; no other key opens it.
func subscribe(t *testing.T, p program, d testdb.DB) {
	get := func(path, key string) *httptest.ResponseRecorder {
		r := httptest.NewRequest(http.MethodGet, path, nil)
		r.Header.Set("Authorization", "Bearer "+key)
		w := httptest.NewRecorder()
		p.g.ServeHTTP(w, r)
		return w
	}
	id := uuid.New()
	require.NoError(t, people.AddKey(t.Context(), d.Store, d.Ines(t), id, "Wall calendar", who.ScopeCalendar, "ulpa_wall"))
	got := get("/calendar/ulpa_wall.ics", "")
	require.Equal(t, 200, got.Code)
	require.Contains(t, got.Header().Get("Content-Type"), "text/calendar")
	cal, err := ics.ParseCalendar(got.Body)
	require.NoError(t, err)
	days := map[string]bool{}
	for _, e := range cal.Events() {
		require.False(t, days[e.Id()], "an event stands there once")
		days[e.Id()] = true
		_, err := e.GetAllDayStartAt()
		require.NoError(t, err)
		require.Contains(t, e.GetProperty(ics.ComponentPropertySummary).Value, " (")
		require.Regexp(t, "^https://school.example/", e.GetProperty(ics.ComponentPropertyUrl).Value)
	}
	require.Greater(t, len(days), 20)
	require.Equal(t, 403, get("/api/v1/round", "ulpa_wall").Code)
	require.Equal(t, 404, get("/calendar/"+demo.Key+".ics", "").Code)
	require.Equal(t, 404, get("/calendar/ulpa_wall", "").Code)
	require.NoError(t, people.WithdrawKey(t.Context(), d.Store, d.Ines(t), id))
	require.Equal(t, 404, get("/calendar/ulpa_wall.ics", "").Code)
}

// Seed is tested, a gap kept, plants put elsewhere, and labels read by a program as on the pages.
func TestAProgramTendsTheNursery(t *testing.T) {
	p, _ := newProgram(t)
	lot := p.list("/lots").Items[0]["id"].(string)
	test := uuid.NewString()
	begin := map[string]any{"id": test, "seeds": 20, "on": "paper", "light": "dark"}
	require.Equal(t, 200, p.ask("POST", "/lots/"+lot+"/tests", begin).Code)
	require.Equal(t, 200, p.ask("POST", "/lots/"+lot+"/tests", begin).Code, "sent twice is kept once")
	seen := map[string]any{"id": uuid.NewString(), "test": test, "came": 21}
	require.Equal(t, 422, p.ask("POST", "/lots/"+lot+"/counts", seen).Code)
	seen["came"], seen["over"] = 5, true
	res := p.ask("POST", "/lots/"+lot+"/counts", seen)
	require.Equal(t, 200, res.Code, res.Body.String())
	var known struct {
		Lot   map[string]float64 `json:"this_lot"`
		Tests []map[string]any
	}
	require.NoError(t, json.Unmarshal(res.Body.Bytes(), &known))
	require.Len(t, known.Tests, 1)
	require.True(t, known.Lot["low"] < known.Lot["mean"] && known.Lot["mean"] < known.Lot["high"] && known.Lot["rests_on_seeds"] >= 20)

	tray := ""
	for _, x := range p.list("/trays").Items {
		if x["name"] == "Egg boxes" {
			tray = x["id"].(string)
		}
	}
	gap := map[string]any{"id": uuid.NewString(), "cells": []string{"A1", "A2"}, "crop": "lettuce", "on": "2027-03-25"}
	require.Equal(t, 204, p.ask("POST", "/trays/"+tray+"/gaps", gap).Code)
	gaps := len(p.list("/gaps").Items)
	require.Equal(t, 204, p.ask("DELETE", "/gaps/"+gap["id"].(string), nil).Code)
	require.Len(t, p.list("/gaps").Items, gaps-1)
	sowing := map[string]any{"id": uuid.NewString(), "lot": lot, "tray": tray, "cells": []string{"B1", "B2"}, "seeds_per_cell": 1, "wanted": 2}
	require.Equal(t, 201, p.ask("POST", "/batches", sowing).Code)
	shift := map[string]any{"id": uuid.NewString(), "from": []string{"B1"}, "into": tray, "to": []string{"A1"}}
	require.Equal(t, 422, p.ask("POST", "/trays/"+tray+"/shifts", shift).Code, "nothing is up yet")
	batch := "/batches/" + sowing["id"].(string)
	marks := []any{map[string]any{"tray": tray, "cell": "B1", "state": "sprouted"}}
	require.Equal(t, 200, p.ask("POST", batch+"/counts", map[string]any{"id": uuid.NewString(), "marks": marks}).Code)
	require.Equal(t, 204, p.ask("POST", "/trays/"+tray+"/shifts", shift).Code)
	require.Equal(t, 200, p.ask("POST", batch+"/ailments", map[string]any{"id": uuid.NewString(), "sign": "leggy", "cause": "light"}).Code)

	fresh := p.list("/labels").Items
	require.Equal(t, 204, p.ask("POST", "/labels/printed", map[string]any{"things": []any{fresh[0]["id"]}}).Code)
	require.Len(t, p.list("/labels").Items, len(fresh)-1)
	require.Equal(t, 422, p.ask("GET", "/labels?sort=ghosts", nil).Code)
	require.Equal(t, 200, p.ask("POST", "/lots/"+lot+"/finish", map[string]any{"why": "too-old"}).Code)
}
