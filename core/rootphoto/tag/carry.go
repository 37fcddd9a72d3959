package tag

import (
	"math"

	"clearjar/core/plant"
)

// Carry carries places of one photo over to another in which the same tag stands at the same spot: by the turn, the scale and
// the shift that lay the corners of the first on those of the second (least squares). What is not on the plane of the tag
// is carried about. The error is the mean distance that is left between the corners, in pixels.
func Carry(from, to [4]plant.Point, places []plant.Point) (carried []plant.Point, errorPX float64) {
	a, b := middle(from), middle(to)
	var re, im, norm float64
	for i := range from {
		x, y := from[i].X-a.X, from[i].Y-a.Y
		u, v := to[i].X-b.X, to[i].Y-b.Y
		re, im, norm = re+x*u+y*v, im+x*v-y*u, norm+x*x+y*y
	}
	if norm == 0 {
		return nil, math.Inf(1)
	}
	re, im = re/norm, im/norm
	over := func(p plant.Point) plant.Point {
		x, y := p.X-a.X, p.Y-a.Y
		return plant.Point{X: b.X + re*x - im*y, Y: b.Y + im*x + re*y}
	}
	for i := range from {
		errorPX += distance(over(from[i]), to[i]) / 4
	}
	carried = make([]plant.Point, len(places))
	for i, p := range places {
		carried[i] = over(p)
	}
	return carried, errorPX
}
