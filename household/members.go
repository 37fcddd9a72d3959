package household

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Member is a person of the household.
type Member struct {
	ID         uuid.UUID  `json:"id"`
	Name       string     `json:"name"`
	SignInName string     `json:"sign_in_name"`
	Role       RoleKey    `json:"role"`
	MadeAt     time.Time  `json:"made_at"`
	EndedAt    *time.Time `json:"ended_at,omitempty"`
}

// mostMembers of a household who may come in at a time.
const mostMembers = 50

// Members are the people of the household: those who may come in first, in the order they came.
func (d *Door) Members(ctx context.Context) ([]Member, error) {
	rows, err := d.store.Members(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]Member, len(rows))
	for i, r := range rows {
		out[i] = Member{r.ID, r.Name, r.SignInName, RoleKey(r.Role), r.MadeAt, r.EndedAt}
	}
	return out, nil
}

// newMember is somebody who comes in for the first time.
type newMember struct {
	Name, SignInName string
	Role             RoleKey
	// Hash is of the passphrase; empty when there is none.
	Hash string
}

// add makes a member of the household of the context. A sign-in name belongs to one person on the whole server.
func (d *Door) add(ctx context.Context, n newMember) (uuid.UUID, error) {
	household, err := store.Whose(ctx)
	if err != nil {
		return uuid.Nil, err
	}
	id, err := uuid.NewV7()
	if err != nil {
		return uuid.Nil, err
	}
	return id, d.in(ctx, func(q *sqlgen.Queries) error {
		rows, err := q.LockMembers(ctx)
		if err != nil {
			return err
		}
		if open(rows, nil) >= mostMembers {
			return plant.Refuse("name", "a household has at most %d members at a time", mostMembers)
		}
		added, err := q.AddWayIn(ctx, sqlgen.AddWayInParams{What: byName, Word: n.SignInName, HouseholdID: household, About: id})
		if err != nil {
			return err
		}
		if added == 0 {
			return propagation.ConflictError{Reason: fmt.Sprintf("The name %s is taken on this server: choose another to sign in with.", n.SignInName)}
		}
		return q.AddMember(ctx, sqlgen.AddMemberParams{ID: id, Name: n.Name, SignInName: n.SignInName, Role: string(n.Role), Passphrase: n.Hash, MadeAt: d.now()})
	})
}

// AddMember makes a member with a passphrase, for the one who runs the server.
func (d *Door) AddMember(ctx context.Context, name, signIn string, role RoleKey, passphrase string) (uuid.UUID, error) {
	if len(role.Row().Rights) == 0 {
		return uuid.Nil, plant.Refuse("role", "keeper, helper or guest")
	}
	name, err1 := cleanName("name", name, mostName)
	signIn, err2 := signInName(signIn)
	hash, err3 := d.newPassphrase(ctx, "passphrase", passphrase, name, signIn)
	if err := errors.Join(err1, err2, err3); err != nil {
		return uuid.Nil, err
	}
	return d.add(ctx, newMember{name, signIn, role, hash})
}

// open counts those who may come in, of some roles or of all.
func open(rows []sqlgen.Member, of func(Role) bool) int {
	n := 0
	for _, r := range rows {
		if r.EndedAt == nil && (of == nil || of(RoleKey(r.Role).Row())) {
			n++
		}
	}
	return n
}

// MemberChange is what a member is called and may do from now on.
type MemberChange struct {
	Name string  `json:"name" maxLength:"240"`
	Role RoleKey `json:"role"`
}

// Change says what a member is called and may do. The last keeper stays one.
func (d *Door) Change(ctx context.Context, id uuid.UUID, c MemberChange) error {
	name, err := cleanName("name", c.Name, mostName)
	if err != nil {
		return err
	}
	if len(c.Role.Row().Rights) == 0 {
		return plant.Refuse("role", "is none that there is")
	}
	return d.in(ctx, func(q *sqlgen.Queries) error {
		if err := d.staysKept(ctx, q, id, c.Role.Row().Stays); err != nil {
			return err
		}
		n, err := q.ChangeMember(ctx, sqlgen.ChangeMemberParams{ID: id, Name: name, Role: string(c.Role)})
		if err == nil && n == 0 {
			err = propagation.MissingError{What: "This member"}
		}
		return err
	})
}

// staysKept refuses to take the last one away whom a household cannot be without.
func (d *Door) staysKept(ctx context.Context, q *sqlgen.Queries, id uuid.UUID, stays bool) error {
	rows, err := q.LockMembers(ctx)
	if err != nil {
		return err
	}
	for _, r := range rows {
		role := RoleKey(r.Role).Row()
		if r.ID == id && r.EndedAt == nil && role.Stays && !stays && open(rows, func(o Role) bool { return o.Stays }) == 1 {
			return propagation.ConflictError{Reason: fmt.Sprintf("%s is the last %s: make somebody else one first, or nobody could.", r.Name, role.Key)}
		}
	}
	return nil
}

// End shuts a member out, at once and on every device. What they noted stays, with their name.
func (d *Door) End(ctx context.Context, id uuid.UUID) error {
	return d.in(ctx, func(q *sqlgen.Queries) error {
		if err := d.staysKept(ctx, q, id, false); err != nil {
			return err
		}
		m, err := q.MemberByID(ctx, id)
		if err != nil {
			return missing(err, "This member")
		}
		now := d.now()
		if _, err := q.EndMember(ctx, sqlgen.EndMemberParams{ID: id, At: now}); err != nil {
			return err
		}
		return errors.Join(
			q.EndSignInsOf(ctx, sqlgen.EndSignInsOfParams{MemberID: id, But: uuid.Nil, At: now}),
			q.EndInvitationsFor(ctx, sqlgen.EndInvitationsForParams{MemberID: &id, Now: now}),
			q.RemoveWayIn(ctx, sqlgen.RemoveWayInParams{What: byName, Word: m.SignInName}),
		)
	})
}
