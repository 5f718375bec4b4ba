package calctest

import (
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calc"
	"ulpa/core/field"
)

// edge is the end of what a field says it takes: In is taken there, Out just beyond is not.
type edge struct{ In, Out float64 }

var (
	fromTo = regexp.MustCompile(`^(−?[\d,.]+) to (below )?(−?[\d,.]+)`)
	orMore = regexp.MustCompile(`^(−?[\d,.]+) or more`)
	above  = regexp.MustCompile(`^above (−?[\d,.]+)(?:,? (?:and )?(at most|to|up to|below) (−?[\d,.]+))?`)
)

func figure(s string) (float64, bool) {
	v, err := strconv.ParseFloat(strings.NewReplacer("−", "-", ",", "").Replace(strings.Trim(s, ",.")), 64)
	return v, err == nil
}

// edges are those of a field, read from the words in which it says what it takes.
func edges(f calc.Field) (out []edge) {
	step := func(v float64) float64 {
		if f.Kind == "integer" {
			return 1
		}
		return 1e-6 * max(1, v, -v)
	}
	low := func(v float64, taken bool) {
		if taken {
			out = append(out, edge{v, v - step(v)})
		} else {
			out = append(out, edge{v + step(v), v})
		}
	}
	high := func(v float64, taken bool) {
		if taken {
			out = append(out, edge{v, v + step(v)})
		} else {
			out = append(out, edge{v - step(v), v})
		}
	}
	if m := fromTo.FindStringSubmatch(f.Takes); m != nil {
		a, known := figure(m[1])
		b, both := figure(m[3])
		if known && both {
			low(a, true)
			high(b, m[2] == "")
		}
	} else if m := orMore.FindStringSubmatch(f.Takes); m != nil {
		if a, known := figure(m[1]); known {
			low(a, true)
		}
	} else if m := above.FindStringSubmatch(f.Takes); m != nil {
		if a, known := figure(m[1]); known {
			low(a, false)
		}
		if b, known := figure(m[3]); known {
			high(b, m[2] != "below")
		}
	}
	return out
}

// Edges asks that every figure of some calculators is taken up to where it says, and refused by its
// name beyond. Figures are looked for in the contract's examples, lists by their first line.
func Edges(t *testing.T, calculators ...string) (tried int) {
	for _, name := range calculators {
		k, ok := calc.Find(name)
		require.True(t, ok, name)
		b, err := examples.ReadFile("examples/" + name + ".json")
		require.NoError(t, err)
		var cases []contractCase
		require.NoError(t, json.Unmarshal(b, &cases))
		for _, c := range cases {
			var input map[string]any
			require.NoError(t, json.Unmarshal(c.Input, &input))
			each(k.Fields, input, "", func(f calc.Field, path string, set func(any)) {
				ends := edges(f)
				for _, e := range ends {
					run := func(v float64) error {
						set(v)
						b, err := json.Marshal(input)
						require.NoError(t, err)
						_, err = k.RunJSON(b)
						return err
					}
					beyond := run(e.Out)
					require.Error(t, beyond, "%s: %s takes %s, and took %v", name, path, f.Takes, e.Out)
					said := refusal(beyond, path)
					if said == "" || said == refusal(run(inside(ends)), path) {
						continue // another field was in the way first, or this one has no place here at all
					}
					require.NotEqual(t, said, refusal(run(e.In), path), "%s: %s takes %s, and did not take %v", name, path, f.Takes, e.In)
					tried++
				}
			})
		}
	}
	require.NotZero(t, tried, "no figure of these says where it ends")
	return tried
}

// inside is a figure well between the ends.
func inside(ends []edge) float64 {
	if len(ends) == 2 {
		return (ends[0].In + ends[1].In) / 2
	}
	return ends[0].In + 1
}

// refusal is what was said of a field, in whatever line of a list; "" when nothing was.
func refusal(err error, path string) string {
	var all field.Errors
	if !errors.As(err, &all) {
		return ""
	}
	for _, e := range all {
		if e.Field == path || strings.HasPrefix(e.Field, path+".") {
			return e.Message.String()
		}
	}
	return ""
}

// each goes over the figures that an input has, and puts each back as it was.
func each(fields []calc.Field, in map[string]any, path string, do func(calc.Field, string, func(any))) {
	for _, f := range fields {
		was, there := in[f.Name]
		at := path + f.Name
		switch v := was.(type) {
		case map[string]any:
			each(f.Parts, v, at+".", do)
		case []any:
			if len(v) > 0 {
				if line, ok := v[0].(map[string]any); ok {
					each(f.Parts, line, fmt.Sprintf("%s.0.", at), do)
				}
			}
		case float64, nil: // what is left out has a figure all the same
			if f.Kind == "number" || f.Kind == "integer" {
				do(f, at, func(x any) { in[f.Name] = x })
			}
		}
		if in[f.Name] = was; !there {
			delete(in, f.Name)
		}
	}
}
