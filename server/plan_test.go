package server_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation/bench"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
)

func (g grower) page(m show.Mother) show.Mother {
	var out show.Mother
	g.ok("GET", "/api/mothers/"+m.ID.String(), nil, &out)
	return out
}

func TestSeveralStemsSharePlacesAndAreCutTogether(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	a, b := g.stem(m, 6), g.stem(m, 5)
	w := wishFor(a)
	w.Stems = append(w.Stems, bench.StemWish{StemID: b.ID, Version: b.Version})
	w.Limits.MostPieces = 3
	plan := g.plan(w)
	require.Len(t, plan.Stems, 2)
	require.Len(t, plan.Counts, 4, "three places for pieces of both stems")
	for i, s := range plan.Stems {
		w.Stems[i].KnivesMM = s.Plan.KnivesMM
	}
	var made []conclude.ShelfCutting
	c := cutOf(w, now)
	g.ok("POST", "/api/cuts", c, &made)
	require.Len(t, made, 3)
	var again []conclude.ShelfCutting
	g.ok("POST", "/api/cuts", c, &again)
	require.Equal(t, made[0].ID, again[0].ID, "the same cut twice is once")

	stranger := g.stem(g.mother(), 4)
	w.Stems[1] = bench.StemWish{StemID: stranger.ID}
	p := g.refused(http.StatusUnprocessableEntity, "POST", "/api/plans/try", w)
	require.Contains(t, p.Detail, "one mother")
}

func TestPlanIsPreparedTickedAndCarriedOutOnce(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	var m show.Mother
	g.ok("POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Hoya callistophylla", GroupKey: "wax_vine", Pattern: "plain"}}, &m)
	stem := g.stem(m, 6)
	w := wishFor(stem, g.plan(wishFor(stem)).Stems[0].Plan.KnivesMM...)
	var p bench.PreparedPlan
	g.ok("POST", "/api/plans", door.NewPlan{ID: id(), PlanWish: w}, &p)
	require.NotEmpty(t, p.Steps)

	// A callus timer starts with its step, and stands however often it is asked for.
	var timed bench.BenchStep
	for _, s := range p.Steps {
		if s.WaitHours > 0 {
			timed = s
			break
		}
	}
	require.NotEmpty(t, timed.TimerFrom)
	require.Nil(t, timed.ReadyAt)
	path := "/api/plans/" + p.ID.String()
	at := now.Add(-10 * time.Minute)
	g.ok("POST", path+"/ticks", door.Tick{ID: id(), Step: timed.TimerFrom, Done: true, TickedAt: at}, &p)
	for range 2 {
		g.ok("GET", path, nil, &p)
		for _, s := range p.Steps {
			if s.Key == timed.Key {
				// common practice, no source: wax vines dry an hour to a day.
				require.Equal(t, at.Add(time.Hour), s.ReadyAt.UTC())
				require.Equal(t, at.Add(24*time.Hour), s.AtLatest.UTC())
			}
		}
	}
	g.ok("POST", path+"/ticks", door.Tick{ID: id(), Step: timed.TimerFrom, Done: false, TickedAt: now}, nil)
	var unticked bench.PreparedPlan
	g.ok("GET", path, nil, &unticked)
	for _, s := range unticked.Steps {
		require.Nil(t, s.ReadyAt, "unticked, the timer is gone")
	}
	bad := g.refused(http.StatusUnprocessableEntity, "POST", path+"/ticks", door.Tick{ID: id(), Step: "dance", Done: true, TickedAt: now})
	require.Contains(t, bad.Detail, "not a step of this plan")

	var made []conclude.ShelfCutting
	cut := cutOf(w, now)
	cut.PlanID = &p.ID
	before := p.Stems
	g.ok("POST", "/api/cuts", cut, &made)
	p = bench.PreparedPlan{}
	g.ok("GET", path, nil, &p)
	require.Equal(t, before, p.Stems)
	require.NotNil(t, p.CutOn)
	require.Empty(t, p.Stale)
	require.Len(t, p.Cuttings, len(made))
	second := cutOf(w, now)
	second.PlanID = &p.ID
	twice := g.refused(http.StatusConflict, "POST", "/api/cuts", second)
	require.Contains(t, twice.Detail, "already carried out")
	var briefs bench.PlanList
	g.ok("GET", "/api/plans", nil, &briefs)
	require.True(t, briefs.Plans[0].Done)
}

