package keeping_test

import (
	"path/filepath"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"clearjar/keeping"
	"clearjar/store/storetest"
	"clearjar/wayin"
)

// found is what was found of one thing.
func found(t *testing.T, p keeping.Patient, what string) keeping.Finding {
	t.Helper()
	for _, f := range keeping.Examine(t.Context(), p) {
		if f.What == what {
			return f
		}
	}
	require.Fail(t, "not looked at", what)
	return keeping.Finding{}
}

func TestTheDoctorSaysWhatToDo(t *testing.T) {
	t.Parallel()
	folder := filepath.Join(t.TempDir(), "copies")
	p := keeping.Patient{Database: storetest.URL(t), Copies: folder, Now: time.Now}
	require.Equal(t, keeping.Bad, found(t, p, "backup").State, "there is none yet")
	_, err := keeping.Nightly(t.Context(), p.Database, folder, 3, time.Now)
	require.NoError(t, err)
	for _, f := range keeping.Examine(t.Context(), p) {
		require.NotEqual(t, keeping.Bad, f.State, f.String())
	}
	require.Contains(t, found(t, p, "database").Says, "PostgreSQL")
	require.Equal(t, keeping.Good, found(t, p, "version").State)

	// The clock wrong by a day, either way.
	for _, off := range []time.Duration{24 * time.Hour, -24 * time.Hour} {
		p.Now = func() time.Time { return time.Now().Add(off) }
		clock := found(t, p, "clock")
		require.Equal(t, keeping.Bad, clock.State)
		require.Contains(t, clock.Do, "timedatectl")
	}
	require.Contains(t, found(t, p, "backup").Says+found(t, p, "backup").Do, "future", "a day behind, the copy lies ahead")
	p.Now = func() time.Time { return time.Now().AddDate(0, 0, 5) }
	require.Contains(t, found(t, p, "backup").Do, "days old")
	p.Now = time.Now

	// A certificate that ran out, and an authority whose time comes.
	p.Way = wayin.Wish{Listen: "0.0.0.0:8420", Hosts: []string{"clearjar.local"}, Authority: filepath.Join(t.TempDir(), "authority")}
	require.Equal(t, keeping.Good, found(t, p, "certificate").State)
	p.Now = func() time.Time { return time.Now().AddDate(9, 6, 0) }
	require.Equal(t, keeping.Mind, found(t, p, "certificate").State)
	p.Now = func() time.Time { return time.Now().AddDate(11, 0, 0) }
	require.Equal(t, keeping.Bad, found(t, p, "certificate").State)
	p.Now = time.Now
	p.Way.Listen, p.Now = "", time.Now
	require.Equal(t, keeping.Good, found(t, p, "certificate").State, "the port is handed over")
	p.Way = wayin.Wish{Listen: "0.0.0.0:8420"}
	require.Contains(t, found(t, p, "certificate").Says, "--host")

	// Tables of a newer program, and none at all.
	c, err := pgx.Connect(t.Context(), p.Database)
	require.NoError(t, err)
	_, err = c.Exec(t.Context(), "insert into goose_db_version (version_id, is_applied) values (99999, true)")
	require.NoError(t, err)
	require.NoError(t, c.Close(t.Context()))
	require.Contains(t, found(t, p, "version").Says, "newer Clear Jar")
	p.Database = storetest.EmptyURL(t)
	require.Equal(t, keeping.Mind, found(t, p, "version").State)
	p.Database = "postgres://nobody@127.0.0.1:9/none?sslmode=disable"
	require.Contains(t, found(t, p, "database").Do, "systemctl status postgresql")
	p.Copies = ""
	require.Contains(t, found(t, p, "backup").Do, "--backup-folder")
}
