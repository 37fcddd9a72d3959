package sight_test

import (
	"bytes"
	"context"
	"image"
	"image/color"
	_ "image/jpeg"
	"image/png"
	"math"
	"os"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/rootphoto/truth"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/photo"
	"clearjar/propagation/sight"
	"clearjar/store"
	"clearjar/store/storetest"
)

var now = time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)

func id() uuid.UUID { return uuid.Must(uuid.NewV7()) }

// garden has one piece in a jar of water, and a photo of it.
func garden(t *testing.T, picture string, tag ...string) (ctx context.Context, g *propagation.Garden, cutting, shown uuid.UUID) {
	t.Helper()
	s := storetest.Open(t)
	ctx = store.As(t.Context(), store.First)
	g, err := propagation.New(s, func() time.Time { return now }, time.UTC).For(ctx)
	require.NoError(t, err)
	b := door.Brought{
		ID: id(), Name: "Climber", GroupKey: plant.Groups()[0].Key, Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: now.AddDate(0, 0, -30), KnownTo: "day", SetNodes: 1,
		Vessel: &door.NewVessel{ID: id(), Name: "Jar", Place: "Sill", Vessel: plant.Vessel{Kind: plant.Jar, Medium: plant.Water, WidthMM: 80, DepthMM: 80, HeightMM: 122, WallMM: 2.5, FillMM: 90, Holds: 2}},
	}
	if len(tag) > 0 {
		b.Vessel.Tag = tag[0]
	}
	_, _, err = door.Keep(ctx, g, b)
	require.NoError(t, err)
	raw, err := os.ReadFile(picture)
	require.NoError(t, err)
	shown = id()
	_, err = photo.Keep(ctx, g, shown, raw)
	require.NoError(t, err)
	return ctx, g, b.CuttingID(), shown
}

const jarPhoto = "../../demo/photos/demo_aroid_day24"

func nodes(t *testing.T) (*truth.Photo, []plant.NodeAt) {
	t.Helper()
	raw, err := os.ReadFile(jarPhoto + ".json")
	require.NoError(t, err)
	p, err := truth.Read(raw)
	require.NoError(t, err)
	out := []plant.NodeAt{}
	for _, n := range p.Nodes {
		out = append(out, plant.NodeAt{Node: n.Index + 1, At: plant.Point{X: n.Apparent[0], Y: n.Apparent[1]}})
	}
	return p, out
}

func asked(t *testing.T, ctx context.Context, g *propagation.Garden, a sight.Asking) sight.Sighting {
	t.Helper()
	require.NoError(t, sight.Ask(ctx, g, a))
	require.NoError(t, sight.Look(ctx, g, a.ID))
	s, err := sight.Of(ctx, g, a.ID)
	require.NoError(t, err)
	return s
}

