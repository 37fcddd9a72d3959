package household

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"clearjar/core/plant"
	"clearjar/store"
	"clearjar/store/storetest"
)

func TestPassphrasesAreJudgedAndHashed(t *testing.T) {
	t.Parallel()
	d := At(nil, time.Now)
	hash, err := d.newPassphrase(t.Context(), "passphrase", "lantern gravel otter seventeen", "Ada")
	require.NoError(t, err)
	// published: OWASP Password Storage Cheat Sheet, Argon2id m=19456 t=2 p=1 (from memory); the form is that of PHC strings.
	require.True(t, strings.HasPrefix(hash, "$argon2id$v=19$m=19456,t=2,p=1$"), hash)
	again, err := d.newPassphrase(t.Context(), "passphrase", "lantern gravel otter seventeen", "Ada")
	require.NoError(t, err)
	require.NotEqual(t, hash, again, "each has a salt of its own")
	for typed, same := range map[string]bool{"lantern gravel otter seventeen": true, "Lantern gravel otter seventeen": false, "lantern gravel otter seventeen ": false, "": false} {
		got, err := d.matches(t.Context(), typed, hash)
		require.NoError(t, err)
		require.Equal(t, same, got, typed)
	}
	// published: RFC 8265, 4.2.1: other spaces are spaces, and letters are composed: é typed as e and an accent is é.
	hash, err = d.newPassphrase(t.Context(), "passphrase", "café lantern gravel otter")
	require.NoError(t, err)
	same, err := d.matches(t.Context(), "cafe\u0301 lantern\u00a0gravel otter", hash)
	require.NoError(t, err)
	require.True(t, same)
	for _, bad := range []string{"", "short", "aaaaaaaaaaaaaaaa", "passwordpassword", "adaadaadaada", "qwertyuiop12", "clearjarclearjar", strings.Repeat("x", 129), "tab\there is a long one", "bad\xffbytes and many more"} {
		_, err := d.newPassphrase(t.Context(), "passphrase", bad, "Ada", "ada")
		require.NotEmpty(t, plant.Refusals(err), "%q", bad)
	}
	// Long ones are taken quickly: how easily they are guessed is judged by their beginning.
	began := time.Now()
	_, err = d.newPassphrase(t.Context(), "passphrase", strings.Repeat("lantern gravel otter ", 6))
	require.NoError(t, err)
	require.Less(t, time.Since(began), 5*time.Second)
}

func TestNamesToSignIn(t *testing.T) {
	t.Parallel()
	for typed, is := range map[string]string{"Ada": "ada", " ÉLISE ": "élise", "a.b-c_9": "a.b-c_9"} {
		got, err := signInName(typed)
		require.NoError(t, err, typed)
		require.Equal(t, is, got)
	}
	for _, bad := range []string{"", "a", "two words", "nul\x00l", strings.Repeat("a", 41), "a\u200bb"} {
		_, err := signInName(bad)
		require.Error(t, err, "%q", bad)
	}
}

// Codes can be typed as they are read, and no two are alike.
func TestCodesCanBeTyped(t *testing.T) {
	t.Parallel()
	seen := map[string]bool{}
	for range 2000 {
		code := newCode()
		require.Regexp(t, `^[0-9A-HJKMNP-TV-Z]{4}(-[0-9A-HJKMNP-TV-Z]{4}){3}$`, code)
		require.False(t, seen[code])
		seen[code] = true
		for _, typed := range []string{strings.ToLower(code), strings.ReplaceAll(code, "-", " "), strings.ReplaceAll(strings.ReplaceAll(code, "0", "o"), "1", "l")} {
			require.Equal(t, digestOf(byCode, code), digestOf(byCode, typed))
		}
		require.NotEqual(t, digestOf(byCode, code), digestOf("recovery", code), "a code of one kind opens nothing of another")
	}
}

// BenchmarkSignIn is twenty people who sign in at once: the time each waits, and the memory it takes in all.
func BenchmarkSignIn(b *testing.B) {
	s, err := store.Open(context.Background(), storetest.URL(b))
	require.NoError(b, err)
	b.Cleanup(s.Close)
	// The clock runs fast: what is measured is not the limits.
	var ticks atomic.Int64
	d := At(s, func() time.Time { return time.Now().Add(time.Duration(ticks.Add(1)) * time.Minute) })
	ctx := store.As(context.Background(), store.First)
	for i := range 20 {
		_, err := d.AddMember(ctx, "Member", fmt.Sprintf("member%d", i), Helper, "lantern gravel otter seventeen")
		require.NoError(b, err)
	}
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	var longest atomic.Int64
	b.ResetTimer()
	for range b.N {
		var wg sync.WaitGroup
		errs := make([]error, 20)
		for i := range 20 {
			wg.Go(func() {
				began := time.Now()
				_, errs[i] = d.Passphrase(context.Background(), fmt.Sprintf("member%d", i), "lantern gravel otter seventeen", "Bench", fmt.Sprint(i))
				longest.Store(max(longest.Load(), int64(time.Since(began))))
			})
		}
		wg.Wait()
		require.NoError(b, errors.Join(errs...))
	}
	runtime.ReadMemStats(&after)
	b.ReportMetric(float64(longest.Load())/1e6, "ms-longest")
	b.ReportMetric(float64(after.Sys)/1e6, "MB-from-system")
}
