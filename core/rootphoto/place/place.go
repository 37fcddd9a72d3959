// Package place says where in space a pixel of a root lies, from what gives a photo its scale: a tag, a ruler, the edges of
// a vessel.
//
// In: the camera, the reference, the vessel as it is recorded, and its edges in the picture. Out: a surface the roots are
// taken to lie on, from pixels to mm, and what was assumed. Surfaces: the plane of a board; the front wall of a box; the
// near wall of an opaque cup; the plane through the axis of a round jar that faces the camera, behind air, glass and water.
package place

import (
	"errors"
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/scene"
	"clearjar/core/rootphoto/tag"
	"clearjar/core/rootphoto/vessel"
)

// Shape is how a vessel stands between the camera and the roots.
type Shape string

// The shapes: none, a flat front wall that roots lie against, a round wall that roots lie against, and a round wall that
// roots hang behind, in water.
const (
	Board    Shape = "board"
	FlatWall Shape = "flat_wall"
	RoundCup Shape = "round_cup"
	RoundJar Shape = "round_jar"
)

// Vessel is a vessel as it is recorded; mm. A board has no sizes.
type Vessel struct {
	Shape   Shape   `json:"shape"`
	OuterMM float64 `json:"outer_mm"`
	WallMM  float64 `json:"wall_mm"`
	// Taper is how much the radius grows with the height: of a cup that is wider at its rim.
	Taper float64 `json:"taper"`
}

// Given is what is known of a photo before its roots are looked for. Places are pixels of the upright photo.
type Given struct {
	Width, Height int
	// Focal35 is the focal length as on 35 mm film, 0 when the photo does not tell.
	Focal35 float64
	// Otherwise35 is the focal length that is taken then; 0 for that of most phones.
	Otherwise35 float64
	Vessel      Vessel
	Tag         *tag.Found
	// TagMM is the printed width of the symbol of the tag.
	TagMM float64
	Ruler *plant.Scale
	// Left and Right are the edges of the vessel where a grower set them.
	Left, Right *optics.Edge
	// Water is how far down the photo the surface of the water meets the left edge of a jar: above it the inside is air. Nil
	// when all roots hang in water.
	Water *float64
	// Earlier is the scale of an earlier photo of the same view, pixels a mm at the roots; 0 when there is none.
	Earlier float64
}

// mostPhones is the focal length of the main camera of most phones, as on 35 mm film.
const mostPhones = 26.0

// Source is what gave the scale.
type Source string

// Sources of a scale, best first.
const (
	FromTag     Source = "tag"
	FromEdges   Source = "edges"
	FromRuler   Source = "ruler"
	FromEarlier Source = "earlier"
)

// ErrNoScale says that nothing in the photo gives a scale.
var ErrNoScale = errors.New("nothing in the photo gives a scale: put a tag or a ruler beside the vessel, or set its edges by hand")

// Start is what can be said before the picture is looked at: the camera, how far the reference is, and about how many
// pixels a mm has at the roots.
type Start struct {
	Given
	Camera optics.Camera
	// ReferenceMM is how far ahead the tag or the ruler is; 0 when there is none.
	ReferenceMM float64
	PxMM        float64
	plane       *optics.Plane
}

// Begin says what can be said before the picture is looked at.
func Begin(g Given) (Start, error) {
	s := Start{Given: g}
	focal := g.Focal35
	if focal == 0 {
		focal = g.Otherwise35
	}
	if focal == 0 {
		focal = mostPhones
	}
	var err error
	if s.Camera, err = optics.CameraOf(focal, g.Width, g.Height); err != nil {
		return s, err
	}
	switch {
	case g.Tag != nil:
		p, err := optics.FromSquare(s.Camera, g.Tag.Corners, g.TagMM)
		if err != nil {
			return s, err
		}
		s.plane, s.ReferenceMM = &p, p.Middle.Z
	case g.Ruler != nil:
		px := math.Hypot(g.Ruler.A.X-g.Ruler.B.X, g.Ruler.A.Y-g.Ruler.B.Y)
		if !(px > 1 && g.Ruler.DistanceMM > 0) {
			return s, errors.New("the two points of the ruler are on one spot")
		}
		s.ReferenceMM = s.Camera.FocalPX * g.Ruler.DistanceMM / px
	}
	switch {
	case s.ReferenceMM > 0:
		s.PxMM = s.Camera.FocalPX / (s.ReferenceMM + s.behind())
	case g.Left != nil && g.Right != nil && g.Vessel.OuterMM > 0:
		s.PxMM = math.Abs(middleX(*g.Right)-middleX(*g.Left)) / g.Vessel.OuterMM
	case g.Earlier > 0:
		s.PxMM = g.Earlier
	default:
		return s, ErrNoScale
	}
	return s, nil
}

func middleX(e optics.Edge) float64 { return (e.A.X + e.B.X) / 2 }

