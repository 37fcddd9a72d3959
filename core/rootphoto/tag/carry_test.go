package tag

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
)

// Turned, larger and elsewhere: every place is carried to where it is.
func TestPlacesAreCarried(t *testing.T) {
	for seed := range uint64(100) {
		r := rand.New(rand.NewPCG(seed, 3))
		k, turn := 0.5+2*r.Float64(), 2*math.Pi*r.Float64()
		over := func(p plant.Point) plant.Point {
			return plant.Point{X: 40 + k*(p.X*math.Cos(turn)-p.Y*math.Sin(turn)), Y: -9 + k*(p.X*math.Sin(turn)+p.Y*math.Cos(turn))}
		}
		from := [4]plant.Point{{X: 10, Y: 10}, {X: 110, Y: 12}, {X: 108, Y: 111}, {X: 9, Y: 109}}
		var to [4]plant.Point
		for i, p := range from {
			to[i] = over(p)
		}
		p := plant.Point{X: 500 * r.Float64(), Y: -300 * r.Float64()}
		got, off := Carry(from, to, []plant.Point{p})
		require.Less(t, distance(over(p), got[0]), 1e-9)
		require.Less(t, off, 1e-9)
	}
	_, off := Carry([4]plant.Point{}, [4]plant.Point{}, nil)
	require.True(t, math.IsInf(off, 1))
}

// In photos of one jar at four dates, taken by hand from about the same place, each node is carried to within 5 mm: near
// enough to be set right by a finger, and to be found again.
func TestNodesOfOnePieceAreCarriedFromDateToDate(t *testing.T) {
	type truth struct {
		Nodes []struct {
			Apparent [2]float64 `json:"apparent_px"`
		} `json:"nodes"`
		Reference struct {
			Corners map[string][2]float64 `json:"qr_symbol_corners_px"`
		} `json:"reference"`
	}
	read := func(name string) (corners [4]plant.Point, nodes []plant.Point) {
		raw, err := os.ReadFile("../../../demo/photos/" + name + ".json")
		require.NoError(t, err)
		var tr truth
		require.NoError(t, json.Unmarshal(raw, &tr))
		for i, k := range []string{"top_left", "top_right", "bottom_right", "bottom_left"} {
			corners[i] = plant.Point{X: tr.Reference.Corners[k][0], Y: tr.Reference.Corners[k][1]}
		}
		for _, n := range tr.Nodes {
			nodes = append(nodes, plant.Point{X: n.Apparent[0], Y: n.Apparent[1]})
		}
		return corners, nodes
	}
	for _, pair := range [][2]string{
		{"demo_aroid_day08", "demo_aroid_day15"},
		{"demo_aroid_day15", "demo_aroid_day24"},
		{"demo_aroid_day24", "demo_aroid_day38"},
		{"demo_orange_day12", "demo_orange_day21"},
		{"demo_orange_day33", "demo_orange_day47"},
		{"demo_moss_day17", "demo_moss_day31"},
	} {
		from, nodes := read(pair[0])
		to, want := read(pair[1])
		got, _ := Carry(from, to, nodes)
		mm := Found{Corners: to}.MMPerPixel(21.724)
		for i := range want {
			require.Less(t, mm*distance(want[i], got[i]), 5.0, "%v node %d", pair, i)
		}
	}
}
