package server_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/life"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
	"clearjar/store"
	"clearjar/store/storetest"
)

// shelf is everything that stands, as the screen reads it.
func (g grower) shelf() (out []conclude.ShelfCutting) {
	g.t.Helper()
	var s show.Shelf
	g.ok("GET", "/api/shelf", nil, &s)
	for _, on := range s.Cuttings {
		c, err := on.Cutting()
		require.NoError(g.t, err)
		out = append(out, c)
	}
	return out
}

func exec(t *testing.T, s *store.Store, sql string, args ...any) {
	t.Helper()
	_, err := s.Pool.Exec(store.As(t.Context(), store.First), sql, args...)
	require.NoError(t, err)
}

// Through random lives, what is kept beside the facts is always what would be concluded from them anew, and the
// database and the core agree on what stands where.
func TestKeptConclusionsAreThoseJudgedAnew(t *testing.T) {
	t.Parallel()
	db := storetest.Open(t)
	g := serve(t, db, now)
	r := rand.New(rand.NewPCG(8, 8))
	cuttings, jar := g.pieces(60)
	other := g.jar(5)
	for step := range 60 {
		c := cuttings[r.IntN(len(cuttings))]
		on := now.AddDate(0, 0, -r.IntN(50))
		act := id()
		kind, fact := "", any(nil)
		switch r.IntN(9) {
		case 0:
			kind, fact = "setting", door.Setting{ID: act, CuttingID: c.ID, VesselID: []propagation.VesselView{jar, other}[r.IntN(2)].ID, SetOn: on, SetNodes: 1}
		case 1, 2:
			l := looking(c, 0, rooted(float64(3+r.IntN(40)), 9))
			l.ID, l.LookedAt = act, on
			kind, fact = "look", l
		case 3:
			kind, fact = "potting", door.Potting{ID: act, CuttingID: c.ID, Place: "Sill", PottedOn: on, Pot: smallPot}
		case 4:
			kind, fact = "outcome", door.Ending{ID: act, CuttingID: c.ID, Outcome: life.Outcome{Kind: []string{"lost", "established"}[r.IntN(2)], On: on}}
		case 5:
			kind, fact = "handover", door.Handover{ID: act, CuttingID: c.ID, GivenOn: on}
		case 6:
			kind, fact = "school", door.SchoolChoice{ID: act, CuttingID: c.ID, School: []plant.SchoolKey{plant.EarlyRoots, plant.FullRoots}[r.IntN(2)]}
		case 7:
			kind, fact = "mother_correction", map[string]any{"id": act, "about": c.MotherID, "becomes": door.MotherWords{Name: fmt.Sprintf("Name %d", step), GroupKey: plant.Groups()[r.IntN(19)].Key, Pattern: "plain"}}
		default:
			kind, fact = "vessel_correction", map[string]any{"id": act, "about": jar.ID, "becomes": door.VesselWords{Name: fmt.Sprintf("Jar %d", step), Place: []string{"Sill", "Cabinet"}[r.IntN(2)], Vessel: jar.Vessel}}
		}
		kept := g.batch(sent(t, kind, fact))[0].Outcome == "kept"
		if kept && r.IntN(2) == 0 {
			name := map[string]string{"setting": "set", "potting": "potted", "handover": "given"}[kind]
			if name == "" {
				name = kind
			}
			g.batch(sent(t, "withdrawal", door.Withdrawal{ID: id(), Kind: name, About: act}))
		}
		shown, page := g.shelf(), g.page(show.Mother{ID: c.MotherID})
		exec(t, db, "delete from conclusion")
		require.Equal(t, shown, g.shelf(), "step %d: %s", step, kind)
		require.Equal(t, page, g.page(show.Mother{ID: c.MotherID}), "step %d: %s", step, kind)
		for _, s := range shown {
			require.True(t, s.Where.Stands())
			whole := g.cutting(s.ID)
			require.Equal(t, s.CuttingFacts.Today, whole.Cutting.Today)
			require.Equal(t, s.Judgement.Verdict, whole.Cutting.Judgement.Verdict)
			require.Equal(t, s.Judgement.Sentence, whole.Cutting.Judgement.Sentence)
		}
		standing := 0
		for _, p := range cuttings {
			if g.cutting(p.ID).Cutting.Where.Stands() {
				standing++
			}
		}
		require.Len(t, shown, standing, "what the database leaves out is what stands no longer")
	}
}

