package measure

import (
	"cmp"
	"errors"
	"slices"

	"clearjar/core/rootphoto/turned"
)

// ErrNoJar says that two photos cannot be put together.
var ErrNoJar = errors.New("two photos a quarter turn apart are put together for round jars whose nodes are marked in both")

// Beside measures roots of this photo anew by those of a second, for which the jar was turned a quarter to the right: what
// one view hides of a length the other shows. Roots that find no partner keep what one photo tells. Both have the same
// nodes, in the same order.
func (s *Seen) Beside(second *Seen, mine, its []Root) ([]Root, error) {
	out := slices.Clone(mine)
	if s.Surface == nil || second.Surface == nil || len(s.Asked.Nodes) == 0 || len(s.Asked.Nodes) != len(second.Asked.Nodes) {
		return out, ErrNoJar
	}
	a, okA := s.Surface.Standing()
	b, okB := second.Surface.Standing()
	if !okA || !okB {
		return out, ErrNoJar
	}
	type match struct {
		i, j int
		line turned.Line
	}
	all := []match{}
	for node := range s.Asked.Nodes {
		pair, err := turned.Put(turned.View{Standing: a, Node: s.Asked.Nodes[node]}, turned.View{Standing: b, Node: second.Asked.Nodes[node]})
		if err != nil {
			return out, err
		}
		for i, r := range mine {
			for j, q := range its {
				if r.Node != node || q.Node != node || r.Order != q.Order {
					continue
				}
				if l, err := pair.Root(r.Path, q.Path); err == nil {
					all = append(all, match{i, j, l})
				}
			}
		}
	}
	// The best fit first; each line is of one root.
	slices.SortStableFunc(all, func(x, y match) int { return cmp.Compare(x.line.OffMM, y.line.OffMM) })
	taken := map[int]bool{}
	for _, m := range all {
		if out[m.i].Views == 2 || taken[m.j] {
			continue
		}
		taken[m.j] = true
		mm := m.line.MM
		low, high, allowed := mm*turned.Low, mm*turned.High, mm*turned.Middle
		r := &out[m.i]
		r.Views, r.LengthMM, r.LowMM, r.HighMM, r.AllowedMM = 2, &mm, &low, &high, &allowed
	}
	return out, nil
}
