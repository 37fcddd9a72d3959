package server_test

import (
	"fmt"
	"math/rand/v2"
	"net/http"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/care"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
)

func (g grower) round() show.Round {
	var r show.Round
	g.ok("GET", "/api/round", nil, &r)
	return r
}

func (g grower) stop(vessel uuid.UUID) show.Stop {
	for _, s := range g.round().Stops {
		if s.VesselID == vessel {
			return s
		}
	}
	require.Fail(g.t, "not on the round")
	return show.Stop{}
}

// inJar is a cutting that has stood in a jar for 20 days.
func (g grower) inJar() (conclude.ShelfCutting, propagation.VesselView) {
	c := g.cut(g.stem(g.mother(), 6))[0]
	jar := g.jar(3)
	g.ok("POST", "/api/settings", setting(c, jar), nil)
	return c, jar
}

func visit(vessel uuid.UUID, at time.Time, acts ...plant.Act) door.Care {
	return door.Care{ID: id(), VesselID: vessel, At: at, Acts: append([]plant.Act{}, acts...), Seen: []plant.Sign{}}
}

func act(s show.Stop, a plant.Act) *care.CareTask {
	for i := range s.Tasks {
		if s.Tasks[i].Act == a {
			return &s.Tasks[i]
		}
	}
	return nil
}

func TestWhatIsDueIsDoneOnce(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	c, jar := g.inJar()
	stop := g.stop(jar.ID)
	require.True(t, act(stop, plant.ChangeWater).Late, "20 days, and the school says 14 at most")
	require.Contains(t, act(stop, plant.ChangeWater).Why, "20 days ago")

	// Two phones on one round: both visits are kept, nothing counts twice, and taking one back leaves the other.
	a, b := visit(jar.ID, now, plant.ChangeWater), visit(jar.ID, now.Add(time.Minute), plant.ChangeWater)
	for range 2 {
		g.ok("POST", "/api/care", a, nil)
		g.ok("POST", "/api/care", b, nil)
	}
	stop = g.stop(jar.ID)
	require.Empty(t, stop.Tasks)
	require.Len(t, stop.Visits, 2)
	g.withdraw("care", a.ID)
	require.Empty(t, g.stop(jar.ID).Tasks)
	g.withdraw("care", b.ID)
	require.NotNil(t, act(g.stop(jar.ID), plant.ChangeWater))

	// A school changed half way: what is due follows it, for all or for one.
	g.ok("POST", "/api/care", visit(jar.ID, now.AddDate(0, 0, -3), plant.ChangeWater), nil)
	require.Nil(t, act(g.stop(jar.ID), plant.ChangeWater))
	g.ok("POST", "/api/care-schools", door.CareSchool{ID: id(), About: care.OfWater, School: "every_2"}, nil)
	require.NotNil(t, act(g.stop(jar.ID), plant.ChangeWater))
	g.ok("POST", "/api/care-schools", door.CareSchool{ID: id(), VesselID: &jar.ID, About: care.OfWater, School: "top_up"}, nil)
	require.Nil(t, act(g.stop(jar.ID), plant.ChangeWater))
	g.ok("POST", "/api/care-schools", door.CareSchool{ID: id(), VesselID: &jar.ID, About: care.OfWater, School: ""}, nil)
	require.NotNil(t, act(g.stop(jar.ID), plant.ChangeWater))
	require.Equal(t, "school", g.refused(http.StatusUnprocessableEntity, "POST", "/api/care-schools", door.CareSchool{ID: id(), About: care.OfAir, School: "every_7_14"}).Fields[0].Field)

	// Put off: it stays due, and says that it was put off.
	off := door.Care{ID: id(), VesselID: jar.ID, At: now, Acts: []plant.Act{}, Seen: []plant.Sign{}, PutOff: "no rested water"}
	g.ok("POST", "/api/care", off, nil)
	stop = g.stop(jar.ID)
	require.True(t, stop.PutOff)
	require.NotNil(t, act(stop, plant.ChangeWater))

	// What is seen shows on the vessel until something is done about it.
	g.ok("POST", "/api/care", visit(jar.ID, now.AddDate(0, 0, -2), plant.ChangeWater), nil)
	dirty := visit(jar.ID, now.AddDate(0, 0, -1))
	dirty.Seen = []plant.Sign{plant.Cloudy}
	g.ok("POST", "/api/care", dirty, nil)
	require.Equal(t, []plant.Sign{plant.Cloudy}, g.stop(jar.ID).Seen)
	require.True(t, act(g.stop(jar.ID), plant.ChangeWater).Urgent)

	// Potted, nothing stands in it and nothing is due.
	g.ok("POST", "/api/pottings", door.Potting{ID: id(), CuttingID: c.ID, Place: "Sill", PottedOn: now, Pot: smallPot}, nil)
	stop = g.stop(jar.ID)
	require.Empty(t, stop.Tasks)
	require.Nil(t, stop.Next)
}

