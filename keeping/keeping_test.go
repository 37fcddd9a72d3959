package keeping_test

import (
	"bytes"
	"context"
	"crypto/md5" //nolint:gosec // compares, protects nothing
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/household"
	"clearjar/keeping"
	"clearjar/propagation"
	"clearjar/propagation/door"
	"clearjar/propagation/photo"
	"clearjar/store"
	"clearjar/store/storetest"
)

var noon = time.Date(2026, 6, 10, 12, 0, 0, 0, time.UTC)

func now() time.Time { return noon }

func v7() uuid.UUID { return uuid.Must(uuid.NewV7()) }

// Where it is installed its owner is no superuser: tables are made, rows stay their household's, and backups see all of them.
func TestAnOwnerWhoIsNoSuperuser(t *testing.T) {
	t.Parallel()
	url := storetest.OrdinaryURL(t)
	s, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	require.NoError(t, s.Migrate(store.Nobody(t.Context())))
	s.Close()
	fill(t, url)
	file := filepath.Join(t.TempDir(), "one.zip")
	about, err := keeping.Backup(t.Context(), url, file, now)
	require.NoError(t, err)
	require.EqualValues(t, 10, about.Facts)
	want := contents(t, url)
	_, err = keeping.Restore(t.Context(), url, file, true)
	require.NoError(t, err)
	got := contents(t, url)
	delete(want, "door.sessions")
	delete(got, "door.sessions")
	require.Equal(t, want, got)
}

// lived is a database with two households, people, facts and a photo.
func lived(t *testing.T) string {
	t.Helper()
	url := storetest.URL(t)
	fill(t, url)
	return url
}

func fill(t *testing.T, url string) {
	t.Helper()
	s, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	defer s.Close()
	g := propagation.New(s, now, time.UTC)
	d := household.At(s, now)
	other, err := d.New(t.Context(), "Next door", "Europe/Berlin")
	require.NoError(t, err)
	for i, id := range []uuid.UUID{store.First, other} {
		ctx := store.As(t.Context(), id)
		member, err := d.AddMember(ctx, "Ada", fmt.Sprintf("ada%d", i), household.Keeper, "lantern gravel otter seventeen")
		require.NoError(t, err)
		ctx = store.By(ctx, member)
		for n := range 5 {
			_, _, err := door.Keep(ctx, g, door.Brought{ID: v7(), Name: fmt.Sprintf("Hoya \\. %d of '%d$$", i, n), GroupKey: "wax_vine", Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: noon.AddDate(0, 0, -20), KnownTo: "day"})
			require.NoError(t, err)
		}
		var picture bytes.Buffer
		require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 40+i, 30))))
		_, err = photo.Keep(ctx, g, v7(), picture.Bytes())
		require.NoError(t, err)
	}
	_, err = s.Door.Exec(t.Context(), "insert into door.sessions values ('token', 'x', now() + interval '1 day')")
	require.NoError(t, err)
}

// contents is every row of every table, as one sum for each.
func contents(t *testing.T, url string) map[string]string {
	t.Helper()
	c, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer func() { _ = c.Close(context.Background()) }()
	rows, err := c.Query(t.Context(), "select format('%I.%I', schemaname, tablename) from pg_tables where schemaname in ('public', 'door') order by 1")
	require.NoError(t, err)
	tables, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	out := map[string]string{}
	for _, table := range tables {
		rows, err := c.Query(t.Context(), "select x::text from "+table+" x order by 1") //nolint:gosec // names from the catalogue
		require.NoError(t, err)
		all, err := pgx.CollectRows(rows, pgx.RowTo[string])
		require.NoError(t, err)
		sum := md5.Sum([]byte(strings.Join(all, "\x00"))) //nolint:gosec // compares, protects nothing
		out[table] = fmt.Sprintf("%d %s", len(all), hex.EncodeToString(sum[:]))
	}
	return out
}

