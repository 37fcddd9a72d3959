package measure

import (
	"math"

	"clearjar/core/rootphoto/colour"
	"clearjar/core/rootphoto/scene"
)

// How the stem under water is compared with that above.
const (
	paler     = 9.5 // lighter by so much is cloudy
	duller    = 0.8 // less colourful by so much as well
	belowMM   = 2.0
	stretchMM = 9.0
)

// Cloudy tells whether the water is: the stem under it looks paler and duller than that above. Only where a node lies under
// water and another above can it be told; else it is taken for clear.
func (s *Seen) Cloudy() bool {
	if s.Guide == nil || len(s.Guide.Bands) < 2 || !s.behind.Water {
		return false
	}
	low, high := s.Guide.Bands[0], s.Guide.Bands[len(s.Guide.Bands)-1]
	under := stemColour(s.Guide.Map.Scene, low.Node.X, low.Node.Y, low.UpX, low.UpY, math.Min(low.Left, low.Right))
	above := stemColour(s.Guide.Map.Scene, high.Node.X, high.Node.Y, high.UpX, high.UpY, math.Min(high.Left, high.Right))
	return under.L > above.L+paler || under.Chroma() < duller*above.Chroma()
}

// stemColour is the mean colour of the middle of the stem along a stretch above a node.
func stemColour(s *scene.Scene, x, y, ux, uy, half float64) colour.Lab {
	var sum colour.Lab
	n := 0.0
	for up := belowMM; up <= stretchMM; up += 0.5 {
		for side := -0.5; side <= 0.5; side += 0.1 {
			px, py := x+ux*up*s.PxMM-uy*side*half, y+uy*up*s.PxMM+ux*side*half
			if px < 0 || py < 0 || px >= float64(s.L.W) || py >= float64(s.L.H) {
				continue
			}
			at := int(py)*s.L.W + int(px)
			sum.L, sum.A, sum.B, n = sum.L+float64(s.L.Pix[at]), sum.A+float64(s.A.Pix[at]), sum.B+float64(s.B.Pix[at]), n+1
		}
	}
	if n == 0 {
		return sum
	}
	return colour.Lab{L: sum.L / n, A: sum.A / n, B: sum.B / n}
}
