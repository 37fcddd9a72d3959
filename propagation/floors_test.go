package propagation_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// floors are the packages of the use cases, each with those below it that it may rest on.
var floors = map[string][]string{
	".":              {},
	"conclude":       {"."},
	"outside":        {"."},
	"photo/intake":   {},
	"photo":          {".", "photo/intake"},
	"bench":          {".", "conclude"},
	"door":           {".", "conclude", "photo", "bench"},
	"paper/tagsheet": {},
	"paper/passport": {},
	"show":           {".", "conclude", "photo", "bench", "outside", "paper/tagsheet"},
	"paper":          {".", "conclude", "show", "paper/tagsheet", "paper/passport"},
	"files/exchange": {},
	"files":          {".", "conclude", "bench", "door", "show", "outside", "files/exchange"},
	"sight":          {".", "conclude", "photo", "photo/intake"},
	"work":           {".", "conclude", "photo", "outside", "sight"},
}

// writes are the queries that write, by the room that may call them: facts are written in the door, nowhere else.
var writes = map[string][]string{
	"conclude": {"KeepConclusions", "IssueForecasts", "KeepLearned", "KeepMeasured"},
	"outside":  {"AddOutsideKey", "EndOutsideKey", "AddReadings", "LockSensor", "TakeOldReadings", "PutHours"},
	"sight":    {"AskSighting", "StepSighting", "EndSighting", "StopSighting", "OldSightings"},
	"photo":    {"AddPhoto", "KeepPhotoView", "NamePhoto", "TurnPhoto", "DropPhotoViews"},
}

// Rooms beside the use cases, each with those of ours it may rest on.
var beside = map[string][]string{
	"../wayin":     {},
	"../keeping":   {"clearjar/store", "clearjar/wayin"},
	"../household": {"clearjar/core/plant", "clearjar/propagation", "clearjar/store", "clearjar/store/sqlgen"},
}

func TestRoomsBesideRestOnLittle(t *testing.T) {
	t.Parallel()
	for room, may := range beside {
		files, err := filepath.Glob(filepath.Join(room, "*.go"))
		require.NoError(t, err)
		require.NotEmpty(t, files, room)
		for _, path := range files {
			if strings.HasSuffix(path, "_test.go") {
				continue
			}
			f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
			require.NoError(t, err)
			for _, i := range f.Imports {
				if name := strings.Trim(i.Path.Value, `"`); strings.HasPrefix(name, "clearjar/") {
					require.Contains(t, may, name, path)
				}
			}
		}
	}
}

func TestArrowsGoDownOnlyAndFactsAreWrittenInTheDoor(t *testing.T) {
	const here = "clearjar/propagation"
	writing := writingQueries(t)
	seen := map[string]bool{}
	require.NoError(t, filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		room := filepath.ToSlash(filepath.Dir(path))
		may, known := floors[room]
		require.True(t, known, "%s is a room nobody spoke of", room)
		seen[room] = true
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		require.NoError(t, err)
		for _, i := range f.Imports {
			name := strings.Trim(i.Path.Value, `"`)
			if rest, ok := strings.CutPrefix(name, here); ok {
				to := strings.TrimPrefix(rest, "/")
				if to == "" {
					to = "."
				}
				require.Contains(t, may, to, "%s imports %s", path, name)
			}
			require.False(t, strings.HasPrefix(name, "clearjar/server"), "%s imports %s", path, name)
		}
		ast.Inspect(f, func(n ast.Node) bool {
			call, ok := n.(*ast.SelectorExpr)
			if !ok {
				return true
			}
			of, ok := call.X.(*ast.SelectorExpr)
			if !ok || of.Sel.Name != "Store" || room == "door" || slices.Contains(writes[room], call.Sel.Name) {
				return true
			}
			require.NotContains(t, writing, call.Sel.Name, "%s writes by it: facts are written in the door", path)
			return true
		})
		return nil
	}))
	require.Len(t, seen, len(floors))
}

// writingQueries are the names of all queries that write or lock.
func writingQueries(t *testing.T) []string {
	files, err := filepath.Glob("../store/query/*.sql")
	require.NoError(t, err)
	changes := regexp.MustCompile(`(?i)\b(insert into|update|delete from)\b`)
	out := []string{}
	for _, f := range files {
		text, err := os.ReadFile(f)
		require.NoError(t, err)
		for _, part := range strings.Split(string(text), "-- name: ")[1:] {
			if changes.MatchString(part) {
				out = append(out, strings.Fields(part)[0])
			}
		}
	}
	require.Contains(t, out, "AddLook")
	require.Contains(t, out, "LockCutting")
	require.NotContains(t, out, "LooksOfCuttings")
	return out
}
