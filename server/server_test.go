package server_test

import (
	"encoding/json"
	"net/http"
	"os"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
	"clearjar/server"
	"clearjar/store"
)

func TestFromStemToPot(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	stem := g.stem(g.mother(), 7)
	require.Equal(t, "A", stem.Letter)
	pieces := g.cut(stem)
	require.Equal(t, "CRY-A2-3", pieces[0].Code)
	var after bench.MappedStem
	g.ok("GET", "/api/stems/"+stem.ID.String(), nil, &after)
	require.Len(t, after.Taken, 6)
	require.Equal(t, plant.LookAt, pieces[0].Judgement.Verdict, "cut, not set")

	c, jar := pieces[0], g.jar(3)
	g.ok("POST", "/api/settings", setting(c, jar), nil)
	var page show.CuttingPage
	g.ok("POST", "/api/looks", looking(c, 10, rooted(8, 6)), &page)
	require.Equal(t, plant.LookAt, page.Cutting.Judgement.Verdict, "ten days after a root of 8 mm a look pays")
	full := rooted(56, 40, 30)
	full.Roots = append(full.Roots, plant.Root{Node: 1, Order: 2, LengthMM: 5, LowMM: 5, HighMM: 5, How: "typed"})
	g.ok("POST", "/api/looks", looking(c, 1, full), &page)
	require.Equal(t, plant.Ready, page.Cutting.Judgement.Verdict)
	require.Len(t, page.Looks, 2, "the earlier look stays")

	g.ok("POST", "/api/schools", door.SchoolChoice{ID: id(), CuttingID: c.ID, School: plant.FirstLeaf}, &page)
	require.NotEqual(t, plant.Ready, page.Cutting.Judgement.Verdict, "the verdict follows the school")

	var table show.PottingTable
	g.ok("POST", "/api/potting-table", show.TableWish{Cuttings: []uuid.UUID{c.ID}}, &table)
	require.Equal(t, 60.0, table.Pots[0].Pot.TopMM)
	g.ok("POST", "/api/pottings", door.Potting{ID: id(), CuttingID: c.ID, Place: "Sill", PottedOn: now, Pot: table.Pots[0].Pot}, &page)
	require.Equal(t, plant.GrowingOn, page.Cutting.Judgement.Verdict)
	require.NotEmpty(t, page.Care)
	// It has left its jar: there is room for three again.
	for _, other := range pieces[1:] {
		g.ok("POST", "/api/settings", setting(other, jar), nil)
	}
}

func TestRepeatedWriteIsOneWrite(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Hoya callistophylla", GroupKey: "wax_vine", Pattern: "plain"}}
	var first, second show.Mother
	g.ok("POST", "/api/mothers", m, &first)
	g.ok("POST", "/api/mothers", m, &second)
	require.Equal(t, first.Code, second.Code)
	stem := g.stem(first, 5)
	pieces := g.cut(stem)
	look := looking(pieces[0], 3, rooted(12))
	s := setting(pieces[0], g.jar(2))
	pot := door.Potting{ID: id(), CuttingID: pieces[0].ID, Place: "Sill", PottedOn: now, Pot: potting.Pot{TopMM: 80, BottomMM: 60, DepthMM: 80}}
	for range 2 {
		g.ok("POST", "/api/settings", s, nil)
		g.ok("POST", "/api/looks", look, nil)
	}
	g.ok("POST", "/api/pottings", pot, nil)
	g.ok("POST", "/api/pottings", pot, nil)
	var page show.CuttingPage
	g.ok("GET", "/api/cuttings/"+pieces[0].ID.String(), nil, &page)
	require.Len(t, page.Looks, 1)
	require.Len(t, page.History, 4)
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/mothers", door.NewMother{ID: uuid.New(), MotherWords: door.MotherWords{Name: "X", GroupKey: "wax_vine", Pattern: "plain"}})
}