// The tag is read, the roots are proposed with lengths; accepted they are kept as a look whose lengths follow from the sight.
func TestAPhotoIsMeasuredAndKept(t *testing.T) {
	t.Parallel()
	ctx, g, cutting, shown := garden(t, jarPhoto+".jpg")
	first := asked(t, ctx, g, sight.Asking{ID: id(), PhotoID: shown, CuttingID: cutting})
	require.Equal(t, sight.Done, first.State)
	require.Len(t, first.Seen.Tags, 1)
	require.False(t, first.Seen.Tags[0].Mine)
	require.Empty(t, first.Seen.Roots, "no nodes, no roots")
	require.Nil(t, first.Seen.Sight)

	known, at := nodes(t)
	a := sight.Asking{ID: id(), PhotoID: shown, CuttingID: cutting, Nodes: at}
	s := asked(t, ctx, g, a)
	require.Equal(t, sight.Done, s.State, s.Remark)
	require.NotEmpty(t, s.Seen.Roots)
	require.NotNil(t, s.Seen.Sight.Tag)
	require.NotNil(t, s.Seen.Sight.Left)
	require.Equal(t, "clear", s.Seen.Water)
	for _, r := range s.Seen.Roots {
		require.Greater(t, r.Length.LengthMM, 3.0)
		require.LessOrEqual(t, r.Length.LowMM, r.Length.HighMM)
	}
	// The same question again is the same.
	require.NoError(t, sight.Ask(ctx, g, a))

	tip := known.Roots[0]
	last := tip.ApparentPX[len(tip.ApparentPX)-1]
	require.NotNil(t, last)
	r, err := sight.Follow(ctx, g, a.ID, sight.Tap{Tip: plant.Point{X: last[0], Y: last[1]}, Node: tip.Node + 1})
	require.NoError(t, err)
	require.Equal(t, tip.Node+1, r.Node)
	require.Greater(t, len(r.Path), 5)

	look := door.NewLook{ID: id(), CuttingID: cutting, LookedAt: now, PhotoID: &shown, Seen: plant.Look{
		RootsCounted: true, Sight: s.Seen.Sight,
		Roots: []plant.Root{{Node: r.Node, Order: 1, How: plant.Traced, Path: r.Path, Colour: r.Colour}},
	}}
	_, _, err = door.Keep(ctx, g, look)
	require.NoError(t, err)
	life, err := conclude.OneLife(ctx, g, cutting)
	require.NoError(t, err)
	require.Len(t, life.LookRows, 1)
	require.InEpsilon(t, r.Length.LengthMM, life.LookRows[0].Seen.Roots[0].LengthMM, 0.02, "what was shown is what is kept")
	require.NotNil(t, life.LookRows[0].Seen.Sight)
	// A later photo of it: the nodes are carried over, and are no more than proposed.
	raw, err := os.ReadFile("../../demo/photos/demo_aroid_day38.jpg")
	require.NoError(t, err)
	later := id()
	_, err = photo.Keep(ctx, g, later, raw)
	require.NoError(t, err)
	next := asked(t, ctx, g, sight.Asking{ID: id(), PhotoID: later, CuttingID: cutting})
	require.Len(t, next.Seen.Carried, 2)
	// The photo before is laid over this one: its tag lies on the tag.
	was := next.Seen.Before
	require.NotNil(t, was)
	require.True(t, was.Aligned)
	require.Equal(t, shown, was.PhotoID)
	for i, c := range s.Seen.Sight.Tag.Corners {
		x := was.Matrix[0]*c.X + was.Matrix[2]*c.Y + was.Matrix[4]
		y := was.Matrix[1]*c.X + was.Matrix[3]*c.Y + was.Matrix[5]
		require.InDelta(t, next.Seen.Tags[0].Corners[i].X, x, 2)
		require.InDelta(t, next.Seen.Tags[0].Corners[i].Y, y, 2)
	}
	require.Nil(t, s.Seen.Before, "there was none before")
	require.NotNil(t, next.Seen.CarriedFrom)
	require.Nil(t, next.Seen.Sight)
	require.NoError(t, sight.Clear(ctx, g))
	_, err = sight.Of(ctx, g, a.ID)
	require.NoError(t, err, "what is new stays")
}

// A tag that stands beside the vessel the cutting is in is its own; the same tag is not given to another vessel.
func TestATagOfItsVessel(t *testing.T) {
	t.Parallel()
	ctx, g, cutting, shown := garden(t, jarPhoto+".jpg", "7Q4K")
	s := asked(t, ctx, g, sight.Asking{ID: id(), PhotoID: shown, CuttingID: cutting})
	require.True(t, s.Seen.Tags[0].Mine)
	require.Equal(t, "Jar", s.Seen.Tags[0].Whose)
	for tag, why := range map[string]string{"7Q4K": "on something else", "NO": "has 3 to 8", "O0O0O": "has 3 to 8"} {
		_, _, err := door.Keep(ctx, g, door.NewVessel{ID: id(), Name: "Another", Place: "Sill", Tag: tag, Vessel: plant.Vessel{Kind: plant.Jar, Medium: plant.Water, WidthMM: 80, DepthMM: 80, HeightMM: 122, WallMM: 2.5, FillMM: 90, Holds: 2}})
		require.ErrorContains(t, err, why)
	}
}

