package setting

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
	"clearjar/core/plant"
)

func vine(code string, set int, leavesAt ...float64) Piece {
	return Piece{Code: code, Under: plant.ByNodes, Pose: plant.Upright, NodesMM: []float64{15, 55, 95}, Set: set, LeavesMM: leavesAt, LengthMM: 110, ThicknessMM: 8}
}

func jar(width, height, fill float64) plant.Vessel {
	return plant.Vessel{Kind: plant.Jar, Medium: plant.Water, WidthMM: width, DepthMM: width, HeightMM: height, FillMM: fill, Holds: 3}
}

// published: Archimedes; the volume of a cylinder: pi/4 80^2 60 = 301 593 mm3, less one stem of pi/4 8^2 60 = 3016 mm3.
func TestWaterCoversTheNodesAndClearsTheLeaves(t *testing.T) {
	f := In(jar(80, 120, 70), []Piece{vine("CRY-A1-3", 2, 95)}, number.Table{})
	require.Empty(t, f.Trouble)
	require.Equal(t, 60.0, f.Water.LeastMM, "5 mm over the second node, at 55")
	require.Equal(t, 91.0, f.Water.MostMM, "4 mm below the petiole, at 95")
	require.Equal(t, 70.0, f.Water.LevelMM, "as it stands, which is between the two")
	f = In(jar(80, 120, 20), []Piece{vine("CRY-A1-3", 2, 95)}, number.Table{})
	require.Equal(t, 60.0, f.Water.LevelMM)
	require.InDelta(t, 301.593-3.016, f.Water.ML, 0.01)
	require.InDelta(t, 64.0*60/6400, f.Water.RiseMM, 1e-9)
	require.Equal(t, "Pour 299 ml: with the stems in it the water stands 60 mm high. Keep it from 60 to 91 mm: every chosen node under, every petiole and blade above.", f.Water.Says)

	f = In(jar(80, 120, 20), []Piece{vine("CRY-A1-3", 2, 55, 95)}, number.Table{})
	require.Contains(t, f.Trouble[0], "its lowest petiole comes at 55 mm")
	f = In(jar(80, 120, 20), []Piece{vine("CRY-A1-3", 3), vine("CRY-A4-6", 1, 55)}, number.Table{})
	require.Contains(t, f.Trouble[0], "covers the nodes of CRY-A1-3 reaches a petiole of CRY-A4-6")
	f = In(jar(80, 60, 20), []Piece{vine("CRY-A1-3", 3)}, number.Table{})
	require.Contains(t, f.Trouble[0], "a taller one")
	leaf := Piece{Code: "BEG-L1", Under: plant.ByFifth, LengthMM: 100, ThicknessMM: 3, LeavesMM: []float64{0}}
	require.Equal(t, 20.0, In(jar(80, 120, 20), []Piece{leaf}, number.Table{}).Water.LeastMM, "the bottom fifth")
	require.Nil(t, In(plant.Vessel{Kind: plant.LiddedBox, Medium: plant.Moss, WidthMM: 180, DepthMM: 110, HeightMM: 110}, []Piece{vine("A", 1)}, number.Table{}).Water)
}

// common practice, no source: about 20 soft cuttings to a 10 l bottle, which is about 220 mm wide.
func TestRoomForAsManyAsTheTradeSays(t *testing.T) {
	bottle := plant.Vessel{Kind: plant.BottleHouse, Medium: plant.Mix, WidthMM: 220, DepthMM: 220, HeightMM: 300}
	require.Equal(t, 20, In(bottle, nil, number.Table{}).Room)
	require.Equal(t, 1, In(jar(20, 100, 50), nil, number.Table{}).Room, "one always stands in it")
	box := plant.Vessel{Kind: plant.LiddedBox, Medium: plant.Moss, WidthMM: 260, DepthMM: 140, HeightMM: 110}
	lying := Piece{Code: "GLO-A1-2", Under: plant.OnSurface, Pose: plant.Lying, NodesMM: []float64{20, 50}, LengthMM: 100, ThicknessMM: 14}
	require.Equal(t, 6, In(box, []Piece{lying}, number.Table{}).Room, "two beside each other in three rows")
	f := In(box, []Piece{lying, lying, lying, lying, lying, lying, lying}, number.Table{})
	require.Contains(t, f.Trouble[0], "room for 6")
}

// Whatever stands in whatever vessel: the water covers every chosen node, is no more than the vessel holds, and where no
// trouble is told every petiole is above it.
func TestNoPetioleIsUnderWaterWithoutAWord(t *testing.T) {
	for seed := range uint64(3000) {
		r := rand.New(rand.NewPCG(seed, 5))
		sort := plant.VesselSorts()[r.IntN(len(plant.VesselSorts()))]
		v := sort.Usual
		v.Medium, v.WidthMM, v.HeightMM = plant.Water, 40+200*r.Float64(), 40+200*r.Float64()
		v.FillMM = v.HeightMM * r.Float64()
		pieces := []Piece{}
		for i := range 1 + r.IntN(5) {
			p := Piece{Code: fmt.Sprint(i), Under: []plant.DepthKey{plant.ByNodes, plant.ByFifth, plant.ByStalk, plant.OnSurface}[r.IntN(4)], Pose: plant.Upright, ThicknessMM: 2 + 12*r.Float64()}
			at := 0.0
			for range r.IntN(5) {
				at += 5 + 50*r.Float64()
				p.NodesMM = append(p.NodesMM, at)
				if r.IntN(2) == 0 {
					p.LeavesMM = append(p.LeavesMM, at)
				}
			}
			p.LengthMM, p.Set = at+10, r.IntN(4)
			pieces = append(pieces, p)
		}
		f := In(v, pieces, number.Table{})
		require.NotNil(t, f.Water)
		w := f.Water
		require.False(t, math.IsNaN(w.ML) || w.ML < 0, "seed %d", seed)
		require.LessOrEqual(t, w.ML, v.WidthMM*math.Max(v.WidthMM, v.DepthMM)*w.LevelMM/1000+1e-9)
		for i, p := range pieces {
			require.GreaterOrEqual(t, w.LevelMM, w.Pieces[i].UnderMM, "seed %d", seed)
			for _, leaf := range p.LeavesMM {
				if p.Under == plant.ByNodes && leaf <= w.LevelMM {
					require.NotEmpty(t, f.Trouble, "seed %d", seed)
				}
			}
		}
		require.Len(t, w.Pieces, len(pieces))
	}
}
