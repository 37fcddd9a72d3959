package exam

import (
	"math"
	"math/rand/v2"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/measure"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/turned"
)

// tracedOff is how far a line that is traced in the second photo is off, sigma, pixels of the photo.
const tracedOff = 1.0

// turned is how far the length of a root is off the true one when the line that was traced in this photo is put together
// with that of a second, for which the jar was turned a quarter. There are no such second photos: where its line would be
// seen is worked out from the truth, with errors of tracing put on; roots that would hide one another are not hidden.
func (c Case) turned(s *measure.Seen, of seenLine, line []plant.Point, number int) *float64 {
	standing, ok := s.Surface.Standing()
	if !ok {
		return nil
	}
	r := rand.New(rand.NewPCG(uint64(number), uint64(1000+of.root.ID))) //nolint:gosec // indexes
	second := c.standing()
	from := ours(c.Truth.Camera.Position)
	d := math.Hypot(from.X, from.Z)
	at := func(v [3]float64) (plant.Point, bool) {
		p := ours(v)
		// In the frame of the standing jar, then turned.
		x, z := (p.Z*from.X-p.X*from.Z)/d, -(p.X*from.X+p.Z*from.Z)/d
		return second.Pixel(optics.Vec{X: -z, Y: p.Y - from.Y, Z: x})
	}
	other := []plant.Point{}
	for i, v := range of.root.Points {
		p, ok := at(v)
		if ok {
			other = append(other, plant.Point{X: p.X + tracedOff*r.NormFloat64(), Y: p.Y + tracedOff*r.NormFloat64()})
		} else if i == len(of.root.Points)-1 {
			return nil // its tip would not be seen
		}
	}
	node, ok := at(c.Truth.Nodes[of.root.Node].Point)
	if !ok {
		return nil
	}
	lost := 1.0
	pair, err := turned.Put(turned.View{Standing: standing, Node: c.Nodes()[of.root.Node]}, turned.View{Standing: second, Node: node})
	if err != nil {
		return &lost
	}
	found, err := pair.Root(line, other)
	if err != nil {
		return &lost
	}
	e := math.Abs(found.MM/of.root.LengthMM - 1)
	return &e
}