// A photo is measured in what the piece stood in when it was taken, not in what it stands in now; and what is shown before the look
// is kept is what is kept.
func TestAPhotoFromAnEarlierVessel(t *testing.T) {
	t.Parallel()
	ctx, g, cutting, shown := garden(t, jarPhoto+".jpg")
	_, at := nodes(t)
	a := sight.Asking{ID: id(), PhotoID: shown, CuttingID: cutting, Nodes: at}
	before := asked(t, ctx, g, a)
	require.NotNil(t, before.Seen.Sight.Left, "the jar's edges were found")
	box := door.NewVessel{ID: id(), Name: "Box", Place: "Sill", Vessel: plant.Vessel{Kind: plant.LiddedBox, Medium: plant.Moss, WidthMM: 104, DepthMM: 62, HeightMM: 92, WallMM: 1.2, FillMM: 80, Holds: 2}}
	_, _, err := door.Keep(ctx, g, box)
	require.NoError(t, err)
	_, _, err = door.Keep(ctx, g, door.Setting{ID: id(), CuttingID: cutting, VesselID: box.ID, SetOn: now.AddDate(0, 0, -1), SetNodes: 1})
	require.NoError(t, err)
	a.ID = id()
	after := asked(t, ctx, g, a) // the photo is of the spring
	require.Equal(t, before.Seen.Sight, after.Seen.Sight)
	lines := [][]plant.Point{before.Seen.Roots[0].Path}
	life, err := conclude.OneLife(ctx, g, cutting)
	require.NoError(t, err)
	seen := plant.Look{Sight: after.Seen.Sight}
	res, err := conclude.MeasureSeen(life.Numbers, seen, lines, conclude.StoodAt(life.SetRows, now.AddDate(0, -2, 0)))
	require.NoError(t, err)
	require.InEpsilon(t, before.Seen.Roots[0].Length.LengthMM, res.Roots[0].LengthMM, 0.02)
}

func TestWhatCannotBeAsked(t *testing.T) {
	t.Parallel()
	ctx, g, cutting, shown := garden(t, jarPhoto+".jpg")
	good := sight.Asking{ID: id(), PhotoID: shown, CuttingID: cutting}
	for name, change := range map[string]func(*sight.Asking){
		"no version 7":    func(a *sight.Asking) { a.ID = uuid.New() },
		"unknown photo":   func(a *sight.Asking) { a.PhotoID = id() },
		"unknown cutting": func(a *sight.Asking) { a.CuttingID = id() },
		"one edge":        func(a *sight.Asking) { a.Left = &plant.Stroke{} },
		"a third node":    func(a *sight.Asking) { a.Nodes = []plant.NodeAt{{Node: 3}} },
	} {
		a := good
		a.ID = id()
		change(&a)
		require.Error(t, sight.Ask(ctx, g, a), name)
	}
	_, err := sight.Of(ctx, g, id())
	require.Error(t, err)
	_, err = sight.Follow(ctx, g, id(), sight.Tap{})
	require.Error(t, err)
	// Nodes that were not marked: nothing to follow to.
	require.NoError(t, sight.Ask(ctx, g, good))
	require.NoError(t, sight.Look(ctx, g, good.ID))
	_, err = sight.Follow(ctx, g, good.ID, sight.Tap{Tip: plant.Point{X: 400, Y: 400}})
	require.ErrorContains(t, err, "nodes must be marked")
}

// What was stopped stays so, and is not looked at.
func TestItCanBeStopped(t *testing.T) {
	t.Parallel()
	ctx, g, cutting, shown := garden(t, jarPhoto+".jpg")
	a := sight.Asking{ID: id(), PhotoID: shown, CuttingID: cutting}
	require.NoError(t, sight.Ask(ctx, g, a))
	s, err := sight.Stop(ctx, g, a.ID)
	require.NoError(t, err)
	require.Equal(t, sight.Stopped, s.State)
	require.NoError(t, sight.Look(ctx, g, a.ID))
	s, err = sight.Of(ctx, g, a.ID)
	require.NoError(t, err)
	require.Equal(t, sight.Stopped, s.State)
	require.Nil(t, s.Seen)
}

