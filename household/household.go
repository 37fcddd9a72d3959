// Package household knows who may come in: the members of a household, what each may do, and the ways in (passphrase,
// passkey, invitation, recovery code). What they do inside is not its business.
//
// Every row is its household's, held by the database. Before it is known who somebody is, only the way-in table is
// asked: it says whose a sign-in name or the digest of a code is, and nothing else.
package household

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Door is where people come in.
type Door struct {
	store *store.Store
	now   func() time.Time
	// hashing lets a few passphrases be worked on at a time: each takes its memory.
	hashing chan struct{}
}

// At opens the door to what is kept in s; now gives the time.
func At(s *store.Store, now func() time.Time) *Door {
	return &Door{store: s, now: now, hashing: make(chan struct{}, hashesAtOnce)}
}

// in runs work in one transaction of a household: all of it is kept, or none.
func (d *Door) in(ctx context.Context, work func(q *sqlgen.Queries) error) error {
	return d.store.InTx(ctx, work)
}

// Me is who is signed in, and on which device.
type Me struct {
	MemberID   uuid.UUID `json:"member_id"`
	SignInID   uuid.UUID `json:"sign_in_id"`
	Name       string    `json:"name"`
	SignInName string    `json:"sign_in_name"`
	Role       RoleKey   `json:"role"`
	// Rights are what the role may do.
	Rights      []Right   `json:"rights"`
	HouseholdID uuid.UUID `json:"household_id"`
	Household   string    `json:"household"`
	usedAt      time.Time
}

// May tells whether this member has a right.
func (m Me) May(r Right) bool { return r == Open || m.Role.Row().may(r) }

// Context is one in which this member works on the own household.
func (m Me) Context(ctx context.Context) context.Context {
	return store.By(store.As(ctx, m.HouseholdID), m.MemberID)
}

// idle is how long a device stays signed in without being used; a log-in ends for good after [Longest].
const idle = 14 * 24 * time.Hour

// Longest is how long a log-in may last.
const Longest = 60 * 24 * time.Hour

// noteUse is how often the last use of a device is noted.
const noteUse = time.Minute

// Who is behind a log-in, while it holds: not ended, not idle for too long, and its member may still come in.
func (d *Door) Who(ctx context.Context, household, member, signIn uuid.UUID) (Me, bool, error) {
	ctx = store.By(store.As(ctx, household), member)
	r, err := d.store.WhoIsSignedIn(ctx, sqlgen.WhoIsSignedInParams{ID: signIn, MemberID: member})
	if store.IsMissing(err) {
		return Me{}, false, nil
	}
	if err != nil {
		return Me{}, false, err
	}
	now := d.now()
	if now.Sub(r.UsedAt) > idle {
		return Me{}, false, nil
	}
	if now.Sub(r.UsedAt) > noteUse {
		if err := d.store.SignInUsed(ctx, sqlgen.SignInUsedParams{ID: signIn, At: now}); err != nil {
			return Me{}, false, err
		}
	}
	return meOf(r, household), true, nil
}

func meOf(r sqlgen.WhoIsSignedInRow, household uuid.UUID) Me {
	role := RoleKey(r.Role)
	return Me{
		MemberID: r.ID, SignInID: r.SignInID, Name: r.Name, SignInName: r.SignInName, Role: role, Rights: role.Row().Rights,
		HouseholdID: household, Household: r.HouseholdName, usedAt: r.UsedAt,
	}
}

// New makes a household, which nobody is a member of yet.
func (d *Door) New(ctx context.Context, name, zone string) (uuid.UUID, error) {
	name, err := cleanName("household", name, mostHouseholdName)
	if err != nil {
		return uuid.Nil, err
	}
	id, err := uuid.NewV7()
	if err != nil {
		return uuid.Nil, err
	}
	return id, d.store.AddHousehold(store.As(ctx, id), sqlgen.AddHouseholdParams{ID: id, Name: name, TimeZone: zone})
}

// Name calls the household of the context by a name.
func (d *Door) Name(ctx context.Context, name string) error {
	name, err := cleanName("household", name, mostHouseholdName)
	if err != nil {
		return err
	}
	return d.store.NameHousehold(ctx, name)
}

// mostHouseholdName is the longest name of a household, in characters.
const mostHouseholdName = 60

// HasMembers tells whether anybody may come into a household.
func (d *Door) HasMembers(ctx context.Context, household uuid.UUID) (bool, error) {
	rows, err := d.store.Members(store.As(ctx, household))
	if err != nil {
		return false, err
	}
	for _, r := range rows {
		if r.EndedAt == nil {
			return true, nil
		}
	}
	return false, nil
}

// missing says that something of the household is not here.
func missing(err error, what string) error { return propagation.Missing(err, what) }
