package server_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation/bench"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
	"clearjar/server"
)

// lies is one organ of a new mother of a group, as it lies on the bench.
func (g grower) lies(group string, organ plant.Organ, form plant.LeafForm, nodes int) (show.Mother, bench.MappedStem) {
	g.t.Helper()
	var m show.Mother
	g.ok("POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Violet", GroupKey: group, Pattern: "stable"}}, &m)
	s := plant.Stem{Organ: organ, Form: form, BeyondMM: 40, ThicknessMM: 4}
	for range nodes {
		s.Nodes = append(s.Nodes, plant.Node{BelowMM: 25, Bud: plant.BudDormant, Rooted: organ == plant.Clump})
	}
	var out bench.MappedStem
	g.ok("PUT", "/api/stems/"+id().String(), door.StemMapping{FactID: id(), MotherID: m.ID, Stem: s}, &out)
	return m, out
}

// whole cuts what lies there as one piece and sets it in a covered pot of mix.
func (g grower) whole(s bench.MappedStem, knife float64) conclude.ShelfCutting {
	g.t.Helper()
	var made []conclude.ShelfCutting
	g.ok("POST", "/api/cuts", cutOf(wishFor(s, knife), now.AddDate(0, 0, -90)), &made)
	require.Len(g.t, made, 1)
	return made[0]
}

