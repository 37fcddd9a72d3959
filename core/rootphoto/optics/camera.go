package optics

import (
	"errors"
	"math"

	"clearjar/core/plant"
)

// Camera is a pinhole camera: its focal length and its principal point in pixels of the upright picture.
type Camera struct {
	FocalPX float64
	Centre  plant.Point
}

// diagonal35 is the diagonal of a 36 by 24 mm frame, mm.
const diagonal35 = 43.266615305567875

// CameraOf is the camera of a picture of a size in pixels whose focal length is said as that of a 35 mm film: the one
// that sees the same diagonal field, with its principal point in the middle.
func CameraOf(focal35MM float64, width, height int) (Camera, error) {
	if !(focal35MM >= 5 && focal35MM <= 1000) || width < 1 || height < 1 {
		return Camera{}, errors.New("a focal length of 5 to 1000 mm and a picture with pixels are needed")
	}
	w, h := float64(width), float64(height)
	return Camera{focal35MM * math.Hypot(w, h) / diagonal35, plant.Point{X: w / 2, Y: h / 2}}, nil
}

// Focal35 is its focal length as on 35 mm film, for a picture of a size in pixels.
func (c Camera) Focal35(width, height int) float64 {
	return c.FocalPX * diagonal35 / math.Hypot(float64(width), float64(height))
}

// Dir is the direction of what is seen at a pixel, in the camera's own frame: x to the right, y up, z ahead.
func (c Camera) Dir(p plant.Point) Vec {
	return Vec{(p.X - c.Centre.X) / c.FocalPX, -(p.Y - c.Centre.Y) / c.FocalPX, 1}.Unit()
}

// At is the pixel at which a place of the camera's frame is seen, when it lies ahead.
func (c Camera) At(v Vec) (plant.Point, bool) {
	if v.Z <= 0 {
		return plant.Point{}, false
	}
	return plant.Point{X: c.Centre.X + c.FocalPX*v.X/v.Z, Y: c.Centre.Y - c.FocalPX*v.Y/v.Z}, true
}

// Edge is one of the two outlines of a jar in the picture: a line through two points, in pixels.
type Edge struct{ A, B plant.Point }

// XAt is where it is seen at a height of the picture.
func (e Edge) XAt(y float64) float64 {
	if e.A.Y == e.B.Y {
		return e.A.X
	}
	return e.A.X + (e.B.X-e.A.X)*(y-e.A.Y)/(e.B.Y-e.A.Y)
}

// Standing is a jar as it stands before a camera: the camera's place in the frame of the jar, whose axis is y and whose
// z points away from the camera, and how the camera's frame is turned against it.
type Standing struct {
	Camera   Camera
	Jar      Jar
	From     Vec
	x, y, z  Vec // the jar's axes in the camera's frame
	Distance float64
}

// FromEdges says how a jar of a known outer radius stands, from its two outlines: each lies in a plane through the pinhole
// that touches the cylinder. The axis is where the two planes run along each other, and half the angle between them
// has the sine R / D. Edges that are no outlines of such a jar are refused.
func FromEdges(c Camera, j Jar, left, right Edge) (Standing, error) {
	touches := func(e Edge) Vec { return c.Dir(e.A).Cross(c.Dir(e.B)) }
	l, r := touches(left), touches(right)
	if l.Length() == 0 || r.Length() == 0 {
		return Standing{}, errors.New("an edge is a line: two points of it are needed")
	}
	l, r = l.Unit(), r.Unit()
	axis := l.Cross(r)
	if axis.Length() < 1e-6 {
		return Standing{}, errors.New("the two edges are one")
	}
	axis = axis.Unit()
	if axis.Y < 0 {
		axis = axis.Times(-1)
	}
	// Into the jar from each touching plane, square to the axis.
	to := func(e Edge) Vec { d := c.Dir(middleOf(e)); return d.Minus(axis.Times(d.Dot(axis))).Unit() }
	a, b := to(left), to(right)
	ahead := a.Plus(b)
	if ahead.Length() < 1e-9 {
		return Standing{}, errors.New("the edges lie on opposite sides of the camera")
	}
	ahead = ahead.Unit()
	half := math.Acos(math.Max(-1, math.Min(1, a.Dot(b)))) / 2
	sine := math.Sin(half)
	if !(sine > 1e-4) {
		return Standing{}, errors.New("the two edges are one")
	}
	s := Standing{Camera: c, Jar: j, Distance: j.RadiusMM / sine, y: axis, z: ahead}
	s.x = s.y.Cross(s.z)
	s.From = Vec{0, 0, -s.Distance}
	return s, nil
}

func middleOf(e Edge) plant.Point { return plant.Point{X: (e.A.X + e.B.X) / 2, Y: (e.A.Y + e.B.Y) / 2} }

