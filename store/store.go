// Package store keeps the facts in PostgreSQL: the schema as migrations, the SQL in
// .sql files with generated Go, and a pool that survives a lost connection.
package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"time"

	"github.com/goccy/go-json"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgtype"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"

	"clearjar/store/sqlgen"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is the database with its generated queries.
type Store struct {
	*sqlgen.Queries
	Pool *pgxpool.Pool
	// Door is a small pool for what is asked before a household is known: its connections see no household's rows.
	Door *pgxpool.Pool
	// inTx says that this is the store as a transaction sees it.
	inTx bool
}

// Open connects to PostgreSQL. It does not wait for the server: the first query does.
func Open(ctx context.Context, url string) (*Store, error) {
	cfg, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("database address: %w", err)
	}
	cfg.MaxConns = 10
	// Small, indexed queries: planning each anew, or compiling it, would take longer than running it.
	cfg.ConnConfig.RuntimeParams["plan_cache_mode"] = "force_generic_plan"
	cfg.ConnConfig.RuntimeParams["jit"] = "off"
	// Nothing waits for ever: not a query, not a lock, not a transaction that somebody left open.
	cfg.ConnConfig.RuntimeParams["statement_timeout"] = "15s"
	cfg.ConnConfig.RuntimeParams["lock_timeout"] = "5s"
	cfg.ConnConfig.RuntimeParams["idle_in_transaction_session_timeout"] = "30s"
	// Reading the looks is most of the work of a full shelf: a faster decoder than the standard one.
	cfg.AfterConnect = func(ctx context.Context, c *pgx.Conn) error {
		// As a role that no policy lets past: each row is its household's.
		if _, err := c.Exec(ctx, "set role "+role); err != nil {
			return err
		}
		codec := &pgtype.JSONBCodec{Marshal: json.Marshal, Unmarshal: json.Unmarshal}
		c.TypeMap().RegisterType(&pgtype.Type{Name: "jsonb", OID: pgtype.JSONBOID, Codec: codec})
		return nil
	}
	cfg.PrepareConn = forHousehold
	cfg.ConnConfig.ConnectTimeout = 5 * time.Second
	pool, err := pgxpool.NewWithConfig(ctx, cfg)
	if err != nil {
		return nil, err
	}
	atDoor := cfg.Copy()
	atDoor.MaxConns, atDoor.PrepareConn = 4, nil
	atDoor.ConnConfig.RuntimeParams["search_path"] = "door"
	door, err := pgxpool.NewWithConfig(ctx, atDoor)
	if err != nil {
		pool.Close()
		return nil, err
	}
	return &Store{Queries: sqlgen.New(pool), Pool: pool, Door: door}, nil
}

// Close gives the connections back.
func (s *Store) Close() {
	s.Pool.Close()
	s.Door.Close()
}

// Migrate brings the schema to the newest version; running it twice is running it once.
func (s *Store) Migrate(ctx context.Context) error {
	dir, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	// A migration takes its time, and two servers that start at once take turns.
	cfg := s.Pool.Config().ConnConfig.Copy()
	delete(cfg.RuntimeParams, "statement_timeout")
	delete(cfg.RuntimeParams, "lock_timeout")
	delete(cfg.RuntimeParams, "idle_in_transaction_session_timeout")
	db := stdlib.OpenDB(*cfg)
	defer func() { _ = db.Close() }()
	if _, err := db.ExecContext(ctx, MakeRole); err != nil {
		return fmt.Errorf("making the role %s: %w", role, err)
	}
	turns, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectPostgres, db, dir, goose.WithDisableGlobalRegistry(true), goose.WithSessionLocker(turns))
	if err != nil {
		return err
	}
	if _, err = provider.Up(ctx); err != nil {
		return err
	}
	// Two that start at once take turns.
	tx, err := db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }()
	if _, err = tx.ExecContext(ctx, "select pg_advisory_xact_lock(hashtext('clearjar grants'))"); err != nil {
		return err
	}
	if err := s.migrateJobs(ctx); err != nil {
		return err
	}
	if _, err = tx.ExecContext(ctx, Grants); err != nil {
		return err
	}
	return tx.Commit()
}

// NewestSchema is the number of the newest change of the tables that this program knows.
func NewestSchema() (int64, error) {
	all, err := fs.Glob(migrations, "migrations/*.sql")
	if err != nil {
		return 0, err
	}
	newest := int64(0)
	for _, name := range all {
		n, err := goose.NumericComponent(name)
		if err != nil {
			return 0, err
		}
		newest = max(newest, n)
	}
	return newest, nil
}

// InTx runs work in one transaction: all of it is kept, or none. Inside a transaction it is
// part of that one.
func (s *Store) InTx(ctx context.Context, work func(q *sqlgen.Queries) error) error {
	if s.inTx {
		return work(s.Queries)
	}
	return pgx.BeginFunc(ctx, s.Pool, func(tx pgx.Tx) error { return work(s.WithTx(tx)) })
}

// In is the store as one transaction sees it.
func (s *Store) In(q *sqlgen.Queries) *Store { return &Store{q, s.Pool, s.Door, true} }

// ErrMissing says that a row is not there.
var ErrMissing = pgx.ErrNoRows

// IsMissing tells whether err says that a row is not there.
func IsMissing(err error) bool { return errors.Is(err, ErrMissing) }

// BrokenRule is the name of the constraint that err says was broken, or empty.
func BrokenRule(err error) string {
	var pg *pgconn.PgError
	if errors.As(err, &pg) && len(pg.Code) == 5 && pg.Code[:2] == "23" {
		return pg.ConstraintName
	}
	return ""
}

// IsNoValue tells whether err says that a value is none the database can keep: out of range, or no text.
func IsNoValue(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && len(pg.Code) == 5 && pg.Code[:2] == "22"
}

// IsLost tells whether err says that the database could not be reached or went away.
func IsLost(err error) bool {
	var pg *pgconn.PgError
	if errors.As(err, &pg) {
		// 57P0x: shut down or crashed; 57014: took too long; 55P03: waited too long; 40xxx: two in each
		// other's way; 25P03: left open too long; 08xxx: connection; 53xxx: out of resources.
		return slices.Contains([]string{"08", "53", "40"}, pg.Code[:2]) || pg.Code[:3] == "57P" || slices.Contains([]string{"57014", "55P03", "25P03"}, pg.Code)
	}
	var connect *pgconn.ConnectError
	return errors.As(err, &connect) || pgconn.SafeToRetry(err) || (err != nil && errors.Is(err, context.DeadlineExceeded)) || isBrokenPipe(err)
}
