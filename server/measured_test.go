package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/rootphoto"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
	"clearjar/store/storetest"
)

// tracedLook is a look with one line of 100 pixels down a photo of 0.1 mm a pixel, and what a browser says of it.
func tracedLook(c conclude.ShelfCutting, says float64) door.NewLook {
	return looking(c, 2, plant.Look{
		RootsCounted: true, Scale: &plant.Scale{B: plant.Point{X: 500}, DistanceMM: 50},
		Roots: []plant.Root{
			{Node: 1, Order: 1, How: plant.Traced, LengthMM: says, LowMM: says, HighMM: says, Path: []plant.Point{{X: 10, Y: 10}, {X: 10, Y: 110}}},
			{Node: 1, Order: 1, How: plant.Typed, LengthMM: 7},
			{Node: 1, Order: 1, How: plant.Typed, LengthMM: 20, With: "eye"},
		},
	})
}

// Lengths of lines are worked out here, whatever the browser says; by another version of the measuring they are
// worked out anew, and the look, the shelf and the verdict go by them.
func TestLengthsAreMeasuredHereAndAnew(t *testing.T) {
	t.Parallel()
	db := storetest.Open(t)
	g := serve(t, db, now)
	pieces, _ := g.pieces(20)
	g.ok("POST", "/api/looks", tracedLook(pieces[0], 1999), nil)
	var preview rootphoto.Result
	look := tracedLook(pieces[0], 0)
	g.ok("POST", "/api/measure", show.Measuring{Scale: look.Seen.Scale, Paths: [][]plant.Point{look.Seen.Roots[0].Path}, Setting: rootphoto.Setting{RoundJar: true}}, &preview)
	roots := g.cutting(pieces[0].ID).Looks[0].Seen.Roots
	// by hand: 100 pixels of 0.1 mm, straight down, where a jar does not widen
	require.InDelta(t, 10, roots[0].LengthMM, 1e-9)
	require.Equal(t, preview.Roots[0], rootphoto.Measured{LengthMM: roots[0].LengthMM, LowMM: roots[0].LowMM, HighMM: roots[0].HighMM}, "as the preview said")
	require.Equal(t, []float64{7, 5, 9}, []float64{roots[1].LengthMM, roots[1].LowMM, roots[1].HighMM}, "a ruler is 2 mm off")
	require.Equal(t, []float64{20, 14, 26}, []float64{roots[2].LengthMM, roots[2].LowMM, roots[2].HighMM}, "an eye three tenths")

	// What a worse version had found is measured anew by this one.
	exec(t, db, `update measured set version = 'older', lengths = '[{"length_mm": 3, "low_mm": 2, "high_mm": 4}]'`)
	exec(t, db, "update conclusion set rules = 'older'")
	require.InDelta(t, 10, g.cutting(pieces[0].ID).Looks[0].Seen.Roots[0].LengthMM, 1e-9)

	// So it is when the grower changes a number of the measuring: the interval goes with it.
	g.ok("POST", "/api/planner-numbers", door.NumberChoice{ID: id(), Key: rootphoto.PointError.Key, Kind: "value", Value: 30}, nil)
	wider := g.cutting(pieces[0].ID).Looks[0].Seen.Roots[0]
	require.InDelta(t, 10, wider.LengthMM, 1e-9)
	require.Less(t, wider.LowMM, roots[0].LowMM)

	// A correction keeps what the first one said, with its length.
	fixed := tracedLook(pieces[0], 0)
	first := g.cutting(pieces[0].ID).Looks[0].ID
	fixed.Replaces = &first
	fixed.Seen.Roots = fixed.Seen.Roots[:1]
	fixed.Seen.Roots[0].Path[1].Y = 60
	g.ok("POST", "/api/looks", fixed, nil)
	page := g.cutting(pieces[0].ID)
	require.InDelta(t, 5, page.Looks[0].LongestMM, 1e-9)
	require.Contains(t, event(page, "look").Was[0], "longest 20 mm")
}

// Lines that cannot be measured are refused, with the field.
func TestLinesWithoutScaleAreRefused(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces, _ := g.pieces(20)
	bare := tracedLook(pieces[0], 10)
	bare.Seen.Scale = nil
	require.Equal(t, "roots[0].path", g.refused(422, "POST", "/api/looks", bare).Fields[0].Field)
	spot := tracedLook(pieces[0], 10)
	spot.Seen.Scale = &plant.Scale{DistanceMM: 50}
	require.Equal(t, "scale", g.refused(422, "POST", "/api/looks", spot).Fields[0].Field)
	require.Empty(t, g.cutting(pieces[0].ID).Looks)
}

// In moss there is no water to look through: the same line has another interval than in a jar.
func TestVesselOfTheDayDecidesTheInterval(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces, _ := g.pieces(20)
	var box propagation.VesselView
	g.ok("POST", "/api/vessels", door.NewVessel{ID: id(), Name: "Box", Place: "Sill", Vessel: plant.Vessel{Kind: "lidded_box", WidthMM: 200, DepthMM: 150, HeightMM: 120, WallMM: 2, FillMM: 60, Holds: 6}}, &box)
	g.ok("POST", "/api/looks", tracedLook(pieces[0], 0), nil)
	inWater := g.cutting(pieces[0].ID).Looks[0].Seen.Roots[0]
	g.ok("POST", "/api/settings", door.Setting{ID: id(), CuttingID: pieces[0].ID, VesselID: box.ID, SetOn: now.AddDate(0, 0, -1), SetNodes: 1}, nil)
	require.Equal(t, inWater, g.cutting(pieces[0].ID).Looks[0].Seen.Roots[0], "a later move changes nothing of an earlier photo")
	later := tracedLook(pieces[0], 0)
	later.ID, later.LookedAt = id(), now
	g.ok("POST", "/api/looks", later, nil)
	inMoss := g.cutting(pieces[0].ID).Looks[1].Seen.Roots[0]
	require.InDelta(t, inWater.LengthMM, inMoss.LengthMM, 1e-9)
	require.Less(t, inMoss.HighMM, inWater.HighMM, "nothing hides how deep it runs but the one view")
}
