package plant

import (
	"go/build"
	"io/fs"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// common practice, no source: the handbook's table of growth groups.
func TestGroupTableAgreesWithTheHandbook(t *testing.T) {
	groups := Groups()
	require.Len(t, groups, 19)
	for key, want := range map[string]Span{"soft_climber": {30, 18, 60}, "velvet_climber": {55, 35, 100}, "pitcher_vine": {100, 60, 180}, "sword_succulent": {120, 60, 240}, "soft_shrub": {180, 120, 210}} {
		g, ok := GroupNamed(key)
		require.True(t, ok)
		require.Equal(t, want, g.PotUpDays, key)
	}
	for _, g := range groups {
		require.NotEmpty(t, g.Media, g.Key)
		require.NotEmpty(t, g.Basis.Kind, g.Key)
		require.LessOrEqual(t, g.FirstRootsDays.High, g.PotUpDays.High, g.Key)
		for _, h := range g.Hazards {
			require.Len(t, CautionsFor(h), 1, "%s: %s", g.Key, h)
		}
	}
}

func TestStemMapRefusesWhatCannotBeAStem(t *testing.T) {
	good := Stem{Nodes: []Node{{BelowMM: 30, Bud: BudDormant}, {BelowMM: 40, Bud: BudSwelling}}, BeyondMM: 20, ThicknessMM: 8}
	require.NoError(t, good.Check())
	require.Equal(t, 70.0, good.At(2))
	require.Equal(t, 90.0, good.LengthMM())
	for _, mm := range []float64{-5, 0, 5000, math.NaN(), math.Inf(1)} {
		bad := good
		bad.Nodes = []Node{{BelowMM: mm, Bud: BudDormant}}
		got := Refusals(bad.Check())
		require.Len(t, got, 1)
		require.Equal(t, "nodes[0].below_mm", got[0].Field)
	}
	require.Len(t, Refusals(Stem{Nodes: make([]Node, 500), ThicknessMM: 8}.Check()), 1001)
}

func TestCodesNameMotherStemAndNodes(t *testing.T) {
	require.Equal(t, "MEL-A3-4", PieceCode("MEL", "A", 3, 4, 9))
	require.Equal(t, "MEL-A3", PieceCode("MEL", "A", 3, 3, 9))
	require.Equal(t, []string{"VIO-L3", "VIO-L3b", "VIO-L12a-b"}, []string{PieceCode("VIO", "L3", 1, 1, 1), PieceCode("VIO", "L3", 2, 2, 4), PieceCode("VIO", "L12", 1, 2, 4)})
	require.Equal(t, "VIO-L3.2", PlantletCode("VIO-L3", 2))
	require.Equal(t, []string{"A", "Z", "AA", "AB"}, []string{StemLetter(0), StemLetter(25), StemLetter(26), StemLetter(27)})
}

func TestLookRefusesTheImpossible(t *testing.T) {
	require.NoError(t, Look{}.Check())
	bad := Look{RotMM: -1, Roots: []Root{{Node: 1, Order: 1, LengthMM: -3}, {Node: 1, Order: 1, LengthMM: 9, LowMM: 10, HighMM: 11, How: Truth}, {Node: 1, Order: 1, How: Traced}}}
	require.Len(t, Refusals(bad.Check()), 5)
}

func TestOverlayKeepsWhatWasNotedLast(t *testing.T) {
	root := Root{Node: 1, Order: 1, LengthMM: 9, LowMM: 8, HighMM: 10, How: "typed"}
	now := Overlay([]Look{
		{RootsCounted: true, Roots: []Root{root}, Stem: "soft", RotMM: 12, Tug: "gives"},
		{Stem: "firm", Leaf: "fresh"},
		{Tug: "holds", Buds: []BudAt{{1, BudSwelling}}},
	})
	require.Equal(t, Look{RootsCounted: true, Roots: []Root{root}, Stem: "firm", Leaf: "fresh", Tug: "holds", Buds: []BudAt{{1, BudSwelling}}}, now)
	require.True(t, Overlay(append([]Look{now}, Look{RootsCounted: true})).RootsCounted)
	_, any := Overlay([]Look{now, {RootsCounted: true}}).Longest()
	require.False(t, any, "counted again, and none was there")
}

func TestNamesAreCleanButKeepWhatTheySay(t *testing.T) {
	name, err := CleanName("name", "  <b>Philodendron</b> ", 40)
	require.NoError(t, err)
	require.Equal(t, "<b>Philodendron</b>", name)
	for _, bad := range []string{"", "   ", "a\nb", strings.Repeat("x", 41)} {
		_, err := CleanName("name", bad, 40)
		require.Error(t, err, "%q", bad)
	}
}

// TestCoreStaysPure: the rules know no clock, no file, no network and no floor above them.
func TestCoreStaysPure(t *testing.T) {
	allowed := func(path string) bool {
		first, _, _ := strings.Cut(path, "/")
		switch {
		case path == "os", path == "net", strings.HasPrefix(path, "net/"), strings.HasPrefix(path, "os/"), strings.HasPrefix(path, "database/"), path == "syscall":
			return false
		case strings.HasPrefix(path, "clearjar/core/"), strings.HasPrefix(path, "gonum.org/"), strings.HasPrefix(path, "golang.org/x/image"), strings.HasPrefix(path, "github.com/makiuchi-d/gozxing"):
			return true
		}
		return !strings.Contains(first, ".") && first != "clearjar"
	}
	packages := 0
	err := filepath.WalkDir("..", func(path string, d fs.DirEntry, err error) error {
		if err != nil || !d.IsDir() || d.Name() == "testdata" || path == ".." {
			return err
		}
		pkg, err := build.ImportDir(path, 0)
		if err != nil {
			return err
		}
		packages++
		for _, imported := range pkg.Imports {
			require.True(t, allowed(imported), "%s imports %s", path, imported)
		}
		for _, name := range pkg.GoFiles {
			src, err := os.ReadFile(filepath.Join(path, name))
			require.NoError(t, err)
			require.NotContains(t, string(src), "time.Now", name)
			// Chance comes with a seed: the same photo, the same answer.
			seeded := strings.NewReplacer("rand.New(rand.NewPCG(", "", "*rand.Rand", "").Replace(string(src))
			require.NotContains(t, seeded, "rand.", name)
		}
		return nil
	})
	require.NoError(t, err)
	require.GreaterOrEqual(t, packages, 6)
}
