package server_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"slices"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/household"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/outside"
	"clearjar/propagation/show"
	"clearjar/server"
	"clearjar/store"
	"clearjar/store/storetest"
)

// clock is a time that tests move.
type clock struct {
	mu sync.Mutex
	at time.Time
}

func (c *clock) now() time.Time {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.at
}

func (c *clock) goes(d time.Duration) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.at = c.at.Add(d)
}

// passphrase that nobody guesses; made up for the tests.
const passphrase = "lantern gravel otter seventeen"

// house is a household whose keeper has come in by the first code.
type house struct {
	grower
	store *store.Store
	clock *clock
	door  *household.Door
	id    uuid.UUID
}

func newHouse(t *testing.T, s *store.Store, id uuid.UUID, base string, c *clock, name string) house {
	t.Helper()
	h := house{grower{t: t, base: base}.apart(), s, c, household.At(s, c.now), id}
	first, err := h.door.First(store.As(t.Context(), id))
	require.NoError(t, err)
	h.ok("POST", "/api/join", household.Joining{Code: first.Code, Household: "House of " + name, Name: name, SignInName: name, Passphrase: passphrase, Device: "Desk"}, nil)
	return h
}

func firstHouse(t *testing.T) house {
	t.Helper()
	s, c := storetest.Open(t), &clock{at: now}
	return newHouse(t, s, store.First, process(t, s, c), c, "ada")
}

// process is one more process that serves a database.
func process(t *testing.T, s *store.Store, c *clock) string {
	t.Helper()
	return serveGrower(t, server.New(propagation.New(s, c.now, time.UTC), fstest.MapFS{}, server.Options{NoSweep: true})).base
}

// joins lets somebody new in, in a browser of their own.
func (h house) joins(name string, role household.RoleKey) grower {
	h.t.Helper()
	var i household.MadeInvitation
	h.ok("POST", "/api/invitations", map[string]any{"name": name, "role": role}, &i)
	g := h.apart()
	g.ok("POST", "/api/join", household.Joining{Code: i.Code, Name: name, SignInName: name, Passphrase: passphrase, Device: "Phone"}, nil)
	return g
}

// raw sends a body as it is and gives the answer as it came.
func (g grower) raw(method, path, body string) (status int, got string) {
	g.t.Helper()
	req, err := http.NewRequestWithContext(g.t.Context(), method, g.base+path, strings.NewReader(body))
	require.NoError(g.t, err)
	req.Header.Set("Content-Type", "application/json")
	res, err := g.client.Do(req)
	require.NoError(g.t, err)
	defer func() { _ = res.Body.Close() }()
	all, err := io.ReadAll(res.Body)
	require.NoError(g.t, err)
	require.NotEqual(g.t, http.StatusInternalServerError, res.StatusCode, "%s %s: %s", method, path, all)
	return res.StatusCode, string(all)
}

func (g grower) me() server.WhoAmI {
	g.t.Helper()
	var w server.WhoAmI
	g.ok("GET", "/api/me", nil, &w)
	return w
}

func TestTheFirstCodeMakesTheKeeper(t *testing.T) {
	t.Parallel()
	s, c := storetest.Open(t), &clock{at: now}
	base := process(t, s, c)
	nobody := grower{t: t, base: base}.apart()
	require.Equal(t, "first_start", nobody.me().State)
	nobody.refused(http.StatusUnauthorized, "GET", "/api/shelf", nil)
	nobody.refused(http.StatusForbidden, "POST", "/api/sign-in/demo", map[string]string{})

	d := household.At(s, c.now)
	old, err := d.First(store.As(t.Context(), store.First))
	require.NoError(t, err)
	first, err := d.First(store.As(t.Context(), store.First))
	require.NoError(t, err)
	join := household.Joining{Code: old.Code, Household: "Attic", Name: "Ada", SignInName: "Ada", Passphrase: passphrase}
	p := nobody.refused(http.StatusForbidden, "POST", "/api/join", join)
	require.Contains(t, p.Detail, "taken back")
	// Typed in small letters, without lines, and with an O for a nought.
	join.Code = strings.ToLower(strings.ReplaceAll(strings.ReplaceAll(first.Code, "-", " "), "0", "O"))
	var o household.Offer
	nobody.ok("POST", "/api/join/look", map[string]string{"code": join.Code}, &o)
	require.Equal(t, household.Offer{Purpose: household.ForMember, Role: household.Keeper, RoleSays: household.Keeper.Row().Says}, o)
	join.Passphrase = "ada ada ada ada"
	p = nobody.refused(http.StatusUnprocessableEntity, "POST", "/api/join", join)
	require.Contains(t, p.Detail, "easily guessed")
	join.Passphrase = "short"
	require.Contains(t, nobody.refused(http.StatusUnprocessableEntity, "POST", "/api/join", join).Detail, "At least 12")
	join.Passphrase = passphrase
	nobody.ok("POST", "/api/join", join, nil)
	who := nobody.me()
	require.Equal(t, "signed_in", who.State)
	require.Equal(t, "Attic", who.Me.Household)
	require.Equal(t, household.Keeper, who.Me.Role)
	require.Equal(t, "ada", who.Me.SignInName)

	other := nobody.apart()
	require.Equal(t, "signed_out", other.me().State)
	other.ok("POST", "/api/sign-in", map[string]string{"sign_in_name": " ADA ", "passphrase": passphrase}, nil)
	nobody.ok("POST", "/api/sign-out", nil, nil)
	nobody.refused(http.StatusUnauthorized, "GET", "/api/shelf", nil)
	other.ok("GET", "/api/shelf", nil, nil)
}

