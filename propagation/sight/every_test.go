package sight_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/number"
	"clearjar/core/plant"
	"clearjar/core/rootphoto/measure"
	"clearjar/core/rootphoto/place"
	"clearjar/propagation/door"
	"clearjar/propagation/sight"
)

// Every group's photo is looked at, whatever its roots' colour and its kind of piece: it ends well, and what is proposed lies on
// nodes the piece has.
func TestEveryGroupsPhotoIsLookedAt(t *testing.T) {
	t.Parallel()
	ctx, g, _, shown := garden(t, jarPhoto+".jpg")
	_, at := nodes(t)
	for i, group := range plant.Groups() {
		kind := group.Kinds[i%len(group.Kinds)]
		b := door.Brought{ID: id(), Name: fmt.Sprint("Piece ", i), GroupKey: group.Key, Kind: kind, Nodes: 2, Leaves: 1, Since: now.AddDate(0, 0, -30), KnownTo: "day"}
		_, _, err := door.Keep(ctx, g, b)
		require.NoError(t, err, "%s %s", group.Key, kind)
		a := sight.Asking{ID: id(), PhotoID: shown, CuttingID: b.CuttingID(), Nodes: at[:1]}
		s := asked(t, ctx, g, a)
		require.Equal(t, sight.Done, s.State, "%s %s: %s", group.Key, kind, s.Remark)
		require.Contains(t, group.RootColours, s.Seen.Colour)
		require.NotNil(t, s.Seen.Sight, "laid on a board the tag gives the scale")
		for _, r := range s.Seen.Roots {
			require.Equal(t, 1, r.Node)
		}
	}
}

// Every vessel with every medium stands somehow, and lines in it are measured or it is said what is missing.
func TestEveryVesselWithEveryMedium(t *testing.T) {
	sighted := plant.Sight{
		WidthPX: 1500, HeightPX: 2000, Focal35: 26,
		Tag: &plant.TagAt{Payload: "CJ1:X", SymbolMM: 21.7, Corners: []plant.Point{{X: 900, Y: 1100}, {X: 1040, Y: 1100}, {X: 1040, Y: 1240}, {X: 900, Y: 1240}}},
	}
	edged := sighted
	edged.Left, edged.Right = &plant.Stroke{A: plant.Point{X: 300, Y: 900}, B: plant.Point{X: 302, Y: 1400}}, &plant.Stroke{A: plant.Point{X: 850, Y: 900}, B: plant.Point{X: 848, Y: 1400}}
	line := []plant.Point{{X: 560, Y: 1000}, {X: 520, Y: 1100}, {X: 500, Y: 1180}}
	kinds, media := plant.VesselSorts(), plant.Media()
	require.Len(t, kinds, 9)
	for _, sort := range kinds {
		for _, m := range media {
			in := measure.Stood{Kind: sort.Kind, Medium: m.Medium, WidthMM: 80, HeightMM: 100, WallMM: 2}
			shape := in.Vessel().Shape
			_, err := measure.Lines(number.Table{}, sighted, in, [][]plant.Point{line})
			if shape == place.RoundJar || shape == place.RoundCup {
				require.ErrorContains(t, err, "edges", "%s %s", sort.Kind, m.Medium)
			} else {
				require.NoError(t, err, "%s %s", sort.Kind, m.Medium)
			}
			res, err := measure.Lines(number.Table{}, edged, in, [][]plant.Point{line, {}})
			require.NoError(t, err, "%s %s", sort.Kind, m.Medium)
			got := res.Roots[0]
			require.Greater(t, got.LengthMM, 15.0, "%s %s", sort.Kind, m.Medium)
			require.Less(t, got.LengthMM, 60.0, "%s %s", sort.Kind, m.Medium)
			require.LessOrEqual(t, got.LowMM, got.LengthMM)
			require.GreaterOrEqual(t, got.HighMM, got.LengthMM)
			require.Zero(t, res.Roots[1].LengthMM)
		}
	}
}
