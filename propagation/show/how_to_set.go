package show

import (
	"context"

	"github.com/google/uuid"

	"clearjar/core/plant"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
)

// HowToSet says how this piece is set in a medium.
func HowToSet(ctx context.Context, g *propagation.Garden, cuttingID uuid.UUID, in plant.Medium) (plant.HowTo, error) {
	l, err := conclude.OneLife(ctx, g, cuttingID)
	if err != nil {
		return plant.HowTo{}, err
	}
	return plant.HowToSet(l.Group, l.Kind, l.Form, in)
}
