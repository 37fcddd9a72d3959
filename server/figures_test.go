package server_test

import (
	"io"
	"net/http"
	"net/http/httptest"
	"testing"
	"testing/fstest"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/propagation"
	"clearjar/server"
	"clearjar/store/storetest"
)

// Figures name operations, and hold no secret and no id of what was asked for.
func TestFiguresNameOperationsOnly(t *testing.T) {
	t.Parallel()
	s := storetest.Open(t)
	f := server.NewFigures(s)
	g := serveGrower(t, server.New(propagation.New(s, time.Now, time.UTC), fstest.MapFS{"index.html": {Data: []byte("x")}}, server.Options{Demo: true, NoSweep: true, Figures: f}))
	g.ok("POST", "/api/sign-in/demo", map[string]string{}, nil)
	some := id().String()
	g.send("GET", "/api/cuttings/"+some, nil, nil)
	g.send("GET", "/api/calendar/secretsecret.ics", nil, nil)
	g.send("GET", "/mothers/"+some, nil, nil)
	for path, says := range map[string]string{"/healthz": "alive", "/readyz": "ready"} {
		res, err := g.client.Get(g.base + path)
		require.NoError(t, err)
		text, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		require.Contains(t, string(text), says)
	}
	out := httptest.NewRecorder()
	f.Handler().ServeHTTP(out, httptest.NewRequest(http.MethodGet, "/metrics", nil))
	text := out.Body.String()
	for _, has := range []string{`route="/api/cuttings/:id",status="404"`, `route="/api/calendar/:secret",status="401"`, `route="page",status="200"`, "clearjar_database_connections ", "go_goroutines"} {
		require.Contains(t, text, has)
	}
	require.NotContains(t, text, some)
	require.NotContains(t, text, "secretsecret")
}
