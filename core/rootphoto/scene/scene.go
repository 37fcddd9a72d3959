// Package scene is the part of a photo around a cutting, as it is worked on: in CIELAB, at a few pixels a mm.
//
// In: the upright picture, where the nodes of the piece are in it, and how large a mm is there. Out: planes of lightness
// and colour of the part around the nodes, and the way from its pixels to those of the photo and back. Pixels: from the
// top left corner, the middle of the first at 0.5.
package scene

import (
	"errors"
	"image"
	"math"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/ridge"
)

// How far around the nodes is looked at, mm: sideways, up and down.
const (
	sideways = 70.0
	upward   = 28.0
	downward = 72.0
	// The stems of other pieces that stand up to neighbour mm beyond are taken in, with stemAside around them.
	neighbour, stemAside = 20.0, 14.0
	// most is at most how many pixels a mm a scene has: a larger photo is made smaller by a whole number.
	most = 8.5
	// mostPixels bounds a scene.
	mostPixels = 4_000_000
)

// Scene is the part of a photo around a cutting.
type Scene struct {
	ridge.Picture
	// Origin is where its top left corner lies in the photo, and By how many pixels of the photo go into one of it.
	Origin image.Point
	By     int
	// Nodes are the nodes of the piece, in pixels of the scene.
	Nodes []plant.Point
	// Others are the nodes of other pieces in the same photo, piece by piece: roots may belong to them.
	Others [][]plant.Point
}

// In is where a place of the photo lies in the scene; Out is where a place of the scene lies in the photo.
func (s *Scene) In(p plant.Point) plant.Point {
	by := float64(s.By)
	return plant.Point{X: (p.X - float64(s.Origin.X)) / by, Y: (p.Y - float64(s.Origin.Y)) / by}
}

// Out is where a place of the scene lies in the photo.
func (s *Scene) Out(p plant.Point) plant.Point {
	by := float64(s.By)
	return plant.Point{X: p.X*by + float64(s.Origin.X), Y: p.Y*by + float64(s.Origin.Y)}
}

// ErrNoNodes says that no node of the piece lies in the picture.
var ErrNoNodes = errors.New("no node of the piece lies in the picture: tap where its nodes are")

// Around makes the scene around nodes given in pixels of the upright picture, where a mm is pxMM pixels large. It reaches
// as far as the stems of other pieces that stand near, so that their roots can be told from those of this one.
func Around(img image.Image, nodes []plant.Point, others [][]plant.Point, pxMM float64) (*Scene, error) {
	b := img.Bounds()
	if len(nodes) == 0 {
		return nil, ErrNoNodes
	}
	if !(pxMM > 0.5 && pxMM < 500) {
		return nil, errors.New("how large a mm is in the picture must be known: at least half a pixel, at most 500")
	}
	left, top, right, bottom := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, n := range nodes {
		if !(n.X >= 0 && n.Y >= 0 && n.X <= float64(b.Dx()) && n.Y <= float64(b.Dy())) {
			return nil, ErrNoNodes
		}
		left, right, top, bottom = math.Min(left, n.X), math.Max(right, n.X), math.Min(top, n.Y), math.Max(bottom, n.Y)
	}
	by := max(1, int(math.Ceil(pxMM/most-0.01)))
	r := image.Rect(int(left-sideways*pxMM), int(top-upward*pxMM), int(right+sideways*pxMM), int(bottom+downward*pxMM))
	reach := r.Inset(-int(neighbour * pxMM))
	for _, piece := range others {
		for _, n := range piece {
			if at := image.Pt(int(n.X), int(n.Y)); at.In(reach) {
				r = r.Union(image.Rectangle{Min: at, Max: at.Add(image.Pt(1, 1))}.Inset(-int(stemAside * pxMM)))
			}
		}
	}
	r = r.Intersect(image.Rect(0, 0, b.Dx(), b.Dy()))
	w, h := r.Dx()/by, r.Dy()/by
	if w < 16 || h < 16 || w*h > mostPixels {
		return nil, errors.New("the part of the picture around the nodes is too small or too large to be worked on: check the scale")
	}
	s := &Scene{Origin: r.Min, By: by}
	s.PxMM = pxMM / float64(by)
	for _, n := range nodes {
		s.Nodes = append(s.Nodes, s.In(n))
	}
	for _, piece := range others {
		in := []plant.Point{}
		for _, n := range piece {
			if image.Pt(int(n.X), int(n.Y)).In(r) {
				in = append(in, s.In(n))
			}
		}
		if len(in) > 0 {
			s.Others = append(s.Others, in)
		}
	}
	s.L, s.A, s.B = lab(img, r.Add(b.Min), by, w, h)
	return s, nil
}
