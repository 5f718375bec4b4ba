package api

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/invopop/jsonschema"

	"ulpa/core/field"
	"ulpa/core/say"
)

// fits refuses, by field, a body that is not as the description says: a field that is missing, one
// that is not known (small and capital letters count), or a value that is none of those there are.
// A field that may be left out may also be null or empty. What is no JSON is told by Decode.
func fits(s *jsonschema.Schema, body []byte, whole bool) error {
	d := json.NewDecoder(bytes.NewReader(body))
	d.UseNumber()
	var v any
	if d.Decode(&v) != nil {
		return nil
	}
	var e field.Errors
	sent{&e, whole}.check(s, v, "")
	return e.Err()
}

// sent checks what was sent; whole, it must have all that is required.
type sent struct {
	e     *field.Errors
	whole bool
}

func (c sent) check(s *jsonschema.Schema, v any, at string) {
	switch v := v.(type) {
	case map[string]any:
		if s.Properties != nil && s.Properties.Len() > 0 {
			c.object(s, v, at)
		}
	case []any:
		for i, x := range v {
			if s.Items != nil {
				c.check(s.Items, x, fmt.Sprintf("%s.%d", at, i))
			}
		}
	case string:
		if len(s.Enum) > 0 && !slices.Contains(s.Enum, any(v)) {
			c.e.Add(at, "must be one of %s", among(s.Enum))
		}
	}
}

func (c sent) object(s *jsonschema.Schema, v map[string]any, at string) {
	if at != "" {
		at += "."
	}
	for p := s.Properties.Oldest(); p != nil; p = p.Next() {
		x, there := v[p.Key]
		needed := slices.Contains(s.Required, p.Key)
		switch {
		case needed && (!there || x == nil):
			c.e.Require(!c.whole, at+p.Key, "is missing")
		case !there || !needed && (x == nil || x == ""):
		default:
			c.check(p.Value, x, at+p.Key)
		}
	}
	for _, name := range slices.Sorted(maps.Keys(v)) {
		if _, known := s.Properties.Get(name); !known {
			c.e.Add(at+name, "is not a field of this")
		}
	}
}

// among are the values there are, as a list.
func among(values []any) say.Text {
	var list []say.Text
	for _, v := range values {
		if s := fmt.Sprint(v); strings.TrimSpace(s) != "" {
			list = append(list, say.Name(s))
		}
	}
	return say.Either(list...)
}
