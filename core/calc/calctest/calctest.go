// Package calctest holds the contract's examples, so that the packages whose science they show can
// ask for them in their own tests.
//
//	func TestContract(t *testing.T) { calctest.Hold(t, "vessel", "jar") }
package calctest

import (
	"embed"
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calc"
)

type contractCase struct {
	Calc      string
	Input     json.RawMessage
	Output    any
	Tolerance map[string]tolerance

	// Of a question too large for one right answer: the cost of the best plan known, how far
	// above it a plan may be, and the bounds by batches alone and by fractions of them.
	Best, G, Alone, Relaxed float64
	Proven                  bool
	BoundShare              float64 `json:"bound_share"`
}

// judge holds the answer to a question too large for one right answer.
func (c contractCase) judge(t *testing.T, got map[string]any) {
	cost := got["cost"].(float64)
	require.LessOrEqual(t, cost, (1+c.G)*c.Best+1e-6)
	if c.Proven {
		require.GreaterOrEqual(t, cost, c.Best-1e-6)
	}
	if bound, ok := got["bound"].(float64); ok {
		require.LessOrEqual(t, bound, c.Best+1e-6)
		require.GreaterOrEqual(t, bound, c.Alone+c.BoundShare*(c.Relaxed-c.Alone)-1e-6)
	}
}

// tolerance of a field: relative, or relative and absolute.
type tolerance struct{ Rel, Abs float64 }

func (t *tolerance) UnmarshalJSON(b []byte) error {
	if json.Unmarshal(b, &t.Rel) == nil {
		return nil
	}
	var both struct{ Rel, Abs float64 }
	err := json.Unmarshal(b, &both)
	*t = tolerance(both)
	return err
}

//go:embed examples/*.json
var examples embed.FS

// Hold runs every example of some calculators, as the command and the API would answer them.
func Hold(t *testing.T, calculators ...string) {
	for _, name := range calculators {
		b, err := examples.ReadFile("examples/" + name + ".json")
		require.NoError(t, err)
		var cases []contractCase
		require.NoError(t, json.Unmarshal(b, &cases))
		require.NotEmpty(t, cases)
		for i, c := range cases {
			t.Run(fmt.Sprintf("%s/%d", c.Calc, i), func(t *testing.T) {
				k, ok := calc.Find(c.Calc)
				require.True(t, ok)
				out, err := k.RunJSON(c.Input)
				require.NoError(t, err)
				var got any
				require.NoError(t, json.Unmarshal(out, &got))
				if c.Output == nil {
					c.judge(t, got.(map[string]any))
					return
				}
				same(t, "", c.Output, got, c.Tolerance)
			})
		}
	}
}

// same asks that everything wanted is there, numbers within the tolerance of
// their field or of the field they are in.
func same(t *testing.T, path string, want, got any, tolerances map[string]tolerance) {
	switch w := want.(type) {
	case map[string]any:
		g, ok := got.(map[string]any)
		require.True(t, ok, path)
		for k, v := range w {
			require.Contains(t, g, k, path)
			same(t, path+"."+k, v, g[k], tolerances)
		}
	case []any:
		g, ok := got.([]any)
		require.True(t, ok, path)
		require.Len(t, g, len(w), path)
		for i, v := range w {
			same(t, fmt.Sprintf("%s.%d", path, i), v, g[i], tolerances)
		}
	case float64:
		g, ok := got.(float64)
		require.True(t, ok, "%s: %v", path, got)
		allowed := tolerance{Rel: 1e-6, Abs: 1e-9}
		for _, part := range strings.Split(path, ".") {
			if x, ok := tolerances[part]; ok {
				allowed = x
			}
		}
		if math.Abs(g-w) > allowed.Rel*math.Abs(w)+max(allowed.Abs, 1e-9) {
			t.Errorf("%s: want %v, got %v", path, w, g)
		}
	default:
		require.Equal(t, want, got, path)
	}
}
