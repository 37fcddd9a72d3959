// Package measure puts the measuring of one photo together: who is in it, where roots are and how long, in mm with
// intervals, their colours, the water, and what stands in the way.
//
// In: the upright picture, what the file tells of its camera, the vessel, where the nodes are. Out: roots as proposals or
// along a grower's taps; lines in pixels of the photo, lengths in mm. Nothing is invented: without a scale there are no
// lengths, without nodes no roots, and warnings say what to do.
package measure

import (
	"errors"
	"image"
	"image/draw"
	"math"
	"slices"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/core/rootphoto/colour"
	"clearjar/core/rootphoto/find"
	"clearjar/core/rootphoto/likely"
	"clearjar/core/rootphoto/optics"
	"clearjar/core/rootphoto/place"
	"clearjar/core/rootphoto/scene"
	"clearjar/core/rootphoto/tag"
	"clearjar/core/rootphoto/trace"
)

// Tables are all that was learned.
type Tables struct {
	Likely *likely.Tables
	Find   *find.Tables
	Small  Small
}

// Asked is what a grower tells of a photo. Places are pixels of the upright photo.
type Asked struct {
	// Numbers are the numbers of the job in use.
	Numbers number.Table
	Vessel  place.Vessel
	Behind  likely.Background
	// Colour is the class of colour its roots are expected to have, Healthy are all that sound roots of the plant may have.
	Colour  plant.RootColour
	Healthy []plant.RootColour
	// Focal35 is the focal length the file tells, as on 35 mm film; 0 when it does not.
	Focal35 float64
	// TagMM is how wide the symbols of the tags are printed.
	TagMM float64
	// Of is the payload of the tag the scale is taken from; empty for the only one.
	Of          string
	Ruler       *plant.Scale
	Left, Right *optics.Edge
	// Water is how far down the photo the water's surface meets the left edge of a jar; nil when all roots hang in water.
	Water   *float64
	Earlier float64
	Nodes   []plant.Point
	// Others are the nodes of other pieces in the same photo, piece by piece: their roots are not this one's.
	Others [][]plant.Point
}

// Tip is a tap on the tip of a root, with points it must pass and its node, from 0; -1 when the nearest is meant.
type Tip struct {
	At   plant.Point
	Pass []plant.Point
	Node int
}

// Mode is how a line came about.
type Mode string

// The modes.
const (
	Automatic Mode = "automatic"
	Assisted  Mode = "assisted"
)

// Root is one root of a photo.
type Root struct {
	// Node is counted from 0 in the order the nodes were given; Order is 1 for a root of the stem, 2 for one of a root.
	Node  int `json:"node"`
	Order int `json:"order"`
	// LengthMM is its length as it is seen, on the surface it is taken to lie on; LowMM to HighMM holds its true length nine
	// times in ten. AllowedMM is the likeliest true length: that seen and the usual part that one view hides.
	LengthMM   *float64         `json:"length_mm"`
	LowMM      *float64         `json:"low_mm"`
	HighMM     *float64         `json:"high_mm"`
	AllowedMM  *float64         `json:"allowed_mm"`
	WidthMM    *float64         `json:"width_mm"`
	TipMM      *float64         `json:"tip_width_mm"`
	Colour     plant.RootColour `json:"colour"`
	Confidence float64          `json:"confidence"`
	Mode       Mode             `json:"mode"`
	// Views is from how many photos its length comes: two where the jar was turned between them.
	Views int           `json:"views"`
	Path  []plant.Point `json:"path_px"`
	// Remarks say what to check.
	Remarks []Remark `json:"remarks"`
}

// Remark is something to check about a root.
type Remark string

// Remarks.
const (
	CheckPath Remark = "check_path" // the line is weak somewhere
	CheckTip  Remark = "check_tip"  // it is a root, but where it ends is unsure
	AtLeast   Remark = "at_least"   // the tip is where no root can be seen to end
	SeenTwice Remark = "seen_twice" // the line jumps from one side of the glass to the other
	MaybeRot  Remark = "maybe_rot"  // brown: squeeze it
)

// Scale is what lengths rest on.
type Scale struct {
	Source place.Source `json:"source"`
	// MMPerPX is the scale at the nodes.
	MMPerPX float64 `json:"mm_per_px"`
	// DistanceMM is how far the camera was from the tag or the ruler, 0 without.
	DistanceMM float64 `json:"distance_mm"`
	// FocalKnown tells whether the file told its focal length.
	FocalKnown bool         `json:"focal_known"`
	Left       *optics.Edge `json:"left_edge"`
	Right      *optics.Edge `json:"right_edge"`
	EdgesSet   bool         `json:"edges_set"`
}