func TestTwoTabsEditingOneStem(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	stem := g.stem(m, 4)
	edit := func(nodes, version int) door.StemMapping {
		return door.StemMapping{FactID: id(), MotherID: m.ID, Version: version, Stem: vine(nodes)}
	}
	path := "/api/stems/" + stem.ID.String()
	g.ok("PUT", path, edit(5, 1), nil)
	p := g.refused(http.StatusConflict, "PUT", path, edit(6, 1))
	var theirs bench.MappedStem
	require.NoError(t, json.Unmarshal(p.Theirs, &theirs))
	require.Equal(t, 2, theirs.Version)
	require.Len(t, theirs.Stem.Nodes, 5)
	g.ok("PUT", path, edit(6, 2), nil)
}

func TestNodesAreCutOnce(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	stem := g.stem(m, 6)
	cut := func(version int, knives ...float64) door.Cut {
		w := wishFor(stem, knives...)
		w.Stems[0].Version = version
		return cutOf(w, now)
	}
	g.ok("POST", "/api/cuts", cut(1, 180), nil)
	p := g.refused(http.StatusConflict, "POST", "/api/cuts", cut(1, 200))
	require.Contains(t, p.Detail, "already taken, perhaps in another tab")
	p = g.refused(http.StatusUnprocessableEntity, "POST", "/api/cuts", cut(1, 159))
	require.Contains(t, p.Detail, "on node 4")
	p = g.refused(http.StatusUnprocessableEntity, "POST", "/api/cuts", cut(1, 10))
	require.Contains(t, p.Detail, "leave at least one node")
	g.ok("PUT", "/api/stems/"+stem.ID.String(), door.StemMapping{FactID: id(), MotherID: m.ID, Version: 1, Stem: vine(7)}, nil)
	p = g.refused(http.StatusConflict, "POST", "/api/cuts", cut(1, 60))
	require.Contains(t, p.Detail, "has changed since the plan")
	p = g.refused(http.StatusUnprocessableEntity, "PUT", "/api/stems/"+stem.ID.String(), door.StemMapping{FactID: id(), MotherID: m.ID, Version: 2, Stem: vine(2)})
	require.Contains(t, p.Detail, "stays in its map")
}

func TestBadFactsAreRefusedAndNothingChanges(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	pieces := g.cut(g.stem(g.mother(), 7))
	jar := g.jar(1)
	g.ok("POST", "/api/settings", setting(pieces[0], jar), nil)

	p := g.refused(http.StatusConflict, "POST", "/api/settings", setting(pieces[1], jar))
	require.Contains(t, p.Detail, "full")
	p = g.refused(http.StatusUnprocessableEntity, "POST", "/api/looks", looking(pieces[0], 21, rooted(4)))
	require.Contains(t, p.Detail, "before the cut")
	require.Equal(t, "looked_at", p.Fields[0].Field)
	p = g.refused(http.StatusUnprocessableEntity, "POST", "/api/looks", looking(pieces[0], -9, rooted(4)))
	require.Contains(t, p.Detail, "in the future")
	wrongNode := rooted(4)
	wrongNode.Roots[0].Node = 9
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/looks", looking(pieces[0], 1, wrongNode))
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/looks", looking(pieces[0], 1, rooted(-4)))

	pot := func() door.Potting {
		return door.Potting{ID: id(), CuttingID: pieces[0].ID, Place: "Sill", PottedOn: now, Pot: potting.Pot{TopMM: 80, BottomMM: 60, DepthMM: 80}}
	}
	g.ok("POST", "/api/pottings", pot(), nil)
	p = g.refused(http.StatusConflict, "POST", "/api/pottings", pot())
	require.Contains(t, p.Detail, "already potted")

	bad := vine(3)
	bad.Nodes[1].BelowMM, bad.Nodes[2].BelowMM = -5, 99999
	p = g.refused(http.StatusUnprocessableEntity, "PUT", "/api/stems/"+id().String(), door.StemMapping{FactID: id(), MotherID: pieces[0].MotherID, Stem: bad})
	require.Len(t, p.Fields, 2)
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/measure", map[string]any{"scale": plant.Scale{DistanceMM: 50}, "paths": [][]plant.Point{}, "round_jar": true})
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/measure", map[string]any{"scale": plant.Scale{B: plant.Point{X: 100}}, "paths": [][]plant.Point{}, "round_jar": true})
	g.refused(http.StatusNotFound, "GET", "/api/cuttings/"+id().String(), nil)
	g.refused(http.StatusNotFound, "GET", "/api/nothing", nil)
}

