package server_test

import (
	"fmt"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/propagation/bench"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
)

// A list that can grow is shown some at a time, and says so: nothing vanishes.
func TestPlansArePagedAndNoneIsLost(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	stem := g.stem(m, 6)
	kept := map[uuid.UUID]bool{}
	for i := range 103 {
		p := door.NewPlan{ID: id(), PlanWish: wishFor(stem, 60+float64(i)*0.1)}
		g.ok("POST", "/api/plans", p, nil)
		kept[p.ID] = true
	}
	var first, rest, others bench.PlanList
	g.ok("GET", "/api/plans?open=true&mother="+m.ID.String(), nil, &first)
	require.Len(t, first.Plans, 100)
	require.True(t, first.More)
	g.ok("GET", "/api/plans?before="+first.Plans[99].ID.String(), nil, &rest)
	require.False(t, rest.More)
	for _, p := range append(first.Plans, rest.Plans...) {
		require.True(t, kept[p.ID], "each once")
		delete(kept, p.ID)
	}
	require.Empty(t, kept)
	g.ok("GET", "/api/plans?mother="+id().String(), nil, &others)
	require.Empty(t, others.Plans)
}

func TestCutsOfLongAgoAreListedAndTheirPiecesAskedFor(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	var first show.CuttingPage
	for i := range 43 {
		var page show.CuttingPage
		g.ok("POST", "/api/brought", door.Brought{
			ID: id(), Name: "Hoya linearis", GroupKey: "wax_vine", Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: now.AddDate(0, 0, i-100), KnownTo: "day",
		}, &page)
		if i == 0 { // of the three oldest the first leaves, the others stand
			first = page
			g.ok("POST", "/api/handovers", door.Handover{ID: id(), CuttingID: page.Cutting.ID, GivenOn: now}, nil)
		}
	}
	var m show.Mother
	g.ok("GET", "/api/mothers/"+first.Cutting.MotherID.String(), nil, &m)
	require.Equal(t, 43, m.Tally.Taken)
	require.Equal(t, 1, m.Tally.Given)
	require.Len(t, m.Cuts, 43)
	require.Len(t, m.Cuttings, 42, "all that stand, and all of the newest cuts")
	require.Equal(t, []uuid.UUID{first.Cutting.ID}, m.Cuts[0].Cuttings)
	require.Len(t, m.Cuts[0].Spans, 1)
	var then []conclude.ShelfCutting
	g.ok("GET", fmt.Sprintf("/api/cuts/%s/cuttings", m.Cuts[0].ID), nil, &then)
	require.Len(t, then, 1)
	require.Equal(t, first.Cutting.Code, then[0].Code)
}
