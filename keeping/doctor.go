package keeping

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"path/filepath"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"

	"clearjar/store"
	"clearjar/wayin"
)

// State of something that was looked at.
type State string

// The states.
const (
	Good State = "good"
	Mind State = "mind"
	Bad  State = "bad"
)

// Finding is what was found, and what to do.
type Finding struct {
	What  string
	State State
	Says  string
	Do    string
}

func (f Finding) String() string {
	text := fmt.Sprintf("%-12s %-4s  %s", f.What, f.State, f.Says)
	if f.Do != "" {
		text += "\n                    " + f.Do
	}
	return text
}

// Patient is the server that is looked at.
type Patient struct {
	// Database is its address.
	Database string
	// Way is how it is reached.
	Way wayin.Wish
	// Copies is the folder of nightly copies; empty for none.
	Copies string
	Now    func() time.Time
}

// What is taken for little. assumption: a photo is a few MB, and a copy of everything has to fit twice.
const (
	littleRoom = 2 << 30
	noRoom     = 200 << 20
	clockOff   = 2 * time.Minute
	oldCopy    = 49 * time.Hour
	soon       = 21 * 24 * time.Hour
)

// Examine looks at everything, whatever fails.
func Examine(ctx context.Context, p Patient) []Finding {
	out := database(ctx, p)
	out = append(out, tools(), room("disk, copies", p.Copies))
	return append(out, certificate(p), copies(p))
}

func database(ctx context.Context, p Patient) []Finding {
	ctx, cancel := context.WithTimeout(ctx, 10*time.Second)
	defer cancel()
	c, err := pgx.Connect(ctx, p.Database)
	if err != nil {
		return []Finding{{"database", Bad, "it cannot be reached", "Is PostgreSQL running (systemctl status postgresql), and is the address right (clearjar config)?"}}
	}
	defer func() { _ = c.Close(context.WithoutCancel(ctx)) }()
	out := []Finding{}
	var version, folder string
	var there time.Time
	asked := p.Now()
	if err := c.QueryRow(ctx, "select current_setting('server_version'), clock_timestamp(), case when pg_has_role('pg_read_all_settings', 'usage') then current_setting('data_directory') else '' end").Scan(&version, &there, &folder); err != nil {
		return append(out, Finding{"database", Bad, "it was reached and does not answer: " + err.Error(), "See the log of PostgreSQL."})
	}
	out = append(out, Finding{"database", Good, "PostgreSQL " + version + " answers", ""})
	off := there.Sub(asked).Abs()
	if off > clockOff {
		out = append(out, Finding{"clock", Bad, fmt.Sprintf("this machine and the database differ by %s", off.Round(time.Second)), "Days, dues and log-ins go by the clock. Set it by the network: timedatectl set-ntp true."})
	} else {
		out = append(out, Finding{"clock", Good, "this machine and the database agree", ""})
	}
	var schema int64
	newest, err := store.NewestSchema()
	if err != nil {
		return append(out, Finding{"version", Bad, err.Error(), ""})
	}
	err = c.QueryRow(ctx, "select coalesce(max(version_id), 0) from goose_db_version where is_applied").Scan(&schema)
	switch {
	case err != nil:
		out = append(out, Finding{"version", Mind, "the database holds no Clear Jar yet", "clearjar serve makes its tables."})
	case schema > newest:
		out = append(out, Finding{"version", Bad, fmt.Sprintf("the tables are of a newer Clear Jar (%d) than this one (%d)", schema, newest), "Install the newer one again; an older one must not write there."})
	case schema < newest:
		out = append(out, Finding{"version", Mind, fmt.Sprintf("the tables are of an older Clear Jar (%d of %d)", schema, newest), "clearjar serve brings them up to date at its next start. Make a backup before."})
	default:
		out = append(out, Finding{"version", Good, fmt.Sprintf("the tables are as this Clear Jar wants them (%d)", schema), ""})
	}
	if folder != "" {
		out = append(out, room("disk, data", folder))
	}
	return out
}

