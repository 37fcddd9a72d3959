package server_test

import (
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"net/url"
	"os"
	"sort"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/core/readiness"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/door"
	"clearjar/propagation/show"
	"clearjar/server"
	"clearjar/store"
	"clearjar/store/storetest"
)

func (g grower) withdraw(kind string, about uuid.UUID) {
	g.t.Helper()
	g.ok("POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: kind, About: about}, nil)
}

// event is the newest of a kind in a cutting's history.
func event(p show.CuttingPage, kind string) (last show.Event) {
	for _, e := range p.History {
		if e.Kind == kind {
			last = e
		}
	}
	return last
}

// Everything that was noted can be put right, and what it said before stays to be seen.
func TestRecordsAreCorrectedAndTheOldValueStays(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	cuttings, jar := g.pieces(40)
	c := cuttings[0]
	var m show.Mother
	was := door.MotherWords{Name: "Rhaphidophora cryptantha", GroupKey: "thick_climber", Pattern: "plain"}
	becomes := was
	becomes.Name, becomes.Provenance = "Rhaphidophora hayi", "The label was wrong"
	g.ok("PUT", "/api/mothers/"+c.MotherID.String(), door.Correction[door.MotherWords]{ID: id(), Was: &was, Becomes: becomes}, &m)
	require.Equal(t, "Rhaphidophora hayi", m.Name)
	require.Contains(t, m.Corrections[0].Says, "name was Rhaphidophora cryptantha, now Rhaphidophora hayi")
	require.Equal(t, c.Code, g.cutting(c.ID).Cutting.Code, "tags that are printed keep their meaning")
	stale := g.refused(http.StatusConflict, "PUT", "/api/mothers/"+c.MotherID.String(), door.Correction[door.MotherWords]{ID: id(), Was: &was, Becomes: was})
	require.NotEmpty(t, stale.Theirs)

	var v propagation.VesselView
	words := door.VesselWords{Name: "Tall jar", Place: "Upper shelf", Vessel: jar.Vessel}
	words.HeightMM = 160
	g.ok("PUT", "/api/vessels/"+jar.ID.String(), door.Correction[door.VesselWords]{ID: id(), Becomes: words}, &v)
	require.Equal(t, []any{"Tall jar", 160.0}, []any{v.Name, v.HeightMM})
	words.Holds = 1
	require.Contains(t, g.refused(http.StatusUnprocessableEntity, "PUT", "/api/vessels/"+jar.ID.String(), door.Correction[door.VesselWords]{ID: id(), Becomes: words}).Detail, "2 stand in it")
	words.Holds, words.Medium = 4, plant.Moss
	g.refused(http.StatusUnprocessableEntity, "PUT", "/api/vessels/"+jar.ID.String(), door.Correction[door.VesselWords]{ID: id(), Becomes: words})
	var place propagation.Place
	g.ok("PUT", "/api/places/"+v.PlaceID.String(), door.Correction[door.PlaceWords]{ID: id(), Becomes: door.PlaceWords{Name: "Attic"}}, &place)
	require.Equal(t, "Attic", place.Name)

	set := event(g.cutting(c.ID), "set")
	earlier := door.Correction[door.Dated]{ID: id(), Was: &door.Dated{On: set.On}, Becomes: door.Dated{On: set.On.AddDate(0, 0, 3)}}
	g.ok("PUT", "/api/dates/set/"+set.About.String(), earlier, nil)
	page := g.cutting(c.ID)
	require.Equal(t, 37, page.Cutting.Judgement.AgeDays)
	require.Contains(t, event(page, "set").Was[0], "on was 10 Apr 2026, now 13 Apr 2026")
	require.Contains(t, g.refused(http.StatusUnprocessableEntity, "PUT", "/api/dates/set/"+set.About.String(), door.Correction[door.Dated]{ID: id(), Becomes: door.Dated{On: set.On.AddDate(0, 0, -3)}}).Detail, "before the cut")
	cut := event(page, "cut")
	require.Contains(t, g.refused(http.StatusUnprocessableEntity, "PUT", "/api/dates/cut/"+cut.About.String(), door.Correction[door.Dated]{ID: id(), Becomes: door.Dated{On: now}}).Detail, "before")

	look := looking(c, 5, plant.Look{Stem: "firm"})
	g.ok("POST", "/api/looks", look, nil)
	right := looking(c, 4, plant.Look{Stem: "wrinkled"})
	right.Replaces = &look.ID
	g.ok("POST", "/api/looks", right, nil)
	page = g.cutting(c.ID)
	require.Len(t, page.Looks, 1)
	require.Contains(t, event(page, "look").Was[0], "firm")
}

// Lost by mistake: the record is reopened; the day and the reason can be chosen and changed.
func TestLostCuttingIsReopened(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	cuttings, _ := g.pieces(40)
	c := cuttings[0].ID
	var page show.CuttingPage
	g.ok("POST", "/api/outcomes", door.Ending{ID: id(), CuttingID: c, Outcome: readiness.Outcome{Kind: "lost", Why: "dried", On: now.AddDate(0, 0, -3)}}, &page)
	require.Contains(t, page.Cutting.Judgement.Sentence, "it dried up")
	right := propagation.OutcomeWords{Outcome: readiness.Outcome{Kind: "lost", Why: "rotted", On: now.AddDate(0, 0, -5)}}
	g.ok("PUT", "/api/outcomes/"+page.Outcome.ID.String(), door.Correction[propagation.OutcomeWords]{ID: id(), Becomes: right}, &page)
	require.Contains(t, page.Cutting.Judgement.Sentence, "it rotted")
	require.Contains(t, event(page, "outcome").Was[0], "why was dried, now rotted")
	g.refused(http.StatusUnprocessableEntity, "PUT", "/api/outcomes/"+page.Outcome.ID.String(), door.Correction[propagation.OutcomeWords]{ID: id(), Becomes: propagation.OutcomeWords{Outcome: readiness.Outcome{Kind: "established", On: now}}})
	var shelf show.Shelf
	g.ok("GET", "/api/shelf", nil, &shelf)
	require.Len(t, shelf.Cuttings, 1, "what ended leaves the shelf")
	var found show.Found
	g.ok("GET", "/api/find?q="+url.QueryEscape(strings.ToLower(page.Cutting.Code)), nil, &found)
	require.Equal(t, "lost", found.Cuttings[0].State)
	g.withdraw("outcome", page.Outcome.ID)
	page = g.cutting(c)
	require.NotEqual(t, plant.Lost, page.Cutting.Judgement.Verdict)
	require.Nil(t, page.Outcome)
	g.refused(http.StatusNotFound, "POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: "outcome", About: id()})
}

// Undo: each act is taken back in the reverse order, and what others rest on is not.
func TestActsAreTakenBackInReverseOrder(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	m := g.mother()
	stem := g.stem(m, 5)
	cut := cutOf(wishFor(stem, 60), now.AddDate(0, 0, -20))
	var made []conclude.ShelfCutting
	g.ok("POST", "/api/cuts", cut, &made)
	jar := g.jar(2)
	set := setting(made[0], jar)
	g.ok("POST", "/api/settings", set, nil)
	look := looking(made[0], 3, plant.Look{Stem: "firm"})
	g.ok("POST", "/api/looks", look, nil)
	pot := door.Potting{ID: id(), CuttingID: made[0].ID, Place: "Sill", PottedOn: now, Pot: smallPot}
	g.ok("POST", "/api/pottings", pot, nil)

	for _, c := range []struct {
		kind  string
		about uuid.UUID
	}{{"set", set.ID}, {"cut", cut.ID}, {"mother", m.ID}, {"stem", stem.ID}, {"vessel", jar.ID}} {
		g.refused(http.StatusConflict, "POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: c.kind, About: c.about})
	}
	g.withdraw("potted", pot.ID)
	require.Nil(t, g.cutting(made[0].ID).Cutting.PottedOn)
	g.withdraw("look", look.ID)
	require.Empty(t, g.cutting(made[0].ID).Looks)
	g.withdraw("set", set.ID)
	require.Nil(t, g.cutting(made[0].ID).Cutting.SetOn)
	g.withdraw("cut", cut.ID)
	g.refused(http.StatusNotFound, "GET", "/api/cuttings/"+made[0].ID.String(), nil)
	require.Equal(t, 5, g.page(m).Stems[0].Standing, "the nodes stand on the mother again")
	// And the same piece can be cut anew, under the same code.
	var again []conclude.ShelfCutting
	anew := cutOf(wishFor(stem, 60), now)
	g.ok("POST", "/api/cuts", anew, &again)
	require.Equal(t, made[0].Code, again[0].Code)
	g.withdraw("cut", anew.ID)
	g.withdraw("vessel", jar.ID)
	g.withdraw("stem", stem.ID)
	g.withdraw("mother", m.ID)
	var mothers []show.Mother
	g.ok("GET", "/api/mothers", nil, &mothers)
	require.Empty(t, mothers)
}

// A piece bought or found: its mother is known by name alone, and can be told of later.
func TestPieceIsBroughtInAsItIs(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	sort, _ := plant.Jar.Sort()
	for i, group := range plant.Groups() {
		for _, kind := range group.Kinds {
			for _, known := range []string{"day", "week", "month"} {
				var page show.CuttingPage
				b := door.Brought{
					ID: id(), Name: "Found " + group.Name, GroupKey: group.Key, Kind: kind, Nodes: 2, Leaves: 1, OwnRoots: kind == plant.Division, Since: now.AddDate(0, 0, -30), KnownTo: known,
					Vessel: &door.NewVessel{Name: fmt.Sprintf("Jar %d", i), Place: "Sill", Vessel: sort.Usual}, Seen: &plant.Look{Stem: "firm", Roots: []plant.Root{}, Buds: []plant.BudAt{}},
				}
				g.ok("POST", "/api/brought", b, &page)
				g.ok("POST", "/api/brought", b, &page)
				require.Equal(t, kind, page.Cutting.Kind)
				require.False(t, page.Cutting.MotherKnown)
				require.Len(t, page.Looks, 1)
				require.NotEmpty(t, page.Cutting.Judgement.Sentence)
				if known != "day" {
					require.Contains(t, page.History[0].Text, known)
				}
			}
		}
	}
	var mothers []show.Mother
	g.ok("GET", "/api/mothers", nil, &mothers)
	require.Len(t, mothers, len(plant.Groups()), "pieces of one name share the mother nobody knows")
	m := mothers[0]
	require.False(t, m.Known)
	words := door.MotherWords{Name: m.Name, GroupKey: m.Group.Key, Pattern: m.Pattern, Provenance: "Swapped at the market"}
	g.ok("PUT", "/api/mothers/"+m.ID.String(), door.Correction[door.MotherWords]{ID: id(), Becomes: words}, &m)
	require.True(t, m.Known)

	b := door.Brought{ID: id(), Name: "By mistake", GroupKey: "ivy", Kind: plant.Tip, Nodes: 1, Since: now, KnownTo: "day"}
	g.ok("POST", "/api/brought", b, nil)
	g.withdraw("brought", b.ID)
	g.ok("GET", "/api/mothers", nil, &mothers)
	require.Len(t, mothers, len(plant.Groups()))
}

// common practice, no source: cut back, reset in fresh medium; it is judged from what is left.
func TestCuttingBackIsAnAct(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	cuttings, jar := g.pieces(40)
	c := cuttings[0]
	seen := rooted(30, 22)
	seen.Stem, seen.RotMM, seen.RootFeel = "soft", 26, "mushy"
	g.ok("POST", "/api/looks", looking(c, 2, seen), nil)
	page := g.cutting(c.ID)
	require.Equal(t, plant.Rescue, page.Cutting.Judgement.Verdict)
	back := door.CutBack{ID: id(), CuttingID: c.ID, CutOn: now, RemovedMM: 34, GoneNodes: 1, BareNodes: []int{2}, VesselID: &jar.ID, SetNodes: 1}
	g.ok("POST", "/api/cut-backs", back, nil)
	page = g.cutting(c.ID)
	require.Equal(t, plant.Wait, page.Cutting.Judgement.Verdict, page.Cutting.Judgement.Sentence)
	require.Empty(t, page.Cutting.Seen.Roots)
	require.Zero(t, page.Cutting.Seen.RotMM)
	require.Equal(t, []any{1, 34.0, 1}, []any{page.Cutting.GoneNodes, page.Cutting.GoneMM, page.Cutting.SetNodes})
	require.Contains(t, event(page, "cut_back").Text, "Cut back by 34 mm, 1 node gone, roots taken off node 2")
	g.withdraw("cut_back", back.ID)
	page = g.cutting(c.ID)
	require.Equal(t, plant.Rescue, page.Cutting.Judgement.Verdict)
	require.Equal(t, 2, page.Cutting.SetNodes)
	unmeasured := door.CutBack{ID: id(), CuttingID: c.ID, CutOn: now, GoneNodes: 1}
	g.ok("POST", "/api/cut-backs", unmeasured, nil)
	require.Contains(t, event(g.cutting(c.ID), "cut_back").Text, "Cut back, how far was not measured, 1 node gone")
}

// Random acts on one cutting, each sent once or thrice, some taken back: the page reads the same whenever
// it is asked for, in every order of asking, and nothing is a 500.
func TestRandomLivesHoldTogether(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	r := rand.New(rand.NewPCG(5, 8))
	for range 6 {
		cuttings, jar := g.pieces(60)
		c := cuttings[0]
		for range 14 {
			on := now.AddDate(0, 0, -r.IntN(61))
			kind, act := "", id()
			var path string
			var in any
			switch r.IntN(7) {
			case 0:
				kind, path, in = "set", "/api/settings", door.Setting{ID: act, CuttingID: c.ID, VesselID: jar.ID, SetOn: on, SetNodes: 1}
			case 1, 2:
				l := looking(c, 0, rooted(float64(5+r.IntN(60)), 12))
				l.ID, l.LookedAt = act, on
				kind, path, in = "look", "/api/looks", l
			case 3:
				kind, path, in = "potted", "/api/pottings", door.Potting{ID: act, CuttingID: c.ID, Place: "Sill", PottedOn: on, Pot: smallPot}
			case 4:
				kind, path, in = "cut_back", "/api/cut-backs", door.CutBack{ID: act, CuttingID: c.ID, CutOn: on, RemovedMM: 5, GoneNodes: r.IntN(2)}
			case 5:
				kind, path, in = "outcome", "/api/outcomes", door.Ending{ID: act, CuttingID: c.ID, Outcome: readiness.Outcome{Kind: []string{"lost", "established"}[r.IntN(2)], On: on}}
			default:
				kind, path, in = "given", "/api/handovers", door.Handover{ID: act, CuttingID: c.ID, GivenOn: on}
			}
			status := g.send("POST", path, in, nil)
			require.Contains(t, []int{200, 409, 422}, status)
			for range r.IntN(3) {
				require.Equal(t, status, g.send("POST", path, in, nil), "%s again", kind)
			}
			if status == 200 && r.IntN(3) > 0 {
				require.Contains(t, []int{200, 409}, g.send("POST", "/api/withdrawals", door.Withdrawal{ID: id(), Kind: kind, About: act}, nil))
			}
			page := g.cutting(c.ID)
			require.NotEmpty(t, page.Cutting.Judgement.Sentence)
			require.True(t, sort.SliceIsSorted(page.History, func(i, j int) bool { return page.History[i].On.Before(page.History[j].On) }))
			require.Equal(t, page, g.cutting(c.ID))
		}
	}
}

// A database that hangs is answered within seconds: nothing was saved.
func TestHungDatabaseIsSaidWithinSeconds(t *testing.T) {
	t.Parallel()
	deaf, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { _ = deaf.Close() })
	go func() { // takes every connection and never says a word
		for {
			if _, err := deaf.Accept(); err != nil {
				return
			}
		}
	}()
	s, err := store.Open(t.Context(), "postgres://x:y@"+deaf.Addr().String()+"/z?sslmode=disable")
	require.NoError(t, err)
	t.Cleanup(s.Close)
	g := serveGrower(t, server.New(propagation.New(s, time.Now, time.UTC), fstest.MapFS{}, server.Options{NoSweep: true})).with("x")
	began := time.Now()
	require.Contains(t, g.refused(http.StatusServiceUnavailable, "GET", "/api/shelf", nil).Detail, "nothing was saved")
	require.Less(t, time.Since(began), 12*time.Second)
}

// Servers that start at once on one empty database take turns.
func TestTwoServersMigrateOneDatabase(t *testing.T) {
	t.Parallel()
	url := storetest.EmptyURL(t)
	done := make(chan error, 3)
	for range 3 {
		go func() {
			s, err := store.Open(t.Context(), url)
			if err == nil {
				defer s.Close()
				err = s.Migrate(t.Context())
			}
			done <- err
		}()
	}
	for range 3 {
		require.NoError(t, <-done)
	}
}

// More than any list was once cut at: all of it goes out, and comes in elsewhere as it was.
func TestLargeCollectionGoesOutWholeAndComesBack(t *testing.T) {
	t.Parallel()
	from, to := newGrower(t), newGrower(t)
	var file strings.Builder
	file.WriteString("mother,mother_name,group,pattern,provenance,stem,map_version,node,below_mm,leaf,bud\n")
	for i := range 1300 {
		code := fmt.Sprintf("%c%c%c", 'A'+i/676%26, 'A'+i/26%26, 'A'+i%26)
		for _, s := range []string{"A", "B"} {
			for n := 1; n <= 2; n++ {
				fmt.Fprintf(&file, "%s,Plant %d,ivy,plain,\"-from, =here\",%s,3,%d,30,true,dormant\n", code, i, s, n)
			}
		}
	}
	report := from.bring("/api/import/stems?format=csv", []byte(file.String()))
	require.Equal(t, []int{2600, 0, 200}, []int{report.Kept, report.BadCount, len(report.Names)}, report.Says)
	var mothers []show.Mother
	from.ok("GET", "/api/mothers", nil, &mothers)
	require.Len(t, mothers, 1300)
	require.Equal(t, 3, mothers[0].Stems[0].Version)
	for _, format := range []string{"json", "csv"} {
		out := from.download("/api/export/stems?format=" + format)
		require.Zero(t, to.bring("/api/import/stems?format="+format, out).BadCount)
		require.Equal(t, string(out), string(to.download("/api/export/stems?format="+format)))
	}
}

// A file of nothing but bad lines is answered in short.
func TestFileOfBadLinesIsAnsweredInShort(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	file := "mother,stem,node,below_mm\n" + strings.Repeat("x,y,z,w\n", 100_000)
	report := g.bring("/api/import/stems?format=csv&keep_good=true", []byte(file))
	require.Equal(t, 200, len(report.Bad))
	require.Greater(t, report.BadCount, 100_000)
	require.NotContains(t, fmt.Sprint(report.Bad), "strconv")
	lines := g.lines("/api/import/stems/progress?format=csv", []byte("mother,mother_name,group,stem,node,below_mm\nNEW,New,ivy,A,1,30\n"))
	require.Len(t, lines, 2)
	require.Contains(t, lines[0], `"done":1,"of":1`)
	require.Contains(t, lines[1], `"kept":1`)
	require.Contains(t, g.lines("/api/import/stems/progress?format=csv", []byte("colour\n"))[0], "is not known")
}

func (g grower) lines(path string, data []byte) []string {
	g.t.Helper()
	res, err := g.client.Post(g.base+path, "application/octet-stream", strings.NewReader(string(data)))
	require.NoError(g.t, err)
	defer func() { _ = res.Body.Close() }()
	got, err := io.ReadAll(res.Body)
	require.NoError(g.t, err)
	return strings.Split(strings.TrimSpace(string(got)), "\n")
}

// The place a photo was taken at leaves only when that is asked for.
func TestPhotoLeavesWithoutItsPlace(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	raw, err := os.ReadFile("../demo/photos/demo_aroid_day08.jpg")
	require.NoError(t, err)
	p := g.keep(raw)
	require.Equal(t, string(raw), string(g.download("/api/photos/"+p.ID.String()+"?location=true")))
	bare := g.download("/api/photos/" + p.ID.String())
	require.NotContains(t, string(bare), "2026:03:09")
	require.Less(t, len(bare), len(raw))
}

// Twenty mothers at once, and more than a hundred of one name: each gets a code of her own, and none a refusal.
func TestManyMothersOfOneName(t *testing.T) {
	t.Parallel()
	g := newGrower(t)
	const many = 120
	codes := make([]string, many)
	var wait sync.WaitGroup
	turn := make(chan struct{}, 20)
	for i := range codes {
		wait.Go(func() {
			turn <- struct{}{}
			defer func() { <-turn }()
			var m show.Mother
			if g.send("POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "Charlie vine", GroupKey: "ivy", Pattern: "plain"}}, &m) == http.StatusOK {
				codes[i] = m.Code
			}
		})
	}
	wait.Wait()
	seen := map[string]bool{}
	for _, c := range codes {
		require.NotEmpty(t, c)
		require.False(t, seen[c], c)
		seen[c] = true
	}
}
