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

type householdKey struct{}

// As names the household that queries under this context are for.
func As(ctx context.Context, household uuid.UUID) context.Context {
	return context.WithValue(ctx, householdKey{}, household)
}

// role is who the application is in the database: it owns nothing and passes no policy.
const role = "clearjar_app"

// makeRole makes the role once for the whole server; two that start at once take it as it is.
const makeRole = `do $$ begin
    create role ` + role + ` nologin;
exception when duplicate_object or unique_violation then null; end $$`

// Grants lets the role use the tables; giving them twice is giving them once.
//
//go:embed grants.sql
var Grants string

// forHousehold sets the household of a connection that is taken from the pool, or refuses to give it.
func forHousehold(ctx context.Context, c *pgx.Conn) (bool, error) {
	household, ok := ctx.Value(householdKey{}).(uuid.UUID)
	if !ok {
		return true, ErrNoHousehold
	}
	known := c.PgConn().CustomData()
	if known["household"] == household {
		return true, nil
	}
	if _, err := c.Exec(ctx, "select set_config('clearjar.household', $1, false)", household.String()); err != nil {
		return false, err
	}
	known["household"] = household
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
