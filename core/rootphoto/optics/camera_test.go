package optics

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// outline is where a vertical jar's two edges are seen by a camera at a place, in the world of the jar: the touching
// planes, cut at two heights.
func outlines(t *testing.T, c Camera, toCamera func(Vec) Vec, from Vec, radius float64) (left, right Edge) {
	t.Helper()
	d := math.Hypot(from.X, from.Z)
	// The two touching points as seen from above: at an angle acos(R/D) to the way to the camera.
	towards := math.Atan2(from.X, from.Z)
	off := math.Acos(radius / d)
	edge := func(a float64) Edge {
		x, z := radius*math.Sin(a), radius*math.Cos(a)
		p, ok := c.At(toCamera(Vec{x, from.Y - 60, z}))
		require.True(t, ok)
		q, ok := c.At(toCamera(Vec{x, from.Y + 20, z}))
		require.True(t, ok)
		return Edge{p, q}
	}
	a, b := edge(towards+off), edge(towards-off)
	if a.A.X < b.A.X {
		return a, b
	}
	return b, a
}

// A camera anywhere, turned anyhow: how the jar stands is found again from its two edges, and what is on the plane of the
// axis is cast back to where it is.
func TestAJarIsFoundFromItsEdges(t *testing.T) {
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 6))
		j := Jar{25 + 30*r.Float64(), 1 + 3*r.Float64(), Glass, Water}
		c, err := CameraOf(26+20*r.Float64(), 3000, 4000)
		require.NoError(t, err)
		distance := j.RadiusMM + 150 + 350*r.Float64()
		turn := 2 * math.Pi * r.Float64()
		from := Vec{distance * math.Sin(turn), 40 * r.NormFloat64(), distance * math.Cos(turn)}
		// Looks about at the axis, a little beside it, a little tilted and rolled.
		ahead := Vec{10 * r.NormFloat64(), from.Y + 15*r.NormFloat64(), 10 * r.NormFloat64()}.Minus(from).Unit()
		roll := 0.1 * r.NormFloat64()
		right := ahead.Cross(Vec{0, 1, 0}).Times(-1).Unit()
		up := ahead.Cross(right)
		right, up = right.Times(math.Cos(roll)).Plus(up.Times(math.Sin(roll))), up.Times(math.Cos(roll)).Minus(right.Times(math.Sin(roll)))
		if up.Y < 0 {
			right, up = right.Times(-1), up.Times(-1)
		}
		toCamera := func(p Vec) Vec { q := p.Minus(from); return Vec{q.Dot(right), q.Dot(up), q.Dot(ahead)} }
		left, rightEdge := outlines(t, c, toCamera, from, j.RadiusMM)
		s, err := FromEdges(c, j, left, rightEdge)
		require.NoError(t, err)
		require.InEpsilon(t, distance, s.Distance, 1e-9, "seed %d", seed)
		// The axis, seen by the camera, is cast to x = 0; without water it is seen where it is.
		empty := s
		empty.Jar = Jar{j.RadiusMM, 1e-9, Air, Air}
		for _, y := range []float64{-30, 0, 25} {
			p, ok := c.At(toCamera(Vec{0, from.Y + y, 0}))
			require.True(t, ok)
			at, ok := empty.Place(p, 0, math.Inf(1))
			require.True(t, ok)
			require.InDelta(t, 0, at.X, 1e-6, "seed %d", seed)
			require.InDelta(t, y, at.Y, 1e-6, "seed %d", seed)
		}
	}
}

// The photos of the demo come from a renderer that is not ours: for each point of a root it knows the place in space and
// the pixel at which it is seen through glass and water. Every one is cast back onto its place.
func TestPixelsOfARendererAreCastBackToTheirPlaces(t *testing.T) {
	files, err := filepath.Glob("../../../demo/photos/demo_*.json")
	require.NoError(t, err)
	cast := 0
	for _, name := range files {
		raw, err := os.ReadFile(name)
		require.NoError(t, err)
		var truth struct {
			Vessel struct {
				Type  string  `json:"type"`
				Outer float64 `json:"outer_diameter"`
				Wall  float64 `json:"wall"`
				Water float64 `json:"water_height"`
			} `json:"vessel"`
			Camera struct {
				Focal     float64    `json:"focal_px"`
				Centre    [2]float64 `json:"principal_point_px"`
				Position  [3]float64 `json:"position_mm"`
				Right, Up [3]float64
				Forward   [3]float64 `json:"forward"`
			} `json:"camera"`
			Roots []struct {
				Points   [][3]float64  `json:"points_mm"`
				Apparent [][]*float64  `json:"apparent_px"`
				Visible  []interface{} `json:"visible"`
			} `json:"roots"`
		}
		require.NoError(t, json.Unmarshal(raw, &truth))
		if truth.Vessel.Type != "jar" {
			continue
		}
		// Its frame is x right, y away, z up; ours x, z, y.
		ours := func(v [3]float64) Vec { return Vec{v[0], v[2], v[1]} }
		c := Camera{truth.Camera.Focal, plant.Point{X: truth.Camera.Centre[0], Y: truth.Camera.Centre[1]}}
		from := ours(truth.Camera.Position)
		right, up, ahead := ours(truth.Camera.Right), ours(truth.Camera.Up), ours(truth.Camera.Forward)
		toCamera := func(p Vec) Vec { q := p.Minus(from); return Vec{q.Dot(right), q.Dot(up), q.Dot(ahead)} }
		j := Jar{truth.Vessel.Outer / 2, truth.Vessel.Wall, Glass, Water}
		left, rightEdge := outlines(t, c, toCamera, from, j.RadiusMM)
		s, err := FromEdges(c, j, left, rightEdge)
		require.NoError(t, err)
		d := math.Hypot(from.X, from.Z)
		off := []float64{}
		for _, root := range truth.Roots {
			for i, px := range root.Apparent {
				if len(px) != 2 || px[0] == nil || px[1] == nil || root.Points[i][2] > truth.Vessel.Water-2 {
					continue
				}
				p := ours(root.Points[i])
				// In the frame of the standing jar: z along the way of the camera, x to its right.
				z := -(p.X*from.X + p.Z*from.Z) / d
				x := (p.Z*from.X - p.X*from.Z) / d
				at, ok := s.Place(plant.Point{X: *px[0], Y: *px[1]}, z, math.Inf(1))
				if !ok {
					continue
				}
				off = append(off, math.Hypot(at.X-x, at.Y-(p.Y-from.Y)))
			}
		}
		require.NotEmpty(t, off, name)
		slices.Sort(off)
		require.Less(t, off[len(off)/2], 0.02, "median, mm, %s", name)
		require.Less(t, off[len(off)*95/100], 0.3, "95th, mm, %s", name)
		cast += len(off)
	}
	require.Greater(t, cast, 300)
}
