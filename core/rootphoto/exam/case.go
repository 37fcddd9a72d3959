package exam

import (
	"math/rand/v2"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/place"
	"clearjar/core/rootphoto/tag"
)

// rulerOff and edgeOff are how far a grower's taps on a ruler's marks and on a vessel's edges are off at most, pixels.
const (
	rulerOff = 3
	edgeOff  = 2
)

// vesselOf is the vessel as a grower would record it.
func (c Case) vessel() place.Vessel {
	v := c.Truth.Vessel
	switch v.Type {
	case "jar":
		return place.Vessel{Shape: place.RoundJar, OuterMM: v.OuterDiameter, WallMM: v.Wall}
	case "perlite_cup":
		return place.Vessel{Shape: place.RoundCup, OuterMM: v.TopRadius + v.BottomRadius, WallMM: v.Wall, Taper: (v.TopRadius - v.BottomRadius) / v.Height}
	case "moss_box":
		return place.Vessel{Shape: place.FlatWall, WallMM: v.Wall}
	}
	return place.Vessel{Shape: place.Board}
}

// off is a number between plus and minus most, the same for a photo every time.
func off(r *rand.Rand, most float64) float64 { return most * (2*r.Float64() - 1) }

// given is what a grower's photo gives: the tag as it is read, or two taps on the ruler.
func (c Case) given(tags []tag.Found, number int) place.Given {
	r := rand.New(rand.NewPCG(uint64(number), 77)) //nolint:gosec // an index
	g := place.Given{Width: c.Truth.Image.Width, Height: c.Truth.Image.Height, Focal35: c.Focal35, Vessel: c.vessel()}
	ref := c.Truth.Reference
	switch {
	case ref == nil:
	case len(tags) > 0:
		g.Tag, g.TagMM = &tags[0], ref.SymbolMM
	case len(ref.ScaleEnds) == 2:
		tap := func(p [2]float64) plant.Point {
			return plant.Point{X: p[0] + off(r, rulerOff), Y: p[1] + off(r, rulerOff)}
		}
		g.Ruler = &plant.Scale{A: tap(ref.ScaleEnds[0]), B: tap(ref.ScaleEnds[1]), DistanceMM: ref.ScaleMM}
	}
	return g
}

// ours is a place or a direction of a truth file in the frame of the optics: the axis up, z away from the camera.
func ours(v [3]float64) optics.Vec { return optics.Vec{X: v[0], Y: v[2], Z: v[1]} }

// camera is the true camera.
func (c Case) camera() optics.Camera {
	return optics.Camera{FocalPX: c.Truth.Camera.FocalPX, Centre: plant.Point{X: c.Truth.Camera.Centre[0], Y: c.Truth.Camera.Centre[1]}}
}

// standing is how the jar truly stands.
func (c Case) standing() optics.Standing {
	v, cam := c.Truth.Vessel, c.Truth.Camera
	jar := optics.Jar{RadiusMM: v.OuterDiameter / 2, WallMM: v.Wall, Wall: optics.Glass, Inside: optics.Water}
	return optics.Stood(c.camera(), jar, ours(cam.Position), ours(cam.Right), ours(cam.Up), ours(cam.Forward))
}

// outlines are the true edges of a jar or a cup, as a grower would set them: a little off.
func (c Case) outlines(number int) (left, right optics.Edge) {
	r := rand.New(rand.NewPCG(uint64(number), 78)) //nolint:gosec // an index
	v := c.Truth.Vessel
	radius := func(z float64) float64 {
		if v.OuterDiameter > 0 {
			return v.OuterDiameter / 2
		}
		return v.BottomRadius + (v.TopRadius-v.BottomRadius)*z/v.Height
	}
	from := ours(c.Truth.Camera.Position)
	edge := func(side float64) optics.Edge {
		at := func(z float64) plant.Point {
			rad := radius(z)
			p := optics.Outline(from, rad, side)
			px := c.Truth.Camera.At([3]float64{p.X, p.Z, z})
			return plant.Point{X: px.X + off(r, edgeOff), Y: px.Y}
		}
		return optics.Edge{A: at(v.Height * 0.7), B: at(v.Height * 0.25)}
	}
	return edge(-1), edge(1)
}