// behind is about how far the roots are behind a reference that stands before the vessel.
func (s Start) behind() float64 {
	if s.Vessel.Shape == RoundJar {
		return s.Vessel.OuterMM / 2
	}
	return 0
}

// Surface is where roots are taken to lie.
type Surface struct {
	Start
	Source Source
	// Left and Right are the edges of a round vessel, in pixels of the photo, as they were found or set.
	Left, Right *optics.Edge
	// Set tells that the edges were set by hand.
	Set      bool
	standing *optics.Standing
	// water is how high the water stands in the frame of the jar, mm.
	water float64
	wall  *optics.Wall
	flat  *optics.Plane
}

// How far an axis may be nearer than the reference beside the vessel, and behind it beyond the radius, mm.
const (
	nearerMM = 8.0
	beyondMM = 10.0
	// insideEdge is how much of the width the found edge of a glass wall lies inside of its outline: where light grazes it,
	// glass is dark. Measured on rendered photos.
	insideEdge = 0.0037
	// cupLeast is how much narrower than its mean a cup may be where its roots are.
	cupLeast  = 0.86
	freeLeast = 0.8
	// misfit is from how much on, relative, a jar looks other than it is recorded.
	misfit   = 0.03
	freeMost = 1.25
)

// ErrNoEdges says that the edges of a vessel were not found.
var ErrNoEdges = errors.New("the edges of the vessel were not found: set them by hand, they can be dragged")

// On is the surface of a photo, with the edges of its vessel looked for where they are needed and were not set.
func (s Start) On(sc *scene.Scene) (Surface, error) {
	out := Surface{Start: s}
	switch {
	case s.Tag != nil:
		out.Source = FromTag
	case s.Ruler != nil:
		out.Source = FromRuler
	case s.Given.Left != nil:
		out.Source = FromEdges
	default:
		out.Source = FromEarlier
	}
	switch s.Vessel.Shape {
	case Board:
		if s.plane != nil {
			out.flat = s.plane
			return out, nil
		}
	case RoundJar, RoundCup:
		left, right := s.Given.Left, s.Given.Right
		out.Set = left != nil && right != nil
		if !out.Set {
			l, r, ok := s.edges(sc)
			if !ok {
				return out, ErrNoEdges
			}
			left, right = &l, &r
		}
		out.Left, out.Right = left, right
		return out, out.round()
	case FlatWall:
	}
	plane := optics.Facing(s.Camera, s.Camera.FocalPX/s.PxMM)
	out.flat = &plane
	return out, nil
}

// round puts the jar or the cup between its edges.
func (s *Surface) round() error {
	jar := optics.Jar{RadiusMM: s.Vessel.OuterMM / 2, WallMM: s.Vessel.WallMM, Wall: optics.Glass, Inside: optics.Water}
	standing, err := optics.FromEdges(s.Camera, jar, *s.Left, *s.Right)
	if err != nil {
		return err
	}
	if s.Vessel.Shape == RoundJar {
		s.standing, s.water = &standing, math.Inf(1)
		if s.Given.Water != nil {
			s.water = standing.OutlineHeight(plant.Point{X: s.Left.XAt(*s.Given.Water), Y: *s.Given.Water})
		}
		return nil
	}
	axis := standing.Distance
	if s.ReferenceMM > 0 {
		axis = s.ReferenceMM + s.Vessel.OuterMM/2
	}
	s.wall = &optics.Wall{Camera: s.Camera, Left: *s.Left, Right: *s.Right, AxisMM: axis}
	return nil
}

// edges looks for the edges of the vessel in a scene.
func (s Start) edges(sc *scene.Scene) (left, right optics.Edge, ok bool) {
	r := s.Vessel.OuterMM / 2
	width := func(axis float64) float64 {
		return 2 * s.Camera.FocalPX * math.Tan(math.Asin(math.Min(0.95, r/axis))) / float64(sc.By)
	}
	usual := s.Vessel.OuterMM * sc.PxMM
	least, most := freeLeast*usual, freeMost*usual
	avoid := []vessel.Avoid{}
	if s.ReferenceMM > 0 {
		least, most = width(s.ReferenceMM+r+beyondMM), width(math.Max(r*1.1, s.ReferenceMM-nearerMM))
		if s.Vessel.Shape == RoundCup {
			least, most = cupLeast*least, most/cupLeast // it narrows to its foot
		}
	}
	if s.Tag != nil {
		var c [4]plant.Point
		for i, p := range s.Tag.Corners {
			c[i] = sc.In(p)
		}
		avoid = append(avoid, vessel.Paper(sc, c))
	}
	if s.Ruler != nil {
		avoid = append(avoid, vessel.Strip(sc.In(s.Ruler.A), sc.In(s.Ruler.B), 2*sc.PxMM))
	}
	found, ok := vessel.Between(sc, least*(1-2*insideEdge), most, s.Vessel.Taper, avoid)
	if !ok {
		return left, right, false
	}
	out := func(e optics.Edge, shift float64) optics.Edge {
		e.A.X, e.B.X = e.A.X+shift, e.B.X+shift
		return optics.Edge{A: sc.Out(e.A), B: sc.Out(e.B)}
	}
	shift := insideEdge * (middleX(found.Right) - middleX(found.Left))
	return out(found.Left, -shift), out(found.Right, shift), true
}

