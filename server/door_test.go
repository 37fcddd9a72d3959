package server_test

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/core/readiness"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
)

// pieces cuts a stem of n nodes in two and sets both into one jar, so many days ago.
func (g grower) pieces(daysAgo int) (cuttings []conclude.ShelfCutting, jar propagation.VesselView) {
	g.t.Helper()
	stem := g.stem(g.mother(), 7)
	on := now.AddDate(0, 0, -daysAgo)
	g.ok("POST", "/api/cuts", cutOf(wishFor(stem, 60, 180), on), &cuttings)
	jar = g.jar(4)
	for _, c := range cuttings {
		g.ok("POST", "/api/settings", door.Setting{ID: id(), CuttingID: c.ID, VesselID: jar.ID, SetOn: on, SetNodes: 2}, nil)
	}
	return cuttings, jar
}

func (g grower) cutting(c uuid.UUID) (p show.CuttingPage) {
	g.t.Helper()
	g.ok("GET", "/api/cuttings/"+c.String(), nil, &p)
	return p
}

var smallPot = potting.Pot{TopMM: 80, BottomMM: 60, DepthMM: 80}

// The same fact is the same fact, however often and at once it is sent, and whatever happened since.
func TestAFactReplayedIsTheSameFact(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	cuttings, jar := g.pieces(40)
	c := cuttings[0]
	set := door.Setting{ID: id(), CuttingID: c.ID, VesselID: jar.ID, SetOn: now.AddDate(0, 0, -39), SetNodes: 2}
	g.ok("POST", "/api/settings", set, nil)
	pot := door.Potting{ID: id(), CuttingID: c.ID, Place: "Sill", PottedOn: now.AddDate(0, 0, -20), Pot: smallPot}
	var wait sync.WaitGroup
	status := make([]int, 20)
	for i := range status {
		wait.Go(func() { status[i] = g.send("POST", "/api/pottings", pot, nil) })
	}
	wait.Wait()
	for _, s := range status {
		require.Equal(t, http.StatusOK, s, "%v", status)
	}
	end := door.Ending{ID: id(), CuttingID: c.ID, Outcome: readiness.Outcome{Kind: "established", On: now}}
	for _, again := range []struct {
		path string
		fact any
	}{{"/api/outcomes", end}, {"/api/outcomes", end}, {"/api/pottings", pot}, {"/api/settings", set}} {
		g.ok("POST", again.path, again.fact, nil)
	}
	kinds := []string{}
	for _, e := range g.cutting(c.ID).History {
		kinds = append(kinds, e.Kind)
	}
	require.Equal(t, []string{"cut", "set", "set", "potted", "outcome"}, kinds)
	other := cuttings[1]
	lost := door.Ending{ID: id(), CuttingID: other.ID, Outcome: readiness.Outcome{Kind: "lost", Why: "rotted", On: now}}
	gave := door.Handover{ID: id(), CuttingID: other.ID, GivenOn: now.AddDate(0, 0, -1)}
	g.ok("POST", "/api/outcomes", lost, nil)
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/handovers", gave)
}

