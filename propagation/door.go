package propagation

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"

	"clearjar/store/sqlgen"
)

// fact is what the door knows of a fact.
type fact struct {
	ID   uuid.UUID
	Kind string
	// About is what it speaks of: a cutting, a vessel, a mother.
	About   uuid.UUID
	Content any
}

// In runs work in one transaction: all of it is kept, or none. The garden that work gets sees the
// transaction; inside one it is part of that one, and no second connection is taken.
func (g *Garden) In(ctx context.Context, work func(g *Garden) error) error {
	return g.store.InTx(ctx, func(q *sqlgen.Queries) error {
		return work(&Garden{g.store.In(q), g.now, g.zone})
	})
}

// keep is the one door for facts: it writes the fact's row and what work writes, in one transaction.
//
// Its id is looked up before any rule that later facts could have changed: the same fact again is the
// same fact, whatever happened since. The same id with other content is refused as a conflict that
// carries both. Two at once of one id wait for each other.
func (g *Garden) keep(ctx context.Context, f fact, work func(g *Garden) error) error {
	if err := checkID("id", f.ID); err != nil {
		return err
	}
	content, err := json.Marshal(f.Content)
	if err != nil {
		return err
	}
	digest := sha256.Sum256(append([]byte(f.Kind+"\n"), content...))
	var about *uuid.UUID
	if f.About != uuid.Nil {
		about = &f.About
	}
	return g.In(ctx, func(g *Garden) error {
		added, err := g.store.AddFact(ctx, sqlgen.AddFactParams{ID: f.ID, Kind: f.Kind, About: about, MadeAt: madeAt(f.ID), Digest: digest[:], Content: content})
		if err != nil {
			return err
		}
		if added > 0 {
			return work(g)
		}
		had, err := g.store.FactByID(ctx, f.ID)
		if err != nil {
			return err
		}
		if bytes.Equal(had.Digest, digest[:]) {
			return nil
		}
		return ConflictError{
			Reason: fmt.Sprintf("Something else was kept under this id already, on %s. Both are shown; what was kept stands.", had.RecordedAt.In(g.zone).Format("2 Jan 2006, 15:04")),
			Theirs: had.Content, Yours: json.RawMessage(content),
		}
	})
}

// made is when a fact was made, and never later than now: a device's clock may run ahead.
func (g *Garden) made(id uuid.UUID) time.Time {
	if at, now := madeAt(id), g.now(); at.Before(now) {
		return at
	}
	return g.now()
}

// madeAt is when a fact was made where it was made: its id carries the time.
func madeAt(id uuid.UUID) time.Time {
	sec, nsec := id.Time().UnixTime()
	return time.Unix(sec, nsec).UTC()
}
