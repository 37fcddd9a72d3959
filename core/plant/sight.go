package plant

import (
	"errors"
	"fmt"
	"math"
)

// Sight is how a photo is measured: where the nodes of the piece are in it, and what gives its scale. Places are pixels of
// the upright photo. It is what a grower accepted; the lengths that follow from it are worked out, and anew when that is
// done better.
type Sight struct {
	WidthPX  int `json:"width_px" minimum:"1" maximum:"60000"`
	HeightPX int `json:"height_px" minimum:"1" maximum:"60000"`
	// Focal35 is the focal length the file tells, as on 35 mm film; 0 when it does not.
	Focal35 float64  `json:"focal35,omitempty" minimum:"0" maximum:"1000"`
	Nodes   []NodeAt `json:"nodes" maxItems:"60"`
	Tag     *TagAt   `json:"tag,omitempty"`
	// Left and Right are the edges of a round vessel; Dragged tells that a grower set them.
	Left    *Stroke `json:"left,omitempty"`
	Right   *Stroke `json:"right,omitempty"`
	Dragged bool    `json:"dragged,omitempty"`
	// WaterY is how far down the photo the water's surface meets the left edge; nil when all roots hang in water.
	WaterY *float64 `json:"water_y,omitempty"`
}

// NodeAt is where a node is seen.
type NodeAt struct {
	Node int   `json:"node" minimum:"1" maximum:"60"`
	At   Point `json:"at"`
}

// TagAt is a tag as it was read: its four corners, top left, top right, bottom right, bottom left as it is read, and how
// wide its symbol is printed.
type TagAt struct {
	Payload  string  `json:"payload" maxLength:"60"`
	Corners  []Point `json:"corners" minItems:"4" maxItems:"4"`
	SymbolMM float64 `json:"symbol_mm" minimum:"1" maximum:"500"`
}

// Stroke is a line through two points.
type Stroke struct {
	A Point `json:"a"`
	B Point `json:"b"`
}

// Check refuses a sight with places outside of its photo.
func (s Sight) Check() error {
	var all []error
	if s.WidthPX < 1 || s.HeightPX < 1 || s.WidthPX > MostSidePX || s.HeightPX > MostSidePX {
		all = append(all, Refuse("sight.width_px", "a photo has 1 to %d pixels a side", MostSidePX))
	}
	inside := func(field string, p Point) {
		// Corners and edges may lie a little outside of the photo, no node does.
		if !(math.Abs(p.X) <= 2*MostSidePX && math.Abs(p.Y) <= 2*MostSidePX) {
			all = append(all, Refuse(field, "this place is not in the picture"))
		}
	}
	seen := map[int]bool{}
	for i, n := range s.Nodes {
		at := fmt.Sprintf("sight.nodes[%d]", i)
		if !(n.At.X >= 0 && n.At.Y >= 0 && n.At.X <= float64(s.WidthPX) && n.At.Y <= float64(s.HeightPX)) {
			all = append(all, Refuse(at, "this node is not in the picture"))
		}
		if seen[n.Node] {
			all = append(all, Refuse(at, "node %d is marked twice", n.Node))
		}
		seen[n.Node] = true
	}
	if s.Tag != nil {
		if len(s.Tag.Corners) != 4 || !(s.Tag.SymbolMM > 0) {
			all = append(all, Refuse("sight.tag", "a tag has four corners and a width"))
		}
		for _, c := range s.Tag.Corners {
			inside("sight.tag", c)
		}
	}
	for _, e := range []*Stroke{s.Left, s.Right} {
		if e != nil {
			inside("sight.edges", e.A)
			inside("sight.edges", e.B)
		}
	}
	if s.WaterY != nil {
		inside("sight.water_y", Point{Y: *s.WaterY})
	}
	if (s.Left == nil) != (s.Right == nil) {
		all = append(all, Refuse("sight.edges", "a vessel has two edges"))
	}
	return errors.Join(all...)
}

// MostSidePX bounds the sides of a photo.
const MostSidePX = 60000