func TestPlanOnAMapThatChangedIsStale(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	stem := g.stem(m, 6)
	w := wishFor(stem, 60, 140)
	var p bench.PreparedPlan
	g.ok("POST", "/api/plans", door.NewPlan{ID: id(), PlanWish: w}, &p)
	require.Empty(t, p.Stale)
	g.ok("PUT", "/api/stems/"+stem.ID.String(), door.StemMapping{FactID: id(), MotherID: m.ID, Version: 1, Stem: vine(7)}, nil)
	g.ok("GET", "/api/plans/"+p.ID.String(), nil, &p)
	require.Contains(t, p.Stale, "plan again")
	refused := g.refused(http.StatusConflict, "POST", "/api/cuts", cutOf(w, now))
	require.Contains(t, refused.Detail, "has changed since the plan")
	refused = g.refused(http.StatusConflict, "POST", "/api/plans", door.NewPlan{ID: id(), PlanWish: w})
	require.NotEmpty(t, refused.Theirs)
	w.Stems[0].Version = 2
	w.Stems[0].KnivesMM = nil
	w.Limits.KeepNodes = 60
	none := g.refused(http.StatusUnprocessableEntity, "POST", "/api/plans", door.NewPlan{ID: id(), PlanWish: w})
	require.Contains(t, none.Detail, "no knife")
}

// A stem that was cut before is prepared, cut elsewhere, and still shows the plan as it was made.
func TestPlanPageReadsTheSameWhateverIsCutLater(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	stem := g.stem(g.mother(), 8)
	g.ok("POST", "/api/cuts", cutOf(wishFor(stem, 270), now.AddDate(0, 0, -30)), nil) // nodes 7 and 8, not mid-internode
	keep := door.NewPlan{ID: id(), PlanWish: wishFor(stem, 60, 140)}
	var made, again, later bench.PreparedPlan
	g.ok("POST", "/api/plans", keep, &made)
	last := made.Stems[0].Plan.Pieces[1]
	require.Equal(t, []int{4, 6}, []int{last.First, last.Last})
	require.Equal(t, 270.0, last.ToMM, "where the knife went, not half way")
	g.ok("POST", "/api/cuts", cutOf(wishFor(stem, 220), now), nil)
	g.ok("POST", "/api/plans", keep, &again) // written twice is written once, whatever came between
	g.ok("GET", "/api/plans/"+keep.ID.String(), nil, &later)
	for _, p := range []bench.PreparedPlan{again, later} {
		require.Equal(t, made.Stems, p.Stems)
		require.Contains(t, p.Stale, "taken since")
	}
	page := g.page(show.Mother{ID: stem.MotherID})
	require.Equal(t, 5, page.Stems[0].Standing)
	require.Equal(t, 220.0, page.Stems[0].EndMM)
}

