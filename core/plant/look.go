package plant

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"sort"
)

// Limits of what a look may hold.
const (
	MostRoots      = 200
	MostRootMM     = 2000.0
	MostVertices   = 2000
	MostNoteLength = 2000
)

// Point is a place in a photo, in pixels of the upright picture, from its top left corner.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Root is one root as seen in one look.
type Root struct {
	Node  int `json:"node" minimum:"1" maximum:"60"`
	Order int `json:"order" minimum:"1" maximum:"2"`
	// LengthMM with the interval LowMM to HighMM that most likely holds it. Of a traced root they are
	// concluded from its line, the scale and the vessel; what is sent of them is not taken.
	LengthMM float64    `json:"length_mm"`
	LowMM    float64    `json:"low_mm"`
	HighMM   float64    `json:"high_mm"`
	Colour   RootColour `json:"colour,omitempty" enum:"white,cream,pink,tan,orange,brown,black"`
	// Path is the traced line, root to tip; empty when the length was typed.
	Path []Point `json:"path,omitempty" maxItems:"2000"`
	// How says where the length comes from: traced, typed or truth (a rendered picture's known length).
	How string `json:"how" enum:"traced,typed,truth"`
	// With is what a typed length was measured with; empty for a ruler.
	With string `json:"with,omitempty" enum:"ruler,eye"`
}

// Where the length of a root comes from.
const (
	Traced = "traced"
	Typed  = "typed"
	Truth  = "truth"
)

// Scale is two points in a photo a known distance apart.
type Scale struct {
	A          Point   `json:"a"`
	B          Point   `json:"b"`
	DistanceMM float64 `json:"distance_mm"`
}

// BudAt is the state of the bud at one node.
type BudAt struct {
	Node int `json:"node" minimum:"1" maximum:"60"`
	Bud  Bud `json:"bud" enum:"dormant,swelling,shooting,leaf_open"`
}

// YoungAt is how many young plants were counted at one growing point of a piece.
type YoungAt struct {
	Node  int `json:"node" minimum:"1" maximum:"60"`
	Count int `json:"count" minimum:"0" maximum:"12"`
}

// MostYoung is how many young plants one growing point is counted to.
const MostYoung = 12

// Look is one inspection of one cutting. An empty value means "not noted", never "no".
type Look struct {
	// RootsCounted says that Roots lists what was there to be seen, even when it lists none.
	RootsCounted bool   `json:"roots_counted"`
	Roots        []Root `json:"roots" maxItems:"200"`
	Scale        *Scale `json:"scale,omitempty"`
	// Sight is how the photo is measured where no two points were set: by its tag and its vessel.
	Sight *Sight  `json:"sight,omitempty"`
	Buds  []BudAt `json:"buds" maxItems:"60"`
	// Plantlets are the young plants counted at each growing point; a point that is not listed was not counted.
	Plantlets []YoungAt `json:"plantlets,omitempty" maxItems:"60"`
	Stem      string    `json:"stem,omitempty" enum:"firm,wrinkled,soft"`
	RotMM     float64   `json:"rot_mm,omitempty" minimum:"0" maximum:"2000"`
	RootFeel  string    `json:"root_feel,omitempty" enum:"firm,mushy"`
	Tug       string    `json:"tug,omitempty" enum:"holds,gives"`
	Leaf      string    `json:"leaf,omitempty" enum:"fresh,yellowing,drooping,dropped"`
	Water     string    `json:"water,omitempty" enum:"clear,cloudy,smells,moist,dry,soaked"`
	Crowding  string    `json:"crowding,omitempty" enum:"free,coiling,filling"`
	Note      string    `json:"note,omitempty" maxLength:"2000"`
}

// Check refuses a look with impossible values, naming every field that is wrong.
func (l Look) Check() error {
	var all []error
	if len(l.Roots) > MostRoots {
		all = append(all, Refuse("roots", "%d roots: a look holds at most %d", len(l.Roots), MostRoots))
	}
	if l.Sight != nil {
		all = append(all, l.Sight.Check())
	}
	if len(l.Roots) > 0 && !l.RootsCounted {
		all = append(all, Refuse("roots_counted", "roots are listed, so they were counted"))
	}
	for i, r := range l.Roots {
		at := fmt.Sprintf("roots[%d]", i)
		if r.How == Traced {
			if len(r.Path) < 2 || l.Scale == nil && l.Sight == nil {
				all = append(all, Refuse(at+".path", "a traced root needs its line and the scale of the photo"))
			}
		} else if !(r.LengthMM > 0 && r.LengthMM <= MostRootMM) {
			all = append(all, Refuse(at+".length_mm", "a root is longer than 0 and at most %g mm", MostRootMM))
		}
		if r.How == Truth && (math.IsNaN(r.LowMM) || math.IsNaN(r.HighMM) || r.LowMM > r.LengthMM || r.HighMM < r.LengthMM || r.LowMM < 0) {
			all = append(all, Refuse(at+".low_mm", "the interval must hold the length"))
		}
		if r.HighMM > MostRootMM {
			all = append(all, Refuse(at+".high_mm", "at most %g mm", MostRootMM))
		}
		if len(r.Path) == 1 || len(r.Path) > MostVertices {
			all = append(all, Refuse(at+".path", "a traced root has 2 to %d points", MostVertices))
		}
	}
	for i, y := range l.Plantlets {
		if y.Count < 0 || y.Count > MostYoung {
			all = append(all, Refuse(fmt.Sprintf("plantlets[%d].count", i), "between 0 and %d", MostYoung))
		}
	}
	if !(l.RotMM >= 0 && l.RotMM <= MostRootMM) {
		all = append(all, Refuse("rot_mm", "between 0 and %g mm", MostRootMM))
	}
	if len([]rune(l.Note)) > MostNoteLength {
		all = append(all, Refuse("note", "at most %d characters", MostNoteLength))
	}
	return errors.Join(all...)
}

