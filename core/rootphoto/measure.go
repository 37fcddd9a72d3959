package rootphoto

import (
	"fmt"
	"math"

	"clearjar/core/number"
	"clearjar/core/plant"
)

// Numbers of this package.
var (
	PointError  = number.Define(plant.Number{Key: "rootphoto.point_error", Label: "How far a placed point is off", Value: 3, Low: 0.1, High: 50, Unit: "pixels", Basis: plant.Assumed("a finger on a zoomed picture")})
	LeastScale  = number.Define(plant.Number{Key: "rootphoto.least_scale", Label: "Scale points at least this far apart", Value: 20, Low: 2, High: 500, Unit: "pixels", Basis: plant.Assumed("closer, and the point error passes a fifth of the length")})
	JarMagnify  = number.Define(plant.Number{Key: "rootphoto.jar_magnify", Label: "Sideways magnification at the axis of a jar of water", Value: 4.0 / 3, Low: 1, High: 2, Unit: "times", Basis: plant.FromPrint("single refracting surface, n = 1.333, textbook optics")})
	PlaneAllows = number.Define(plant.Number{Key: "rootphoto.plane_allowance", Label: "Length by which root and scale in different planes may differ", Value: 0.15, Unit: "fraction", Basis: plant.Assumed("a scale 40 mm before the root, seen from 300 mm")})
)

// How far a typed length may be off, by what it was measured with.
var (
	RulerError = number.Define(plant.Number{Key: "rootphoto.ruler_error", Label: "A length typed from a ruler is off by", Value: 2, Low: 0, High: 50, Unit: "mm", Basis: plant.Assumed("a bent root beside a straight edge")})
	EyeError   = number.Define(plant.Number{Key: "rootphoto.eye_error", Label: "A length judged by eye is off by", Value: 0.3, Unit: "fraction", Basis: plant.Assumed("through glass and water, without anything beside it")})
)

// Typed is a length in mm that was typed, with its interval: some mm off for a ruler, a share of the length by eye
// when that is more. The interval stays within 0 and the longest root there is.
func Typed(t number.Table, lengthMM float64, with string) Measured {
	off := t.Of(RulerError)
	if with == "eye" {
		off = math.Max(off, t.Of(EyeError)*lengthMM)
	}
	return Measured{LengthMM: lengthMM, LowMM: math.Max(0, lengthMM-off), HighMM: math.Min(lengthMM+off, plant.MostRootMM)}
}

// HiddenDepth: one view hides how far a root runs toward or away from the camera.
var HiddenDepth = number.Define(plant.Number{Key: "rootphoto.hidden_depth", Label: "Least part of a root's length that one view of a jar shows", Value: 0.59, Low: 0.1, High: 1, Unit: "fraction", Basis: plant.Assumed("5th percentile on rendered photos of known truth; the middle is 0.83")})

// TagWidth is how wide the code on the tag in a photo is printed.
var TagWidth = number.Define(plant.Number{Key: "rootphoto.tag_width", Label: "The code on the tag in your photos is this wide", Value: 21.7, Low: 5, High: 180, Unit: "mm", Basis: plant.Assumed("the photo card, without the white around its code; the hang tag's is 21 mm")})

// Numbers lists them for the screen.
func Numbers() []plant.Number {
	return []plant.Number{TagWidth, PointError, LeastScale, JarMagnify, PlaneAllows, HiddenDepth, RulerError, EyeError, ShotTagLeast, ShotTagMost, ShotTilt, ShotGlare, ShotDark, ShotSharp, PhotoBlur, PhotoDark, PhotoGlare, PhotoFocal}
}

// MMPerPixel is the scale in mm per pixel: the distance in mm over the Euclidean distance in pixels. Refused: the two points on (nearly) the
// same spot, a distance of 0 mm or less, or beyond 5 m.
func MMPerPixel(t number.Table, s plant.Scale) (float64, error) {
	px := math.Hypot(s.B.X-s.A.X, s.B.Y-s.A.Y)
	switch {
	case !(s.DistanceMM > 0):
		return 0, plant.Refuse("scale.distance_mm", "the distance between the two points must be more than 0 mm")
	case s.DistanceMM > 5000:
		return 0, plant.Refuse("scale.distance_mm", "at most 5000 mm: give the distance in millimetres")
	case math.IsNaN(px) || math.IsInf(px, 0):
		return 0, plant.Refuse("scale", "the points are not in the picture")
	case px == 0:
		return 0, plant.Refuse("scale", "both points are on the same spot: put them a known distance apart")
	case px < t.Of(LeastScale):
		return 0, plant.Refuse("scale", "the points are only %.0f pixels apart: choose two at least %.0f pixels apart, the farther the better", px, t.Of(LeastScale))
	}
	return s.DistanceMM / px, nil
}