func TestGrowersOwnNumbersChangeThePlan(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	stem := g.stem(g.mother(), 6)
	before := g.plan(wishFor(stem))
	key := cutplan.BaselineKey("thick_climber", plant.Water)
	var numbers show.NumbersInUse
	find := func() show.PlannerNumber {
		for _, n := range numbers.Numbers {
			if n.Number.Key == key {
				return n
			}
		}
		return show.PlannerNumber{}
	}
	g.ok("POST", "/api/planner-numbers", door.NumberChoice{ID: id(), Key: key, Kind: "value", Value: 0.2}, &numbers)
	require.Equal(t, 0.2, find().Number.Value)
	require.Equal(t, plant.YourChoice, find().Number.Basis.Kind)
	require.Less(t, g.plan(wishFor(stem)).Expected, before.Expected)
	p := g.refused(http.StatusUnprocessableEntity, "POST", "/api/planner-numbers", door.NumberChoice{ID: id(), Key: key, Kind: "value", Value: 1.2})
	require.Contains(t, p.Detail, "between 0 and 1")
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/planner-numbers", door.NumberChoice{ID: id(), Key: "luck", Kind: "value", Value: 1})
	p = g.refused(http.StatusUnprocessableEntity, "POST", "/api/planner-numbers", door.NumberChoice{ID: id(), Key: key, Kind: "records"})
	require.Contains(t, p.Detail, "o record of yours")
	g.ok("POST", "/api/planner-numbers", door.NumberChoice{ID: id(), Key: key, Kind: "start"}, &numbers)
	require.InDelta(t, before.Expected, g.plan(wishFor(stem)).Expected, 1e-12)

	// Records: two nodes set, one rooted, the piece potted and grown on; sisters still standing say nothing yet,
	// nor does one that was given away, or that is potted and may still be lost.
	pieces := g.cut(stem)
	jar := g.jar(3)
	g.ok("POST", "/api/settings", setting(pieces[0], jar), nil)
	g.ok("POST", "/api/settings", setting(pieces[1], jar), nil)
	g.ok("POST", "/api/looks", looking(pieces[0], 5, rooted(40)), nil)
	g.ok("GET", "/api/planner-numbers", nil, &numbers)
	require.Zero(t, find().Tried)
	g.ok("POST", "/api/handovers", door.Handover{ID: id(), CuttingID: pieces[1].ID, GivenOn: now}, nil)
	g.ok("POST", "/api/pottings", door.Potting{ID: id(), CuttingID: pieces[0].ID, Place: "Sill", PottedOn: now.AddDate(0, 0, -10), Pot: smallPot}, nil)
	g.ok("GET", "/api/planner-numbers", nil, &numbers)
	require.Zero(t, find().Tried)
	g.ok("POST", "/api/outcomes", map[string]any{"id": id(), "cutting_id": pieces[0].ID, "kind": "established", "on": now}, nil)
	g.ok("POST", "/api/planner-numbers", door.NumberChoice{ID: id(), Key: key, Kind: "records"}, &numbers)
	require.Equal(t, []int{1, 2}, []int{find().Won, find().Tried})
	// by hand: (0.65*10 + 1) / (10 + 2)
	require.InDelta(t, 0.625, find().Number.Value, 1e-12)
	require.Equal(t, plant.YourRecords, find().Number.Basis.Kind)
}

