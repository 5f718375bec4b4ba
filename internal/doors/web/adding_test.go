package web_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// What the table "Where to add" in docs/architecture.md promises, counted on one of each:
// these files and no others know of it.
func TestWhereToAddIsTrue(t *testing.T) {
	t.Parallel()
	comment := regexp.MustCompile(`(?m)^\s*//.*$`)
	var names []string
	code := map[string][]byte{}
	for _, dir := range []string{"core", "internal", "cmd"} {
		require.NoError(t, filepath.WalkDir("../../../"+dir, func(path string, d fs.DirEntry, err error) error {
			name := strings.TrimPrefix(path, "../../../")
			if err != nil || d.IsDir() || strings.HasSuffix(path, "_test.go") || strings.HasPrefix(name, "internal/doors/demo/") ||
				!slices.Contains([]string{".go", ".html", ".json", ".js", ".mjs"}, filepath.Ext(path)) ||
				strings.Contains(path, "testdata") || strings.Contains(path, "calctest") {
				return err
			}
			text, err := os.ReadFile(path)
			names, code[name] = append(names, name), comment.ReplaceAll(text, nil)
			return err
		}))
	}
	for what, x := range map[string]struct {
		known string
		files []string
	}{
		"a kind of entry": {`\bTreated = ledger\.|\bTreated\.|solution\.Treated\b`, []string{
			"internal/work/solution/kinds.go", "internal/work/solution/pages/reading.go", "internal/work/solution/solution.go",
		}},
		"an act on a batch": {`\bLose Kind\b|Kind: batch\.Lose\b|\bLostSome =|batches\.LostSome\b`, []string{
			"core/batch/lose.go", "internal/work/batches/batch.go", "internal/work/batches/kinds.go", "internal/work/batches/pages/batchacts.go",
		}},
		"a page": {`"trail", ""|trailPage\(|\.trailPage|trail\.html`, []string{
			"internal/work/people/pages/pages.go", "internal/work/people/pages/trail.go", "internal/work/people/pages/trail.html",
		}},
		"a kind of task": {`\bCalibrate = declare|round\.Calibrate\b`, []string{"core/round/meters.go", "internal/work/meters/round.go"}},
		"a language":     {`"es"|Spanish|es\.json`, []string{"internal/base/words/es.json"}},
		"a calculator": {`"ammonia"|func UnionisedAmmonia`, []string{
			"core/calc/water.go", "core/chemistry/water.go", "internal/work/sums/water.go",
		}},
		"a unit": {`°F·days`, []string{"core/unit/unit.go"}},
	} {
		known := regexp.MustCompile(x.known)
		var found []string
		for _, name := range names {
			if known.Match(code[name]) || known.MatchString(filepath.Base(name)) {
				found = append(found, name)
			}
		}
		require.Equal(t, x.files, found, what)
	}
}
