package server_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/climate"
	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/outside"
	"clearjar/propagation/show"
	"clearjar/standin"
	"clearjar/store/storetest"
)

// sensor is a key for the shelf of a jar.
func (g grower) sensor() (outside.MadeKey, uuid.UUID) {
	jar := g.jar(2)
	var made outside.MadeKey
	g.ok("POST", "/api/outside-keys", outside.NewKey{ID: id(), What: outside.Sensor, Name: "Cabinet", PlaceID: &jar.PlaceID}, &made)
	return made, jar.PlaceID
}

// says posts readings as a sensor does.
func (g grower) says(secret string, readings []climate.Reading) (taken outside.ReadingsTaken, p problem) {
	g.t.Helper()
	raw, err := json.Marshal(map[string]any{"readings": readings})
	require.NoError(g.t, err)
	req, err := http.NewRequestWithContext(g.t.Context(), "POST", g.base+"/api/readings", bytes.NewReader(raw))
	require.NoError(g.t, err)
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("Authorization", "Bearer "+secret)
	res, err := g.client.Do(req)
	require.NoError(g.t, err)
	defer func() { _ = res.Body.Close() }()
	if res.StatusCode == http.StatusOK {
		require.NoError(g.t, json.NewDecoder(res.Body).Decode(&taken))
	} else {
		require.NoError(g.t, json.NewDecoder(res.Body).Decode(&p))
	}
	return taken, p
}

func air(at time.Time, tempC, humidity float64) climate.Reading {
	return climate.Reading{At: at, Air: climate.Air{TempC: tempC, HumidityPct: humidity}}
}

func (g grower) climate(place uuid.UUID, days int) (c show.PlaceClimate) {
	g.ok("GET", fmt.Sprintf("/api/places/%s/climate?days=%d", place, days), nil, &c)
	return c
}

func TestASensorIsHeardAndWhatCannotBeIsRefusedOneByOne(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	made, place := g.sensor()
	require.Equal(t, []string{"Nothing was read here yet."}, g.climate(place, 3).Says)
	minute := now.Truncate(time.Minute)
	taken, _ := g.says(made.Secret, []climate.Reading{
		air(minute.Add(-5*time.Minute), 23, 88),
		air(minute.Add(-10*time.Minute), 23, 88), // out of order
		air(minute.Add(-5*time.Minute), 23, 88),  // repeated
		air(minute.Add(-5*time.Minute+20*time.Second), 24, 80),
		air(minute, 85, 88), air(minute, 23, 120), air(minute, -60, -1),
		air(minute.Add(3*time.Hour), 23, 88),
		air(time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC), 23, 88),
	})
	require.Equal(t, 2, taken.Kept)
	require.Equal(t, 2, taken.Repeated)
	require.Equal(t, 5, taken.RefusedCount)
	require.Len(t, taken.Refused, 6, "one of them is wrong twice")
	fields := map[int]string{}
	for _, r := range taken.Refused {
		fields[r.Index] += r.Field + " "
	}
	require.Equal(t, map[int]string{4: "temp_c ", 5: "humidity_pct ", 6: "temp_c humidity_pct ", 7: "at ", 8: "at "}, fields)
	page := g.climate(place, 3)
	require.Equal(t, minute.Add(-5*time.Minute), page.Last.At.UTC())
	require.Equal(t, 23.0, page.Last.TempC)
	require.False(t, page.Sensors[0].Silent)
	n := 0
	for _, s := range page.Stretches {
		n += s.N
	}
	require.Equal(t, 2, n)
	again, _ := g.says(made.Secret, []climate.Reading{air(minute.Add(-5*time.Minute), 23, 88)})
	require.Equal(t, 1, again.Repeated)
	require.Zero(t, again.Kept)
}

func TestTenThousandAtOnceAndNotMore(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	made, place := g.sensor()
	many := make([]climate.Reading, 0, outside.MostReadings+1)
	for i := range outside.MostReadings {
		many = append(many, air(now.Add(-time.Duration(i)*time.Minute), 22, 80))
	}
	taken, p := g.says(made.Secret, many)
	require.Empty(t, p.Detail)
	require.Equal(t, outside.MostReadings, taken.Kept)
	_, p = g.says(made.Secret, append(many, air(now, 22, 80)))
	require.Equal(t, http.StatusUnprocessableEntity, p.Status)
	wrong := make([]climate.Reading, 500)
	for i := range wrong {
		wrong[i] = air(now, 99, 80)
	}
	taken, _ = g.says(made.Secret, wrong)
	require.Equal(t, 500, taken.RefusedCount, "all are counted")
	require.Len(t, taken.Refused, 100, "and the first named")
	require.NotEmpty(t, g.climate(place, 8).Stretches)
}

