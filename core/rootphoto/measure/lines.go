package measure

import (
	"fmt"
	"math"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/place"
	"clearjar/core/rootphoto/tag"
)

// Stood is what a piece stands in, as it is recorded: a vessel of a kind, and what is in it. The zero value is a board: a
// piece laid on the table.
type Stood struct {
	Kind     plant.VesselKind `json:"kind,omitempty"`
	Medium   plant.Medium     `json:"medium,omitempty"`
	WidthMM  float64          `json:"width_mm,omitempty"`
	HeightMM float64          `json:"height_mm,omitempty"`
	WallMM   float64          `json:"wall_mm,omitempty"`
}

// Vessel is how it stands between the camera and the roots. Roots in what hides them lie against the wall; in a liquid they
// hang.
func (s Stood) Vessel() place.Vessel {
	sort, known := s.Kind.Sort()
	if !known || s.Kind == "" {
		return place.Vessel{Shape: place.Board}
	}
	v := place.Vessel{OuterMM: s.WidthMM + 2*s.WallMM, WallMM: s.WallMM}
	switch {
	case sort.Round && !s.Medium.Row().Hidden:
		v.Shape = place.RoundJar
	case sort.Round:
		v.Shape = place.RoundCup
		if s.HeightMM > 0 && sort.Taper > 0 {
			// As wide as it is recorded at its rim, narrower at its foot.
			v.OuterMM *= (1 + sort.Taper) / 2
			v.Taper = s.WidthMM * (1 - sort.Taper) / 2 / s.HeightMM
		}
	default:
		v.Shape = place.FlatWall
	}
	return v
}

// surface is where the roots of a photo lie, by what was accepted of it.
func surface(t number.Table, s plant.Sight, in Stood) (place.Surface, error) {
	g := place.Given{Width: s.WidthPX, Height: s.HeightPX, Focal35: s.Focal35, Otherwise35: t.Of(rootphoto.PhotoFocal), Vessel: in.Vessel()}
	if s.Tag != nil {
		f := tag.Found{Payload: s.Tag.Payload, Corners: [4]plant.Point(s.Tag.Corners)}
		g.Tag, g.TagMM = &f, s.Tag.SymbolMM
	}
	if s.Left != nil && s.Right != nil {
		g.Left, g.Right = &optics.Edge{A: s.Left.A, B: s.Left.B}, &optics.Edge{A: s.Right.A, B: s.Right.B}
	}
	g.Water = s.WaterY
	start, err := place.Begin(g)
	if err != nil {
		return place.Surface{}, plant.Refuse("sight", "%s", err)
	}
	round := g.Vessel.Shape == place.RoundJar || g.Vessel.Shape == place.RoundCup
	if round && g.Left == nil {
		return place.Surface{}, plant.Refuse("sight.edges", "%s", place.ErrNoEdges)
	}
	return start.On(nil)
}

// Lines are the lengths of lines on a photo that is measured by its tag and its vessel. The intervals hold the true length
// nine times in ten; what they rest on is said.
func Lines(t number.Table, s plant.Sight, in Stood, paths [][]plant.Point) (rootphoto.Result, error) {
	tables, err := Shipped()
	if err != nil {
		return rootphoto.Result{}, err
	}
	on, err := surface(t, s, in)
	if err != nil {
		return rootphoto.Result{}, err
	}
	res := rootphoto.Result{MMPerPixel: 1 / on.PxMM, Roots: []rootphoto.Measured{}, Assumed: on.Says()}
	for i, path := range paths {
		if len(path) > plant.MostVertices {
			return res, plant.Refuse(fmt.Sprintf("paths[%d]", i), "at most %d points", plant.MostVertices)
		}
		for _, p := range path {
			if math.IsNaN(p.X) || math.IsNaN(p.Y) {
				return res, plant.Refuse(fmt.Sprintf("paths[%d]", i), "a point is not in the picture")
			}
		}
		l := on.Length(path)
		a := tables.Small.Allowance(on.Vessel.Shape, l, 1)
		high := math.Min(plant.MostRootMM, l.MM*a.High)
		res.Roots = append(res.Roots, rootphoto.Measured{LengthMM: math.Min(plant.MostRootMM, l.MM), LowMM: l.MM * a.Low, HighMM: high})
	}
	return res, nil
}
