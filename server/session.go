package server

import (
	"context"
	"net"
	"net/http"
	"strings"
	"time"

	"github.com/alexedwards/scs/pgxstore"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/gin-gonic/gin"
	"github.com/google/uuid"

	"clearjar/household"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/store"
)

// entrance knows who a request is from.
type entrance struct {
	door     *household.Door
	sessions *scs.SessionManager
	opts     Options
}

// What a log-in holds.
const (
	inHousehold = "household"
	inMember    = "member"
	inSignIn    = "sign_in"
	inCeremony  = "passkey"
)

// swept is how often log-ins that ran out are thrown away.
const swept = 10 * time.Minute

func newEntrance(garden *propagation.Garden, opts Options) *entrance {
	sm := scs.New()
	sm.Store = pgxstore.NewWithCleanupInterval(garden.Store.Door, opts.sweep())
	sm.Lifetime = household.Longest
	sm.HashTokenInStore = true
	sm.Cookie.Name = "clearjar"
	if opts.https() {
		sm.Cookie.Name = "__Host-clearjar"
	}
	return &entrance{household.At(garden.Store, garden.Now), sm, opts}
}

type (
	meKey      struct{}
	visitorKey struct{}
)

// visitor is what is known of a request before it is known who sent it.
type visitor struct {
	// address it came from, and the site it was sent to.
	address string
	site    household.Site
	// claims is the member that the page was drawn for.
	claims string
}

// meOf is who is signed in.
func meOf(ctx context.Context) (household.Me, bool) {
	me, ok := ctx.Value(meKey{}).(household.Me)
	return me, ok
}

func visitorOf(ctx context.Context) visitor {
	v, _ := ctx.Value(visitorKey{}).(visitor)
	return v
}

// claimed is the header in which a page says whom it was drawn for.
const claimed = "Clear-Jar-Member"

// who finds out who a request is from, and names the household its rows are of: nobody's, when nobody is signed in.
func (e *entrance) who() gin.HandlerFunc {
	return func(c *gin.Context) {
		if !strings.HasPrefix(c.Request.URL.Path, "/api/") {
			return
		}
		ctx, err := e.known(c)
		if err != nil {
			p := problemOf(ctx, err)
			c.Header("Content-Type", "application/problem+json")
			c.AbortWithStatusJSON(p.Status, p)
			return
		}
		c.Request = c.Request.WithContext(ctx)
	}
}

func (e *entrance) known(c *gin.Context) (context.Context, error) {
	r := c.Request
	scheme := "http"
	if e.opts.https() {
		scheme = "https"
	}
	address, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		address = r.RemoteAddr
	}
	ctx := context.WithValue(store.Nobody(r.Context()), visitorKey{}, visitor{address, household.Site{Host: hostOf(r.Host), Origin: scheme + "://" + r.Host}, r.Header.Get(claimed)})
	token := ""
	if cookie, err := r.Cookie(e.sessions.Cookie.Name); err == nil {
		token = cookie.Value
	}
	if ctx, err = e.sessions.Load(ctx, token); err != nil {
		return ctx, err
	}
	ids := make([]uuid.UUID, 3)
	for i, key := range []string{inHousehold, inMember, inSignIn} {
		if ids[i], err = uuid.Parse(e.sessions.GetString(ctx, key)); err != nil {
			return ctx, nil //nolint:nilerr // nobody is signed in
		}
	}
	me, ok, err := e.door.Who(ctx, ids[0], ids[1], ids[2])
	if err != nil || !ok {
		return ctx, err
	}
	ctx = context.WithValue(me.Context(ctx), meKey{}, me)
	if !me.May(household.TakeBack) {
		ctx = door.OwnOnly(ctx)
	}
	return ctx, nil
}

// cookieOf is the cookie of the log-in as it is now.
func (e *entrance) cookieOf(ctx context.Context) (*http.Cookie, error) {
	token, until, err := e.sessions.Commit(ctx)
	if err != nil {
		return nil, err
	}
	return e.cookie(token, until), nil
}

func (e *entrance) cookie(token string, until time.Time) *http.Cookie {
	c := &http.Cookie{Name: e.sessions.Cookie.Name, Value: token, Path: "/", HttpOnly: true, Secure: e.opts.https(), SameSite: http.SameSiteStrictMode}
	if until.IsZero() {
		c.MaxAge = -1
		return c
	}
	c.Expires, c.MaxAge = until, int(time.Until(until).Seconds())
	return c
}

// signedIn makes the log-in one of this member, under a new token.
func (e *entrance) signedIn(ctx context.Context, me household.Me) (*http.Cookie, error) {
	if err := e.sessions.Clear(ctx); err != nil {
		return nil, err
	}
	if err := e.sessions.RenewToken(ctx); err != nil {
		return nil, err
	}
	e.sessions.Put(ctx, inHousehold, me.HouseholdID.String())
	e.sessions.Put(ctx, inMember, me.MemberID.String())
	e.sessions.Put(ctx, inSignIn, me.SignInID.String())
	return e.cookieOf(ctx)
}

// allowed lets an operation through for those who have its right.
func allowed(api huma.API) func(huma.Context, func(huma.Context)) {
	return func(c huma.Context, next func(huma.Context)) {
		ctx, op := c.Context(), c.Operation()
		right := rightOf(op)
		me, in := meOf(ctx)
		refuse := func(status int, says string) { _ = huma.WriteErr(api, c, status, says) }
		switch claims := visitorOf(ctx).claims; {
		case right == household.Open:
		case !in:
			refuse(http.StatusUnauthorized, "Nobody is signed in. What you typed is still on the screen: sign in, and go on.")
			return
		case op.Method != http.MethodGet && claims != "" && claims != me.MemberID.String():
			refuse(http.StatusUnauthorized, "Somebody else has signed in in this browser, as "+me.Name+". Nothing was noted under their name: sign in as yourself, and go on.")
			return
		case !me.May(right):
			refuse(http.StatusForbidden, "A "+strings.ToLower(me.Role.Row().Name)+" may not do this: "+me.Role.Row().Says+".")
			return
		}
		next(c)
	}
}