func tools() Finding {
	for _, name := range []string{"pg_dump", "pg_restore", "psql"} {
		if _, err := Tool(name); err != nil {
			return Finding{"programs", Bad, err.Error(), "Without it there are no backups: apt install postgresql-client."}
		}
	}
	return Finding{"programs", Good, "PostgreSQL's programs for backups are here", ""}
}

// room is how much of a disk is free. One that is not told cannot be looked at.
func room(what, folder string) Finding {
	if folder == "" {
		return Finding{what, Mind, "no folder for nightly copies is set", "Name one with --backup-folder, on another disk where there is one."}
	}
	var s syscall.Statfs_t
	at := folder
	err := syscall.Statfs(at, &s)
	for errors.Is(err, fs.ErrNotExist) && at != filepath.Dir(at) {
		at = filepath.Dir(at)
		err = syscall.Statfs(at, &s)
	}
	if err != nil {
		return Finding{what, Mind, fmt.Sprintf("%s cannot be looked at: %v", folder, err), ""}
	}
	free := s.Bavail * uint64(s.Bsize) //nolint:gosec // a size of a disk
	says := fmt.Sprintf("%.1f GB free where %s stands", float64(free)/1e9, folder)
	switch {
	case free < noRoom:
		return Finding{what, Bad, says, "Make room now: facts and photos are soon refused."}
	case free < littleRoom:
		return Finding{what, Mind, says, "Make room soon: keep fewer copies, or move them."}
	}
	return Finding{what, Good, says, ""}
}

func certificate(p Patient) Finding {
	const what = "certificate"
	if p.Way.Listen == "" {
		p.Way.Listen = "127.0.0.1:8420"
	}
	if p.Way.CertFile == "" && p.Way.Authority == "" {
		if loopback, err := wayin.IsLoopback(p.Way.Listen); err == nil && loopback {
			return Finding{what, Good, "none is needed: only this machine reaches it", ""}
		}
	}
	way, err := wayin.Open(p.Way, true, p.Now)
	if err != nil {
		return Finding{what, Bad, err.Error(), ""}
	}
	c, err := way.Certificate()
	if err != nil {
		return Finding{what, Bad, err.Error(), ""}
	}
	until := c.Leaf.NotAfter
	if way.Ours != nil {
		until = way.Ours.Cert.NotAfter
	}
	left := until.Sub(p.Now())
	says := "holds until " + until.Format("2 Jan 2006")
	switch {
	case left < 0:
		return Finding{what, Bad, "ran out on " + until.Format("2 Jan 2006"), "Renew it; no phone comes in until then."}
	case left < soon && way.Ours == nil:
		return Finding{what, Mind, says, "Renew it: it is read anew by itself when its file changes."}
	case left < 365*24*time.Hour && way.Ours != nil:
		return Finding{what, Mind, "the authority of this household " + says, "Plan a new one: each phone has to trust it once."}
	}
	return Finding{what, Good, says, ""}
}

func copies(p Patient) Finding {
	const what = "backup"
	if p.Copies == "" {
		return Finding{what, Bad, "no nightly copies are made", "Name a folder with --backup-folder. Until then: clearjar backup FILE."}
	}
	all, err := Copies(p.Copies)
	if err != nil {
		return Finding{what, Bad, err.Error(), ""}
	}
	if len(all) == 0 {
		return Finding{what, Bad, "there is no copy in " + p.Copies, "The first is made within the hour of a start; see the log when it is not."}
	}
	age := p.Now().Sub(all[0].MadeAt)
	says := fmt.Sprintf("%d copies, the newest of %s, %.1f MB", len(all), all[0].MadeAt.Local().Format("2 Jan 2006, 15:04"), float64(all[0].Bytes)/1e6)
	if age > oldCopy {
		return Finding{what, Bad, says, "It is days old: see the log for why none was made since."}
	}
	if age < -clockOff {
		return Finding{what, Bad, says, "It lies in the future: look at the clock of this machine."}
	}
	return Finding{what, Good, says, "Try one now and then: clearjar restore into an empty database."}
}