func TestARevokedKeyOpensNothing(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	made, place := g.sensor()
	one := []climate.Reading{air(now, 22, 80)}
	_, p := g.says("", one)
	require.Equal(t, http.StatusUnauthorized, p.Status)
	_, p = g.says("AAAA", one)
	require.Equal(t, http.StatusUnauthorized, p.Status)
	var key outside.OutsideKey
	for range 2 {
		g.ok("POST", "/api/outside-keys/"+made.ID.String()+"/revoke", nil, &key)
		require.NotNil(t, key.EndedAt)
	}
	_, p = g.says(made.Secret, one)
	require.Equal(t, http.StatusUnauthorized, p.Status)
	require.Contains(t, p.Detail, "revoked")
	require.Len(t, g.climate(place, 3).Sensors, 1, "what it said stays, and so does its name")
	g.refused(http.StatusNotFound, "POST", "/api/outside-keys/"+id().String()+"/revoke", nil)
	g.refused(http.StatusConflict, "POST", "/api/outside-keys", outside.NewKey{ID: made.ID, What: outside.Sensor, Name: "Cabinet", PlaceID: &place})
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/outside-keys", outside.NewKey{ID: id(), What: outside.Sensor, Name: "Cabinet"})
	nowhere := id()
	g.refused(http.StatusUnprocessableEntity, "POST", "/api/outside-keys", outside.NewKey{ID: id(), What: outside.Sensor, Name: "Cabinet", PlaceID: &nowhere})
}

func TestAFileOfReadingsIsReadOnce(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	made, place := g.sensor()
	var file strings.Builder
	file.WriteString("at,temp_c,humidity_pct\n")
	for _, r := range standin.Cabinet(time.UTC, 3).Between(now.AddDate(0, 0, -50), now, time.Hour) {
		if r.At.Year() > 2000 {
			fmt.Fprintf(&file, "%s,%g,%g\n", r.At.Format("2006-01-02 15:04"), r.TempC, r.HumidityPct)
		}
	}
	rows := strings.Count(file.String(), "\n") - 1
	path := "/api/import/readings?sensor=" + made.ID.String()
	report := g.bring(path, []byte(file.String()))
	require.Equal(t, rows, report.Kept, report.Says)
	report = g.bring(path, []byte(file.String()))
	require.Zero(t, report.Kept)
	require.Equal(t, rows, report.Same)
	n := 0
	for _, s := range g.climate(place, 60).Stretches {
		n += s.N
	}
	require.Equal(t, rows, n)

	again := newGrower(t)
	other, elsewhere := again.sensor()
	out := g.download("/api/places/" + place.String() + "/readings")
	report = again.bring("/api/import/readings?sensor="+other.ID.String(), out)
	require.Zero(t, report.BadCount)
	require.Equal(t, rows, report.Kept, "what goes out comes in")
	require.Equal(t, out, again.download("/api/places/"+elsewhere.String()+"/readings"))

	bad := "at,temp_c,humidity_pct\n2026-05-01T10:00:00Z,22,80\nyesterday,22,80\n2026-05-01 11:00,warm,80\n2026-05-01 12:00,22,101\n2031-01-01 12:00,22,80\n2026-05-01 13:00,22,\n"
	report = g.bring(path, []byte(bad))
	require.Zero(t, report.Kept)
	require.Equal(t, 5, report.BadCount)
	require.Equal(t, []int{3, 4, 5, 6, 7}, []int{report.Bad[0].Line, report.Bad[1].Line, report.Bad[2].Line, report.Bad[3].Line, report.Bad[4].Line})
	report = g.bring(path+"&keep_good=true", []byte(bad))
	require.Equal(t, 1, report.Kept+report.Same)
	g.refused(http.StatusUnprocessableEntity, "POST", path, []byte("when,temp\n"))
	g.refused(http.StatusNotFound, "POST", "/api/import/readings?sensor="+id().String(), []byte("at,temp_c,humidity_pct\n"))
}

// Heat that was measured where a vessel stands is heat for its care: mist morning and evening.
func TestMeasuredHeatIsKnownOnTheRound(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	made, place := g.sensor()
	taken, _ := g.says(made.Secret, []climate.Reading{air(now.Add(-time.Hour), 33, 60)})
	require.Equal(t, 1, taken.Kept)
	c := g.climate(place, 3)
	require.Contains(t, strings.Join(c.Says, " "), "too warm")
	require.Equal(t, climate.Unrooted, c.Stage)
	require.Len(t, c.Bands, 3)
}

func (g grower) ics(secret string) (status int, text string) {
	res, err := g.client.Get(g.base + "/api/calendar/" + secret + ".ics")
	require.NoError(g.t, err)
	defer func() { _ = res.Body.Close() }()
	raw, err := io.ReadAll(res.Body)
	require.NoError(g.t, err)
	if res.StatusCode == http.StatusOK {
		require.Equal(g.t, "text/calendar; charset=utf-8", res.Header.Get("Content-Type"))
	}
	return res.StatusCode, string(raw)
}