func TestCareThatCannotBeIsRefused(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	_, jar := g.inJar()
	refuse := func(field string, c door.Care) {
		t.Helper()
		c.ID = id()
		require.Equal(t, field, g.refused(http.StatusUnprocessableEntity, "POST", "/api/care", c).Fields[0].Field)
	}
	refuse("at", visit(jar.ID, now.AddDate(0, 0, -30), plant.ChangeWater)) // before it was put to use
	refuse("at", visit(jar.ID, now.AddDate(0, 0, 3), plant.ChangeWater))
	refuse("acts", visit(jar.ID, now, plant.AirIt))
	refuse("acts", visit(jar.ID, now))
	wet := visit(jar.ID, now)
	wet.Seen = []plant.Sign{plant.Mould}
	refuse("seen", wet)
	vented := visit(jar.ID, now)
	vented.Cover = plant.CoverVented
	refuse("cover", vented)
	g.refused(http.StatusNotFound, "POST", "/api/care", visit(id(), now, plant.ChangeWater))
	require.Empty(t, g.stop(jar.ID).Visits, "nothing of it was kept")
}

func TestVesselsAreMovedEmptiedAndBroken(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	c, jar := g.inJar()
	var moved propagation.VesselView
	move := door.VesselMove{ID: id(), VesselID: jar.ID, Place: "Cabinet", MovedOn: now}
	g.ok("POST", "/api/vessel-moves", move, &moved)
	require.NotEqual(t, jar.PlaceID, moved.PlaceID)
	require.Equal(t, "Cabinet", g.cutting(c.ID).Cutting.PlaceName, "what stands in it goes with it")

	// Carried off in the middle of a round: what was noted on its card counts all the same.
	g.ok("POST", "/api/care", visit(jar.ID, now, plant.ChangeWater), nil)
	require.Empty(t, g.stop(jar.ID).Tasks)

	// A correction of where it stands is of where it stands now.
	words := door.VesselWords{Name: "Jar", Place: "Sill", Vessel: jar.Vessel}
	g.ok("PUT", "/api/vessels/"+jar.ID.String(), door.Correction[door.VesselWords]{ID: id(), Becomes: words}, &moved)
	require.Equal(t, jar.PlaceID, moved.PlaceID)
	g.withdraw("moved", move.ID)
	require.Equal(t, "Sill", g.cutting(c.ID).Cutting.PlaceName)

	end := door.VesselEnd{ID: id(), VesselID: jar.ID, EndedOn: now, How: "emptied"}
	require.Contains(t, g.refused(http.StatusConflict, "POST", "/api/vessel-ends", end).Detail, c.Code)
	other := g.jar(2)
	g.ok("POST", "/api/settings", door.Setting{ID: id(), CuttingID: c.ID, VesselID: other.ID, SetOn: now, SetNodes: 2}, nil)
	end.ID = id()
	g.ok("POST", "/api/vessel-ends", end, nil)
	var shelf show.Shelf
	g.ok("GET", "/api/shelf", nil, &shelf)
	require.Len(t, shelf.Vessels, 1)
	require.Len(t, g.round().Stops, 1)
	history := g.cutting(c.ID).History
	require.Contains(t, fmt.Sprint(history), "Set in Jar", "what stood in it still says so")

	// A round noted before it was emptied may still come; one noted after is refused, and says why.
	g.ok("POST", "/api/care", visit(jar.ID, now.AddDate(0, 0, -1), plant.TopUp), nil)
	require.Contains(t, g.refused(http.StatusConflict, "POST", "/api/care", visit(jar.ID, now.AddDate(0, 0, 1), plant.TopUp)).Detail, "was emptied")
	require.Contains(t, g.refused(http.StatusConflict, "POST", "/api/settings", door.Setting{ID: id(), CuttingID: c.ID, VesselID: jar.ID, SetOn: now, SetNodes: 2}).Detail, "was emptied")
	var page show.VesselPage
	g.ok("GET", "/api/vessels/"+jar.ID.String(), nil, &page)
	require.Nil(t, page.Stop)
	require.Equal(t, "emptied", page.History[0].Kind)
	g.withdraw("emptied", end.ID)
	g.ok("GET", "/api/vessels/"+jar.ID.String(), nil, &page)
	require.NotNil(t, page.Stop)
}

