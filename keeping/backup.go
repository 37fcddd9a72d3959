// Package keeping keeps what a household has safe: backups that were read back, restored whole or not at all, and what
// is to be looked after on the machine.
//
// A backup is a zip file: about.json says what it is, database.dump is PostgreSQL's own custom format, and sha256sums
// holds both together. It can be unpacked and restored by hand.
package keeping

import (
	"archive/zip"
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Format and version of a backup.
const (
	Format  = "clearjar-backup"
	Version = 1
)

// Entries of a backup.
const (
	aboutEntry = "about.json"
	dumpEntry  = "database.dump"
	sumsEntry  = "sha256sums"
)

// About is what a backup says of itself.
type About struct {
	Format  string    `json:"format"`
	Version int       `json:"version"`
	MadeAt  time.Time `json:"made_at"`
	// Schema is the number of the newest change of the tables.
	Schema int64 `json:"schema"`
	// Households, Facts, Cuttings and Photos are how many of each were there as it began.
	Households int64 `json:"households"`
	Facts      int64 `json:"facts"`
	Cuttings   int64 `json:"cuttings"`
	Photos     int64 `json:"photos"`
}

// DamagedError says that a file is no backup, or not a whole one.
type DamagedError struct{ File, Why string }

func (e DamagedError) Error() string {
	return fmt.Sprintf("%s is no whole backup: %s. Nothing was changed; take another one", e.File, e.Why)
}

// Backup writes everything in the database into one file, consistent as of one moment, while the server goes on. The file comes to
// stand there when it was read back whole, or not at all; one that is there stays.
func Backup(ctx context.Context, url, file string, now func() time.Time) (About, error) {
	if _, err := os.Stat(file); err == nil {
		return About{}, fmt.Errorf("%s is there already: a backup replaces nothing. Give another name", file)
	}
	if err := os.MkdirAll(filepath.Dir(file), 0o700); err != nil {
		return About{}, err
	}
	part := file + ".part"
	out, err := os.OpenFile(part, os.O_WRONLY|os.O_CREATE|os.O_TRUNC, 0o600) //nolint:gosec // a path of the one who runs the server
	if err != nil {
		return About{}, err
	}
	about, err := WriteBackup(ctx, url, out, now())
	err = errors.Join(err, out.Sync(), out.Close())
	if err == nil {
		_, err = Verify(ctx, part)
	}
	if err == nil {
		err = os.Rename(part, file)
	}
	if err != nil {
		_ = os.Remove(part)
		if errors.Is(err, syscall.ENOSPC) {
			return About{}, fmt.Errorf("the disk is full: no backup was made, and what was begun of it was removed. Make room where %s stands, or name another place", filepath.Dir(file))
		}
		return About{}, fmt.Errorf("no backup was made, and what was begun of it was removed: %w", err)
	}
	return about, syncFolder(filepath.Dir(file))
}

func syncFolder(path string) error {
	d, err := os.Open(path) //nolint:gosec // a path of the one who runs the server
	if err != nil {
		return err
	}
	return errors.Join(d.Sync(), d.Close())
}

// WriteBackup streams a backup.
func WriteBackup(ctx context.Context, url string, out io.Writer, at time.Time) (About, error) {
	about, err := count(ctx, url)
	if err != nil {
		return about, err
	}
	about.Format, about.Version, about.MadeAt = Format, Version, at.UTC().Truncate(time.Second)
	z := zip.NewWriter(out)
	sums := map[string]hash.Hash{}
	entry := func(name string) (io.Writer, error) {
		// The dump is compressed already.
		w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Store, Modified: about.MadeAt})
		if err != nil {
			return nil, err
		}
		sums[name] = sha256.New()
		return io.MultiWriter(w, sums[name]), nil
	}
	w, err := entry(aboutEntry)
	if err != nil {
		return about, err
	}
	if err := json.NewEncoder(w).Encode(about); err != nil {
		return about, err
	}
	if w, err = entry(dumpEntry); err != nil {
		return about, err
	}
	dump, err := tool(ctx, url, "pg_dump", "--format=custom", "--compress=1", "--no-owner", "--no-privileges")
	if err != nil {
		return about, err
	}
	if err := dump.run(nil, w); err != nil {
		return about, err
	}
	var lines strings.Builder
	for _, name := range []string{aboutEntry, dumpEntry} {
		fmt.Fprintf(&lines, "%s  %s\n", hex.EncodeToString(sums[name].Sum(nil)), name)
	}
	if w, err = entry(sumsEntry); err != nil {
		return about, err
	}
	if _, err := io.WriteString(w, lines.String()); err != nil {
		return about, err
	}
	return about, z.Close()
}

// count is how much is there.
func count(ctx context.Context, url string) (About, error) {
	var a About
	c, err := pgx.Connect(ctx, url)
	if err != nil {
		return a, err
	}
	defer func() { _ = c.Close(context.WithoutCancel(ctx)) }()
	err = c.QueryRow(ctx, "select (select max(version_id) from goose_db_version where is_applied), (select count(*) from household), (select count(*) from fact), (select count(*) from cutting), (select count(*) from photo)").
		Scan(&a.Schema, &a.Households, &a.Facts, &a.Cuttings, &a.Photos)
	if err != nil {
		return a, fmt.Errorf("this database holds no Clear Jar: %w", err)
	}
	return a, nil
}