// The same id with other content is refused, with what was kept and what was sent: never silently dropped.
func TestSameIDWithOtherContentShowsBoth(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	cuttings, jar := g.pieces(40)
	c := cuttings[0].ID
	stem := g.stem(g.mother(), 4)
	other := g.mother()
	for path, two := range map[string][2]any{
		"POST /api/mothers":               twice(door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "One", GroupKey: "ivy", Pattern: "plain"}}, func(m *door.NewMother) { m.Name = "Other" }),
		"POST /api/vessels":               twice(door.NewVessel{ID: id(), Name: "One", Place: "Sill", Vessel: jar.Vessel}, func(v *door.NewVessel) { v.Name = "Other" }),
		"POST /api/looks":                 twice(looking(cuttings[0], 0, plant.Look{Stem: "firm"}), func(l *door.NewLook) { l.Seen.Stem = "soft" }),
		"POST /api/schools":               twice(door.SchoolChoice{ID: id(), CuttingID: c, School: plant.EarlyRoots}, func(s *door.SchoolChoice) { s.School = plant.FullRoots }),
		"POST /api/waterings":             twice(door.Watering{ID: id(), MotherID: other.ID, WateredOn: now}, func(w *door.Watering) { w.WateredOn = now.AddDate(0, 0, -1) }),
		"POST /api/settings":              twice(door.Setting{ID: id(), CuttingID: c, VesselID: jar.ID, SetOn: now, SetNodes: 2}, func(s *door.Setting) { s.SetNodes = 1 }),
		"POST /api/cut-backs":             twice(door.CutBack{ID: id(), CuttingID: c, CutOn: now, RemovedMM: 10}, func(b *door.CutBack) { b.RemovedMM = 12 }),
		"PUT /api/stems/" + id().String(): twice(door.StemMapping{FactID: id(), MotherID: other.ID, Stem: vine(3)}, func(m *door.StemMapping) { m.Stem = vine(4) }),
		"POST /api/plans":                 twice(door.NewPlan{ID: id(), PlanWish: wishFor(stem, 60)}, func(p *door.NewPlan) { p.Stems = wishFor(stem, 100).Stems }),
		"POST /api/planner-numbers":       twice(door.NumberChoice{ID: id(), Key: "cutplan.leafless", Kind: "value", Value: 0.3}, func(n *door.NumberChoice) { n.Value = 0.4 }),
		"POST /api/handovers":             twice(door.Handover{ID: id(), CuttingID: cuttings[1].ID, GivenOn: now}, func(h *door.Handover) { h.Note = "swapped" }),
	} {
		method, at, _ := strings.Cut(path, " ")
		g.ok(method, at, two[0], nil)
		g.ok(method, at, two[0], nil)
		var p struct {
			Theirs map[string]any `json:"theirs"`
			Yours  map[string]any `json:"yours"`
		}
		raw := g.refusedRaw(http.StatusConflict, method, at, two[1])
		require.NoError(t, json.Unmarshal(raw, &p), path)
		require.NotEmpty(t, p.Theirs, path)
		require.NotEmpty(t, p.Yours, path)
		require.NotEqual(t, p.Theirs, p.Yours, path)
	}
}

func twice[T any](a T, change func(*T)) [2]any {
	b := a
	change(&b)
	return [2]any{a, b}
}

// refusedRaw is the problem as it was written.
func (g grower) refusedRaw(status int, method, path string, in any) []byte {
	g.t.Helper()
	raw, err := json.Marshal(in)
	require.NoError(g.t, err)
	req, err := http.NewRequestWithContext(g.t.Context(), method, g.base+path, bytes.NewReader(raw))
	require.NoError(g.t, err)
	req.Header.Set("Content-Type", "application/json")
	res, err := g.client.Do(req)
	require.NoError(g.t, err)
	defer func() { _ = res.Body.Close() }()
	got, err := io.ReadAll(res.Body)
	require.NoError(g.t, err)
	require.Equal(g.t, status, res.StatusCode, "%s %s: %s", method, path, got)
	return got
}

// No list in any answer is null, of a fresh and of a lived-in garden, for all growth groups.
func TestNoListIsNull(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	check := func(path string) {
		res, err := g.client.Get(g.base + path)
		require.NoError(t, err)
		defer func() { _ = res.Body.Close() }()
		raw, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		require.Equal(t, http.StatusOK, res.StatusCode, "%s %s", path, raw)
		require.NotContains(t, string(raw), ":null", path)
	}
	for range 2 {
		for _, path := range []string{"/api/handbook", "/api/shelf", "/api/mothers", "/api/plans", "/api/planner-numbers", "/api/find?q=a"} {
			check(path)
		}
		for _, group := range plant.Groups() {
			var page show.CuttingPage
			g.ok("POST", "/api/brought", door.Brought{ID: id(), Name: "A " + group.Name, GroupKey: group.Key, Kind: group.Kinds[0], Nodes: 2, Leaves: 1, Since: now.AddDate(0, 0, -9), KnownTo: "week", Vessel: &door.NewVessel{Name: "Pot", Place: "Sill", Vessel: plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 100, WallMM: 2, FillMM: 60, Holds: 1}}}, &page)
			check("/api/cuttings/" + page.Cutting.ID.String())
			laid := g.refusedRaw(http.StatusOK, "POST", "/api/potting-table", show.TableWish{Cuttings: []uuid.UUID{page.Cutting.ID}})
			require.NotContains(t, string(laid), ":null")
			for _, sort := range plant.VesselSorts() {
				raw := g.refusedRaw(http.StatusOK, "POST", "/api/settings/try", show.SettingWish{Vessel: &sort.Usual, Pieces: []show.SettingPiece{{CuttingID: page.Cutting.ID}}})
				require.NotContains(t, string(raw), ":null", "%s", sort.Kind)
			}
			check("/api/mothers/" + page.Cutting.MotherID.String())
		}
	}
}

