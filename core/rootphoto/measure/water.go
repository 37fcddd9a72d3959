package measure

import (
	"math"
	"slices"
)

// Clouded water lifts what is dark and blurs what is fine. Measured on rendered photos.
const (
	// lifted is how light the darkest hundredth is against the lightest, from which on water is cloudy, where the steps of
	// lightness that a tenth of its pixels exceed are no more than blurred.
	lifted  = 0.48
	blurred = 8.0
	// What is looked at: the middle of the vessel, mm up and down from the lowest node.
	aboveMM, belowMM = 10.0, 28.0
	rim              = 0.12
	fineStep         = 2
)

// Cloudy tells whether the water is. Only between known edges of a jar it can be told; else it is taken for clear.
func (s *Seen) Cloudy() bool {
	if s.Guide == nil || s.Surface == nil || s.Surface.Left == nil || !s.behind.Water {
		return false
	}
	m := s.Guide.Map
	left, right := m.In(s.Surface.Left.A).X, m.In(s.Surface.Right.A).X
	in := rim * (right - left)
	light, fine := []float32{}, []float64{}
	node := m.Nodes[0]
	for y := max(fineStep, int(node.Y-aboveMM*m.PxMM)); y < min(m.L.H-fineStep, int(node.Y+belowMM*m.PxMM)); y++ {
		for x := max(fineStep, int(left+in)); x < min(m.L.W-fineStep, int(right-in)); x++ {
			light = append(light, m.L.At(x, y))
			fine = append(fine, math.Hypot(float64(m.L.At(x+fineStep, y)-m.L.At(x-fineStep, y)), float64(m.L.At(x, y+fineStep)-m.L.At(x, y-fineStep))))
		}
	}
	if len(light) < 1000 {
		return false
	}
	slices.Sort(light)
	slices.Sort(fine)
	dark, bright := light[len(light)/100], light[len(light)*99/100]
	return dark >= lifted*bright && fine[len(fine)*9/10] < blurred
}
