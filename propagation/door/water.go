package door

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/propagation"
	"clearjar/store/sqlgen"
)

// Watering is the fact that a mother was watered generously.
type Watering struct {
	ID        uuid.UUID `json:"id"`
	MotherID  uuid.UUID `json:"mother_id"`
	WateredOn time.Time `json:"watered_on"`
}

func (w Watering) named() named { return named{w.ID, "watering", w.MotherID} }

func (w Watering) write(ctx context.Context, g *Entry) error {
	if err := g.CheckDay("watered_on", w.WateredOn, propagation.EarliestRecord, "any record"); err != nil {
		return err
	}
	if err := g.lockMother(ctx, w.MotherID); err != nil {
		return err
	}
	_, err := g.Store.AddWatering(ctx, sqlgen.AddWateringParams{ID: w.ID, MotherID: w.MotherID, WateredOn: w.WateredOn})
	return err
}
