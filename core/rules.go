// Package core holds the rules and the arithmetic of the job. Rules names the version of those that
// verdicts and forecasts rest on.
package core

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"io/fs"
	"strings"
)

//go:embed number/*.go plant/*.go life/*.go growth/*.go readiness/*.go scenario/*.go learn/*.go stats/*.go cutplan/*.go rootphoto/*.go
var sources embed.FS

//go:embed rootphoto/*.go
var measuring embed.FS

// Rules is the version of the rules: a digest of their own text, so that no change of them is forgotten.
// What was concluded under another version no longer holds.
var Rules = digest(sources)

// Measuring is the version of the measuring: lengths worked out by another one are worked out anew.
var Measuring = digest(measuring)

func digest(files fs.FS) string {
	sum := sha256.New()
	_ = fs.WalkDir(files, ".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.HasSuffix(path, "_test.go") {
			return err
		}
		text, err := fs.ReadFile(files, path)
		sum.Write([]byte(path))
		sum.Write(text)
		return err
	})
	return hex.EncodeToString(sum.Sum(nil))[:16]
}
