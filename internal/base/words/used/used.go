// Package used finds every text that the program has to say, in its code, its templates and
// its tables, so that tests can hold the languages against them.
package used

import (
	"fmt"
	"go/ast"
	"go/constant"
	"go/types"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"

	"golang.org/x/tools/go/packages"

	"ulpa/core/calc"
	"ulpa/core/crop"
	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/internal/doors/face"
)

// Texts are the texts of the program under a directory of the module, each with a place
// where it stands: the keys of every language's file.
func Texts(module string) (map[string]string, error) {
	all := map[string]string{}
	if err := inCode(module, all); err != nil {
		return nil, err
	}
	if err := inTemplates(module, all); err != nil {
		return nil, err
	}
	for _, c := range crop.All() {
		for _, w := range []say.Words{c.Name, c.Family, c.Hazard} {
			add(all, w, "core/crop/catalogue")
		}
	}
	for _, s := range recipe.Salts() {
		add(all, say.Words(recipe.Salt(s).String()), "core/recipe/salts.go")
	}
	for _, c := range calc.All {
		choices(c.Fields, all)
	}
	return all, nil
}

func add(all map[string]string, w say.Words, at string) {
	if say.Lettered(w) && all[string(w)] == "" {
		all[string(w)] = at
	}
}

// choices are those of a calculator that are shown by their names.
func choices(fields []calc.Field, all map[string]string) {
	for _, f := range fields {
		if f.Name != "shape" && f.Called == nil && f.FromBook == nil && f.OnScreen != "" {
			for _, c := range f.Choices {
				add(all, say.Words(strings.ReplaceAll(c, "_", " ")), "core/calc, "+f.Name)
			}
		}
		choices(f.Parts, all)
	}
}

// inCode are the constants of type say.Words.
func inCode(module string, all map[string]string) error {
	loaded, err := packages.Load(&packages.Config{
		Dir:        module,
		BuildFlags: []string{"-tags=nomsgpack"},
		Mode: packages.NeedName | packages.NeedFiles | packages.NeedSyntax | packages.NeedTypes |
			packages.NeedTypesInfo | packages.NeedImports | packages.NeedExportFile,
	}, "./core/...", "./internal/...", "./cmd/...")
	if err != nil {
		return err
	}
	for _, p := range loaded {
		if len(p.Errors) > 0 {
			return fmt.Errorf("%s: %v", p.PkgPath, p.Errors[0])
		}
		counted := map[ast.Expr]bool{}
		for _, file := range p.Syntax {
			ast.Inspect(file, func(n ast.Node) bool {
				if c, ok := n.(*ast.CallExpr); ok && len(c.Args) == 2 && named(p.TypesInfo, c.Fun, "Plural") {
					counted[c.Args[1]] = true
				}
				x, ok := n.(ast.Expr)
				if !ok {
					return true
				}
				switch x.(type) {
				case *ast.BasicLit, *ast.BinaryExpr: // a long text is several, joined
				default:
					return true
				}
				v := p.TypesInfo.Types[x]
				if v.Type == nil || v.Value == nil || v.Type.String() != "ulpa/core/say.Words" {
					return true
				}
				w := say.Words(constant.StringVal(v.Value))
				if counted[x] {
					w = "%d " + w
				}
				add(all, w, p.Fset.Position(x.Pos()).String())
				return false
			})
		}
	}
	return nil
}

func named(info *types.Info, f ast.Expr, name string) bool {
	s, ok := f.(*ast.SelectorExpr)
	if !ok {
		return false
	}
	o := info.Uses[s.Sel]
	return o != nil && o.Name() == name && o.Pkg() != nil && o.Pkg().Path() == "ulpa/core/say"
}

// spoken are the texts in a template's actions: {{t "..."}}.
var spoken = regexp.MustCompile(`\bt ("(?:[^"\\]|\\.)*")`)

func inTemplates(module string, all map[string]string) error {
	return filepath.WalkDir(filepath.Join(module, "internal"), func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || filepath.Ext(path) != ".html" {
			return err
		}
		b, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		at, err := filepath.Rel(module, path)
		if err != nil {
			return err
		}
		for _, m := range spoken.FindAllStringSubmatch(string(b), -1) {
			w, err := strconv.Unquote(m[1])
			if err != nil {
				return fmt.Errorf("%s: %s: %w", at, m[1], err)
			}
			add(all, say.Words(w), at)
		}
		_, err = face.Localize(string(b), func(w say.Words) string {
			add(all, w, at)
			return string(w)
		})
		return err
	})
}
