package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// What differs between groups, schools and media is a column of their table: no key of one stands in a condition.
func TestNoKeyStandsInACondition(t *testing.T) {
	names, keys := map[string]bool{}, map[string]bool{}
	for _, g := range plant.Groups() {
		keys[g.Key] = true
	}
	for _, s := range plant.Schools() {
		keys[string(s.Key)] = true
	}
	for _, m := range plant.Media() {
		keys[string(m.Medium)] = true
	}
	for _, name := range []string{"Water", "Moss", "Perlite", "Mix", "EarlyRoots", "FirstLeaf", "FullRoots"} {
		names[name] = true
	}
	isKey := func(e ast.Expr) bool {
		switch e := e.(type) {
		case *ast.Ident:
			return names[e.Name]
		case *ast.SelectorExpr:
			from, ok := e.X.(*ast.Ident)
			return ok && from.Name == "plant" && names[e.Sel.Name]
		case *ast.BasicLit:
			text, err := strconv.Unquote(e.Value)
			return err == nil && e.Kind == token.STRING && keys[text]
		}
		return false
	}
	// found lists the places of a file where a key is compared or switched on.
	found := func(path string, src any) (out []string) {
		files := token.NewFileSet()
		file, err := parser.ParseFile(files, path, src, 0)
		require.NoError(t, err)
		ast.Inspect(file, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.BinaryExpr:
				if (n.Op == token.EQL || n.Op == token.NEQ) && (isKey(n.X) || isKey(n.Y)) {
					out = append(out, files.Position(n.Pos()).String())
				}
			case *ast.CaseClause:
				for _, e := range n.List {
					if isKey(e) {
						out = append(out, files.Position(e.Pos()).String())
					}
				}
			}
			return true
		})
		return out
	}
	require.Len(t, found("tried.go", `package tried
		func f(m string) bool { switch m { case plant.Moss: return true }; return m == "ivy" || m != plant.Water || m == other }`), 3, "this very test sees them")
	for _, dir := range []string{"../core", "../propagation", "../server", "../cmd"} {
		require.NoError(t, filepath.WalkDir(dir, func(path string, d fs.DirEntry, err error) error {
			if err == nil && !d.IsDir() && strings.HasSuffix(path, ".go") && !strings.HasSuffix(path, "_test.go") {
				for _, at := range found(path, nil) {
					t.Errorf("%s: a key stands in a condition; make what differs a column of its table", at)
				}
			}
			return err
		}))
	}
	// The same of the screens, as far as text can tell.
	parts := []string{}
	for k := range keys {
		parts = append(parts, k)
	}
	compared := regexp.MustCompile(`(===|!==|case) '(` + strings.Join(parts, "|") + `)'`)
	require.NoError(t, filepath.WalkDir("../ui/src", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.Contains(path, ".gen.") {
			return err
		}
		text, err := os.ReadFile(path)
		for _, hit := range compared.FindAllString(string(text), -1) {
			t.Errorf("%s: %s", path, hit)
		}
		return err
	}))
}