// Another household sees nothing of it, and does not follow roots in its photos, though the process remembers them.
func TestAnotherHouseholdSeesNothing(t *testing.T) {
	t.Parallel()
	ctx, g, cutting, shown := garden(t, jarPhoto+".jpg")
	_, at := nodes(t)
	a := sight.Asking{ID: id(), PhotoID: shown, CuttingID: cutting, Nodes: at}
	require.Equal(t, sight.Done, asked(t, ctx, g, a).State)
	other := id()
	theirs := store.As(t.Context(), other)
	_, err := g.Store.Pool.Exec(theirs, "insert into household (id) values ($1)", other)
	require.NoError(t, err)
	h, err := g.For(theirs)
	require.NoError(t, err)
	_, err = sight.Of(theirs, h, a.ID)
	require.Error(t, err)
	_, err = sight.Follow(theirs, h, a.ID, sight.Tap{Tip: at[0].At})
	require.Error(t, err)
}

// A photo with nothing in it: no tag, no scale, and words on what to do. The photo is kept.
func TestAPhotoOfNothing(t *testing.T) {
	t.Parallel()
	ctx, g, cutting, _ := garden(t, jarPhoto+".jpg")
	img := image.NewGray(image.Rect(0, 0, 640, 480))
	for i := range img.Pix {
		img.Pix[i] = 200
	}
	img.SetGray(3, 3, color.Gray{Y: 1})
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, img))
	shown := id()
	_, err := photo.Keep(ctx, g, shown, raw.Bytes())
	require.NoError(t, err)
	s := asked(t, ctx, g, sight.Asking{ID: id(), PhotoID: shown, CuttingID: cutting, Nodes: []plant.NodeAt{{Node: 1, At: plant.Point{X: 300, Y: 200}}}})
	require.Equal(t, sight.Done, s.State)
	require.Empty(t, s.Seen.Tags)
	require.Empty(t, s.Seen.Roots)
	require.Nil(t, s.Seen.Sight)
	require.NotEmpty(t, s.Seen.Says)
	require.Contains(t, s.Seen.Says[0], "scale")
}

// Two cuttings in one jar, one photo: the photo tells who is in it, and roots that run to the marked node of one are not
// proposed for the other. Here the two nodes of one stem stand for two pieces.
func TestTwoCuttingsInOnePhoto(t *testing.T) {
	t.Parallel()
	ctx, g, cutting, shown := garden(t, jarPhoto+".jpg", "7Q4K")
	_, at := nodes(t)
	b := door.Brought{
		ID: id(), Name: "Creeper", GroupKey: plant.Groups()[0].Key, Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: now.AddDate(0, 0, -30), KnownTo: "day", SetNodes: 1,
		Vessel: &door.NewVessel{ID: id(), Name: "Other", Place: "Sill", Vessel: plant.Vessel{Kind: plant.Jar, Medium: plant.Water, WidthMM: 80, DepthMM: 80, HeightMM: 122, WallMM: 2.5, FillMM: 90, Holds: 2}},
	}
	_, _, err := door.Keep(ctx, g, b)
	require.NoError(t, err)
	second := b.CuttingID()

	in, err := sight.In(ctx, g, shown)
	require.NoError(t, err)
	require.Len(t, in.Cuttings, 1, "the other stands elsewhere")
	require.Equal(t, cutting, in.Cuttings[0].ID)
	require.Equal(t, "Jar", in.Cuttings[0].Vessel)
	require.False(t, in.Cuttings[0].Looked)

	life, err := conclude.OneLife(ctx, g, cutting)
	require.NoError(t, err)
	_, _, err = door.Keep(ctx, g, door.Setting{ID: id(), CuttingID: second, VesselID: life.VesselID(), SetOn: now.AddDate(0, 0, -1), SetNodes: 1})
	require.NoError(t, err)
	in, err = sight.In(ctx, g, shown)
	require.NoError(t, err)
	require.Len(t, in.Cuttings, 2)
	require.Empty(t, in.Says)

	upper := []plant.NodeAt{{Node: 1, At: at[1].At}}
	alone := asked(t, ctx, g, sight.Asking{ID: id(), PhotoID: shown, CuttingID: second, Nodes: upper})
	require.Len(t, alone.Seen.Others, 1)
	require.Empty(t, alone.Seen.Others[0].Nodes, "nobody marked it yet")

	first := asked(t, ctx, g, sight.Asking{ID: id(), PhotoID: shown, CuttingID: cutting, Nodes: at[:1]})
	_, _, err = door.Keep(ctx, g, door.NewLook{ID: id(), CuttingID: cutting, LookedAt: now, PhotoID: &shown, Seen: plant.Look{
		RootsCounted: true, Sight: first.Seen.Sight,
		Roots: []plant.Root{{Node: 1, Order: 1, How: plant.Traced, Path: first.Seen.Roots[0].Path}},
	}})
	require.NoError(t, err)
	beside := asked(t, ctx, g, sight.Asking{ID: id(), PhotoID: shown, CuttingID: second, Nodes: upper})
	require.True(t, beside.Seen.Others[0].Looked)
	require.Len(t, beside.Seen.Others[0].Nodes, 1)
	require.Less(t, len(beside.Seen.Roots), len(alone.Seen.Roots), "roots of the other are not proposed again")
	for _, r := range beside.Seen.Roots {
		from := func(p plant.Point) float64 { return math.Hypot(r.Path[0].X-p.X, r.Path[0].Y-p.Y) }
		require.Less(t, from(at[1].At), from(at[0].At))
	}
	in, err = sight.In(ctx, g, shown)
	require.NoError(t, err)
	for _, c := range in.Cuttings {
		require.Equal(t, c.ID == cutting, c.Looked)
	}
	_, err = sight.In(ctx, g, id())
	require.Error(t, err)

	// In another garden the same tag names nothing: it is said, and nothing is guessed.
	ctx2, g2, _, strange := garden(t, jarPhoto+".jpg")
	in, err = sight.In(ctx2, g2, strange)
	require.NoError(t, err)
	require.Len(t, in.Tags, 1)
	require.Empty(t, in.Cuttings)
	require.Contains(t, in.Says[0], "another household")
}