// common practice, no source: a leaf gives several plantlets, parted later, each its own plant; the leaf stays known.
func TestPlantletsArePartedFromALeaf(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m, s := g.lies("gesneriad", plant.LeafOrgan, plant.WholeLeaf, 1)
	require.Equal(t, "L1", s.Letter, "leaves are counted by themselves")
	leaf := g.whole(s, 0)
	require.Equal(t, m.Code+"-L1", leaf.Code)
	pot := g.jar(6)
	g.ok("POST", "/api/settings", door.Setting{ID: id(), CuttingID: leaf.ID, VesselID: pot.ID, SetOn: now.AddDate(0, 0, -90), SetNodes: 1}, nil)
	look := looking(leaf, 2, plant.Look{Plantlets: []plant.YoungAt{{Node: 1, Count: 3}}})
	g.ok("POST", "/api/looks", look, nil)
	page := g.cutting(leaf.ID)
	require.Contains(t, page.History[len(page.History)-1].Text, "3 plantlets")
	require.Equal(t, "plantlets", page.Words.YoungMany)
	require.Equal(t, "seen.plantlets[0].count", g.refused(422, "POST", "/api/looks", looking(leaf, 1, plant.Look{Plantlets: []plant.YoungAt{{Node: 1, Count: 13}}})).Fields[0].Field)

	part := door.Parting{ID: id(), CuttingID: leaf.ID, PartedOn: now.AddDate(0, 0, -1), Parts: []door.PartedPlant{
		{Node: 1, Leaves: 4, Rooted: true, Roots: []float64{14, 9}, Pattern: plant.CameKept}, {Node: 1, Leaves: 2, Rooted: true, Pattern: plant.CameLost}, {Node: 1},
	}}
	g.ok("POST", "/api/partings", part, &page)
	require.Len(t, page.Parts, 3)
	require.Equal(t, leaf.Code+".2", page.Parts[1].Code)
	require.Equal(t, plant.CameLost, page.Parts[1].Came)
	require.Contains(t, page.History[len(page.History)-1].Text, leaf.Code+".1")
	require.Equal(t, 0, page.Cutting.Seen.Plantlets[0].Count, "the three that were counted are off")
	require.Equal(t, []int{1}, page.NodesLeft, "the leaf keeps its base and may give more")

	young := g.cutting(page.Parts[0].ID)
	require.Equal(t, leaf.Code, young.Parent.Code)
	require.Equal(t, plant.Plantlet, young.Cutting.Kind)
	require.Equal(t, plant.Ready, young.Cutting.Judgement.Verdict, "it has roots of its own: straight into a pot")
	require.InDelta(t, 14, young.Cutting.LongestMM, 0.1)
	require.Contains(t, young.History[0].Text, "Parted from "+leaf.Code)
	bare := g.cutting(page.Parts[2].ID)
	require.Equal(t, plant.LookAt, bare.Cutting.Judgement.Verdict, "without roots it is set first")
	require.Contains(t, g.refused(422, "POST", "/api/pottings", door.Potting{ID: id(), CuttingID: bare.Cutting.ID, Place: "Sill", PottedOn: now, Pot: smallPot}).Fields[0].Reason, "no roots of its own")

	// More from the same leaf: numbered on, and then it has gone into them.
	more := door.Parting{ID: id(), CuttingID: leaf.ID, PartedOn: now, Parts: []door.PartedPlant{{Node: 1, Rooted: true}}, Ends: true}
	g.ok("POST", "/api/partings", more, &page)
	require.Equal(t, leaf.Code+".4", page.Parts[3].Code)
	require.Equal(t, life.Parted, page.Cutting.Fate)
	require.Equal(t, plant.Done, page.Cutting.Judgement.Verdict)
	require.Contains(t, page.Cutting.Judgement.Sentence, "went into its plantlets")
	back := func(about uuid.UUID) door.Withdrawal {
		return door.Withdrawal{ID: id(), Kind: "parted", About: about}
	}
	g.ok("POST", "/api/withdrawals", back(more.ID), nil)
	require.Equal(t, life.InVessel, g.cutting(leaf.ID).Cutting.Where)

	// Potted, and taken back in order.
	g.ok("POST", "/api/pottings", door.Potting{ID: id(), CuttingID: young.Cutting.ID, Place: "Sill", PottedOn: now, Pot: smallPot}, &young)
	require.Equal(t, plant.GrowingOn, young.Cutting.Judgement.Verdict)
	require.NotEmpty(t, young.Care)
	require.Contains(t, g.refused(409, "POST", "/api/withdrawals", back(part.ID)).Detail, "young plants since")
	g.ok("POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: "potted", About: young.History[len(young.History)-1].About}, nil)
	g.ok("POST", "/api/withdrawals", back(part.ID), nil)
	require.Empty(t, g.cutting(leaf.ID).Parts)
	require.Equal(t, 404, g.send("GET", "/api/cuttings/"+young.Cutting.ID.String(), nil, nil))

	// Her own cuts are not touched by what is parted from a piece.
	var mother show.Mother
	g.ok("GET", "/api/mothers/"+m.ID.String(), nil, &mother)
	require.Equal(t, 1, mother.Tally.Taken)
}

// common practice, no source: a rooted piece with two rooted nodes becomes two; a stem is cut from its top.
func TestARootedPieceIsCutInTwo(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces, _ := g.pieces(40)
	c := pieces[0] // nodes 2 to 4
	nodes := len(c.Nodes)
	require.GreaterOrEqual(t, nodes, 3)
	look := rooted(40, 30)
	look.Roots[1].Node = nodes
	g.ok("POST", "/api/looks", looking(c, 2, look), nil)
	cut := func(from, to int) door.Parting {
		return door.Parting{ID: id(), CuttingID: c.ID, PartedOn: now, Parts: []door.PartedPlant{{Node: from, To: to, Leaves: 1, Rooted: true, Roots: []float64{30}}}}
	}
	require.Contains(t, g.refused(422, "POST", "/api/partings", cut(1, 1)).Fields[0].Reason, "from its top")
	require.Contains(t, g.refused(422, "POST", "/api/partings", cut(1, nodes)).Fields[0].Reason, "stays on it")
	require.Contains(t, g.refused(422, "POST", "/api/partings", cut(nodes, nodes+1)).Fields[0].Reason, "is not on it")
	var page show.CuttingPage
	g.ok("POST", "/api/partings", cut(nodes, nodes), &page)
	require.Equal(t, []int{nodes}, page.Cutting.Taken)
	require.Len(t, page.Cutting.Seen.Roots, 1, "what was on the node that went is no longer seen on it")
	top := g.cutting(page.Parts[0].ID)
	require.Equal(t, plant.LeafBud, top.Cutting.Kind)
	require.Equal(t, c.Code+".1", top.Cutting.Code)
	require.Len(t, top.Cutting.Nodes, 1)
	require.Contains(t, g.refused(422, "POST", "/api/partings", cut(nodes, nodes)).Fields[0].Reason, "is not on it", "a node goes once")
	set := door.Setting{ID: id(), CuttingID: c.ID, VesselID: g.jar(2).ID, SetOn: now, SetNodes: nodes}
	require.Contains(t, g.refused(422, "POST", "/api/settings", set).Fields[0].Reason, "this piece has 2 nodes", "the node that went is not set")
}

// A clump is divided again; each division has a pot of its own.
func TestADivisionIsDividedAgain(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	_, s := g.lies("clump_former", plant.Clump, "", 5)
	var made []conclude.ShelfCutting
	g.ok("POST", "/api/cuts", cutOf(wishFor(s, 60), now.AddDate(0, 0, -3)), &made)
	big := made[0]
	for _, c := range made {
		if len(c.Nodes) > len(big.Nodes) {
			big = c
		}
	}
	require.Equal(t, plant.Ready, big.Judgement.Verdict)
	var page show.CuttingPage
	g.ok("POST", "/api/partings", door.Parting{ID: id(), CuttingID: big.ID, PartedOn: now, Parts: []door.PartedPlant{{Node: 1, Leaves: 3, Rooted: true, Roots: []float64{120}}}}, &page)
	require.NotContains(t, page.NodesLeft, 1)
	young := g.cutting(page.Parts[0].ID)
	require.Equal(t, plant.Division, young.Cutting.Kind)
	laid := g.table(show.TableWish{Cuttings: []uuid.UUID{big.ID, young.Cutting.ID}})
	require.Len(t, laid.Pots, 2, "a division has a pot of its own")
	var own show.PotOnTable
	for _, p := range laid.Pots {
		if p.Plants[0] == young.Cutting.ID {
			own = p
		}
	}
	require.InDelta(t, 120, own.Pot.TopMM, 0, "a pot that fits its roots")
	g.ok("POST", "/api/pots", fill(own, now), nil)
	require.Equal(t, life.InPot, g.cutting(young.Cutting.ID).Cutting.Where)
}

// A root is not noted on a node that went, and what a part came to is counted for the piece it came off.
func TestAPartedNodeIsNotLookedAt(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	_, s := g.lies("clump_former", plant.Clump, "", 5)
	var made []conclude.ShelfCutting
	g.ok("POST", "/api/cuts", cutOf(wishFor(s, 60), now.AddDate(0, 0, -9)), &made)
	big := made[0]
	for _, c := range made {
		if len(c.Nodes) > len(big.Nodes) {
			big = c
		}
	}
	var page show.CuttingPage
	g.ok("POST", "/api/partings", door.Parting{ID: id(), CuttingID: big.ID, PartedOn: now.AddDate(0, 0, -3), Parts: []door.PartedPlant{{Node: 1, Leaves: 3, Rooted: true, Roots: []float64{120}}}}, &page)
	on := func(days int) door.NewLook {
		look := looking(big, 0, plant.Look{RootsCounted: true, Roots: []plant.Root{{Node: 1, Order: 1, LengthMM: 30, LowMM: 30, HighMM: 30, How: "typed"}}})
		look.LookedAt = now.AddDate(0, 0, -days)
		return look
	}
	p := g.refused(http.StatusUnprocessableEntity, "POST", "/api/looks", on(1))
	require.Contains(t, p.Detail, "parted from it before that day")
	g.ok("POST", "/api/looks", on(5), nil)

	var receipts []server.Receipt
	ending, err := json.Marshal(door.Ending{ID: id(), CuttingID: page.Parts[0].ID, Outcome: life.Outcome{Kind: life.EndLost, On: now, Why: "rotted"}})
	require.NoError(t, err)
	g.ok("POST", "/api/facts", map[string]any{"facts": []door.SentFact{{Kind: "outcome", Content: ending}}}, &receipts)
	require.Equal(t, door.Kept, receipts[0].Outcome, receipts[0].Problem)
	require.Contains(t, receipts[0].Touched.Cuttings, big.ID, "the piece it came off is asked for anew")
}

// Every kind of piece, random partings: no node goes twice, codes are all different, and what is kept can be read.
func TestRandomPartingsMakeSense(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	r := rand.New(rand.NewPCG(12, 3))
	for _, k := range plant.KindRows() {
		if k.Kind == plant.Plantlet {
			continue
		}
		var page show.CuttingPage
		g.ok("POST", "/api/brought", door.Brought{ID: id(), Name: "A " + k.Label, GroupKey: "begonia", Kind: k.Kind, Nodes: 5, Leaves: 2, Since: now.AddDate(0, 0, -50), KnownTo: "day"}, &page)
		for i := range 8 {
			n := 1 + r.IntN(6)
			p := door.Parting{ID: id(), CuttingID: page.Cutting.ID, PartedOn: now, Parts: []door.PartedPlant{{Node: n, To: n + r.IntN(2), Leaves: r.IntN(3), Rooted: r.IntN(2) == 0}}}
			status := g.send("POST", "/api/partings", p, nil)
			require.Contains(t, []int{200, 422}, status, "%s %d", k.Kind, i)
		}
		now := g.cutting(page.Cutting.ID)
		require.NotEmpty(t, now.NodesLeft, k.Kind)
		codes := map[string]bool{}
		for _, p := range now.Parts {
			require.False(t, codes[p.Code], p.Code)
			codes[p.Code] = true
			part := g.cutting(p.ID)
			require.NotEmpty(t, part.Cutting.Judgement.Sentence)
			require.NotEmpty(t, part.Words.Label, fmt.Sprint(part.Cutting.Kind))
		}
		if !k.Keeps {
			require.Equal(t, 5, len(now.NodesLeft)+len(now.Cutting.Taken), k.Kind)
		}
	}
}

// Success is counted kind by kind: a plant that was parted counts for the piece it came off. What is given away takes its history along.
func TestSuccessIsCountedKindByKind(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	_, s := g.lies("gesneriad", plant.LeafOrgan, plant.WholeLeaf, 1)
	leaf := g.whole(s, 0)
	g.ok("POST", "/api/settings", door.Setting{ID: id(), CuttingID: leaf.ID, VesselID: g.jar(6).ID, SetOn: now.AddDate(0, 0, -90), SetNodes: 1}, nil)
	var page show.CuttingPage
	g.ok("POST", "/api/partings", door.Parting{ID: id(), CuttingID: leaf.ID, PartedOn: now.AddDate(0, 0, -40), Parts: []door.PartedPlant{{Node: 1, Rooted: true}, {Node: 1, Rooted: true}, {Node: 1, Rooted: true}}, Ends: true}, &page)
	count := func() show.KindCount {
		var p show.GroupPage
		g.ok("GET", "/api/groups/gesneriad", nil, &p)
		require.Len(t, p.Kinds, 1)
		return p.Kinds[0]
	}
	require.Equal(t, 1, count().Open, "nobody knows yet")
	for i, part := range page.Parts {
		g.ok("POST", "/api/pottings", door.Potting{ID: id(), CuttingID: part.ID, Place: "Sill", PottedOn: now.AddDate(0, 0, -30), Pot: smallPot}, nil)
		end := map[string]any{"id": id(), "cutting_id": part.ID, "kind": "established", "on": now}
		if i == 2 {
			end["kind"], end["why"] = "lost", "dried"
		}
		g.ok("POST", "/api/outcomes", end, nil)
	}
	k := count()
	require.Equal(t, []int{1, 1, 2, 0}, []int{k.Pieces, k.Came, k.Plants, k.Open}, "two plants of one leaf")
	// from memory: uniform before, one of one seen is Beta(2, 1): its 5 % quantile is the square root of 0.05.
	require.InDelta(t, 0.2236, k.Low, 1e-3)

	pdf := g.download("/api/cuttings/" + page.Parts[0].ID.String() + "/passport.pdf")
	require.Equal(t, "%PDF", string(pdf[:4]))
	require.Greater(t, len(pdf), 5000)
	require.Equal(t, 404, g.send("GET", "/api/cuttings/"+id().String()+"/passport.pdf", nil, nil))
}

// What goes out comes in: the maps of leaves too, whose letters have numbers.
func TestMapsOfLeavesAreReadBack(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	g.lies("gesneriad", plant.LeafOrgan, plant.HalfAcross, 2)
	g.lies("clump_former", plant.Pups, "", 3)
	for _, format := range []string{"csv", "json"} {
		report := g.bring("/api/import/stems?format="+format, g.download("/api/export/stems?format="+format))
		require.Zero(t, report.Kept, format)
		require.Equal(t, 2, report.Same, "%s %+v", format, report)
		other := newGrower(t)
		report = other.bring("/api/import/stems?format="+format, g.download("/api/export/stems?format="+format))
		require.Equal(t, 2, report.Kept, "%s %+v", format, report)
	}
}
