// Package core_test keeps the core to itself.
package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// The core has no clock, no I/O, no SQL and no HTML, and knows nothing of ours above it. The
// files are read here and not by another program, so that no earlier answer is taken for theirs.
func TestCoreStandsOnItsOwn(t *testing.T) {
	files := 0
	require.NoError(t, filepath.WalkDir(".", func(path string, _ fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasPrefix(path, "calc/calctest/") {
			return err // calctest holds what tests ask of calculators
		}
		files++
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution)
		require.NoError(t, err)
		for _, i := range f.Imports {
			name, err := strconv.Unquote(i.Path.Value)
			require.NoError(t, err)
			require.False(t, strings.HasPrefix(name, "github.com/"), "%s imports %s", path, name)
			require.True(t, !strings.HasPrefix(name, "ulpa/") || strings.HasPrefix(name, "ulpa/core/"), "%s imports %s", path, name)
			require.NotEqual(t, "ulpa/core/calc/calctest", name, path)
			for _, never := range []string{"net", "net/http", "html/template", "text/template", "database/sql", "os", "os/exec"} {
				require.NotEqual(t, never, name, path)
			}
		}
		ast.Inspect(f, func(n ast.Node) bool { // nobody asks the clock what time it is
			if sel, ok := n.(*ast.SelectorExpr); ok {
				if of, ok := sel.X.(*ast.Ident); ok && of.Name == "time" {
					require.NotContains(t, []string{"Now", "Since", "Until", "Sleep", "After", "Tick"}, sel.Sel.Name, path)
				}
			}
			return true
		})
		return nil
	}))
	require.Greater(t, files, 150)
}