// One request never writes another: what is left of a refused body closes the connection.
func TestRestOfARefusedBodyIsNoRequest(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	inner, err := json.Marshal(door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Smuggled", GroupKey: "ivy", Pattern: "plain"}})
	require.NoError(t, err)
	host := strings.TrimPrefix(g.base, "http://")
	hidden := fmt.Sprintf("POST /api/mothers HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n%s", host, len(inner), inner)
	for path, most := range map[string]int{"/api/mothers": 4 << 20, "/api/looks": 4 << 20, "/api/photos?id=" + id().String(): 26 << 20, "/api/import/stems?format=csv": 16<<20 + 1<<10, "/api/measure": 4 << 20, "/api/nothing": 1 << 10} {
		for _, over := range []int{0, 100, 300 << 10} {
			conn, err := net.Dial("tcp", host)
			require.NoError(t, err)
			_ = conn.SetDeadline(time.Now().Add(20 * time.Second))
			body := strings.Repeat(" ", most) + strings.Repeat(hidden, 1+over/len(hidden))
			go func() {
				_, _ = fmt.Fprintf(conn, "POST %s HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n%s", path, host, len(body), body)
			}()
			answers := bufio.NewReader(conn)
			res, err := http.ReadResponse(answers, nil)
			if err == nil {
				require.GreaterOrEqual(t, res.StatusCode, 400, path)
				_, _ = io.Copy(io.Discard, res.Body)
				// What is left in the pipe gets no answer of its own.
				_ = conn.SetDeadline(time.Now().Add(400 * time.Millisecond))
				_, err = http.ReadResponse(answers, nil)
				require.Error(t, err, path)
			}
			_ = conn.Close()
		}
	}
	var mothers []show.Mother
	g.ok("GET", "/api/mothers", nil, &mothers)
	require.Empty(t, mothers)
}

// A body that comes too slowly is refused while the rest of it is on its way: that rest is no request either.
func TestRestOfASlowBodyIsNoRequest(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	host := strings.TrimPrefix(g.base, "http://")
	hidden := fmt.Sprintf("GET /api/shelf HTTP/1.1\r\nHost: %s\r\n\r\n", host)
	conn, err := net.Dial("tcp", host)
	require.NoError(t, err)
	defer func() { _ = conn.Close() }()
	_ = conn.SetDeadline(time.Now().Add(20 * time.Second))
	_, err = fmt.Fprintf(conn, "POST /api/looks HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n          ", host, 10+len(hidden))
	require.NoError(t, err)
	answers := bufio.NewReader(conn)
	res, err := http.ReadResponse(answers, nil)
	require.NoError(t, err)
	require.GreaterOrEqual(t, res.StatusCode, 400)
	_, _ = io.Copy(io.Discard, res.Body)
	_ = res.Body.Close()
	_, _ = fmt.Fprint(conn, hidden)
	_, err = http.ReadResponse(answers, nil)
	require.Error(t, err, "the rest of the body was answered as a request")
}

// Ten endings at once: a transaction takes no second connection, so nothing waits for itself.
func TestManyAtOnceDoNotStopTheDatabase(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	var all []conclude.ShelfCutting
	for range 6 {
		cuttings, _ := g.pieces(40)
		all = append(all, cuttings...)
	}
	var wait sync.WaitGroup
	status := make([]int, len(all))
	for i, c := range all {
		wait.Go(func() {
			status[i] = g.send("POST", "/api/outcomes", door.Ending{ID: id(), CuttingID: c.ID, Outcome: readiness.Outcome{Kind: "lost", On: now}}, nil)
		})
	}
	wait.Wait()
	require.NotContains(t, status, http.StatusServiceUnavailable)
	// A hundred mothers of one name at once each get a code of their own.
	codes := make([]int, 120)
	for i := range codes {
		wait.Go(func() {
			codes[i] = g.send("POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Hoya obovata", GroupKey: "wax_vine", Pattern: "plain"}}, nil)
		})
	}
	wait.Wait()
	for _, s := range append(status, codes...) {
		require.Equal(t, http.StatusOK, s)
	}
	var mothers []show.Mother
	g.ok("GET", "/api/mothers", nil, &mothers)
	seen := map[string]bool{}
	for _, m := range mothers {
		require.False(t, seen[m.Code], m.Code)
		seen[m.Code] = true
	}
	require.Len(t, mothers, 126)
}