func TestAnInvitationOpensOnceAndInTime(t *testing.T) {
	t.Parallel()
	h := firstHouse(t)
	invite := func() household.MadeInvitation {
		var i household.MadeInvitation
		h.ok("POST", "/api/invitations", map[string]any{"name": "Ben", "role": "helper"}, &i)
		return i
	}
	join := func(code, name string) household.Joining {
		return household.Joining{Code: code, Name: name, SignInName: name, Passphrase: passphrase}
	}
	i := invite()
	// Ten at once: one comes in.
	var wg sync.WaitGroup
	statuses := make([]int, 10)
	for n := range statuses {
		wg.Go(func() { statuses[n] = h.apart().send("POST", "/api/join", join(i.Code, fmt.Sprintf("ben%d", n)), nil) })
	}
	wg.Wait()
	slices.Sort(statuses)
	require.Equal(t, 200, statuses[0])
	require.Equal(t, http.StatusForbidden, statuses[1], "%v", statuses)
	h.clock.goes(time.Hour)
	require.Contains(t, h.apart().refused(http.StatusForbidden, "POST", "/api/join", join(i.Code, "late")).Detail, "used already")

	late := invite()
	h.clock.goes(7 * 24 * time.Hour)
	require.Contains(t, h.apart().refused(http.StatusForbidden, "POST", "/api/join", join(late.Code, "late")).Detail, "run out")
	back := invite()
	h.ok("POST", "/api/invitations/"+back.ID.String()+"/end", nil, nil)
	require.Contains(t, h.apart().refused(http.StatusForbidden, "POST", "/api/join", join(back.Code, "late")).Detail, "taken back")
	require.Contains(t, h.apart().refused(http.StatusForbidden, "POST", "/api/join/look", map[string]string{"code": "0000-0000-0000-0000"}).Detail, "not known")
	taken := invite()
	require.Contains(t, h.apart().refused(http.StatusConflict, "POST", "/api/join", join(taken.Code, "ada")).Detail, "ada is taken")
	h.apart().ok("POST", "/api/join", join(taken.Code, "eve"), nil) // what was refused used nothing up

	var p server.People
	h.ok("GET", "/api/members", nil, &p)
	require.Len(t, p.Members, 3)
}