func TestMotherTellsWhatWasTakenAndWhetherSheIsFit(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	require.Equal(t, "wait", m.Fit.Answer, "no stem is mapped")
	stem := g.stem(m, 6)
	require.Equal(t, "care", g.page(m).Fit.Answer, "no watering is on record")
	var watered show.Mother
	g.ok("POST", "/api/waterings", door.Watering{ID: id(), MotherID: m.ID, WateredOn: now.AddDate(0, 0, -1)}, &watered)
	require.Equal(t, "yes", watered.Fit.Answer)
	g.refused(http.StatusNotFound, "POST", "/api/waterings", door.Watering{ID: id(), MotherID: id(), WateredOn: now})
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/waterings", door.Watering{ID: id(), MotherID: m.ID, WateredOn: now.AddDate(0, 0, 9)})

	made := g.cut(stem)
	g.ok("POST", "/api/handovers", door.Handover{ID: id(), CuttingID: made[0].ID, GivenOn: now, Note: "swapped"}, nil)
	twice := g.refused(http.StatusConflict, "POST", "/api/handovers", door.Handover{ID: id(), CuttingID: made[0].ID, GivenOn: now})
	require.Contains(t, twice.Detail, "already")
	early := g.refused(http.StatusUnprocessableEntity, "POST", "/api/handovers", door.Handover{ID: id(), CuttingID: made[1].ID, GivenOn: now.AddDate(0, -3, 0)})
	require.Contains(t, early.Detail, "before the cut")
	// A mother raised from the other, and a stem that grew back.
	var daughter show.Mother
	g.ok("POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: m.Name, GroupKey: m.Group.Key, Pattern: "plain"}, FromCutting: &made[1].ID}, &daughter)
	shoot := vine(2)
	shoot.Sprang = &plant.Sprang{Letter: "A", Node: 1}
	g.ok("PUT", "/api/stems/"+id().String(), door.StemMapping{FactID: id(), MotherID: m.ID, Stem: shoot}, nil)

	page := g.page(m)
	require.Equal(t, show.Tally{Taken: 2, Standing: 1, Given: 1}, page.Tally)
	require.Len(t, page.Cuts, 1)
	require.Len(t, page.Cuts[0].Cuttings, 2)
	require.Equal(t, daughter.ID, page.Daughters[0].ID)
	require.Equal(t, "A", page.Stems[1].Stem.Sprang.Letter)
	require.Equal(t, "care", page.Fit.Answer, "cut twenty days ago")
	var cutting show.CuttingPage
	g.ok("GET", "/api/cuttings/"+made[0].ID.String(), nil, &cutting)
	require.NotNil(t, cutting.Cutting.GivenOn)
	require.Contains(t, cutting.History[len(cutting.History)-1].Text, "Given away")
}

func TestOfferAndHowMany(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	var a cutplan.OfferAnswer
	g.ok("POST", "/api/offers", show.OfferedPiece{GroupKey: "velvet_climber", Offer: cutplan.Offer{Node: cutplan.No, SoundMM: -1}}, &a)
	require.Contains(t, a.Verdict, "never grow")
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/offers", show.OfferedPiece{GroupKey: "moonflower"})
	var n show.HowManyAnswer
	g.ok("POST", "/api/how-many", show.HowManyWish{Plants: 2, Certainty: 0.9, Chance: 0.05}, &n)
	// general-purpose reference: R, k + qnbinom(0.9, 2, 0.05) = 77; naive 40.
	require.Equal(t, []int{77, 40}, []int{n.Pieces, n.Naive})
	require.Less(t, n.NaiveReached, 0.7)
	// general-purpose reference: beta-binomial with Beta(1, 1): 19 for two plants with 0.9.
	g.ok("POST", "/api/how-many", show.HowManyWish{Plants: 2, Certainty: 0.9, Chance: 0.5, Records: 2}, &n)
	require.Equal(t, 19, n.Pieces)
	require.Less(t, n.LowChance, 0.1)
	p := g.refused(http.StatusUnprocessableEntity, "POST", "/api/how-many", show.HowManyWish{Plants: 2, Certainty: 1, Chance: 0.5})
	require.Equal(t, "certainty", p.Fields[0].Field)
}

func TestTagsAreGivenAsPDF(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	made := g.cut(g.stem(g.mother(), 6))
	get := func(path string) (*http.Response, string) {
		res, err := g.client.Get(g.base + path)
		require.NoError(t, err)
		t.Cleanup(func() { _ = res.Body.Close() })
		head := make([]byte, 5)
		_, _ = res.Body.Read(head)
		return res, string(head)
	}
	res, head := get("/api/tags.pdf?size=hang&cuttings=" + made[0].ID.String() + "," + made[1].ID.String())
	require.Equal(t, http.StatusOK, res.StatusCode)
	require.Equal(t, "%PDF-", head)
	require.Contains(t, res.Header.Get("Content-Disposition"), "tags-hang.pdf")
	for path, status := range map[string]int{
		"/api/tags.pdf?cuttings=" + id().String(): http.StatusNotFound, "/api/tags.pdf?cuttings=x": http.StatusUnprocessableEntity,
		"/api/tags.pdf?size=poster&cuttings=" + made[0].ID.String(): http.StatusUnprocessableEntity,
	} {
		res, _ := get(path)
		require.Equal(t, status, res.StatusCode, path)
		require.True(t, strings.HasPrefix(res.Header.Get("Content-Type"), "application/problem+json"))
	}
}