// What was accepted, or was a 500, and must be neither.
func TestImpossibleFactsAreRefused(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	cuttings, jar := g.pieces(40)
	a, b := cuttings[0], cuttings[1]
	m := g.mother()
	stem := g.stem(m, 5)
	look := looking(a, 0, plant.Look{Stem: "firm"})
	g.ok("POST", "/api/looks", look, nil)
	of := func(change func(*door.NewLook)) door.NewLook {
		l := looking(b, 0, plant.Look{Stem: "firm"})
		change(&l)
		return l
	}
	root := plant.Root{Node: 1, Order: 1, LengthMM: 10, LowMM: 9, HighMM: 1e308, How: "typed"}
	own := id()
	mother := func(name, where string) door.NewMother {
		return door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: name, GroupKey: "ivy", Pattern: "plain", Provenance: where}}
	}
	otherStem := g.stem(g.mother(), 5)
	var plan bench.PreparedPlan
	g.ok("POST", "/api/plans", door.NewPlan{ID: id(), PlanWish: wishFor(otherStem, 60)}, &plan)
	foreign := cutOf(wishFor(stem, 60), now)
	foreign.PlanID = &plan.ID
	double := wishFor(stem, 60)
	double.Stems = append(double.Stems, double.Stems[0])
	bare := cutOf(wishFor(stem), now)
	mapping := func(version int, s plant.Stem) door.StemMapping {
		return door.StemMapping{FactID: id(), MotherID: m.ID, Version: version, Stem: s}
	}
	gone := cuttings[1]
	g.ok("POST", "/api/handovers", door.Handover{ID: id(), CuttingID: gone.ID, GivenOn: now}, nil)
	at := "/api/stems/" + stem.ID.String()
	for name, c := range map[string]struct {
		status       int
		method, path string
		in           any
	}{
		"a map far ahead of the one that stands": {http.StatusUnprocessableEntity, "PUT", at, mapping(2147483646, vine(5))},
		"the last version there can be":          {http.StatusUnprocessableEntity, "PUT", at, mapping(2147483647, vine(5))},
		"a map ahead by one":                     {http.StatusConflict, "PUT", at, mapping(2, vine(5))},
		"a map without nodes":                    {http.StatusUnprocessableEntity, "PUT", at, mapping(1, plant.Stem{ThicknessMM: 8, Nodes: []plant.Node{}})},
		"a look that replaces another cutting's": {http.StatusUnprocessableEntity, "POST", "/api/looks", of(func(l *door.NewLook) { l.Replaces = &look.ID })},
		"a look that replaces itself":            {http.StatusNotFound, "POST", "/api/looks", of(func(l *door.NewLook) { l.ID, l.Replaces = own, &own })},
		"a root that may be endless":             {http.StatusUnprocessableEntity, "POST", "/api/looks", of(func(l *door.NewLook) { l.Seen.RootsCounted, l.Seen.Roots = true, []plant.Root{root} })},
		"NUL in a note":                          {http.StatusUnprocessableEntity, "POST", "/api/looks", of(func(l *door.NewLook) { l.Seen.Note = "a\x00b" })},
		"NUL in a provenance":                    {http.StatusUnprocessableEntity, "POST", "/api/mothers", mother("Ivy", "a\x00b")},
		"a name nobody can see":                  {http.StatusUnprocessableEntity, "POST", "/api/mothers", mother("\u200b\u200b", "")},
		"a cut with another mother's plan":       {http.StatusUnprocessableEntity, "POST", "/api/cuts", foreign},
		"a cut without a knife":                  {http.StatusUnprocessableEntity, "POST", "/api/cuts", bare},
		"one stem twice in a cut":                {http.StatusUnprocessableEntity, "POST", "/api/cuts", cutOf(double, now)},
		"one stem twice in a plan":               {http.StatusUnprocessableEntity, "POST", "/api/plans/try", double},
		"one stem twice in a kept plan":          {http.StatusUnprocessableEntity, "POST", "/api/plans", door.NewPlan{ID: id(), PlanWish: double}},
		"setting what was given away":            {http.StatusConflict, "POST", "/api/settings", door.Setting{ID: id(), CuttingID: gone.ID, VesselID: jar.ID, SetOn: now, SetNodes: 1}},
		"potting what was given away":            {http.StatusConflict, "POST", "/api/pottings", door.Potting{ID: id(), CuttingID: gone.ID, Place: "Sill", PottedOn: now, Pot: smallPot}},
		"losing what was given away":             {http.StatusConflict, "POST", "/api/outcomes", door.Ending{ID: id(), CuttingID: gone.ID, Outcome: readiness.Outcome{Kind: "lost", On: now}}},
		"cutting back what was given away":       {http.StatusConflict, "POST", "/api/cut-backs", door.CutBack{ID: id(), CuttingID: gone.ID, CutOn: now, RemovedMM: 10}},
		"cutting back to nothing":                {http.StatusUnprocessableEntity, "POST", "/api/cut-backs", door.CutBack{ID: id(), CuttingID: a.ID, CutOn: now, RemovedMM: 10, GoneNodes: 9}},
		"cutting back nothing":                   {http.StatusUnprocessableEntity, "POST", "/api/cut-backs", door.CutBack{ID: id(), CuttingID: a.ID, CutOn: now}},
		"a piece brought in without a node":      {http.StatusUnprocessableEntity, "POST", "/api/brought", door.Brought{ID: id(), Name: "X", GroupKey: "ivy", Kind: plant.Tip, Since: now, KnownTo: "day"}},
		"a number out of range":                  {http.StatusUnprocessableEntity, "POST", "/api/planner-numbers", door.NumberChoice{ID: id(), Key: "cutplan.leafless", Kind: "value", Value: 1e300}},
	} {
		got := g.send(c.method, c.path, c.in, nil)
		require.Equal(t, c.status, got, name)
	}
	// An emoji is a name like any other, and prints.
	var leaf show.CuttingPage
	g.ok("POST", "/api/brought", door.Brought{ID: id(), Name: "\U0001F33F of the attic", GroupKey: "ivy", Kind: plant.Tip, Nodes: 2, Leaves: 1, Since: now, KnownTo: "day"}, &leaf)
	require.NotEmpty(t, g.download("/api/tags.pdf?cuttings="+leaf.Cutting.ID.String()))
}

