package keeping

import (
	"context"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// Names of nightly copies: the instant they were begun, in UTC.
const (
	copyPrefix = "clearjar-"
	copySuffix = ".backup.zip"
	copyTime   = "2006-01-02T150405Z"
)

// Copy is a nightly copy.
type Copy struct {
	File   string
	MadeAt time.Time
	Bytes  int64
}

// Copies are the nightly copies in a folder, the newest first. Other files are none of ours.
func Copies(folder string) ([]Copy, error) {
	all, err := os.ReadDir(folder)
	if os.IsNotExist(err) {
		return nil, nil
	}
	var out []Copy
	for _, f := range all {
		text, ours := strings.CutPrefix(f.Name(), copyPrefix)
		text, whole := strings.CutSuffix(text, copySuffix)
		at, failed := time.Parse(copyTime, text)
		info, gone := f.Info()
		if ours && whole && failed == nil && gone == nil {
			out = append(out, Copy{filepath.Join(folder, f.Name()), at, info.Size()})
		}
	}
	slices.SortFunc(out, func(a, b Copy) int { return b.MadeAt.Compare(a.MadeAt) })
	return out, err
}

// every is how old the newest copy may be before another is made.
const every = 23 * time.Hour

// Nightly makes a copy when the newest is a day old, and keeps so many. It gives the file it made, or none.
func Nightly(ctx context.Context, url, folder string, keep int, now func() time.Time) (string, error) {
	copies, err := Copies(folder)
	if err != nil {
		return "", err
	}
	// One that lies ahead was made while the clock was wrong: it does not stand for today's.
	for _, c := range copies {
		if age := now().Sub(c.MadeAt); age > -time.Minute && age < every {
			return "", nil
		}
	}
	file := filepath.Join(folder, copyPrefix+now().UTC().Format(copyTime)+copySuffix)
	if _, err := Backup(ctx, url, file, now); err != nil {
		return "", err
	}
	// Old ones go only after the new one was read back.
	if copies, err = Copies(folder); err != nil {
		return file, err
	}
	for _, old := range copies[min(len(copies), max(1, keep)):] {
		if err := os.Remove(old.File); err != nil {
			return file, err
		}
	}
	return file, nil
}
