package server_test

import (
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/outside"
	"clearjar/propagation/show"
	"clearjar/store/storetest"
)

// table lays cuttings out on the potting table.
func (g grower) table(w show.TableWish) show.PottingTable {
	g.t.Helper()
	var out show.PottingTable
	g.ok("POST", "/api/potting-table", w, &out)
	return out
}

// fill pots what lies in one pot of the table.
func fill(p show.PotOnTable, on time.Time) door.Potful {
	f := door.Potful{ID: id(), Place: "Sill", PottedOn: on, Pot: p.Pot, Mix: p.Mix}
	for i, c := range p.Plants {
		f.Plants = append(f.Plants, door.Planted{CuttingID: c, Stand: p.Places[i].Stand})
	}
	return f
}

// rootedPieces are pieces with roots of such lengths, ready or not.
func (g grower) rootedPieces(mm ...float64) []conclude.ShelfCutting {
	g.t.Helper()
	var pieces []conclude.ShelfCutting
	g.ok("POST", "/api/cuts", cutOf(wishFor(g.stem(g.mother(), 11), 60, 180, 300), now.AddDate(0, 0, -20)), &pieces)
	jar := g.jar(4)
	require.GreaterOrEqual(g.t, len(pieces), len(mm))
	for i, v := range mm {
		g.ok("POST", "/api/settings", setting(pieces[i], jar), nil)
		g.ok("POST", "/api/looks", looking(pieces[i], 1, rooted(v)), nil)
	}
	return pieces[:len(mm)]
}

// Several plants share a pot: each keeps a record of its own, they are potted and taken back together, and moved on together.
func TestSeveralPlantsShareAPot(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces := g.rootedPieces(30, 32, 90)
	ids := []uuid.UUID{pieces[0].ID, pieces[1].ID, pieces[2].ID}
	laid := g.table(show.TableWish{Cuttings: ids})
	require.Len(t, laid.Pots, 2, "like with like: %s", laid.Says)
	require.Equal(t, ids[:2], laid.Pots[0].Plants)
	require.Equal(t, 100.0, laid.Pots[0].Pot.TopMM)
	require.Contains(t, laid.Pots[1].Alone, pieces[2].Code)
	require.NotEmpty(t, laid.Pots[0].After)
	require.NotEmpty(t, laid.Cautions)

	// All in one, against the rules: laid out, and what speaks against it is said.
	all := g.table(show.TableWish{Pots: []show.PotWish{{Cuttings: ids, Pot: &potting.Pot{TopMM: 150, BottomMM: 110, DepthMM: 120, Material: potting.Clay}, Mix: "gritty"}}})
	require.Len(t, all.Pots, 1)
	require.Contains(t, all.Pots[0].Cautions[0], "3.0 times the shortest")
	require.Equal(t, "gritty", all.Mixes[0].Key)

	pot := fill(laid.Pots[0], now)
	var made []conclude.ShelfCutting
	g.ok("POST", "/api/pots", pot, &made)
	require.Len(t, made, 2)
	for _, c := range made {
		require.Equal(t, pot.ID, *c.PotID)
		require.Equal(t, plant.GrowingOn, c.Judgement.Verdict)
	}
	require.NotEqual(t, made[0].Stand.XMM, made[1].Stand.XMM)
	page := g.cutting(ids[0])
	require.Contains(t, page.History[len(page.History)-1].Text, "100 mm pot")
	require.Contains(t, page.History[len(page.History)-1].Text, "with 1 other")

	// A first pot happens once; one that cannot go in keeps the other out.
	again := fill(g.table(show.TableWish{Pots: []show.PotWish{{Cuttings: []uuid.UUID{ids[0], ids[2]}}}}).Pots[0], now)
	require.Contains(t, g.refused(409, "POST", "/api/pots", again).Detail, "already potted")
	require.Nil(t, g.cutting(ids[2]).Cutting.PottedOn)
	twice := pot
	twice.ID = id()
	twice.Plants = []door.Planted{{CuttingID: ids[2]}, {CuttingID: ids[2]}}
	require.Equal(t, "plants[1].cutting_id", g.refused(422, "POST", "/api/pots", twice).Fields[0].Field)

	// Moved on: 25 mm wider, both together; the earlier pot cannot be taken back before that.
	moved := g.table(show.TableWish{Cuttings: ids[:2]})
	require.Equal(t, 125.0, moved.Pots[0].Pot.TopMM)
	require.True(t, moved.Pots[0].MovesOn)
	wider := fill(moved.Pots[0], now)
	require.Contains(t, g.refused(409, "POST", "/api/pots", wider).Detail, "already potted")
	wider.ID, wider.MovesOn = id(), true
	g.ok("POST", "/api/pots", wider, &made)
	require.Equal(t, 125.0, made[0].Pot.TopMM)
	require.NotNil(t, made[0].MovedOn)
	require.Equal(t, *page.Cutting.PottedOn, *made[0].PottedOn, "it counts from its first pot")
	back := func(about uuid.UUID) door.Withdrawal {
		return door.Withdrawal{ID: id(), Kind: "potful", About: about}
	}
	require.Contains(t, g.refused(409, "POST", "/api/withdrawals", back(pot.ID)).Detail, "moved on")
	g.ok("POST", "/api/withdrawals", back(wider.ID), nil)
	require.Equal(t, 100.0, g.cutting(ids[1]).Cutting.Pot.TopMM)
	g.ok("POST", "/api/withdrawals", back(pot.ID), nil)
	for _, c := range ids[:2] {
		require.Nil(t, g.cutting(c).Cutting.PottedOn)
	}
	g.ok("POST", "/api/pots", fill(laid.Pots[0], now), nil)
}

