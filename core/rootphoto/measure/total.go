package measure

import (
	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/core/rootphoto/ridge"
)

// How the length of all roots that are seen is told.
const (
	// surePixel is how likely a pixel lies on a root to count; grownPX is by how much what counts is widened before it is
	// thinned, so that what is broken for a pixel or two hangs together.
	surePixel = 0.5
	grownPX   = 1
	// chainMM is how long a line must be to count: shorter ones are specks.
	chainMM = 3.0
	// What is seen in all is so many times what is counted, in the middle, and nine times in ten between the other two:
	// measured on 65 rendered photos, each by tables learned without it.
	totalMiddle, totalLow, totalHigh = 1.39, 1.03, 2.55
	// every is how many pixels of a thinned line go into one step: single steps are staircases.
	every = 5
)

// Total is about how long all roots together are that are seen in the photo: also those that were not proposed, because
// they cannot be told apart. It counts the pixels that likely lie on a root, thinned to lines. False without a scale.
func (s *Seen) Total() (rootphoto.Measured, bool) {
	if s.Surface == nil || s.Guide == nil {
		return rootphoto.Measured{}, false
	}
	mm := s.counted()
	return rootphoto.Measured{LengthMM: mm * totalMiddle, LowMM: mm * totalLow, HighMM: mm * totalHigh}, true
}

// counted is how long the lines are that pixels which likely lie on a root make, mm.
func (s *Seen) counted() float64 {
	p := s.Guide.Map.P
	m := ridge.NewMask(p.W, p.H)
	for y := grownPX; y < p.H-grownPX; y++ {
		for x := grownPX; x < p.W-grownPX; x++ {
			if p.At(x, y) < surePixel {
				continue
			}
			for dy := -grownPX; dy <= grownPX; dy++ {
				for dx := -grownPX; dx <= grownPX; dx++ {
					m.On[(y+dy)*p.W+x+dx] = true
				}
			}
		}
	}
	sum := 0.0
	for _, chain := range ridge.Thin(m).Chains() {
		line := []plant.Point{}
		for i := 0; ; i += every {
			at := chain[min(i, len(chain)-1)]
			line = append(line, s.Guide.Map.Out(plant.Point{X: float64(at%p.W) + 0.5, Y: float64(at/p.W) + 0.5}))
			if i >= len(chain)-1 {
				break
			}
		}
		if mm := s.Surface.Length(line).MM; mm >= chainMM {
			sum += mm
		}
	}
	return sum
}
