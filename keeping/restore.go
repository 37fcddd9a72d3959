package keeping

import (
	"archive/zip"
	"context"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"clearjar/store"
)

// NotEmptyError says that something is there already.
type NotEmptyError struct{ Facts int64 }

func (e NotEmptyError) Error() string {
	return fmt.Sprintf("this database is not empty (%d facts): nothing was changed. Restore into an empty one, or say --replace; what is there is gone then, so make a backup of it first", e.Facts)
}

// InUseError says that somebody works on the database.
type InUseError struct{ Connections int }

func (e InUseError) Error() string {
	return fmt.Sprintf("Clear Jar is at work on this database (%d connections): stop it first. Nothing was changed", e.Connections)
}

// Restore brings a backup back: all of it, or nothing of what is there changes. Every log-in of then is ended.
func Restore(ctx context.Context, url, file string, replace bool) (About, error) {
	about, err := Verify(ctx, file)
	if err != nil {
		return about, err
	}
	if err := mayRestore(ctx, url, replace); err != nil {
		return about, err
	}
	z, err := zip.OpenReader(file)
	if err != nil {
		return about, err
	}
	defer func() { _ = z.Close() }()
	if err := withDump(z, func(dump io.Reader) error { return readInto(ctx, url, dump) }); err != nil {
		return about, fmt.Errorf("it could not be restored, and nothing was changed: %w", err)
	}
	s, err := store.Open(ctx, url)
	if err != nil {
		return about, err
	}
	defer s.Close()
	// The program may be newer than the backup.
	if err := s.Migrate(store.Nobody(ctx)); err != nil {
		return about, fmt.Errorf("it was restored, and its tables could not be brought up to date: %w", err)
	}
	return about, nil
}

// before is what stands ahead of the dump in its one transaction.
const before = `set client_min_messages = warning;
drop schema if exists public cascade;
drop schema if exists river cascade;
drop schema if exists door cascade;
create schema public;
` + store.MakeRole + `;
`

// after ends every log-in: a cookie that was ended since the backup opens nothing again.
const after = `
do $$ begin if to_regclass('door.sessions') is not null then delete from door.sessions; end if; end $$;
do $$ begin if to_regclass('public.sign_in') is not null then update public.sign_in set ended_at = coalesce(ended_at, now()); end if; end $$;
`

// readInto turns the dump into SQL and runs it in one transaction.
func readInto(ctx context.Context, url string, dump io.Reader) error {
	from, err := tool(ctx, "", "pg_restore", "--no-owner", "--no-privileges", "--file=-")
	if err != nil {
		return err
	}
	to, err := tool(ctx, url, "psql", "--no-psqlrc", "--quiet", "--single-transaction", "--set=ON_ERROR_STOP=1", "--output=/dev/null", "--file=-")
	if err != nil {
		return err
	}
	r, w := io.Pipe()
	done := make(chan error, 1)
	go func() {
		_, err := io.WriteString(w, before)
		if err == nil {
			err = from.run(dump, schemaIsThere(w))
		}
		if err == nil {
			_, err = io.WriteString(w, after)
		}
		if err != nil && to.Process != nil {
			// What was cut short must not be taken for the whole: the one who would commit it is gone before its text ends.
			_ = to.Process.Kill()
		}
		_ = w.CloseWithError(io.EOF)
		done <- err
	}()
	ran := to.run(r, io.Discard)
	_ = r.CloseWithError(io.ErrClosedPipe)
	wrote := <-done
	if errors.Is(wrote, io.ErrClosedPipe) {
		wrote = nil // it is said better by the one who closed it
	}
	return errors.Join(ran, wrote)
}

// schemaIsThere leaves out what makes the schema that stands already, in the first part of the text.
func schemaIsThere(w io.Writer) io.Writer {
	left := 64 << 10
	return writerFunc(func(b []byte) (int, error) {
		text := b
		if left > 0 {
			left -= len(b)
			text = []byte(strings.ReplaceAll(string(b), "CREATE SCHEMA public;", ""))
		}
		if _, err := w.Write(text); err != nil {
			return 0, err
		}
		return len(b), nil
	})
}

func mayRestore(ctx context.Context, url string, replace bool) error {
	c, err := pgx.Connect(ctx, url)
	if err != nil {
		return err
	}
	defer func() { _ = c.Close(context.WithoutCancel(ctx)) }()
	others := 0
	// Who was just stopped is gone a moment later.
	for try := range 20 {
		if try > 0 {
			select {
			case <-time.After(200 * time.Millisecond):
			case <-ctx.Done():
				return ctx.Err()
			}
		}
		if err := c.QueryRow(ctx, "select count(*) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid() and backend_type = 'client backend'").Scan(&others); err != nil {
			return err
		}
		if others == 0 {
			break
		}
	}
	if others > 0 {
		return InUseError{others}
	}
	var there bool
	if err := c.QueryRow(ctx, "select exists (select from pg_tables where schemaname not in ('pg_catalog', 'information_schema'))").Scan(&there); err != nil || !there || replace {
		return err
	}
	var facts int64
	if err := c.QueryRow(ctx, "select count(*) from fact").Scan(&facts); err != nil {
		facts = 0
	}
	return NotEmptyError{facts}
}