// Place is where a pixel of the photo lies, in mm, in a frame of the surface's own; false when no ray reaches it.
func (s Surface) Place(p plant.Point) (optics.Vec, bool) {
	switch {
	case s.standing != nil:
		return s.standing.Place(p, 0, s.water)
	case s.wall != nil:
		return s.wall.Place(p)
	}
	return s.flat.Place(p)
}

// Standing is how a jar stands before the camera; false for what is no jar.
func (s Surface) Standing() (optics.Standing, bool) {
	if s.standing == nil {
		return optics.Standing{}, false
	}
	return *s.standing, true
}

// LooksWide is how wide a jar looks by the tag or the ruler beside it, mm, when that does not fit what is recorded of it;
// false when it fits, or cannot be told. The reference stands somewhere beside the jar: between its front and its axis.
func (s Surface) LooksWide() (mm float64, misfits bool) {
	if s.standing == nil || s.ReferenceMM == 0 {
		return 0, false
	}
	r := s.Vessel.OuterMM / 2
	near, far := s.ReferenceMM-nearerMM, s.ReferenceMM+r+beyondMM
	as := math.Max(near, math.Min(far, s.standing.Distance))
	mm = s.Vessel.OuterMM * as / s.standing.Distance
	return mm, math.Abs(mm/s.Vessel.OuterMM-1) > misfit
}

// PixelsPerMM is how large a mm is where the roots are, now that the vessel's place is known.
func (s Surface) PixelsPerMM() float64 {
	switch {
	case s.standing != nil:
		return s.Camera.FocalPX / s.standing.Distance
	case s.wall != nil:
		return s.Camera.FocalPX / (s.wall.AxisMM - s.Vessel.OuterMM/2)
	}
	return s.PxMM
}

// edgeMM is how near to the edge of a round vessel nothing can be said of a tip: it goes on out of sight.
const edgeMM = 2.0

// AtEdge tells whether a place of the photo lies at an edge of a round vessel.
func (s Surface) AtEdge(p plant.Point) bool {
	if s.Left == nil || s.Right == nil {
		return false
	}
	near := edgeMM * s.PxMM
	return math.Abs(p.X-s.Left.XAt(p.Y)) < near || math.Abs(p.X-s.Right.XAt(p.Y)) < near
}

// Length is how long a line of pixels is.
type Length struct {
	MM float64
	// NearMM and FarMM are its length half way to the near and to the far wall of a jar; elsewhere they are the same.
	NearMM, FarMM float64
	// ReachMM is how far it reaches sideways from its first point, at most.
	ReachMM float64
	// Lost is how many of its points no ray reaches, and Jumps how often it jumps from one side of a jar to the other.
	Lost, Jumps int
}

// jump is from how many times the usual step on a step is a jump.
const jump = 5

// Length measures a line of pixels of the photo.
func (s Surface) Length(line []plant.Point) Length {
	out := s.along(line, s.Place)
	out.NearMM, out.FarMM = out.MM, out.MM
	if s.standing != nil {
		half := (s.Vessel.OuterMM/2 - s.Vessel.WallMM) / 2
		out.NearMM = s.along(line, func(p plant.Point) (optics.Vec, bool) { return s.standing.Place(p, -half, s.water) }).MM
		out.FarMM = s.along(line, func(p plant.Point) (optics.Vec, bool) { return s.standing.Place(p, half, s.water) }).MM
	}
	return out
}

func (s Surface) along(line []plant.Point, place func(plant.Point) (optics.Vec, bool)) Length {
	var out Length
	var last *optics.Vec
	var first *optics.Vec
	steps := []float64{}
	for _, p := range line {
		at, ok := place(p)
		if !ok {
			out.Lost++
			last = nil
			continue
		}
		if first == nil {
			first = &at
		}
		out.ReachMM = math.Max(out.ReachMM, math.Abs(at.X-first.X))
		if last != nil {
			steps = append(steps, last.To(at))
		}
		last = &at
	}
	usual := median(steps)
	for _, d := range steps {
		if d > jump*usual+jump*0.2 {
			out.Jumps++
			continue
		}
		out.MM += d
	}
	return out
}

// Exact is the surface of a jar whose standing is known.
func Exact(s Start, standing optics.Standing) Surface {
	return Surface{Start: s, standing: &standing, water: math.Inf(1)}
}
