package server_test

import (
	"encoding/binary"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/care"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
	"clearjar/server"
	"clearjar/store/storetest"
)

// receipt is what a batch is answered with, for each fact.
type receipt struct {
	ID      uuid.UUID       `json:"id"`
	Outcome string          `json:"outcome"`
	Touched door.Touched    `json:"touched"`
	Problem *server.Problem `json:"problem"`
}

func sent(t *testing.T, kind string, content any) door.SentFact {
	t.Helper()
	raw, err := json.Marshal(content)
	require.NoError(t, err)
	return door.SentFact{Kind: kind, Content: raw}
}

// places are the shelves there are, in the order they are walked.
func (g grower) places() (ids []uuid.UUID) {
	var shelf show.Shelf
	g.ok("GET", "/api/shelf", nil, &shelf)
	for _, p := range shelf.Places {
		ids = append(ids, p.ID)
	}
	return ids
}

func (g grower) batch(facts ...door.SentFact) (out []receipt) {
	g.t.Helper()
	g.ok("POST", "/api/facts", map[string]any{"facts": facts}, &out)
	require.Len(g.t, out, len(facts), "one receipt a fact")
	return out
}

// idAt is the id of a fact that was decided at an instant.
func idAt(at time.Time) uuid.UUID {
	out := id()
	var ms [8]byte
	binary.BigEndian.PutUint64(ms[:], uint64(at.UnixMilli()))
	copy(out[:6], ms[2:])
	return out
}

func TestBatchGivesOneReceiptForEachFact(t *testing.T) {
	g := newGrower(t)
	pieces, jar := g.pieces(20)
	set := setting(pieces[0], jar)
	look := looking(pieces[0], 3, plant.Look{Stem: "firm"})
	early := looking(pieces[0], 400, plant.Look{})
	noNode := map[string]any{"id": id(), "cutting_id": pieces[0].ID, "looked_at": now, "seen": map[string]any{"roots": "none"}}
	got := g.batch(sent(t, "setting", set), sent(t, "look", look), sent(t, "look", early), sent(t, "look", noNode), sent(t, "wedding", look), sent(t, "school", door.SchoolChoice{ID: id(), CuttingID: pieces[0].ID, School: plant.FullRoots}))
	outcomes := []string{}
	for _, r := range got {
		outcomes = append(outcomes, r.Outcome)
	}
	require.Equal(t, []string{"kept", "kept", "refused", "refused", "refused", "kept"}, outcomes, "one that is refused keeps no other out")

	require.Equal(t, set.ID, got[0].ID)
	require.Contains(t, got[0].Touched.Cuttings, pieces[0].ID)
	require.Contains(t, got[0].Touched.Vessels, jar.ID)
	require.Contains(t, got[0].Touched.Mothers, pieces[0].MotherID)
	require.NotContains(t, got[0].Touched.Cuttings, pieces[1].ID, "what it did not touch is not named")
	require.Equal(t, "looked_at", got[2].Problem.Fields[0].Field)
	require.Equal(t, early.ID, got[2].ID, "a refused one is named too")
	named := []string{}
	for _, f := range got[3].Problem.Fields {
		named = append(named, f.Field)
	}
	require.Contains(t, named, "seen.roots", "the contract of its kind is held, field by field")
	require.Equal(t, "kind", got[4].Problem.Fields[0].Field)

	// What was kept is there; sent again, alone or in a batch, it is the same, and names the same things.
	require.Len(t, g.cutting(pieces[0].ID).Looks, 1)
	g.ok("POST", "/api/looks", look, nil)
	again := g.batch(sent(t, "setting", set), sent(t, "look", look))
	require.Equal(t, "same", again[0].Outcome)
	require.Equal(t, "same", again[1].Outcome)
	require.Equal(t, got[0].Touched, again[0].Touched)
	require.Len(t, g.cutting(pieces[0].ID).Looks, 1)

	other := look
	other.Seen.Note = "an afterthought"
	differs := g.batch(sent(t, "look", other))[0]
	require.Equal(t, "differs", differs.Outcome)
	require.NotNil(t, differs.Problem.Theirs)
	require.NotNil(t, differs.Problem.Yours)
	require.Empty(t, g.cutting(pieces[0].ID).Looks[0].Seen.Note, "what was kept stands")
}