// The round goes from shelf to shelf in the order that was noted last.
func TestShelvesAreWalkedInAnyOrder(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	names := []string{"Sill", "Cabinet", "Bath"}
	for _, name := range names {
		g.ok("POST", "/api/vessels", door.NewVessel{ID: id(), Name: "Jar of " + name, Place: name, Vessel: plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 120, WallMM: 2, FillMM: 70, Holds: 2}}, nil)
	}
	walked := func() (at []uuid.UUID, vessels []string) {
		var shelf show.Shelf
		g.ok("GET", "/api/shelf", nil, &shelf)
		called := map[uuid.UUID]string{}
		for _, v := range shelf.Vessels {
			called[v.ID] = v.Name
		}
		for _, p := range shelf.Places {
			at = append(at, p.ID)
		}
		for _, s := range g.round().Stops {
			vessels = append(vessels, called[s.VesselID])
		}
		return at, vessels
	}
	places, _ := walked()
	turned := []uuid.UUID{places[2], places[0], places[1]}
	g.ok("POST", "/api/place-orders", door.PlaceOrder{ID: id(), Places: turned}, nil)
	now, vessels := walked()
	require.Equal(t, turned, now)
	require.Equal(t, []string{"Jar of Bath", "Jar of Sill", "Jar of Cabinet"}, vessels)
	g.refused(http.StatusConflict, "POST", "/api/place-orders", door.PlaceOrder{ID: id(), Places: turned[:2]})
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/place-orders", door.PlaceOrder{ID: id(), Places: []uuid.UUID{turned[0], turned[0], turned[1]}})
	g.refused(http.StatusNotFound, "POST", "/api/place-orders", door.PlaceOrder{ID: id(), Places: []uuid.UUID{turned[0], turned[1], id()}})
	now, _ = walked()
	require.Equal(t, turned, now)
}

// Every kind of vessel with every medium that stays in it, its parts and its cover come in and are given back; a
// medium that runs out of it is refused.
func TestEveryVesselWithEveryMediumComesIn(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	for _, sort := range plant.VesselSorts() {
		for _, m := range plant.Media() {
			for _, w := range sort.Covers {
				v := door.NewVessel{ID: id(), Name: sort.Label, Place: "Sill", Cover: w.State, Vessel: sort.Usual}
				v.Medium, v.Parts = m.Medium, []plant.MediumPart{{Of: "moss", Parts: 2}, {Of: "fine bark", Parts: 1}}
				if !sort.Takes(m.Medium) {
					require.Equal(t, "medium", g.refused(http.StatusUnprocessableEntity, "POST", "/api/vessels", v).Fields[0].Field)
					continue
				}
				var made propagation.VesselView
				g.ok("POST", "/api/vessels", v, &made)
				require.Equal(t, w.State, made.Cover)
				require.Equal(t, v.Parts, made.Parts)
				require.Equal(t, m.Medium, made.Medium)
				require.Empty(t, g.stop(made.ID).Tasks, "nothing stands in it")
			}
		}
	}
	bad := door.NewVessel{ID: id(), Name: "Pot", Place: "Sill", Cover: plant.CoverOn, Vessel: plant.Vessel{Kind: plant.OpenPot, WidthMM: 90, DepthMM: 90, HeightMM: 90, WallMM: 2, FillMM: 70, Holds: 1}}
	require.Equal(t, "cover", g.refused(http.StatusUnprocessableEntity, "POST", "/api/vessels", bad).Fields[0].Field)
}

