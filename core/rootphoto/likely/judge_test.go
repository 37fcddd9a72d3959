package likely

import (
	"cmp"
	"slices"
)

// Judged is how well the forests tell roots from the rest: the chance that a crest on a root is given more than one on
// none (the area under the curve of the receiver), of both and of the first alone.
type Judged struct{ Both, First float64 }

// Judge judges examples each by the tables of its fold.
func Judge(all []Example, parts []*Tables, folded []int) Judged {
	var both, first []scored
	for i, e := range all {
		t := parts[folded[i]]
		m := t.Of(e.Scene, e.Behind, e.Class)
		marks := mark(e.Scene.L.W, e.Scene.L.H, e.Roots)
		for at, p := range m.First.Pix {
			if p == 0 {
				continue
			}
			k := marks.of(int32(at), m.Field.AcrossX.Pix[at], m.Field.AcrossY.Pix[at]) //nolint:gosec // a pixel
			if k == unsure {
				continue
			}
			first = append(first, scored{p, k == root})
			both = append(both, scored{m.P.Pix[at], k == root})
		}
	}
	return Judged{area(both), area(first)}
}

type scored struct {
	p    float32
	root bool
}

func area(s []scored) float64 {
	slices.SortFunc(s, func(a, b scored) int { return cmp.Compare(a.p, b.p) })
	var roots, pairs float64
	none := 0.0
	for i := 0; i < len(s); {
		j := i
		var r, n float64
		for ; j < len(s) && s[j].p == s[i].p; j++ {
			if s[j].root {
				r++
			} else {
				n++
			}
		}
		pairs += r * (none + n/2)
		roots, none, i = roots+r, none+n, j
	}
	if roots == 0 || none == 0 {
		return 0
	}
	return pairs / (roots * none)
}
