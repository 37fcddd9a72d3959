// Package door is the one way in for facts: every kind is a type with its own file, which says what cannot be
// and what it writes. It is the only place that writes facts; photos come in by the package beside it.
package door

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// Fact is something that happened, as it was noted where it happened. Each kind has its own file; the
// door is the only way in for all of them.
type Fact interface {
	// named is its id, its kind, and what it is about.
	named() named
	// write refuses what cannot be, and writes the fact beside its kind's own table. It runs inside the
	// door's transaction, after the id was looked up.
	write(ctx context.Context, g *Entry) error
}

// Entry is a garden inside the door: a transaction in which one fact is kept.
type Entry struct {
	*propagation.Garden
	// decided is when the fact was decided; touched what it touched so far.
	decided time.Time
	touched *Touched
}

// named is what the door knows of a fact before it looks at what it says.
type named struct {
	id   uuid.UUID
	kind string
	// about is what it speaks of: a cutting, a vessel, a mother; nil when there is no one thing.
	about uuid.UUID
}

// Touched names what a fact changed, so that only that is asked for anew.
type Touched struct {
	Cuttings []uuid.UUID `json:"cuttings"`
	Vessels  []uuid.UUID `json:"vessels"`
	Places   []uuid.UUID `json:"places"`
	Mothers  []uuid.UUID `json:"mothers"`
	Stems    []uuid.UUID `json:"stems"`
	Plans    []uuid.UUID `json:"plans"`
	// Numbers says that a number of the job was changed, which everything rests on.
	Numbers bool `json:"numbers"`
	// Care says that a school of care was chosen, which all that is due rests on.
	Care bool `json:"care"`
}

// mark adds an id once.
func mark(list *[]uuid.UUID, ids ...uuid.UUID) {
	for _, id := range ids {
		if id != uuid.Nil && !slices.Contains(*list, id) {
			*list = append(*list, id)
		}
	}
}

// Keep is the one door for facts: it writes the fact's row and what its kind writes, in one
// transaction, and tells what that touched.
//
// Its id is looked up before any rule that later facts could have changed: the same fact again is the
// same fact, whatever happened since. The same id with other content is refused as a [DiffersError]
// that carries both. Two at once of one id wait for each other.
func Keep(ctx context.Context, g *propagation.Garden, f Fact) (touched Touched, same bool, err error) {
	n := f.named()
	if err := propagation.CheckID("id", n.id); err != nil {
		return Touched{}, false, err
	}
	content, err := json.Marshal(f)
	if err != nil {
		return Touched{}, false, err
	}
	digest := sha256.Sum256(append([]byte(n.kind+"\n"), content...))
	var about *uuid.UUID
	if n.about != uuid.Nil {
		about = &n.about
	}
	err = g.In(ctx, func(inside *propagation.Garden) error {
		g := &Entry{inside, made(inside, n.id), &touched}
		added, err := g.Store.AddFact(ctx, sqlgen.AddFactParams{ID: n.id, Kind: n.kind, About: about, MadeAt: g.decided, Digest: digest[:], Content: content})
		if err != nil {
			return err
		}
		if added > 0 {
			if err := f.write(ctx, g); err != nil {
				return err
			}
			return g.noteTouched(ctx, n.id, touched)
		}
		had, err := g.Store.FactByID(ctx, n.id)
		if err != nil {
			return err
		}
		if same = bytes.Equal(had.Digest, digest[:]); same {
			return json.Unmarshal(had.Touched, &touched)
		}
		return propagation.DiffersError{ConflictError: propagation.ConflictError{
			Reason: fmt.Sprintf("Something else was kept under this id already, on %s. Both are shown; what was kept stands.", had.RecordedAt.In(g.Zone).Format("2 Jan 2006, 15:04")),
			Theirs: had.Content, Yours: json.RawMessage(content),
		}}
	})
	return touched, same, err
}

// noteTouched keeps what a fact touched, and counts it on each cutting.
func (g *Entry) noteTouched(ctx context.Context, id uuid.UUID, t Touched) error {
	if len(t.Cuttings) > 0 {
		if err := g.Store.TouchCuttings(ctx, t.Cuttings); err != nil {
			return err
		}
	}
	text, err := json.Marshal(t)
	if err != nil {
		return err
	}
	return g.Store.FactTouched(ctx, sqlgen.FactTouchedParams{ID: id, Touched: text})
}

// made is when a fact was made, and never later than now: a device's clock may run ahead.
func made(g *propagation.Garden, id uuid.UUID) time.Time {
	if at, now := madeAt(id), g.Now(); at.Before(now) {
		return at
	}
	return g.Now()
}

// madeAt is when a fact was made where it was made: its id carries the time.
func madeAt(id uuid.UUID) time.Time {
	sec, nsec := id.Time().UnixTime()
	return time.Unix(sec, nsec).UTC()
}