// Longest is the longest root, or false when none was measured.
func (l Look) Longest() (Root, bool) {
	var best Root
	for _, r := range l.Roots {
		if r.LengthMM > best.LengthMM {
			best = r
		}
	}
	return best, best.LengthMM > 0
}

// Overlay lays looks over one another, oldest first: for each thing, what was noted last.
func Overlay(looks []Look) Look {
	now := Look{Roots: []Root{}, Buds: []BudAt{}}
	over := func(dst *string, v string) {
		if v != "" {
			*dst = v
		}
	}
	for _, l := range looks {
		if l.RootsCounted {
			now.RootsCounted, now.Roots = true, l.Roots
		}
		now.Buds = overNodes(now.Buds, l.Buds, func(b BudAt) int { return b.Node })
		now.Plantlets = overNodes(now.Plantlets, l.Plantlets, func(y YoungAt) int { return y.Node })
		if l.RotMM > 0 || l.Stem == "firm" {
			now.RotMM = l.RotMM
		}
		over(&now.Stem, l.Stem)
		over(&now.RootFeel, l.RootFeel)
		over(&now.Tug, l.Tug)
		over(&now.Leaf, l.Leaf)
		over(&now.Water, l.Water)
		over(&now.Crowding, l.Crowding)
	}
	return now
}

// overNodes lays newer notes over older ones: a note of one node replaces that node's only.
func overNodes[T any](old, newer []T, node func(T) int) []T {
	if len(old)+len(newer) == 0 {
		return old
	}
	out := append([]T{}, old...)
	for _, n := range newer {
		at := slices.IndexFunc(out, func(had T) bool { return node(had) == node(n) })
		if at < 0 {
			out = append(out, n)
			continue
		}
		out[at] = n
	}
	sort.SliceStable(out, func(i, j int) bool { return node(out[i]) < node(out[j]) })
	return out
}

// Young is how many young plants were counted in all; false while nobody counted.
func (l Look) Young() (n int, counted bool) {
	for _, y := range l.Plantlets {
		n += y.Count
	}
	return n, len(l.Plantlets) > 0
}

// Shoots is the look with a shoot at each point where a young plant was counted, whatever was said of its bud.
func (l Look) Shoots() Look {
	if len(l.Plantlets) == 0 {
		return l
	}
	buds := []BudAt{}
	for _, y := range l.Plantlets {
		at := slices.IndexFunc(l.Buds, func(b BudAt) bool { return b.Node == y.Node })
		if y.Count > 0 && (at < 0 || l.Buds[at].Bud != BudLeafOpen) {
			buds = append(buds, BudAt{y.Node, BudShooting})
		}
	}
	l.Buds = overNodes(l.Buds, buds, func(b BudAt) int { return b.Node })
	return l
}

// Fewer is the look as it still holds once young plants were parted from it, one for each growing point named.
func (l Look) Fewer(young []int) Look {
	if len(young) == 0 || len(l.Plantlets) == 0 {
		return l
	}
	l.Plantlets = slices.Clone(l.Plantlets)
	for i := range l.Plantlets {
		for _, n := range young {
			if n == l.Plantlets[i].Node {
				l.Plantlets[i].Count = max(0, l.Plantlets[i].Count-1)
			}
		}
	}
	return l
}

// Without is the look as it still holds once other nodes went with what was parted from it: they are no longer seen on it.
func (l Look) Without(taken []int) Look {
	if len(taken) == 0 {
		return l
	}
	off := func(n int) bool { return slices.Contains(taken, n) }
	l.Roots = slices.DeleteFunc(slices.Clone(l.Roots), func(r Root) bool { return off(r.Node) })
	l.Buds = slices.DeleteFunc(slices.Clone(l.Buds), func(b BudAt) bool { return off(b.Node) })
	l.Plantlets = slices.DeleteFunc(slices.Clone(l.Plantlets), func(y YoungAt) bool { return off(y.Node) })
	return l
}

// After is the look as it still holds once nodes 1 to gone were cut away and the roots of the
// nodes in bare were taken off. What was rot went with them.
func (l Look) After(gone int, bare []int) Look {
	off := func(n int) bool { return n <= gone || slices.Contains(bare, n) }
	roots, buds := []Root{}, []BudAt{}
	for _, r := range l.Roots {
		if !off(r.Node) {
			roots = append(roots, r)
		}
	}
	for _, b := range l.Buds {
		if b.Node > gone {
			buds = append(buds, b)
		}
	}
	l.Plantlets = slices.DeleteFunc(slices.Clone(l.Plantlets), func(y YoungAt) bool { return y.Node <= gone })
	l.Roots, l.Buds, l.RotMM, l.RootFeel, l.Tug, l.Stem = roots, buds, 0, "", "", ""
	l.Water, l.Crowding = "", ""
	return l
}
