package optics

import (
	"errors"
	"math"

	"clearjar/core/plant"
)

// Plane is a flat thing before a camera: a place on it and the two directions of its own square frame, in the frame of
// the camera, mm.
type Plane struct {
	Camera Camera
	Middle Vec
	Across Vec
	Down   Vec
}

// FromSquare is how a square of a side in mm stands before a camera, from its four corners: top left, top right, bottom
// right, bottom left as it is read. The homography of the corners holds the two directions of the square and its place, up
// to one factor (Zhang 2000, section 3.1).
func FromSquare(c Camera, corners [4]plant.Point, sideMM float64) (Plane, error) {
	if !(sideMM > 0) {
		return Plane{}, errors.New("the side of a square is more than 0 mm")
	}
	// Directions to the corners, their third number 1: a homography of the unit square onto them.
	var q [4]Vec
	for i, p := range corners {
		q[i] = Vec{(p.X - c.Centre.X) / c.FocalPX, -(p.Y - c.Centre.Y) / c.FocalPX, 1}
	}
	dx1, dx2, dx3 := q[1].X-q[2].X, q[3].X-q[2].X, q[0].X-q[1].X+q[2].X-q[3].X
	dy1, dy2, dy3 := q[1].Y-q[2].Y, q[3].Y-q[2].Y, q[0].Y-q[1].Y+q[2].Y-q[3].Y
	det := dx1*dy2 - dx2*dy1
	if math.Abs(det) < 1e-12 {
		return Plane{}, errors.New("the corners lie on one line")
	}
	g, h := (dx3*dy2-dx2*dy3)/det, (dx1*dy3-dx3*dy1)/det
	across := Vec{q[1].X - q[0].X + g*q[1].X, q[1].Y - q[0].Y + g*q[1].Y, g}
	down := Vec{q[3].X - q[0].X + h*q[3].X, q[3].Y - q[0].Y + h*q[3].Y, h}
	k := 2 * sideMM / (across.Length() + down.Length())
	p := Plane{Camera: c, Across: across.Unit(), Down: down.Unit()}
	p.Middle = q[0].Times(k).Plus(across.Times(k / 2)).Plus(down.Times(k / 2))
	if p.Middle.Z <= 0 {
		return Plane{}, errors.New("the square lies behind the camera")
	}
	return p, nil
}

// Facing is the plane at a distance ahead of a camera that faces it.
func Facing(c Camera, distanceMM float64) Plane {
	return Plane{c, Vec{0, 0, distanceMM}, Vec{1, 0, 0}, Vec{0, -1, 0}}
}

// Place is where on the plane a pixel lies, in the frame of the camera; false when it is seen beyond its horizon.
func (p Plane) Place(at plant.Point) (Vec, bool) {
	normal := p.Across.Cross(p.Down)
	d := Vec{(at.X - p.Camera.Centre.X) / p.Camera.FocalPX, -(at.Y - p.Camera.Centre.Y) / p.Camera.FocalPX, 1}
	along := d.Dot(normal)
	if math.Abs(along) < 1e-9 {
		return Vec{}, false
	}
	k := p.Middle.Dot(normal) / along
	return d.Times(k), k > 0
}

// Wall is the front of an upright round vessel whose radius may change with height, seen from outside: its axis stands a
// distance ahead, and its two edges say at each height how wide it is.
type Wall struct {
	Camera      Camera
	Left, Right Edge
	// AxisMM is how far ahead of the camera the axis is.
	AxisMM float64
}

// Place is where on the near wall a pixel lies, in the frame of the camera; false when it is seen beside the vessel.
func (w Wall) Place(at plant.Point) (Vec, bool) {
	// In the plane of the pixel's row: the axis, half the angle between the edges, and the circle they touch.
	l, r := w.angle(w.Left, at.Y), w.angle(w.Right, at.Y)
	half, middle := (r-l)/2, (l+r)/2
	if !(half > 0 && half < 1) {
		return Vec{}, false
	}
	axis := w.AxisMM / math.Cos(middle)
	radius := axis * math.Sin(half)
	a := math.Atan((at.X-w.Camera.Centre.X)/w.Camera.FocalPX) - middle
	off := radius*radius - axis*axis*math.Sin(a)*math.Sin(a)
	if off < 0 {
		return Vec{}, false
	}
	away := axis*math.Cos(a) - math.Sqrt(off)
	x, z := away*math.Sin(a+middle), away*math.Cos(a+middle)
	return Vec{x, -(at.Y - w.Camera.Centre.Y) / w.Camera.FocalPX * z, z}, true
}

// angle is how far to the side an edge is seen at a row.
func (w Wall) angle(e Edge, y float64) float64 {
	return math.Atan((e.XAt(y) - w.Camera.Centre.X) / w.Camera.FocalPX)
}
