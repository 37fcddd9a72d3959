package main

import (
	"bytes"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/require"

	"clearjar/core/climate"
	"clearjar/propagation/outside"
)

// The simulated hygrometer posts as a real one would: JSON, its key in the header, in parcels; what is refused is told.
func TestSensorSimPostsWithItsKey(t *testing.T) {
	got := []climate.Reading{}
	posts := 0
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Header.Get("Authorization") != "Bearer the-key" {
			w.WriteHeader(http.StatusUnauthorized)
			_, _ = w.Write([]byte(`{"detail": "This key is not known here."}`))
			return
		}
		var in struct {
			Readings []climate.Reading `json:"readings"`
		}
		_ = json.NewDecoder(r.Body).Decode(&in)
		posts++
		got = append(got, in.Readings...)
		_ = json.NewEncoder(w).Encode(outside.ReadingsTaken{Kept: len(in.Readings) - 1, RefusedCount: 1, Refused: []outside.RefusedReading{{Why: "lies in the future"}}})
	}))
	defer srv.Close()
	run := func(args ...string) (string, error) {
		cmd := sensorSimCommand()
		var out bytes.Buffer
		cmd.SetOut(&out)
		cmd.SetErr(&out)
		cmd.SetArgs(append([]string{"--address", srv.URL, "--once"}, args...))
		return out.String(), cmd.Execute()
	}
	_, err := run()
	require.ErrorContains(t, err, "CLEARJAR_SENSOR_KEY is not set")
	t.Setenv(sensorKeyName, "another")
	_, err = run()
	require.ErrorContains(t, err, "401: This key is not known here.")
	t.Setenv(sensorKeyName, "the-key")
	_, err = run("--past", "200h", "--faultless")
	require.NoError(t, err)
	require.Len(t, got, 2400)
	require.Equal(t, 3, posts, "1000 a post")
	for _, r := range got {
		require.NoError(t, r.Check())
	}
	_, err = run("--every", "1ms")
	require.ErrorContains(t, err, "--every is a second or more")
}
