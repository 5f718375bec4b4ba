package api

import (
	"encoding/json"
	"maps"
	"net/http"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/invopop/jsonschema"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/chemistry"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
)

// operations are what the school's part answers.
func operations() []operation {
	return slices.Concat(
		dayOperations(), aheadOperations(), batchOperations(), entryOperations(), seedOperations(), vesselOperations(),
		sproutOperations(), waterOperations(), placeOperations(), raftOperations(), fishOperations(), setupOperations(), thingOperations(),
	)
}

// example is a list of the same as one.
type example struct{ of any }

func listOf(one any) any { return example{one} }

var texts = reflect.TypeFor[say.Text]()

// schemas makes JSON Schemas of Go's types: what is not omitted is required.
var schemas = jsonschema.Reflector{
	Anonymous: true, DoNotReference: true, ExpandedStruct: true,
	Mapper: func(t reflect.Type) *jsonschema.Schema {
		switch {
		case t == reflect.TypeFor[uuid.UUID]():
			return &jsonschema.Schema{Type: "string", Format: "uuid"}
		case t == reflect.TypeFor[calendar.Day]():
			return &jsonschema.Schema{Type: "string", Format: "date"}
		case t == reflect.TypeFor[time.Time]():
			return &jsonschema.Schema{Type: "string", Format: "date-time"}
		case t == reflect.TypeFor[json.RawMessage]():
			return &jsonschema.Schema{Type: "object"}
		case t == reflect.TypeFor[batch.Cause]():
			return oneOf(batch.Causes, func(x batch.Reason) string { return string(x.ID) })
		case t == reflect.TypeFor[batch.Way]():
			return oneOf(batch.Ways, func(x batch.Handing) string { return string(x.ID) })
		case t == reflect.TypeFor[chemistry.Agent]():
			return oneOf(slices.Sorted(maps.Keys(chemistry.Agents)), func(x chemistry.Agent) string { return string(x) })
		case t.Implements(texts):
			return &jsonschema.Schema{Type: "string"}
		}
		return nil
	},
}

// oneOf is a word out of a list.
func oneOf[T any](list []T, word func(T) string) *jsonschema.Schema {
	s := &jsonschema.Schema{Type: "string"}
	for _, x := range list {
		s.Enum = append(s.Enum, word(x))
	}
	return s
}

func schemaFor(v any) any {
	if list, ok := v.(example); ok {
		return doc{
			"type": "object", "required": []string{"items"}, "additionalProperties": false,
			"properties": doc{"items": doc{"type": "array", "items": schemaFor(list.of)}, "next": doc{"type": "string"}},
		}
	}
	s := reflected(v)
	s.Version = ""
	return s
}

// chosen is a value some of whose fields take one of a few words; they are listed.
type chosen struct {
	of     any
	inputs []ledger.Input
}

// reflected is the schema of a type, with the words that its fields take.
func reflected(v any) *jsonschema.Schema {
	c, ok := v.(chosen)
	if !ok {
		return schemas.Reflect(v)
	}
	s := schemas.Reflect(c.of)
	for _, in := range c.inputs {
		if in.Type != ledger.Pick || len(in.Options) < 2 { // with one, things of the school follow
			continue
		}
		at := s
		for _, name := range strings.Split(in.Name, ".") {
			if at != nil && at.Properties != nil {
				at, _ = at.Properties.Get(name)
			}
		}
		if at == nil || at.Type != "string" {
			continue
		}
		for _, o := range in.Options {
			at.Enum = append(at.Enum, o.Value)
		}
	}
	return s
}

var pathParam = regexp.MustCompile(`:(\w+)`)

// describeSchool adds the school's part to the paths of the description.
func describeSchool(paths doc) {
	problems := func(statuses ...int) doc {
		out := doc{}
		for _, s := range statuses {
			out[strconv.Itoa(s)] = doc{
				"description": http.StatusText(s), "content": doc{"application/problem+json": doc{"schema": doc{"$ref": "#/components/schemas/Problem"}}},
			}
		}
		return out
	}
	for _, o := range operations() {
		path := "/api/v1" + pathParam.ReplaceAllString(o.Path, "{$1}")
		if paths[path] == nil {
			paths[path] = doc{}
		}
		responses := problems(401, 403, 404, 422, 429, 503)
		status := o.Status
		switch {
		case status == 0 && o.Out == nil:
			status = http.StatusNoContent
		case status == 0:
			status = http.StatusOK
		}
		answer := doc{"description": o.Summary}
		if o.Out != nil {
			answer["content"] = doc{"application/json": doc{"schema": schemaFor(o.Out)}}
		}
		responses[strconv.Itoa(status)] = answer
		one := doc{"operationId": operationID(o), "summary": o.Summary, "responses": responses}
		var params []doc
		for _, m := range pathParam.FindAllStringSubmatch(o.Path, -1) {
			format := "uuid"
			if m[1] == "day" {
				format = "date"
			}
			params = append(params, doc{"name": m[1], "in": "path", "required": true, "schema": doc{"type": "string", "format": format}})
		}
		for _, q := range o.Query {
			params = append(params, doc{"name": q.Name, "in": "query", "description": q.Says, "schema": doc{"type": "string"}})
		}
		if o.Tagged && o.Method != http.MethodGet {
			params = append(params, doc{"name": "If-Match", "in": "header", "description": "the ETag of what is changed", "schema": doc{"type": "string"}})
			for s, p := range problems(412, 428) {
				responses[s] = p
			}
		}
		if o.Tagged && o.Method == http.MethodPut {
			params = append(params, doc{"name": "If-None-Match", "in": "header", "description": "* for what is new", "schema": doc{"type": "string"}})
			responses["201"] = answer
		}
		if o.Method == http.MethodPost {
			for s, p := range problems(409) {
				responses[s] = p
			}
		}
		if params != nil {
			one["parameters"] = params
		}
		if o.In != nil {
			one["requestBody"] = doc{"required": true, "content": doc{"application/json": doc{"schema": schemaFor(o.In)}}}
		}
		if !o.Open {
			one["security"] = []doc{{"key": []string{}}}
		}
		if o.Demo {
			one["description"] = "Of the demo alone; under serve there is no such path."
		}
		paths[path].(doc)[strings.ToLower(o.Method)] = one
	}
}

func operationID(o operation) string {
	return strings.ToLower(o.Method) + strings.NewReplacer("/", "-", ":", "").Replace(o.Path)
}