// The day of a pot is that of all in it; a plant alone may be taken out of the record of a pot.
func TestTheDayOfAPotIsThatOfAllInIt(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces := g.rootedPieces(30, 32)
	pot := fill(g.table(show.TableWish{Cuttings: []uuid.UUID{pieces[0].ID, pieces[1].ID}}).Pots[0], now)
	g.ok("POST", "/api/pots", pot, nil)
	row := func(c uuid.UUID) show.Event { h := g.cutting(c).History; return h[len(h)-1] }
	g.ok("PUT", "/api/dates/potted/"+row(pieces[0].ID).About.String(), door.Correction[door.Dated]{ID: id(), Becomes: door.Dated{On: now.Add(-time.Hour)}}, nil)
	for _, c := range pieces {
		require.True(t, now.Add(-time.Hour).Equal(*g.cutting(c.ID).Cutting.PottedOn))
	}
	g.ok("POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: "potted", About: row(pieces[0].ID).About}, nil)
	require.Nil(t, g.cutting(pieces[0].ID).Cutting.PottedOn)
	require.NotNil(t, g.cutting(pieces[1].ID).Cutting.PottedOn)
}

// The weeks after potting are on the round: what waits is seen to once, and taken back; what was seen to is told on the plant's page.
func TestPotsAreOnTheRound(t *testing.T) {
	t.Parallel()
	db := storetest.Open(t)
	g := serve(t, db, now)
	pieces := g.rootedPieces(30, 32)
	pot := fill(g.table(show.TableWish{Cuttings: []uuid.UUID{pieces[0].ID, pieces[1].ID}}).Pots[0], now)
	g.ok("POST", "/api/pots", pot, nil)
	round := func(at grower) show.PotStop {
		var r show.Round
		at.ok("GET", "/api/round", nil, &r)
		require.Len(t, r.Pots, 1)
		return r.Pots[0]
	}
	stop := round(g)
	require.Len(t, stop.Plants, 2)
	require.Nil(t, stop.Due, "watered in as it was potted")
	require.Equal(t, 2, stop.Next.Day)
	var key outside.MadeKey
	g.ok("POST", "/api/outside-keys", outside.NewKey{ID: id(), What: outside.Calendar, Name: "Phone"}, &key)
	_, text := g.ics(key.Secret)
	pots := 0
	for _, e := range events(t, text) {
		summary, err := e.Props.Text("SUMMARY")
		require.NoError(t, err)
		if strings.Contains(summary, "1 pot") {
			pots++
		}
	}
	require.Equal(t, 5, pots, "the checks of days 2, 4, 7, 10 and 14 are in the calendar: %s", text)

	later := serve(t, db, now.AddDate(0, 0, 2))
	require.Equal(t, 2, round(later).Due.Day)
	visit := door.PotVisit{ID: id(), PotID: pot.ID, At: now.AddDate(0, 0, 2)}
	kept := later.batch(sent(t, "pot_visit", visit))[0]
	require.Equal(t, "kept", kept.Outcome, "%+v", kept.Problem)
	require.Nil(t, round(later).Due)
	require.Len(t, round(later).Visits, 1)
	require.True(t, later.cutting(pieces[0].ID).Care[1].Done)
	require.Equal(t, "refused", later.batch(sent(t, "pot_visit", door.PotVisit{ID: id(), PotID: pot.ID, At: now.AddDate(0, 0, -5)}))[0].Outcome)
	later.ok("POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: "pot_visit", About: visit.ID}, nil)
	require.Equal(t, 2, round(later).Due.Day)

	// What was seen of a plant there is a look at it, and judged: dry within the first weeks asks for an answer.
	later.ok("POST", "/api/looks", door.NewLook{ID: id(), CuttingID: pieces[0].ID, LookedAt: now.AddDate(0, 0, 2), Seen: plant.Look{Water: "dry", Roots: []plant.Root{}, Buds: []plant.BudAt{}}}, nil)
	require.Equal(t, plant.LookAt, later.cutting(pieces[0].ID).Cutting.Judgement.Verdict)
	require.Equal(t, plant.GrowingOn, later.cutting(pieces[1].ID).Cutting.Judgement.Verdict)
}

// common practice, no source: a mother is moved on 25 mm wider, never 50; at most a fifth of the roots off, half of a vigorous one's.
func TestAMotherIsPottedOn(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	page := func() (out show.Mother) { g.ok("GET", "/api/mothers/"+m.ID.String(), nil, &out); return out }
	require.Nil(t, page().Next)
	first := door.MotherPotting{ID: id(), MotherID: m.ID, PottedOn: now.AddDate(0, 0, -200), Pot: potting.Pot{TopMM: 120, BottomMM: 90, DepthMM: 110}}
	g.ok("POST", "/api/mother-pots", first, nil)
	require.Equal(t, 145.0, page().Next.Pot.TopMM)
	far := door.MotherPotting{ID: id(), MotherID: m.ID, PottedOn: now, Pot: potting.Pot{TopMM: 170, BottomMM: 120, DepthMM: 130}, RootsOff: 0.4}
	var out show.Mother
	g.ok("POST", "/api/mother-pots", far, &out)
	require.Len(t, out.Pots[1].Against, 2)
	require.Contains(t, out.Pots[1].Against[0], "50 mm wider than before")
	require.Contains(t, out.Pots[1].Against[1], "only a vigorous plant")
	g.ok("POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: "mother_potted", About: far.ID}, nil)
	require.Len(t, page().Pots, 1)
	far.ID, far.RootsOff = id(), 1.5
	require.Equal(t, "roots_off", g.refused(422, "POST", "/api/mother-pots", far).Fields[0].Field)
}
