package server

import (
	"context"
	"encoding/json"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"clearjar/household"
	"clearjar/store"
	"clearjar/wayin"
)

// Where a visitor stands at the door.
const (
	signedIn  = "signed_in"
	signedOut = "signed_out"
	// firstStart: nobody is a member yet; the one who runs the server has the code.
	firstStart = "first_start"
)

// WhoAmI is where a visitor stands at the door.
type WhoAmI struct {
	State string        `json:"state" enum:"signed_in,signed_out,first_start"`
	Me    *household.Me `json:"me,omitempty"`
	// Demo says that the made-up household may be entered without a passphrase.
	Demo bool `json:"demo"`
	// Passkeys says that the address has a name, which passkeys need.
	Passkeys bool `json:"passkeys"`
}

// Account is how a member comes in.
type Account struct {
	household.Me
	HasPassphrase bool                `json:"has_passphrase"`
	CodesLeft     int                 `json:"codes_left"`
	Passkeys      []household.Passkey `json:"passkeys"`
	SignIns       []household.SignIn  `json:"sign_ins"`
}

// withCookie is an answer that changes the log-in.
type withCookie[T any] struct {
	ClearSiteData string         `header:"Clear-Site-Data" doc:"what the browser keeps of the one who left is to go"`
	SetCookie     []*http.Cookie `header:"Set-Cookie"`
	Body          T
}

type passphraseIn struct {
	SignInName string `json:"sign_in_name" maxLength:"160"`
	Passphrase string `json:"passphrase" maxLength:"600"`
	Device     string `json:"device,omitempty" maxLength:"320"`
}

type recoverIn struct {
	SignInName string `json:"sign_in_name" maxLength:"160"`
	Code       string `json:"code" maxLength:"60"`
	Passphrase string `json:"passphrase" maxLength:"600"`
	Device     string `json:"device,omitempty" maxLength:"320"`
}

type deviceIn struct {
	Device string `json:"device,omitempty" maxLength:"320"`
}

type codeIn struct {
	Code string `json:"code" maxLength:"60"`
}

type passphraseChange struct {
	Old        string `json:"old,omitempty" maxLength:"600"`
	Passphrase string `json:"passphrase" maxLength:"600"`
}

type nameIn struct {
	Name string `json:"name" maxLength:"240"`
}

type inviteIn struct {
	Name string            `json:"name" maxLength:"240"`
	Role household.RoleKey `json:"role" enum:"keeper,helper,guest"`
}

// WayIn is where devices of the home network reach Clear Jar.
type WayIn struct {
	// Addresses are those that devices open; none while it is reached from its own machine only.
	Addresses []string `json:"addresses"`
	// TrustAddresses are of the plain page that leads a phone through trusting; none with a certificate that phones trust already.
	TrustAddresses []string `json:"trust_addresses"`
	// Fingerprint is the SHA-256 of what the phone trusts, to compare.
	Fingerprint string `json:"fingerprint,omitempty"`
}

// Codes are recovery codes, said once.
type Codes struct {
	Codes []string `json:"codes"`
}

// People are the members of a household, and what each role may do.
type People struct {
	Members []household.Member `json:"members"`
	Roles   []household.Role   `json:"roles"`
}

// PasskeyQuestion is what a page asks of a passkey.
type PasskeyQuestion struct {
	Options json.RawMessage `json:"options"`
}

type passkeyAnswer struct {
	Answer json.RawMessage `json:"answer"`
	Name   string          `json:"name,omitempty" maxLength:"320"`
	Device string          `json:"device,omitempty" maxLength:"320"`
}

// done is the answer of what leaves nothing to say.
type done struct {
	Done bool `json:"done"`
}

// atDoor registers an operation of the door.
func atDoor[In, Out any](api huma.API, method, id, path, summary string, do func(ctx context.Context, in *In) (Out, error)) {
	huma.Register(api, huma.Operation{
		OperationID: id, Method: method, Path: path, Summary: summary, MaxBodyBytes: mostDoor,
		Errors: []int{http.StatusUnauthorized, http.StatusForbidden, http.StatusConflict, http.StatusUnprocessableEntity, http.StatusTooManyRequests, http.StatusServiceUnavailable},
	}, func(ctx context.Context, in *In) (*Out, error) {
		if err := readable(in); err != nil {
			return nil, answer(ctx, err)
		}
		out, err := do(ctx, in)
		if err != nil {
			return nil, answer(ctx, err)
		}
		return &out, nil
	})
}

// mostDoor is the largest body at the door.
const mostDoor = 64 << 10

