package rsml

import (
	"bytes"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

func someRoots(seed uint64) []plant.Root {
	r := rand.New(rand.NewPCG(seed, 1))
	out := []plant.Root{}
	for range 1 + r.IntN(8) {
		root := plant.Root{Node: 1 + r.IntN(3), Order: 1 + r.IntN(2), How: plant.Traced, LengthMM: 40, LowMM: 35, HighMM: 50}
		if r.IntN(2) == 0 {
			root.Colour = plant.Tan
		}
		for range 2 + r.IntN(30) {
			root.Path = append(root.Path, plant.Point{X: float64(r.IntN(30000)) / 10, Y: float64(r.IntN(40000)) / 10})
		}
		out = append(out, root)
	}
	out[0].Order = 1
	return out
}

func written(t testing.TB, roots []plant.Root) []byte {
	t.Helper()
	var b bytes.Buffer
	left, err := Write(&b, File{Software: "Clear Jar", Key: "look", Image: "photo", Label: "PIN-A4-5", MMPerPixel: 0.15, At: time.Date(2026, 5, 1, 8, 0, 0, 0, time.UTC), Roots: roots})
	require.NoError(t, err)
	require.Zero(t, left)
	return b.Bytes()
}

// Read back, each root has its line, its node, its order and its colour.
func TestItReadsBack(t *testing.T) {
	for seed := range uint64(60) {
		roots := someRoots(seed)
		got, err := Read(bytes.NewReader(written(t, roots)))
		require.NoError(t, err)
		want := []plant.Root{}
		for _, r := range roots {
			r.LengthMM, r.LowMM, r.HighMM = 0, 0, 0
			want = append(want, r)
		}
		require.ElementsMatch(t, want, got)
	}
}

// schema is the form of the published format as far as it is used here, in another language: RELAX NG.
// from memory: Lobet et al., Plant Physiology 167, 2015, figure 2.
const schema = `<grammar xmlns="http://relaxng.org/ns/structure/1.0" datatypeLibrary="http://www.w3.org/2001/XMLSchema-datatypes"><start>
<element name="rsml"><element name="metadata"><interleave>
<element name="version"><text/></element><element name="unit"><text/></element><element name="resolution"><data type="double"/></element>
<element name="last-modified"><data type="dateTime"/></element><element name="software"><text/></element><element name="user"><text/></element><element name="file-key"><text/></element>
<optional><element name="image"><interleave><optional><element name="label"><text/></element></optional><optional><element name="sha256"><text/></element></optional></interleave></element></optional>
<optional><element name="property-definitions"><zeroOrMore><element name="property-definition"><element name="label"><text/></element><element name="type"><text/></element><element name="unit"><text/></element></element></zeroOrMore></element></optional>
</interleave></element><element name="scene"><zeroOrMore><element name="plant"><attribute name="ID"/><optional><attribute name="label"/></optional><zeroOrMore><ref name="root"/></zeroOrMore></element></zeroOrMore></element></element></start>
<define name="root"><element name="root"><attribute name="ID"/><optional><attribute name="label"/></optional>
<optional><element name="properties"><zeroOrMore><element><anyName/><attribute name="value"/></element></zeroOrMore></element></optional>
<element name="geometry"><element name="polyline"><oneOrMore><element name="point"><attribute name="x"><data type="double"/></attribute><attribute name="y"><data type="double"/></attribute><optional><attribute name="z"/></optional></element></oneOrMore></element></element>
<zeroOrMore><ref name="root"/></zeroOrMore></element></define></grammar>`

// Another program, xmllint, finds the files of the right form.
func TestAnotherProgramFindsItsForm(t *testing.T) {
	dir := t.TempDir()
	form, file := filepath.Join(dir, "form.rng"), filepath.Join(dir, "roots.rsml")
	require.NoError(t, os.WriteFile(form, []byte(schema), 0o600))
	for seed := range uint64(5) {
		require.NoError(t, os.WriteFile(file, written(t, someRoots(seed)), 0o600))
		out, err := exec.Command("xmllint", "--noout", "--relaxng", form, file).CombinedOutput()
		require.NoError(t, err, "%s", out)
	}
	require.NoError(t, os.WriteFile(file, []byte("<rsml><scene/></rsml>"), 0o600))
	require.Error(t, exec.Command("xmllint", "--noout", "--relaxng", form, file).Run(), "the check can fail")
}

func TestFilesThatCannotBe(t *testing.T) {
	whole := written(t, someRoots(1))
	for name, bad := range map[string]string{
		"empty":       "",
		"something":   "not XML at all",
		"cut short":   string(whole[:len(whole)/2]),
		"no roots":    "<rsml><metadata/><scene><plant ID='1'/></scene></rsml>",
		"not numbers": strings.Replace(string(whole), `x="`, `x="NaN`, 1),
		"nowhere":     "<rsml><scene><plant ID='1'><root ID='1'><geometry><polyline><point x='Inf' y='1'/><point x='2' y='1'/></polyline></geometry></root></plant></scene></rsml>",
		"no node":     "<rsml><scene><plant ID='1'><root ID='1'><properties><node value='900'/></properties><geometry><polyline><point x='1' y='1'/><point x='2' y='1'/></polyline></geometry></root></plant></scene></rsml>",
		"deep":        "<rsml><scene><plant ID='1'>" + strings.Repeat("<root ID='1'>", 50) + strings.Repeat("</root>", 50) + "</plant></scene></rsml>",
		"huge":        "<rsml>" + strings.Repeat(" ", mostBytes),
	} {
		_, err := Read(strings.NewReader(bad))
		require.Error(t, err, name)
		require.Contains(t, err.Error(), "Nothing was taken in", name)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(written(f, someRoots(3)))
	f.Add([]byte("<rsml><scene><plant ID='1'><root ID='1'/></plant></scene></rsml>"))
	f.Fuzz(func(t *testing.T, data []byte) {
		roots, err := Read(bytes.NewReader(data))
		if err != nil {
			return
		}
		if len(roots) > plant.MostRoots {
			t.Fatal("too many")
		}
	})
}
