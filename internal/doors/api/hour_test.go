package api_test

import (
	"encoding/json"
	"fmt"
	"os"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
)

var (
	callIn = regexp.MustCompile("(?s)```http\n(\\w+) (\\S+)\n(.*?)```\nAnswers (\\d+)([^\n]*)\\.\n")
	kept   = regexp.MustCompile("`([^`]+)` as \\{(\\w+)\\}")
	braces = regexp.MustCompile(`\{(\w+)\}`)
)

// Every call of docs/api.md does what is said there, one after the other, in a school like the demo's.
func TestTheFirstHour(t *testing.T) {
	p, _ := newProgram(t)
	text, err := os.ReadFile("../../../docs/api.md")
	require.NoError(t, err)
	known := map[string]string{}
	fill := func(s string) string {
		return braces.ReplaceAllStringFunc(s, func(m string) string {
			name := m[1 : len(m)-1]
			if known[name] == "" {
				known[name] = uuid.NewString()
			}
			return known[name]
		})
	}
	calls := callIn.FindAllStringSubmatch(string(text), -1)
	require.Len(t, calls, strings.Count(string(text), "```http"), "each says what it answers")
	for _, c := range calls {
		head, body, _ := strings.Cut(c[3], "\n")
		if c[3] != "" && !strings.Contains(head, ": ") || head == "" {
			head, body = "", c[3]
		}
		var headers []string
		if name, value, ok := strings.Cut(head, ": "); ok {
			headers = []string{name, value}
		}
		var send any
		if body = strings.TrimSpace(fill(body)); body != "" {
			send = body
		}
		res := p.ask(c[1], fill(c[2]), send, headers...)
		require.Equal(t, c[4], strconv.Itoa(res.Code), "%s %s: %s", c[1], c[2], res.Body)
		for _, k := range kept.FindAllStringSubmatch(c[5], -1) {
			var v any
			require.NoError(t, json.Unmarshal(res.Body.Bytes(), &v))
			known[k[2]] = fmt.Sprint(at(t, v, strings.Split(fill(k[1]), ".")))
		}
	}
	require.LessOrEqual(t, len(calls), 45)
	var left struct {
		Where []struct{ Kind string }
	}
	res := p.ask("GET", "/batches/"+known["batch"], nil)
	require.NoError(t, json.Unmarshal(res.Body.Bytes(), &left))
	ports := 0
	for _, x := range left.Where {
		if x.Kind == "port" {
			ports++
		}
	}
	require.Equal(t, 10, ports, "undone: they stand in their ports again")
}

// at follows a path: names, places in a list from 0, and name[field=value] for one of a list.
func at(t *testing.T, v any, path []string) any {
	for _, step := range path {
		name, which, chosen := strings.Cut(strings.TrimSuffix(step, "]"), "[")
		if list, ok := v.([]any); ok {
			i, err := strconv.Atoi(name)
			require.NoError(t, err)
			require.Less(t, i, len(list), step)
			v = list[i]
			continue
		}
		v = v.(map[string]any)[name]
		if chosen {
			field, value, _ := strings.Cut(which, "=")
			var found any
			for _, x := range v.([]any) {
				if x.(map[string]any)[field] == value {
					found = x
				}
			}
			require.NotNil(t, found, step)
			v = found
		}
	}
	require.NotNil(t, v, path)
	return v
}

// What is sent of several things at once is saved whole or not at all, and what is wrong names the one.
func TestSeveralAtOnce(t *testing.T) {
	p, _ := newProgram(t)
	var jars []string
	for _, x := range p.list("/tanks").Items {
		if spec := x["spec"].(map[string]any); spec["passive"] == true {
			jars = append(jars, x["id"].(string))
		}
	}
	require.Greater(t, len(jars), 2)
	level := func(jar string) any {
		var a map[string]any
		require.NoError(t, json.Unmarshal(p.ask("GET", "/tanks/"+jar+"/advice", nil).Body.Bytes(), &a))
		return a["level_l"]
	}
	pour := func(litres ...float64) map[string]any {
		var list []any
		for i, l := range litres {
			list = append(list, map[string]any{"tank": jars[i], "id": uuid.NewString(), "water_l": l, "sure": true})
		}
		return map[string]any{"treatments": list}
	}
	before := level(jars[0])
	res := p.ask("POST", "/treatments", pour(0.05, 5000))
	require.Equal(t, 422, res.Code)
	require.Contains(t, res.Body.String(), `"field":"treatments.1.water`)
	require.Equal(t, before, level(jars[0]), "nothing of it was saved")
	all := pour(0.05, 0.05, 0.05)
	require.Equal(t, 204, p.ask("POST", "/treatments", all).Code)
	after := level(jars[0])
	require.NotEqual(t, before, after)
	require.Equal(t, 204, p.ask("POST", "/treatments", all).Code, "sent again")
	require.Equal(t, after, level(jars[0]), "it is saved once")

	nights := func(low float64) map[string]any {
		return map[string]any{"nights": []any{map[string]any{"day": "2027-03-20", "forecast_c": 3}, map[string]any{"day": "2027-03-21", "forecast_c": low}}}
	}
	res = p.ask("PUT", "/nights", nights(-300))
	require.Equal(t, 422, res.Code)
	require.Contains(t, res.Body.String(), `"field":"nights.1.forecast_c"`)
	require.Equal(t, 204, p.ask("PUT", "/nights", nights(-3)).Code)
	require.Contains(t, p.ask("GET", "/nights", nil).Body.String(), `"day":"2027-03-21","forecast_c":-3`)

	backwards := []any{map[string]any{"day": "2026-04-02", "lowest_c": -1}, map[string]any{"day": "2026-04-01", "lowest_c": 2}}
	station := map[string]any{"name": "By the sea", "nights": backwards}
	require.Contains(t, p.ask("PUT", "/frost/station", station).Body.String(), `"field":"nights.1.day"`)
	require.Equal(t, 422, p.ask("PUT", "/crops/lettuce", map[string]any{"values": map[string]any{"depth_cm": "deep"}}).Code)
	require.Contains(t, p.ask("PUT", "/crops/lettuce", map[string]any{"values": map[string]any{"depth_cm": "0.4"}}).Body.String(), `"changed":["depth_cm"]`)
}
