package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
	"clearjar/store/storetest"
)

// cuttingPage is one piece's page.
func (g grower) cuttingPage(c conclude.ShelfCutting) (p show.CuttingPage) {
	g.ok("GET", "/api/cuttings/"+c.ID.String(), nil, &p)
	return p
}

// What is noted of roots shifts what is expected of the next pieces of the group, from the next day on; the page says so.
func TestRecordsShiftTheModelFromTheNextDayOn(t *testing.T) {
	t.Parallel()
	db := storetest.Open(t)
	g := serve(t, db, now)
	pieces, _ := g.pieces(60)
	before := g.cuttingPage(pieces[0])
	first := func(p show.CuttingPage) readiness.Rest { return p.Foreseen.Rests[0] }
	require.Equal(t, "no records", first(before).Own)
	for _, c := range pieces {
		g.ok("POST", "/api/looks", looking(c, 20, plant.Look{RootsCounted: true, Stem: "firm"}), nil)
		g.ok("POST", "/api/looks", looking(c, 2, rooted(7, 5)), nil)
	}
	require.Equal(t, "no records", first(g.cuttingPage(pieces[0])).Own, "on the same day nothing moves")
	later := serve(t, db, now.AddDate(0, 0, 1))
	after := first(later.cuttingPage(pieces[0]))
	require.Contains(t, after.Own, "pieces")
	require.NotEqual(t, after.Start, after.Used, "late pieces make the next ones later")
	var group show.GroupPage
	later.ok("GET", "/api/groups/"+pieces[0].GroupKey, nil, &group)
	require.NotEmpty(t, group.Media)
	later.refused(http.StatusNotFound, "GET", "/api/groups/no_such_group", nil)
}

// A forecast that came is held against the look that saw it, on the page of its group.
func TestForecastsAreHeldAgainstWhatCame(t *testing.T) {
	t.Parallel()
	db := storetest.Open(t)
	g := serve(t, db, now)
	pieces, _ := g.pieces(20)
	g.ok("POST", "/api/looks", looking(pieces[0], 0, rooted(6, 5)), nil)
	g.ok("POST", "/api/schools", door.SchoolChoice{ID: id(), CuttingID: pieces[0].ID, School: plant.EarlyRoots}, nil)
	g.shelf()
	later := serve(t, db, now.AddDate(0, 0, 9))
	seen := looking(pieces[0], -9, rooted(16, 12))
	later.ok("POST", "/api/looks", seen, nil)
	var group show.GroupPage
	later.ok("GET", "/api/groups/"+pieces[0].GroupKey, nil, &group)
	came := 0
	for _, f := range group.Issued {
		if f.ID == pieces[0].ID && f.Came != nil {
			came++
			require.Equal(t, 9, plant.Days(f.On, *f.Came))
		}
	}
	require.Positive(t, came)
	require.Equal(t, group.Came >= group.Held, true)
}

// The calendar holds what comes, leaves out what rots, and no piece is in two potting days.
func TestTheComingWeeks(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	var empty show.Ahead
	g.ok("GET", "/api/ahead", nil, &empty)
	require.Empty(t, empty.Pieces)
	pieces, _ := g.pieces(30)
	g.ok("POST", "/api/looks", looking(pieces[0], 1, plant.Look{Stem: "soft", RotMM: 12}), nil)
	g.ok("POST", "/api/looks", looking(pieces[1], 1, rooted(14, 11)), nil)
	var ahead show.Ahead
	g.ok("GET", "/api/ahead", nil, &ahead)
	require.Len(t, ahead.Rescue, 1)
	require.Len(t, ahead.Pieces, len(pieces)-1-len(ahead.Later))
	seen := map[string]bool{}
	for _, d := range ahead.Potting {
		for _, p := range d.Pieces {
			require.False(t, seen[p.Code])
			seen[p.Code] = true
		}
	}
	require.False(t, seen[pieces[0].Code])
	var worked show.Worked
	g.ok("GET", "/api/worked", nil, &worked)
	require.Len(t, worked.Looks, 3)
}

// Fresh water answers cloudy water, and the verdict knows it at once.
func TestCareIsHeardAtOnce(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces, jar := g.pieces(20)
	cloudy := rooted(3)
	cloudy.Water = "cloudy"
	g.ok("POST", "/api/looks", looking(pieces[0], 1, cloudy), nil)
	require.Equal(t, readiness.SignSeen, g.cuttingPage(pieces[0]).Cutting.Judgement.Ground)
	g.ok("POST", "/api/care", visit(jar.ID, now, plant.ChangeWater), nil)
	require.NotEqual(t, readiness.SignSeen, g.cuttingPage(pieces[0]).Cutting.Judgement.Ground)
	for _, c := range g.shelf() {
		require.NotEqual(t, readiness.MediumState, key(c.Judgement.Question))
	}
}

func key(q *readiness.Question) readiness.Criterion {
	if q == nil {
		return ""
	}
	return q.Key
}

// Straight to mix: uncovered and not potted, and established where it stands once a leaf has opened; by no other school.
func TestStraightToMixIsEstablishedWhereItStands(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces, _ := g.pieces(60)
	c := pieces[0]
	leaf := plant.Look{Stem: "firm", Tug: "holds", Buds: []plant.BudAt{{Node: 1, Bud: plant.BudLeafOpen}}}
	g.ok("POST", "/api/looks", looking(c, 1, leaf), nil)
	end := func() door.Ending {
		return door.Ending{ID: id(), CuttingID: c.ID, Outcome: life.Outcome{Kind: life.EndEstablished, On: now}}
	}
	g.ok("POST", "/api/schools", door.SchoolChoice{ID: id(), CuttingID: c.ID, School: plant.FirstLeaf}, nil)
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/outcomes", end())
	g.ok("POST", "/api/schools", door.SchoolChoice{ID: id(), CuttingID: c.ID, School: plant.StraightToMix}, nil)
	g.ok("POST", "/api/outcomes", end(), nil)
	page := g.cuttingPage(c)
	require.Equal(t, plant.Done, page.Cutting.Judgement.Verdict)
	require.NotContains(t, page.Cutting.Judgement.Sentence, "potting")
}
