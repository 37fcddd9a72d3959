package readiness

import (
	"go/ast"
	"go/parser"
	"go/token"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// Deciding and saying are two steps: the files that decide hold no sentence, and what is decided can be said.
func TestWhatDecidesSaysNothing(t *testing.T) {
	for _, name := range []string{"decide.go", "criteria.go", "sign.go", "question.go", "expect.go", "chance.go", "contradiction.go", "aftercare.go", "learned.go", "ahead.go"} {
		f, err := parser.ParseFile(token.NewFileSet(), name, nil, 0)
		require.NoError(t, err)
		for _, i := range f.Imports {
			require.NotEqual(t, `"fmt"`, i.Path.Value, "%s", name)
		}
		ast.Inspect(f, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.Field: // tags
				return false
			case *ast.CallExpr: // what is refused is said where it is refused
				s, ok := n.Fun.(*ast.SelectorExpr)
				return !ok || s.Sel.Name != "Refuse"
			case *ast.BasicLit:
				require.False(t, n.Kind == token.STRING && strings.Contains(n.Value, " "), "%s says %s", name, n.Value)
			}
			return true
		})
	}
}

func TestEveryGroundHasItsWords(t *testing.T) {
	f, err := parser.ParseFile(token.NewFileSet(), "decide.go", nil, 0)
	require.NoError(t, err)
	n := 0
	ast.Inspect(f, func(x ast.Node) bool {
		if v, ok := x.(*ast.ValueSpec); ok {
			if of, ok := v.Type.(*ast.Ident); ok && of.Name == "Ground" {
				n++
				key := strings.Trim(v.Values[0].(*ast.BasicLit).Value, `"`)
				require.Contains(t, grounds, Ground(key))
			}
		}
		return true
	})
	require.Len(t, grounds, n)
}
