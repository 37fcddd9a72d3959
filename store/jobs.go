package store

import (
	"context"

	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivermigrate"
)

// JobSchema is where the jobs of the background are kept, beside the facts and no part of them.
const JobSchema = "river"

// migrateJobs brings the tables of the jobs to the newest version.
func (s *Store) migrateJobs(ctx context.Context) error {
	cfg := s.Pool.Config()
	cfg.PrepareConn, cfg.AfterConnect, cfg.MaxConns = nil, nil, 2
	delete(cfg.ConnConfig.RuntimeParams, "statement_timeout")
	delete(cfg.ConnConfig.RuntimeParams, "lock_timeout")
	delete(cfg.ConnConfig.RuntimeParams, "idle_in_transaction_session_timeout")
	pool, err := pgxpool.NewWithConfig(ctx, cfg)
	if err != nil {
		return err
	}
	defer pool.Close()
	m, err := rivermigrate.New(riverpgxv5.New(pool), &rivermigrate.Config{Schema: JobSchema})
	if err != nil {
		return err
	}
	_, err = m.Migrate(ctx, rivermigrate.DirectionUp, nil)
	return err
}