// Ten wrong ones, in parallel, at two servers, from many addresses: five are looked at, also after a restart.
func TestWrongPassphrasesAreSlowedDown(t *testing.T) {
	t.Parallel()
	h := firstHouse(t)
	bases := []string{h.base, process(t, h.store, h.clock)}
	try := func(n int, pass string) int {
		from := net.IPv4(127, 0, byte(1+n/200), byte(1+n%200))
		jar, _ := cookiejar.New(nil)
		g := grower{t, bases[n%2], &http.Client{Jar: jar, Transport: &http.Transport{DialContext: (&net.Dialer{LocalAddr: &net.TCPAddr{IP: from}}).DialContext}}}
		return g.send("POST", "/api/sign-in", map[string]string{"sign_in_name": "ada", "passphrase": pass}, nil)
	}
	var wg sync.WaitGroup
	statuses := make([]int, 10)
	for n := range statuses {
		wg.Go(func() { statuses[n] = try(n, "wrong wrong wrong wrong") })
	}
	wg.Wait()
	slices.Sort(statuses)
	require.Equal(t, []int{403, 403, 403, 403, 403, 429, 429, 429, 429, 429}, statuses)
	require.Equal(t, 429, try(11, passphrase), "the right one too: else it would say which is right")
	bases = []string{process(t, h.store, h.clock), bases[1]}
	require.Equal(t, 429, try(12, passphrase), "a restart forgets nothing")
	h.clock.goes(time.Minute)
	require.Equal(t, 200, try(12, passphrase), "one more a minute")
	require.Equal(t, 403, try(12, "wrong wrong wrong wrong"), "the right one gave the tries back")

	// The clock was a day ahead while somebody mistyped: put right, it locks nobody out for a day.
	h.clock.goes(24 * time.Hour)
	for range 5 {
		try(12, "wrong wrong wrong wrong")
	}
	h.clock.goes(-24 * time.Hour)
	require.Equal(t, 200, try(12, passphrase))

	// One address that tries many names.
	g := h.apart()
	got := map[int]int{}
	for n := range 80 {
		got[g.send("POST", "/api/sign-in", map[string]string{"sign_in_name": fmt.Sprintf("name%d", n), "passphrase": passphrase}, nil)]++
	}
	require.Greater(t, got[429], 5)
	require.Equal(t, 80, got[429]+got[403])
}

func TestAStolenCookieAfterSigningOutEverywhere(t *testing.T) {
	t.Parallel()
	h := firstHouse(t)
	at, err := url.Parse(h.base)
	require.NoError(t, err)
	stolen := h.client.Jar.Cookies(at)[0]
	require.NotEmpty(t, stolen.Value)
	thief := h.apart().with(stolen.Value)
	thief.ok("GET", "/api/shelf", nil, nil)

	phone := h.apart()
	phone.ok("POST", "/api/sign-in", map[string]string{"sign_in_name": "ada", "passphrase": passphrase, "device": "Phone"}, nil)
	var a server.Account
	phone.ok("GET", "/api/account", nil, &a)
	require.Len(t, a.SignIns, 2)
	phone.ok("POST", "/api/sign-ins/end", nil, &a)
	require.Len(t, a.SignIns, 1)
	require.Equal(t, "Phone", a.SignIns[0].Device)
	require.True(t, a.SignIns[0].Here)
	thief.refused(http.StatusUnauthorized, "GET", "/api/shelf", nil)
	thief.refused(http.StatusUnauthorized, "POST", "/api/mothers", door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "X", GroupKey: "wax_vine", Pattern: "plain"}})
	h.refused(http.StatusUnauthorized, "GET", "/api/account", nil)

	// The token in the database opens nothing: its digest is kept.
	var token string
	require.NoError(t, h.store.Door.QueryRow(t.Context(), "select token from door.sessions limit 1").Scan(&token))
	h.apart().with(token).refused(http.StatusUnauthorized, "GET", "/api/shelf", nil)
	// A new passphrase signs out everywhere else, and so does a recovery code.
	third := h.apart()
	third.ok("POST", "/api/sign-in", map[string]string{"sign_in_name": "ada", "passphrase": passphrase}, nil)
	var codes server.Codes
	phone.ok("POST", "/api/recovery-codes", nil, &codes)
	require.Len(t, codes.Codes, 8)
	require.Contains(t, phone.refused(http.StatusUnprocessableEntity, "POST", "/api/passphrase", map[string]string{"old": "no", "passphrase": passphrase + " two"}).Detail, "not the passphrase you have")
	phone.ok("POST", "/api/passphrase", map[string]string{"old": passphrase, "passphrase": passphrase + " two"}, nil)
	third.refused(http.StatusUnauthorized, "GET", "/api/shelf", nil)
	lost := h.apart()
	again := map[string]string{"sign_in_name": "ada", "code": codes.Codes[3], "passphrase": passphrase + " three"}
	lost.ok("POST", "/api/sign-in/recovery", again, nil)
	phone.refused(http.StatusUnauthorized, "GET", "/api/shelf", nil)
	require.Contains(t, h.apart().refused(http.StatusForbidden, "POST", "/api/sign-in/recovery", again).Detail, "was used")
	lost.ok("GET", "/api/account", nil, &a)
	require.Equal(t, 7, a.CodesLeft)
	// What is not used for two weeks ends.
	h.clock.goes(15 * 24 * time.Hour)
	lost.refused(http.StatusUnauthorized, "GET", "/api/account", nil)
}

// operation of the contract, with a path that could be and the smallest body.
type operation struct {
	id, method, path string
	right            household.Right
}

