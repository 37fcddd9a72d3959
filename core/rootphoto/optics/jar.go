// Package optics follows what a camera sees through air, glass and water to where it is.
//
// A round jar is a lens: it magnifies sideways and not upwards, and perspective acts at the same time, so that a length
// read off a photo is wrong by tens of percent, and by different amounts for roots that lie and roots that hang. In: a
// camera's ray and a jar in mm. Out: the way of the ray, in mm. Method: vector Snell at two coaxial cylinders (textbook
// optics; the tables in testdata were made by other programs in 80-bit and 40-digit arithmetic). Above the water line
// the inside is air.
//
// Coordinates: the axis of the jar is the y axis, up; x to the right, z away from the camera; mm.
package optics

import "math"

// Vec is a point or a direction in mm.
type Vec struct{ X, Y, Z float64 }

// Plus, Minus and Times are the sums and multiples of vectors; Dot is their product.
func (a Vec) Plus(b Vec) Vec        { return Vec{a.X + b.X, a.Y + b.Y, a.Z + b.Z} }
func (a Vec) Minus(b Vec) Vec       { return Vec{a.X - b.X, a.Y - b.Y, a.Z - b.Z} }
func (a Vec) Times(k float64) Vec   { return Vec{a.X * k, a.Y * k, a.Z * k} }
func (a Vec) Dot(b Vec) float64     { return a.X*b.X + a.Y*b.Y + a.Z*b.Z }
func (a Vec) Length() float64       { return math.Sqrt(a.Dot(a)) }
func (a Vec) Unit() Vec             { return a.Times(1 / a.Length()) }
func (a Vec) Cross(b Vec) Vec       { return Vec{a.Y*b.Z - a.Z*b.Y, a.Z*b.X - a.X*b.Z, a.X*b.Y - a.Y*b.X} }
func (a Vec) To(b Vec) (mm float64) { return b.Minus(a).Length() }

// Ray is a way through space; Dir has the length 1.
type Ray struct{ From, Dir Vec }

// At is the place so many mm along it.
func (r Ray) At(mm float64) Vec { return r.From.Plus(r.Dir.Times(mm)) }

// Refractive indices at the wavelength of the eye, 20 degrees C.
// published: textbook values: water 1.333, soda-lime glass 1.50, air 1.000 (from memory).
const (
	Air   = 1.0
	Water = 1.333
	Glass = 1.5
)

// Jar is a round jar about the y axis: its outer radius and wall in mm, and what the wall and the inside are made of.
type Jar struct {
	RadiusMM, WallMM float64
	Wall, Inside     float64
}

// Outcome says how far a ray came.
type Outcome string

// The outcomes of a ray: it came in, it went by, it went through the wall only, or it was thrown back at the inside.
const (
	Inside          Outcome = "ok"
	Misses          Outcome = "misses_jar"
	WallOnly        Outcome = "glass_only"
	TotalReflection Outcome = "total_reflection"
)

// Way is the way of a ray through a jar, as far as it came: in the wall, and inside.
type Way struct {
	Outcome Outcome
	InWall  Ray
	InJar   Ray
	FarWall Vec // where it would leave the inside again
}

// circle is where a ray first meets the cylinder of a radius about the axis; ok is false when it never does, ahead.
func circle(r Ray, radius float64, first bool) (mm float64, ok bool) {
	a := r.Dir.X*r.Dir.X + r.Dir.Z*r.Dir.Z
	if a == 0 {
		return 0, false
	}
	// From the place nearest to the axis: exact also for a camera that is far away.
	nearest := -(r.From.X*r.Dir.X + r.From.Z*r.Dir.Z) / a
	p := r.At(nearest)
	d := radius*radius - p.X*p.X - p.Z*p.Z
	if d < 0 {
		return 0, false
	}
	half := math.Sqrt(d / a)
	if mm = nearest + half; first {
		mm = nearest - half
	}
	return mm, mm >= -skin
}

// outward is the unit normal of the cylinder at a place.
func outward(p Vec) Vec { return Vec{p.X, 0, p.Z}.Unit() }

// refract bends a direction at a surface with a normal against it, from index n1 to n2; ok is false when it is thrown
// back. With cosines ci and ct: t = n i + (n ci - ct) N, n = n1 / n2 (Snell in vectors).
func refract(dir, normal Vec, n1, n2 float64) (Vec, bool) {
	n := n1 / n2
	ci := -dir.Dot(normal)
	s2 := n * n * (1 - ci*ci)
	if s2 > 1 {
		return Vec{}, false
	}
	return dir.Times(n).Plus(normal.Times(n*ci - math.Sqrt(1-s2))), true
}

// Through follows a ray from outside into the jar.
func (j Jar) Through(r Ray) Way {
	mm, hit := circle(r, j.RadiusMM, true)
	if !hit {
		return Way{Outcome: Misses}
	}
	w := Way{Outcome: WallOnly, InWall: Ray{From: r.At(mm)}}
	var bent bool
	if w.InWall.Dir, bent = refract(r.Dir, outward(w.InWall.From), Air, j.Wall); !bent {
		return Way{Outcome: Misses}
	}
	mm, hit = circle(w.InWall, j.RadiusMM-j.WallMM, true)
	if !hit {
		return w
	}
	w.InJar.From = w.InWall.At(mm)
	if w.InJar.Dir, bent = refract(w.InWall.Dir, outward(w.InJar.From), j.Wall, j.Inside); !bent {
		w.Outcome = TotalReflection
		return w
	}
	w.Outcome = Inside
	if mm, ok := circle(w.InJar, j.RadiusMM-j.WallMM, false); ok {
		w.FarWall = w.InJar.At(mm)
	}
	return w
}

// skin is how far a place may lie in the wall, by rounding, and still count as inside, mm.
const skin = 1e-6

// OnPlane is where a ray inside the jar meets the plane z = depth that faces the camera; ok is false when it leaves the
// jar before.
func (j Jar) OnPlane(r Ray, depth float64) (Vec, bool) {
	w := j.Through(r)
	if w.Outcome != Inside || w.InJar.Dir.Z <= 0 {
		return Vec{}, false
	}
	mm := (depth - w.InJar.From.Z) / w.InJar.Dir.Z
	p := w.InJar.At(mm)
	inner := j.RadiusMM - j.WallMM
	return p, mm >= -skin && math.Hypot(p.X, p.Z) <= inner+skin
}

// SidewaysAt is the magnification of a small thing near the axis at depth z, as seen by a camera whose pinhole is
// distance mm from the axis, against the same thing without the jar: (D+z) / (D/n + z (1 - D K)), with
// K = (1 - 1/ng)/R + (1/ng - 1/n)/(R - t). published: the paraxial imaging of two coaxial cylinders.
func (j Jar) SidewaysAt(distance, z float64) float64 {
	k := (1-1/j.Wall)/j.RadiusMM + (1/j.Wall-1/j.Inside)/(j.RadiusMM-j.WallMM)
	return (distance + z) / (distance/j.Inside + z*(1-distance*k))
}