// The drill: what is restored is what was backed up, row by row; only log-ins have ended.
func TestRestoredIsWhatWasBackedUp(t *testing.T) {
	t.Parallel()
	from := lived(t)
	file := filepath.Join(t.TempDir(), "backups", "one.clearjar")
	about, err := keeping.Backup(t.Context(), from, file, now)
	require.NoError(t, err)
	require.Equal(t, keeping.About{Format: keeping.Format, Version: 1, MadeAt: noon, Schema: about.Schema, Households: 2, Facts: 10, Cuttings: 10, Photos: 2}, about)
	info, err := os.Stat(file)
	require.NoError(t, err)
	require.Equal(t, os.FileMode(0o600), info.Mode().Perm(), "others do not read it")
	_, err = keeping.Backup(t.Context(), from, file, now)
	require.ErrorContains(t, err, "replaces nothing")
	left, err := os.ReadDir(filepath.Dir(file))
	require.NoError(t, err)
	require.Len(t, left, 1)

	to := storetest.EmptyURL(t)
	read, err := keeping.Restore(t.Context(), to, file, false)
	require.NoError(t, err)
	require.Equal(t, about, read)
	want, got := contents(t, from), contents(t, to)
	require.Greater(t, len(want), 40)
	require.NotEqual(t, want["door.sessions"], got["door.sessions"], "log-ins have ended")
	delete(want, "door.sessions")
	delete(got, "door.sessions")
	require.Equal(t, want, got)

	// It works: the same people come in, each household sees its own, and new facts are kept.
	s, err := store.Open(t.Context(), to)
	require.NoError(t, err)
	me, err := household.At(s, now).Passphrase(t.Context(), "ada1", "lantern gravel otter seventeen", "", "127.0.0.1")
	require.NoError(t, err)
	require.Equal(t, "Next door", me.Household)
	_, _, err = door.Keep(me.Context(t.Context()), propagation.New(s, now, time.UTC), door.Brought{ID: v7(), Name: "New", GroupKey: "wax_vine", Kind: plant.StemCutting, Nodes: 2, Leaves: 2, Since: noon, KnownTo: "day"})
	require.NoError(t, err)

	// What is there is not replaced unless that is said, and not under the hands of who works on it.
	_, err = keeping.Restore(t.Context(), to, file, true)
	require.ErrorAs(t, err, new(keeping.InUseError))
	s.Close()
	var there keeping.NotEmptyError
	require.Eventually(t, func() bool {
		_, err = keeping.Restore(t.Context(), to, file, false)
		return errors.As(err, &there)
	}, 10*time.Second, 50*time.Millisecond, "%v", err)
	require.EqualValues(t, 11, there.Facts)
	_, err = keeping.Restore(t.Context(), to, file, true)
	require.NoError(t, err)
	got = contents(t, to)
	delete(got, "door.sessions")
	require.Equal(t, want, got)
}

// A backup unpacked and read by programs that are not ours.
func TestABackupIsAnOpenFile(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "one.zip")
	_, err := keeping.Backup(t.Context(), lived(t), file, now)
	require.NoError(t, err)
	out := t.TempDir()
	require.NoError(t, exec.CommandContext(t.Context(), "unzip", "-q", file, "-d", out).Run()) //nolint:gosec // our own file
	sums := exec.CommandContext(t.Context(), "sha256sum", "--check", "--strict", "sha256sums")
	sums.Dir = out
	text, err := sums.CombinedOutput()
	require.NoError(t, err, string(text))
	restore, err := keeping.Tool("pg_restore")
	require.NoError(t, err)
	list, err := exec.CommandContext(t.Context(), restore, "--list", filepath.Join(out, "database.dump")).Output() //nolint:gosec // a program of PostgreSQL
	require.NoError(t, err)
	require.Contains(t, string(list), "TABLE DATA public photo")
}

