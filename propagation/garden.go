// Package propagation holds the use cases of the work, one a file, named as the
// grower would: each loads facts, asks the core, and saves, in one transaction.
//
// Writes carry an id made where the fact was made (UUIDv7). Writing the same fact
// twice is the same as once: the second write gives back what the first one kept.
package propagation

import (
	"context"
	"crypto/sha256"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store"
)

// Garden is one grower's collection.
type Garden struct {
	store *store.Store
	now   func() time.Time
	// zone is the grower's own: days begin and end in it; southern decides which half of the year is dark.
	zone     *time.Location
	southern bool

	// Inside the door: when the fact that is being kept was decided, and what it touched so far.
	decided time.Time
	touched *Touched
}

// New opens a garden on a store. now gives the time, zone the days of a household that chose none.
func New(s *store.Store, now func() time.Time, zone *time.Location) *Garden {
	return &Garden{store: s, now: now, zone: zone, touched: &Touched{}}
}

// Today is the current instant in the grower's zone.
func (g *Garden) Today() time.Time { return g.now().In(g.zone) }

// MissingError says that something asked for is not there.
type MissingError struct{ What string }

func (e MissingError) Error() string { return e.What + " is not here" }

// ConflictError says that the world has changed since the grower looked, or that a
// thing can be done only once. Theirs is what stands now, when there is something to show.
type ConflictError struct {
	Reason string
	Theirs any
	// Yours is what was sent, when the two differ in content and both are to be shown.
	Yours any
}

func (e ConflictError) Error() string { return e.Reason }

// DiffersError says that the id of a fact was kept with other content already.
type DiffersError struct{ ConflictError }

// Unwrap gives it as the conflict it is.
func (e DiffersError) Unwrap() error { return e.ConflictError }

func missing(err error, what string) error {
	if store.IsMissing(err) {
		return MissingError{what}
	}
	return err
}

func checkID(field string, id uuid.UUID) error {
	if id.Version() != 7 {
		return plant.Refuse(field, "must be a UUID of version 7, made where the fact was made")
	}
	return nil
}

// slack is how far a device's clock may run ahead.
const slack = 26 * time.Hour

// checkDay refuses a day in the future or before the earliest possible one.
func (g *Garden) checkDay(field string, day, earliest time.Time, than string) error {
	switch {
	case day.IsZero():
		return plant.Refuse(field, "a date is needed")
	case day.After(g.now().Add(slack)):
		return plant.Refuse(field, "%s lies in the future", day.In(g.zone).Format("2 Jan 2006"))
	case plant.Days(earliest.In(g.zone), day.In(g.zone)) < 0:
		return plant.Refuse(field, "%s is before %s on %s", day.In(g.zone).Format("2 Jan 2006"), than, earliest.In(g.zone).Format("2 Jan 2006"))
	}
	return nil
}

// freeTag is a short tag that nothing has yet.
func (g *Garden) freeTag(ctx context.Context, id uuid.UUID) (string, error) {
	for try := range 50 {
		tag := shortTag(id, try)
		taken, err := g.store.TagTaken(ctx, tag)
		if err != nil || !taken {
			return tag, err
		}
	}
	return "", ConflictError{Reason: "No free tag was found. Nothing was kept; try again."}
}

// tagLetters has no letter or digit that is read for another.
const tagLetters = "23456789ABCDEFGHJKMNPQRTUVWXY"

// shortTag is the short id a tag shows, drawn from the id of the thing; try > 0 gives another.
func shortTag(id uuid.UUID, try int) string {
	sum := sha256.Sum256(fmt.Appendf(nil, "%s/%d", id, try))
	tag := make([]byte, 5)
	for i := range tag {
		tag[i] = tagLetters[int(sum[i])%len(tagLetters)]
	}
	return string(tag)
}