// Two mothers are not raised from one cutting, and none from a lost one.
func TestOneCuttingRaisesOneMother(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	cuttings, _ := g.pieces(60)
	raise := func(from uuid.UUID) door.NewMother {
		return door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Daughter", GroupKey: "thick_climber", Pattern: "plain"}, FromCutting: &from}
	}
	g.ok("POST", "/api/mothers", raise(cuttings[0].ID), nil)
	g.refused(http.StatusConflict, "POST", "/api/mothers", raise(cuttings[0].ID))
	g.ok("POST", "/api/outcomes", door.Ending{ID: id(), CuttingID: cuttings[1].ID, Outcome: readiness.Outcome{Kind: "lost", On: now}}, nil)
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/mothers", raise(cuttings[1].ID))
}

// Answers stay where they belong, and no client takes more than its share.
func TestHeadersKeepOthersOut(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	res, err := g.client.Get(g.base + "/api/shelf")
	require.NoError(t, err)
	defer func() { _ = res.Body.Close() }()
	for name, want := range map[string]string{"Cache-Control": "no-store", "Cross-Origin-Opener-Policy": "same-origin", "Cross-Origin-Resource-Policy": "same-origin", "X-Content-Type-Options": "nosniff"} {
		require.Equal(t, want, res.Header.Get(name))
	}
	limited := false
	for range 1500 {
		limited = limited || g.send("GET", "/api/nothing", nil, nil) == http.StatusTooManyRequests
	}
	require.True(t, limited, "a client that asks without end is slowed down")
}