// What the database sums up of visits is what the core makes of the same visits, whatever was noted and taken back.
func TestDueFollowsFromTheVisitsWhateverTheirOrder(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	_, jar := g.inJar()
	box := door.NewVessel{ID: id(), Name: "Box", Place: "Sill", Vessel: plant.Vessel{Kind: plant.LiddedBox, WidthMM: 180, DepthMM: 110, HeightMM: 110, WallMM: 1, FillMM: 45, Holds: 9}}
	g.ok("POST", "/api/vessels", box, nil)
	for _, c := range g.cut(g.stem(g.mother(), 6)) {
		g.ok("POST", "/api/settings", door.Setting{ID: id(), CuttingID: c.ID, VesselID: box.ID, SetOn: c.CutOn, SetNodes: 1}, nil)
	}
	group, _ := plant.GroupNamed("thick_climber")
	since := now.AddDate(0, 0, -20)
	for seed := range uint64(12) {
		r := rand.New(rand.NewPCG(seed, 9))
		for _, v := range []struct {
			id     uuid.UUID
			kind   plant.VesselKind
			medium plant.Medium
		}{{jar.ID, plant.Jar, plant.Water}, {box.ID, plant.LiddedBox, plant.Moss}} {
			sort, _ := v.kind.Sort()
			visits, ids := []care.Visit{}, []uuid.UUID{}
			for range 1 + r.IntN(6) {
				fact := visit(v.id, since.Add(time.Duration(r.IntN(20*24))*time.Hour))
				for _, row := range plant.Acts() {
					if row.Act != plant.SetCover && r.IntN(4) == 0 && row.In(v.medium.Row(), true) && v.kind != plant.Jar || row.Act == plant.ChangeWater && v.kind == plant.Jar && r.IntN(3) == 0 {
						fact.Acts = append(fact.Acts, row.Act)
					}
				}
				for _, row := range plant.Signs() {
					if r.IntN(6) == 0 && row.In(v.medium.Row()) {
						fact.Seen = append(fact.Seen, row.Sign)
					}
				}
				if r.IntN(4) == 0 {
					fact.Cover = sort.Covers[r.IntN(len(sort.Covers))].State
				}
				fact.Well = true
				g.ok("POST", "/api/care", fact, nil)
				if r.IntN(4) == 0 {
					g.withdraw("care", fact.ID)
					continue
				}
				ids = append(ids, fact.ID)
				visits = append(visits, care.Visit{At: fact.At, Acts: fact.Acts, Seen: fact.Seen, Cover: fact.Cover})
			}
			piece := care.Piece{Code: "x", Group: group, Kind: plant.StemCutting, CutOn: since, SetOn: since}
			want := care.On(care.Vessel{Kind: v.kind, Medium: v.medium, Since: since, Record: care.Sum(visits, now), Pieces: []care.Piece{piece}}, now, care.Where{Schools: care.Usual()})
			got := g.stop(v.id)
			require.Len(t, got.Tasks, len(want.Tasks), "seed %d: %+v, %+v", seed, got.Tasks, want.Tasks)
			for i := range want.Tasks {
				require.Equal(t, want.Tasks[i].Act, got.Tasks[i].Act)
				require.Equal(t, want.Tasks[i].Cover, got.Tasks[i].Cover)
				require.True(t, want.Tasks[i].Since.Equal(got.Tasks[i].Since))
			}
			require.Equal(t, want.Cover, got.Cover)
			for _, one := range ids {
				g.withdraw("care", one)
			}
		}
	}
}

func TestTwoPhonesAtOnceKeepBothRounds(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	_, jar := g.inJar()
	var wait sync.WaitGroup
	for range 6 {
		wait.Go(func() { g.ok("POST", "/api/care", visit(jar.ID, now, plant.ChangeWater), nil) })
	}
	wait.Wait()
	stop := g.stop(jar.ID)
	require.Len(t, stop.Visits, 6)
	require.Empty(t, stop.Tasks)
}
