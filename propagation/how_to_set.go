package propagation

import (
	"context"

	"github.com/google/uuid"

	"clearjar/core/plant"
)

// HowToSet says how this piece is set in a kind of vessel.
func (g *Garden) HowToSet(ctx context.Context, cuttingID uuid.UUID, in plant.VesselKind) (plant.HowTo, error) {
	c, err := g.cuttingView(ctx, cuttingID)
	if err != nil {
		return plant.HowTo{}, err
	}
	group, _ := plant.GroupNamed(c.GroupKey)
	return plant.HowToSet(group, c.Kind, c.form, in)
}