func TestBatchIsBounded(t *testing.T) {
	g := newGrower(t)
	facts := make([]door.SentFact, door.MostFacts+1)
	for i := range facts {
		facts[i] = sent(t, "watering", map[string]any{})
	}
	p := g.refused(422, "POST", "/api/facts", map[string]any{"facts": facts})
	require.Contains(t, p.Detail, "200")
}

// Every kind that the present operations take comes in by the batch too, in the order of one whole life.
func TestEveryKindComesInByTheBatch(t *testing.T) {
	g := newGrower(t)
	m := door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Rhaphidophora cryptantha", GroupKey: "thick_climber", Pattern: "plain"}}
	stemID := id()
	require.Equal(t, "kept", g.batch(sent(t, "mother", m))[0].Outcome)
	require.Equal(t, "kept", g.batch(sent(t, "stem_map", door.StemMap{StemID: stemID, StemMapping: door.StemMapping{FactID: id(), MotherID: m.ID, Stem: vine(7)}}))[0].Outcome)
	var s bench.MappedStem
	g.ok("GET", "/api/stems/"+stemID.String(), nil, &s)
	wish := wishFor(s, g.plan(wishFor(s)).Stems[0].Plan.KnivesMM...)
	plan := door.NewPlan{ID: id(), PlanWish: wish}
	cut := cutOf(wish, now.AddDate(0, 0, -60))
	vessel := door.NewVessel{ID: id(), Name: "Jar", Place: "Sill", Vessel: plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 120, WallMM: 2, FillMM: 80, Holds: 9}}
	brought := door.Brought{ID: id(), Name: "Found one", GroupKey: "soft_climber", Kind: plant.StemCutting, Nodes: 2, Leaves: 1, Since: now.AddDate(0, 0, -9), KnownTo: "week"}
	watering := door.Watering{ID: id(), MotherID: m.ID, WateredOn: now.AddDate(0, 0, -61)}
	got := g.batch(
		sent(t, "cut_plan", plan),
		sent(t, "bench_tick", map[string]any{"id": id(), "plan_id": plan.ID, "step": "no such", "done": true, "ticked_at": now}),
		sent(t, "cut", cut), sent(t, "vessel", vessel), sent(t, "brought", brought), sent(t, "watering", watering),
		sent(t, "mother_potting", door.MotherPotting{ID: id(), MotherID: m.ID, PottedOn: now.AddDate(0, 0, -5), Pot: smallPot}),
		sent(t, "planner_number", door.NumberChoice{ID: id(), Key: "cutplan.die_back", Kind: "value", Value: 6}),
		sent(t, "mother_correction", map[string]any{"id": id(), "about": m.ID, "becomes": door.MotherWords{Name: "Rhaphidophora cryptantha", GroupKey: "thick_climber", Pattern: "stable"}}),
		sent(t, "vessel_correction", map[string]any{"id": id(), "about": vessel.ID, "becomes": door.VesselWords{Name: "Tall jar", Place: "Sill", Vessel: vessel.Vessel}}),
		sent(t, "date_correction", map[string]any{"id": id(), "kind": "watered", "about": watering.ID, "becomes": door.Dated{On: now.AddDate(0, 0, -62)}}),
		sent(t, "withdrawal", door.Withdrawal{ID: id(), Kind: "watered", About: watering.ID}),
	)
	for i, r := range got {
		want := "kept"
		if i == 1 {
			want = "refused"
		}
		require.Equal(t, want, r.Outcome, "%d %+v", i, r.Problem)
	}
	require.True(t, got[7].Touched.Numbers)
	require.NotEmpty(t, got[2].Touched.Cuttings, "a cut names what came of it")
	require.Equal(t, got[2].Touched.Cuttings, got[8].Touched.Cuttings, "her name is that of what was cut from her")
	place := got[3].Touched.Places[0]
	c := got[2].Touched.Cuttings[0]
	set := door.Setting{ID: id(), CuttingID: c, VesselID: vessel.ID, SetOn: now.AddDate(0, 0, -60), SetNodes: 1}
	pot := door.Potting{ID: id(), CuttingID: c, Place: "Sill", PottedOn: now.AddDate(0, 0, -30), Pot: smallPot}
	end := map[string]any{"id": id(), "cutting_id": c, "kind": "established", "on": now}
	other := got[2].Touched.Cuttings[1]
	otherNodes := len(g.cutting(other).Cutting.Nodes)
	for i, r := range g.batch(
		sent(t, "place_correction", map[string]any{"id": id(), "about": place, "becomes": door.PlaceWords{Name: "Window"}}),
		sent(t, "setting", set), sent(t, "cut_back", door.CutBack{ID: id(), CuttingID: c, CutOn: now.AddDate(0, 0, -50), RemovedMM: 4}),
		sent(t, "look", door.NewLook{ID: id(), CuttingID: c, LookedAt: now.AddDate(0, 0, -40), Seen: plant.Look{Roots: []plant.Root{}, Buds: []plant.BudAt{}}}), sent(t, "school", door.SchoolChoice{ID: id(), CuttingID: c, School: plant.EarlyRoots}),
		sent(t, "parting", door.Parting{ID: id(), CuttingID: other, PartedOn: now.AddDate(0, 0, -1), Parts: []door.PartedPlant{{Node: otherNodes, Leaves: 1}}}),
		sent(t, "potting", pot),
		sent(t, "pot_visit", door.PotVisit{ID: id(), PotID: pot.ID, At: now.AddDate(0, 0, -20)}),
		sent(t, "potful", door.Potful{ID: id(), Place: "Sill", PottedOn: now.AddDate(0, 0, -10), Pot: smallPot, MovesOn: true, Plants: []door.Planted{{CuttingID: c}}}),
		sent(t, "outcome", end),
		sent(t, "outcome_correction", map[string]any{"id": id(), "about": end["id"], "becomes": map[string]any{"kind": "lost", "why": "dried", "on": now}}),
		sent(t, "handover", door.Handover{ID: id(), CuttingID: other, GivenOn: now}),
		sent(t, "household_correction", map[string]any{"id": id(), "becomes": propagation.HouseholdWords{TimeZone: "Australia/Hobart", Southern: true}}),
	) {
		require.Equal(t, "kept", r.Outcome, "%d %+v", i, r.Problem)
	}
	empty := id()
	vessel.ID = empty
	for i, r := range g.batch(
		sent(t, "vessel", vessel),
		sent(t, "care", door.Care{ID: id(), VesselID: empty, At: now, Acts: []plant.Act{plant.ChangeWater}, Seen: []plant.Sign{}}),
		sent(t, "vessel_move", door.VesselMove{ID: id(), VesselID: empty, Place: "Cabinet", MovedOn: now}),
		sent(t, "care_school", door.CareSchool{ID: id(), VesselID: &empty, About: care.OfWater, School: "every_2"}),
		sent(t, "vessel_end", door.VesselEnd{ID: id(), VesselID: empty, EndedOn: now, How: "broken"}),
	) {
		require.Equal(t, "kept", r.Outcome, "%d %+v", i, r.Problem)
		require.Contains(t, r.Touched.Vessels, empty)
	}
	require.Equal(t, "kept", g.batch(sent(t, "place_order", door.PlaceOrder{ID: id(), Places: g.places()}))[0].Outcome)
	require.Len(t, door.FactKinds(), 32, "a new kind is tried here too")
}