// Ray is the ray of a pixel in the frame of the jar.
func (s Standing) Ray(p plant.Point) Ray {
	d := s.Camera.Dir(p)
	return Ray{s.From, Vec{d.Dot(s.x), d.Dot(s.y), d.Dot(s.z)}}
}

// OutlineHeight is how high a pixel on the outline of the jar lies, in the frame of the jar: where its ray touches the wall.
// Nothing bends a ray that only touches.
func (s Standing) OutlineHeight(p plant.Point) float64 {
	r := s.Ray(p)
	across := r.Dir.X*r.Dir.X + r.Dir.Z*r.Dir.Z
	if across == 0 {
		return math.Inf(1)
	}
	return r.At(-(r.From.X*r.Dir.X + r.From.Z*r.Dir.Z) / across).Y
}

// Place is where a pixel lies on a plane that faces the camera, depth mm behind the axis, in the frame of the jar.
func (s Standing) Place(p plant.Point, depth, waterY float64) (Vec, bool) {
	ray := s.Ray(p)
	at, ok := s.Jar.OnPlane(ray, depth)
	if ok && at.Y > waterY {
		empty := s.Jar
		empty.Inside = Air
		return empty.OnPlane(ray, depth)
	}
	return at, ok
}

// Stood is a jar that stands before a camera whose place and directions are known in the frame of the jar.
func Stood(c Camera, j Jar, from, right, up, ahead Vec) Standing {
	inCamera := func(v Vec) Vec { return Vec{v.Dot(right), v.Dot(up), v.Dot(ahead)} }
	d := math.Hypot(from.X, from.Z)
	s := Standing{Camera: c, Jar: j, Distance: d, From: Vec{0, 0, -d}}
	s.y = inCamera(Vec{0, 1, 0})
	s.z = inCamera(Vec{-from.X / d, 0, -from.Z / d})
	s.x = s.y.Cross(s.z)
	return s
}

// Outline is where the outline of an upright cylinder of a radius about the y axis is seen from a place, at the height 0:
// on its left, side -1, or on its right, side 1. A line of sight touches the cylinder there.
func Outline(from Vec, radius, side float64) Vec {
	d := math.Hypot(from.X, from.Z)
	a := math.Atan2(from.X, from.Z) - side*math.Acos(math.Min(1, radius/d))
	return Vec{radius * math.Sin(a), 0, radius * math.Cos(a)}
}

// Pixel is the pixel at which a place inside the jar is seen, in the frame of the jar; false where no ray of the camera
// reaches it. Method: Newton on the pixel until its ray passes through the place.
func (s Standing) Pixel(v Vec) (plant.Point, bool) {
	const (
		rounds  = 40
		enough  = 1e-7 // mm
		slopePX = 0.5
	)
	straight := v.Minus(s.From)
	p, ok := s.Camera.At(s.x.Times(straight.X).Plus(s.y.Times(straight.Y)).Plus(s.z.Times(straight.Z)))
	if !ok {
		return p, false
	}
	for range rounds {
		at, ok := s.Place(p, v.Z, math.Inf(1))
		if !ok {
			// The straight guess may miss the inside: nearer to the axis there is more of it.
			mid, _ := s.Camera.At(s.z.Times(s.Distance).Plus(s.y.Times(v.Y)))
			p = plant.Point{X: (p.X*3 + mid.X) / 4, Y: (p.Y*3 + mid.Y) / 4}
			continue
		}
		ex, ey := v.X-at.X, v.Y-at.Y
		if math.Hypot(ex, ey) < enough {
			return p, true
		}
		r, okR := s.Place(plant.Point{X: p.X + slopePX, Y: p.Y}, v.Z, math.Inf(1))
		d, okD := s.Place(plant.Point{X: p.X, Y: p.Y + slopePX}, v.Z, math.Inf(1))
		if !okR || !okD {
			r, okR = s.Place(plant.Point{X: p.X - slopePX, Y: p.Y}, v.Z, math.Inf(1))
			d, okD = s.Place(plant.Point{X: p.X, Y: p.Y - slopePX}, v.Z, math.Inf(1))
			if !okR || !okD {
				return p, false
			}
			r, d = at.Times(2).Minus(r), at.Times(2).Minus(d)
		}
		a, b, c, e := (r.X-at.X)/slopePX, (d.X-at.X)/slopePX, (r.Y-at.Y)/slopePX, (d.Y-at.Y)/slopePX
		det := a*e - b*c
		if det == 0 {
			return p, false
		}
		dx, dy := (ex*e-b*ey)/det, (a*ey-c*ex)/det
		// No farther at once than the picture is likely to be straight for.
		if far := math.Hypot(dx, dy); far > 60 {
			dx, dy = dx*60/far, dy*60/far
		}
		p.X, p.Y = p.X+dx, p.Y+dy
	}
	return p, false
}
