package server_test

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/cutplan"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/bench"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
	"clearjar/server"
	"clearjar/store"
	"clearjar/store/storetest"
)

// now is a day in the bright half of the year.
var now = time.Date(2026, 5, 20, 12, 0, 0, 0, time.UTC)

// grower talks to a server with a database of its own.
type grower struct {
	t      *testing.T
	base   string
	client *http.Client
}

func newGrower(t *testing.T) grower {
	t.Helper()
	return serve(t, storetest.Open(t), now)
}

// serve starts a server whose clock stands still.
func serve(t *testing.T, s *store.Store, at time.Time) grower {
	t.Helper()
	garden := propagation.New(s, func() time.Time { return at }, time.UTC)
	front := fstest.MapFS{"index.html": {Data: []byte("<title>Clear Jar</title>")}}
	g := serveGrower(t, server.New(garden, front, server.Options{Demo: true, NoSweep: true}))
	g.ok("POST", "/api/sign-in/demo", map[string]string{"device": "Test"}, nil)
	return g
}

// apart is the same server seen from another browser, in which nobody is signed in.
func (g grower) apart() grower {
	jar, err := cookiejar.New(nil)
	require.NoError(g.t, err)
	return grower{g.t, g.base, &http.Client{Jar: jar}}
}

func id() uuid.UUID { return uuid.Must(uuid.NewV7()) }

// send writes in as JSON and reads the answer into out; it gives the status.
func (g grower) send(method, path string, in, out any) int {
	g.t.Helper()
	var body io.Reader
	switch b := in.(type) {
	case nil:
	case []byte:
		body = bytes.NewReader(b)
	default:
		raw, err := json.Marshal(in)
		require.NoError(g.t, err)
		body = bytes.NewReader(raw)
	}
	req, err := http.NewRequestWithContext(g.t.Context(), method, g.base+path, body)
	require.NoError(g.t, err)
	if _, raw := in.([]byte); raw {
		req.Header.Set("Content-Type", "application/octet-stream")
	} else {
		req.Header.Set("Content-Type", "application/json")
	}
	res, err := g.client.Do(req)
	require.NoError(g.t, err)
	defer func() { _ = res.Body.Close() }()
	got, err := io.ReadAll(res.Body)
	require.NoError(g.t, err)
	if out != nil && res.StatusCode < 300 {
		require.NoError(g.t, json.Unmarshal(got, out), "%s", got)
	} else if p, ok := out.(*problem); ok {
		require.NoError(g.t, json.Unmarshal(got, p), "%s", got)
		require.Equal(g.t, "application/problem+json", res.Header.Get("Content-Type"))
	}
	if res.StatusCode >= 500 && res.StatusCode != http.StatusServiceUnavailable {
		g.t.Errorf("%s %s: %d %s", method, path, res.StatusCode, got)
	}
	return res.StatusCode
}

// ok sends and wants it taken.
func (g grower) ok(method, path string, in, out any) {
	g.t.Helper()
	var p problem
	if out == nil {
		out = &json.RawMessage{}
	}
	if status := g.send(method, path, in, out); status >= 300 {
		g.send(method, path, in, &p)
		require.Fail(g.t, "refused", "%s %s: %d %+v", method, path, status, p)
	}
}

type problem struct {
	Title  string             `json:"title"`
	Status int                `json:"status"`
	Detail string             `json:"detail"`
	Fields []plant.FieldError `json:"fields"`
	Theirs json.RawMessage    `json:"theirs"`
}

// refused sends and wants a problem of that status.
func (g grower) refused(status int, method, path string, in any) problem {
	g.t.Helper()
	var p problem
	require.Equal(g.t, status, g.send(method, path, in, &p), "%+v", p)
	require.NotEmpty(g.t, p.Detail)
	return p
}

func vine(nodes int) plant.Stem {
	s := plant.Stem{BeyondMM: 30, ThicknessMM: 8, TipIntact: true}
	for range nodes {
		s.Nodes = append(s.Nodes, plant.Node{BelowMM: 40, Leaf: true, Bud: plant.BudDormant})
	}
	return s
}

func (g grower) mother() show.Mother {
	var m show.Mother
	g.ok("POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Rhaphidophora cryptantha", GroupKey: "thick_climber", Pattern: "plain"}}, &m)
	return m
}

func (g grower) stem(m show.Mother, nodes int) bench.MappedStem {
	var s bench.MappedStem
	g.ok("PUT", "/api/stems/"+id().String(), door.StemMapping{FactID: id(), MotherID: m.ID, Stem: vine(nodes)}, &s)
	return s
}

// wish is a plan for one stem under the usual limits; knives are checked when given.
func wishFor(s bench.MappedStem, knives ...float64) bench.PlanWish {
	w := bench.PlanWish{Stems: []bench.StemWish{{StemID: s.ID, Version: s.Version, KnivesMM: knives}}}
	w.Limits = cutplan.DefaultLimits()
	return w
}

func (g grower) plan(w bench.PlanWish) bench.PlanAnswer {
	var a bench.PlanAnswer
	g.ok("POST", "/api/plans/try", w, &a)
	return a
}

func cutOf(w bench.PlanWish, on time.Time) door.Cut {
	return door.Cut{ID: id(), CutOn: on, Stems: w.Stems, Wish: w.Wish}
}

func (g grower) cut(s bench.MappedStem) []conclude.ShelfCutting {
	plan := g.plan(wishFor(s)).Stems[0].Plan
	var made []conclude.ShelfCutting
	g.ok("POST", "/api/cuts", cutOf(wishFor(s, plan.KnivesMM...), now.AddDate(0, 0, -20)), &made)
	return made
}

func (g grower) jar(holds int) propagation.VesselView {
	var v propagation.VesselView
	g.ok("POST", "/api/vessels", door.NewVessel{
		ID: id(), Name: "Jar", Place: "Sill",
		Vessel: plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 120, WallMM: 2, FillMM: 80, Holds: holds},
	}, &v)
	return v
}

func setting(c conclude.ShelfCutting, v propagation.VesselView) door.Setting {
	return door.Setting{ID: id(), CuttingID: c.ID, VesselID: v.ID, SetOn: now.AddDate(0, 0, -20), SetNodes: 2}
}

func looking(c conclude.ShelfCutting, daysAgo int, seen plant.Look) door.NewLook {
	if seen.Roots == nil {
		seen.Roots = []plant.Root{}
	}
	if seen.Buds == nil {
		seen.Buds = []plant.BudAt{}
	}
	return door.NewLook{ID: id(), CuttingID: c.ID, LookedAt: now.AddDate(0, 0, -daysAgo), Seen: seen}
}

func rooted(lengths ...float64) plant.Look {
	l := plant.Look{RootsCounted: true, Stem: "firm"}
	for i, mm := range lengths {
		l.Roots = append(l.Roots, plant.Root{Node: i%2 + 1, Order: 1, LengthMM: mm, LowMM: mm, HighMM: mm, Colour: plant.White, How: "typed"})
	}
	return l
}

func serveGrower(t *testing.T, h http.Handler) grower {
	t.Helper()
	srv := httptest.NewServer(h)
	t.Cleanup(srv.Close)
	return grower{t: t, base: srv.URL}.apart()
}

// with has a cookie of a log-in, whatever it opens.
func (g grower) with(token string) grower {
	at, err := url.Parse(g.base)
	require.NoError(g.t, err)
	g.client.Jar.SetCookies(at, []*http.Cookie{{Name: "clearjar", Value: token}})
	return g
}
