package show

import (
	"context"

	"github.com/google/uuid"

	"clearjar/core/potting"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
)

// PotFor suggests the pot, mix and volume for a cutting.
func PotFor(ctx context.Context, g *propagation.Garden, cuttingID uuid.UUID) (potting.Advice, error) {
	l, err := conclude.OneLife(ctx, g, cuttingID)
	if err != nil {
		return potting.Advice{}, err
	}
	return potting.Suggest(l.Numbers, l.Group, l.Kind, l.Facts().LongestMM)
}