// Verify reads a backup to its end: its sums, and every block of its dump.
func Verify(ctx context.Context, file string) (About, error) {
	var a About
	damaged := func(format string, args ...any) (About, error) {
		return About{}, DamagedError{file, fmt.Sprintf(format, args...)}
	}
	z, err := zip.OpenReader(file)
	if errors.Is(err, fs.ErrNotExist) {
		return a, fmt.Errorf("there is no file %s", file)
	}
	if err != nil {
		return damaged("it is cut short or of another kind (%v)", err)
	}
	defer func() { _ = z.Close() }()
	sums := map[string]string{}
	var said []byte
	for _, f := range z.File {
		h := sha256.New()
		var kept bytes.Buffer
		to := io.Writer(h)
		if f.Name != dumpEntry {
			if f.UncompressedSize64 > 1<<20 {
				return damaged("%s in it is far too large", f.Name)
			}
			to = io.MultiWriter(h, &kept)
		}
		r, err := f.Open()
		if err != nil {
			return damaged("%s in it cannot be opened (%v)", f.Name, err)
		}
		if _, err := io.Copy(to, r); err != nil { //nolint:gosec // stored, so it is as long as the file
			return damaged("%s in it is damaged (%v)", f.Name, err)
		}
		sums[f.Name] = hex.EncodeToString(h.Sum(nil))
		switch f.Name {
		case aboutEntry:
			if err := json.Unmarshal(kept.Bytes(), &a); err != nil || a.Format != Format {
				return damaged("it does not say that it is one")
			}
		case sumsEntry:
			said = kept.Bytes()
		}
	}
	if a.Version > Version {
		return a, fmt.Errorf("%s is a backup of version %d, and this Clear Jar reads up to %d: use a newer one", file, a.Version, Version)
	}
	for _, name := range []string{aboutEntry, dumpEntry} {
		if sums[name] == "" || !strings.Contains(string(said), sums[name]+"  "+name+"\n") {
			return damaged("%s in it is not what was written", name)
		}
	}
	read, err := tool(ctx, "", "pg_restore", "--file=/dev/null")
	if err != nil {
		return a, err
	}
	if err := withDump(z, func(r io.Reader) error { return read.run(r, io.Discard) }); err != nil {
		return damaged("its dump cannot be read back (%v)", err)
	}
	return a, nil
}

func withDump(z *zip.ReadCloser, do func(io.Reader) error) error {
	r, err := z.Open(dumpEntry)
	if err != nil {
		return err
	}
	return errors.Join(do(r), r.Close())
}

// program is one of PostgreSQL's own.
type program struct{ *exec.Cmd }

// tool finds one of PostgreSQL's programs, the newest there is, and gives it the address of the database where others cannot read it.
func tool(ctx context.Context, url, name string, args ...string) (program, error) {
	path, err := Tool(name)
	if err != nil {
		return program{}, err
	}
	cmd := exec.CommandContext(ctx, path, args...) //nolint:gosec // a program of PostgreSQL with our own arguments
	cmd.Env = append(os.Environ(), "LC_ALL=C")
	if url != "" {
		cfg, err := pgconn.ParseConfig(url)
		if err != nil {
			return program{}, err
		}
		ssl := "prefer"
		if cfg.TLSConfig == nil {
			ssl = "disable"
		}
		cmd.Env = append(cmd.Env, "PGHOST="+cfg.Host, "PGPORT="+strconv.Itoa(int(cfg.Port)), "PGUSER="+cfg.User, "PGPASSWORD="+cfg.Password, "PGDATABASE="+cfg.Database, "PGSSLMODE="+ssl)
	}
	return program{cmd}, nil
}

// Tool is the path of one of PostgreSQL's programs.
func Tool(name string) (string, error) {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/" + name)
	slices.SortFunc(found, func(a, b string) int { return major(b) - major(a) })
	if len(found) > 0 {
		return found[0], nil
	}
	path, err := exec.LookPath(name)
	if err != nil {
		return "", fmt.Errorf("%s is needed and not here: install the package postgresql-client", name)
	}
	return path, nil
}

func major(path string) int {
	n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(path))))
	return n
}

// run gives in and takes out; what the program says when it fails is in the error.
func (p program) run(in io.Reader, out io.Writer) error {
	var says bytes.Buffer
	var failed error
	p.Stdin, p.Stderr = in, &says
	p.Stdout = writerFunc(func(b []byte) (int, error) {
		n, err := out.Write(b)
		if err != nil {
			failed = err
		}
		return n, err
	})
	err := p.Run()
	if failed != nil {
		return failed
	}
	if err != nil {
		text := strings.TrimSpace(says.String())
		if len(text) > 500 {
			text = text[:500]
		}
		return fmt.Errorf("%s: %w: %s", filepath.Base(p.Path), err, text)
	}
	return nil
}

type writerFunc func([]byte) (int, error)

func (f writerFunc) Write(b []byte) (int, error) { return f(b) }
