package household

import (
	"context"
	"fmt"
	"time"

	"clearjar/store"
	"clearjar/store/sqlgen"
)

// patience is how often something may be tried: so many at once, and then one each so often.
type patience struct {
	what   string
	atOnce int
	each   time.Duration
}

// assumption: a person mistypes a few times; a household sits behind one address.
var (
	ofAccount = patience{"account", 5, time.Minute}
	ofAddress = patience{"address", 60, 10 * time.Second}
	// Recovery codes are counted by themselves: somebody who tries passphrases does not lock the other way.
	ofRecovery = patience{"recovery", 5, time.Minute}
)

// TooOftenError says that something was tried too often, and when it may be tried again.
type TooOftenError struct{ After time.Duration }

func (e TooOftenError) Error() string {
	s := int(e.After.Round(time.Second) / time.Second)
	if s < 1 {
		s = 1
	}
	unit := "seconds"
	if s == 1 {
		unit = "second"
	}
	return fmt.Sprintf("Tried too often. Wait %d %s and try again.", s, unit)
}

// try takes one try of a word, or says when the next one is there. It is kept in the database: it outlives a restart,
// and counts for all processes together.
func (d *Door) try(ctx context.Context, p patience, word string) error {
	ctx = store.Nobody(ctx)
	now := d.now()
	cost, most := p.each.Seconds(), p.each.Seconds()*float64(p.atOnce)
	_, err := d.store.TryOnce(ctx, sqlgen.TryOnceParams{What: p.what, Word: word, Now: now, Cost: cost, Most: most})
	if !store.IsMissing(err) {
		return err
	}
	until, err := d.store.AttemptOf(ctx, sqlgen.AttemptOfParams{What: p.what, Word: word})
	if store.IsMissing(err) {
		return TooOftenError{p.each}
	}
	if err != nil {
		return err
	}
	return TooOftenError{until.Add(p.each - time.Duration(most*float64(time.Second))).Sub(now)}
}

// forget gives all tries of a word back, after the right one.
func (d *Door) forget(ctx context.Context, p patience, word string) error {
	return d.store.ForgetAttempts(store.Nobody(ctx), sqlgen.ForgetAttemptsParams{What: p.what, Word: word})
}

// Tidy throws away what no longer limits anybody.
func (d *Door) Tidy(ctx context.Context) error {
	return d.store.ForgetOldAttempts(store.Nobody(ctx), d.now())
}