func operations(t *testing.T, ids func(param string) string) []operation {
	t.Helper()
	raw, err := server.Contract()
	require.NoError(t, err)
	var doc struct {
		Paths map[string]map[string]struct {
			OperationID string          `json:"operationId"`
			Right       household.Right `json:"x-right"`
			Parameters  []struct {
				Name, In string
				Required bool
				Schema   struct{ Enum []any }
			}
		}
	}
	require.NoError(t, json.Unmarshal(raw, &doc))
	var out []operation
	for path, ops := range doc.Paths {
		for method, op := range ops {
			at, q := path, url.Values{}
			for _, p := range op.Parameters {
				v := ids(p.Name)
				if len(p.Schema.Enum) > 0 {
					v = fmt.Sprint(p.Schema.Enum[0])
				}
				if p.In == "path" {
					at = strings.ReplaceAll(at, "{"+p.Name+"}", v)
				} else if p.In == "query" && p.Required {
					q.Set(p.Name, v)
				}
			}
			require.NotContains(t, at, "{", "the contract knows what stands in its path")
			out = append(out, operation{op.OperationID, strings.ToUpper(method), at + "?" + q.Encode(), op.Right})
		}
	}
	slices.SortFunc(out, func(a, b operation) int { return strings.Compare(a.id, b.id) })
	return out
}

// Every operation of the contract, as every role: who has not its right is told so, before anything is read of what was sent.
func TestEveryOperationAsEveryRole(t *testing.T) {
	t.Parallel()
	h := firstHouse(t)
	as := map[household.RoleKey]grower{household.Keeper: h.joins("kay", household.Keeper), household.Helper: h.joins("hal", household.Helper), household.Guest: h.joins("gus", household.Guest)}
	ops := operations(t, func(string) string { return id().String() })
	require.Greater(t, len(ops), 100)
	kept := map[string]bool{"signOut": true, "signOutElsewhere": true} // they would end the test's own log-ins
	for _, op := range ops {
		require.NotEmpty(t, op.right, op.id)
		if kept[op.id] {
			continue
		}
		for role, g := range as {
			status, _ := g.raw(op.method, op.path, "{}")
			if op.right != household.Open && !slices.Contains(role.Row().Rights, op.right) {
				require.Equal(t, http.StatusForbidden, status, "%s as %s", op.id, role)
			} else if op.right != household.Open {
				require.NotContains(t, []int{http.StatusForbidden, http.StatusUnauthorized}, status, "%s as %s", op.id, role)
			}
		}
		status, _ := h.apart().raw(op.method, op.path, "{}")
		if op.right != household.Open {
			require.Equal(t, http.StatusUnauthorized, status, "%s as nobody", op.id)
		}
	}
	// A guest keeps nothing by the batch either, and sees no place of a photo.
	guest := as[household.Guest]
	guest.refused(http.StatusForbidden, "POST", "/api/facts", map[string]any{"facts": []any{}})
	guest.refused(http.StatusForbidden, "GET", "/api/photos/"+id().String()+"?location=true", nil)
}

func TestAHelperRecordsAndDeletesNothing(t *testing.T) {
	t.Parallel()
	h := firstHouse(t)
	helper := h.joins("hal", household.Helper)
	mother := func(g grower, name string) door.NewMother {
		m := door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: name, GroupKey: "wax_vine", Pattern: "plain"}}
		g.ok("POST", "/api/mothers", m, nil)
		return m
	}
	keepers, own := mother(h.grower, "Hers"), mother(helper, "His")
	withdraw := func(m door.NewMother) door.Withdrawal {
		return door.Withdrawal{ID: id(), Kind: "mother", About: m.ID}
	}
	require.Contains(t, helper.refused(http.StatusForbidden, "POST", "/api/withdrawals", withdraw(keepers)).Detail, "Somebody else noted this")
	batch := func(kind string, f any) server.Receipt {
		raw, err := json.Marshal(f)
		require.NoError(t, err)
		var out []server.Receipt
		helper.ok("POST", "/api/facts", map[string]any{"facts": []door.SentFact{{Kind: kind, Content: raw}}}, &out)
		return out[0]
	}
	r := batch("withdrawal", withdraw(keepers))
	require.Equal(t, door.Refused, r.Outcome)
	require.Equal(t, http.StatusForbidden, r.Problem.Status)
	r = batch("planner_number", door.NumberChoice{ID: id(), Key: "readiness.early.longest", Kind: "value", Value: 33})
	require.Equal(t, http.StatusForbidden, r.Problem.Status)
	helper.ok("POST", "/api/withdrawals", withdraw(own), nil)
	h.ok("POST", "/api/withdrawals", withdraw(keepers), nil)

	// A page says who noted what.
	piece := helper.cut(helper.stem(helper.mother(), 5))[0]
	look := looking(piece, 1, rooted(8))
	helper.ok("POST", "/api/looks", look, nil)
	page := h.cutting(piece.ID)
	last := page.History[len(page.History)-1]
	require.Equal(t, look.ID, last.About)
	require.Equal(t, "hal", last.By.Name)
	jar := h.jar(2)
	visit := door.Care{ID: id(), VesselID: jar.ID, At: now, Acts: []plant.Act{}, Seen: []plant.Sign{}, Well: true}
	helper.ok("POST", "/api/care", visit, nil)
	var vessel show.VesselPage
	h.ok("GET", "/api/vessels/"+jar.ID.String(), nil, &vessel)
	require.Equal(t, helper.me().Me.MemberID, vessel.History[0].By.ID)

	// Every write says who did it.
	for m, who := range map[uuid.UUID]string{keepers.ID: "ada", own.ID: "hal"} {
		var name string
		require.NoError(t, h.store.Pool.QueryRow(store.As(t.Context(), store.First), "select m.name from fact f join member m on m.id = f.by_member where f.id = $1", m).Scan(&name))
		require.Equal(t, who, name)
	}
}

