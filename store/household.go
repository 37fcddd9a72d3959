package store

import (
	"context"
	_ "embed"
	"errors"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// First is the household there is until accounts come.
var First = uuid.MustParse("00000000-0000-7000-8000-000000000001")

// ErrNoHousehold says that something asked for rows without saying whose.
var ErrNoHousehold = errors.New("no household was named: nothing can be read or written")

type (
	householdKey struct{}
	memberKey    struct{}
)

// As names the household that queries under this context are for.
func As(ctx context.Context, household uuid.UUID) context.Context {
	return context.WithValue(ctx, householdKey{}, household)
}

// By names the member who does what is done under this context; without one it is a device, a command or the work in
// the background.
func By(ctx context.Context, member uuid.UUID) context.Context {
	return context.WithValue(ctx, memberKey{}, member)
}

// Nobody is a context at the door: before it is known who somebody is, no household's rows are seen.
func Nobody(ctx context.Context) context.Context { return By(As(ctx, uuid.Nil), uuid.Nil) }

// role is who the application is in the database: it owns nothing and passes no policy.
const role = "clearjar_app"

// MakeRole makes the role once for the whole server, and lets the one who connects take it; two that start at once take it as it is.
const MakeRole = `do $$ begin
    begin
        create role ` + role + ` nologin;
    exception when duplicate_object or unique_violation then null;
    end;
    if not pg_has_role(current_user, '` + role + `', 'member') then
        execute format('grant ` + role + ` to %I', current_user);
    end if;
end $$`

// Grants lets the role use the tables; giving them twice is giving them once.
//
//go:embed grants.sql
var Grants string

// forHousehold sets the household and the member of a connection that is taken from the pool, or refuses to give it.
func forHousehold(ctx context.Context, c *pgx.Conn) (bool, error) {
	household, ok := ctx.Value(householdKey{}).(uuid.UUID)
	if !ok {
		return true, ErrNoHousehold
	}
	member, _ := ctx.Value(memberKey{}).(uuid.UUID)
	known := c.PgConn().CustomData()
	whose := [2]uuid.UUID{household, member}
	if known["whose"] == whose {
		return true, nil
	}
	by := ""
	if member != uuid.Nil {
		by = member.String()
	}
	if _, err := c.Exec(ctx, "select set_config('clearjar.household', $1, false), set_config('clearjar.member', $2, false)", household.String(), by); err != nil {
		return false, err
	}
	known["whose"] = whose
	return true, nil
}

// Whose is the household that queries under a context are for.
func Whose(ctx context.Context) (uuid.UUID, error) {
	household, ok := ctx.Value(householdKey{}).(uuid.UUID)
	if !ok {
		return household, ErrNoHousehold
	}
	return household, nil
}

// Who is the member that queries under a context are by; none when it is no member.
func Who(ctx context.Context) uuid.UUID {
	member, _ := ctx.Value(memberKey{}).(uuid.UUID)
	return member
}