// Seen is a photo as it was looked at; further roots can be followed in it.
type Seen struct {
	Asked   Asked
	Tags    []tag.Found
	Quality Quality
	Scale   *Scale
	Guide   *trace.Guide
	Surface *place.Surface
	// Problems are why something could not be measured.
	Problems   []error
	tables     *Tables
	candidates []find.Candidate
	white      colour.Lab
	behind     likely.Background
}

// scaleOff is from how much on, relative, a scene is made anew when its scale is known better.
const scaleOff = 0.02

// Gray is the brightness of a picture.
func Gray(img image.Image) *image.Gray {
	if ycc, ok := img.(*image.YCbCr); ok {
		return &image.Gray{Pix: ycc.Y, Stride: ycc.YStride, Rect: ycc.Rect}
	}
	g := image.NewGray(img.Bounds())
	draw.Draw(g, g.Bounds(), img, img.Bounds().Min, draw.Src)
	return g
}

// Tags are the tags in a picture.
func Tags(img image.Image) []tag.Found { return tag.Read(Gray(img)) }

// ErrOtherTag says that the tag asked for is not in the photo.
var ErrOtherTag = errors.New("the tag of this cutting is not in the photo")

// Look looks at a photo whose tags are known: what gives its scale, where its roots may be. What fails is named in
// Problems; what can be said without it is said.
func (t *Tables) Look(img image.Image, tags []tag.Found, a Asked) *Seen {
	s := &Seen{Asked: a, Tags: tags, tables: t, behind: a.Behind}
	given := place.Given{
		Width: img.Bounds().Dx(), Height: img.Bounds().Dy(), Focal35: a.Focal35, Vessel: a.Vessel, TagMM: a.TagMM,
		Ruler: a.Ruler, Left: a.Left, Right: a.Right, Water: a.Water, Earlier: a.Earlier, Otherwise35: a.Numbers.Of(rootphoto.PhotoFocal),
	}
	for i, f := range tags {
		if a.TagMM > 0 && (a.Of == "" || f.Payload == a.Of) {
			given.Tag = &tags[i]
			break
		}
	}
	start, err := place.Begin(given)
	if err != nil {
		s.Problems = append(s.Problems, err)
		return s
	}
	sc, err := scene.Around(img, a.Nodes, a.Others, start.PxMM)
	if err != nil {
		s.Problems = append(s.Problems, err)
		return s
	}
	surface, err := start.On(sc)
	if err != nil {
		s.Problems = append(s.Problems, err)
	} else {
		s.Surface = &surface
		// What was only about known before the vessel was found is known better now.
		if better := surface.PixelsPerMM(); math.Abs(better/start.PxMM-1) > scaleOff {
			start.PxMM, surface.PxMM = better, better
			if again, err := scene.Around(img, a.Nodes, a.Others, better); err == nil {
				sc = again
			}
		}
	}
	s.Scale = &Scale{Source: surface.Source, MMPerPX: 1 / start.PxMM, DistanceMM: start.ReferenceMM, FocalKnown: a.Focal35 > 0, Left: surface.Left, Right: surface.Right, EdgesSet: surface.Set}
	s.Quality = QualityOf(sc)
	s.white = whiteOf(sc, given.Tag)
	s.Guide = trace.Guided(t.Likely.Of(sc, a.Behind, string(a.Colour)))
	return s
}

// Candidates are all lines that may be roots of the piece, worked out once.
func (s *Seen) Candidates() []find.Candidate {
	if s.candidates == nil {
		s.candidates = slices.DeleteFunc(find.Candidates(s.Guide, s.behind, s.Guide.Map.Expected), func(c find.Candidate) bool { return c.Node >= s.Guide.Mine })
	}
	return s.candidates
}

