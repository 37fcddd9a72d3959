package household

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base32"
	"encoding/hex"
	"fmt"
	"strings"
	"sync"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"github.com/trustelem/zxcvbn"
	"golang.org/x/text/secure/precis"

	"clearjar/core/plant"
)

// argon is how passphrases are hashed. published: OWASP Password Storage Cheat Sheet, Argon2id with 19 MiB, two passes,
// one lane (from memory).
var argon = &argon2id.Params{Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// hashesAtOnce is how many passphrases are worked on at a time: 19 MiB each.
const hashesAtOnce = 2

// How long a passphrase may be, in characters. assumption: twelve, and no guessable ones, since a phrase is asked for.
const (
	leastPassphrase = 12
	mostPassphrase  = 128
	// judged is how much of it is looked at for how easily it is guessed: what is longer is not guessed.
	judged = 64
	// leastScore: 3 of 0 to 4, "safely unguessable" for an attack on what is kept. published: Wheeler, zxcvbn, 2016 (from memory).
	leastScore = 3
)

// asTyped brings a passphrase into the one form it is compared in. published: RFC 8265, OpaqueString.
func asTyped(field, passphrase string) (string, error) {
	if !utf8.ValidString(passphrase) || utf8.RuneCountInString(passphrase) > mostPassphrase {
		return "", plant.Refuse(field, "at most %d characters", mostPassphrase)
	}
	if passphrase == "" {
		return "", nil
	}
	out, err := precis.OpaqueString.String(passphrase)
	if err != nil {
		return "", plant.Refuse(field, "holds a character that cannot be typed everywhere: take it out")
	}
	return out, nil
}

// newPassphrase refuses one that is short or easily guessed, and gives its hash.
func (d *Door) newPassphrase(ctx context.Context, field, passphrase string, about ...string) (string, error) {
	typed, err := asTyped(field, passphrase)
	if err != nil {
		return "", err
	}
	if utf8.RuneCountInString(typed) < leastPassphrase {
		return "", plant.Refuse(field, "at least %d characters: four words that do not belong together are good", leastPassphrase)
	}
	first := typed
	if r := []rune(typed); len(r) > judged {
		first = string(r[:judged])
	}
	if zxcvbn.PasswordStrength(first, append(about, "clear jar", "clearjar", "cutting", "houseplant")).Score < leastScore {
		return "", plant.Refuse(field, "is easily guessed: take words that do not belong together, and not your name")
	}
	var hash string
	err = d.hashed(ctx, func() error {
		hash, err = argon2id.CreateHash(typed, argon)
		return err
	})
	return hash, err
}

// hashed does work that takes the memory of a hash, when its turn comes.
func (d *Door) hashed(ctx context.Context, work func() error) error {
	select {
	case d.hashing <- struct{}{}:
		defer func() { <-d.hashing }()
		return work()
	case <-ctx.Done():
		return ctx.Err()
	}
}

// nobodys is the hash that is compared with when there is no such member: the answer takes as long.
var nobodys = sync.OnceValues(func() (string, error) { return argon2id.CreateHash(newCode(), argon) })

// matches tells whether a passphrase is the one of a hash; it takes as long when there is no hash.
func (d *Door) matches(ctx context.Context, passphrase, hash string) (bool, error) {
	typed, err := asTyped("passphrase", passphrase)
	if err != nil {
		return false, err
	}
	known := hash != ""
	if !known {
		if hash, err = nobodys(); err != nil {
			return false, err
		}
	}
	var same bool
	err = d.hashed(ctx, func() error {
		same, err = argon2id.ComparePasswordAndHash(typed, hash)
		return err
	})
	return same && known, err
}

// How long names may be, in characters.
const (
	mostName        = 60
	leastSignInName = 2
	mostSignInName  = 40
)

func cleanName(field, name string, most int) (string, error) {
	name, err := plant.CleanText(field, name, most)
	if err != nil {
		return "", err
	}
	if name = strings.TrimSpace(name); name == "" {
		return "", plant.Refuse(field, "a name is needed")
	}
	return name, nil
}

// signInName brings the name somebody signs in with into its one form. published: RFC 8265, UsernameCaseMapped.
func signInName(name string) (string, error) {
	name = strings.TrimSpace(name)
	out, err := precis.UsernameCaseMapped.String(name)
	if n := utf8.RuneCountInString(name); err != nil || n < leastSignInName || n > mostSignInName {
		return "", plant.Refuse("sign_in_name", "%d to %d letters, digits or . - _, without spaces", leastSignInName, mostSignInName)
	}
	return out, nil
}

// letters of codes: none is taken for another. published: Crockford, Base32 (from memory).
var letters = base32.NewEncoding("0123456789ABCDEFGHJKMNPQRSTVWXYZ").WithPadding(base32.NoPadding)

// codeBytes of randomness in a code: eighty bits.
const codeBytes = 10

// newCode makes a code that can be typed: sixteen letters in fours.
func newCode() string {
	raw := make([]byte, codeBytes)
	_, _ = rand.Read(raw) // never fails, says crypto/rand
	s := letters.EncodeToString(raw)
	return fmt.Sprintf("%s-%s-%s-%s", s[:4], s[4:8], s[8:12], s[12:])
}

// digestOf is what is kept of a code, however it was typed.
func digestOf(purpose, code string) []byte {
	code = strings.NewReplacer("-", "", " ", "", "O", "0", "I", "1", "L", "1").Replace(strings.ToUpper(code))
	sum := sha256.Sum256([]byte(purpose + "\n" + code))
	return sum[:]
}

func wordOf(digest []byte) string { return hex.EncodeToString(digest) }