func TestCorrectionReplacesALookAndKeepsIt(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	c := g.cut(g.stem(g.mother(), 5))[0]
	g.ok("POST", "/api/settings", setting(c, g.jar(1)), nil)
	first := looking(c, 2, rooted(12))
	g.ok("POST", "/api/looks", first, nil)
	better := looking(c, 2, rooted(15))
	better.Replaces = &first.ID
	var page show.CuttingPage
	g.ok("POST", "/api/looks", better, &page)
	require.Len(t, page.Looks, 1)
	require.Equal(t, 15.0, page.Cutting.LongestMM)
	late := looking(c, 2, rooted(99))
	late.Replaces = &first.ID
	require.Contains(t, g.refused(http.StatusConflict, "POST", "/api/looks", late).Detail, "corrected elsewhere")
}

func TestNamesWithHTMLComeBackAsTheyWere(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	var m show.Mother
	g.ok("POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: `<img src=x onerror="alert(1)">`, GroupKey: "wax_vine", Pattern: "plain"}}, &m)
	require.Equal(t, `<img src=x onerror="alert(1)">`, m.Name)
}

func TestOnlyThisMachineAndThisOrigin(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	ask := func(change func(r *http.Request)) int {
		req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, g.base+"/api/mothers", strings.NewReader("{}"))
		require.NoError(t, err)
		req.Header.Set("Content-Type", "application/json")
		change(req)
		res, err := g.client.Do(req)
		require.NoError(t, err)
		_ = res.Body.Close()
		return res.StatusCode
	}
	require.Equal(t, http.StatusUnprocessableEntity, ask(func(*http.Request) {}))
	require.Equal(t, http.StatusMisdirectedRequest, ask(func(r *http.Request) { r.Host = "garden.example" }))
	require.Equal(t, http.StatusForbidden, ask(func(r *http.Request) { r.Header.Set("Origin", "http://evil.example") }))
	require.Equal(t, http.StatusForbidden, ask(func(r *http.Request) { r.Header.Set("Sec-Fetch-Site", "cross-site") }))
}

func TestLostDatabaseSaysSo(t *testing.T) {
	t.Parallel()
	s, err := store.Open(t.Context(), "postgres://nobody:x@127.0.0.1:9/none?sslmode=disable")
	require.NoError(t, err)
	defer s.Close()
	srv := server.New(propagation.New(s, time.Now, time.UTC), fstest.MapFS{}, server.Options{NoSweep: true})
	g := serveGrower(t, srv).with("x")
	p := g.refused(http.StatusServiceUnavailable, "POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Hoya", GroupKey: "wax_vine", Pattern: "plain"}})
	require.Contains(t, p.Detail, "still on the screen")
}

func TestWrittenContractAndHandbookAreCurrent(t *testing.T) {
	t.Parallel()
	want, err := server.Contract()
	require.NoError(t, err)
	have, err := os.ReadFile("../api/openapi.json")
	require.NoError(t, err)
	require.True(t, string(want)+"\n" == string(have), "api/openapi.json is stale: run make contract")
	book, err := os.ReadFile("../docs/handbook.md")
	require.NoError(t, err)
	require.True(t, show.Book().Markdown() == string(book), "docs/handbook.md is stale: run make contract")
}

// Every operation has its room and says what a caller has to know; none is described that is not there.
func TestContractDescribesEveryOperation(t *testing.T) {
	t.Parallel()
	raw, err := server.Contract()
	require.NoError(t, err)
	var doc struct {
		Paths map[string]map[string]struct {
			OperationID string   `json:"operationId"`
			Description string   `json:"description"`
			Tags        []string `json:"tags"`
		} `json:"paths"`
	}
	require.NoError(t, json.Unmarshal(raw, &doc))
	seen := 0
	for path, ops := range doc.Paths {
		for _, op := range ops {
			seen++
			require.NotEmpty(t, op.Description, "%s %s", path, op.OperationID)
			require.Len(t, op.Tags, 1)
			require.NotEmpty(t, op.Tags[0], "%s %s", path, op.OperationID)
		}
	}
	require.Equal(t, server.Described(), seen)
}
