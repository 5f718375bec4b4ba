package api_test

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
)

// What is sent is as the description says: nothing that is required is taken for 0, no name is
// guessed, and what has no such value is refused beside its field. The description is whole.
func TestWhatIsSentIsAsDescribed(t *testing.T) {
	p, _ := newProgram(t)
	batch := "/batches/" + p.list("/batches").Items[0]["id"].(string)
	tray := p.list("/trays").Items[0]["id"].(string)
	for field, sent := range map[string]struct {
		to   string
		body map[string]any
	}{
		"leaves":        {batch + "/looks", map[string]any{}},
		"Leaves":        {batch + "/looks", map[string]any{"leaves": 2, "Leaves": 3}},
		"roots":         {batch + "/looks", map[string]any{"leaves": 2, "roots": "Few"}},
		"grams":         {batch + "/harvests", map[string]any{"grams": nil}},
		"marks.0.state": {batch + "/counts", map[string]any{"marks": []map[string]any{{"tray": tray, "cell": "A1", "state": "up"}}}},
		"marks.1.cell": {
			batch + "/counts",
			map[string]any{"marks": []map[string]any{{"tray": tray, "cell": "A1", "state": "sown"}, {"tray": tray, "state": "sown"}}},
		},
	} {
		sent.body["id"] = uuid.NewString()
		res := p.ask("POST", sent.to, sent.body)
		require.Equal(t, 422, res.Code, res.Body.String())
		require.Contains(t, res.Body.String(), `"field":"`+field+`"`)
	}
	look := map[string]any{"id": uuid.NewString(), "leaves": 2, "roots": "", "height_cm": nil}
	require.Equal(t, 200, p.ask("POST", batch+"/looks", look).Code, "what may be left out may be empty")

	put := p.ask("PUT", "/trays/"+uuid.NewString(), map[string]any{"name": "T", "kind": "cells", "medium": "peat"}, "If-None-Match", "*")
	require.Equal(t, 422, put.Code)
	require.Contains(t, put.Body.String(), `"field":"medium","message":"must be one of compost or coir`)

	files, err := filepath.Glob("*.go")
	require.NoError(t, err)
	whole, err := json.Marshal(p.doc)
	require.NoError(t, err)
	said := 0
	for _, f := range files {
		b, err := os.ReadFile(f)
		require.NoError(t, err)
		if strings.HasSuffix(f, "_test.go") {
			continue
		}
		for _, d := range regexp.MustCompile(`jsonschema_description:"([^"]+)"`).FindAllStringSubmatch(string(b), -1) {
			in, err := json.Marshal(d[1])
			require.NoError(t, err)
			require.True(t, bytes.Contains(whole, append([]byte(`"description":`), in...)), d[1])
			said++
		}
		require.NotContains(t, string(b), `jsonschema:"description=`, "is cut at its first comma: %s", f)
	}
	require.Greater(t, said, 100)
}