// A queue may come late, twice, in any order and in any parcels: what was decided last holds.
func TestWhatWasDecidedLastHoldsWhateverCameLast(t *testing.T) {
	g := newGrower(t)
	pieces, _ := g.pieces(20)
	schools := []plant.SchoolKey{plant.EarlyRoots, plant.FirstLeaf, plant.FullRoots}
	for round := range 25 {
		r := rand.New(rand.NewPCG(8, uint64(round)))
		c := pieces[round%len(pieces)]
		facts, last, value := []door.SentFact{}, plant.SchoolKey(""), 0.0
		at := now.AddDate(0, 0, -19).Add(time.Duration(round) * time.Hour)
		for n := range 2 + r.IntN(6) {
			// Decided minutes apart, or in the very same millisecond, when the id decides.
			at = at.Add(time.Duration(r.IntN(3)) * time.Minute)
			last, value = schools[r.IntN(len(schools))], float64(3+r.IntN(6))
			one, two := idAt(at), idAt(at)
			for i := range 10 {
				one[6+i], two[6+i] = 0x70|byte(n), 0x70|byte(n)
			}
			one[8], two[8], one[15], two[15] = 0x80|byte(n), 0x80|byte(n), 1, 2
			one[10], two[10] = byte(round), byte(round)
			facts = append(facts,
				sent(t, "school", door.SchoolChoice{ID: one, CuttingID: c.ID, School: last}),
				sent(t, "planner_number", door.NumberChoice{ID: two, Key: "cutplan.die_back", Kind: "value", Value: value}))
		}
		for range r.IntN(4) {
			facts = append(facts, facts[r.IntN(len(facts))])
		}
		r.Shuffle(len(facts), func(i, j int) { facts[i], facts[j] = facts[j], facts[i] })
		for len(facts) > 0 {
			n := 1 + r.IntN(len(facts))
			for _, got := range g.batch(facts[:n]...) {
				require.Contains(t, []string{"kept", "same"}, got.Outcome, "%+v", got.Problem)
			}
			facts = facts[n:]
		}
		require.Equal(t, last, g.cutting(c.ID).Cutting.Judgement.School, "round %d", round)
		var numbers show.NumbersInUse
		g.ok("GET", "/api/planner-numbers", nil, &numbers)
		for _, n := range numbers.Numbers {
			if n.Number.Key == "cutplan.die_back" {
				require.InDelta(t, value, n.Number.Value, 1e-9, "round %d", round)
			}
		}
	}
}