func TestTheLastKeeperStays(t *testing.T) {
	t.Parallel()
	h := firstHouse(t)
	me := h.me().Me.MemberID.String()
	h.refused(http.StatusUnprocessableEntity, "POST", "/api/household-name", map[string]string{"name": "  "})
	h.ok("POST", "/api/household-name", map[string]string{"name": " The attic "}, nil)
	require.Equal(t, "The attic", h.me().Me.Household)
	require.Contains(t, h.refused(http.StatusConflict, "POST", "/api/members/"+me+"/end", nil).Detail, "last keeper")
	require.Contains(t, h.refused(http.StatusConflict, "POST", "/api/members/"+me, household.MemberChange{Name: "Ada", Role: household.Guest}).Detail, "last keeper")
	second := h.joins("bo", household.Keeper)
	// Both at once: one stays.
	ids := []string{me, second.me().Me.MemberID.String()}
	var wg sync.WaitGroup
	for i, g := range []grower{second, h.grower} {
		wg.Go(func() { g.send("POST", "/api/members/"+ids[i]+"/end", nil, nil) })
	}
	wg.Wait()
	var keepers int
	require.NoError(t, h.store.Pool.QueryRow(store.As(t.Context(), store.First), "select count(*) from member where role = 'keeper' and ended_at is null").Scan(&keepers))
	require.Equal(t, 1, keepers)
}

// A member of another household asks for ids of ours, by every operation, and as every role: nothing of ours is in any answer.
func TestAnotherHouseholdSeesNothingOfOurs(t *testing.T) {
	t.Parallel()
	h := firstHouse(t)
	m := h.mother()
	stem := h.stem(m, 7)
	piece := h.cut(stem)[0]
	jar := h.jar(3)
	h.ok("POST", "/api/settings", setting(piece, jar), nil)
	shot := id()
	h.ok("POST", "/api/photos?id="+shot.String(), asJPEG(t, picture(60, 40)), nil)
	var key outside.MadeKey
	h.ok("POST", "/api/outside-keys", outside.NewKey{ID: id(), What: outside.Calendar, Name: "Ours"}, &key)

	theirs, err := h.door.New(t.Context(), "Next door", "")
	require.NoError(t, err)
	n := newHouse(t, h.store, theirs, h.base, h.clock, "nora")
	as := map[household.RoleKey]grower{household.Keeper: n.grower, household.Helper: n.joins("nils", household.Helper), household.Guest: n.joins("nina", household.Guest)}
	ours := []string{m.ID.String(), stem.ID.String(), piece.ID.String(), jar.ID.String(), jar.PlaceID.String(), shot.String(), key.ID.String(), h.me().Me.MemberID.String(), h.me().Me.SignInID.String()}
	asked := 0
	for _, ourID := range ours {
		for _, op := range operations(t, func(string) string { return ourID }) {
			if op.right == household.Open || !strings.Contains(op.path, ourID) {
				continue
			}
			for role, g := range as {
				status, got := g.raw(op.method, op.path, "{}")
				asked++
				if status < 300 {
					require.NotContains(t, got, m.Name, "%s as %s", op.path, role)
					require.NotContains(t, []string{"mother", "stem", "cutting", "vesselPage", "photo", "placeClimate"}, op.id)
				}
			}
		}
	}
	require.Greater(t, asked, 300)
	var shelf show.Shelf
	n.ok("GET", "/api/shelf", nil, &shelf)
	require.Empty(t, shelf.Cuttings)
	var found show.Found
	n.ok("GET", "/api/find?q="+url.QueryEscape(piece.Code), nil, &found)
	require.Empty(t, found.Cuttings)
	// What was asked ended nothing of ours, and our tags and calendar are ours.
	h.ok("GET", "/api/cuttings/"+piece.ID.String(), nil, nil)
	require.Equal(t, "signed_in", h.me().State)
	res, err := n.client.Get(n.base + "/api/calendar/" + key.Secret + ".ics")
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	require.Equal(t, http.StatusOK, res.StatusCode, "the secret of a calendar opens it for whoever has it")
}