// A kept conclusion is never shown when the facts, the rules or the day are others.
func TestConclusionHoldsForItsFactsRulesAndDay(t *testing.T) {
	t.Parallel()
	db := storetest.Open(t)
	g := serve(t, db, now)
	pieces, _ := g.pieces(20)
	require.Len(t, g.shelf(), len(pieces))
	spoilt := func() {
		exec(t, db, `update conclusion set shelf = jsonb_set(shelf::jsonb, '{judgement,sentence}', '"kept"')::text`)
	}
	says := func(g grower) (out []string) {
		for _, c := range g.shelf() {
			out = append(out, c.Judgement.Sentence)
		}
		return out
	}
	spoilt()
	require.Equal(t, []string{"kept", "kept"}, says(g), "what holds is not judged again")
	require.NotContains(t, says(serve(t, db, now.AddDate(0, 0, 1))), "kept", "another day")
	require.NotContains(t, says(g), "kept", "and back")
	spoilt()
	exec(t, db, "update conclusion set rules = 'older'")
	require.NotContains(t, says(g), "kept", "other rules")
	spoilt()
	g.ok("POST", "/api/planner-numbers", door.NumberChoice{ID: id(), Key: "readiness.early.longest", Kind: "value", Value: 14}, nil)
	require.NotContains(t, says(g), "kept", "another number of the household's")
	spoilt()
	g.ok("POST", "/api/looks", looking(pieces[0], 1, plant.Look{Stem: "firm"}), nil)
	got := says(g)
	require.Contains(t, got, "kept", "the one nothing happened to")
	require.Len(t, got, 2)
	require.NotEqual(t, got[0], got[1], "the other is judged anew")

	// One that ended says the same on any day.
	g.ok("POST", "/api/outcomes", door.Ending{ID: id(), CuttingID: pieces[0].ID, Outcome: life.Outcome{Kind: "lost", Why: "rotted", On: now}}, nil)
	ended := func(g grower) conclude.ShelfCutting {
		for _, c := range g.page(show.Mother{ID: pieces[0].MotherID}).Cuttings {
			if c.ID == pieces[0].ID {
				return c
			}
		}
		return conclude.ShelfCutting{}
	}
	kept, later := ended(g).Judgement, serve(t, db, now.AddDate(0, 3, 0))
	require.Equal(t, kept, ended(later).Judgement)
	exec(t, db, "delete from conclusion")
	require.Equal(t, kept, ended(later).Judgement, "judged anew, months later, it is the same")
}

// Forecasts stay as they were issued, with their day, when later looks say otherwise.
func TestForecastsAreKeptAsTheyWereIssued(t *testing.T) {
	t.Parallel()
	db := storetest.Open(t)
	g := serve(t, db, now)
	pieces, _ := g.pieces(40)
	for i, mm := range []float64{6, 12, 19} {
		g.ok("POST", "/api/looks", looking(pieces[0], 20-7*i, rooted(mm)), nil)
	}
	g.ok("POST", "/api/schools", door.SchoolChoice{ID: id(), CuttingID: pieces[0].ID, School: plant.FullRoots}, nil)
	g.shelf()
	issued := func() []string {
		rows, err := db.ForecastsOf(store.As(t.Context(), store.First), pieces[0].ID)
		require.NoError(t, err)
		out := []string{}
		for _, r := range rows {
			if r.School == string(plant.FullRoots) {
				require.True(t, json.Valid(r.Forecast))
				out = append(out, r.IssuedOn.Time.Format(time.DateOnly)+" ready "+r.ReadyOn.Time.Format(time.DateOnly))
			}
		}
		return out
	}
	first := issued()
	require.NotEmpty(t, first)
	g.shelf()
	require.Equal(t, first, issued(), "looking again issues nothing new")
	g.ok("POST", "/api/looks", looking(pieces[0], 0, rooted(20)), nil)
	g.shelf()
	both := issued()
	require.Len(t, both, len(first)+1)
	require.Equal(t, first, both[:len(first)], "the earlier ones stay")
}
