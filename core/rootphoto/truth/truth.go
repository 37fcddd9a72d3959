// Package truth reads what is known of a rendered photo of cuttings: where each root lies in space, at which pixels it is
// seen, and by what camera.
//
// Places are in mm in the frame of the vessel: x to the right, y away from the camera, z up, the origin on the table below
// the vessel's axis; for a piece on a board the board is z = 0, y up in the photo. Pixels: from the top left corner, the
// middle of the first pixel at 0.5.
package truth

import (
	"encoding/json"
	"errors"
	"fmt"

	"clearjar/core/plant"
)

// Photo is what is known of one photo.
type Photo struct {
	Name   string `json:"name"`
	Vessel Vessel `json:"vessel"`
	// Cloudy is how much light the water scatters; 0 for clear water.
	Cloudy float64 `json:"cloudy"`
	Image  struct {
		Width  int `json:"width"`
		Height int `json:"height"`
	} `json:"image"`
	Camera    Camera     `json:"camera"`
	Reference *Reference `json:"reference"`
	Stem      struct {
		DiameterMM float64      `json:"diameter_mm"`
		Points     [][3]float64 `json:"points_mm"`
	} `json:"stem"`
	Nodes []Node `json:"nodes"`
	Roots []Root `json:"roots"`
}

// Vessel is what the cutting stands in; sizes in mm. Its type is jar, moss_box, perlite_cup or bare.
type Vessel struct {
	Type           string        `json:"type"`
	OuterDiameter  float64       `json:"outer_diameter"`
	Wall           float64       `json:"wall"`
	Height         float64       `json:"height"`
	WaterHeight    float64       `json:"water_height"`
	Width          float64       `json:"width"`
	Depth          float64       `json:"depth"`
	TopRadius      float64       `json:"top_radius"`
	BottomRadius   float64       `json:"bottom_radius"`
	WallSilhouette [2][2]float64 `json:"wall_silhouette_px"`
}

// Camera is a pinhole camera in the frame of the vessel.
type Camera struct {
	LensMM    float64    `json:"lens_mm_equivalent"`
	FocalPX   float64    `json:"focal_px"`
	Centre    [2]float64 `json:"principal_point_px"`
	Position  [3]float64 `json:"position_mm"`
	Right     [3]float64 `json:"right"`
	Up        [3]float64 `json:"up"`
	Forward   [3]float64 `json:"forward"`
	Distance  float64    `json:"distance_mm"`
	TiltDeg   float64    `json:"tilt_deg"`
	YawDeg    float64    `json:"yaw_deg"`
	FocusedMM float64    `json:"focus_mm"`
}

// Reference is what gives a scale: a tag or a ruler.
type Reference struct {
	Type        string                `json:"type"`
	Payload     string                `json:"payload"`
	PlanePoint  [3]float64            `json:"plane_point_mm"`
	PlaneNormal [3]float64            `json:"plane_normal"`
	SymbolMM    float64               `json:"qr_symbol_width_mm"`
	Symbol      map[string][2]float64 `json:"qr_symbol_corners_px"`
	ScaleMM     float64               `json:"scale_length_mm"`
	ScaleEnds   [][2]float64          `json:"scale_ends_px"`
	Corners     map[string][3]float64 `json:"corners_mm"`
}

// Node is one node of the piece: on the axis of its stem.
type Node struct {
	Index      int        `json:"index"`
	Point      [3]float64 `json:"point_mm"`
	UnderWater bool       `json:"under_water"`
	Apparent   [2]float64 `json:"apparent_px"`
}

// Root is one root, its points about every mm from the stem to the tip.
type Root struct {
	ID         int           `json:"id"`
	Parent     *int          `json:"parent_root"`
	Node       int           `json:"node"`
	Order      int           `json:"order"`
	Colour     string        `json:"colour"`
	LengthMM   float64       `json:"length_mm"`
	MeanMM     float64       `json:"mean_diameter_mm"`
	TipMM      float64       `json:"tip_diameter_mm"`
	Points     [][3]float64  `json:"points_mm"`
	ApparentPX []*[2]float64 `json:"apparent_px"`
	VisibleAt  []float64     `json:"visible"`
}

// Read reads a truth file.
func Read(data []byte) (*Photo, error) {
	var p Photo
	if err := json.Unmarshal(data, &p); err != nil {
		return nil, fmt.Errorf("this is no truth file: %w", err)
	}
	if p.Image.Width < 1 || p.Image.Height < 1 || p.Camera.FocalPX <= 0 {
		return nil, errors.New("this is no truth file: it has no image or no camera")
	}
	for _, r := range p.Roots {
		if len(r.ApparentPX) != len(r.Points) || len(r.VisibleAt) != len(r.Points) {
			return nil, fmt.Errorf("root %d: its points, pixels and what is seen of it differ in number", r.ID)
		}
	}
	return &p, nil
}

// Seen are the stretches of a root that are seen, as pixels: one line each, of two points and more.
func (r Root) Seen() [][]plant.Point {
	out, line := [][]plant.Point{}, []plant.Point{}
	for i, px := range r.ApparentPX {
		if px == nil || r.VisibleAt[i] == 0 {
			if len(line) > 1 {
				out = append(out, line)
			}
			line = nil
			continue
		}
		line = append(line, plant.Point{X: px[0], Y: px[1]})
	}
	if len(line) > 1 {
		out = append(out, line)
	}
	return out
}

// Apparent is the line of a root as the camera would see it if nothing stood before it, from the stem, and the place in the
// root of each point. Points that no ray reaches are left out.
func (r Root) Apparent() (line []plant.Point, at []int) {
	for i, px := range r.ApparentPX {
		if px != nil {
			line, at = append(line, plant.Point{X: px[0], Y: px[1]}), append(at, i)
		}
	}
	return line, at
}

// At is the pixel a camera sees a place at, when nothing bends the light.
func (c Camera) At(p [3]float64) plant.Point {
	q := [3]float64{p[0] - c.Position[0], p[1] - c.Position[1], p[2] - c.Position[2]}
	dot := func(a [3]float64) float64 { return a[0]*q[0] + a[1]*q[1] + a[2]*q[2] }
	z := dot(c.Forward)
	return plant.Point{X: c.Centre[0] + c.FocalPX*dot(c.Right)/z, Y: c.Centre[1] - c.FocalPX*dot(c.Up)/z}
}

// PixelsPerMM is how large a mm is at a place.
func (c Camera) PixelsPerMM(p [3]float64) float64 {
	z := 0.0
	for i := range 3 {
		z += (p[i] - c.Position[i]) * c.Forward[i]
	}
	return c.FocalPX / z
}
