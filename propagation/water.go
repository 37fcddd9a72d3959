package propagation

import (
	"context"
	"time"

	"github.com/google/uuid"

	"clearjar/store"
	"clearjar/store/sqlgen"
)

// Watering is the fact that a mother was watered generously.
type Watering struct {
	ID        uuid.UUID `json:"id"`
	MotherID  uuid.UUID `json:"mother_id"`
	WateredOn time.Time `json:"watered_on"`
}

// Water notes that a mother was watered.
func (g *Garden) Water(ctx context.Context, w Watering) (Mother, error) {
	if err := checkID("id", w.ID); err != nil {
		return Mother{}, err
	}
	if err := g.checkDay("watered_on", w.WateredOn, earliestRecord, "any record"); err != nil {
		return Mother{}, err
	}
	_, err := g.store.AddWatering(ctx, sqlgen.AddWateringParams{ID: w.ID, MotherID: w.MotherID, WateredOn: w.WateredOn})
	if store.BrokenRule(err) == "watering_mother_id_fkey" {
		return Mother{}, MissingError{"This mother"}
	}
	if err != nil {
		return Mother{}, err
	}
	return g.MotherPage(ctx, w.MotherID)
}
