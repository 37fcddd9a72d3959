package propagation

import (
	"context"

	"github.com/google/uuid"

	"clearjar/core/plant"
)

// HowToSet says how this piece is set in a kind of vessel.
func (g *Garden) HowToSet(ctx context.Context, cuttingID uuid.UUID, in plant.VesselKind) (plant.HowTo, error) {
	l, err := g.oneLife(ctx, cuttingID)
	if err != nil {
		return plant.HowTo{}, err
	}
	return plant.HowToSet(l.Group, l.Kind, l.Form, in)
}
