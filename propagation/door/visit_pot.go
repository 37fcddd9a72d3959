package door

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// PotVisit is the fact that somebody saw to a pot: what was due then in the weeks after potting is done. What was seen of a plant in it is
// a look at that plant.
type PotVisit struct {
	ID    uuid.UUID `json:"id"`
	PotID uuid.UUID `json:"pot_id"`
	At    time.Time `json:"at"`
	Note  string    `json:"note,omitempty" maxLength:"2000"`
}

func (v PotVisit) named() named { return named{v.ID, "pot_visit", v.PotID} }

func (v PotVisit) write(ctx context.Context, g *Entry) error {
	note, err := plant.CleanText("note", v.Note, 500)
	if err != nil {
		return err
	}
	pot, err := g.lockPot(ctx, v.PotID)
	if err != nil {
		return err
	}
	if err := g.CheckDay("at", v.At, pot.PottedOn, "it was potted"); err != nil {
		return err
	}
	_, err = g.Store.AddPotVisit(ctx, sqlgen.AddPotVisitParams{ID: v.ID, PotID: v.PotID, VisitedAt: v.At, Note: note, MadeAt: g.decided})
	return err
}

// lockPot locks all that stands in a pot, and gives the pot.
func (g *Entry) lockPot(ctx context.Context, id uuid.UUID) (sqlgen.Pot, error) {
	pot, err := g.Store.PotNow(ctx, id)
	if err != nil {
		return pot, propagation.Missing(err, "This pot")
	}
	in, err := g.Store.CuttingsOfPot(ctx, id)
	if err != nil {
		return pot, err
	}
	for _, p := range in {
		if _, err := g.lockCutting(ctx, p.CuttingID); err != nil {
			return pot, err
		}
	}
	mark(&g.touched.Places, pot.PlaceID)
	return pot, nil
}

// withdrawPotVisit takes a visit back.
func withdrawPotVisit(ctx context.Context, g *Entry, id uuid.UUID) (int64, error) {
	v, err := g.Store.PotVisitByID(ctx, id)
	if err != nil {
		return 0, err
	}
	if _, err := g.lockPot(ctx, v.PotID); err != nil {
		return 0, err
	}
	return g.Store.WithdrawPotVisit(ctx, id)
}