// Whatever byte of it is damaged, and wherever it is cut short: it is refused, and what was there stays.
func TestADamagedBackupChangesNothing(t *testing.T) {
	t.Parallel()
	from := lived(t)
	folder := t.TempDir()
	file := filepath.Join(folder, "one.clearjar")
	_, err := keeping.Backup(t.Context(), from, file, now)
	require.NoError(t, err)
	whole, err := os.ReadFile(file)
	require.NoError(t, err)
	before := contents(t, from)
	for i := range 12 {
		bad := slices.Clone(whole)
		at := (len(bad) * (2*i + 1)) / 24
		if i%2 == 0 {
			bad[at] ^= 0xff
		} else {
			bad = bad[:at]
		}
		name := filepath.Join(folder, fmt.Sprintf("bad%d", i))
		require.NoError(t, os.WriteFile(name, bad, 0o600))
		_, err := keeping.Restore(t.Context(), from, name, true)
		require.ErrorAs(t, err, new(keeping.DamagedError), "byte %d of %d", at, len(whole))
	}
	require.Equal(t, before, contents(t, from))
	_, err = keeping.Restore(t.Context(), from, filepath.Join(folder, "none"), true)
	require.ErrorContains(t, err, "there is no file")
	text := filepath.Join(folder, "text")
	require.NoError(t, os.WriteFile(text, []byte("hello"), 0o600))
	_, err = keeping.Restore(t.Context(), from, text, true)
	require.ErrorAs(t, err, new(keeping.DamagedError))
}

// full is a disk with room for so many bytes.
type full struct{ left int }

func (f *full) Write(b []byte) (int, error) {
	if f.left -= len(b); f.left < 0 {
		return 0, &os.PathError{Op: "write", Path: "backup", Err: syscall.ENOSPC}
	}
	return len(b), nil
}

func TestTheDiskIsFullWhileBackingUp(t *testing.T) {
	t.Parallel()
	url := lived(t)
	for _, room := range []int{0, 100, 5000, 40000} {
		_, err := keeping.WriteBackup(t.Context(), url, &full{room}, noon)
		require.ErrorIs(t, err, syscall.ENOSPC, "%d bytes", room)
	}
	// A real one: what was begun is removed, and it is said what to do.
	folder := t.TempDir()
	require.NoError(t, os.Symlink("/dev/full", filepath.Join(folder, "one.part")))
	_, err := keeping.Backup(t.Context(), url, filepath.Join(folder, "one"), now)
	require.ErrorContains(t, err, "the disk is full")
	left, err := os.ReadDir(folder)
	require.NoError(t, err)
	require.Empty(t, left)
}

// The nightly copies: one a day, as many as are kept, and nothing else in the folder is touched.
func TestNightlyCopies(t *testing.T) {
	t.Parallel()
	url := lived(t)
	folder := filepath.Join(t.TempDir(), "nightly")
	at := noon
	clock := func() time.Time { return at }
	require.NoError(t, os.MkdirAll(folder, 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "mine.txt"), nil, 0o600))
	for day := range 5 {
		at = noon.AddDate(0, 0, day)
		made, err := keeping.Nightly(t.Context(), url, folder, 3, clock)
		require.NoError(t, err)
		require.NotEmpty(t, made, "day %d", day)
		at = at.Add(time.Hour)
		made, err = keeping.Nightly(t.Context(), url, folder, 3, clock)
		require.NoError(t, err)
		require.Empty(t, made, "once a day")
	}
	copies, err := keeping.Copies(folder)
	require.NoError(t, err)
	require.Len(t, copies, 3)
	require.WithinDuration(t, noon.AddDate(0, 0, 4), copies[0].MadeAt, time.Second)
	_, err = os.Stat(filepath.Join(folder, "mine.txt"))
	require.NoError(t, err)
	// The clock had been a day ahead: the next copy is made all the same, once.
	at = noon.AddDate(0, 0, 3).Add(2 * time.Hour)
	require.NoError(t, os.Remove(copies[1].File))
	made, err := keeping.Nightly(t.Context(), url, folder, 3, clock)
	require.NoError(t, err)
	require.NotEmpty(t, made)
	made, err = keeping.Nightly(t.Context(), url, folder, 3, clock)
	require.NoError(t, err)
	require.Empty(t, made)
	// One that cannot be made leaves those that are there.
	at = noon.AddDate(0, 0, 9)
	_, err = keeping.Nightly(t.Context(), "postgres://nobody@127.0.0.1:9/none?sslmode=disable", folder, 3, clock)
	require.Error(t, err)
	copies, err = keeping.Copies(folder)
	require.NoError(t, err)
	require.Len(t, copies, 3)
}
