// Package propagation holds the use cases of the work: each loads facts, asks the core, and saves, in one
// transaction. Here is what they share: the garden they work on, whose days and seasons, and its numbers.
//
// Arrows go down only: work, files, paper; show; door; bench; conclude, photo; and this package below them all.
//
// Writes carry an id made where the fact was made (UUIDv7). Writing the same fact twice is the same as
// once: the second write gives back what the first one kept.
package propagation

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Garden is one grower's collection.
type Garden struct {
	Store *store.Store
	// Now gives the time.
	Now func() time.Time
	// Zone is the grower's own: days begin and end in it; Southern decides which half of the year is dark.
	Zone     *time.Location
	Southern bool

	// inUse holds the numbers once they were asked for, while one question is answered; nil inside a transaction.
	inUse *inUse
}

// New opens a garden on a store. now gives the time, zone the days of a household that chose none.
func New(s *store.Store, now func() time.Time, zone *time.Location) *Garden {
	return &Garden{Store: s, Now: now, Zone: zone}
}

// Today is the current instant in the grower's zone.
func (g *Garden) Today() time.Time { return g.Now().In(g.Zone) }

// In runs work in one transaction: all of it is kept, or none. The garden that work gets sees the
// transaction; inside one it is part of that one, and no second connection is taken.
func (g *Garden) In(ctx context.Context, work func(g *Garden) error) error {
	if g.inUse != nil {
		defer func() { *g.inUse = inUse{} }() // work may have changed them
	}
	return g.Store.InTx(ctx, func(q *sqlgen.Queries) error {
		inside := *g
		inside.Store, inside.inUse = g.Store.In(q), nil
		return work(&inside)
	})
}

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

// Missing gives an error of the store as a [MissingError] when it says that a row is not there.
func Missing(err error, what string) error {
	if store.IsMissing(err) {
		return MissingError{what}
	}
	return err
}

// CheckID refuses an id that was not made where the fact was made.
func CheckID(field string, id uuid.UUID) error {
	if id.Version() != 7 {
		return plant.Refuse(field, "must be a UUID of version 7, made where the fact was made")
	}
	return nil
}

// Slack is how far a device's clock may run ahead.
const Slack = 26 * time.Hour

// CheckDay refuses a day in the future or before the earliest possible one.
func (g *Garden) CheckDay(field string, day, earliest time.Time, than string) error {
	switch {
	case day.IsZero():
		return plant.Refuse(field, "a date is needed")
	case day.After(g.Now().Add(Slack)):
		return plant.Refuse(field, "%s lies in the future", day.In(g.Zone).Format("2 Jan 2006"))
	case plant.Days(earliest.In(g.Zone), day.In(g.Zone)) < 0:
		return plant.Refuse(field, "%s is before %s on %s", day.In(g.Zone).Format("2 Jan 2006"), than, earliest.In(g.Zone).Format("2 Jan 2006"))
	}
	return nil
}

// For is the garden of the household that the context is for: its days, its seasons.
func (g *Garden) For(ctx context.Context) (*Garden, error) {
	row, err := g.Store.HouseholdNow(ctx)
	if err != nil {
		return nil, Missing(err, "This household")
	}
	mine := *g
	mine.Southern, mine.inUse = row.Southern, &inUse{}
	if row.TimeZone != "" {
		if mine.Zone, err = time.LoadLocation(row.TimeZone); err != nil {
			return nil, err
		}
	}
	return &mine, nil
}

// EarliestRecord is before any record.
var EarliestRecord = time.Date(1990, 1, 1, 0, 0, 0, 0, time.UTC)
