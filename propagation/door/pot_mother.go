package door

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/core/potting"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// MotherPotting is the fact that a mother was potted on: into which pot, and how much of her roots came off.
type MotherPotting struct {
	ID       uuid.UUID   `json:"id"`
	MotherID uuid.UUID   `json:"mother_id"`
	PottedOn time.Time   `json:"potted_on"`
	Pot      potting.Pot `json:"pot"`
	// RootsOff is the share of her roots that came off, 0 to 1.
	RootsOff float64 `json:"roots_off,omitempty" minimum:"0" maximum:"1"`
	Note     string  `json:"note,omitempty" maxLength:"2000"`
}

func (p MotherPotting) named() named { return named{p.ID, "mother_potting", p.MotherID} }

func (p MotherPotting) write(ctx context.Context, g *Entry) error {
	if err := p.Pot.Check(); err != nil {
		return err
	}
	if !(p.RootsOff >= 0 && p.RootsOff <= 1) {
		return plant.Refuse("roots_off", "a share of 0 to 1")
	}
	note, err := plant.CleanText("note", p.Note, 500)
	if err != nil {
		return err
	}
	if err := g.CheckDay("potted_on", p.PottedOn, propagation.EarliestRecord, "any record"); err != nil {
		return err
	}
	if err := g.lockMother(ctx, p.MotherID); err != nil {
		return err
	}
	_, err = g.Store.AddMotherPot(ctx, sqlgen.AddMotherPotParams{ID: p.ID, MotherID: p.MotherID, PottedOn: p.PottedOn, Pot: p.Pot, RootsOff: p.RootsOff, Note: note, MadeAt: g.decided})
	return err
}

// withdrawMotherPot takes a potting of a mother back.
func withdrawMotherPot(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
	p, err := g.Store.MotherPotByID(ctx, id)
	if err != nil {
		return 0, err
	}
	if err := g.lockMother(ctx, p.MotherID); err != nil {
		return 0, err
	}
	return g.Store.WithdrawMotherPot(ctx, id)
}
