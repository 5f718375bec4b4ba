package web_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/require"
)

// The folders show the floors. What stands in internal/base knows nothing of what people do; areas
// (internal/work) know one another and the base, and their pages and views the face too; the doors
// open onto the areas. The face knows no area, pages never another area's pages, and the round,
// which joins what areas give, none of them.
func TestAreasAreRoomsOfTheirOwn(t *testing.T) {
	imports := map[string][]string{}
	require.NoError(t, filepath.WalkDir("../..", func(path string, _ fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		require.NoError(t, err)
		of := "ulpa/internal" + strings.TrimPrefix(filepath.Dir(path), "../..")
		imports[of] = append(imports[of], "") // a package may import nothing
		for _, i := range f.Imports {
			imports[of] = append(imports[of], strings.Trim(i.Path.Value, `"`))
		}
		return nil
	}))
	kind := func(p string) string {
		p, ours := strings.CutPrefix(p, "ulpa/internal/")
		if !ours {
			return ""
		}
		parts := strings.Split(p, "/")
		last := parts[len(parts)-1]
		switch {
		case parts[0] == "tests" || p == "base/words/used" || p == "doors/web" || p == "doors/api" || p == "doors/seasontrial":
			return "top" // it looks at everything
		case last == "pages" || last == "view":
			return last
		case p == "base/store/db":
			return "rows"
		case p == "doors/face":
			return "face"
		case p == "doors/help":
			return "base" // topics: what stands beside pages, as values
		case p == "work/round":
			return "round"
		}
		return parts[0] // base, work, doors
	}
	may := map[string]string{
		"base":  "base rows",
		"round": "base rows",
		"work":  "work round base rows",
		"doors": "work round doors base rows",
		"face":  "base",
		"view":  "work round view face base",
		"pages": "work round view face doors base",
	}
	seen := map[string]int{}
	for of, all := range imports {
		from := kind(of)
		if seen[from]++; from == "top" {
			continue
		}
		for _, p := range all {
			if to := kind(p); to != "" {
				require.Contains(t, strings.Fields(may[from]), to, "%s imports %s", of, p)
			}
		}
	}
	for from, least := range map[string]int{"base": 14, "work": 18, "pages": 15, "view": 5, "face": 1, "round": 1} {
		require.GreaterOrEqual(t, seen[from], least, from)
	}
}

// What verbs take and give is their own: a row of the database, which may hold a hash of
// a password, is nowhere that a template could reach.
func TestVerbsGiveNoRows(t *testing.T) {
	looked := 0
	require.NoError(t, filepath.WalkDir("../..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasPrefix(path, "../../base/store/") {
			return err
		}
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			return err
		}
		none := func(name string, x ast.Node) {
			looked++
			ast.Inspect(x, func(n ast.Node) bool {
				if sel, ok := n.(*ast.SelectorExpr); ok {
					of, ok := sel.X.(*ast.Ident)
					require.False(t, ok && of.Name == "db", "%s: %s shows db.%s", path, name, sel.Sel.Name)
				}
				return true
			})
		}
		verbs := strings.HasPrefix(path, "../../work/") && !strings.Contains(path, "/pages/")
		ast.Inspect(f, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.FuncDecl:
				if n.Name.IsExported() {
					none(n.Name.Name, n.Type)
					require.False(t, verbs && twoIDs(n.Type), "%s: %s takes two ids in a row, which are easily taken for one another: give it a request", path, n.Name.Name)
				}
				return false
			case *ast.StructType:
				for _, field := range n.Fields.List {
					if len(field.Names) == 0 || field.Names[0].IsExported() {
						none("a field", field.Type)
					}
				}
			}
			return true
		})
		return nil
	}))
	require.Greater(t, looked, 500)
}

func twoIDs(f *ast.FuncType) bool {
	before := 0
	for _, p := range f.Params.List {
		sel, ok := p.Type.(*ast.SelectorExpr)
		if !ok || sel.Sel.Name != "UUID" {
			before = 0
			continue
		}
		if before += len(p.Names); before > 1 {
			return true
		}
	}
	return false
}

// Code is for people to read.
func TestLinesCanBeRead(t *testing.T) {
	files := 0
	require.NoError(t, filepath.WalkDir("../../..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || filepath.Ext(path) != ".go" || strings.Contains(path, "store/db/") || strings.Contains(path, "node_modules") {
			return err
		}
		text, err := os.ReadFile(path)
		for i, line := range strings.Split(string(text), "\n") {
			require.LessOrEqual(t, utf8.RuneCountInString(line), 160, "%s:%d", path, i+1)
		}
		files++
		return err
	}))
	require.Greater(t, files, 200)
}

// Templates are for people to edit: no tag and no action goes on in the next line, and a long
// line is one tag.
func TestTemplatesCanBeRead(t *testing.T) {
	files, err := filepath.Glob("../../*/*/pages/*.html")
	require.NoError(t, err)
	parts, err := filepath.Glob("../face/view/*.html")
	require.NoError(t, err)
	require.Greater(t, len(files), 18)
	action := regexp.MustCompile(`\{\{[^}]*\}\}`)
	tag := regexp.MustCompile(`<[a-z!][^<>]*>`)
	for _, f := range append(files, parts...) {
		text, err := os.ReadFile(f)
		require.NoError(t, err)
		for i, line := range strings.Split(string(text), "\n") {
			bare := action.ReplaceAllString(line, "")
			require.Equal(t, strings.Count(bare, "<"), strings.Count(bare, ">"), "%s:%d breaks a tag", f, i+1)
			require.NotContains(t, bare, "{{", "%s:%d breaks an action", f, i+1)
			if utf8.RuneCountInString(line) > 160 {
				require.LessOrEqual(t, len(tag.FindAllString(bare, -1)), 1, "%s:%d can be parted between tags", f, i+1)
			}
		}
	}
}

// What a template is given says in a line what it is.
func TestViewModelsSayWhatTheyAre(t *testing.T) {
	var files []string
	for _, places := range []string{"../../*/*/pages/*.go", "../../*/*/view/*.go", "../face/*.go"} {
		found, err := filepath.Glob(places)
		require.NoError(t, err)
		files = append(files, found...)
	}
	looked := 0
	for _, file := range files {
		f, err := parser.ParseFile(token.NewFileSet(), file, nil, parser.ParseComments)
		require.NoError(t, err)
		for _, d := range f.Decls {
			g, ok := d.(*ast.GenDecl)
			if !ok || g.Tok != token.TYPE {
				continue
			}
			for _, spec := range g.Specs {
				looked++
				name := spec.(*ast.TypeSpec).Name.Name
				require.True(t, strings.HasPrefix(g.Doc.Text(), name+" "), "%s: %s", file, name)
			}
		}
	}
	require.Greater(t, looked, 200)
}