// doorRoutes let people in and out.
func (e *entrance) doorRoutes(api huma.API) {
	type entered = withCookie[WhoAmI]
	enter := func(ctx context.Context, me household.Me, err error) (entered, error) {
		if err != nil {
			return entered{}, err
		}
		// Who was signed in in this browser before is so no longer.
		if before, in := meOf(ctx); in {
			if err := e.door.SignOut(before.Context(ctx), before, before.SignInID); err != nil {
				return entered{}, err
			}
		}
		cookie, err := e.signedIn(ctx, me)
		if err != nil {
			return entered{}, err
		}
		return entered{"", []*http.Cookie{cookie}, WhoAmI{State: signedIn, Me: &me, Demo: e.opts.Demo, Passkeys: e.passkeys(ctx)}}, nil
	}
	from := func(ctx context.Context) string { return visitorOf(ctx).address }

	atDoor(api, http.MethodGet, "whoAmI", "/api/me", "Who is signed in", func(ctx context.Context, _ *struct{}) (body[WhoAmI], error) {
		out := WhoAmI{State: signedOut, Demo: e.opts.Demo, Passkeys: e.passkeys(ctx)}
		if me, in := meOf(ctx); in {
			out.State, out.Me = signedIn, &me
			return body[WhoAmI]{out}, nil
		}
		some, err := e.door.HasMembers(ctx, store.First)
		if err == nil && !some && !e.opts.Demo {
			out.State = firstStart
		}
		return body[WhoAmI]{out}, err
	})
	atDoor(api, http.MethodPost, "signIn", "/api/sign-in", "Sign in with a passphrase", func(ctx context.Context, in *body[passphraseIn]) (entered, error) {
		me, err := e.door.Passphrase(ctx, in.Body.SignInName, in.Body.Passphrase, in.Body.Device, from(ctx))
		return enter(ctx, me, err)
	})
	atDoor(api, http.MethodPost, "askPasskey", "/api/sign-in/passkey/question", "Ask a passkey who is there", func(ctx context.Context, _ *struct{}) (withCookie[PasskeyQuestion], error) {
		asked, open, err := e.door.AskPasskey(ctx, visitorOf(ctx).site, from(ctx))
		if err != nil {
			return withCookie[PasskeyQuestion]{}, err
		}
		return e.ask(ctx, asked, open)
	})
	atDoor(api, http.MethodPost, "signInWithPasskey", "/api/sign-in/passkey", "Sign in with a passkey", func(ctx context.Context, in *body[passkeyAnswer]) (entered, error) {
		open, err := e.asked(ctx)
		if err != nil {
			return entered{}, err
		}
		me, err := e.door.Passkey(ctx, visitorOf(ctx).site, open, in.Body.Answer, in.Body.Device)
		return enter(ctx, me, err)
	})
	atDoor(api, http.MethodPost, "recover", "/api/sign-in/recovery", "Sign in with a recovery code and set a new passphrase", func(ctx context.Context, in *body[recoverIn]) (entered, error) {
		me, err := e.door.Recover(ctx, in.Body.SignInName, in.Body.Code, in.Body.Passphrase, in.Body.Device, from(ctx))
		return enter(ctx, me, err)
	})
	atDoor(api, http.MethodPost, "signInToDemo", "/api/sign-in/demo", "Enter the made-up household of the demo", func(ctx context.Context, in *body[deviceIn]) (entered, error) {
		if !e.opts.Demo {
			return entered{}, household.RefusedError{Reason: "This is no demo: sign in."}
		}
		me, err := e.door.Demo(ctx, store.First, in.Body.Device)
		return enter(ctx, me, err)
	})
	atDoor(api, http.MethodPost, "lookAtInvitation", "/api/join/look", "What an invitation offers", func(ctx context.Context, in *body[codeIn]) (body[household.Offer], error) {
		o, err := e.door.LookAt(ctx, in.Body.Code, from(ctx))
		return body[household.Offer]{o}, err
	})
	atDoor(api, http.MethodPost, "join", "/api/join", "Use an invitation", func(ctx context.Context, in *body[household.Joining]) (entered, error) {
		me, err := e.door.Join(ctx, in.Body, from(ctx))
		return enter(ctx, me, err)
	})
	atDoor(api, http.MethodPost, "signOut", "/api/sign-out", "Sign out on this device", func(ctx context.Context, _ *struct{}) (withCookie[done], error) {
		me, _ := meOf(ctx)
		if err := e.door.SignOut(ctx, me, me.SignInID); err != nil {
			return withCookie[done]{}, err
		}
		if err := e.sessions.Destroy(ctx); err != nil {
			return withCookie[done]{}, err
		}
		return withCookie[done]{`"cache"`, []*http.Cookie{e.cookie("", time.Time{})}, done{true}}, nil
	})
	e.accountRoutes(api)
	e.peopleRoutes(api)
}