// starts are when the events of a calendar begin, by their names.
func starts(t *testing.T, text string) map[string]string {
	out := map[string]string{}
	for _, e := range events(t, text) {
		uid, err := e.Props.Text("UID")
		require.NoError(t, err)
		at, err := e.DateTimeStart(time.UTC)
		require.NoError(t, err)
		out[uid] = at.UTC().String()
	}
	return out
}

// events reads a calendar with a parser that is not ours and not the one that wrote it.
func events(t *testing.T, text string) []ical.Event {
	t.Helper()
	cal, err := ical.NewDecoder(strings.NewReader(text)).Decode()
	require.NoError(t, err)
	require.NotEmpty(t, cal.Children)
	return cal.Events()
}

// published: RFC 5545: CRLF, lines of at most 75 octets, at least one component; read with a parser from elsewhere.
func TestTheCalendarTellsEveryRoundAtItsHour(t *testing.T) {
	t.Parallel()
	// Three weeks around the end of summer time in Lisbon, on 25 October 2026.
	at := time.Date(2026, 10, 12, 6, 0, 0, 0, time.UTC)
	s := storetest.Open(t)
	g := serve(t, s, at)
	require.Equal(t, "kept", g.batch(sent(t, "household_correction", map[string]any{"id": id(), "becomes": propagation.HouseholdWords{TimeZone: "Europe/Lisbon"}}))[0].Outcome)
	var made outside.MadeKey
	g.ok("POST", "/api/outside-keys", outside.NewKey{ID: id(), What: outside.Calendar, Name: "Phone"}, &made)
	status, text := g.ics(made.Secret)
	require.Equal(t, http.StatusOK, status)
	require.Empty(t, events(t, text), "nothing stands, nothing is due")
	g.ok("POST", "/api/brought", door.Brought{
		ID: id(), Name: "Hoya; with, odd\\signs", GroupKey: "wax_vine", Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: at.AddDate(0, 0, -20), KnownTo: "day", SetNodes: 1,
		Vessel: &door.NewVessel{ID: id(), Name: "Jar; one, with a name long enough for its line to be folded, äöü", Place: "Sill", Vessel: plant.Vessel{Kind: plant.Jar, WidthMM: 80, DepthMM: 80, HeightMM: 120, WallMM: 2, FillMM: 80, Holds: 3}},
	}, nil)
	_, text = g.ics(made.Secret)
	for _, line := range strings.Split(strings.TrimSuffix(text, "\r\n"), "\r\n") {
		require.LessOrEqual(t, len(line), 75, line)
		require.NotContains(t, line, "\n")
	}
	lisbon, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	all := events(t, text)
	require.Greater(t, len(all), 5)
	uids, utc := map[string]bool{}, map[int]bool{}
	for _, e := range all {
		start, err := e.DateTimeStart(time.UTC)
		require.NoError(t, err)
		end, err := e.DateTimeEnd(time.UTC)
		require.NoError(t, err)
		require.True(t, start.Before(end))
		require.Equal(t, 9, start.In(lisbon).Hour(), "nine in the morning before and after the clocks change")
		utc[start.UTC().Hour()] = true
		uid, err := e.Props.Text("UID")
		require.NoError(t, err)
		uids[uid] = true
		summary, err := e.Props.Text("SUMMARY")
		require.NoError(t, err)
		require.Equal(t, "Round: 1 vessel", summary)
		description, err := e.Props.Text("DESCRIPTION")
		require.NoError(t, err)
		require.Contains(t, description, "Sill\n- Jar; one, with a name long enough for its line to be folded, äöü: ")
	}
	require.Len(t, uids, len(all))
	require.Equal(t, map[int]bool{8: true, 9: true}, utc)
	_, again := g.ics(made.Secret)
	require.Equal(t, text, again, "the same address tells the same rounds by the same names")
	later := serve(t, s, at.Add(9*time.Hour))
	_, again = later.ics(made.Secret)
	require.Equal(t, strings.Count(text, "BEGIN:VEVENT"), strings.Count(again, "BEGIN:VEVENT"))
	require.Equal(t, starts(t, text), starts(t, again), "also in the afternoon, when that of today was not done")

	g.ok("POST", "/api/outside-keys/"+made.ID.String()+"/revoke", nil, nil)
	status, text = g.ics(made.Secret)
	require.Equal(t, http.StatusUnauthorized, status)
	require.NotContains(t, text, "BEGIN:VCALENDAR")
	status, _ = g.ics("nothing")
	require.Equal(t, http.StatusUnauthorized, status)
}