// A photo that lies on its side is turned by hand: it is measured as it is shown. Once a look names it, it stays.
func TestAPhotoTurnedByHand(t *testing.T) {
	t.Parallel()
	ctx, g, cutting, shown := garden(t, jarPhoto+".jpg")
	upright, err := sight.In(ctx, g, shown)
	require.NoError(t, err)
	tall := [2]int{upright.Photo.WidthPX, upright.Photo.HeightPX}
	turned, err := photo.Turn(ctx, g, shown, 1)
	require.NoError(t, err)
	require.Equal(t, [2]int{tall[1], tall[0]}, [2]int{turned.WidthPX, turned.HeightPX})
	require.NotEqual(t, upright.Photo.Turn, turned.Turn)
	lying, err := sight.In(ctx, g, shown)
	require.NoError(t, err)
	for i, c := range upright.Tags[0].Corners {
		// Turned a quarter to the right: x is what was left below, y what was x.
		require.InDelta(t, float64(tall[1])-c.Y, lying.Tags[0].Corners[i].X, 1.5)
		require.InDelta(t, c.X, lying.Tags[0].Corners[i].Y, 1.5)
	}
	view, err := photo.View(ctx, g, shown, 320)
	require.NoError(t, err)
	cfg, _, err := image.DecodeConfig(bytes.NewReader(view))
	require.NoError(t, err)
	require.Greater(t, cfg.Width, cfg.Height)
	_, err = photo.Turn(ctx, g, shown, 3)
	require.NoError(t, err)
	back, err := sight.In(ctx, g, shown)
	require.NoError(t, err)
	require.Equal(t, upright, back)

	_, _, err = door.Keep(ctx, g, door.NewLook{ID: id(), CuttingID: cutting, LookedAt: now, PhotoID: &shown, Seen: plant.Look{RootsCounted: true}})
	require.NoError(t, err)
	_, err = photo.Turn(ctx, g, shown, 1)
	require.ErrorContains(t, err, "Nothing was turned")
	_, err = photo.Turn(ctx, g, id(), 1)
	require.Error(t, err)
}