// accountRoutes are about one's own ways in.
func (e *entrance) accountRoutes(api huma.API) {
	atDoor(api, http.MethodGet, "account", "/api/account", "How I come in, and where I am signed in", func(ctx context.Context, _ *struct{}) (body[Account], error) {
		a, err := e.account(ctx)
		return body[Account]{a}, err
	})
	after := func(ctx context.Context, err error) (body[Account], error) {
		if err != nil {
			return body[Account]{}, err
		}
		a, err := e.account(ctx)
		return body[Account]{a}, err
	}
	atDoor(api, http.MethodPost, "endSignIn", "/api/sign-ins/{id}/end", "Sign out on one of my devices", func(ctx context.Context, in *byID) (body[Account], error) {
		me, _ := meOf(ctx)
		return after(ctx, e.door.SignOut(ctx, me, in.parse()))
	})
	atDoor(api, http.MethodPost, "signOutElsewhere", "/api/sign-ins/end", "Sign out on all my other devices", func(ctx context.Context, _ *struct{}) (body[Account], error) {
		me, _ := meOf(ctx)
		return after(ctx, e.door.SignOutElsewhere(ctx, me))
	})
	atDoor(api, http.MethodPost, "changePassphrase", "/api/passphrase", "Set a new passphrase", func(ctx context.Context, in *body[passphraseChange]) (body[Account], error) {
		me, _ := meOf(ctx)
		return after(ctx, e.door.ChangePassphrase(ctx, me, in.Body.Old, in.Body.Passphrase))
	})
	atDoor(api, http.MethodPost, "makeRecoveryCodes", "/api/recovery-codes", "Make new recovery codes, said once", func(ctx context.Context, _ *struct{}) (body[Codes], error) {
		me, _ := meOf(ctx)
		codes, err := e.door.RecoveryCodes(ctx, me)
		return body[Codes]{Codes{codes}}, err
	})
	atDoor(api, http.MethodPost, "letDeviceIn", "/api/devices", "Make a code that signs me in on another device", func(ctx context.Context, _ *struct{}) (body[household.MadeInvitation], error) {
		me, _ := meOf(ctx)
		i, err := e.door.LetIn(ctx, me)
		return body[household.MadeInvitation]{i}, err
	})
	atDoor(api, http.MethodGet, "wayIn", "/api/way-in", "Where devices of the home network reach Clear Jar", func(context.Context, *struct{}) (body[WayIn], error) {
		out := WayIn{Addresses: []string{}, TrustAddresses: []string{}}
		if w := e.opts.Way; w != nil && !w.Loopback {
			out.Addresses = append(out.Addresses, w.Addresses()...)
			out.TrustAddresses = append(out.TrustAddresses, w.TrustAddresses()...)
			if w.Ours != nil {
				out.Fingerprint = wayin.Fingerprint(w.Ours.Cert)
			}
		}
		return body[WayIn]{out}, nil
	})
	atDoor(api, http.MethodPost, "askForPasskey", "/api/passkeys/question", "Ask a device for a new passkey", func(ctx context.Context, _ *struct{}) (withCookie[PasskeyQuestion], error) {
		me, _ := meOf(ctx)
		asked, open, err := e.door.AskForPasskey(ctx, me, visitorOf(ctx).site)
		if err != nil {
			return withCookie[PasskeyQuestion]{}, err
		}
		return e.ask(ctx, asked, open)
	})
	atDoor(api, http.MethodPost, "keepPasskey", "/api/passkeys", "Keep the passkey that a device made", func(ctx context.Context, in *body[passkeyAnswer]) (body[Account], error) {
		me, _ := meOf(ctx)
		open, err := e.asked(ctx)
		if err != nil {
			return body[Account]{}, err
		}
		return after(ctx, e.door.KeepPasskey(ctx, me, visitorOf(ctx).site, open, in.Body.Answer, in.Body.Name))
	})
	atDoor(api, http.MethodPost, "removePasskey", "/api/passkeys/{id}/end", "Remove a passkey", func(ctx context.Context, in *byID) (body[Account], error) {
		me, _ := meOf(ctx)
		return after(ctx, e.door.RemovePasskey(ctx, me, in.parse()))
	})
}