// Proposals are the roots that are found alone, those of at least a confidence.
func (s *Seen) Proposals(least float64) []Root {
	out := []Root{}
	if s.Guide == nil {
		return out
	}
	for _, p := range s.tables.Find.Propose(s.Candidates(), Proposed(least)) {
		order := 1
		if p.Side {
			order = 2
		}
		f := trace.Followed{Node: p.Node, Line: p.Line}
		f.Mean, f.Weak = s.Guide.Sure(p.Line)
		r := s.root(f, order)
		r.Confidence, r.Mode = p.Confidence, Automatic
		if p.Confidence < ProposeFrom {
			r.Remarks = append(r.Remarks, CheckTip)
		}
		out = append(out, r)
	}
	return out
}

// Follow follows a root from a tap on its tip.
func (s *Seen) Follow(tip Tip) (Root, error) {
	if s.Guide == nil {
		return Root{}, scene.ErrNoNodes
	}
	pass := make([]plant.Point, len(tip.Pass))
	for i, p := range tip.Pass {
		pass[i] = s.Guide.Map.In(p)
	}
	f, err := s.Guide.Follow(s.Guide.Map.In(tip.At), pass, tip.Node)
	if err != nil {
		return Root{}, err
	}
	r := s.root(f, 1)
	r.Confidence, r.Mode = float64(f.Mean), Assisted
	return r, nil
}

// How sure a path must be not to be remarked on.
const (
	sureMean = 0.5
	sureWeak = 0.2
)

// root measures a line.
func (s *Seen) root(f trace.Followed, order int) Root {
	r := Root{Node: f.Node, Order: order, Views: 1, Remarks: []Remark{}, Path: make([]plant.Point, len(f.Line))}
	for i, p := range f.Line {
		r.Path[i] = s.Guide.Map.Out(p)
	}
	if f.Mean < sureMean || f.Weak < sureWeak {
		r.Remarks = append(r.Remarks, CheckPath)
	}
	r.Colour = s.Class(f.Line)
	if r.Colour == rotting && !slices.Contains(s.Asked.Healthy, rotting) {
		r.Remarks = append(r.Remarks, MaybeRot)
	}
	if s.Surface == nil {
		return r
	}
	r.WidthMM, r.TipMM = s.widths(f.Line)
	l := s.Surface.Length(r.Path)
	if l.Jumps > 0 {
		r.Remarks = append(r.Remarks, SeenTwice)
	}
	if n := len(r.Path); n > 0 && s.Surface.AtEdge(r.Path[n-1]) {
		r.Remarks = append(r.Remarks, AtLeast)
	}
	a := s.tables.Small.Allowance(s.Asked.Vessel.Shape, l, f.Weak)
	low, high, allowed := l.MM*a.Low, l.MM*a.High, l.MM*a.Middle
	r.LengthMM, r.LowMM, r.HighMM, r.AllowedMM = &l.MM, &low, &high, &allowed
	if math.IsNaN(l.MM) {
		r.LengthMM, r.LowMM, r.HighMM, r.AllowedMM = nil, nil, nil, nil
	}
	return r
}

// rotting is the colour roots turn when they rot.
const rotting = plant.Brown

func (s *Seen) healthy() []string {
	out := []string{}
	for _, c := range s.Asked.Healthy {
		out = append(out, string(c))
	}
	return out
}

// Class is the class of colour of a root along a line of the scene.
func (s *Seen) Class(line []plant.Point) plant.RootColour {
	class, _ := s.tables.Small.Colours.Of(s.Colours(line), s.healthy(), string(rotting))
	return plant.RootColour(class)
}

// besideMM is how far beside a root its surroundings are looked at.
const besideMM = 2.2

// Colours is how the root along a line of the scene looks.
func (s *Seen) Colours(line []plant.Point) colour.Seen {
	m := s.Guide.Map
	middle, beside := []colour.Lab{}, []colour.Lab{}
	at := func(x, y float64) colour.Lab {
		return colour.Lab{L: float64(m.L.Between(float32(x), float32(y))), A: float64(m.A.Between(float32(x), float32(y))), B: float64(m.B.Between(float32(x), float32(y)))}
	}
	d := besideMM * m.PxMM
	for i := 1; i < len(line); i++ {
		ux, uy := line[i].X-line[i-1].X, line[i].Y-line[i-1].Y
		n := math.Hypot(ux, uy)
		if n == 0 {
			continue
		}
		p := line[i]
		middle = append(middle, at(p.X, p.Y))
		beside = append(beside, at(p.X-uy/n*d, p.Y+ux/n*d), at(p.X+uy/n*d, p.Y-ux/n*d))
	}
	return colour.SeenOf(middle, beside, s.white)
}
