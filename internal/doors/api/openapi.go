package api

import (
	"encoding/json"
	"strings"
	"sync"

	"ulpa/core/calc"
)

// description is the OpenAPI document, made from the calculators' own fields
// when somebody first asks for it.
var description = sync.OnceValue(describe)

type doc = map[string]any

func describe() []byte {
	paths := doc{}
	for _, k := range calc.All {
		paths["/api/v1/calc/"+k.Name] = doc{"post": doc{
			"operationId": k.Name, "summary": k.Title, "description": k.Answers,
			"requestBody": doc{"required": true, "content": doc{"application/json": doc{"schema": schemaOf(k), "example": json.RawMessage(k.Example)}}},
			"responses": doc{
				"200": doc{"description": "The answer, with its steps", "content": doc{"application/json": doc{"schema": doc{"type": "object"}}}},
				"422": doc{
					"description": "What is wrong with which field",
					"content":     doc{"application/problem+json": doc{"schema": doc{"$ref": "#/components/schemas/Problem"}}},
				},
			},
		}}
	}
	describeSchool(paths)
	all := doc{
		"openapi": "3.1.0",
		"info": doc{
			"title":   "Ulpa",
			"version": "1",
			"description": "Calculators: one JSON object in, one out, for anybody. The school: for programs with a key that a coordinator makes. " +
				"Units are part of the names; nothing is rounded. The caller makes the ids: sent again, it is stored once; other content under a " +
				"known id is a conflict. A change names the version it changes by its ETag.",
		},
		"paths": paths,
		"components": doc{"securitySchemes": doc{"key": doc{"type": "http", "scheme": "bearer"}}, "schemas": doc{"Problem": doc{
			"type": "object", "required": []string{"title", "status"},
			"properties": doc{
				"type": doc{"type": "string"}, "title": doc{"type": "string"}, "status": doc{"type": "integer"},
				"detail": doc{"type": "string"}, "asks": doc{"type": "boolean", "description": "a question: sent again with sure: true it is saved"},
				"errors": doc{
					"type":  "array",
					"items": doc{"type": "object", "properties": doc{"field": doc{"type": "string"}, "message": doc{"type": "string"}}},
				},
			},
		}}},
	}
	b, err := json.Marshal(all)
	if err != nil {
		panic(err) // only made of our own literals: every test would show it
	}
	return b
}

func schemaOf(k calc.Calculator) doc { return objectOf(k.Fields) }

func objectOf(fields []calc.Field) doc {
	properties, needed := doc{}, []string{}
	for _, f := range fields {
		properties[f.Name] = schemaOfField(f)
		if f.Needed {
			needed = append(needed, f.Name)
		}
	}
	return doc{"type": "object", "properties": properties, "required": needed, "additionalProperties": false}
}

func schemaOfField(f calc.Field) doc {
	kinds := map[string]string{"text": "string", "date": "string", "list": "array", "yes": "boolean"}
	kind, ok := kinds[f.Kind]
	if !ok {
		kind = f.Kind
	}
	s := doc{"type": kind}
	if f.Single {
		s["type"] = []string{"number", "array"}
	}
	if f.Null {
		s["type"] = []string{kind, "null"}
	}
	if f.Kind == "object" && f.Parts != nil {
		s = objectOf(f.Parts)
	}
	says := f.Takes
	if f.Unit != "" {
		says = strings.TrimPrefix(says+"; "+f.Unit, "; ")
	}
	if says != "" {
		s["description"] = says
	}
	switch {
	case f.Kind == "date":
		s["format"] = "date"
	case f.Kind == "list" && f.Parts != nil:
		s["items"] = objectOf(f.Parts)
	case f.Kind == "text" && f.Parts != nil: // a name, or what it stands for
		return doc{"oneOf": []doc{{"type": "string", "enum": f.Offers()}, objectOf(f.Parts)}, "description": says}
	case f.Kind == "text" && f.Offers() != nil:
		s["enum"] = f.Offers()
	}
	switch {
	case f.Default == "":
	case f.Kind == "text":
		s["default"] = f.Default
	default:
		s["default"] = json.RawMessage(f.Default)
	}
	return s
}
