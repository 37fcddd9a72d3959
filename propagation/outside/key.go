// Package outside lets devices and services in that are not the grower's own hands: sensors that post readings, a
// calendar that reads what is due. Each has a key of its own, of which only a digest is kept, and which can be revoked.
package outside

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"strings"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store"
	"clearjar/store/sqlgen"
)

// What a key opens.
const (
	Sensor   = "sensor"
	Calendar = "calendar"
)

// NewKey asks for a key.
type NewKey struct {
	ID   uuid.UUID `json:"id"`
	What string    `json:"what" enum:"sensor,calendar"`
	Name string    `json:"name" maxLength:"400"`
	// PlaceID is where a sensor hangs.
	PlaceID *uuid.UUID `json:"place_id,omitempty"`
}

// OutsideKey is a key without its secret.
type OutsideKey struct {
	ID      uuid.UUID  `json:"id"`
	What    string     `json:"what" enum:"sensor,calendar"`
	Name    string     `json:"name"`
	PlaceID *uuid.UUID `json:"place_id,omitempty"`
	MadeAt  time.Time  `json:"made_at"`
	// EndedAt is when it was revoked; left out while it opens.
	EndedAt *time.Time `json:"ended_at,omitempty"`
}

// MadeKey is a new key with its secret, which is said once.
type MadeKey struct {
	OutsideKey
	Secret string `json:"secret"`
}

func keyOf(r sqlgen.OutsideKey) OutsideKey {
	return OutsideKey{r.ID, r.What, r.Name, r.PlaceID, r.MadeAt, r.EndedAt}
}

// most keys of one kind a household may hold at a time.
const mostKeys = 100

// secretBytes of randomness; the household stands before them, so that a key says whose rows it opens.
const secretBytes = 24

func digest(secret string) []byte {
	sum := sha256.Sum256([]byte(secret))
	return sum[:]
}

// Make makes a key. It is made once: a second time with the same id is refused, since its secret is not known any more.
func Make(ctx context.Context, g *propagation.Garden, n NewKey) (MadeKey, error) {
	n.Name = strings.TrimSpace(n.Name)
	if err := n.check(); err != nil {
		return MadeKey{}, err
	}
	row, err := g.Store.HouseholdNow(ctx)
	if err != nil {
		return MadeKey{}, propagation.Missing(err, "This household")
	}
	raw := append(row.ID[:], make([]byte, secretBytes)...)
	if _, err := rand.Read(raw[len(row.ID):]); err != nil {
		return MadeKey{}, err
	}
	made := MadeKey{OutsideKey{n.ID, n.What, n.Name, n.PlaceID, g.Now(), nil}, base64.RawURLEncoding.EncodeToString(raw)}
	err = g.In(ctx, func(g *propagation.Garden) error {
		open := 0
		keys, err := Keys(ctx, g, n.What)
		if err != nil {
			return err
		}
		for _, k := range keys {
			if k.EndedAt == nil {
				open++
			}
		}
		if open >= mostKeys {
			return plant.Refuse("name", "%d at most are open at a time: revoke one first", mostKeys)
		}
		added, err := g.Store.AddOutsideKey(ctx, sqlgen.AddOutsideKeyParams{
			ID: n.ID, What: n.What, Name: n.Name, PlaceID: n.PlaceID, Digest: digest(made.Secret), MadeAt: made.MadeAt,
		})
		if store.BrokenRule(err) == "outside_key_place_id_household_id_fkey" {
			return plant.Refuse("place_id", "this shelf is not here")
		}
		if err == nil && added == 0 {
			return propagation.ConflictError{Reason: "This key was made already, and its secret is said only once: make another."}
		}
		return err
	})
	if err != nil {
		return MadeKey{}, err
	}
	return made, nil
}

func (n NewKey) check() error {
	var all []error
	if err := propagation.CheckID("id", n.ID); err != nil {
		all = append(all, err)
	}
	if len([]rune(n.Name)) < 1 || len([]rune(n.Name)) > 100 {
		all = append(all, plant.Refuse("name", "1 to 100 characters"))
	}
	if n.What == Sensor && n.PlaceID == nil {
		all = append(all, plant.Refuse("place_id", "on which shelf does it hang?"))
	}
	if n.What == Calendar && n.PlaceID != nil {
		all = append(all, plant.Refuse("place_id", "a calendar hangs nowhere"))
	}
	return errors.Join(all...)
}

// Keys are the keys of a kind, those that open first, the newest first.
func Keys(ctx context.Context, g *propagation.Garden, what string) ([]OutsideKey, error) {
	rows, err := g.Store.OutsideKeys(ctx, what)
	if err != nil {
		return nil, err
	}
	out := make([]OutsideKey, len(rows))
	for i, r := range rows {
		out[i] = keyOf(r)
	}
	return out, nil
}

// Revoke ends a key: from now on it opens nothing. Twice is once.
func Revoke(ctx context.Context, g *propagation.Garden, id uuid.UUID) (OutsideKey, error) {
	if err := g.Store.EndOutsideKey(ctx, sqlgen.EndOutsideKeyParams{ID: id, At: g.Now()}); err != nil {
		return OutsideKey{}, err
	}
	r, err := g.Store.OutsideKeyByID(ctx, id)
	if err != nil {
		return OutsideKey{}, propagation.Missing(err, "This key")
	}
	return keyOf(r), nil
}

// LockedError says that a secret opens nothing: it is not known, or it was revoked.
type LockedError struct{ Revoked bool }

func (e LockedError) Error() string {
	if e.Revoked {
		return "This key was revoked: it opens nothing any more. Make a new one in Clear Jar."
	}
	return "This key is not known here. Make one in Clear Jar."
}

// Open finds the key of a secret, whatever household it is of; the context it gives is that household's.
func Open(ctx context.Context, g *propagation.Garden, what, secret string) (context.Context, OutsideKey, error) {
	raw, err := base64.RawURLEncoding.DecodeString(secret)
	if err != nil || len(raw) != len(uuid.UUID{})+secretBytes {
		return ctx, OutsideKey{}, LockedError{}
	}
	own := store.As(ctx, uuid.UUID(raw[:len(uuid.UUID{})]))
	r, err := g.Store.OutsideKeyByDigest(own, sqlgen.OutsideKeyByDigestParams{Digest: digest(secret), What: what})
	if store.IsMissing(err) {
		return ctx, OutsideKey{}, LockedError{}
	}
	if err != nil {
		return ctx, OutsideKey{}, err
	}
	if r.EndedAt != nil {
		return ctx, OutsideKey{}, LockedError{Revoked: true}
	}
	return own, keyOf(r), nil
}

// memory is how far back a sensor may remember when it gets its key: it may have hung there before.
const memory = 31 * 24 * time.Hour

// Earliest is the time before which nothing a sensor says can be true.
func (k OutsideKey) Earliest() time.Time { return k.MadeAt.Add(-memory) }

// SensorNamed is the key of a sensor, whether it still opens or not.
func SensorNamed(ctx context.Context, g *propagation.Garden, id uuid.UUID) (OutsideKey, error) {
	r, err := g.Store.OutsideKeyByID(ctx, id)
	if err != nil || r.What != Sensor {
		if err == nil {
			err = store.ErrMissing
		}
		return OutsideKey{}, propagation.Missing(err, "This sensor")
	}
	return keyOf(r), nil
}