// A device whose clock runs ahead has not decided in the future: a later choice elsewhere holds.
func TestClockRunningAheadDecidesNothingForEver(t *testing.T) {
	db := storetest.Open(t)
	g := serve(t, db, now)
	pieces, _ := g.pieces(20)
	ahead := door.SchoolChoice{ID: idAt(now.AddDate(0, 0, 40)), CuttingID: pieces[0].ID, School: plant.FullRoots}
	require.Equal(t, "kept", g.batch(sent(t, "school", ahead))[0].Outcome)
	later := serve(t, db, now.Add(time.Hour))
	require.Equal(t, "kept", later.batch(sent(t, "school", door.SchoolChoice{ID: idAt(now.Add(30 * time.Minute)), CuttingID: pieces[0].ID, School: plant.EarlyRoots}))[0].Outcome)
	require.Equal(t, plant.EarlyRoots, later.cutting(pieces[0].ID).Cutting.Judgement.School)
}

// A photo that is here already keeps its first id; a look that names it by the second is of the same photo.
func TestLookMayNameAPhotoByAnyIDItWasSentUnder(t *testing.T) {
	g := newGrower(t)
	pieces, _ := g.pieces(20)
	raw := asJPEG(t, picture(64, 64))
	first := g.keep(raw)
	second := id()
	g.ok("POST", fmt.Sprintf("/api/photos?id=%s", second), raw, nil)
	look := looking(pieces[0], 3, plant.Look{})
	look.PhotoID = &second
	require.Equal(t, "kept", g.batch(sent(t, "look", look))[0].Outcome)
	require.Equal(t, first.ID, g.cutting(pieces[0].ID).Looks[0].Photo.ID)
}