// Two tabs of one browser, in which two people signed in one after the other: what the first one's page sends is not kept under
// the second one's name.
func TestTwoTabsOfTwoPeople(t *testing.T) {
	t.Parallel()
	h := firstHouse(t)
	ada := h.me().Me.MemberID.String()
	h.joins("hal", household.Helper)
	h.ok("POST", "/api/sign-in", map[string]string{"sign_in_name": "hal", "passphrase": passphrase}, nil)
	raw, err := json.Marshal(door.NewMother{ID: id(), MotherWords: door.MotherWords{Name: "X", GroupKey: "wax_vine", Pattern: "plain"}})
	require.NoError(t, err)
	send := func(member string) int {
		req, err := http.NewRequestWithContext(t.Context(), "POST", h.base+"/api/mothers", strings.NewReader(string(raw)))
		require.NoError(t, err)
		req.Header.Set("Content-Type", "application/json")
		req.Header.Set("Clear-Jar-Member", member)
		res, err := h.client.Do(req)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		return res.StatusCode
	}
	require.Equal(t, http.StatusUnauthorized, send(ada))
	require.Empty(t, signInsOf(t, h, ada), "hers has ended in this browser")
	require.Equal(t, http.StatusOK, send(h.me().Me.MemberID.String()))
}

// signInsOf are the log-ins of a member that hold.
func signInsOf(t *testing.T, h house, member string) (ids []uuid.UUID) {
	t.Helper()
	rows, err := h.store.Pool.Query(store.As(t.Context(), store.First), "select id from sign_in where member_id = $1 and ended_at is null", member)
	require.NoError(t, err)
	ids, err = pgx.CollectRows(rows, pgx.RowTo[uuid.UUID])
	require.NoError(t, err)
	return ids
}

// A member lets the own phone in by a code that lasts minutes; a keeper lets in again who lost the way.
func TestOtherWaysIn(t *testing.T) {
	t.Parallel()
	h := firstHouse(t)
	var i household.MadeInvitation
	h.ok("POST", "/api/devices", nil, &i)
	phone := h.apart()
	phone.ok("POST", "/api/join", household.Joining{Code: i.Code, Device: "Phone"}, nil)
	require.Equal(t, h.me().Me.MemberID, phone.me().Me.MemberID)
	h.apart().refused(http.StatusForbidden, "POST", "/api/join", household.Joining{Code: i.Code})
	h.ok("POST", "/api/devices", nil, &i)
	h.clock.goes(11 * time.Minute)
	h.apart().refused(http.StatusForbidden, "POST", "/api/join", household.Joining{Code: i.Code})

	hal := h.joins("hal", household.Helper)
	member := hal.me().Me.MemberID.String()
	h.ok("POST", "/api/members/"+member+"/again", nil, &i)
	var o household.Offer
	h.apart().ok("POST", "/api/join/look", map[string]string{"code": i.Code}, &o)
	require.Equal(t, "hal", o.SignInName)
	h.apart().ok("POST", "/api/join", household.Joining{Code: i.Code, Passphrase: "a gravel road of nine otters"}, nil)
	hal.refused(http.StatusUnauthorized, "GET", "/api/shelf", nil)
	// Passkeys need a name to belong to.
	require.Contains(t, h.refused(http.StatusConflict, "POST", "/api/passkeys/question", nil).Detail, "by a number")
	h.ok("POST", "/api/members/"+member+"/end", nil, nil)
	h.apart().refused(http.StatusForbidden, "POST", "/api/sign-in", map[string]string{"sign_in_name": "hal", "passphrase": "a gravel road of nine otters"})
}