// PixelLength is the length of a polyline in pixels: the sum of the Euclidean distances from point to point; 0 for
// fewer than two points.
func PixelLength(path []plant.Point) float64 {
	sum := 0.0
	for i := 1; i < len(path); i++ {
		sum += math.Hypot(path[i].X-path[i-1].X, path[i].Y-path[i-1].Y)
	}
	return sum
}

// Setting is what is known of how the photo was taken.
type Setting struct {
	// RoundJar: the roots hang in a round jar of water.
	RoundJar bool `json:"round_jar"`
}

// Measured is one length in mm with its interval.
type Measured struct {
	LengthMM float64 `json:"length_mm"`
	LowMM    float64 `json:"low_mm"`
	HighMM   float64 `json:"high_mm"`
}

// Result is every traced root measured on one scale.
type Result struct {
	MMPerPixel float64    `json:"mm_per_pixel"`
	Roots      []Measured `json:"roots"`
	// Assumed says in words what the lengths rest on.
	Assumed []string `json:"assumed"`
}

// Measure gives the length of each path in mm. A path needs two points; with fewer its length is 0.
//
// The interval takes the point error at the ends of scale and root. In a round jar its
// lower end also takes the sideways magnification and the plane allowance, its upper end the hidden depth.
func Measure(t number.Table, scale plant.Scale, paths [][]plant.Point, in Setting) (Result, error) {
	mm, err := MMPerPixel(t, scale)
	if err != nil {
		return Result{}, err
	}
	res := Result{MMPerPixel: mm, Roots: []Measured{}, Assumed: []string{
		fmt.Sprintf("Scale: %.4g mm a pixel, from two points %.4g mm apart.", mm, scale.DistanceMM),
		"A root that points at you is longer than it looks: lengths are of what is seen.",
	}}
	if in.RoundJar {
		res.Assumed = append(res.Assumed, "A round jar widens what hangs in it by up to a third and more; the lower end of the interval allows for it. One view hides how far a root runs toward you; the upper end allows for that.")
	}
	scaleErr := math.Sqrt2 * t.Of(PointError) * mm / scale.DistanceMM
	for i, path := range paths {
		if len(path) > plant.MostVertices {
			return Result{}, plant.Refuse(fmt.Sprintf("paths[%d]", i), "at most %d points", plant.MostVertices)
		}
		px := PixelLength(path)
		if math.IsNaN(px) || math.IsInf(px, 0) {
			return Result{}, plant.Refuse(fmt.Sprintf("paths[%d]", i), "a point is not in the picture")
		}
		length := px * mm
		half := math.Hypot(math.Sqrt2*t.Of(PointError)*mm, length*scaleErr)
		m := Measured{LengthMM: length, LowMM: math.Max(0, length-half), HighMM: length + half}
		if in.RoundJar && length > 0 {
			m.LowMM = math.Max(0, length/trueToSeen(t, path)-half-length*t.Of(PlaneAllows))
			m.HighMM = length/t.Of(HiddenDepth) + half
		}
		res.Roots = append(res.Roots, m)
	}
	return res, nil
}

// trueToSeen is by how much the axis of a jar magnifies a path, 1 or more: its length as seen over its length with every
// sideways step divided by 4/3; upright steps stay. A path of no length gives 1.
func trueToSeen(t number.Table, path []plant.Point) float64 {
	seen, unbent := 0.0, 0.0
	for i := 1; i < len(path); i++ {
		dx, dy := path[i].X-path[i-1].X, path[i].Y-path[i-1].Y
		seen += math.Hypot(dx, dy)
		unbent += math.Hypot(dx/t.Of(JarMagnify), dy)
	}
	if unbent == 0 {
		return 1
	}
	return seen / unbent
}
