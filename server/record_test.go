package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
)

func TestCodesAreThreeLettersAndNeverTwice(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	for _, c := range []struct{ own, name, want string }{
		{"", "Hoya callistophylla", "CAL"}, {"", "Hoya calycina", "CAL2"}, {"hcx", "Hoya curtisii", "HCX"}, {"", "No. 7", "NOX"},
	} {
		var m show.Mother
		g.ok("POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: c.name, GroupKey: "wax_vine", Pattern: "plain"}, Code: c.own}, &m)
		require.Equal(t, c.want, m.Code, c.name)
	}
}

func TestStemsAreLetteredInTheOrderTheyWereMapped(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	require.Equal(t, []string{"A", "B", "C"}, []string{g.stem(m, 3).Letter, g.stem(m, 2).Letter, g.stem(m, 4).Letter})
	other := g.mother()
	require.Equal(t, "A", g.stem(other, 2).Letter)
	p := g.refused(http.StatusNotFound, "PUT", "/api/stems/"+id().String(), door.StemMapping{FactID: id(), MotherID: id(), Stem: vine(2)})
	require.Contains(t, p.Detail, "mother")
}

func TestChoicesRunFromFewerToMore(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	stem := g.stem(g.mother(), 8)
	var choices []cutplan.Choice
	g.ok("POST", "/api/plans/choices", wishFor(stem), &choices)
	require.Len(t, choices, 6)
	for i, c := range choices {
		require.Equal(t, i+1, c.Pieces)
		plan := g.plan(wishFor(stem, c.KnivesMM[0]...))
		require.InDelta(t, c.Expected, plan.Expected, 1e-9, "the plan for its knives says the same")
	}
	bad := wishFor(stem)
	bad.Limits = cutplan.Limits{LeastNodes: 3, MostNodes: 2, TipMost: 2}
	p := g.refused(http.StatusUnprocessableEntity, "POST", "/api/plans/try", bad)
	require.Contains(t, p.Detail, "contradict pieces of at least 3")
}

func TestMovingKeepsTheAgeAndChangesTheMedium(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	c := g.cut(g.stem(g.mother(), 5))[0]
	g.ok("POST", "/api/settings", setting(c, g.jar(1)), nil)
	var box propagation.VesselView
	g.ok("POST", "/api/vessels", door.NewVessel{ID: id(), Name: "Box", Place: "Cabinet", Vessel: plant.Vessel{Kind: plant.LiddedBox, WidthMM: 180, DepthMM: 100, HeightMM: 110, FillMM: 45, Holds: 4}}, &box)
	move := setting(c, box)
	move.SetOn = now.AddDate(0, 0, -2)
	var moved conclude.ShelfCutting
	g.ok("POST", "/api/settings", move, &moved)
	require.Equal(t, plant.Moss, moved.Medium)
	require.Equal(t, "Cabinet", moved.PlaceName)
	require.Equal(t, 20, moved.Judgement.AgeDays)
	var page show.CuttingPage
	g.ok("GET", "/api/cuttings/"+c.ID.String(), nil, &page)
	require.Len(t, page.History, 3)
	require.NotEmpty(t, page.Caution)
}

func TestSuccessIsCountedWhenItHasGrownOn(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	c := g.cut(g.stem(g.mother(), 5))[0]
	g.ok("POST", "/api/settings", setting(c, g.jar(1)), nil)
	end := func(kind string, daysAgo int) door.Ending {
		return door.Ending{ID: id(), CuttingID: c.ID, Outcome: readiness.Outcome{On: now.AddDate(0, 0, -daysAgo), Kind: kind}}
	}
	// common practice, no source: success is counted when it has grown on, not when it is potted.
	p := g.refused(http.StatusUnprocessableEntity, "POST", "/api/outcomes", end("established", 0))
	require.Contains(t, p.Detail, "pot it up first")
	pot := door.Potting{ID: id(), CuttingID: c.ID, Place: "Sill", PottedOn: now.AddDate(0, 0, -10), Pot: potting.Pot{TopMM: 80, BottomMM: 60, DepthMM: 80}}
	g.ok("POST", "/api/pottings", pot, nil)
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/outcomes", end("established", 9))
	done := end("established", 1)
	var page show.CuttingPage
	g.ok("POST", "/api/outcomes", done, &page)
	g.ok("POST", "/api/outcomes", done, &page)
	require.Equal(t, plant.Done, page.Cutting.Judgement.Verdict)
	require.Contains(t, g.refused(http.StatusConflict, "POST", "/api/outcomes", end("lost", 0)).Detail, "was closed as established")
	require.Contains(t, g.refused(http.StatusConflict, "POST", "/api/settings", setting(c, g.jar(1))).Detail, "was closed")
}

func TestShelfListsEverythingMostUrgentFirst(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces := g.cut(g.stem(g.mother(), 9))
	jar := g.jar(6)
	for _, c := range pieces {
		g.ok("POST", "/api/settings", setting(c, jar), nil)
	}
	soft := rooted(12)
	soft.Stem = "soft"
	g.ok("POST", "/api/looks", looking(pieces[2], 1, soft), nil)
	traced := rooted(9)
	traced.Roots[0].Path = []plant.Point{{X: 1, Y: 1}, {X: 4, Y: 9}}
	g.ok("POST", "/api/looks", looking(pieces[0], 1, traced), nil)
	var shelf show.Shelf
	g.ok("GET", "/api/shelf", nil, &shelf)
	require.Len(t, shelf.Cuttings, len(pieces))
	for i, on := range shelf.Cuttings {
		c, err := on.Cutting()
		require.NoError(t, err)
		if i == 0 {
			require.Equal(t, pieces[2].ID, c.ID)
			require.Equal(t, plant.Rescue, c.Judgement.Verdict)
		}
		for _, r := range c.Seen.Roots {
			require.Empty(t, r.Path, "the shelf does not carry traces")
		}
	}
	var page show.CuttingPage
	g.ok("GET", "/api/cuttings/"+pieces[0].ID.String(), nil, &page)
	require.Equal(t, traced.Roots[0].Path, page.Looks[0].Seen.Roots[0].Path, "the page does")
}