// peopleRoutes are about who is of the household.
func (e *entrance) peopleRoutes(api huma.API) {
	people := func(ctx context.Context, err error) (body[People], error) {
		if err != nil {
			return body[People]{}, err
		}
		members, err := e.door.Members(ctx)
		return body[People]{People{members, household.Roles()}}, err
	}
	atDoor(api, http.MethodGet, "people", "/api/members", "The members of the household, and what each role may do", func(ctx context.Context, _ *struct{}) (body[People], error) {
		return people(ctx, nil)
	})
	atDoor(api, http.MethodPost, "nameHousehold", "/api/household-name", "Call the household by a name", func(ctx context.Context, in *body[nameIn]) (body[household.Me], error) {
		if err := e.door.Name(ctx, in.Body.Name); err != nil {
			return body[household.Me]{}, err
		}
		me, _ := meOf(ctx)
		me, _, err := e.door.Who(ctx, me.HouseholdID, me.MemberID, me.SignInID)
		return body[household.Me]{me}, err
	})
	atDoor(api, http.MethodPost, "changeMember", "/api/members/{id}", "Say what a member is called and may do", func(ctx context.Context, in *onID[household.MemberChange]) (body[People], error) {
		return people(ctx, e.door.Change(ctx, in.parse(), in.Body))
	})
	atDoor(api, http.MethodPost, "endMember", "/api/members/{id}/end", "Shut a member out", func(ctx context.Context, in *byID) (body[People], error) {
		return people(ctx, e.door.End(ctx, in.parse()))
	})
	atDoor(api, http.MethodPost, "letMemberInAgain", "/api/members/{id}/again", "Make a code with which a member who lost the way in sets a new passphrase", func(ctx context.Context, in *byID) (body[household.MadeInvitation], error) {
		me, _ := meOf(ctx)
		i, err := e.door.LetInAgain(ctx, me.MemberID, in.parse())
		return body[household.MadeInvitation]{i}, err
	})
	invitations := func(ctx context.Context, err error) (body[[]household.Invitation], error) {
		if err != nil {
			return body[[]household.Invitation]{}, err
		}
		all, err := e.door.Invitations(ctx)
		return body[[]household.Invitation]{all}, err
	}
	atDoor(api, http.MethodGet, "invitations", "/api/invitations", "Invitations that still open", func(ctx context.Context, _ *struct{}) (body[[]household.Invitation], error) {
		return invitations(ctx, nil)
	})
	atDoor(api, http.MethodPost, "invite", "/api/invitations", "Invite somebody; the code is said once", func(ctx context.Context, in *body[inviteIn]) (body[household.MadeInvitation], error) {
		me, _ := meOf(ctx)
		i, err := e.door.Invite(ctx, me.MemberID, in.Body.Name, in.Body.Role)
		return body[household.MadeInvitation]{i}, err
	})
	atDoor(api, http.MethodPost, "uninvite", "/api/invitations/{id}/end", "Take an invitation back", func(ctx context.Context, in *byID) (body[[]household.Invitation], error) {
		return invitations(ctx, e.door.Uninvite(ctx, in.parse()))
	})
}

func (e *entrance) account(ctx context.Context) (Account, error) {
	me, _ := meOf(ctx)
	has, err := e.door.HasPassphrase(ctx, me)
	if err != nil {
		return Account{}, err
	}
	left, err := e.door.CodesLeft(ctx, me)
	if err != nil {
		return Account{}, err
	}
	keys, err := e.door.Passkeys(ctx, me)
	if err != nil {
		return Account{}, err
	}
	signIns, err := e.door.SignIns(ctx, me)
	return Account{me, has, left, keys, signIns}, err
}

func (e *entrance) passkeys(ctx context.Context) bool { return visitorOf(ctx).site.Named() }

// ask keeps an open question to a passkey with the log-in, and gives the question.
func (e *entrance) ask(ctx context.Context, asked any, open *household.Ceremony) (withCookie[PasskeyQuestion], error) {
	options, err := json.Marshal(asked)
	if err != nil {
		return withCookie[PasskeyQuestion]{}, err
	}
	kept, err := json.Marshal(open)
	if err != nil {
		return withCookie[PasskeyQuestion]{}, err
	}
	e.sessions.Put(ctx, inCeremony, string(kept))
	cookie, err := e.cookieOf(ctx)
	if err != nil {
		return withCookie[PasskeyQuestion]{}, err
	}
	return withCookie[PasskeyQuestion]{"", []*http.Cookie{cookie}, PasskeyQuestion{options}}, nil
}

// asked takes the open question out of the log-in: it is answered once.
func (e *entrance) asked(ctx context.Context) (household.Ceremony, error) {
	var open household.Ceremony
	kept := e.sessions.PopString(ctx, inCeremony)
	if kept == "" {
		return open, household.RefusedError{Reason: "Nothing was asked of a passkey, or it was answered already. Try again."}
	}
	if _, err := e.cookieOf(ctx); err != nil {
		return open, err
	}
	return open, json.Unmarshal([]byte(kept), &open)
}
